# A variable is one column (or expression) as a panel uses it: values, ready to plot, and the kind
# that says what they mean. Quantities are numbers in the unit shown, moments seconds, categories
# whole-number codes into their levels.
#
#   id         the column, or the expression;
#   values     NULL where only what it means is asked for, as in a layer;
#   transform  of the axis it stands on, as axis_transform() names it;
#   reversed   does that axis run the other way? Nothing that is computed depends on it;
#   n_missing  values that are missing; policy, note: what was done about them;
#   outside    values that no axis of this transform can show: list(what, n);
#   supplied   does an ink bring it, such as a count?
#   times      how many rows each value stands for; NULL: one; sums: of values that are means, the
#              spread, the least and the greatest of each.
new_variable <- function(
  id,
  kind,
  values = NULL,
  transform = "identity",
  reversed = FALSE,
  n_missing = 0L,
  policy = NULL,
  note = NULL,
  outside = NULL,
  supplied = FALSE,
  times = NULL,
  sums = NULL
) {
  variable <- list(
    id = id,
    kind = kind,
    values = values,
    transform = transform,
    reversed = reversed,
    n_missing = n_missing,
    policy = policy,
    note = note,
    outside = outside,
    supplied = supplied,
    times = times,
    sums = sums,
    held = NULL
  )
  check_record(variable, "variable", record_fields.nelvat_variable())
}

#' @export
record_fields.nelvat_variable <- function(record) {
  told <- function(x) rlang::is_string(x$what) && is_count(x$n)
  list(
    id = rlang::is_string,
    kind = is_kind,
    values = is_or_null(is.numeric),
    transform = function(x) rlang::is_string(x) && is_transform_name(x),
    reversed = rlang::is_bool,
    n_missing = is_count,
    policy = is_or_null(function(x) x %in% c(value_policies, level_policies)),
    note = is_or_null(told),
    outside = is_or_null(told),
    supplied = rlang::is_bool,
    times = is_or_null(is.numeric),
    sums = is_or_null(is.list),
    held = is_or_null(is.logical)
  )
}

# What a variable means, without its values.
without_values <- function(variable) {
  if (is.null(variable)) {
    NULL
  } else {
    changed(variable, values = NULL, times = NULL, sums = NULL, held = NULL)
  }
}

# Is a quantity shown as a ramp of colours?
is_ramp <- function(variable) !is.null(variable) && !has_levels(variable$kind)

is_category <- function(variable) !is.null(variable) && has_levels(variable$kind)

# The variables of a panel: columns, expressions, and columns on transformed axes. A call of a
# known transform of one column, such as log10(area), makes an axis, or a ramp of colours, of that
# transform: the variable is the column, and `transform` names the transform.

column_variable <- function(id, kind, values) {
  new_variable(
    id,
    kind,
    switch(
      kind$kind,
      quantity = as.numeric(shown_values(values, kind)),
      moment = moment_seconds(values),
      match(as.character(values), kind$levels)
    )
  )
}

# The variable a quosure names in a codebook, `argument` being what the user
# calls it in messages.
resolve_variable <- function(quo, book, argument, call) {
  # A list of one is this one.
  if (rlang::is_call(rlang::quo_get_expr(quo), "c", n = 1)) {
    quo <- rlang::quo_set_expr(quo, rlang::quo_get_expr(quo)[[2]])
  }
  if (rlang::is_call(rlang::quo_get_expr(quo), names(kind_makers))) {
    return(kind_variable(quo, book, argument, call))
  }
  column <- quo_column(quo)
  if (
    !is.null(column) && (column %in% names(book$data) || !is_outside_vector(quo, nrow(book$data)))
  ) {
    check_column(column, book$data, book$label, call, asked_for(argument))
    return(column_variable(column, book$columns[[column]], book$data[[column]]))
  }
  expression <- plain_logarithm(rlang::quo_get_expr(quo))
  if (rlang::is_call(expression, transforms_of(argument), n = 1)) {
    transform <- axis_transforms[[rlang::call_name(expression)]]
    transformed <- scaled_column(expression[[2]], transform, book)
    inner <- rlang::new_quosure(transformed$column, rlang::quo_get_env(quo))
    return(transformed_variable(inner, paste0(transform, transformed$scale), book, argument, call))
  }
  id <- expression_id(expression)
  values <- evaluate_column(quo, book, argument, call)
  regrouped <- regrouped_column(quo, values, book)
  if (!is.null(regrouped)) return(as_levels(values, regrouped, id, book, call))
  smoothed <- smoothed_kind(expression, book)
  settled <- settle_kind(smoothed %||% guess_kind(values), values, id, call = call)
  if (is.null(column) && is.null(smoothed)) {
    settled$kind$name <- negative_logarithm(expression, book) %||% expression_name(expression, book)
  }
  column_variable(id, settled$kind, settled$values)
}

