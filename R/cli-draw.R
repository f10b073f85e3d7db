# nelvat draw FIGURE.yaml...: draws each figure file; paths go to standard output.

cli_draw <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat draw [--dpi N] FIGURE.yaml...",
    "Draws figure files and writes what each asks for under `save`. Prints the paths, one a line.",
    list(optparse::make_option("--dpi", type = "double", default = 600, metavar = "N", help = "dots per inch of PNG files [600]")),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  status <- vapply(parsed$args, function(path) guarded(draw_figure_file(path, parsed$options$dpi)), 0L)
  max(status)
}

draw_figure_file <- function(path, dpi = 600) {
  figure <- read_figure(path)
  if (!length(figure$save)) {
    abort_nelvat("figure", c(paste0("In \"", path, "\": nothing is to be written."), i = "Name files under `save`, such as `save: [figure.pdf]`."))
  }
  written <- with_place(paste0("\"", path, "\""), save_plate(figure$plate, figure$save, dpi))
  writeLines(written)
  0L
}
