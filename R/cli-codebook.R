# nelvat codebook DATA: drafts a codebook, to standard output or a file.

cli_codebook <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat codebook [--output FILE] [--sheet NAME] [--encoding NAME] [--skip N] DATA",
    paste(
      "Drafts a codebook from a table: kinds guessed with the reason as a comment, levels and",
      "counts, columns that need a look."
    ),
    c(
      cli_reading(),
      list(
        optparse::make_option(
          c("-o", "--output"),
          type = "character",
          default = NULL,
          metavar = "FILE",
          help = "file to write, in place of standard output"
        )
      )
    ),
    least = 1,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  said <- parsed$options
  output <- said$output
  draft <- function(path) {
    draft_codebook(parsed$args, path, sheet_of(said$sheet), said$encoding, said$skip)
  }
  if (is.null(output)) {
    writeLines(enc2utf8(draft(NULL)), useBytes = TRUE)
  } else {
    check_new_file(output)
    draft(output)
    writeLines(output)
  }
  0L
}

# A sheet is said by its name or its number.
sheet_of <- function(text) if (!is.null(text) && grepl("^[0-9]+$", text)) as.numeric(text) else text
