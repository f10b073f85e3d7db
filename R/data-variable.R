# A variable is one column (or expression) as a panel uses it: values, ready to
# plot, and the kind that says what they mean. Categories hold whole-number codes
# into their levels.

new_variable <- function(id, kind, values) {
  if (has_levels(kind)) values <- match(as.character(values), kind$levels)
  list(id = id, kind = kind, values = as.numeric(values))
}

# The variable a quosure names in a codebook, `argument` being what the user
# calls it in messages.
resolve_variable <- function(quo, book, argument, call) {
  column <- quo_column(quo)
  if (!is.null(column) && (column %in% names(book$data) || !is_outside_vector(quo, nrow(book$data)))) {
    check_column(column, book$data, book$label, call, paste0("It is asked for by `", argument, "`."))
    return(new_variable(column, book$columns[[column]], book$data[[column]]))
  }
  id <- rlang::as_label(rlang::quo_get_expr(quo))
  values <- evaluate_column(quo, book, argument, call)
  new_variable(id, settle_kind(guess_kind(values), values, id, call), values)
}

# Several columns given as `c(a, b)`, else one.
resolve_variables <- function(quo, book, argument, call) {
  expression <- rlang::quo_get_expr(quo)
  if (!rlang::is_call(expression, "c")) return(list(resolve_variable(quo, book, argument, call)))
  parts <- rlang::as_quosures(as.list(expression[-1]), env = rlang::quo_get_env(quo))
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

evaluate_column <- function(quo, book, argument, call) {
  values <- tryCatch(rlang::eval_tidy(quo, book$data), error = function(error) {
    unknown <- setdiff(all.vars(rlang::quo_get_expr(quo)), c(names(book$data), ".data"))
    unknown <- Filter(function(name) !exists(name, envir = rlang::quo_get_env(quo)), unknown)
    if (length(unknown)) {
      check_column(unknown[1], book$data, book$label, call, paste0("It is asked for by `", argument, "`."))
    }
    abort_nelvat("expression", c(
      paste0("`", argument, " = ", rlang::as_label(quo), "` cannot be computed."), x = conditionMessage(error)
    ), call)
  })
  n <- nrow(book$data)
  if (is.atomic(values) && length(values) %in% c(1, n) && !is.null(values)) return(rep_len(values, n))
  abort_nelvat("expression", c(
    paste0("`", argument, " = ", rlang::as_label(quo), "` must give one value for each of ", counted(n, "row"), "."),
    x = paste0("It gives ", describe_value(values), ".")
  ), call)
}
