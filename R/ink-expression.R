# Expressions in figure files. A text is parsed, its tree is checked against the
# operators and functions listed here and the columns of the table, and only then
# evaluated, in an environment that holds nothing else.

expression_functions <- function() {
  list(
    `+` = `+`,
    `-` = `-`,
    `*` = `*`,
    `/` = `/`,
    `^` = `^`,
    `%%` = `%%`,
    `%/%` = `%/%`,
    `(` = `(`,
    `==` = `==`,
    `!=` = `!=`,
    `<` = `<`,
    `>` = `>`,
    `<=` = `<=`,
    `>=` = `>=`,
    `!` = `!`,
    `&` = `&`,
    `|` = `|`,
    `%in%` = `%in%`,
    c = c,
    abs = abs,
    sign = sign,
    sqrt = sqrt,
    exp = exp,
    log = log,
    ln = ln,
    log10 = log10,
    log2 = log2,
    log1p = log1p,
    asinh = asinh,
    sinh = sinh,
    sin = sin,
    cos = cos,
    tan = tan,
    logit = logit,
    reverse = reverse,
    round = round,
    floor = floor,
    ceiling = ceiling,
    signif = signif,
    min = min,
    max = max,
    pmin = pmin,
    pmax = pmax,
    sum = sum,
    mean = mean,
    median = stats::median,
    sd = stats::sd,
    cumsum = cumsum,
    rank = rank,
    is.na = is.na,
    ifelse = ifelse,
    paste = paste,
    paste0 = paste0,
    nchar = nchar,
    tolower = tolower,
    toupper = toupper,
    substr = substr,
    startsWith = startsWith,
    endsWith = endsWith,
    as.Date = function(x) as.Date(x),
    as_time = function(x) parse_iso(x, "UTC"),
    interval_text = interval_text,
    cut_into = cut_into,
    in_bins = in_bins,
    running_median = running_median,
    running_mean = running_mean,
    without_spikes = without_spikes
  )
}

expression_constants <- list(`TRUE` = TRUE, `FALSE` = FALSE, `NA` = NA, pi = pi, `Inf` = Inf)
longest_expression <- 1000

# The quosure of a text, checked. columns: names that it may use; at: its place in a file, or the
# argument.
checked_expression <- function(text, columns, at) {
  if (nchar(text) > longest_expression) {
    abort_expression(at, text, paste0("It is longer than ", longest_expression, " characters."))
  }
  parsed <- tryCatch(parse(text = text, keep.source = FALSE), error = function(error) {
    abort_expression(
      at,
      text,
      paste0(
        "It cannot be read: ",
        sub("^<text>:", "line ", strsplit(conditionMessage(error), "\n")[[1]][1]),
        "."
      )
    )
  })
  if (length(parsed) != 1) {
    abort_expression(
      at,
      text,
      paste0("One expression is expected; there are ", length(parsed), ".")
    )
  }
  functions <- expression_functions()
  check_size(parsed[[1]], at, text)
  check_tree(parsed[[1]], columns, names(functions), at, text)
  rlang::new_quosure(parsed[[1]], list2env(c(functions, list(pi = pi)), parent = emptyenv()))
}

most_calls <- 200
deepest_calls <- 40

# The cost of an expression is bounded before it runs: so many calls, nested so deep.
check_size <- function(tree, at, text) {
  level <- list(tree)
  calls <- 0
  for (depth in 0:deepest_calls) {
    level <- Filter(is.call, level)
    calls <- calls + length(level)
    if (!length(level)) break
    level <- unlist(lapply(level, function(one) as.list(one)[-1]), recursive = FALSE)
  }
  if (length(Filter(is.call, level))) {
    abort_expression(at, text, paste0("Its calls are nested more than ", deepest_calls, " deep."))
  }
  if (calls > most_calls) {
    abort_expression(at, text, paste0("It has more than ", most_calls, " calls."))
  }
}

# Walks a tree: numbers, texts, constants, columns, and calls of listed functions.
check_tree <- function(tree, columns, functions, at, text) {
  if (missing(tree)) abort_expression(at, text, "An argument is empty.")
  if (is.numeric(tree) || is.character(tree) || is.logical(tree)) return(invisible())
  if (is.symbol(tree)) {
    name <- as.character(tree)
    if (name %in% c(columns, names(expression_constants))) return(invisible())
    abort_expression(
      at,
      text,
      paste0("\"", name, "\" is no column."),
      offer(name, columns, "column")
    )
  }
  if (!is.call(tree)) abort_expression(at, text, paste0("It holds ", describe_value(tree), "."))
  if (!is.symbol(tree[[1]]) || !as.character(tree[[1]]) %in% functions) {
    abort_call(tree, functions, at, text)
  }
  name <- as.character(tree[[1]])
  # `!!` is R's own for putting values in before an expression is read.
  if (name == "!" && is.call(tree[[2]]) && identical(tree[[2]][[1]], as.name("!"))) {
    abort_expression(at, text, "It says not twice, `!!`.")
  }
  # Texts of a whole column as one would grow without bound.
  if (name %in% c("paste", "paste0") && any(rlang::names2(as.list(tree)) == "collapse")) {
    abort_expression(at, text, paste0("`", name, "()` takes no `collapse` in a figure file."))
  }
  for (i in seq_along(tree)[-1]) check_tree(tree[[i]], columns, functions, at, text)
}

abort_call <- function(tree, functions, at, text) {
  name <- paste(deparse(tree[[1]], nlines = 1), collapse = "")
  near <- if (is.symbol(tree[[1]])) nearest_name(name, grep("^[a-z]", functions, value = TRUE))
  kind <- kind_calls[name]
  said <- c(vapply(as.list(tree)[-1], function(part) deparse(part)[1], ""), "COLUMN", "COLUMN")
  hint <- if (!is.na(kind)) {
    hint_for_file("a kind", "{column: ", said[1], ", kind: ", kind, "}")
  } else if (name == "reorder") {
    rule <- paste0("{by_statistic: ", said[2], "}")
    hint_for_file("an order", "order: {", said[1], ": ", rule, "}")
  } else if (!is.null(near)) {
    c(i = paste0("Did you mean \"", near, "\"?"))
  }
  abort_expression(
    at,
    text,
    paste0(
      "The call ",
      paste(deparse(tree, nlines = 1, width.cutoff = 60)[1], collapse = ""),
      " is not allowed: `",
      name,
      "` is not among the functions of a figure file."
    ),
    hint
  )
}

# Calls that say in R what a column means, and the kind that says it in a figure file.
hint_for_file <- function(what, ...) {
  c(i = paste0("In a figure file ", what, " is said so: ", ..., "."))
}

kind_calls <- c(
  factor = "category", as.factor = "category", category = "category",
  as.character = "category", ordered = "ordinal", as.ordered = "ordinal",
  ordinal = "ordinal", as.integer = "quantity",
  as.numeric = "quantity", quantity = "quantity", as.Date = "moment", moment = "moment"
)

abort_expression <- function(at, text, why, hint = NULL) {
  shown <- if (nchar(text) > 80) paste0(substr(text, 1, 77), "...") else text
  abort_nelvat(
    "expression",
    c(
      paste0("At ", place_text_of(at), ": the expression \"", shown, "\" cannot be used."),
      x = why,
      hint
    ),
    call = NULL,
    at = at
  )
}
