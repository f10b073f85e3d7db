#' @rdname source_data
#' @param path Path ending in `.xlsx` (one sheet a panel; needs the package writexl) or `.csv`
#'   (one file a panel, named after it, in a folder of the path's name where there are several).
#' @details In CSV a text that begins with `=`, `+`, `-` or `@` has an apostrophe before it, so that
#'   a spreadsheet takes it as text, not as a formula.
#' @return `save_source_data()`: the paths written, invisibly.
#' @section Errors: `nelvat_error_file` for another ending; `nelvat_error_package` where writexl
#'   is not installed.
#' @export
save_source_data <- function(plate, path, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_string(path, "path")
  files <- source_files(plate, path, call)
  make_folders(names(files), path)
  write_together(names(files), files, call)
  invisible(names(files))
}

# The files of the numbers behind a plate: their bytes, by path.
source_files <- function(
  plate,
  path,
  call,
  resolved = resolve_plate(plate),
  scene = suppressWarnings(whole_scene(resolved, plate, call))
) {
  ending <- tolower(tools::file_ext(path))
  if (!ending %in% c("xlsx", "csv")) {
    found <- if (nzchar(ending)) paste0("Found \".", ending, "\".") else "It has no ending."
    abort_nelvat("file", c(paste0("\"", path, "\" must end in .xlsx or .csv."), x = found), call)
  }
  check_folder(path, call)
  tables <- source_tables(resolved, scene, plate)
  if (ending == "xlsx") {
    need_package("writexl", "Writing XLSX files", call)
    names(tables) <- sheet_names(names(tables))
    return(stats::setNames(list(xlsx_bytes(tables)), path))
  }
  one_each <- file.path(
    tools::file_path_sans_ext(path),
    paste0(file_words(names(tables)), ".csv")
  )
  stats::setNames(lapply(tables, csv_bytes), if (length(tables) == 1) path else one_each)
}

# The folder that several tables are written in, beside the path that stands for them.
make_folders <- function(files, path) {
  folders <- setdiff(unique(dirname(files)), dirname(path))
  for (folder in folders) dir.create(folder, showWarnings = FALSE)
}

xlsx_bytes <- function(tables) {
  path <- tempfile(fileext = ".xlsx")
  on.exit(unlink(path))
  writexl::write_xlsx(lapply(tables, printable_table), path)
  # A spreadsheet is a zip archive; one that is cut short cannot be listed.
  whole <- tryCatch(
    suppressWarnings(nrow(utils::unzip(path, list = TRUE)) > 0),
    error = function(error) FALSE
  )
  if (!whole) abort_unwritten(path, "The spreadsheet is cut short.", call = NULL)
  file_bytes(path)
}

printable_table <- function(table) {
  texts <- vapply(table, is.character, NA)
  table[texts] <- lapply(table[texts], printable)
  stats::setNames(table, printable(names(table)))
}

# Names of sheets: at most 31 characters, none of those that spreadsheets forbid, each once.
sheet_names <- function(names) {
  make.unique(substr(gsub("[][*?:/\\\\]", " ", printable(names)), 1, 27), sep = " ")
}