# The calls that transform what an argument shows; shades of a ramp have no direction.
transforms_of <- function(argument) {
  if (argument %in% c("x", "y", "columns", "rows")) return(names(axis_transforms))
  if (argument == "colour") setdiff(names(axis_transforms), "reverse") else character()
}

kind_makers <- list(
  quantity = "quantity",
  category = "category",
  ordinal = "ordinal",
  moment = "moment"
)

# A column whose kind is said where it is used: `ordinal(Month)`, `category(Month, "Month of
# sale")`.
kind_variable <- function(quo, book, argument, call) {
  expression <- rlang::quo_get_expr(quo)
  arguments <- as.list(expression)[-1]
  column_argument <- which(rlang::names2(arguments) == "")[1]
  if (is.na(column_argument)) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`",
          argument,
          "`: `",
          rlang::call_name(expression),
          "()` needs a column, such as `",
          rlang::call_name(expression),
          "(",
          names(book$data)[1],
          ")`."
        )
      ),
      call
    )
  }
  inner <- rlang::new_quosure(arguments[[column_argument]], rlang::quo_get_env(quo))
  make <- get(kind_makers[[rlang::call_name(expression)]], mode = "function")
  settings <- lapply(arguments[-column_argument], eval, rlang::quo_get_env(quo))
  column <- quo_column(inner)
  if (!is.null(column)) check_column(column, book$data, book$label, call, asked_for(argument))
  known <- if (!is.null(column)) book$columns[[column]]
  # What is not said stays as the codebook has it, where the kind does.
  if (identical(known$kind, rlang::call_name(expression))) {
    of_kind <- intersect(c("unit", "zone", "count", "format"), names(formals(make)))
    unsaid <- Filter(function(name) !is.null(known[[name]]), setdiff(of_kind, names(settings)))
    settings[unsaid] <- unclass(known)[unsaid]
  }
  kind <- do.call(make, settings)
  kind$name <- kind$name %||% known$name
  if (
    has_levels(kind) && !is.null(known) && has_levels(known) && is.null(kind$order) && is.null(
      kind$names
    )
  ) {
    kind$names <- stats::setNames(known$level_names, known$levels)
  }
  values <- if (is.null(column)) {
    evaluate_column(inner, book, argument, call)
  } else {
    book$data[[column]]
  }
  id <- column %||% expression_id(arguments[[column_argument]])
  settled <- settle_kind(kind, values, id, book$data, call)
  column_variable(id, settled$kind, settled$values)
}

asked_for <- function(argument) paste0("It is asked for by `", argument, "`.")

log10_base <- function(x, base) NULL

# Several columns given as `c(a, b)`, else one.
resolve_variables <- function(quo, book, argument, call) {
  expression <- rlang::quo_get_expr(quo)
  if (!rlang::is_call(expression, "c")) return(list(resolve_variable(quo, book, argument, call)))
  parts <- lapply(as.list(expression[-1]), rlang::new_quosure, env = rlang::quo_get_env(quo))
  lapply(parts, resolve_variable, book = book, argument = argument, call = call)
}

