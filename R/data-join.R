#' Join a second table
#'
#' Adds the columns of a second table to the rows of the first that have the same
#' values in the columns both share. Each row of the first stays, once.
#'
#' @param data,other [codebook()]s or data frames.
#' @param by Columns to join on; `NULL`: all that both have.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A [codebook()], with the kinds of both. A warning counts rows that found no
#'   partner.
#' @section Errors:
#' `nelvat_error_join` where no column is shared, or where rows of `other` are not
#' told apart by the shared columns.
#' @examples
#' bakeries <- data.frame(bakery = c("harbour", "mill", "station"), oven = c("deck", "wood", "deck"))
#' join_data(study("loaves"), bakeries)
#' @export
join_data <- function(data, other, by = NULL, ...) {
  check_rest(...)
  call <- rlang::current_env()
  join_books(
    as_codebook(data, deparsed_label(substitute(data)), call),
    as_codebook(other, deparsed_label(substitute(other)), call), by, call
  )
}

join_books <- function(book, other, by, call) {
  shared <- intersect(names(book$data), names(other$data))
  by <- by %||% shared
  for (column in by) {
    check_column(column, book$data, book$label, call)
    check_column(column, other$data, other$label, call)
  }
  if (!length(by)) {
    abort_nelvat("join", c(
      paste0(book$label, " and ", other$label, " share no column to join on."),
      x = paste0("Columns are ", quoted(names(book$data)), " and ", quoted(names(other$data)), ".")
    ), call)
  }
  twice <- setdiff(shared, by)
  if (length(twice)) {
    abort_nelvat(
      "join", c(paste0("Both tables have ", quoted(twice), "."), i = "Join on it too, or rename it in one of them."),
      call
    )
  }
  row_key <- function(data) do.call(paste, c(lapply(data[by], as.character), sep = "\r"))
  key <- row_key(other$data)
  if (anyDuplicated(key)) {
    row <- which(duplicated(key))[1]
    abort_nelvat("join", c(
      paste0("Rows of ", other$label, " are not told apart by ", quoted(by), "."),
      x = paste0(
        "Rows ", match(key[row], key), " and ", row, " have the same: ", quoted(gsub("\r", ", ", key[row])), "."
      )
    ), call)
  }
  spot <- match(row_key(book$data), key)
  if (anyNA(spot)) {
    warn_nelvat(
      "join",
      paste0(
        counted(sum(is.na(spot)), "row"), " of ", book$label, " found no partner in ", other$label,
        "; the joined columns are missing there."
      )
    )
  }
  added <- setdiff(names(other$data), by)
  table <- book$data
  for (column in added) table[[column]] <- other$data[[column]][spot]
  new_codebook(table, c(book$columns, other$columns[added]), label = book$label, call = call, document = book$document)
}
