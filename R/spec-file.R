#' A plate from a figure file
#'
#' Figure files are YAML in the words of the R functions. Paths in them are
#' relative to the file.
#'
#' @param path Path of a figure file.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A list of `plate`, a [plate()], and `save`, the paths it asks to be
#'   written; `inputs`, the paths of the files it was built from.
#' @section Errors:
#' `nelvat_error_figure` for a file that is not YAML, a key that is not known or a
#' value of the wrong sort, with the place in the file; the errors of the functions
#' it calls, likewise.
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml"), study_file("responses.yaml")), folder)
#' read_figure(file.path(folder, "responses.yaml"))$save
#' @export
read_figure <- function(path, ...) {
  check_rest(...)
  local_number_options()
  check_string(path, "path")
  document <- read_document(path, "figure", rlang::current_env())
  tryCatch(build_figure(document, dirname(path)), nelvat_error = function(error) {
    line <- error_line(byte_lines(file_bytes(path)), error)
    error$message <- paste0("In \"", path, "\"", if (!is.null(line)) paste0(", line ", line), ": ", error$message)
    error$call <- NULL
    stop(error)
  })
}

build_figure <- function(document, folder) {
  check_keys(
    document, c("nelvat", "data", "blocks", "plate", "save"), needs = c("nelvat", "data", "blocks", "plate"),
    at = NULL
  )
  if (!identical(as.numeric(document$nelvat), 1)) {
    abort_figure("nelvat", "The version of the file's words must be 1.", document$nelvat)
  }
  tables <- structure(build_tables(document$data, folder), folder = folder)
  blocks <- lapply(named_list(document$blocks, "blocks"), identity)
  blocks <- Map(function(block, name) build_block(block, tables, c("blocks", name)), blocks, names(blocks))
  list(
    plate = build_plate(document$plate, blocks, folder), save = build_save(document$save, folder),
    inputs = figure_inputs(document, folder)
  )
}

build_save <- function(save, folder) {
  paths <- vapply(as.list(save), string_at, "", at = "save")
  vapply(paths, beside_file, "", folder = folder, USE.NAMES = FALSE)
}

# The house that a file names, relative to it; else nelvat.yaml beside it; else the
# session's.
file_house <- function(house, folder) {
  if (is.null(house)) return(NULL)
  if (rlang::is_string(house) && grepl("[.](ya?ml|json)$", house)) beside_file(house, folder) else house
}

folder_house <- function(folder) {
  house_file <- beside_file("nelvat.yaml", folder)
  if (file.exists(house_file)) house_file
}

# Every file that a figure file names, besides itself: tables, codebooks, images, house.
figure_inputs <- function(document, folder) {
  named <- unlist(lapply(document$data, function(entry) if (is.list(entry)) c(entry$file, entry$codebook) else entry))
  tables <- unlist(lapply(named, function(path) {
    path <- beside_file(path, folder)
    # A codebook that stands beside its table is read without being named.
    c(
      path,
      Filter(
        file.exists,
        paste0(sub("[.](csv|tsv|txt|xlsx|parquet)([.]gz)?$", "", path), c(".codebook.yaml", ".codebook.json"))
      )
    )
  }))
  words <- unlist(document[c("blocks", "plate")], use.names = FALSE)
  others <- vapply(
    grep("[.](png|ya?ml|json)$", as.character(words), value = TRUE), beside_file, "", folder = folder,
    USE.NAMES = FALSE
  )
  named_files <- Filter(file.exists, others)
  unique(
    c(tables, named_files, house_chain(c(folder_house(folder), grep("[.](ya?ml|json)$", named_files, value = TRUE))))
  )
}

# House files, with those that they take their base from.
house_chain <- function(paths, known = character()) {
  paths <- setdiff(paths, known)
  if (!length(paths)) return(known)
  bases <- unlist(lapply(paths, function(path) {
    base <- tryCatch(read_document(path, "house", NULL)[["from"]], error = function(error) NULL)
    if (rlang::is_string(base) && grepl("[.](ya?ml|json)$", base)) file.path(dirname(path), base)
  }))
  house_chain(bases, c(known, paths))
}
