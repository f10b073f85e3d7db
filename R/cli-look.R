# nelvat look FOLDER | FIGURE.yaml: a page that shows figures as they are made, until Ctrl-C.

cli_look <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat look [--port N] [--no-browser] [FOLDER | FIGURE.yaml...]",
    paste(
      "Serves a page on this machine that shows figures at their printed size and draws them again",
      "when a file of theirs is saved, with proof, legend and numbers beside. Ctrl-C ends it."
    ),
    list(
      optparse::make_option(
        "--port",
        type = "integer",
        metavar = "N",
        help = "port of this machine; without it the first free one from 7117 on"
      ),
      optparse::make_option(
        "--no-browser",
        action = "store_true",
        default = FALSE,
        dest = "no_browser",
        help = "only say the address"
      )
    ),
    least = 0,
    most = Inf
  )
  if (is.null(parsed)) return(0L)
  paths <- if (length(parsed$args)) parsed$args else "."
  look <- new_looking(paths, parsed$options$port, NULL)
  on.exit(end_looking(look$state))
  writeLines(look$address)
  flush(stdout())
  writeLines("nelvat: looking; Ctrl-C ends", stderr())
  if (!isTRUE(parsed$options$no_browser)) open_browser(look$address)
  serve_look(look$state)
  0L
}

# A browser where there is one; elsewhere the address is enough.
open_browser <- function(address) {
  has_one <- nzchar(getOption("browser")[1] %||% "") || .Platform$OS.type == "windows"
  on_screen <- .Platform$OS.type == "windows" || Sys.info()[["sysname"]] == "Darwin" ||
    nzchar(Sys.getenv("DISPLAY")) || nzchar(Sys.getenv("WAYLAND_DISPLAY"))
  if (has_one && on_screen) try(utils::browseURL(address), silent = TRUE)
}

# rounds: for tests.
serve_look <- function(state, rounds = Inf) {
  while (rounds > 0) {
    # A websocket that was refused is let go of with a warning.
    suppressWarnings(httpuv::service(if (is.null(state$job)) 40 else 10))
    look_tick(state)
    rounds <- rounds - 1
  }
}
