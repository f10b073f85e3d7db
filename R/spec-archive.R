#' A figure that can be taken up again
#'
#' `archive_figure()` draws a figure file as a PDF that holds all that the figure is drawn from: the
#' figure file, its house, codebooks and data, and the scene as JSON. `recover_figure()` gives them
#' back into a folder, from which the figure is drawn with the same bytes; that is tried before the
#' PDF is written.
#'
#' @param figure Path of a figure file.
#' @param to `archive_figure()`: path of the PDF. `recover_figure()`: a folder, empty or not there
#'   yet.
#' @param only The name of one of the file's drawings, where it has several; `NULL`: the first.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return `archive_figure()`: the names of the files inside, invisibly. `recover_figure()`: the
#'   path of the figure file that was recovered, invisibly.
#' @details This publishes the data: every table that is read goes in whole, also columns and rows
#'   that are not drawn. A message lists what goes in. Files keep their places to each other; those
#'   that are said by absolute paths cannot be put in. The files are attachments of the PDF (ISO
#'   32000), so every reader of PDFs shows them.
#' @section Errors: `nelvat_error_file` for a file that is not there, a folder that holds something,
#'   or a PDF without a figure; `nelvat_error_pdf` for one that is damaged; `nelvat_error_place` for
#'   names inside that would leave the folder; the errors of [read_figure()] and [save_plate()].
#' @examples
#' folder <- file.path(tempdir(), "archived")
#' dir.create(folder)
#' file.copy(study_file(c("loaves.csv")), folder)
#' file.copy(study_file(c("loaves.codebook.yaml")), folder)
#' file.copy(study_file("responses.yaml"), folder)
#' pdf <- file.path(folder, "responses.pdf")
#' archive_figure(file.path(folder, "responses.yaml"), pdf)
#' recover_figure(pdf, file.path(tempdir(), "recovered"))
#' @export
archive_figure <- function(figure, to, only = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_needed(archive_figure, "archive_figure", call)
  check_string(figure, "figure", call = call)
  check_string(to, "to", call = call)
  if (!grepl("[.]pdf$", to, ignore.case = TRUE)) {
    abort_nelvat(
      "file",
      c(
        "An archive is a PDF, so `to` must end in .pdf.",
        x = paste0("Found \"", basename(to), "\".")
      ),
      call
    )
  }
  read <- read_figure(figure, only = only)
  check_not_input(to, names(read$read$files))
  drawing <- read$drawings[[1]]
  files <- plate_files(drawing$plate, to, call = call)
  inside <- archived_files(figure, names(read$read$files), drawing, call)
  files <- lapply(files, pdf_with_files, inside)
  tell_archived(inside)
  write_together(names(files), files, call)
  invisible(names(inside))
}

# What a figure stands on, by paths from the folder that holds all of it, with a list that says
# which is which.
archived_files <- function(figure, read, drawing, call = NULL) {
  paths <- unique(normalizePath(c(figure, read), "/"))
  paths <- paths[!dir.exists(paths)]
  root <- common_folder(dirname(paths))
  names <- substring(paths, nchar(root) + 2)
  contents <- stats::setNames(lapply(paths, file_bytes), names)
  absolute <- said_absolutely(contents[[1]])
  if (length(absolute)) {
    abort_nelvat(
      "figure",
      c(
        "The figure names files by absolute paths, which are not the same elsewhere.",
        x = paste0("Such as \"", absolute[1], "\"."),
        i = "Name them from the figure file's folder."
      ),
      call
    )
  }
  scene <- suppressWarnings(as_scene(drawing$plate))
  check_taken_up(contents, drawing, scene, call)
  all_files <- with_list(contents, names[1], drawing = paste(drawing$name, collapse = " "))
  c(
    all_files[names],
    list("nelvat-scene.json" = text_bytes(scene_json(scene))),
    all_files[archive_list]
  )
}

# What would be recovered makes the same figure: links, and a house above the figure's folder, are
# not where they were.
check_taken_up <- function(contents, drawing, scene, call) {
  folder <- tempfile("archive")
  on.exit(unlink(folder, recursive = TRUE))
  paths <- file.path(folder, names(contents))
  for (one in unique(dirname(paths))) dir.create(one, FALSE, TRUE)
  Map(writeBin, contents, paths)
  again <- tryCatch(
    {
      read <- suppressMessages(read_figure(paths[1]))
      same <- Find(function(one) identical(one$name, drawing$name), read$drawings)
      suppressWarnings(as_scene(same$plate))
    },
    nelvat_error = identity
  )
  if (identical(again, scene)) return(invisible())
  abort_nelvat(
    "figure",
    c(
      "From these files alone the figure would not come out as it is.",
      x = if (inherits(again, "nelvat_error")) {
        gsub(folder, ".", strsplit(rlang::cnd_message(again), "\n")[[1]][1], fixed = TRUE)
      } else {
        "Another house, or other data, would be read."
      },
      i = paste(
        "Keep its house beside the figure file, and name tables where they are, not by links."
      )
    ),
    call
  )
}

