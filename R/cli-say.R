# nelvat legend, alt, source, keys, mend: what R has, for figure files. JSON where it is asked for.

json_option <- function() {
  optparse::make_option("--json", action = "store_true", default = FALSE, help = "print it as JSON")
}
only_option <- function() {
  optparse::make_option(
    "--only",
    type = "character",
    default = NULL,
    metavar = "NAME",
    help = "only this output, plate or value"
  )
}

as_json <- function(value) {
  jsonlite::toJSON(value, dataframe = "rows", auto_unbox = TRUE, pretty = TRUE, na = "null")
}

# A command that says one text of each drawing of figure files.
cli_text <- function(arguments, name, description, say, options = list()) {
  parsed <- cli_parse(
    arguments,
    paste0("nelvat ", name, " [--only NAME] [--json] FIGURE.yaml..."),
    description,
    c(options, list(only_option(), json_option())),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  said <- list()
  status <- vapply(
    parsed$args,
    function(path) {
      guarded(
        {
          drawings <- read_figure(path, only = parsed$options$only)$drawings
          for (drawing in drawings) {
            text <- suppressWarnings(say(drawing$plate, parsed$options))
            said[[length(said) + 1]] <<- list(
              figure = path,
              drawing = paste(drawing$name, collapse = " "),
              text = text
            )
            if (isTRUE(parsed$options$json)) next
            if (length(parsed$args) > 1 || length(drawings) > 1) {
              writeLines(
                paste0(
                  path,
                  if (length(drawing$name)) paste0(" (", paste(drawing$name, collapse = ", "), ")"),
                  ":"
                )
              )
            }
            writeLines(enc2utf8(text), useBytes = TRUE)
          }
          0L
        },
        path
      )
    },
    0L
  )
  if (isTRUE(parsed$options$json)) writeLines(as_json(said))
  max(status)
}

cli_legend <- function(arguments) {
  cli_text(
    arguments,
    "legend",
    "Prints a draft of the legend of each figure.",
    function(plate, options) {
      format <- if (isTRUE(options$html)) {
        "html"
      } else if (isTRUE(options$markdown)) {
        "markdown"
      } else {
        "text"
      }
      legend_text(plate, format, options$length)
    },
    list(
      optparse::make_option(
        "--length",
        type = "character",
        default = "full",
        metavar = "LENGTH",
        help = "short, full or checklist"
      ),
      optparse::make_option(
        "--html",
        action = "store_true",
        default = FALSE,
        help = "as HTML"
      ),
      optparse::make_option(
        "--markdown",
        action = "store_true",
        default = FALSE,
        help = "with letters in bold type"
      )
    )
  )
}

cli_alt <- function(arguments) {
  cli_text(
    arguments,
    "alt",
    "Prints what each figure shows, for who cannot see it.",
    function(plate, options) alt_text(plate, if (isTRUE(options$full)) "full" else "short"),
    list(
      optparse::make_option(
        "--full",
        action = "store_true",
        default = FALSE,
        help = "letter by letter, with the numbers"
      )
    )
  )
}

cli_submit <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat submit [--to FOLDER] [--formats LIST] [--names PATTERN] FOLDER|FIGURE.yaml...",
    paste(
      "Writes all that a journal asks for into one folder: figures in the house's formats,",
      "legends, source data, methods, the filled checklist and checksums. Writes nothing where",
      "proof finds anything bad."
    ),
    list(
      optparse::make_option(
        "--to",
        type = "character",
        default = "submission",
        metavar = "FOLDER",
        help = "folder to write to [submission]"
      ),
      optparse::make_option(
        "--formats",
        type = "character",
        default = NULL,
        metavar = "LIST",
        help = "endings, parted by commas, in place of the house's"
      ),
      optparse::make_option(
        "--names",
        type = "character",
        default = "Figure{n}",
        metavar = "PATTERN",
        help = "how figures are called [Figure{n}]"
      )
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  guarded(
    {
      formats <- parsed$options$formats
      if (!is.null(formats)) formats <- trimws(strsplit(formats, ",", fixed = TRUE)[[1]])
      written <- suppressWarnings(
        submit_figures(parsed$args, parsed$options$to, formats, parsed$options$names)
      )
      writeLines(written)
      0L
    },
    parsed$args[1]
  )
}

cli_methods <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat methods [--markdown] FIGURE.yaml|FOLDER...",
    "Prints the paragraph on statistics for figures together, nothing in it twice.",
    list(
      optparse::make_option(
        "--markdown",
        action = "store_true",
        default = FALSE,
        help = "with statistics in italic type"
      )
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  guarded(
    {
      format <- if (isTRUE(parsed$options$markdown)) "markdown" else "text"
      text <- suppressWarnings(methods_text(parsed$args, format))
      writeLines(enc2utf8(text), useBytes = TRUE)
      0L
    },
    parsed$args[1]
  )
}

cli_source <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat source [--only NAME] [--output FILE.xlsx|FILE.csv] [--json] FIGURE.yaml",
    "Writes the numbers drawn: a spreadsheet with a sheet a panel, or CSV files. Prints the paths.",
    list(
      optparse::make_option(
        c("-o", "--output"),
        type = "character",
        default = NULL,
        metavar = "FILE",
        help = "file to write [the figure file's name, ending in -source.csv]"
      ),
      only_option(),
      json_option()
    ),
    least = 1,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  figure <- read_figure(parsed$args, only = parsed$options$only)
  if (isTRUE(parsed$options$json)) {
    writeLines(as_json(suppressWarnings(source_data(figure$plate))))
    return(0L)
  }
  output <- parsed$options$output %||% paste0(tools::file_path_sans_ext(parsed$args), "-source.csv")
  writeLines(suppressWarnings(save_source_data(figure$plate, output)))
  0L
}

