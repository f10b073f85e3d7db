# Writes a file by way of a temporary file beside it: a failure leaves the old
# file as it was. `write` is a function of the temporary path.
write_whole <- function(path, write, call = rlang::caller_env()) {
  folder <- dirname(path)
  if (!dir.exists(folder)) {
    abort_nelvat("file", c(
      paste0("The folder of \"", path, "\" does not exist."),
      x = paste0("Not found: \"", folder, "\"."), i = "Make the folder first, or name another one."
    ), call)
  }
  ending <- tools::file_ext(path)
  temporary <- tempfile(".nelvat-", folder, if (nzchar(ending)) paste0(".", ending) else "")
  on.exit(unlink(temporary))
  write(temporary)
  if (!file.exists(temporary) || !file.rename(temporary, path)) {
    abort_nelvat("file", c(
      paste0("\"", path, "\" could not be written."), i = "Is the folder writable and the disk not full?"
    ), call)
  }
  invisible(path)
}
