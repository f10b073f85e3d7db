# The command `nelvat`. Exit status: 0 done, 1 the figure could not be made, 2 the
# call was wrong.

cli_commands <- function() {
  list(
    codebook = list(
      run = cli_codebook,
      brief = "draft a codebook from a table: nelvat codebook DATA"
    ),
    draw = list(
      run = cli_draw,
      brief = "draw figure files, or all of a folder: nelvat draw FIGURE.yaml..."
    ),
    start = list(run = cli_start, brief = "draft a figure file for a table: nelvat start DATA"),
    report = list(
      run = cli_report,
      brief = "write an HTML page of figures: nelvat report FIGURE.yaml..."
    ),
    list = list(
      run = cli_list,
      brief = "show what the figures of a folder stand on: nelvat list FOLDER"
    ),
    keys = list(
      run = cli_keys,
      brief = "list what levels look like in a folder's figures: nelvat keys FOLDER"
    ),
    legend = list(
      run = cli_legend,
      brief = "print drafts of legends: nelvat legend FIGURE.yaml..."
    ),
    book = list(
      run = cli_book,
      brief = "write all figures in one PDF with legends: nelvat book FOLDER --to FILE.pdf"
    ),
    submit = list(
      run = cli_submit,
      brief = "write a submission: nelvat submit FOLDER --to OUT"
    ),
    methods = list(
      run = cli_methods,
      brief = "print the paragraph on statistics: nelvat methods FOLDER"
    ),
    alt = list(run = cli_alt, brief = "print alternative texts: nelvat alt FIGURE.yaml..."),
    source = list(run = cli_source, brief = "write the numbers drawn: nelvat source FIGURE.yaml"),
    mend = list(
      run = cli_mend,
      brief = "say what needs no judgement to mend: nelvat mend FIGURE.yaml..."
    ),
    proof = list(
      run = cli_proof,
      brief = "prove figures against the house's limits: nelvat proof FIGURE.yaml..."
    ),
    house = list(
      run = cli_house,
      brief = "draft a house file from a journal's page on artwork: nelvat house --single 84"
    ),
    look = list(
      run = cli_look,
      brief = "show figures in a browser as they are made: nelvat look FOLDER"
    ),
    recover = list(
      run = cli_recover,
      brief = "give back the files inside an archived PDF: nelvat recover FIGURE.pdf"
    ),
    words = list(
      run = cli_words,
      brief = "find a word by what the trade calls it: nelvat words \"error bar\""
    ),
    demo = list(
      run = cli_demo,
      brief = "write a project of six figures on the demo study and draw it: nelvat demo DIR"
    )
  )
}

# Runs one call of the command and returns its exit status.
run_command <- function(arguments) {
  local_number_options()
  commands <- cli_commands()
  # Packages whose inks figure files may name.
  while (length(arguments) && arguments[1] == "--allow") {
    package <- arguments[2]
    if (is.na(package)) return(cli_wrong("--allow needs the name of a package."))
    if (!requireNamespace(package, quietly = TRUE)) {
      return(cli_wrong(paste0("--allow: there is no package \"", package, "\".")))
    }
    arguments <- arguments[-(1:2)]
  }
  if (!length(arguments)) return(cli_usage(commands, stderr(), 2L))
  first <- arguments[1]
  if (first %in% c("--help", "-h", "help")) return(cli_usage(commands, stdout(), 0L))
  if (first == "--version") {
    writeLines(paste("nelvat", utils::packageVersion("nelvat")))
    return(0L)
  }
  if (!first %in% names(commands)) {
    near <- nearest_name(first, names(commands))
    return(
      cli_wrong(
        paste0(
          "There is no command \"",
          first,
          "\".",
          if (!is.null(near)) paste0(" Did you mean \"", near, "\"?")
        )
      )
    )
  }
  in_words_of_files(
    guarded(commands[[first]]$run(arguments[-1]), command = first),
    # These read a table, and how is said by options.
    if (first %in% c("codebook", "start")) c("sheet", "encoding", "skip")
  )
}

cli_usage <- function(commands, to, status) {
  brief <- vapply(commands, `[[`, "", "brief")
  writeLines(
    c(
      "Usage: nelvat COMMAND [ARGUMENTS]",
      "",
      "Commands:",
      paste0("  ", formatC(names(commands), width = -10), brief),
      "",
      "nelvat COMMAND --help says more of one command; nelvat --version gives the version.",
      "nelvat --allow PACKAGE COMMAND: figure files may name inks of that package."
    ),
    to
  )
  status
}

cli_wrong <- function(message, command = NULL) {
  writeLines(
    c(
      paste0("nelvat: ", message),
      paste0("Try: nelvat ", if (!is.null(command)) paste0(command, " "), "--help")
    ),
    stderr()
  )
  2L
}

# A figure that cannot be made ends with its error, status 1; a wrong call with 2.
# about: the figure file that it is about, where it is about one.
guarded <- function(code, about = NULL, command = NULL) {
  forget_said()
  tell <- function(text) {
    text <- sub("\n$", "", text)
    named <- is.null(about) || grepl(about, text, fixed = TRUE)
    writeLines(
      enc2utf8(paste0("nelvat: ", if (!named) paste0(about, ": "), text)),
      stderr(),
      useBytes = TRUE
    )
  }
  tryCatch(
    withCallingHandlers(
      if (is.null(about)) code else in_figure_file(about, code),
      warning = function(condition) {
        tell(conditionMessage(condition))
        invokeRestart("muffleWarning")
      },
      message = function(condition) {
        tell(conditionMessage(condition))
        invokeRestart("muffleMessage")
      }
    ),
    nelvat_error_call = function(error) cli_wrong(rlang::cnd_message(error), command),
    nelvat_error = function(error) {
      tell(rlang::cnd_message(error))
      1L
    }
  )
}

# How a data file is read, as options of the commands that read one.
cli_reading <- function() {
  list(
    optparse::make_option(
      "--sheet",
      type = "character",
      default = NULL,
      metavar = "NAME",
      help = "sheet of a spreadsheet"
    ),
    optparse::make_option(
      "--encoding",
      type = "character",
      default = "UTF-8",
      metavar = "NAME",
      help = "encoding of a text file [UTF-8]"
    ),
    optparse::make_option(
      "--skip",
      type = "integer",
      default = NULL,
      metavar = "N",
      help = "lines above the header"
    )
  )
}

# Options and the rest of a command's arguments; NULL once its help was printed.
cli_parse <- function(arguments, usage, description, options = list(), least = 0, most = Inf) {
  options <- c(
    options,
    list(
      optparse::make_option(
        c("-h", "--help"),
        action = "store_true",
        default = FALSE,
        help = "show this help"
      )
    )
  )
  parser <- optparse::OptionParser(
    usage,
    options,
    description = description,
    add_help_option = FALSE
  )
  parsed <- tryCatch(
    optparse::parse_args(
      parser,
      arguments,
      print_help_and_exit = FALSE,
      positional_arguments = TRUE
    ),
    error = function(error) abort_nelvat("call", conditionMessage(error))
  )
  if (isTRUE(parsed$options$help)) {
    optparse::print_help(parser)
    return(NULL)
  }
  n <- length(parsed$args)
  if (n < least || n > most) {
    abort_nelvat(
      "call",
      paste0("Expected ", sub("^usage: ", "", usage), "; found ", counted(n, "argument"), ".")
    )
  }
  parsed
}
