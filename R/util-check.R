# Checks of arguments, shared by all rooms; each speaks in the user's terms.

check_choice <- function(value, choices, argument, call = rlang::caller_env()) {
  if (rlang::is_string(value) && value %in% choices) return(value)
  expected <- paste0("`", argument, "` must be one of ", quoted(choices), ".")
  if (!rlang::is_string(value)) {
    abort_nelvat(
      "argument",
      c(expected, x = paste0("Found ", describe_value(value), ".")),
      call,
      argument = argument
    )
  }
  near <- nearest_name(value, choices)
  abort_nelvat(
    "argument",
    c(
      expected,
      x = paste0("Found \"", value, "\"."),
      i = if (!is.null(near)) paste0("Did you mean \"", near, "\"?")
    ),
    call,
    argument = argument,
    found = value
  )
}

check_number <- function(
  value,
  argument,
  least = -Inf,
  most = Inf,
  whole = FALSE,
  unit = NULL,
  or_null = FALSE,
  call = rlang::caller_env()
) {
  if (or_null && is.null(value)) return(NULL)
  right <- is.numeric(value) && length(value) == 1 && is.finite(value) &&
    value >= least && value <= most && (!whole || value == round(value))
  if (right) return(value)
  limits <- c(
    if (is.finite(least)) paste("at least", least),
    if (is.finite(most)) paste("at most", most)
  )
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        "` must be one ",
        if (whole) "whole ",
        "number",
        if (!is.null(unit)) paste0(" (", unit, ")"),
        if (length(limits)) paste0(", ", paste(limits, collapse = " and ")),
        "."
      ),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call,
    argument = argument,
    found = value
  )
}

check_string <- function(value, argument, or_null = FALSE, call = rlang::caller_env()) {
  if (or_null && is.null(value)) return(NULL)
  if (rlang::is_string(value)) {
    check_said_utf8(value, argument, call)
    return(value)
  }
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be one string."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call,
    argument = argument,
    found = value
  )
}

# Text of another encoding, or of none.
check_said_utf8 <- function(texts, argument, call) {
  texts <- as.character(texts)
  is_latin1 <- Encoding(texts) == "latin1"
  wrong <- which(!validUTF8(texts) & !is_latin1)
  if (!length(wrong)) return(invisible())
  abort_nelvat(
    "encoding",
    c(
      paste0("`", argument, "` is not in UTF-8."),
      x = paste0("Found \"", iconv(texts[wrong[1]], "latin1", "UTF-8"), "\", read as Latin-1."),
      i = "Convert it with iconv()."
    ),
    call,
    argument = argument
  )
}

check_flag <- function(value, argument, call = rlang::caller_env()) {
  if (rlang::is_bool(value)) return(value)
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be ", said_true_or_false(), "."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call,
    argument = argument,
    found = value
  )
}

# Names given in `...` that no argument bears; checked before the dots are evaluated,
# as what a misspelt argument names need not exist.
check_stray <- function(names, arguments, of, call = rlang::caller_env()) {
  stray <- setdiff(names, c("", NA))
  if (!length(stray)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`", of, "()` has no argument \"", stray[1], "\"."),
      hint_of_name(stray[1], arguments) %||% offer(stray[1], arguments, "argument")
    ),
    call,
    found = stray[1]
  )
}

# What a name that is none is called here: of before, or of the trade.
hint_of_name <- function(name, known) {
  now <- current_name(name, known)
  if (!is.null(now)) return(c(i = paste0("It is called `", now, "` now.")))
  here <- intersect(guessed_names[[tolower(name)]], known)
  if (length(here)) {
    c(i = paste0("It is called ", paste0("`", here, "`", collapse = " or "), " here."))
  }
}

