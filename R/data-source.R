#' A table that stays in its database
#'
#' A table that is too large for R stays where it is: a figure asks the database for what it draws,
#' such as counts and means by group, and fetches no more than 200,000 rows. It takes the place of a
#' data frame in [panel()], [facets()] and [joint()].
#'
#' @param connection A connection of package DBI, the path of an SQLite file (opened for reading
#'   only), or of a `.csv`, `.tsv` or `.txt` file (also with `.gz` added), which is read piece by
#'   piece into a temporary database.
#' @param table Name of the table or view; not for text files.
#' @param codebook Path of a codebook file, or `NULL`.
#' @param fields What columns mean, besides a codebook: see [read_data()].
#' @param sample `NULL`, or rows to be drawn in place of all: [sample_of()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A table of class `nelvat_source`.
#' @details Of up to 200,000 rows, the rows that a figure needs are fetched, and all inks draw them.
#'   Of more, the database is asked: by [ink_histogram()] for a count a bin, by [ink_bars()],
#'   [ink_centre()] and [ink_line()] of means (errors `"sd"`, `"se"`, `"ci"`, `"range"`, `"none"`)
#'   for the moments of each group, by [ink_hexagons()] and [ink_bins()] for counts on a fine grid.
#'   Other inks, logarithmic axes and running statistics are refused with what can be done.
#'
#'   Moments are of differences from the mean, so that values far from zero keep their digits.
#'   Quartiles, from which the width of bins follows, are exact: found by counting in ever finer
#'   classes. `keep` and `derive` may hold `+ - * / ^`, comparisons, `& | !`, `%in%`, `is.na()`,
#'   `abs()`, `sqrt()`, `exp()`, `log()`, `log2()`, `log10()`, `floor()`, `ceiling()`, `%%`, `%/%`
#'   and `ifelse()`, and mean in the database what they mean in R.
#' @section Errors: `nelvat_error_argument` for an argument of another sort; `nelvat_error_file` for
#'   a file that is not there; `nelvat_error_column` for a table or column that is not there;
#'   `nelvat_error_engine` for a question that the database could not answer, or that it cannot be
#'   asked; `nelvat_error_package` where DBI or RSQLite is not installed.
#' @examples
#' if (requireNamespace("RSQLite", quietly = TRUE)) {
#'   probe <- table_in(study_file("probe.csv.gz"))
#'   plate(panel(probe, x = chamber, ink_histogram()), width = 86)
#' }
#' @export
table_in <- function(
  connection,
  table = NULL,
  codebook = NULL,
  fields = NULL,
  sample = NULL,
  ...
) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_needed(table_in, "table_in", call)
  need_package("DBI", "Asking a database", call)
  check_fields_said(fields, call)
  if (!is.null(sample) && !inherits(sample, "nelvat_sample")) {
    abort_nelvat(
      "argument",
      c("`sample` must be `sample_of()`.", x = paste0("Found ", describe_value(sample), ".")),
      call
    )
  }
  opened <- opened_source(connection, table, call)
  book <- if (!is.null(codebook)) read_codebook(codebook, call)
  said <- merged_fields(book$fields, fields)
  head <- engine_rows(opened, paste0("SELECT * FROM ", opened$from, " LIMIT 1000"), call)
  head[] <- lapply(head, iso_text_to_moment)
  for (column in names(said)) check_column(column, head, opened$label, call)
  kinds <- lapply(stats::setNames(nm = names(said)), function(column) {
    field_kind(typed_field(said[[column]], head[[column]]))
  })
  answers <- new.env(parent = emptyenv())
  if (!is.null(opened$path)) closed_in_the_end(answers, opened$connection)
  structure(
    c(
      opened,
      list(
        head = head,
        answers = answers,
        # What a reader of names finds: the first rows.
        data = head,
        columns = new_codebook(head, kinds, label = opened$label, call = call)$columns,
        kinds = kinds,
        document = book$document,
        sample = sample,
        derive = list(),
        keep = list()
      )
    ),
    class = "nelvat_source"
  )
}

#' A sample of the rows of a large table
#'
#' For inks that draw rows, of a table that has too many: see [table_in()]. The same rows are taken
#' each time; how many of how many is told beside the figure.
#'
#' @param n How many rows, at most 200,000.
#' @param seed A whole number: another one gives other rows.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return What `sample =` of [table_in()] takes.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits.
#' @examples
#' sample_of(5000)
#' @export
sample_of <- function(n, seed = 1, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(sample_of, "sample_of", call)
  check_type(a_number(1, most_fetched, whole = TRUE), n, "n", call)
  check_type(a_number(0, 1e6, whole = TRUE), seed, "seed", call)
  structure(list(n = n, seed = seed), class = "nelvat_sample")
}

