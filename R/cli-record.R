# What was drawn from what. Beside the figure files, the folder .nelvat holds a record for each: the
# sums of all that was read for it, what patterns of names stood for, what it was drawn with, and
# what was written. Paths in it are those from the figure's folder, so that a project can be moved
# and be called from anywhere.

record_folder <- function(path) file.path(dirname(path), ".nelvat")

record_path <- function(path) file.path(record_folder(path), paste0(basename(path), ".json"))

# The record as JSON text. read: list(files, patterns), as read_figure() has it.
drawing_record <- function(path, read, written, options) {
  from_here <- function(paths) path_from(dirname(path), paths)
  content <- list(
    with = drawing_hash(options),
    read = as.list(stats::setNames(read$files, from_here(names(read$files)))),
    patterns = stats::setNames(
      lapply(read$patterns, function(found) as.list(from_here(found))),
      from_here(names(read$patterns))
    ),
    written = as.list(from_here(written))
  )
  jsonlite::toJSON(content, auto_unbox = TRUE, pretty = TRUE)
}

# list(with, read, patterns, written) with paths as they are seen from here; NULL where there is
# none, or what is there is no record.
known_record <- function(path) {
  record <- record_path(path)
  if (file_kind_cpp(enc2native(record)) != "file") return(NULL)
  known <- tryCatch(
    jsonlite::fromJSON(record, simplifyVector = FALSE),
    error = function(error) NULL
  )
  texts <- function(value) {
    is.list(value) && all(vapply(value, rlang::is_string, NA))
  }
  whole <- is.list(known) && rlang::is_string(known$with) && texts(known$read) &&
    texts(known$written) && is.list(known$patterns) && all(vapply(known$patterns, texts, NA))
  if (!whole || length(known$read) && !all(rlang::have_name(known$read))) return(NULL)
  within <- function(paths) {
    vapply(as.character(unlist(paths)), beside_file, "", folder = dirname(path), USE.NAMES = FALSE)
  }
  list(
    with = known$with,
    read = stats::setNames(as.character(unlist(known$read)), within(names(known$read))),
    patterns = stats::setNames(lapply(known$patterns, within), within(names(known$patterns))),
    written = within(known$written)
  )
}

# Of the options that change what is written, and of what draws.
drawing_hash <- function(options) {
  rlang::hash(
    list(
      as.character(utils::packageVersion("nelvat")),
      as.character(getRversion()),
      as.numeric(options$dpi %||% 600),
      isTRUE(options$source),
      isTRUE(options$legend),
      isTRUE(options$archive),
      options$only
    )
  )
}

is_unchanged <- function(path, options) {
  known <- known_record(path)
  if (is.null(known) || !identical(known$with, drawing_hash(options))) return(FALSE)
  # A house that has come to stand beside the figure since then counts.
  house_file <- folder_house(dirname(path))
  if (!is.null(house_file) && !file_itself(house_file) %in% file_itself(names(known$read))) {
    return(FALSE)
  }
  listed <- lapply(names(known$patterns), Sys.glob)
  all(file.exists(known$written)) &&
    identical(unname(tools::md5sum(names(known$read))), unname(known$read)) &&
    all(as.logical(Map(setequal, listed, known$patterns)))
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