# The folder that all of these are in.
common_folder <- function(folders) {
  parts <- strsplit(folders, "/", fixed = TRUE)
  n <- min(lengths(parts))
  same <- vapply(seq_len(n), function(k) length(unique(vapply(parts, `[`, "", k))) == 1, NA)
  depth <- if (all(same)) n else which(!same)[1] - 1
  paste(parts[[1]][seq_len(depth)], collapse = "/")
}

said_absolutely <- function(bytes) {
  document <- tryCatch(
    yaml::yaml.load(rawToChar(bytes), eval.expr = FALSE),
    error = function(error) NULL
  )
  named <- unlist(document)
  named <- named[grepl("(^|[.])(file|files|codebook|house|path|from)[0-9]*$", names(named))]
  as.character(named[grepl("^(/|~|[A-Za-z]:[\\\\/])", named)])
}

#' @rdname archive_figure
#' @param pdf Path of a PDF that `archive_figure()`, `nelvat draw --archive` or
#'   `save_plate(archive = TRUE)` wrote. Of the last the figure is its scene, which [read_scene()]
#'   reads and [save_plate()] writes again.
#' @export
recover_figure <- function(pdf, to, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(recover_figure, "recover_figure", call)
  check_string(to, "to", call = call)
  check_file(pdf, "file", call)
  if (file.exists(to) && length(list.files(to, all.files = TRUE, no.. = TRUE))) {
    abort_nelvat(
      "file",
      c(
        paste0("The folder \"", to, "\" is not empty."),
        i = "A figure is recovered into a folder of its own, so that nothing is written over."
      ),
      call
    )
  }
  files <- pdf_files(file_bytes(pdf))
  told <- archive_told(files, pdf, call)
  check_archived_names(told$files, pdf, call)
  paths <- file.path(to, told$files)
  for (folder in unique(dirname(paths))) dir.create(folder, FALSE, TRUE)
  write_together(paths, unname(files[told$files]), call)
  invisible(file.path(to, told$figure))
}

# The list of an archive, checked: its files are there and as they were.
archive_told <- function(files, pdf, call) {
  wrong <- function(x) {
    abort_nelvat("file", c(paste0("\"", pdf, "\" holds no figure."), x = x), call)
  }
  if (is.null(files[[archive_list]])) {
    wrong(
      if (length(files)) {
        paste0("It holds ", counted(length(files), "file"), ", but no list of a figure.")
      } else {
        "No files are in it."
      }
    )
  }
  told <- tryCatch(
    jsonlite::fromJSON(rawToChar(files[[archive_list]]), simplifyVector = TRUE),
    error = function(error) NULL
  )
  right <- is.list(told) && is.character(told$files) && rlang::is_string(told$figure) &&
    told$figure %in% told$files && length(told$md5) == length(told$files) &&
    identical(as.numeric(told$nelvat), 1) && !anyDuplicated(told$files)
  if (!right) wrong("Its list cannot be read.")
  absent <- setdiff(told$files, names(files))
  if (length(absent)) wrong(paste0("\"", absent[1], "\" is missing in it."))
  changed_files <- told$files[vapply(files[told$files], md5_of, "") != told$md5]
  if (length(changed_files)) wrong(paste0("\"", changed_files[1], "\" was changed in it."))
  told
}

# A name from elsewhere stays within the folder that it is written to.
check_archived_names <- function(names, pdf, call) {
  parts <- strsplit(names, "/", fixed = TRUE)
  leaves <- vapply(
    parts,
    function(part) {
      any(part %in% c("", ".", "..")) || any(grepl("[[:cntrl:]\\\\:*?\"<>|]", part)) ||
        any(nchar(part, "bytes") > 200)
    },
    NA
  )
  if (!any(leaves)) return(invisible())
  abort_nelvat(
    "place",
    c(
      paste0("A file in \"", pdf, "\" has a name that is not written."),
      x = paste0("\"", printable(names[leaves][1]), "\" does not stay in its folder.")
    ),
    call
  )
}
