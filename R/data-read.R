#' Read a table
#'
#' Reads comma-, semicolon- or tab-separated text (also gzipped), a sheet of a spreadsheet, or a
#' Parquet file, and gives it the meaning a codebook file says. What was found and not said, such as
#' title lines above the header, is told in a message.
#'
#' @eval argument_lines("read_data")
#' @return A [codebook()].
#' @details Dates and times in ISO 8601 are recognised, and columns all of whose values are as
#'   `03.11.2026`, `3 Nov 2026`, `2026/11/03` or `28/02/2026`, with or without a time; where day and
#'   month cannot be told apart they stay text and a warning asks. Columns with leading zeros, and
#'   whole numbers of more than 15 digits, are identifiers and stay text, as do columns that a
#'   codebook calls `string`. A header with one name less than the rows have fields leaves the first
#'   to be the rows' names.
#' @section Errors:
#' `nelvat_error_file` where a file is not there, is empty, has rows of unlike length, no header
#' or columns of the same name; `nelvat_error_encoding` for text that is not in the
#' encoding; `nelvat_error_package` where the reader of a format is not installed;
#' the errors of [codebook()]. A warning tells of columns that hold numbers as text.
#' @examples
#' read_data(study_file("loaves.csv"), codebook = study_file("loaves.codebook.yaml"))
#' @export
read_data <- function(
  path = NULL,
  codebook = NULL,
  sheet = NULL,
  range = NULL,
  encoding = "UTF-8",
  zone = NULL,
  skip = NULL,
  comment = NULL,
  names = NULL,
  files = NULL,
  fields = NULL,
  ...
) {
  local_number_options()
  call <- rlang::current_env()
  said_arguments("read_data", ...)
  check_zone(zone, call)
  check_names_given(names, call)
  check_fields_said(fields, call)
  paths <- data_paths(path, files, call)
  reading <- list(
    sheet = sheet,
    range = range,
    encoding = encoding,
    zone = zone,
    said = list(skip = skip, comment = comment, names = names)
  )
  read_book(paths, !is.null(files), codebook, reading, fields, call)
}

# The files of a table with what its codebook says, and what is said besides: fields by column, as a
# codebook has them.
read_book <- function(paths, several, codebook, reading, said, call) {
  book <- if (!is.null(codebook)) read_codebook(codebook, call)
  fields <- merged_fields(book$fields, said)
  reading$missing_values <- book$missing_values
  reading$as_text <- names(fields)[stays_text(fields)]
  # What no type is said of is read as it is found, where no codebook knows it.
  untyped <- Filter(function(column) is.null(fields[[column]][["type"]]), names(said))
  reading$declared <- setdiff(names(fields)[!vapply(fields, is_open_field, NA)], untyped)
  reading$settled <- names(fields)[vapply(fields, is_settled, NA)]
  table <- read_tables(paths, several, reading, call)
  described_table(
    table,
    book,
    fields,
    names(said),
    list(codebook = codebook, path = paths[1]),
    call
  )
}

# Fields by column: a codebook's, and those that are said besides, which go before.
merged_fields <- function(fields, said) {
  for (column in names(said)) {
    before <- fields[[column]]
    now <- c(list(name = column), said[[column]])
    fields[[column]] <- c(now, before[setdiff(names(before), names(now))])
  }
  fields
}

# Keys that say what is to be thought of odd values.
settling_keys <- c(
  "missingValues", "constraints", "groupChar", "decimalChar", "bareNumber", "categories", "format"
)
is_settled <- function(field) any(settling_keys %in% names(field))

#' @export
word_rows.read_data <- function(word) {
  list(
    path = a_text(
      or_null = TRUE,
      says = c(
        "Path of a `.csv`, `.tsv`, `.txt` (also with `.gz` added), `.xlsx`, `.xls` or",
        "`.parquet` file."
      )
    ),
    codebook = a_text(
      or_null = TRUE,
      says = c(
        "Path of a codebook file (a Frictionless Table Schema document in YAML or JSON), or",
        "`NULL`."
      )
    ),
    sheet = either(
      a_text(),
      a_number(1, whole = TRUE),
      or_null = TRUE,
      says = 'Sheet of a spreadsheet, by name or number, and cells of it, such as `"B2:F40"`.'
    ),
    range = a_text(
      or_null = TRUE,
      says = 'Sheet of a spreadsheet, by name or number, and cells of it, such as `"B2:F40"`.'
    ),
    encoding = a_text(
      says = c(
        'Encoding of text files: `"UTF-8"` (with or without byte order mark), or any name of',
        '[iconvlist()], such as `"latin1"` or `"UTF-16"`.'
      )
    ),
    zone = a_text(or_null = TRUE, says = "Time zone of times that bear no offset; `NULL`: UTC."),
    skip = a_number(
      0,
      1e6,
      whole = TRUE,
      or_null = TRUE,
      says = c(
        "How many lines stand above the header; `NULL`: as many as have another number of",
        "fields than the rows."
      )
    ),
    comment = a_text(
      or_null = TRUE,
      says = c(
        'What lines to be passed over begin with, such as `"%"`; `NULL`: `"#"` above the',
        "header."
      )
    ),
    names = texts(or_null = TRUE, says = "Names of the columns, for a file that has no header."),
    files = texts(
      or_null = TRUE,
      says = c(
        "In place of `path`: several files of the same columns, as a pattern",
        '(`"plate-*.csv"`) or paths; the table has a column `file` with the name of each.'
      )
    ),
    fields = fields_said(
      c(
        "What columns mean, besides a codebook or in place of one: lists of the keys of its fields",
        "by column, such as",
        '`list(temp_C = list(title = "Temperature", unit = "\u00b0C", missingValues = 85))`.'
      )
    )
  )
}

