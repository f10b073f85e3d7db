#' Kinds of variable
#'
#' A kind says what a column means: its shown name, its unit and, for categories,
#' the order, names and colours of its levels. Kinds are given to [codebook()].
#'
#' @eval argument_lines("quantity", "category", "moment")
#' @return A kind: a list with class `nelvat_kind`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   when the codebook is made,
#' `nelvat_error_kind` for a column that is not of the kind and `nelvat_error_level` for levels
#' without a name.
#' @examples
#' codebook(
#'   data.frame(water = c(60, 80), height = c(51.2, 60.9)),
#'   water = ordinal("Hydration", unit = "%"),
#'   height = quantity("Loaf rise", unit = "mm", show = "cm")
#' )
#' @name kinds
NULL

#' @rdname kinds
#' @export
quantity <- function(name = NULL, unit = NULL, show = NULL, count = FALSE, ...) {
  said <- said_arguments("quantity", ...)
  if (!is.null(show)) unit_conversion(unit, show, rlang::current_env())
  do.call(new_kind, c("quantity", said))
}

#' @rdname kinds
#' @export
category <- function(
  name = NULL,
  order = NULL,
  names = NULL,
  colours = NULL,
  unit = NULL,
  missing = "not recorded",
  ...
) {
  do.call(new_kind, c("category", said_arguments("category", ...)))
}

#' @rdname kinds
#' @export
ordinal <- function(
  name = NULL,
  order = NULL,
  names = NULL,
  colours = NULL,
  unit = NULL,
  missing = "not recorded",
  ...
) {
  do.call(new_kind, c("ordinal", said_arguments("ordinal", ...)))
}

#' @rdname kinds
#' @export
moment <- function(name = NULL, format = NULL, zone = NULL, ...) {
  do.call(new_kind, c("moment", said_arguments("moment", ...)))
}

new_kind <- function(kind, name = NULL, unit = NULL, ...) {
  structure(list(kind = kind, name = name, unit = unit, ...), class = "nelvat_kind")
}

is_kind <- function(x) inherits(x, "nelvat_kind")
has_levels <- function(kind) kind$kind %in% c("category", "ordinal")

kind_phrase <- function(kind) {
  c(quantity = "a quantity", category = "a category", ordinal = "an ordinal", moment = "a moment")[[
    kind$kind
  ]]
}

# What an axis or key calls a variable: its name, and its unit in parentheses.
kind_title <- function(kind) {
  unit <- kind$show %||% kind$unit
  if (is.null(unit) || !nzchar(unit)) kind$name else paste0(kind$name, " (", unit, ")")
}

# The kind of a column of which nothing was said: numbers and lengths of time are quantities, dates
# and times moments, ordered factors ordinals, all else categories.
guess_kind <- function(values) {
  if (inherits(values, c("Date", "POSIXct"))) return(moment())
  if (inherits(values, "difftime")) return(quantity(unit = duration_unit(values)))
  if (is.numeric(values)) return(quantity())
  if (is.ordered(values)) return(ordinal())
  category()
}

# A kind made definite for one column of `data`: named, its values in the form the
# kind needs, and its levels in order. Returns list(kind, values).
settle_kind <- function(kind, values, column, data = NULL, call = rlang::caller_env()) {
  kind$name <- kind$name %||% verbatim(tidy_name(column))
  switch(
    kind$kind,
    quantity = list(kind = kind, values = check_quantity(values, column, call)),
    moment = settle_moment(kind, values, column, call),
    list(kind = settle_levels(kind, values, column, data, call), values = values)
  )
}

# The unit of a length of time, as papers write it.
duration_unit <- function(values) {
  unit <- attr(values, "units") %||% "secs"
  known <- c(secs = "s", mins = "min", hours = "h", days = "d", weeks = "week")
  if (unit %in% names(known)) known[[unit]] else unit
}

# A column's own name as the name of an axis: "_" and "." are spaces, and a first word that is
# written small all through begins large. pH, mRNA, kDa and o2 are left as they are.
tidy_name <- function(column) {
  phrase <- column_phrase(column)
  ifelse(grepl("^[a-z\u00df-\u00ff]+(?![^ ])", phrase, perl = TRUE), first_upper(phrase), phrase)
}

# A column called factor(Month) is of Month.
column_phrase <- function(column) {
  inner <- sub(
    "^(?:as[.])?(?:factor|ordered|character|numeric|integer)\\(([^(),]+)\\)$",
    "\\1",
    column
  )
  trimws(gsub("[._ ]+", " ", inner))
}

# The name of a column, with its unit or without, in the middle of a sentence: one that was made of
# the column's own begins as that does, any other is as it was given.
name_in_sentence <- function(title, column) {
  tidy <- tidy_name(column)
  made <- lapply(unique(c(tidy, verbatim(tidy))), function(name) {
    title == name | startsWith(title, paste0(name, " ("))
  })
  ifelse(
    Reduce(`|`, made),
    paste0(substr(column_phrase(column), 1, 1), substring(title, 2)),
    title
  )
}

check_quantity <- function(values, column, call) {
  if (inherits(values, "difftime")) return(as.numeric(values))
  if (is.numeric(values)) return(values)
  if (is.logical(values)) return(as.numeric(values))
  number <- suppressWarnings(as.numeric(as.character(values)))
  row <- which(is.na(number) & !is.na(values))[1]
  if (is.na(row)) return(number)
  abort_nelvat(
    "kind",
    c(
      paste0("Column \"", column, "\" is declared a quantity, but it holds text."),
      x = paste0("The first value that is no number is \"", values[row], "\", in row ", row, "."),
      i = "Mend the value, name it among the missing values, or declare the column a category."
    ),
    call
  )
}
