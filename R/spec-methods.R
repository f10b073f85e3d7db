#' The paragraph on statistics
#'
#' For the methods of a paper: what centres and errors are, the tests with their sides and
#' adjustment, models, densities and bins, and the software with its versions, each said once for
#' all figures together.
#'
#' @param project A [plate()], a list of them, or paths of figure files or of folders of them.
#' @param format As in [legend_text()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A string.
#' @section Errors: `nelvat_error_argument` for what is no plate and no path; `nelvat_error_file`
#'   for what is not there; the errors of [read_figure()] and [as_scene()].
#' @examples
#' bars <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()))
#' fit <- plate(panel(study("loaves"), x = rise, y = volume, ink_points(), ink_fit()))
#' methods_text(list(bars, fit))
#' @export
methods_text <- function(project, format = "text", ...) {
  check_rest(...)
  local_number_options()
  check_choice(format, c("text", "markdown", "html"), "format")
  scenes <- lapply(plates_of(project), described_scene)
  styled(paste(methods_sentences(scenes), collapse = " "), format)
}

# Plates as they are given, or those that are read by who knows figure files.
plates_of <- function(project, call = rlang::caller_env()) {
  if (inherits(project, c("nelvat_plate", "nelvat_scene"))) return(list(project))
  if (is.list(project) && !is.object(project)) {
    return(unlist(lapply(project, plates_of, call), recursive = FALSE))
  }
  if (is.character(project)) return(read_project(project, call))
  abort_nelvat(
    "argument",
    c(
      "`methods_text()` takes a plate, a list of plates, or paths of figure files.",
      x = paste0("Found ", describe_value(project), ".")
    ),
    call
  )
}

read_project <- function(paths, call) {
  files <- unlist(
    lapply(paths, function(path) if (dir.exists(path)) figure_files(path, call) else path)
  )
  unlist(lapply(files, project_plates), recursive = FALSE)
}

# All that a figure file draws.
project_plates <- function(path) lapply(read_figure(path)$drawings, `[[`, "plate")
