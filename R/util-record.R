# Records: lists whose fields are known and checked once, when they are made. A later stage does
# not set fields on a record; it makes the next one from it.

# fields: a function for each field that says whether its value is right.
check_record <- function(record, name, fields) {
  stray <- setdiff(names(record), names(fields))
  absent <- setdiff(names(fields), names(record))
  wrong <- Filter(function(field) !isTRUE(fields[[field]](record[[field]])), intersect(names(fields), names(record)))
  if (!length(stray) && !length(absent) && !length(wrong)) {
    return(structure(record, class = c(paste0("nelvat_", name), "list")))
  }
  abort_nelvat("record", c(
    paste0("A record of ", name, " is not right."),
    x = if (length(stray)) paste0("It has no field ", quoted(stray), "."),
    x = if (length(absent)) paste0("It lacks ", quoted(absent), "."),
    x = if (length(wrong)) paste0("Its field \"", wrong[1], "\" holds ", describe_value(record[[wrong[1]]]), ".")
  ), call = NULL)
}
