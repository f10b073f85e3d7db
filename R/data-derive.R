#' A new column from others
#'
#' @param expression An expression over the table's columns, evaluated in the table.
#' @param kind What the column means, as in [codebook()]; `NULL` to guess.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A description, for `derive =` of [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_expression` where the
#' expression fails; `nelvat_error_data` for a result of the wrong length.
#' @examples
#' panel(study("loaves"),
#'   x = rise, y = density,
#'   derive = list(density = derived(volume / rise, quantity("Volume per rise", unit = "mL/mm"))),
#'   keep = hydration > 60, ink_points()
#' )
#' @export
derived <- function(expression, kind = NULL, ...) {
  check_rest(...)
  new_derived(rlang::enquo(expression), kind, rlang::current_env())
}

new_derived <- function(quo, kind, call) {
  if (!is.null(kind) && !is_kind(kind)) {
    abort_nelvat(
      "argument",
      c(
        "`kind` must be such as `quantity(\"Density\", unit = \"g/mL\")`.",
        x = paste0("Found ", describe_value(kind), ".")
      ),
      call
    )
  }
  structure(list(quo = quo, kind = kind), class = "nelvat_derived")
}

# A codebook with derived columns added; each may use those before it.
derive_columns <- function(book, derive, call) {
  if (is.null(derive)) return(book)
  right <- is.list(derive) && all(rlang::have_name(derive)) && all(vapply(derive, inherits, NA, "nelvat_derived"))
  if (!right) {
    abort_nelvat("argument", c(
      "`derive` must be such as `list(ratio = derived(volume / rise))`.",
      x = paste0("Found ", describe_value(derive), ".")
    ), call)
  }
  for (column in names(derive)) {
    values <- evaluate_column(derive[[column]]$quo, book, paste0("derive: ", column), call)
    changed <- attr(values, "nelvat_changed")
    attr(values, "nelvat_changed") <- NULL
    settled <- settle_kind(derive[[column]]$kind %||% guess_kind(values), values, column, book$data, call)
    book$data[[column]] <- settled$values
    book$columns[[column]] <- settled$kind
    if (!is.null(changed)) book$notes <- add_note(book$notes, column, changed$what, changed$n)
  }
  book
}

# A codebook with only the rows for which a condition is true.
keep_rows <- function(book, keep, call) {
  if (rlang::quo_is_null(keep)) return(book)
  held <- evaluate_column(keep, book, "keep", call)
  if (!is.logical(held)) {
    abort_nelvat("expression", c(
      paste0("`keep = ", rlang::as_label(keep), "` must be true or false for each row."),
      x = paste0("It gives ", describe_value(held), ".")
    ), call)
  }
  unknown <- sum(is.na(held))
  held <- held & !is.na(held)
  if (unknown) {
    book$notes <- add_note(
      book$notes, rlang::as_label(keep), "rows left out, the condition being unknown for a missing value", unknown
    )
  }
  if (!any(held)) {
    abort_nelvat("data", c(
      paste0("Nothing is left of ", book$label, "."),
      x = paste0("`keep = ", rlang::as_label(keep), "` is true for none of ", counted(length(held), "row"), ".")
    ), call)
  }
  rows <- which(held)
  book$data <- as.data.frame(
    lapply(book$data, function(values) values[rows]), optional = TRUE, stringsAsFactors = FALSE
  )
  names(book$data) <- names(book$columns)
  for (column in names(Filter(has_levels, book$columns))) {
    book$columns[[column]] <- present_levels(book$columns[[column]], book$data[[column]])
  }
  book
}

# A kind with only the levels that are there; each keeps its colour.
present_levels <- function(kind, values) {
  held <- which(kind$levels %in% as.character(values))
  if (length(held) == length(kind$levels)) return(kind)
  if (!is.null(kind$colours)) kind$colours <- stats::setNames(level_colours_given(kind), kind$levels)[held]
  kind$colour_place <- (kind$colour_place %||% seq_along(kind$levels))[held]
  kind$levels <- kind$levels[held]
  kind$level_names <- kind$level_names[held]
  kind
}

# What was done to a column, counted for the facts.
add_note <- function(notes, column, what, n) {
  rbind(notes, data.frame(column = column, what = what, n = as.integer(n)))
}