most_fetched <- 200000 # rows that a figure fetches, or groups that it asks for

is_source <- function(x) inherits(x, "nelvat_source")

# list(connection, from: the quoted name, label, engine, path).
opened_source <- function(connection, table, call) {
  path <- NULL
  if (rlang::is_string(connection)) {
    need_package("RSQLite", "Asking an SQLite file", call)
    check_file(connection, "data", call)
    path <- connection
    text_file <- grepl("[.](csv|tsv|txt)([.]gz)?$", connection)
    if (text_file) {
      if (!is.null(table)) {
        abort_nelvat(
          "argument",
          c("`table` is for databases.", x = "A text file is one table."),
          call
        )
      }
      made <- text_in_engine(connection, call)
      connection <- made$connection
      table <- made$table
    } else {
      connection <- tryCatch(
        DBI::dbConnect(
          RSQLite::SQLite(),
          connection,
          flags = RSQLite::SQLITE_RO,
          bigint = "numeric"
        ),
        error = function(error) abort_engine("Opening the file", error, call)
      )
    }
  }
  if (!inherits(connection, "DBIConnection") || !DBI::dbIsValid(connection)) {
    abort_nelvat(
      "argument",
      c(
        "`connection` must be an open connection of package DBI, or the path of a file.",
        x = paste0("Found ", describe_value(connection), ".")
      ),
      call
    )
  }
  there <- tryCatch(
    DBI::dbListTables(connection),
    error = function(error) abort_engine("Listing its tables", error, call)
  )
  if (is.null(table) && length(there) == 1) table <- there
  check_string(table, "table", call = call)
  if (!table %in% there) {
    abort_nelvat(
      "column",
      c(paste0("The database has no table \"", table, "\"."), offer(table, there, "table")),
      call
    )
  }
  list(
    connection = connection,
    from = as.character(DBI::dbQuoteIdentifier(connection, table)),
    label = if (is.null(path)) table else sub("[.][^.]*([.]gz)?$", "", basename(path)),
    engine = if (inherits(connection, "SQLiteConnection")) "sqlite" else "other",
    path = path
  )
}

abort_engine <- function(what, error, call) {
  abort_nelvat(
    "engine",
    c(
      paste0(what, " did not succeed."),
      x = paste0("The database says: ", trimws(conditionMessage(error)), "."),
      i = "Nothing was written."
    ),
    call
  )
}

# The answer to a question, a data frame; counts as doubles.
engine_rows <- function(source, question, call, what = "Asking the database") {
  if (!DBI::dbIsValid(source$connection)) {
    abort_nelvat(
      "engine",
      c(
        paste0("The connection to \"", source$label, "\" is closed."),
        i = "Open it again, and make the table anew with `table_in()`."
      ),
      call
    )
  }
  id <- rlang::hash(question)
  if (!is.null(source$answers[[id]])) return(source$answers[[id]])
  answer <- tryCatch(
    withCallingHandlers(
      DBI::dbGetQuery(source$connection, question),
      # A column whose first values are missing is told of; its values are read.
      warning = function(warning) invokeRestart("muffleWarning")
    ),
    error = function(error) abort_engine(what, error, call)
  )
  answer[] <- lapply(answer, function(values) {
    if (inherits(values, "integer64") || is.integer(values)) as.numeric(values)
    else if (is.character(values)) enc2utf8(values)
    else values
  })
  # What was asked is known, as long as the table has as many rows.
  if (!is.null(source$answers) && nrow(answer) <= most_known) assign(id, answer, source$answers)
  answer
}

most_known <- 20000 # rows of an answer that is kept

# Forgets what was asked of a table that has changed since, by its number of rows.
refreshed_source <- function(source, call) {
  question <- paste0("SELECT COUNT(*) AS n FROM ", source$from)
  n <- engine_rows(changed(source, answers = NULL), question, call, "Counting the rows")$n
  if (!identical(source$answers[["rows"]], n)) {
    rm(list = ls(source$answers), envir = source$answers)
    assign("rows", n, source$answers)
  }
  source
}

# A connection that was opened here is closed when nothing holds its table any more.
closed_in_the_end <- function(held_by, connection) {
  reg.finalizer(
    held_by,
    function(gone) if (DBI::dbIsValid(connection)) DBI::dbDisconnect(connection),
    onexit = TRUE
  )
}

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

#' @export
print.nelvat_source <- function(x, ...) {
  book <- new_codebook(x$head, x$kinds, label = x$label)
  cat("Table ", x$label, " in a database (its first rows):\n", sep = "")
  print(book)
  invisible(x)
}
