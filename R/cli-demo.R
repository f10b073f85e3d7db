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
  for (file in list.files(paper)) {
    write_whole(file.path(folder, file), file_bytes(file.path(paper, file)))
    writeLines(file.path(folder, file))
  }
  draw_all(folder, list(force = TRUE, dpi = 300, source = TRUE, legend = TRUE))
}
