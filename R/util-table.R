# Plain data frames, made fast: data.frame() checks what these callers know.

new_table <- function(..., .rows = NULL) {
  columns <- list(...)
  .rows <- .rows %||% max(0L, lengths(columns))
  columns <- lapply(columns, function(column) if (length(column) == .rows) column else rep_len(column, .rows))
  structure(columns, class = "data.frame", row.names = .set_row_names(.rows))
}

# Tables of the same columns, one under the other.
stack_tables <- function(tables) {
  tables <- tables[vapply(tables, function(table) !is.null(table) && nrow(table) > 0, NA)]
  if (!length(tables)) return(NULL)
  if (length(tables) == 1) return(tables[[1]])
  columns <- lapply(names(tables[[1]]), function(name) do.call(c, lapply(tables, `[[`, name)))
  names(columns) <- names(tables[[1]])
  do.call(new_table, columns)
}

table_rows <- function(table, rows) {
  columns <- lapply(unclass(table), function(column) column[rows])
  attributes(columns) <- list(names = names(table))
  do.call(new_table, c(columns, list(.rows = if (is.logical(rows)) sum(rows) else length(rows))))
}

`%||%` <- function(left, right) if (is.null(left)) right else left

# A list with some elements replaced.
changed <- function(list, ...) {
  new <- list(...)
  list[names(new)] <- new
  list
}
