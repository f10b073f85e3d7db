# nelvat demo DIR: the demo study's loaves, their codebook and a figure file, drawn.

demo_files <- c("loaves.csv", "loaves.codebook.yaml", "responses.yaml")

cli_demo <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat demo DIR",
    "Copies the demo table, its codebook and a figure file to DIR and draws the figure there. Prints the paths.",
    least = 1, most = 1
  )
  if (is.null(parsed)) return(0L)
  folder <- parsed$args
  if (!dir.exists(folder) && !dir.create(folder, recursive = TRUE, showWarnings = FALSE)) {
    abort_nelvat("file", paste0("The folder \"", folder, "\" cannot be made."))
  }
  copies <- file.path(folder, demo_files)
  for (i in seq_along(copies)) {
    write_whole(copies[i], function(temporary) file.copy(study_file(demo_files[i]), temporary))
  }
  writeLines(copies)
  draw_figure_file(copies[3])
}
