# A table as the bytes of a CSV file: UTF-8, text in quotes, missing values empty, numbers with a
# point, by data.table's writer. Text that a spreadsheet would take for a formula gets an
# apostrophe before it, which spreadsheets read as "this is text".
csv_bytes <- function(table) {
  path <- tempfile(fileext = ".csv")
  on.exit(unlink(path))
  table[] <- lapply(
    table,
    function(column) {
      if (is.character(column) || is.factor(column)) as_text_cells(column) else column
    }
  )
  names(table) <- as_text_cells(names(table))
  data.table::fwrite(
    table,
    path,
    quote = TRUE,
    na = "",
    dec = ".",
    bom = FALSE,
    showProgress = FALSE
  )
  file_bytes(path)
}

as_text_cells <- function(cells) {
  cells <- printable(enc2utf8(as.character(cells)))
  formula <- grepl("^[=+@\t\r-]", cells) & is.na(suppressWarnings(as.numeric(cells)))
  ifelse(formula & !is.na(cells), paste0("'", cells), cells)
}
