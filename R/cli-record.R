# What was drawn from what. Beside the figure files, the folder .nelvat holds a record for each:
# a hash of all that it was drawn from and with, its inputs, and what was written. Paths in it
# are those from the figure's folder, so that a project can be moved and be called from anywhere.

record_folder <- function(path) file.path(dirname(path), ".nelvat")

record_path <- function(path) file.path(record_folder(path), paste0(basename(path), ".json"))

# The record as JSON text.
drawing_record <- function(path, inputs, written, options) {
  folder <- dirname(path)
  content <- list(
    hash = drawing_hash(path, inputs, options),
    inputs = as.list(path_from(folder, inputs)),
    written = as.list(path_from(folder, written))
  )
  jsonlite::toJSON(content, auto_unbox = TRUE, pretty = TRUE)
}

# list(hash, inputs, written) with paths as they are seen from here; NULL where there is none.
known_record <- function(path) {
  record <- record_path(path)
  if (!file.exists(record)) return(NULL)
  known <- tryCatch(jsonlite::fromJSON(record), error = function(error) NULL)
  if (is.null(known$hash) || !is.character(known$written)) return(NULL)
  within <- function(paths) {
    vapply(as.character(unlist(paths)), beside_file, "", folder = dirname(path), USE.NAMES = FALSE)
  }
  list(hash = known$hash, inputs = within(known$inputs), written = within(known$written))
}

# Of the contents of all inputs, and of the options that change what is written.
drawing_hash <- function(path, inputs, options) {
  files <- c(path, inputs)
  rlang::hash(
    list(
      as.character(utils::packageVersion("nelvat")),
      as.character(getRversion()),
      unname(tools::md5sum(files)),
      as.numeric(options$dpi %||% 600),
      isTRUE(options$source),
      isTRUE(options$legend),
      options$only
    )
  )
}

is_unchanged <- function(path, options) {
  known <- known_record(path)
  if (is.null(known)) return(FALSE)
  # A house that has come to stand beside the figure since then counts.
  house_file <- folder_house(dirname(path))
  if (
    !is.null(house_file) &&
      !normalizePath(house_file) %in% normalizePath(known$inputs, mustWork = FALSE)
  ) {
    return(FALSE)
  }
  all(file.exists(c(known$written, known$inputs))) && identical(
    known$hash,
    drawing_hash(path, known$inputs, options)
  )
}

# Paths as they are named from a folder: relative where they lie in it, else whole.
path_from <- function(folder, paths) {
  base <- paste0(normalizePath(folder, "/"), "/")
  vapply(
    paths,
    function(path) {
      whole <- file.path(normalizePath(dirname(path), "/", mustWork = FALSE), basename(path))
      if (startsWith(whole, base)) substring(whole, nchar(base) + 1) else whole
    },
    "",
    USE.NAMES = FALSE
  )
}
