#' Read a table
#'
#' Reads comma- or tab-separated text (also gzipped), a sheet of a spreadsheet, or a
#' Parquet file, and gives it the meaning a codebook file says. Dates and times in
#' ISO 8601 are recognised; other forms are declared by `moment(format = )` or the
#' codebook's `format`.
#'
#' @param path Path of a `.csv`, `.tsv` (also with `.gz` added), `.xlsx`, `.xls` or
#'   `.parquet` file.
#' @param codebook Path of a codebook file (a Frictionless Table Schema document
#'   in YAML or JSON), or `NULL`.
#' @param sheet,range Sheet of a spreadsheet, by name or number, and cells of it, such
#'   as `"B2:F40"`.
#' @param encoding `"UTF-8"` (with or without byte order mark) or `"latin1"`, of text
#'   files.
#' @param zone Time zone of times that bear no offset; `NULL`: UTC.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A [codebook()].
#' @section Errors:
#' `nelvat_error_file` where a file is not there, is empty, has rows of unlike length
#' or columns of the same name; `nelvat_error_encoding` for text that is not in the
#' encoding; `nelvat_error_package` where the reader of a format is not installed;
#' the errors of [codebook()]. A warning tells of columns that hold numbers as text.
#' @examples
#' read_data(study_file("loaves.csv"), codebook = study_file("loaves.codebook.yaml"))
#' @export
read_data <- function(path, codebook = NULL, sheet = NULL, range = NULL, encoding = "UTF-8", zone = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_string(path, "path")
  check_choice(encoding, c("UTF-8", "latin1"), "encoding")
  check_zone(zone, call)
  check_file(path, "data", call)
  book <- if (!is.null(codebook)) read_codebook(codebook, call)
  table <- read_table(path, sheet, range, encoding, zone, book$missing_values, as_text_columns(book$kinds), call)
  for (column in names(book$kinds)) {
    check_column(column, table, paste0("\"", path, "\""), call, paste0("\"", codebook, "\" describes it."))
  }
  warn_numbers_as_text(table, book$kinds, path)
  attr(table, "texts") <- NULL
  label <- sub("[.](csv|tsv|txt|xlsx?|parquet)([.]gz)?$", "", basename(path))
  new_codebook(table, book$kinds %||% list(), label = label, call = call, document = book$document)
}

table_formats <- c(
  csv = "delimited", tsv = "delimited", txt = "delimited", xlsx = "sheet", xls = "sheet", parquet = "parquet"
)

read_table <- function(path, sheet, range, encoding, zone, missing_values, as_text, call) {
  if (file.size(path) == 0) abort_nelvat("file", c(paste0("The data file \"", path, "\" is empty.")), call)
  ending <- tolower(tools::file_ext(sub("[.]gz$", "", path)))
  if (!ending %in% names(table_formats)) {
    abort_nelvat("file", c(
      paste0("The data file \"", path, "\" is of no known form."), x = paste0("It ends in \".", ending, "\"."),
      i = paste0("Known endings are ", quoted(paste0(".", names(table_formats))), ".")
    ), call)
  }
  form <- table_formats[[ending]]
  if (form != "sheet" && !(is.null(sheet) && is.null(range))) {
    abort_nelvat(
      "argument", c("`sheet` and `range` are for spreadsheets.", x = paste0("\"", path, "\" is none.")), call
    )
  }
  table <- switch(form,
    delimited = read_delimited(path, encoding, zone, missing_values, as_text, call),
    sheet = read_sheet(path, sheet, range, missing_values, call),
    parquet = read_parquet(path, call)
  )
  check_column_names(names(table), path, call)
  table
}

check_column_names <- function(names, path, call) {
  twice <- unique(names[duplicated(names) & nzchar(names)])
  if (length(twice)) {
    abort_nelvat("file", c(
      paste0("Columns of \"", path, "\" have the same name."),
      x = paste0("More than one is called ", quoted(twice), "."),
      i = "Give each column a name of its own in the file."
    ), call)
  }
}

# Columns that must stay text until their kind reads them.
as_text_columns <- function(kinds) {
  names(Filter(function(kind) kind$kind == "moment" && !is.null(kind$format), kinds))
}

# Columns of text of which at least half reads as numbers, and of which nothing was
# said, are pointed out once with their first offending value.
warn_numbers_as_text <- function(table, kinds, path) {
  told <- lapply(setdiff(names(table), names(kinds)), function(column) {
    found <- numbers_as_text(table[[column]], attr(table, "texts")[[column]])
    if (!is.null(found)) {
      paste0(
        "\"", column, "\": ", found$n_text, " of ", found$n, " values are no numbers, the first \"", found$first,
        "\" in row ", found$row
      )
    }
  })
  told <- unlist(told)
  if (!length(told)) return(invisible())
  warn_nelvat("text", c(
    paste0(counted(length(told), "column"), " of \"", path, "\" hold", if (length(told) == 1) "s", " numbers as text:"),
    stats::setNames(told, rep("*", length(told))),
    i = "Mend the values, or name them among the codebook's missing values."
  ))
}

# NULL, or what keeps a column of text from being numbers.
numbers_as_text <- function(values, found = NULL) {
  if (!is.character(values)) return(NULL)
  found <- found %||% text_levels_cpp(values)
  present <- found$levels
  is_number <- !is.na(suppressWarnings(as.numeric(present)))
  if (!any(is_number) || mean(is_number) < 0.5) return(NULL)
  text <- which(values %in% present[!is_number])
  n <- sum(found$n)
  if (length(text) > n / 2) return(NULL)
  list(n = n, n_text = length(text), first = if (length(text)) values[text[1]], row = text[1])
}
