#' A table that stays in its database
#'
#' A table that is too large for R stays where it is: a figure asks the database for what it draws,
#' such as counts and means by group, and fetches no more than 200,000 rows. It takes the place of a
#' data frame in [panel()], [facets()], [joint()] and [every_pair()].
#'
#' @eval argument_lines("table_in")
#' @return A table of class `nelvat_source`.
#' @details Of up to 200,000 rows, the rows that a figure needs are fetched, and all inks draw them.
#'   Of more, the database is asked: by [ink_histogram()] for a count a bin, by [ink_bars()],
#'   [ink_centre()] and [ink_line()] of means (errors `"sd"`, `"se"`, `"ci"`, `"range"`, `"none"`)
#'   for the moments of each group, by [ink_hexagons()] and [ink_bins()] for counts on a fine grid,
#'   by [ink_box()], [ink_violin()], [ink_density()], [ink_ridges()], [ink_cumulative()] and medians
#'   with their quartiles for counts of up to 10,000 classes of each group (exact where values are
#'   few), by [ink_fit()] of a line and [correlations()] for sums, by [ink_contrasts()] for moments
#'   where its test is of means (`"welch"`, `"student"`, `"tukey"`, `"dunnett"`, analyses of
#'   variance). [every_pair()] asks for each two columns and for each alone; of several columns on y
#'   each is asked for by itself. Other inks, sums on logarithmic
#'   axes and running statistics are refused with what can be done.
#'
#'   Moments are of differences from the mean, so that values far from zero keep their digits.
#'   Quartiles, from which the width of bins follows, are exact: found by counting in ever finer
#'   classes. `keep` and `derive` may hold `+ - * / ^`, comparisons, `& | !`, `%in%`, `is.na()`,
#'   `abs()`, `sqrt()`, `exp()`, `log()`, `log2()`, `log10()`, `floor()`, `ceiling()`, `%%`, `%/%`,
#'   `ifelse()` and [in_bins()] (of hours, days and weeks), and mean in the database what they mean
#'   in R.
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
  parted_by = NULL,
  ...
) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_needed(table_in, "table_in", call)
  need_package("DBI", "Asking a database", call)
  check_fields_said(fields, call)
  checked_argument("table_in", "sample", sample, call)
  opened <- opened_source(connection, table, call)
  book <- if (!is.null(codebook)) read_codebook(codebook, call)
  said <- merged_fields(book$fields, fields)
  head <- engine_rows(opened, paste0("SELECT * FROM ", opened$from, " LIMIT 1000"), call)
  head[] <- lapply(head, iso_text_to_moment)
  for (column in names(said)) check_column(column, head, opened$label, call)
  check_askable_fields(said, call)
  if (!is.null(parted_by)) {
    check_string(parted_by, "parted_by", call = call)
    check_column(parted_by, head, opened$label, call, "It is asked for by `parted_by`.")
  }
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
        absent = absent_values(names(head), said, book$missing_values),
        document = book$document,
        sample = sample,
        parted_by = parted_by,
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

# What takes a table that stays in its database, too, and what does not.
table_or_codebook <- function(data, label, call) {
  if (is_source(data)) data else as_codebook(data, label, call)
}

abort_stays <- function(source, call) {
  abort_nelvat(
    "engine",
    c(
      paste0("\"", source$label, "\" stays in its database, and is not read whole."),
      i = paste0(
        "`panel()`, `facets()` of one, `joint()` and `every_pair()` ask it for what they draw; ",
        "read a table with ",
        "`read_data()` for all else."
      )
    ),
    call
  )
}

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
  engine <- if (inherits(connection, "SQLiteConnection")) {
    "sqlite"
  } else if (inherits(connection, "PqConnection")) {
    "postgres"
  } else {
    "other"
  }
  found <- found_table(connection, table, engine, call)
  list(
    connection = connection,
    from = found$from,
    label = if (is.null(path)) found$table else sub("[.][^.]*([.]gz)?$", "", basename(path)),
    engine = engine,
    path = path
  )
}

# list(table, from: the quoted name) of a table or view that is there; of a server also
# "schema.table", and what it does not list, such as materialised views.
found_table <- function(connection, table, engine, call) {
  there <- tryCatch(
    DBI::dbListTables(connection),
    error = function(error) abort_engine("Listing its tables", error, call)
  )
  if (is.null(table) && length(there) == 1) table <- there
  check_string(table, "table", call = call)
  name <- as.character(DBI::dbQuoteIdentifier(connection, table))
  if (table %in% there) return(list(table = table, from = name))
  names <- c(name, schema_table(connection, table))
  if (engine == "postgres") {
    for (one in names) {
      known <- tryCatch(
        DBI::dbGetQuery(connection, "SELECT to_regclass($1) IS NOT NULL AS known", list(one)),
        error = function(error) abort_engine("Looking for the table", error, call)
      )
      if (isTRUE(known$known)) return(list(table = table, from = one))
    }
  }
  abort_nelvat(
    "column",
    c(paste0("The database has no table \"", table, "\"."), offer(table, there, "table")),
    call
  )
}

schema_table <- function(connection, table) {
  parts <- strsplit(table, ".", fixed = TRUE)[[1]]
  if (length(parts) != 2 || !all(nzchar(parts))) return(NULL)
  paste(DBI::dbQuoteIdentifier(connection, parts), collapse = ".")
}

# Texts that a database holds are compared as they are; how numbers are written in them cannot be
# said.
check_askable_fields <- function(fields, call) {
  for (column in names(fields)) {
    odd <- intersect(c("groupChar", "decimalChar", "bareNumber"), names(fields[[column]]))
    if (!length(odd)) next
    abort_nelvat(
      "argument",
      c(
        paste0("`", odd[1], "` is for files that are read."),
        x = paste0("It is said of \"", column, "\", which stays in its database.")
      ),
      call
    )
  }
}

# What stands for no value, by column: what its field says, and the codebook of all.
absent_values <- function(columns, fields, for_all) {
  each <- lapply(stats::setNames(nm = columns), function(column) {
    unique(c(as.character(unlist(fields[[column]][["missingValues"]])), for_all))
  })
  Filter(length, each)
}

# A connection that was opened here is closed when nothing holds its table any more.
closed_in_the_end <- function(held_by, connection) {
  reg.finalizer(
    held_by,
    function(gone) if (DBI::dbIsValid(connection)) DBI::dbDisconnect(connection),
    onexit = TRUE
  )
}

#' @export
print.nelvat_source <- function(x, ...) {
  book <- new_codebook(x$head, x$kinds, label = x$label)
  cat("Table ", x$label, " in a database (its first rows):\n", sep = "")
  print(book)
  invisible(x)
}
