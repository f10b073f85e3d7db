#' Kinds of variable
#'
#' A kind says what a column means: its shown name, its unit and, for categories,
#' the order, names and colours of its levels. Kinds are given to [codebook()].
#'
#' @param name Shown name, with inline markup (`*italic*`, `^super^`, `~sub~`).
#'   Without one the column's name is tidied: `starter_age` becomes "Starter age".
#' @param unit Unit, shown in parentheses after the name, with the same markup:
#'   `"mm^2^"`.
#' @param order Levels in the order to show them. Without one: the order of a
#'   factor's levels, increasing numbers, else first appearance.
#' @param names Shown names of levels, as `c(code = "Shown name")`. Every value in
#'   the data must then have one.
#' @param colours Colours of levels, named by level or in level order.
#' @param format Format of dates and times in the data, as in [strptime()]. ISO
#'   8601 needs none.
#' @return A kind: a list with class `nelvat_kind`.
#' @examples
#' codebook(
#'   data.frame(water = c(60, 80), height = c(51.2, 60.9)),
#'   water = ordinal("Hydration", unit = "%"),
#'   height = quantity("Loaf rise", unit = "mm")
#' )
#' @name kinds
NULL

#' @rdname kinds
#' @export
quantity <- function(name = NULL, unit = NULL) {
  new_kind("quantity", name = name, unit = unit)
}

#' @rdname kinds
#' @export
category <- function(name = NULL, order = NULL, names = NULL, colours = NULL, unit = NULL) {
  new_kind("category", name = name, unit = unit, order = order, names = names, colours = colours)
}

#' @rdname kinds
#' @export
ordinal <- function(name = NULL, order = NULL, names = NULL, colours = NULL, unit = NULL) {
  new_kind("ordinal", name = name, unit = unit, order = order, names = names, colours = colours)
}

#' @rdname kinds
#' @export
moment <- function(name = NULL, format = NULL) {
  new_kind("moment", name = name, format = format)
}

new_kind <- function(kind, name = NULL, unit = NULL, ..., call = rlang::caller_env()) {
  check_string(name, "name", or_null = TRUE, call = call)
  check_string(unit, "unit", or_null = TRUE, call = call)
  structure(list(kind = kind, name = name, unit = unit, ...), class = "nelvat_kind")
}

is_kind <- function(x) inherits(x, "nelvat_kind")
has_levels <- function(kind) kind$kind %in% c("category", "ordinal")

kind_phrase <- function(kind) {
  c(quantity = "a quantity", category = "a category", ordinal = "an ordinal", moment = "a moment")[[kind$kind]]
}

# The kind of a column of which nothing was said: numbers are quantities, dates
# and times moments, ordered factors ordinals, all else categories.
guess_kind <- function(values) {
  if (inherits(values, c("Date", "POSIXct"))) return(moment())
  if (is.numeric(values)) return(quantity())
  if (is.ordered(values)) return(ordinal())
  category()
}

# A kind made definite for one column: named, and its levels in order.
settle_kind <- function(kind, values, column, call = rlang::caller_env()) {
  kind$name <- kind$name %||% tidy_name(column)
  check_values <- switch(kind$kind, quantity = check_quantity, moment = check_moment, NULL)
  if (!is.null(check_values)) {
    check_values(values, column, call)
    return(kind)
  }
  settle_levels(kind, values, column, call)
}

tidy_name <- function(column) {
  words <- gsub("[._ ]+", " ", trimws(column))
  paste0(toupper(substr(words, 1, 1)), substr(words, 2, nchar(words)))
}

check_quantity <- function(values, column, call) {
  if (is.numeric(values) || all(is.na(values))) return(invisible())
  number <- suppressWarnings(as.numeric(as.character(values)))
  row <- which(is.na(number) & !is.na(values))[1]
  abort_nelvat("kind", c(
    paste0("Column \"", column, "\" is declared a quantity, but it holds text."),
    x = if (is.na(row)) "All of it reads as numbers, but it is stored as text." else
      paste0("The first value that is no number is \"", values[row], "\", in row ", row, "."),
    i = "Mend the value, or declare the column a category."
  ), call)
}

check_moment <- function(values, column, call) {
  if (inherits(values, c("Date", "POSIXct"))) return(invisible())
  abort_nelvat("kind", c(
    paste0("Column \"", column, "\" is declared a moment, but it holds no dates or times."),
    x = paste0("Its first value is ", describe_value(values[1]), "."),
    i = "Dates and times are recognised as ISO 8601, such as 2026-03-02 or 2026-03-02T10:33:00Z."
  ), call)
}

settle_levels <- function(kind, values, column, call) {
  present <- levels_present(values)
  if (!is.null(kind$names)) {
    kind$order <- as.character(kind$order %||% names(kind$names))
    unnamed <- setdiff(present, names(kind$names))
    if (length(unnamed)) {
      abort_nelvat("level", c(
        paste0("Every code in column \"", column, "\" must have a name."),
        x = paste0("No name is given for ", quoted(unnamed), "."),
        i = paste0("Named are ", quoted(names(kind$names)), ".")
      ), call)
    }
  }
  kind$levels <- if (is.null(kind$order)) present else as.character(kind$order)
  missed <- setdiff(present, kind$levels)
  if (length(missed)) {
    abort_nelvat("level", c(
      paste0("The order of column \"", column, "\" must list all its levels."),
      x = paste0("In the data but not in the order: ", quoted(missed), "."),
      i = paste0("The order lists ", quoted(kind$levels), ".")
    ), call)
  }
  kind$level_names <- unname(if (is.null(kind$names)) kind$levels else as.character(kind$names[kind$levels]))
  kind
}

# Levels in a factor's order, by number for numbers, else by first appearance.
levels_present <- function(values) {
  if (is.factor(values)) return(levels(values)[levels(values) %in% values])
  present <- unique(values[!is.na(values)])
  if (is.numeric(present) || is.logical(present)) present <- sort(present)
  as.character(present)
}
