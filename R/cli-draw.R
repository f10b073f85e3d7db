# nelvat draw FIGURE.yaml... or FOLDER...: draws figure files; paths go to standard output.

cli_draw <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat draw [--dpi N] [--force] [--watch] [--source-data] [--legend] FIGURE.yaml|FOLDER...",
    paste("Draws figure files and writes what each asks for under `save`. Prints the paths, one a line. Of a folder, all its figure files are drawn;",
          "those whose inputs (data, files, house, package) have not changed since they were drawn are left as they are."),
    list(optparse::make_option("--dpi", type = "double", default = 600, metavar = "N", help = "dots per inch of PNG and TIFF files [600]"),
         optparse::make_option("--force", action = "store_true", default = FALSE, help = "draw what has not changed, too"),
         optparse::make_option("--watch", action = "store_true", default = FALSE, help = "go on, drawing again whatever changes; end with Ctrl-C"),
         optparse::make_option("--source-data", action = "store_true", default = FALSE, dest = "source", help = "write the numbers drawn beside each figure: a spreadsheet, or CSV where the package writexl is missing"),
         optparse::make_option("--legend", action = "store_true", default = FALSE, help = "write a draft of the legend beside each figure, as Markdown")),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  options <- parsed$options
  status <- draw_all(parsed$args, options)
  if (isTRUE(options$watch)) watch_figures(parsed$args, options)
  status
}

draw_all <- function(paths, options) {
  listed <- unlist(lapply(paths, function(path) if (dir.exists(path)) figure_files(path, NULL) else path))
  progress <- length(listed) > 3 && interactive_errors()
  status <- integer()
  unchanged <- 0L
  for (i in seq_along(listed)) {
    path <- listed[i]
    if (progress) cat(sprintf("\rnelvat: %d of %d: %s", i, length(listed), basename(path)), file = stderr())
    # Files named one by one are always drawn.
    skip <- !isTRUE(options$force) && !path %in% paths && is_unchanged(path)
    if (skip) unchanged <- unchanged + 1L
    status <- c(status, if (skip) 0L else guarded(draw_figure_file(path, options$dpi %||% 600, options)))
  }
  if (progress) cat("\n", file = stderr())
  if (length(listed) > 1 || !identical(listed, paths)) {
    writeLines(paste0("nelvat: ", counted(length(listed), "figure"), ": ", sum(status == 0) - unchanged, " drawn, ", unchanged, " unchanged, ", sum(status != 0), " failed"), stderr())
  }
  max(status, 0L)
}

interactive_errors <- function() isatty(stderr())

draw_figure_file <- function(path, dpi = 600, options = list()) {
  figure <- read_figure(path)
  if (!length(figure$save)) {
    abort_nelvat("figure", c(paste0("In \"", path, "\": nothing is to be written."), i = "Name files under `save`, such as `save: [figure.pdf]`."))
  }
  written <- with_place(paste0("\"", path, "\""), save_plate(figure$plate, figure$save, dpi))
  stem <- tools::file_path_sans_ext(figure$save[1])
  # One spreadsheet, where one can be written.
  if (isTRUE(options$source)) written <- c(written, suppressWarnings(save_source_data(figure$plate, paste0(stem, "-source", if (requireNamespace("writexl", quietly = TRUE)) ".xlsx" else ".csv"))))
  if (isTRUE(options$legend)) {
    legend <- paste0(stem, "-legend.md")
    write_whole(legend, function(temporary) writeLines(enc2utf8(strwrap(legend_text(figure$plate, "markdown"), 100)), temporary, useBytes = TRUE))
    written <- c(written, legend)
  }
  remember_inputs(path, figure, written)
  writeLines(written)
  0L
}

# What was drawn from what --------------------------------------------------------------

# Beside the figure files, .nelvat holds a hash of all that each was drawn from, and what
# was written.
record_path <- function(path) file.path(dirname(path), ".nelvat", paste0(basename(path), ".json"))

remember_inputs <- function(path, figure, written) {
  record <- record_path(path)
  dir.create(dirname(record), showWarnings = FALSE)
  content <- list(hash = inputs_hash(path, figure$inputs), inputs = as.list(figure$inputs), written = as.list(basename(written)))
  write_whole(record, function(temporary) writeLines(jsonlite::toJSON(content, auto_unbox = TRUE, pretty = TRUE), temporary))
}

inputs_hash <- function(path, inputs) {
  files <- unique(c(path, inputs))
  rlang::hash(list(as.character(utils::packageVersion("nelvat")), as.character(getRversion()), unname(tools::md5sum(files))))
}

is_unchanged <- function(path) {
  record <- record_path(path)
  if (!file.exists(record)) return(FALSE)
  known <- tryCatch(jsonlite::fromJSON(record), error = function(error) NULL)
  if (is.null(known$hash)) return(FALSE)
  if (length(setdiff(folder_house(dirname(path)), known$inputs))) return(FALSE)
  all(file.exists(file.path(dirname(path), known$written))) && identical(known$hash, inputs_hash(path, known$inputs))
}

watch_every_s <- 0.5

# Draws again what changed, until the user ends it. rounds: for tests.
watch_figures <- function(paths, options, rounds = Inf) {
  writeLines("nelvat: watching; Ctrl-C ends", stderr())
  state <- watched_state(paths)
  while (rounds > 0) {
    Sys.sleep(watch_every_s)
    now <- watched_state(paths)
    changed <- names(now)[!mapply(identical, now, state[names(now)])]
    for (path in changed) guarded(draw_figure_file(path, options$dpi %||% 600, options))
    state <- now
    rounds <- rounds - 1
  }
}

# When each figure file's inputs were last written.
watched_state <- function(paths) {
  listed <- unlist(lapply(paths, function(path) if (dir.exists(path)) figure_files(path, NULL) else path))
  lapply(stats::setNames(nm = listed), function(path) {
    record <- record_path(path)
    inputs <- if (file.exists(record)) tryCatch(jsonlite::fromJSON(record)$inputs, error = function(error) NULL)
    file.mtime(unique(c(path, unlist(inputs))))
  })
}
