#' @rdname source_data
#' @param path Path ending in `.xlsx` (one sheet a panel; needs the package writexl) or `.csv`
#'   (one file a panel, named after it).
#' @return `save_source_data()`: the paths written, invisibly.
#' @section Errors: `nelvat_error_file` for another ending; `nelvat_error_package` where writexl
#'   is not installed.
#' @export
save_source_data <- function(plate, path) {
  call <- rlang::current_env()
  check_string(path, "path")
  ending <- tolower(tools::file_ext(path))
  if (!ending %in% c("xlsx", "csv")) abort_nelvat("file", c(paste0("\"", path, "\" must end in .xlsx or .csv."), x = if (nzchar(ending)) paste0("Found \".", ending, "\".") else "It has no ending."), call)
  if (!dir.exists(dirname(path))) abort_nelvat("file", c(paste0("The folder of \"", path, "\" does not exist."), x = paste0("Not found: \"", dirname(path), "\".")), call)
  tables <- source_data(plate)
  if (ending == "xlsx") {
    need_package("writexl", "Writing XLSX files", call)
    names(tables) <- sheet_names(names(tables))
    write_whole(path, function(temporary) writexl::write_xlsx(tables, temporary), call)
    return(invisible(path))
  }
  paths <- if (length(tables) == 1) path else paste0(tools::file_path_sans_ext(path), "-", file_words(names(tables)), ".csv")
  for (i in seq_along(tables)) {
    write_whole(paths[i], function(temporary) utils::write.csv(tables[[i]], temporary, row.names = FALSE, na = "", fileEncoding = "UTF-8"), call)
  }
  invisible(paths)
}

# Names of sheets: at most 31 characters, none of those that spreadsheets forbid, each once.
sheet_names <- function(names) make.unique(substr(gsub("[][*?:/\\\\]", " ", names), 1, 27), sep = " ")

file_words <- function(names) make.unique(gsub("^-|-$", "", gsub("[^A-Za-z0-9]+", "-", names)), sep = "-")
