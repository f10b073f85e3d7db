# A table as the bytes of a CSV file: UTF-8, text in quotes, missing values empty, numbers with a
# point, by data.table's writer.
csv_bytes <- function(table) {
  path <- tempfile(fileext = ".csv")
  on.exit(unlink(path))
  table[] <- lapply(table, function(column) if (is.character(column)) enc2utf8(column) else column)
  data.table::fwrite(
    table, path, quote = TRUE, na = "", dec = ".", encoding = "UTF-8", bom = FALSE, showProgress = FALSE
  )
  file_bytes(path)
}
