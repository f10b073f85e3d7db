#' Look at a figure while it is made
#'
#' A page in the browser that shows a figure at its printed size and draws it again whenever its
#' file, house, codebook or data is saved. Findings of proof are marks at their places; pointing at
#' a bar, a point, an axis or a key says what it is, with its numbers and the words that set it.
#' Beside it are the legend, the alternative text, the methods and the source data.
#'
#' @param figure A [plate()], the path of a figure file, or of a folder of them.
#' @param port A port of this machine; `NULL`: the first that is free from 7117 on.
#' @param open Open a browser?
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return `look_at()` returns at once: an object of class `nelvat_look` with the `address`, whose
#'   page is served while this R session lives or until [stop_looking()]. It needs the packages
#'   httpuv, and for files callr.
#' @details The page is served on this machine alone (127.0.0.1), under an address that nobody can
#'   guess; it reads and never writes. Through ssh: `ssh -L 7117:127.0.0.1:7117 MACHINE`.
#' @section Errors: `nelvat_error_file` where there is no figure file; `nelvat_error_argument` for a
#'   port that is in use or an argument of another sort; `nelvat_error_package` where a package is
#'   missing.
#' @examplesIf interactive()
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_box()), width = "single")
#' page <- look_at(fig)
#' page
#' stop_looking(page)
#' @export
look_at <- function(figure, port = NULL, open = interactive(), ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(look_at, "look_at", call)
  check_flag(open, "open")
  look <- new_looking(figure, port, call)
  # R's event loop serves requests; the files are looked after by it, too.
  if (is.null(look$state$plate)) look_on(look$state)
  if (open) utils::browseURL(look$address)
  look
}

# Rounds of ten a second, as long as the server runs.
look_on <- function(state) {
  if (is.null(state$server)) return(invisible())
  look_tick(state)
  later::later(function() look_on(state), 0.1)
}

#' @rdname look_at
#' @param page What `look_at()` returned.
#' @export
stop_looking <- function(page, ...) {
  check_rest(...)
  check_needed(stop_looking, "stop_looking", rlang::current_env())
  if (!inherits(page, "nelvat_look")) {
    abort_nelvat(
      "argument",
      c(
        "`page` must be what `look_at()` returned.",
        x = paste0("Found ", describe_value(page), ".")
      )
    )
  }
  end_looking(page$state)
  invisible(page)
}

end_looking <- function(state) {
  if (!is.null(state$server)) httpuv::stopServer(state$server)
  state$server <- NULL
  if (!is.null(state$worker)) try(state$worker$close(), silent = TRUE)
  state$worker <- NULL
  invisible(state)
}

#' @export
print.nelvat_look <- function(x, ...) {
  cat(
    if (is.null(x$state$server)) {
      "A page that is not served any more"
    } else {
      paste("Look at", x$address)
    },
    "\n",
    sep = ""
  )
  invisible(x)
}

first_port <- 7117L

# The state with its server begun. figure: a plate or paths.
new_looking <- function(figure, port, call) {
  need_package("httpuv", "The page to look at figures", call)
  is_plate <- inherits(figure, "nelvat_plate")
  folders <- if (is.character(figure)) normalizePath(figure[dir.exists(figure)], "/")
  paths <- if (!is_plate) looked_at_files(figure, call)
  if (!is_plate) need_package("callr", "Drawing files as they change", call)
  if (!is.null(port)) port <- check_number(port, "port", 1024, 65535, whole = TRUE, call = call)
  state <- new_viewing(paths, folders, port, if (is_plate) figure)
  if (is_plate) show_plate(state, figure)
  app <- list(
    # Before a request is read, or a websocket is opened.
    onHeaders = function(request) look_door(state, request),
    call = function(request) look_answer(state, request),
    # Asked for refused ones, too.
    onWSOpen = function(socket) socket$close()
  )
  state$server <- begin_server(app, port, call)
  state$port <- state$server$getPort()
  structure(
    list(state = state, address = paste0("http://127.0.0.1:", state$port, "/", state$token, "/")),
    class = "nelvat_look"
  )
}

looked_at_files <- function(paths, call) {
  if (!is.character(paths) || !length(paths) || anyNA(paths)) {
    abort_nelvat(
      "argument",
      c(
        "`figure` must be a plate, a figure file or a folder of them.",
        x = paste0("Found ", describe_value(paths), ".")
      ),
      call
    )
  }
  files <- lapply(paths, function(path) {
    if (dir.exists(path)) return(figure_files(path, call))
    check_file(path, "figure", call)
    path
  })
  normalizePath(unique(unlist(files)), "/")
}

# The next free port, where none is said.
begin_server <- function(app, port, call) {
  tried <- port %||% seq(first_port, length.out = 50)
  for (one in tried) {
    server <- tryCatch(
      suppressMessages(httpuv::startServer("127.0.0.1", one, app, quiet = TRUE)),
      error = function(error) NULL
    )
    if (!is.null(server)) return(server)
  }
  abort_nelvat(
    "argument",
    c(
      "The page cannot be served.",
      x = if (is.null(port)) {
        paste0("No port from ", first_port, " on is free.")
      } else {
        paste0("Port ", port, " is in use.")
      },
      i = "Say another `port`."
    ),
    call
  )
}

# A plate does not change: it is drawn once, here.
show_plate <- function(state, plate) {
  shown <- look_plate_picture(plate)
  said <- look_details()
  shown[names(said)] <- said
  shown$version <- shown$detail <- 1L
  shown$names <- list("")
  state$paths <- "figure"
  state$shown <- list(`figure#1#` = shown)
}
