#' A plate from a figure file
#'
#' Figure files are YAML in the words of the R functions. Paths in them are
#' relative to the file.
#'
#' @param path Path of a figure file.
#' @param only Names of `outputs`, `plates` or values of `for_each`: only these are made.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A list of `plate`, a [plate()], and `save`, the paths it asks to be
#'   written; `inputs`, the paths of the files that were read for it; `drawings`, where there are
#'   several plates, values or outputs: a list of `name`, `plate` and `save` for each, the first of
#'   which is `plate` and `save`; `read`, the MD5 sums of all files as they were read, the figure
#'   file among them, and what each pattern of names stood for.
#' @section Errors:
#' `nelvat_error_figure` for a file that is not YAML, a key that is not known or a
#' value of the wrong sort, with the place in the file; the errors of the functions
#' it calls, likewise.
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' file.copy(
#'   c(study_file("loaves.csv"), study_file("loaves.codebook.yaml"), study_file("responses.yaml")),
#'   folder
#' )
#' read_figure(file.path(folder, "responses.yaml"))$save
#' @export
read_figure <- function(path, only = NULL, ...) {
  check_rest(...)
  local_number_options()
  check_string(path, "path")
  call <- rlang::current_env()
  heard <- with_files_read({
    in_figure_file(path, {
      document <- whole_document(path, call)
      build_figure(document, dirname(path), tools::file_path_sans_ext(path))
    })
  })
  read <- list(files = heard$files, patterns = heard$patterns)
  figure <- list(
    drawings = heard$value,
    inputs = setdiff(names(heard$files), path),
    read = read
  )
  in_figure_file(path, chosen_drawings(figure, only))
}

# Errors of a figure file name it, and its line; those of a page that has no place of its own that
# of `plate`. One that names its file already stays as it is.
in_figure_file <- function(path, code) {
  tryCatch(in_words_of_files(code), nelvat_error = function(error) {
    if (!is.null(error$in_file) || !file.exists(path)) stop(error)
    if (inherits(error, "nelvat_error_space") && is.null(error$block)) error$at <- "plate"
    # Of a file that is from another the one which says what is wrong.
    found <- Map(
      function(file) error_place(byte_lines(file_bytes(file)), error),
      files_from(path)
    )
    depth <- vapply(found, function(one) one$depth, 0)
    file <- names(found)[which.max(depth)]
    line <- found[[file]]$line
    error$message <- paste0(
      "In \"",
      file,
      "\"",
      if (!is.null(line)) paste0(", line ", line),
      ": ",
      error$message
    )
    error$call <- NULL
    error$in_file <- path
    error$line_file <- file
    error$line <- line
    stop(error)
  })
}

build_figure <- function(document, folder, stem) {
  check_keys(document, part_keys("figure"), needs = c("nelvat", "blocks"), at = NULL)
  if (!identical(suppressWarnings(as.numeric(unlist(document[["nelvat"]]))), 1)) {
    abort_figure("nelvat", "The version of the file's words must be 1.", document[["nelvat"]])
  }
  tables <- structure(build_tables(document, folder), folder = folder)
  build_drawings(document, tables, folder, stem)
}

# The figure of a file: its first drawing, and all of them. only: the names of some.
chosen_drawings <- function(figure, only) {
  drawings <- figure$drawings
  if (!is.null(only)) {
    known <- unique(unlist(lapply(drawings, `[[`, "name")))
    absent <- setdiff(only, known)
    if (length(absent)) {
      abort_nelvat(
        "figure",
        c(
          paste0("There is no drawing \"", absent[1], "\"."),
          if (length(known)) {
            offer(absent[1], known, "drawing")
          } else {
            c(i = "The file has no `outputs`, `plates` or `for_each`.")
          }
        ),
        call = NULL
      )
    }
    drawings <- Filter(function(one) any(one$name %in% only), drawings)
  }
  list(
    plate = drawings[[1]]$plate,
    save = drawings[[1]]$save,
    inputs = figure$inputs,
    drawings = drawings,
    read = figure$read
  )
}

build_save <- function(save, folder) {
  paths <- vapply(as.list(save), string_at, "", at = "save")
  for (path in paths) check_ending(path, plate_writers(), NULL)
  vapply(paths, beside_file, "", folder = folder, USE.NAMES = FALSE)
}

# The house that a file names, relative to it; else nelvat.yaml beside it; else the
# session's.
file_house <- function(house, folder) {
  if (is.null(house)) return(NULL)
  if (rlang::is_string(house) && grepl("[.](ya?ml|json)$", house)) {
    beside_file(house, folder)
  } else {
    house
  }
}

# nelvat.yaml in a folder, or in one above it up to the root of its project.
folder_house <- function(folder) {
  house_file <- beside_file("nelvat.yaml", folder)
  if (file.exists(house_file)) return(house_file)
  within <- normalizePath(folder, "/", mustWork = FALSE)
  above <- project_folders(within)
  found <- Filter(file.exists, file.path(above, "nelvat.yaml"))
  if (length(found)) found[1]
}

# The folders above one, up to that which is the root of a project; none where there is no such
# root.
project_folders <- function(folder) {
  above <- character()
  while (dirname(folder) != folder) {
    if (is_project_root(folder)) return(above)
    folder <- dirname(folder)
    above <- c(above, folder)
  }
  character()
}

is_project_root <- function(folder) {
  any(file.exists(file.path(folder, c(".git", ".hg", ".svn", "DESCRIPTION", "renv.lock")))) ||
    length(list.files(folder, "[.]Rproj$")) > 0
}

# The tables that blocks draw, and those that they are made of; all, where none is named.
used_tables <- function(document) {
  data_of <- function(node) {
    if (!is.list(node)) return(NULL)
    c(if (rlang::is_string(node[["data"]])) node[["data"]], unlist(lapply(node, data_of)))
  }
  entries <- document[["data"]]
  used <- unique(data_of(document[c("blocks", "for_each")]))
  repeat {
    more <- unlist(
      lapply(entries[intersect(used, names(entries))], function(entry) {
        if (is.list(entry)) {
          c(
            data_of(entry),
            Filter(function(name) name %in% names(entries), unlist(entry[["join"]]))
          )
        }
      })
    )
    if (all(more %in% used)) break
    used <- union(used, more)
  }
  used <- intersect(names(entries), used)
  if (length(used)) used else names(entries)
}
