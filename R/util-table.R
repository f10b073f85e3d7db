# Plain data frames, made fast: data.frame() checks what these callers know.

new_table <- function(..., .rows = NULL) {
  columns <- list(...)
  n <- lengths(columns)
  if (is.null(.rows)) .rows <- max(0L, n)
  short <- n != .rows
  if (any(short)) columns[short] <- lapply(columns[short], rep_len, .rows)
  attr(columns, "row.names") <- .set_row_names(.rows)
  class(columns) <- "data.frame"
  columns
}

# Tables of the same columns, one under the other.
stack_tables <- function(tables) {
  tables <- tables[
    vapply(tables, function(table) !is.null(table) && .row_names_info(table, 2L) > 0L, NA)
  ]
  if (!length(tables)) return(NULL)
  if (length(tables) == 1) return(tables[[1]])
  names <- names(tables[[1]])
  plain <- lapply(unname(tables), unclass)
  columns <- lapply(names, function(name) do.call(c, lapply(plain, .subset2, name)))
  names(columns) <- names
  do.call(new_table, columns)
}

table_rows <- function(table, rows) {
  all_of_them <- is.logical(rows) && length(rows) == NROW(table) && isTRUE(all(rows))
  columns <- lapply(unclass(table), function(column) if (all_of_them) column else column[rows])
  attributes(columns) <- list(names = names(table))
  do.call(new_table, c(columns, list(.rows = if (is.logical(rows)) sum(rows) else length(rows))))
}

# A table as a list of its rows, each a list of its values.
each_row <- function(table) {
  lapply(seq_len(NROW(table)), function(i) lapply(as.list(table), `[[`, i))
}

`%||%` <- function(left, right) if (is.null(left)) right else left

# A list with some elements replaced; of a record, the next record.
changed <- function(list, ...) {
  new <- list(...)
  if (inherits(list, "nelvat_record")) return(changed_record(list, new))
  list[names(new)] <- new
  list
}

# Numbers in texts are written alike whatever the session's options are: a point, seven digits,
# powers of ten where R would choose them. A house's decimal mark is set after that.
local_number_options <- function(frame = rlang::caller_env()) {
  rlang::local_options(OutDec = ".", digits = 7, scipen = 0, .frame = frame)
}
