# What the page shows, kept fresh: files are watched, and drawn by a process beside the server.

# paths: figure files, and the folders that were asked for whole; plate: a plate in place of files.
# An environment, as a server answers many times about one thing.
new_viewing <- function(paths, folders, port, plate = NULL) {
  state <- new.env(parent = emptyenv())
  state$token <- look_token()
  state$port <- port
  state$paths <- paths
  state$plate <- plate
  state$folders <- folders
  state$shown <- list()
  state$listing <- 1L # goes up when the list of figures, or a verdict, is another
  state$still <- NULL # how files were when nothing was left to be done
  state$dots <- look_dpi # per inch of the printed page
  state$dots_at <- 0
  state$wanted <- if (length(paths)) paste0(paths[1], "#1#")
  state$job <- NULL
  state$worker <- NULL
  state
}

# 128 bits from the system, as far as it has them: the address must not be guessed.
look_token <- function() {
  source <- "/dev/urandom"
  bytes <- if (file.exists(source)) {
    connection <- file(source, "rb", raw = TRUE)
    on.exit(close(connection))
    readBin(connection, "raw", 16)
  } else {
    as.raw(hashed_bytes(16))
  }
  paste(as.character(bytes), collapse = "")
}

# Without the system's device: digits of times and of the process, hashed.
hashed_bytes <- function(n) {
  text <- paste(format(Sys.time(), "%OS6"), Sys.getpid(), tempfile(), proc.time()[[3]])
  digest <- rlang::hash(text)
  strtoi(substring(digest, seq(1, 2 * n, 2), seq(2, 2 * n, 2)), 16L)
}

# One round: takes what was drawn, then begins what is to be drawn next.
look_tick <- function(state) {
  take_drawn(state)
  if (!is.null(state$plate) || !is.null(state$job)) return(invisible(state))
  key <- next_to_draw(state)
  if (!is.null(key)) begin_drawing(state, key)
  invisible(state)
}

# The figure that is looked at, where it is not drawn or its files have changed; else the next of
# the folder that was never drawn. Asked many times a second, so nothing is gone through while all
# files are as they were.
next_to_draw <- function(state) {
  now <- list(state$wanted, state$dots, watched_marks(state))
  if (identical(now, state$still)) return(NULL)
  if (list_again(state)) now <- list(state$wanted, state$dots, watched_marks(state))
  key <- first_to_draw(state)
  state$still <- if (is.null(key)) now
  key
}

watched_marks <- function(state) {
  files <- unlist(lapply(state$shown, `[[`, "inputs"), use.names = FALSE)
  places <- unique(c(dirname(state$paths), state$folders))
  files <- unique(c(state$paths, state$folders, files, unlist(lapply(places, folder_house))))
  info <- file.info(files, extra_cols = FALSE)
  list(files, as.numeric(info$mtime), info$size)
}

# Figure files come and go. Is the list another than it was?
list_again <- function(state) {
  found <- unlist(
    lapply(state$folders, function(folder) {
      tryCatch(figure_files(folder, NULL), nelvat_error = function(error) NULL)
    })
  )
  single <- state$paths[!dirname(state$paths) %in% state$folders]
  paths <- unique(c(single, if (length(found)) normalizePath(found, "/")))
  if (!length(paths) || identical(paths, state$paths)) return(FALSE)
  state$paths <- paths
  state$listing <- state$listing + 1L
  TRUE
}

first_to_draw <- function(state) {
  wanted <- state$wanted
  if (!is.null(wanted) && look_path(wanted) %in% state$paths) {
    coarse <- isTRUE(state$shown[[wanted]]$dots < state$dots)
    if (coarse || is_out_of_date(state, wanted)) return(wanted)
  }
  rest <- paste0(state$paths, "#1#")
  never <- setdiff(rest, names(state$shown))
  if (length(never)) return(never[1])
  stale <- Filter(function(key) is_out_of_date(state, key), setdiff(rest, wanted))
  if (length(stale)) stale[1]
}

look_path <- function(key) sub("#[0-9]+#[^#]*$", "", key)

