# nelvat draw FIGURE.yaml... or FOLDER...: draws figure files; paths go to standard output.

cli_draw <- function(arguments) {
  parsed <- cli_parse(
    arguments, "nelvat draw [--dpi N] [--force] [--watch] [--source-data] [--legend] FIGURE.yaml|FOLDER...",
    paste(
      "Draws figure files and writes what each asks for under `save`. Prints the paths, one a line.",
      "Of a folder, all its figure files are drawn; those are left as they are whose inputs (data, files, house,",
      "package) and options have not changed since they were drawn."
    ),
    draw_options(), least = 1
  )
  if (is.null(parsed)) return(0L)
  options <- parsed$options
  status <- draw_all(parsed$args, options)
  if (isTRUE(options$watch)) watch_figures(parsed$args, options)
  status
}

draw_options <- function() {
  list(
    optparse::make_option(
      "--dpi", type = "double", default = 600, metavar = "N", help = "dots per inch of PNG and TIFF files [600]"
    ),
    optparse::make_option("--force", action = "store_true", default = FALSE, help = "draw what has not changed, too"),
    optparse::make_option(
      "--watch", action = "store_true", default = FALSE,
      help = "go on, drawing again whatever changes; end with Ctrl-C"
    ),
    optparse::make_option(
      "--source-data", action = "store_true", default = FALSE, dest = "source",
      help = "write the numbers drawn beside each figure: a spreadsheet, or CSV where the package writexl is missing"
    ),
    optparse::make_option(
      "--legend", action = "store_true", default = FALSE,
      help = "write a draft of the legend beside each figure, as Markdown"
    )
  )
}

draw_all <- function(paths, options) {
  figures <- listed_figures(paths)
  progress <- nrow(figures) > 3 && isatty(stderr())
  status <- integer()
  unchanged <- 0L
  for (i in seq_len(nrow(figures))) {
    path <- figures$path[i]
    if (progress) cat(sprintf("\rnelvat: %d of %d: %s", i, nrow(figures), basename(path)), file = stderr())
    # Files named one by one are always drawn.
    skip <- !isTRUE(options$force) && !figures$named[i] && is_unchanged(path, options)
    if (skip) unchanged <- unchanged + 1L
    status <- c(status, if (skip) 0L else guarded(draw_figure_file(path, options), path))
  }
  if (progress) cat("\n", file = stderr())
  if (nrow(figures) > 1 || !all(figures$named)) {
    writeLines(paste0(
      "nelvat: ", counted(nrow(figures), "figure"), ": ", sum(status == 0) - unchanged, " drawn, ", unchanged,
      " unchanged, ",
      sum(status != 0), " failed"
    ), stderr())
  }
  max(status, 0L)
}

# The figure files that paths stand for, each once; `named`: was it named itself?
listed_figures <- function(paths) {
  files <- lapply(paths, function(path) if (dir.exists(path)) figure_files(path, NULL) else path)
  figures <- data.frame(path = as.character(unlist(files)), named = rep(!dir.exists(paths), lengths(files)))
  figures <- figures[order(!figures$named), ]
  figures[!duplicated(normalizePath(figures$path, mustWork = FALSE)), ]
}

# Draws one figure file: all that it writes changes together.
draw_figure_file <- function(path, options = list()) {
  figure <- read_figure(path)
  if (!length(figure$save)) {
    abort_nelvat("figure", c(
      paste0("In \"", path, "\": nothing is to be written."),
      i = "Name files under `save`, such as `save: [figure.pdf]`."
    ))
  }
  files <- with_place(paste0("\"", path, "\""), figure_outputs(figure, options))
  record <- drawing_record(path, figure$inputs, names(files), options)
  folder <- record_folder(path)
  dir.create(folder, showWarnings = FALSE)
  write_together(c(names(files), record_path(path)), c(files, list(text_bytes(record))), NULL)
  writeLines(names(files))
  0L
}

# The figure in each format it asks for, and what the options ask for beside it.
figure_outputs <- function(figure, options) {
  own_plate <- figure$plate
  resolved <- resolve_plate(own_plate)
  files <- plate_files(own_plate, figure$save, options$dpi %||% 600, resolved = resolved)
  if (!isTRUE(options$source) && !isTRUE(options$legend)) return(files)
  scene <- suppressWarnings(whole_scene(resolved, own_plate))
  stem <- tools::file_path_sans_ext(figure$save[1])
  if (isTRUE(options$source)) {
    # One spreadsheet, where one can be written.
    ending <- if (requireNamespace("writexl", quietly = TRUE)) ".xlsx" else ".csv"
    files <- c(files, source_files(own_plate, paste0(stem, "-source", ending), NULL, resolved, scene))
  }
  if (isTRUE(options$legend)) {
    legend <- strwrap(legend_text(scene, "markdown"), 100)
    files <- c(files, stats::setNames(list(text_bytes(legend)), paste0(stem, "-legend.md")))
  }
  files
}