# The column a quosure names bare, as a string or through the `.data` pronoun, else NULL.
quo_column <- function(quo) {
  expression <- rlang::quo_get_expr(quo)
  if (rlang::is_string(expression)) return(expression)
  if (rlang::is_symbol(expression)) return(rlang::as_string(expression))
  pronoun <- rlang::is_call(expression, c("$", "[["), n = 2) && identical(
    expression[[2]],
    quote(.data)
  )
  if (!pronoun) return(NULL)
  if (rlang::is_symbol(expression[[3]]) && rlang::is_call(expression, "$")) {
    return(rlang::as_string(expression[[3]]))
  }
  name <- rlang::eval_tidy(expression[[3]], env = rlang::quo_get_env(quo))
  if (rlang::is_string(name)) name
}

is_outside_vector <- function(quo, n) {
  if (rlang::is_string(rlang::quo_get_expr(quo))) return(FALSE)
  values <- tryCatch(rlang::eval_tidy(quo, data.frame()), error = function(error) NULL)
  is.atomic(values) && length(values) == n
}

# Values of an expression over the table's columns, one for each row.
# functions: those that the expression finds before the ones of the session.
evaluate_column <- function(quo, book, argument, call, functions = list()) {
  values <- tryCatch(
    rlang::eval_tidy(quo, c(as.list(book$data), functions, time_functions(book$data))),
    error = function(error) {
      if (inherits(error, "nelvat_error")) stop(error)
      if (inherits(error$parent, "nelvat_error")) stop(error$parent)
      unknown <- setdiff(all.vars(rlang::quo_get_expr(quo)), c(names(book$data), ".data"))
      unknown <- Filter(function(name) !exists(name, envir = rlang::quo_get_env(quo)), unknown)
      if (length(unknown)) {
        check_column(unknown[1], book$data, book$label, call, asked_for(argument))
      }
      # `.data` says the name of a column it does not have.
      absent <- regmatches(
        conditionMessage(error),
        regexpr("(?<=Column `)[^`]+(?=` not found)", conditionMessage(error), perl = TRUE)
      )
      if (length(absent)) check_column(absent, book$data, book$label, call, asked_for(argument))
      abort_nelvat(
        "expression",
        c(
          paste0("`", argument, "`: ", rlang::as_label(quo), " cannot be computed."),
          x = conditionMessage(error)
        ),
        call
      )
    }
  )
  n <- nrow(book$data)
  if (is.atomic(values) && !is.null(values)) {
    if (length(values) == n) return(values)
    if (length(values) == 1) return(rep(values, n))
  }
  abort_nelvat(
    "expression",
    c(
      paste0(
        "`",
        argument,
        "`: ",
        rlang::as_label(quo),
        " must give one value for each of ",
        counted(n, "row"),
        "."
      ),
      x = paste0("It gives ", describe_value(values), ".")
    ),
    call
  )
}

most_codes <- 20

# Do the numbers of a quantity look like codes: few, and whole?
holds_codes <- function(variable) {
  if (variable$kind$kind != "quantity" || is.null(variable$values)) return(FALSE)
  distinct <- unique(variable$values[!is.na(variable$values)])
  length(distinct) <= most_codes && all(distinct == round(distinct))
}

# Stops where a variable is of a kind that its channel cannot show.
check_variable_kind <- function(variable, channel, kinds, call, why = NULL) {
  if (variable$kind$kind %in% kinds) return(invisible())
  wanted <- c(
    quantity = "a quantity", category = "a category", ordinal = "an ordinal", moment = "a moment"
  )[kinds]
  abort_nelvat(
    "kind",
    c(
      paste0(
        "`",
        channel,
        "` must be ",
        paste(wanted, collapse = " or "),
        if (!is.null(why)) paste0(" ", why),
        "."
      ),
      x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), "."),
      i = if ("category" %in% kinds && holds_codes(variable)) {
        paste0(
          "If its numbers are codes, say `",
          channel,
          " = category(",
          variable$id,
          ")` or `",
          channel,
          " = ordinal(",
          variable$id,
          ")`, or so in the codebook."
        )
      } else {
        "`codebook()` says what kind a column is."
      }
    ),
    call,
    argument = channel
  )
}

# Of what sort the axis of a variable is: one layer can stand on several alike.
scale_of_axis <- function(variable) {
  kind <- variable$kind
  paste(
    variable$transform,
    variable$reversed,
    kind$kind %in% c("category", "ordinal"),
    kind$kind == "moment"
  )
}
