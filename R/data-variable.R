# A variable is one column (or expression) as a panel uses it: values, ready to
# plot, and the kind that says what they mean. Quantities are numbers in the unit
# shown, moments seconds, categories whole-number codes into their levels.
#
# A call of a known transform of one column, such as log10(area), makes an axis of
# that transform: the variable is the column, and `transform` names the transform.

axis_transforms <- c(
  log10 = "log10", log2 = "log2", log = "ln", ln = "ln", sqrt = "sqrt", asinh = "asinh", logit = "logit",
  qlogis = "logit", reverse = "reverse")

new_variable <- function(id, kind, values, transform = "identity") {
  values <- switch(kind$kind,
    quantity = as.numeric(shown_values(values, kind)),
    moment = moment_seconds(values),
    match(as.character(values), kind$levels)
  )
  list(id = id, kind = kind, values = values, transform = transform)
}

# The variable a quosure names in a codebook, `argument` being what the user
# calls it in messages.
resolve_variable <- function(quo, book, argument, call) {
  column <- quo_column(quo)
  if (!is.null(column) && (column %in% names(book$data) || !is_outside_vector(quo, nrow(book$data)))) {
    check_column(column, book$data, book$label, call, asked_for(argument))
    return(new_variable(column, book$columns[[column]], book$data[[column]]))
  }
  expression <- rlang::quo_get_expr(quo)
  if (argument %in% c("x", "y", "columns", "rows") && rlang::is_call(expression, names(axis_transforms), n = 1)) {
    inner <- rlang::new_quosure(expression[[2]], rlang::quo_get_env(quo))
    return(transformed_variable(inner, axis_transforms[[rlang::call_name(expression)]], book, argument, call))
  }
  id <- rlang::as_label(expression)
  values <- evaluate_column(quo, book, argument, call)
  settled <- settle_kind(guess_kind(values), values, id, call = call)
  if (is.null(column)) settled$kind$name <- id
  new_variable(id, settled$kind, settled$values)
}

asked_for <- function(argument) paste0("It is asked for by `", argument, "`.")

transformed_variable <- function(inner, transform, book, argument, call) {
  variable <- resolve_variable(inner, book, argument, call)
  if (variable$kind$kind != "quantity" && !(transform == "reverse" && variable$kind$kind == "moment")) {
    abort_nelvat("kind", c(
      paste0("A transformed axis needs a quantity."),
      x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), ".")
    ), call)
  }
  variable$transform <- composed_transform(transform, variable$transform, call)
  variable
}

# Of the transforms of one column, one may turn the axis round; two scales at once it cannot have.
composed_transform <- function(outer, inner, call) {
  if (inner == "identity") return(outer)
  both <- c(outer, inner)
  if (sum(both == "reverse") == 2) return("identity")
  if (any(both == "reverse") && !any(grepl(" ", both))) return(paste("reverse", both[both != "reverse"]))
  abort_nelvat("expression", c(
    "An axis has one transform, and `reverse()`.",
    x = paste0("Found ", listed(paste0("`", c(outer, strsplit(inner, " ")[[1]]), "()`")), ".")
  ), call)
}

# Several columns given as `c(a, b)`, else one.
resolve_variables <- function(quo, book, argument, call) {
  expression <- rlang::quo_get_expr(quo)
  if (!rlang::is_call(expression, "c")) return(list(resolve_variable(quo, book, argument, call)))
  parts <- lapply(as.list(expression[-1]), rlang::new_quosure, env = rlang::quo_get_env(quo))
  lapply(parts, resolve_variable, book = book, argument = argument, call = call)
}

# The column a quosure names bare or through the `.data` pronoun, else NULL.
quo_column <- function(quo) {
  expression <- rlang::quo_get_expr(quo)
  if (rlang::is_symbol(expression)) return(rlang::as_string(expression))
  pronoun <- rlang::is_call(expression, c("$", "[["), n = 2) && identical(expression[[2]], quote(.data))
  if (!pronoun) return(NULL)
  if (rlang::is_symbol(expression[[3]]) && rlang::is_call(expression, "$")) return(rlang::as_string(expression[[3]]))
  name <- rlang::eval_tidy(expression[[3]], env = rlang::quo_get_env(quo))
  if (rlang::is_string(name)) name
}

is_outside_vector <- function(quo, n) {
  values <- tryCatch(rlang::eval_tidy(quo, data.frame()), error = function(error) NULL)
  is.atomic(values) && length(values) == n
}

# Values of an expression over the table's columns, one for each row.
evaluate_column <- function(quo, book, argument, call) {
  values <- tryCatch(rlang::eval_tidy(quo, book$data), error = function(error) {
    if (inherits(error, "nelvat_error")) stop(error)
    unknown <- setdiff(all.vars(rlang::quo_get_expr(quo)), c(names(book$data), ".data"))
    unknown <- Filter(function(name) !exists(name, envir = rlang::quo_get_env(quo)), unknown)
    if (length(unknown)) check_column(unknown[1], book$data, book$label, call, asked_for(argument))
    # `.data` says the name of a column it does not have.
    absent <- regmatches(
      conditionMessage(error), regexpr("(?<=Column `)[^`]+(?=` not found)", conditionMessage(error), perl = TRUE)
    )
    if (length(absent)) check_column(absent, book$data, book$label, call, asked_for(argument))
    abort_nelvat("expression", c(
      paste0("`", argument, "`: ", rlang::as_label(quo), " cannot be computed."), x = conditionMessage(error)
    ), call)
  })
  n <- nrow(book$data)
  if (is.atomic(values) && !is.null(values)) {
    if (length(values) == n) return(values)
    if (length(values) == 1) return(rep(values, n))
  }
  abort_nelvat("expression", c(
    paste0("`", argument, "`: ", rlang::as_label(quo), " must give one value for each of ", counted(n, "row"), "."),
    x = paste0("It gives ", describe_value(values), ".")
  ), call)
}

# Stops where a variable is of a kind that its channel cannot show.
check_variable_kind <- function(variable, channel, kinds, call, why = NULL) {
  if (variable$kind$kind %in% kinds) return(invisible())
  wanted <- c(quantity = "a quantity", category = "a category", ordinal = "an ordinal", moment = "a moment")[kinds]
  abort_nelvat("kind", c(
    paste0("`", channel, "` must be ", paste(wanted, collapse = " or "), if (!is.null(why)) paste0(" ", why), "."),
    x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), "."),
    i = "`codebook()` says what kind a column is."
  ), call)
}
