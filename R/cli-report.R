# nelvat report FIGURE.yaml...: an HTML page for each figure, beside its file.

cli_report <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat report [--output FILE.html] FIGURE.yaml...",
    paste(
      "Writes one self-contained HTML page for each figure: the figure, its proof, legend",
      "text, fits, facts, source data, codebook."
    ),
    list(
      optparse::make_option(
        c("-o", "--output"),
        type = "character",
        default = NULL,
        metavar = "FILE",
        help = "page to write [the figure file's name, ending in .html]"
      )
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  if (!is.null(parsed$options$output) && length(parsed$args) > 1) {
    abort_nelvat("call", "--output takes one figure file.")
  }
  max(
    vapply(
      parsed$args,
      function(path) {
        guarded(
          {
            output <- parsed$options$output %||% paste0(tools::file_path_sans_ext(path), ".html")
            report(read_figure(path)$plate, output, path)
            writeLines(output)
            0L
          },
          path
        )
      },
      0L
    )
  )
}
