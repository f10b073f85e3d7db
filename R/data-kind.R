#' Kinds of variable
#'
#' A kind says what a column means: its shown name, its unit and, for categories,
#' the order, names and colours of its levels. Kinds are given to [codebook()].
#'
#' @param name Shown name, with inline markup (`*italic*`, `^super^`, `~sub~`).
#'   Without one the column's name is tidied: `starter_age` becomes "Starter age".
#' @param unit Unit, shown in parentheses after the name, with the same markup:
#'   `"mm^2^"`, `"umol m^-2^ s^-1^"`.
#' @param show Unit to show in place of `unit`; values are converted. SI prefixes
#'   and common units, alone or compound, are known.
#' @param count Is it a count? Its axis then breaks at whole numbers only.
#' @param order Levels in the order to show them, or a rule: [by_appearance()],
#'   [by_number()], [by_statistic()]. Without one: the order of `names`, of a
#'   factor's levels, increasing numbers, else first appearance.
#' @param names Shown names of levels, as `c(code = "Shown name")`. Every value in
#'   the data must then have one.
#' @param colours Colours of levels, named by level or in level order.
#' @param missing Name of the level for missing values, where they are shown as one.
#' @param format Format of dates and times in the data, as in [strptime()]. ISO
#'   8601 needs none.
#' @param zone Time zone of times that bear no offset, such as `"Europe/Oslo"`, and
#'   that the axis shows. `NULL`: UTC.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
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
  check_rest(...)
  check_string(show, "show", or_null = TRUE)
  if (!is.null(show)) unit_conversion(unit, show, rlang::current_env())
  new_kind("quantity", name = name, unit = unit, show = show, count = check_flag(count, "count"))
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
  check_rest(...)
  new_levels_kind("category", name, order, names, colours, unit, missing)
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
  check_rest(...)
  new_levels_kind("ordinal", name, order, names, colours, unit, missing)
}

#' @rdname kinds
#' @export
moment <- function(name = NULL, format = NULL, zone = NULL, ...) {
  check_rest(...)
  check_string(format, "format", or_null = TRUE)
  check_zone(zone, rlang::current_env())
  new_kind("moment", name = name, format = format, zone = zone)
}

new_levels_kind <- function(
  kind,
  name,
  order,
  names,
  colours,
  unit,
  missing,
  call = rlang::caller_env()
) {
  check_string(missing, "missing", call = call)
  check_order(order, "order", call)
  if (!is.null(names) && (!is.atomic(names) || !all(rlang::have_name(names)))) {
    abort_nelvat(
      "argument",
      c(
        "`names` must be such as `c(code = \"Shown name\")`.",
        x = paste0("Found ", describe_value(names), ".")
      ),
      call
    )
  }
  new_kind(
    kind,
    name = name,
    unit = unit,
    order = order,
    names = names,
    colours = colours,
    missing = missing,
    call = call
  )
}

new_kind <- function(kind, name = NULL, unit = NULL, ..., call = rlang::caller_env()) {
  check_string(name, "name", or_null = TRUE, call = call)
  check_string(unit, "unit", or_null = TRUE, call = call)
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
