# Columns and expressions in figure files.

file_expression <- function(text, columns, at) checked_expression(string_at(text, at), columns, at)

# What stands on a channel: a column's name, an expression over columns, or the
# measures themselves.
channel_quo <- function(value, columns, at, book = NULL) {
  if (is.null(value)) return(rlang::quo(NULL))
  if (is.list(value) && "measure" %in% names(value)) {
    check_keys(value, part_keys("measure"), at = at)
    said <- list(
      string_at(value$measure, c(at, "measure")),
      colours = unlist(value$colours),
      order = unlist(value$order)
    )
    return(rlang::new_quosure(rlang::call2("measure", !!!Filter(Negate(is.null), said)), topenv()))
  }
  if (is.list(value) && "column" %in% names(value)) return(kind_quo(value, columns, at, book))
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
      quos[[
        which.max(vapply(quos, function(quo) !identical(rlang::quo_get_env(quo), baseenv()), NA))
      ]]
    )
  )
}

# x: {column: month, kind: ordinal, title: Month, order: [..]}; without `kind` that of the codebook.
kind_quo <- function(value, columns, at, book = NULL) {
  known_kind <- if (rlang::is_string(value$column)) book$columns[[value$column]]$kind
  has_column <- rlang::is_string(value$column) && value$column %in% columns
  check_keys(
    value,
    part_keys("variable"),
    needs = c("column", if (is.null(known_kind) && has_column) "kind"),
    at = at
  )
  value$kind <- value$kind %||% known_kind
  if (is.null(value$kind)) {
    abort_figure(c(at, "column"), "There is no column of that name.", value$column, columns)
  }
  make <- at_key(c(at, "kind"), check_choice(value$kind, names(kind_makers), "kind", NULL))
  settings <- value[setdiff(names(value), c("column", "kind", "title", "order"))]
  settings <- lapply(settings, function(one) if (is.list(one)) unlist(one) else one)
  settings$name <- value$title
  settings$order <- at_key(c(at, "order"), field_order(value$order))
  stray <- setdiff(names(settings), argument_names(get(make, mode = "function")))
  if (length(stray)) {
    abort_figure(
      at,
      paste0("\"", make, "\" has no key of that name."),
      stray[1],
      argument_names(get(make))
    )
  }
  column <- one_quo(string_at(value$column, c(at, "column")), columns, c(at, "column"))
  rlang::new_quosure(
    rlang::call2(make, rlang::quo_get_expr(column), !!!settings),
    rlang::quo_get_env(column)
  )
}

# A text that is a column's name, or could be no expression, is a column.
one_quo <- function(text, columns, at) {
  if (text %in% columns || grepl("^[[:alpha:].][[:alnum:]._]*$", text)) return(column_quo(text))
  file_expression(text, columns, at)
}
