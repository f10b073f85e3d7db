# nelvat start DATA: drafts a figure file for a table, and draws it.

cli_start <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    paste(
      "nelvat start [--kind KIND] [--codebook FILE] [--output FIGURE.yaml] [--sheet NAME]",
      "[--encoding NAME] [--skip N] DATA"
    ),
    paste(
      "Drafts a commented figure file that draws at once on the table, chosen from what each of",
      "its columns is for, and says why; what is to be looked at in the table is pointed at."
    ),
    c(
      cli_reading(),
      list(
        optparse::make_option(
          "--kind",
          type = "character",
          default = NULL,
          metavar = "KIND",
          help = paste0("which figure: ", listed(names(kind_needs)), " [what suits the table]")
        ),
        optparse::make_option(
          "--codebook",
          type = "character",
          default = NULL,
          metavar = "FILE",
          help = "codebook of the table"
        ),
        optparse::make_option(
          c("-o", "--output"),
          type = "character",
          default = NULL,
          metavar = "FILE",
          help = "figure file to write [the table's name, ending in .yaml, beside it]"
        )
      )
    ),
    least = 1,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  output <- parsed$options$output %||%
    paste0(
      sub("[.](csv|tsv|txt|xlsx|parquet)([.]gz)?$", "", parsed$args),
      ".yaml"
    )
  check_new_file(output)
  said <- parsed$options
  start_figure(
    parsed$args,
    output,
    said$codebook,
    sheet_of(said$sheet),
    said$encoding,
    said$skip,
    said$kind
  )
  writeLines(output)
  0L
}