is_out_of_date <- function(state, key) {
  shown <- state$shown[[key]]
  is.null(shown) || !identical(shown$marks, file_marks(shown$inputs, look_path(key)))
}

# When and how long the files of a figure are, and its house's.
file_marks <- function(inputs, path) {
  files <- unique(c(path, unlist(inputs), folder_house(dirname(path))))
  info <- file.info(files, extra_cols = FALSE)
  list(files, as.numeric(info$mtime), info$size)
}

begin_drawing <- function(state, key) {
  worker <- look_worker(state)
  path <- look_path(key)
  asked <- strsplit(substring(key, nchar(path) + 2), "#", fixed = TRUE)[[1]]
  state$job <- list(
    key = key,
    step = "picture",
    marks = file_marks(state$shown[[key]]$inputs, path),
    dots = state$dots
  )
  worker$call(
    function(path, which, width, dpi, packages) {
      for (package in packages) requireNamespace(package, quietly = TRUE)
      draw <- get("look_picture", asNamespace("nelvat"))
      draw(path, which, width, dpi)
    },
    list(
      path = path,
      which = as.integer(asked[1]),
      width = if (length(asked) > 1 && nzchar(asked[2])) asked[2],
      dpi = state$dots,
      # The process that draws has loaded what this one has, no more.
      packages = setdiff(ink_packages(), "nelvat")
    )
  )
}

look_worker <- function(state) {
  if (is.null(state$worker) || !state$worker$is_alive()) {
    state$worker <- callr::r_session$new(
      callr::r_session_options(libpath = .libPaths(), stdout = NULL, stderr = NULL)
    )
  }
  state$worker
}

# The picture first, then what is said of it.
take_drawn <- function(state) {
  job <- state$job
  if (is.null(job)) return(invisible())
  if (!state$worker$is_alive()) {
    state$job <- NULL
    keep_shown(state, job$key, lost_drawing(job), job)
    return(invisible())
  }
  if (state$worker$poll_process(0) != "ready") return(invisible())
  heard <- state$worker$read()
  if (is.null(heard) || !heard$code %in% 200L) return(invisible())
  found <- if (is.null(heard$error)) heard$result else lost_drawing(job, heard$error)
  state$job <- NULL
  if (job$step == "details") {
    shown <- state$shown[[job$key]]
    if (!is.null(found) && isTRUE(shown$ok)) {
      # A picture of which nothing can be said is still one.
      said <- if (isFALSE(found$ok)) found["message"] else found
      shown[names(said)] <- said
      shown$detail <- shown$version
      state$shown[[job$key]] <- shown
      state$listing <- state$listing + 1L
    }
    return(invisible())
  }
  keep_shown(state, job$key, found, job)
  if (!isTRUE(found$ok)) return(invisible())
  state$job <- list(key = job$key, step = "details")
  state$worker$call(function() get("look_details", asNamespace("nelvat"))())
}

lost_drawing <- function(job, error = NULL) {
  list(
    ok = FALSE,
    message = paste0(
      "The figure could not be drawn: ",
      if (is.null(error)) {
        "the process that draws ended."
      } else {
        conditionMessage(error$parent %||% error)
      }
    ),
    inputs = as.list(look_path(job$key))
  )
}

# While a figure is broken its last good picture stays, with the error.
keep_shown <- function(state, key, found, job) {
  before <- state$shown[[key]]
  version <- (before$version %||% 0L) + 1L
  shown <- if (isTRUE(found$ok)) {
    found
  } else {
    kept <- before[c("png", "width_mm", "height_mm", "names")]
    c(kept[!vapply(kept, is.null, NA)], found)
  }
  # An error may come before the files are known that were read.
  shown$inputs <- as.list(
    unique(c(unlist(found$inputs), if (!isTRUE(found$ok)) unlist(before$inputs)))
  )
  shown$version <- version
  shown$dots <- job$dots
  shown$marks <- file_marks(shown$inputs, look_path(key))
  # A file that changed while it was read is read again.
  if (!identical(file_marks(job$marks[[1]], look_path(key)), job$marks)) shown$marks <- NULL
  state$shown[[key]] <- shown
  state$listing <- state$listing + 1L
}
