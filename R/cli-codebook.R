# nelvat codebook DATA: drafts a codebook, to standard output or a file.

cli_codebook <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat codebook [--output FILE] DATA",
    paste("Drafts a codebook from a table: kinds guessed with the reason as a comment, levels and counts, columns",
          "that need a look."),
    list(
      optparse::make_option(
        c("-o", "--output"), type = "character", default = NULL, metavar = "FILE",
        help = "file to write, in place of standard output"
      )
    ),
    least = 1, most = 1
  )
  if (is.null(parsed)) return(0L)
  output <- parsed$options$output
  if (is.null(output)) {
    writeLines(enc2utf8(draft_codebook(parsed$args)), useBytes = TRUE)
  } else {
    draft_codebook(parsed$args, output)
    writeLines(output)
  }
  0L
}
