# Files that a stranger could send, run as the real command in a process of its own.
command_in <- function(folder, ..., seconds = 60) {
  path <- system.file("bin", "nelvat", package = "nelvat")
  complained <- tempfile()
  on.exit(unlink(complained))
  began <- proc.time()[["elapsed"]]
  said <- withr::with_dir(
    folder,
    suppressWarnings(
      system2("sh", c(shQuote(path), ...), stdout = TRUE, stderr = complained, timeout = seconds)
    )
  )
  list(
    status = attr(said, "status") %||% 0L,
    said = as.character(said),
    complained = paste(readLines(complained, warn = FALSE), collapse = "\n"),
    seconds = proc.time()[["elapsed"]] - began
  )
}

# A folder within a folder, so that what is written beside it is seen.
folder_within <- function(files, envir = parent.frame()) {
  outer <- withr::local_tempdir(.local_envir = envir)
  inner <- file.path(outer, "project")
  dir.create(inner)
  for (name in names(files)) {
    writeLines(enc2utf8(files[[name]]), file.path(inner, name), useBytes = TRUE)
  }
  inner
}

# All files below a folder, but for records.
files_below <- function(folder) sort(list.files(folder, recursive = TRUE))

figure_lines <- function(..., panel = "{data: a, x: f, y: v, ink: bars}", data = "{a: a.csv}") {
  c(
    "nelvat: 1",
    paste0("data: ", data),
    paste0("blocks: {b: {panel: ", panel, "}}"),
    "plate: {place: b, width: 80, height: 60}",
    ...
  )
}
plain_csv <- c("f,v", "p,1", "q,2", "p,3", "q,4")

expect_no_bare_error <- function(complained) {
  expect_no_match(complained, "Error in|Execution halted|C stack|caught segfault|subscript out")
}
