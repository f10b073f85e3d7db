# nelvat demo DIR: a paper's project on the demo study, copied and drawn.

cli_demo <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat demo DIR",
    paste(
      "Copies a project to DIR: five figure files, the made-up study's tables with their",
      "codebooks, a house style. Draws all figures there, with the numbers behind them and",
      "drafts of their legends. Prints the paths."
    ),
    least = 1,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  folder <- parsed$args
  if (!dir.exists(folder) && !dir.create(folder, recursive = TRUE, showWarnings = FALSE)) {
    abort_nelvat("file", paste0("The folder \"", folder, "\" cannot be made."))
  }
  paper <- system.file("paper", package = "nelvat", mustWork = TRUE)
  files <- files_to_copy(folder, paper)
  for (file in files) write_whole(file.path(folder, file), file_bytes(file.path(paper, file)))
  status <- draw_all(folder, list(force = TRUE, dpi = 300, source = TRUE, legend = TRUE))
  writeLines(file.path(folder, files))
  writeLines(how_to_go_on(folder), stderr())
  status
}

# The files of the project to copy: what somebody has changed, or has under the same name, stays as
# it is.
files_to_copy <- function(folder, paper) {
  files <- list.files(paper)
  there <- files[file.exists(file.path(folder, files))]
  same <- tools::md5sum(file.path(folder, there)) == tools::md5sum(file.path(paper, there))
  other <- there[!same]
  if (length(other)) {
    rlang::inform(
      paste0(
        "In \"",
        folder,
        "\" ",
        quoted(other),
        " differ from the project's, and stay as they are."
      )
    )
  }
  setdiff(files, other)
}

# With the command, and in R.
how_to_go_on <- function(folder) {
  c(
    "",
    "Look at the figures, then change a figure file and draw again:",
    paste0("  nelvat draw ", folder),
    "Or go on in R:",
    "  library(nelvat)",
    paste0("  fig <- read_figure(\"", file.path(folder, "figure-1.yaml"), "\")$plate"),
    "  fig                                         # at its true size",
    "  change(fig, block = 1, y = rise)            # the same with something else in it",
    "Or with a table of yours: nelvat start TABLE.csv"
  )
}
