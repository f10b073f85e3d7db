# nelvat book FOLDER --to supplement.pdf: all figures of a folder in one file.

cli_book <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat book --to FILE.pdf|FILE.html [--prefix TEXT] [--title TEXT] FIGURE.yaml|FOLDER...",
    paste(
      "Writes all figures in one PDF, or on one HTML page: each at its size with its legend",
      "beneath, numbered in the order of the files' names, with a list of figures and bookmarks."
    ),
    list(
      optparse::make_option(
        "--to",
        type = "character",
        default = NULL,
        metavar = "FILE",
        help = "file to write, ending in .pdf or .html"
      ),
      optparse::make_option(
        "--prefix",
        type = "character",
        default = "Figure ",
        metavar = "TEXT",
        help = "what stands before a number, such as \"Figure S\" [\"Figure \"]"
      ),
      optparse::make_option(
        "--title",
        type = "character",
        default = NULL,
        metavar = "TEXT",
        help = "title on the first page"
      )
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  said <- parsed$options
  if (is.null(said$to)) abort_nelvat("call", "--to says which file to write.")
  files <- unlist(
    lapply(parsed$args, function(path) if (dir.exists(path)) figure_files(path, NULL) else path)
  )
  plates <- unlist(
    lapply(files, function(file) {
      drawings <- first_drawings(read_figure(file))
      name <- tools::file_path_sans_ext(basename(file))
      called <- if (length(drawings) == 1) name else paste(name, seq_along(drawings), sep = "-")
      stats::setNames(lapply(drawings, `[[`, "plate"), called)
    }),
    recursive = FALSE
  )
  names(plates) <- make.unique(names(plates), "-")
  save_book(plates, said$to, said$prefix, title = said$title)
  writeLines(said$to)
  0L
}