cli_keys <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat keys [--json] FOLDER",
    paste(
      "Lists what each level of each category looks like in the figure files of a folder. Exit",
      "status 1 where a level has unlike colours."
    ),
    list(json_option()),
    least = 0,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  found <- suppressWarnings(keys(if (length(parsed$args)) parsed$args else "."))
  if (isTRUE(parsed$options$json)) {
    writeLines(as_json(found))
  } else if (nrow(found)) {
    writeLines(
      enc2utf8(utils::capture.output(print(found, row.names = FALSE, right = FALSE))),
      useBytes = TRUE
    )
  } else {
    writeLines("No figure of the folder has a key.")
  }
  if (all(found$same)) 0L else 1L
}

cli_mend <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat mend [--draw] [--json] FIGURE.yaml...",
    paste(
      "Says what needs no judgement to meet the house's limits, as keys to set under `plate`; with",
      "--draw also draws the figure so, beside its own files, named -mended."
    ),
    list(
      optparse::make_option(
        "--draw",
        action = "store_true",
        default = FALSE,
        help = "draw the mended figure, too"
      ),
      only_option(),
      json_option()
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  max(
    vapply(
      parsed$args,
      function(path) {
        guarded(
          {
            for (drawing in read_figure(path, only = parsed$options$only)$drawings) {
              mend_drawing(path, drawing, parsed$options)
            }
            0L
          },
          path
        )
      },
      0L
    )
  )
}

mend_drawing <- function(path, drawing, options) {
  mended <- suppressMessages(suppressWarnings(mend(drawing$plate)))
  done <- attr(mended, "done")
  before <- drawing$plate$made$settings
  after <- mended$made$settings
  changed <- Filter(
    function(name) !identical(before[[name]], after[[name]]) && name != "house",
    names(after)
  )
  settings <- lapply(
    after[changed],
    function(value) if (inherits(value, "nelvat_share")) value$variables else value
  )
  written <- if (isTRUE(options$draw)) {
    save_plate(
      mended,
      paste0(tools::file_path_sans_ext(drawing$save), "-mended.", tools::file_ext(drawing$save))
    )
  }
  if (isTRUE(options$json)) {
    writeLines(
      as_json(
        list(figure = path, done = as.list(done), plate = settings, written = as.list(written))
      )
    )
    return(invisible())
  }
  lines <- strsplit(if (length(settings)) yaml::as.yaml(settings) else "", "\n")[[1]]
  writeLines(
    c(
      paste0(
        path,
        ": ",
        if (length(done)) paste(done, collapse = "; ") else "nothing to mend without judgement"
      ),
      if (length(settings)) c("plate:", paste0("  ", lines)),
      written
    )
  )
}
