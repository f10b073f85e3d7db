# nelvat recover FIGURE.pdf --to FOLDER: the files inside a PDF that was drawn with --archive.

cli_recover <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat recover [--to FOLDER] FIGURE.pdf",
    paste(
      "Writes the figure file, house, codebooks and data that are inside a PDF (nelvat draw",
      "--archive) into a folder that is empty or not there yet, and prints the figure file's path."
    ),
    list(
      optparse::make_option(
        "--to",
        type = "character",
        default = NULL,
        metavar = "FOLDER",
        help = "the folder to write to; without it one called as the PDF"
      )
    ),
    least = 1,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  to <- parsed$options$to %||% tools::file_path_sans_ext(basename(parsed$args))
  guarded(
    {
      writeLines(recover_figure(parsed$args, to))
      0L
    },
    parsed$args
  )
}
