#' Put the command `nelvat` on the path
#'
#' Copies the launcher, a small shell script over `Rscript`, to a folder of the
#' user's `PATH`.
#'
#' @param dir Folder to put it in; made if it is not there.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The path of the launcher, invisibly. A message says when `dir` is not on
#'   the `PATH`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_file` where the
#' folder cannot be made or the starter cannot be written.
#' @examples
#' install_command(tempfile())
#' @export
install_command <- function(dir = "~/.local/bin", ...) {
  check_rest(...)
  check_string(dir, "dir")
  dir <- path.expand(dir)
  if (!dir.exists(dir) && !dir.create(dir, recursive = TRUE, showWarnings = FALSE)) {
    abort_nelvat("file", paste0("The folder \"", dir, "\" cannot be made."))
  }
  # A shell script, and on Windows what its command prompt starts.
  starter <- if (.Platform$OS.type == "windows") "nelvat.cmd" else "nelvat"
  path <- file.path(dir, starter)
  write_whole(path, file_bytes(system.file("bin", starter, package = "nelvat")))
  Sys.chmod(path, "755")
  on_path <- normalizePath(dir) %in% normalizePath(
    strsplit(Sys.getenv("PATH"), .Platform$path.sep)[[1]],
    mustWork = FALSE
  )
  if (!on_path) {
    rlang::inform(
      c(i = paste0("\"", dir, "\" is not on the PATH; add it, or call \"", path, "\"."))
    )
  }
  invisible(path)
}
