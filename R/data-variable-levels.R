# A column whose levels are made, or put in another order, where it is used: `factor(hour)`,
# `reorder(bakery, rise)`, `cut(age, 4)`. It is the column still: its name, and the names and
# colours of levels that it has in the codebook.

level_makers <- c(
  "factor", "as.factor", "ordered", "as.ordered", "as.character", "reorder", "relevel",
  "droplevels", "addNA", "cut"
)

# What an expression makes levels of: `age > 60` of `factor(age > 60)`.
made_of <- function(expression) {
  while (rlang::is_call(expression, level_makers) && length(expression) > 1) {
    expression <- expression[[2]]
  }
  expression
}

# What tells an expression from all others: its text, however long.
expression_id <- function(expression) {
  text <- deparse(expression, 500L)
  short <- rlang::as_label(expression)
  if (grepl("...", short, fixed = TRUE)) paste(trimws(text), collapse = " ") else short
}

# What an axis of an expression is called. Columns that are crossed are called by their names.
expression_name <- function(expression, book) {
  inner <- made_of(expression)
  if (rlang::is_call(inner, c("interaction", "paste", "paste0"))) {
    columns <- Filter(is.name, as.list(inner)[-1])
    kinds <- book$columns[vapply(columns, as.character, "")]
    if (length(kinds) > 1 && !any(vapply(kinds, is.null, NA))) {
      names <- mapply(name_in_sentence, vapply(kinds, `[[`, "", "name"), names(kinds))
      return(paste(c(kinds[[1]]$name, names[-1]), collapse = ", "))
    }
  }
  verbatim(rlang::as_label(inner))
}

# The column that an expression makes levels of, NULL where it is none such.
regrouped_column <- function(quo, values, book) {
  expression <- rlang::quo_get_expr(quo)
  if (!rlang::is_call(expression, level_makers) || is.numeric(values)) return(NULL)
  column <- quo_column(rlang::new_quosure(made_of(expression), rlang::quo_get_env(quo)))
  if (isTRUE(column %in% names(book$columns))) column
}

# Values that are levels of a column, as the codebook calls and colours them. Where they are others
# than the column's, as classes or new labels are, they are a variable of their own, called by it.
as_levels <- function(values, column, id, book, call) {
  known <- book$columns[[column]]
  present <- levels_present(values)
  unlike <- which(as.character(values) != as.character(book$data[[column]]))
  same <- has_levels(known) && !length(unlike) && all(present %in% known$levels)
  # Text has no order of its own.
  in_order <- same && !is.factor(values)
  kind <- if (is.ordered(values) || in_order && known$kind == "ordinal") ordinal() else category()
  kind <- changed(
    kind,
    name = kind_title(known),
    order = if (in_order) known$levels else present,
    names = if (same) stats::setNames(known$level_names, known$levels),
    colours = if (same) known$colours,
    colour_place = if (same) (known$colour_place %||% seq_along(known$levels))
  )
  settled <- settle_kind(kind, values, column, call = call)
  if (same) {
    place <- settled$kind$colour_place[match(settled$kind$levels, known$levels)]
    settled$kind$colour_place <- place
  }
  column_variable(if (length(unlike)) id else column, settled$kind, settled$values)
}
