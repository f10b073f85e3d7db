#' Read a table
#'
#' Reads comma- or tab-separated text, also gzipped, and gives it the meaning a
#' codebook file says.
#'
#' @param path Path of a `.csv` or `.tsv` file, or one of these with `.gz` added.
#' @param codebook Path of a codebook file (a Frictionless Table Schema document
#'   in YAML or JSON), or `NULL`.
#' @return A [codebook()].
#' @section Errors:
#' `nelvat_error_file` where a file is not there or is empty; the errors of
#' [codebook()].
#' @examples
#' read_data(study_file("loaves.csv"), codebook = study_file("loaves.codebook.yaml"))
#' @export
read_data <- function(path, codebook = NULL) {
  check_string(path, "path")
  check_file(path, "data", rlang::current_env())
  book <- if (!is.null(codebook)) read_codebook(codebook)
  data <- read_delimited(path, book$missing_values %||% c("", "NA"))
  for (column in names(book$kinds)) {
    check_column(column, data, paste0("\"", path, "\""), rlang::current_env(), paste0("\"", codebook, "\" describes it."))
  }
  new_codebook(data, book$kinds %||% list(), label = sub("[.](csv|tsv)([.]gz)?$", "", basename(path)))
}

read_delimited <- function(path, missing_values, call = rlang::caller_env()) {
  if (file.size(path) == 0) abort_nelvat("file", paste0("The data file \"", path, "\" is empty."), call)
  plain <- if (grepl("[.]gz$", path)) gunzipped(path) else path
  if (plain != path) on.exit(unlink(plain))
  data <- data.table::fread(
    plain, na.strings = missing_values, data.table = FALSE, showProgress = FALSE,
    sep = if (grepl("[.]tsv", path)) "\t" else "auto", header = TRUE
  )
  data[] <- lapply(data, function(values) {
    if (inherits(values, "IDate")) as.Date(values) else if (inherits(values, "integer64")) as.numeric(values) else values
  })
  data
}

# A gzipped file written out plain, a megabyte at a time.
gunzipped <- function(path) {
  plain <- tempfile(fileext = ".txt")
  from <- gzfile(path, "rb")
  to <- file(plain, "wb")
  on.exit({
    close(from)
    close(to)
  })
  while (length(piece <- readBin(from, "raw", 2^20))) writeBin(piece, to)
  plain
}