# A moment whose form is not declared is read as it is found.
is_open_field <- function(field) {
  isTRUE(field[["type"]] %in% c("date", "datetime", "time")) &&
    is.null(field_format(field[["format"]]))
}

check_names_given <- function(names, call) {
  if (
    is.null(names) || is.character(names) && length(names) && !anyNA(names) && all(nzchar(names))
  ) {
    return(invisible())
  }
  abort_nelvat(
    "argument",
    c(
      "`names` must be the names of the columns.",
      x = paste0("Found ", describe_value(names), ".")
    ),
    call
  )
}

# A table with what is said of its columns; said: those of which it is said beside the codebook;
# from: list(codebook, path).
described_table <- function(table, book, fields, said, from, call) {
  units <- attr(table, "units")
  attr(table, "units") <- NULL
  for (column in names(fields)) {
    said_in <- if (!is.null(from$codebook)) paste0("\"", from$codebook, "\" describes it.")
    check_column(column, table, paste0("\"", from$path, "\""), call, said_in)
    table[[column]] <- field_values(table[[column]], fields[[column]])
  }
  text_columns <- names(fields)[stays_text(fields)]
  table[text_columns] <- lapply(table[text_columns], function(values) {
    if (is.character(values) || inherits(values, c("Date", "POSIXct"))) {
      values
    } else {
      as.character(values)
    }
  })
  kinds <- c(
    book$kinds[setdiff(names(book$kinds), said)],
    lapply(stats::setNames(nm = said), function(column) {
      with_place(
        paste0("fields, \"", column, "\""),
        field_kind(typed_field(fields[[column]], table[[column]])),
        call
      )
    })
  )
  for (column in setdiff(names(units), names(kinds))) {
    if (is.numeric(table[[column]])) kinds[[column]] <- quantity(unit = units[[column]])
  }
  label <- sub("[.](csv|tsv|txt|xlsx?|parquet)([.]gz)?$", "", basename(from$path))
  new_codebook(table, kinds, label = label, call = call, document = book$document)
}

table_formats <- c(
  csv = "delimited", tsv = "delimited", txt = "delimited", xlsx = "sheet", xls = "sheet",
  parquet = "parquet"
)

# The table of one file; attributes: levels of its columns of text, what was found, dates to ask
# about.
read_table <- function(path, reading, call) {
  if (file.size(path) == 0) {
    abort_nelvat("file", c(paste0("The data file \"", path, "\" is empty.")), call)
  }
  ending <- tolower(tools::file_ext(sub("[.]gz$", "", path)))
  if (!ending %in% names(table_formats)) {
    abort_nelvat(
      "file",
      c(
        paste0("The data file \"", path, "\" is of no known form."),
        x = paste0("It ends in \".", ending, "\"."),
        i = paste0("Known endings are ", quoted(paste0(".", names(table_formats))), ".")
      ),
      call
    )
  }
  form <- table_formats[[ending]]
  check_form(form, path, reading, call)
  table <- switch(
    form,
    delimited = read_delimited(path, reading, call),
    sheet = read_sheet(path, reading, call),
    parquet = read_parquet(path, call)
  )
  check_column_names(names(table), path, call)
  if (form == "parquet") {
    table
  } else {
    with_dates(table, c(reading$declared, reading$as_text), reading$zone)
  }
}

# What was said of a file must suit its form.
check_form <- function(form, path, reading, call) {
  given <- Filter(Negate(is.null), c(reading[c("sheet", "range")], reading$said))
  fitting <- list(
    delimited = c("skip", "comment", "names"),
    sheet = c("sheet", "range", "skip", "names"),
    parquet = character()
  )
  stray <- setdiff(names(given), fitting[[form]])
  if (!length(stray)) return(invisible())
  forms <- c(
    sheet = "spreadsheets", range = "spreadsheets", skip = "text and spreadsheets",
    comment = "text",
    names = "text and spreadsheets"
  )
  abort_nelvat(
    "argument",
    c(
      paste0("`", stray[1], "` is for ", forms[[stray[1]]], "."),
      x = paste0("\"", path, "\" is none.")
    ),
    call
  )
}

told_table <- function(table, path, told) structure(table, told = told)

# What was found of a file and not said, once.
tell_reading <- function(table, path) {
  told <- attr(table, "told")
  if (length(told)) {
    inform_once(c(paste0("Reading \"", path, "\":"), stats::setNames(told, rep("*", length(told)))))
  }
}

# A table whose columns of one name hold the same is read once; others of one name are an error.
# called: the names as the file has them.
without_repeats <- function(table, called, path, call) {
  again <- which(duplicated(called) & nzchar(called))
  if (!length(again)) return(table)
  same <- vapply(
    again,
    function(i) {
      identical(as.character(table[[i]]), as.character(table[[match(called[i], called)]]))
    },
    NA
  )
  if (!all(same)) check_column_names(called, path, call)
  told <- paste0("read once, as they hold the same: columns called ", quoted(unique(called[again])))
  texts <- attr(table, "texts")
  structure(
    table[-again],
    told = c(attr(table, "told"), told),
    texts = texts[setdiff(names(texts), names(table)[again])],
    units = attr(table, "units")
  )
}

check_column_names <- function(names, path, call) {
  twice <- unique(names[duplicated(names) & nzchar(names)])
  if (length(twice)) {
    abort_nelvat(
      "file",
      c(
        paste0("Columns of \"", path, "\" have the same name."),
        x = paste0("More than one is called ", quoted(twice), "."),
        i = "Give each column a name of its own in the file."
      ),
      call
    )
  }
}
