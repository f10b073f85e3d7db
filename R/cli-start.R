# nelvat start DATA: drafts a figure file for a table, and draws it.

cli_start <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat start [--codebook FILE] [--output FIGURE.yaml] DATA",
    "Drafts a commented figure file that draws at once on the table, chosen from its kinds of columns.",
    list(
      optparse::make_option(
        "--codebook", type = "character", default = NULL, metavar = "FILE", help = "codebook of the table"
      ),
      optparse::make_option(
        c("-o", "--output"), type = "character", default = NULL, metavar = "FILE",
        help = "figure file to write [the table's name, ending in .yaml, beside it]"
      )),
    least = 1, most = 1
  )
  if (is.null(parsed)) return(0L)
  output <- parsed$options$output %||% paste0(sub("[.](csv|tsv|txt|xlsx|parquet)([.]gz)?$", "", parsed$args), ".yaml")
  start_figure(parsed$args, output, parsed$options$codebook)
  writeLines(output)
  0L
}
