# Values of a column as its field says that they are written: Table Schema's `missingValues`,
# `groupChar`, `decimalChar` and `bareNumber` of a field.

field_values <- function(values, field) {
  absent <- as.character(unlist(field[["missingValues"]]))
  if (length(absent)) values[is_among(values, absent)] <- NA
  if (!is.character(values) || !isTRUE(field[["type"]] %in% c("number", "integer"))) return(values)
  group <- field[["groupChar"]]
  if (!is.null(group)) values <- gsub(group, "", values, fixed = TRUE)
  decimal <- field[["decimalChar"]]
  if (!is.null(decimal)) values <- gsub(decimal, ".", values, fixed = TRUE)
  if (isFALSE(field[["bareNumber"]])) values <- gsub("^[^-+0-9.]+|[^0-9.]+$", "", values)
  values
}

# Numbers are compared as numbers, text as text.
is_among <- function(values, absent) {
  numbers <- suppressWarnings(as.numeric(absent))
  if (is.numeric(values)) return(!is.na(values) & values %in% numbers)
  as.character(values) %in% absent
}

# A field with a type: where none is said, that of its values and of what is said besides.
typed_field <- function(field, values) {
  if (!is.null(field[["type"]])) return(field)
  type <- if (!is.null(field[["categories"]]) || !is.null(field[["colours"]])) {
    "string"
  } else if (any(c("unit", "show", "count") %in% names(field)) && !is_moment_values(values)) {
    "number"
  } else {
    values_type(values)
  }
  c(field, list(type = type))
}

is_moment_values <- function(values) inherits(values, c("Date", "POSIXct"))

check_fields_said <- function(fields, call) {
  right <- is.null(fields) ||
    is.list(fields) && all(rlang::have_name(fields)) &&
      !anyDuplicated(base::names(fields)) && all(vapply(fields, is.list, NA))
  if (right) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste(
        "`fields` must be keys of a codebook's field by column,",
        "such as `list(temp = list(unit = \"K\"))`."
      ),
      x = paste0("Found ", describe_value(fields), ".")
    ),
    call,
    argument = "fields"
  )
}
