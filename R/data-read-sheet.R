# Spreadsheets and Parquet, by packages that are installed when wanted.


read_sheet <- function(path, sheet, range, missing_values, call) {
  need_package("readxl", "Reading spreadsheets", call)
  sheets <- tryCatch(readxl::excel_sheets(path), error = function(error) {
    abort_nelvat(
      "file", c(paste0("\"", path, "\" cannot be read as a spreadsheet."), x = conditionMessage(error)), call
    )
  })
  if (is.character(sheet) && !sheet %in% sheets) {
    abort_nelvat("file", c(paste0("\"", path, "\" has no sheet \"", sheet, "\"."), offer(sheet, sheets, "sheet")), call)
  }
  if (is.numeric(sheet) && !sheet %in% seq_along(sheets)) {
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" has no sheet ", sheet, "."),
        x = paste0("It has ", counted(length(sheets), "sheet"), ".")
      ),
      call
    )
  }
  table <- withCallingHandlers(
    readxl::read_excel(
      path, sheet = sheet, range = range, na = missing_values %||% c("", "NA"), .name_repair = "minimal",
      guess_max = 1e5, progress = FALSE
    ),
    warning = function(warning) invokeRestart("muffleWarning")
  )
  if (!ncol(table)) abort_nelvat("file", c(paste0("The sheet of \"", path, "\" is empty.")), call)
  as.data.frame(lapply(table, iso_text_to_moment), optional = TRUE, stringsAsFactors = FALSE)
}

# Spreadsheets hold ISO dates as text at times.
iso_text_to_moment <- function(values) {
  if (is.character(values) && any(!is.na(values)) && all(is_iso_moment(values[!is.na(values)]))) {
    return(parse_iso(values, "UTC"))
  }
  if (inherits(values, "POSIXct") && all(as.numeric(values) %% 86400 == 0, na.rm = TRUE)) return(as.Date(values))
  values
}

read_parquet <- function(path, call) {
  need_package("nanoparquet", "Reading Parquet files", call)
  table <- tryCatch(nanoparquet::read_parquet(path), error = function(error) {
    abort_nelvat("file", c(paste0("\"", path, "\" cannot be read as Parquet."), x = conditionMessage(error)), call)
  })
  as.data.frame(table)
}
