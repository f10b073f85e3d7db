# Text files that are too large to be read whole, in a temporary database.

# A text file in a temporary database, a piece at a time.
text_in_engine <- function(path, call) {
  reading <- list(encoding = "UTF-8", said = list())
  plain <- plain_text_file(path, reading, call)
  on.exit(if (plain != path) unlink(plain))
  layout <- text_layout(plain, path, list(), call)
  check_column_names(layout$names, path, call)
  store <- tempfile(fileext = ".sqlite")
  connection <- DBI::dbConnect(RSQLite::SQLite(), store, bigint = "numeric")
  from <- file(plain, "r", encoding = "UTF-8")
  on.exit(close(from), add = TRUE)
  skipped <- if (is.finite(layout$start)) layout$start - 1 else 0
  if (skipped > 0) readLines(from, skipped, warn = FALSE)
  sorts <- NULL
  line_at <- skipped
  while (length(lines <- readLines(from, piece_lines, warn = FALSE))) {
    piece <- piece_table(lines, layout, path, line_at, call)
    sorts <- check_piece_sorts(piece, sorts, path, line_at, call)
    DBI::dbWriteTable(connection, "rows", piece, append = line_at > skipped)
    line_at <- line_at + length(lines)
  }
  list(connection = connection, table = "rows")
}

piece_lines <- 200000

piece_table <- function(lines, layout, path, at, call) {
  piece <- tryCatch(
    data.table::fread(
      text = lines,
      header = FALSE,
      sep = layout$separator,
      dec = layout$decimal,
      na.strings = c("", "NA"),
      integer64 = "double",
      data.table = FALSE,
      showProgress = FALSE
    ),
    error = identity,
    warning = identity
  )
  if (is.data.frame(piece) && ncol(piece) == length(layout$names)) {
    dated <- vapply(piece, inherits, NA, c("Date", "POSIXct"))
    piece[dated] <- lapply(piece[dated], as.character)
    # A later piece may hold parts of whole numbers.
    piece[] <- lapply(
      piece,
      function(values) if (is.integer(values)) as.numeric(values) else values
    )
    return(stats::setNames(piece, layout$names))
  }
  abort_nelvat(
    "file",
    c(
      paste0("Rows of \"", path, "\" have unlike numbers of columns."),
      x = paste0(
        "Lines ",
        count_text(at + 1),
        " to ",
        count_text(at + length(lines)),
        " do not all have ",
        counted(length(layout$names), "field"),
        "."
      ),
      i = "A field of several lines cannot be read piece by piece."
    ),
    call
  )
}

# A column is of one sort in all pieces.
check_piece_sorts <- function(piece, sorts, path, at, call) {
  found <- vapply(
    piece,
    function(values) {
      if (all(is.na(values))) NA else is.numeric(values)
    },
    NA
  )
  if (is.null(sorts)) return(found)
  unlike <- which(!is.na(sorts) & !is.na(found) & sorts != found)
  if (!length(unlike)) return(ifelse(is.na(sorts), found, sorts))
  abort_nelvat(
    "file",
    c(
      paste0("Column \"", names(piece)[unlike[1]], "\" of \"", path, "\" is of unlike sorts."),
      x = paste0(
        "From line ",
        count_text(at + 1),
        " on it holds ",
        if (found[unlike[1]]) "numbers" else "text",
        ", before it holds ",
        if (found[unlike[1]]) "text" else "numbers",
        "."
      )
    ),
    call
  )
}
