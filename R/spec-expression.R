# Expressions in figure files. A text is parsed, its tree is checked against the
# operators and functions listed here and the columns of the table, and only then
# evaluated, in an environment that holds nothing else.

expression_functions <- function() {
  list(
    `+` = `+`, `-` = `-`, `*` = `*`, `/` = `/`, `^` = `^`, `%%` = `%%`, `%/%` = `%/%`, `(` = `(`,
    `==` = `==`, `!=` = `!=`, `<` = `<`, `>` = `>`, `<=` = `<=`, `>=` = `>=`, `!` = `!`, `&` = `&`, `|` = `|`,
    `%in%` = `%in%`, c = c,
    abs = abs, sign = sign, sqrt = sqrt, exp = exp, log = log, ln = ln, log10 = log10, log2 = log2, log1p = log1p,
    asinh = asinh, sinh = sinh,
    sin = sin, cos = cos, tan = tan, logit = logit, reverse = reverse, round = round, floor = floor,
    ceiling = ceiling, signif = signif,
    min = min, max = max, pmin = pmin, pmax = pmax, sum = sum, mean = mean, median = stats::median, sd = stats::sd,
    cumsum = cumsum, rank = rank,
    is.na = is.na, ifelse = ifelse, paste = paste, nchar = nchar, tolower = tolower, toupper = toupper,
    substr = substr, startsWith = startsWith, endsWith = endsWith,
    as.Date = function(x) as.Date(x), as_time = function(x) parse_iso(x, "UTC"),
    cut_into = cut_into, running_median = running_median, running_mean = running_mean, without_spikes = without_spikes
  )
}

expression_constants <- list(`TRUE` = TRUE, `FALSE` = FALSE, `NA` = NA, pi = pi, `Inf` = Inf)
longest_expression <- 1000

# The quosure of a text, checked. columns: names that it may use.
file_expression <- function(text, columns, at) {
  text <- string_at(text, at)
  if (nchar(text) > longest_expression) {
    abort_expression(at, text, paste0("It is longer than ", longest_expression, " characters."))
  }
  parsed <- tryCatch(parse(text = text, keep.source = FALSE), error = function(error) {
    abort_expression(
      at, text,
      paste0("It cannot be read: ", sub("^<text>:", "line ", strsplit(conditionMessage(error), "\n")[[1]][1]), ".")
    )
  })
  if (length(parsed) != 1) {
    abort_expression(at, text, paste0("One expression is expected; there are ", length(parsed), "."))
  }
  functions <- expression_functions()
  check_tree(parsed[[1]], columns, names(functions), at, text)
  rlang::new_quosure(parsed[[1]], list2env(c(functions, list(pi = pi)), parent = emptyenv()))
}

# Walks a tree: numbers, texts, constants, columns, and calls of listed functions.
check_tree <- function(tree, columns, functions, at, text) {
  if (missing(tree)) abort_expression(at, text, "An argument is empty.")
  if (is.numeric(tree) || is.character(tree) || is.logical(tree)) return(invisible())
  if (is.symbol(tree)) {
    name <- as.character(tree)
    if (name %in% c(columns, names(expression_constants))) return(invisible())
    abort_expression(at, text, paste0("\"", name, "\" is no column."), offer(name, columns, "column"))
  }
  if (!is.call(tree)) abort_expression(at, text, paste0("It holds ", describe_value(tree), "."))
  if (!is.symbol(tree[[1]]) || !as.character(tree[[1]]) %in% functions) abort_call(tree, functions, at, text)
  for (i in seq_along(tree)[-1]) check_tree(tree[[i]], columns, functions, at, text)
}

abort_call <- function(tree, functions, at, text) {
  name <- paste(deparse(tree[[1]], nlines = 1), collapse = "")
  near <- if (is.symbol(tree[[1]])) nearest_name(name, grep("^[a-z]", functions, value = TRUE))
  abort_expression(
    at, text,
    paste0(
      "The call ", paste(deparse(tree, nlines = 1, width.cutoff = 60)[1], collapse = ""), " is not allowed: `", name,
      "` is not among the functions of a figure file."
    ),
    if (!is.null(near)) c(i = paste0("Did you mean \"", near, "\"?")))
}

abort_expression <- function(at, text, why, hint = NULL) {
  shown <- if (nchar(text) > 80) paste0(substr(text, 1, 77), "...") else text
  abort_nelvat(
    "expression",
    c(paste0("At ", place_text_of(at), ": the expression \"", shown, "\" cannot be used."), x = why, hint),
    call = NULL
  )
}

# What stands on a channel: a column's name, an expression over columns, or the
# measures themselves.
channel_quo <- function(value, columns, at) {
  if (is.null(value)) return(rlang::quo(NULL))
  if (is.list(value) && identical(names(value), "measure")) {
    return(rlang::new_quosure(rlang::call2("measure", string_at(value$measure, c(at, "measure"))), topenv()))
  }
  if (identical(value, "measure()")) return(rlang::new_quosure(quote(measure()), topenv()))
  texts <- unlist(value)
  if (!is.character(texts) || (is.list(value) && any(lengths(value) != 1))) {
    abort_figure(at, "Expected a column's name, or a list of them.", value)
  }
  quos <- lapply(texts, one_quo, columns = columns, at = at)
  if (length(quos) == 1) return(quos[[1]])
  # All parts of a list share the environment of allowed functions.
  rlang::new_quosure(
    rlang::call2("c", !!!lapply(quos, rlang::quo_get_expr)),
    rlang::quo_get_env(
      quos[[which.max(vapply(quos, function(quo) !identical(rlang::quo_get_env(quo), baseenv()), NA))]]
    )
  )
}

# A text that is a column's name, or could be no expression, is a column.
one_quo <- function(text, columns, at) {
  if (text %in% columns || grepl("^[[:alpha:].][[:alnum:]._]*$", text)) return(column_quo(text))
  file_expression(text, columns, at)
}