# What the trade calls what has another name here, in the order of likelihood.
guessed_names <- list(
  legend = "key",
  caption = "note",
  title = c("heading", "title"),
  label = c("title", "heading", "letters"),
  labels = c("names", "letters", "title"),
  limits = "range",
  limit = "range",
  columns = c("across", "per_row", "columns"),
  rows = c("down", "rows"),
  by = c("across", "colour"),
  split = "across",
  groups = "colour",
  fill = "colour",
  transparency = "opacity",
  levels = "order",
  palette = c("colours", "colour"),
  method = c("model", "test", "method"),
  pairs = "between",
  comparisons = "between",
  against = "between",
  control = "between",
  reference = "between",
  correction = "adjust",
  position = c("arrange", "anchor", "key"),
  stacked = "arrange",
  statistic = c("centre", "error"),
  summary = c("centre"),
  ci = c("error", "band", "interval"),
  confidence = c("band", "interval", "level"),
  errors = "error",
  thickness = "weight",
  symbol = "shape",
  weights = "weigh_by",
  filter = "keep",
  subset = "keep",
  transform = "derive",
  margin = c("marginal", "depth"),
  ticks = c("every", "breaks"),
  step = "every",
  style = "house",
  layer = "ink",
  bin = c("bins", "width"),
  horizontal = "y",
  vertical = "x",
  panels = "across",
  units = "unit",
  at_risk = "numbers",
  risk = "numbers",
  log_rank = "test",
  hazard = "ratio",
  decimals = "format"
)

# Stops where a function was not given what it needs: formals without a default.
check_needed <- function(f, name, frame, may_lack = "...") {
  given <- formals(f)
  needed <- names(given)[vapply(given, identical, NA, quote(expr = ))]
  needed <- setdiff(needed, may_lack)
  lacking <- Filter(function(one) eval(call("missing", as.symbol(one)), frame), needed)
  if (!length(lacking)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`", name, "()` needs ", listed(paste0("`", needed, "`")), "."),
      x = paste0("`", lacking[1], "` is not given.")
    ),
    frame
  )
}

# Stops where a function was given more than its arguments, or less than it needs: to be called with
# its dots.
check_rest <- function(...) {
  check_needed(sys.function(-1), rlang::call_name(sys.call(-1)) %||% "function", parent.frame())
  if (!...length()) return(invisible())
  call <- rlang::caller_env()
  caller <- rlang::call_name(sys.call(-1)) %||% "function"
  arguments <- argument_names(sys.function(-1))
  check_stray(...names(), arguments, caller, call)
  abort_nelvat(
    "argument",
    c(
      paste0("`", caller, "()` takes ", counted(length(arguments), "argument"), "."),
      x = paste0("Found ", ...length(), " more."),
      i = paste0("They are ", quoted(arguments, 30), ".")
    ),
    call
  )
}

argument_names <- function(of) setdiff(names(formals(of)), "...")

# Words that were called something else before.
former_names <- list(
  alpha = "opacity",
  wrap = "per_row",
  share = "range_per",
  margin = "marginal",
  margin_size = "depth",
  margin_axis = "marginal_axis",
  size = "depth",
  coef = "whiskers",
  margins = "marginals"
)

# What a word of before is called now, where that is one of `known`.
current_name <- function(word, known) {
  now <- former_names[[word]]
  if (!is.null(now) && now %in% known) now
}

describe_value <- function(value) {
  if (is.null(value)) return(paste0("nothing (", said_null(), ")"))
  if (is.function(value)) return("a function")
  if (is.data.frame(value)) return(paste0("a data frame of ", counted(nrow(value), "row")))
  if (is.atomic(value) && length(value) == 1) {
    return(if (is.character(value)) paste0("\"", value, "\"") else format(value))
  }
  if (is.atomic(value)) {
    return(
      paste0(
        if (typeof(value) == "integer") "an " else "a ",
        typeof(value),
        " vector of length ",
        length(value)
      )
    )
  }
  paste0("an object of class ", paste(class(value), collapse = "/"))
}

check_is_plate <- function(plate, call) {
  if (inherits(plate, "nelvat_plate")) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "A plate is needed.",
      x = paste0("Found ", describe_value(plate), "."),
      i = "Make one with `plate(<block>, width = , height = )`."
    ),
    call
  )
}

need_package <- function(package, for_what, call) {
  if (requireNamespace(package, quietly = TRUE)) return(invisible())
  abort_nelvat(
    "package",
    c(
      paste0(for_what, " needs the package ", package, ", which is not installed."),
      i = paste0("Install it with install.packages(\"", package, "\").")
    ),
    call
  )
}

# A class of characters as Perl's expressions know it. Japanese and Korean are written in several
# scripts (ISO 15924).
script_class <- function(script) {
  parts <- switch(
    tolower(script),
    jpan = c("Han", "Hiragana", "Katakana"),
    kore = c("Hangul", "Han"),
    script
  )
  paste0("[", paste0("\\p{", parts, "}", collapse = ""), "]")
}
