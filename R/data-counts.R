#' Count combinations
#'
#' How many rows there are of each combination of levels, as a table with a codebook:
#' the columns counted over, and `n`.
#'
#' @eval argument_lines("counts")
#' @return A [codebook()] with a row a combination. Rows with a missing value in any of
#'   the columns are not counted.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_column` for a column that
#' is not there.
#' @examples
#' counts(study("loaves"), bakery, verdict)
#' @export
counts <- function(data, ..., empty = TRUE) {
  call <- rlang::current_env()
  check_needed(counts, "counts", call)
  book <- as_codebook(data, deparsed_label(substitute(data)), call)
  quos <- rlang::enquos(...)
  columns <- vapply(quos, function(quo) quo_column(quo) %||% NA_character_, "")
  if (anyNA(columns)) {
    abort_nelvat(
      "argument",
      c(
        "`counts()` takes columns, bare.",
        x = paste0("Found ", rlang::as_label(quos[[which(is.na(columns))[1]]]), ".")
      ),
      call
    )
  }
  counts_of(book, unname(columns), empty, call)
}

counts_of <- function(book, columns, empty, call) {
  checked_argument("counts", "empty", empty, call)
  if (!length(columns)) {
    abort_nelvat("argument", c("`counts()` needs columns to count over.", x = "Found none."), call)
  }
  for (column in columns) check_column(column, book$data, book$label, call)
  table <- count_rows(book, columns, empty)
  kinds <- c(book$columns[columns], list(n = quantity("Count", count = TRUE)))
  names(kinds) <- c(columns, "n")
  new_codebook(table, kinds, label = paste("counts of", book$label), call = call)
}

count_rows <- function(book, columns, empty) {
  values <- lapply(columns, function(column) {
    of <- book$data[[column]]
    kind <- book$columns[[column]]
    if (has_levels(kind) && empty) factor(as.character(of), kind$levels) else factor(of)
  })
  n <- table(values)
  grid <- expand.grid(lapply(dimnames(n), seq_along))
  out <- Map(
    function(index, of, column) {
      original <- book$data[[column]]
      level <- levels(of)[index]
      if (is.character(original) || is.factor(original)) {
        level
      } else {
        original[match(level, as.character(original))]
      }
    },
    grid,
    values,
    columns
  )
  # A level with no row has no original value; a number's code is read from its text.
  for (i in seq_along(out)) {
    gap <- is.na(out[[i]])
    if (any(gap) && is.numeric(out[[i]])) {
      out[[i]][gap] <- as.numeric(levels(values[[i]])[grid[[i]][gap]])
    }
  }
  counted <- as.data.frame(stats::setNames(out, columns), stringsAsFactors = FALSE, optional = TRUE)
  counted$n <- as.integer(n)
  if (!empty) counted <- counted[counted$n > 0, , drop = FALSE]
  rownames(counted) <- NULL
  counted
}
