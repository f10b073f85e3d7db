#' Keys of a project
#'
#' What each level of each category looks like in the figure files of a folder.
#'
#' @param project Path of a folder with figure files.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame: figure (file), variable, level, colour, shape, dash, and `same`: does
#'   the level look the same in all figures?
#' @section Errors: `nelvat_error_file` for a folder that is not there or holds no figure file.
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' file.copy(
#'   c(study_file("loaves.csv"), study_file("loaves.codebook.yaml"), study_file("responses.yaml")),
#'   folder
#' )
#' keys(folder)
#' @export
keys <- function(project = ".", ...) {
  check_rest(...)
  call <- rlang::current_env()
  files <- figure_files(check_string(project, "project"), call)
  found <- do.call(
    rbind,
    lapply(files, function(file) {
      entries <- do.call(
        rbind,
        lapply(read_figure(file)$drawings, function(one) described_scene(one$plate)$keys)
      )
      entries <- unique(
        entries[!is.na(entries$label), c("key", "label", "colour", "shape", "dash")]
      )
      if (is.null(entries) || !nrow(entries)) return(NULL)
      data.frame(
        figure = basename(file),
        variable = entries$key,
        level = entries$label,
        colour = entries$colour,
        shape = entries$shape,
        dash = entries$dash
      )
    })
  )
  if (is.null(found)) {
    return(
      data.frame(
        figure = character(),
        variable = character(),
        level = character(),
        colour = character(),
        shape = character(),
        dash = character(),
        same = logical()
      )
    )
  }
  # Inks that show no symbols say nothing of shape.
  found$same <- stats::ave(
    match(found$colour, unique(found$colour)),
    paste(found$variable, found$level),
    FUN = function(colours) length(unique(colours))
  ) == 1
  found
}

# The figure files of a folder: YAML with the version of its words, `nelvat`. What cannot be
# read as YAML is among them, so that reading it tells what is wrong.
figure_files <- function(folder, call, within = FALSE) {
  if (!dir.exists(folder)) {
    abort_nelvat(
      "file",
      c(paste0("The folder \"", folder, "\" does not exist."), x = "It should hold figure files."),
      call
    )
  }
  files <- list.files(folder, "[.]ya?ml$", full.names = TRUE, recursive = within)
  files <- Filter(is_figure_file, files)
  if (!length(files)) {
    abort_nelvat(
      "file",
      c(
        paste0("There is no figure file in \"", folder, "\"."),
        i = "A figure file is YAML with `nelvat: 1` at its top."
      ),
      call
    )
  }
  files
}

# Most say so in a line of their own; the others are read whole.
is_figure_file <- function(path) {
  if (any(grepl("^nelvat[ \t]*:", byte_lines(file_bytes(path)), useBytes = TRUE))) return(TRUE)
  document <- tryCatch(read_document(path, "figure", NULL), nelvat_error = identity)
  if (inherits(document, "nelvat_error")) return(TRUE)
  # A variant need not say again what the figure that it is from says.
  is_variant <- "from" %in% names(document) &&
    any(c("blocks", "data", "plate", "save", "outputs") %in% names(document))
  is.list(document) && ("nelvat" %in% names(document) || is_variant)
}
