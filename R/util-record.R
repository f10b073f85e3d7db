# Records: lists whose fields are known and checked once, when they are made. A later stage does
# not set fields on a record; it makes the next one from it, with changed().

# fields: a function for each field that says whether its value is right.
check_record <- function(record, name, fields) {
  known <- names(fields)
  given <- names(record)
  stray <- given[!given %in% known]
  absent <- known[!known %in% given]
  present <- if (length(absent)) known[known %in% given] else known
  wrong <- present[!vapply(present, function(field) isTRUE(fields[[field]](record[[field]])), NA)]
  if (!length(stray) && !length(absent) && !length(wrong)) {
    return(structure(record, class = c(paste0("nelvat_", name), "nelvat_record", "list")))
  }
  abort_nelvat(
    "record",
    c(
      paste0("A record of ", name, " is not right."),
      x = if (length(stray)) paste0("It has no field ", quoted(stray), "."),
      x = if (length(absent)) paste0("It lacks ", quoted(absent), "."),
      x = if (length(wrong)) {
        paste0("Its field \"", wrong[1], "\" holds ", describe_value(record[[wrong[1]]]), ".")
      }
    ),
    call = NULL
  )
}

# The checks of a record's fields: a method for each record, beside its constructor.
record_fields <- function(record) UseMethod("record_fields")

# The next record: one with some fields replaced, checked as it is made.
changed_record <- function(record, new) {
  fields <- record_fields(record)
  name <- sub("^nelvat_", "", class(record)[1])
  # Fields that stay were checked when they were made.
  check_record(new, name, fields[intersect(names(fields), names(new))])
  values <- unclass(record)
  values[names(new)] <- new
  structure(values, class = class(record))
}

#' @export
`$<-.nelvat_record` <- function(x, name, value) abort_set_field(x, name)
#' @export
`[[<-.nelvat_record` <- function(x, i, value) abort_set_field(x, i)

abort_set_field <- function(record, field) {
  abort_nelvat(
    "record",
    c(
      paste0("A field of a ", sub("^nelvat_", "", class(record)[1]), " is set after it was made."),
      x = paste0("Found \"", field, "\"."),
      i = "The next record is made with `changed()`."
    ),
    call = NULL
  )
}

# Checks that several records share.
is_or_null <- function(is_right) function(x) is.null(x) || is_right(x)
is_any <- function(x) TRUE
is_count <- function(x) is.numeric(x) && length(x) == 1 && !is.na(x) && x >= 0
is_range <- function(x) is.numeric(x) && length(x) == 2 && all(is.finite(x))
