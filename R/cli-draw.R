# nelvat draw FIGURE.yaml... or FOLDER...: draws figure files; paths go to standard output.

cli_draw <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    paste(
      "nelvat draw [--only NAME] [--all] [--dpi N] [--force] [--watch] [--json]",
      "FIGURE.yaml|FOLDER..."
    ),
    paste(
      "Draws figure files and writes what each asks for under `save`. Prints the paths, one a",
      "line. Of a folder, all its figure files are drawn, those that fail told at the end;",
      "those are left as they are whose inputs (data, files, house, package) and options have",
      "not changed since they were drawn. The house style is nelvat.yaml beside the figure",
      "file, or above it up to the root of the project (a folder with .git, .Rproj or",
      "DESCRIPTION)."
    ),
    draw_options(),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  options <- parsed$options
  status <- draw_all(parsed$args, options)
  if (isTRUE(options$watch)) watch_figures(parsed$args, options)
  status
}

draw_options <- function() {
  switch_of <- function(name, help, ...) {
    optparse::make_option(name, action = "store_true", default = FALSE, help = help, ...)
  }
  list(
    optparse::make_option(
      "--only",
      type = "character",
      default = NULL,
      metavar = "NAME",
      help = "draw only this output, plate or value of a figure file"
    ),
    switch_of("--all", "enter the folders within a folder, too"),
    optparse::make_option(
      "--dpi",
      type = "double",
      default = 600,
      metavar = "N",
      help = "dots per inch of PNG and TIFF files [600]"
    ),
    switch_of("--force", "draw what has not changed, too"),
    switch_of("--watch", "go on, drawing again whatever changes; end with Ctrl-C"),
    switch_of("--json", "print what was drawn as JSON"),
    switch_of(
      "--source-data",
      "write the numbers drawn beside each figure: a spreadsheet, or CSV where writexl is missing",
      dest = "source"
    ),
    switch_of("--legend", "write a draft of the legend beside each figure, as Markdown"),
    switch_of(
      "--archive",
      paste(
        "put figure file, house, codebooks and whole data into each PDF (this publishes them);",
        "nelvat recover gives them back"
      )
    )
  )
}

draw_all <- function(paths, options) {
  figures <- listed_figures(paths, isTRUE(options$all))
  progress <- nrow(figures) > 3 && isatty(stderr())
  in_folders <- !all(figures$named)
  done <- list()
  for (i in seq_len(nrow(figures))) {
    if (progress) {
      cat(
        sprintf("\rnelvat: %d of %d: %s", i, nrow(figures), basename(figures$path[i])),
        file = stderr()
      )
    }
    # Files named one by one are always drawn.
    taken <- lapply(done, `[[`, "written")
    done[[figures$path[i]]] <- drawn_or_left(figures[i, ], options, in_folders, taken)
  }
  if (progress) cat("\n", file = stderr())
  if (isTRUE(options$json)) {
    writeLines(drawn_json(figures$path, done))
  } else if (nrow(figures) > 1 || in_folders) writeLines(drawn_table(figures$path, done), stderr())
  max(vapply(done, `[[`, 0L, "status"), 0L)
}

# What became of one figure: status, what ("drawn", "unchanged", "failed"), written, proof, seconds.
drawn_or_left <- function(figure, options, in_folders, taken) {
  path <- figure$path
  start <- proc.time()[["elapsed"]]
  result <- list(status = 0L, what = "unchanged", written = character(), proof = "")
  if (isTRUE(options$force) || figure$named || !is_unchanged(path, options)) {
    made <- NULL
    status <- guarded(
      {
        with_proof <- in_folders || isTRUE(options$json)
        made <- draw_figure_file(path, options, with_proof, taken)
        0L
      },
      path
    )
    result <- list(
      status = status,
      what = if (status == 0) "drawn" else "failed",
      written = made$written,
      proof = made$proof %||% ""
    )
  }
  c(result, list(seconds = proc.time()[["elapsed"]] - start))
}

# A table for a reader: figure, what became of it, what its proof says, seconds.
drawn_table <- function(paths, done) {
  column_of <- function(name) vapply(done, `[[`, "", name)
  what <- column_of("what")
  rows <- cbind(
    c("figure", basename(paths)),
    c("", what),
    c("proof", column_of("proof")),
    c("seconds", formatC(vapply(done, `[[`, 0, "seconds"), format = "f", digits = 1))
  )
  width <- apply(nchar(rows, "width"), 2, max)
  lines <- apply(
    rows,
    1,
    function(row) {
      sub(" +$", "", paste0(row, strrep(" ", width - nchar(row, "width")), collapse = "  "))
    }
  )
  c(
    lines,
    paste0(
      "nelvat: ",
      counted(length(done), "figure"),
      ": ",
      sum(what == "drawn"),
      " drawn, ",
      sum(what == "unchanged"),
      " unchanged, ",
      sum(what == "failed"),
      " failed"
    )
  )
}

drawn_json <- function(paths, done) {
  rows <- Map(
    function(path, one) {
      list(
        figure = path,
        what = one$what,
        written = as.list(one$written),
        proof = one$proof,
        seconds = round(one$seconds, 2)
      )
    },
    paths,
    done
  )
  jsonlite::toJSON(unname(rows), auto_unbox = TRUE, pretty = TRUE)
}

# The figure files that paths stand for, each once; `named`: was it named itself?
listed_figures <- function(paths, within = FALSE) {
  files <- lapply(
    paths,
    function(path) if (dir.exists(path)) figure_files(path, NULL, within) else path
  )
  figures <- data.frame(
    path = as.character(unlist(files)),
    named = rep(!dir.exists(paths), lengths(files))
  )
  figures <- figures[order(!figures$named), ]
  figures[!duplicated(normalizePath(figures$path, mustWork = FALSE)), ]
}

# Draws one figure file: all that it writes changes together. taken: what others of this call have
# written, by figure file. Returns list(written, proof).
draw_figure_file <- function(path, options = list(), with_proof = FALSE, taken = NULL) {
  figure <- read_figure(path, only = options$only)
  if (!all(vapply(figure$drawings, function(one) length(one$save) > 0, NA))) {
    abort_nelvat(
      "figure",
      c(
        "Nothing is to be written.",
        i = "Name files under `save`, such as `save: [figure.pdf]`."
      )
    )
  }
  check_apart(figure$drawings, path)
  check_outputs(unlist(lapply(figure$drawings, `[[`, "save")), figure, path, taken)
  made <- lapply(figure$drawings, drawing_files, options, with_proof)
  if (isTRUE(options$archive)) {
    made <- Map(
      function(one, drawing) changed(one, files = with_archive(one$files, drawing, path, figure)),
      made,
      figure$drawings
    )
  }
  files <- unlist(lapply(made, `[[`, "files"), recursive = FALSE)
  check_outputs(names(files), figure, path, taken)
  record <- drawing_record(path, figure$read, names(files), options)
  folder <- record_folder(path)
  dir.create(folder, showWarnings = FALSE)
  make_folders(names(files), path)
  with_lock(
    folder,
    write_together(c(names(files), record_path(path)), c(files, list(text_bytes(record))), NULL)
  )
  if (!isTRUE(options$json)) writeLines(names(files))
  list(written = names(files), proof = proof_counts_of(lapply(made, `[[`, "findings")))
}

# The PDFs of a drawing with all that it is drawn from inside.
with_archive <- function(files, drawing, path, figure) {
  is_pdf <- grepl("[.]pdf$", names(files), ignore.case = TRUE)
  if (!any(is_pdf)) return(files)
  inside <- archived_files(path, names(figure$read$files), drawing)
  tell_archived(inside)
  files[is_pdf] <- lapply(files[is_pdf], pdf_with_files, inside)
  files
}

# Nothing is written over what the figure is drawn from, nor over what another figure file has drawn
# in this call, or in the folder before.
check_outputs <- function(outputs, figure, path, taken) {
  at_key("save", check_not_input(outputs, names(figure$read$files)))
  of_others <- c(taken, drawn_by_others(outputs, path))
  for (other in names(of_others)) {
    both <- outputs[file_itself(outputs) %in% file_itself(of_others[[other]])]
    if (!length(both)) next
    abort_nelvat(
      "figure",
      c(
        paste0("\"", both[1], "\" is what \"", other, "\" draws."),
        i = "Give each figure file a `save` of its own."
      ),
      at = "save"
    )
  }
}

# What other figure files of the folder have written, by their paths; looked up only where something
# stands in the way that this one has not written itself.
drawn_by_others <- function(outputs, path) {
  there <- outputs[file.exists(outputs)]
  if (all(file_itself(there) %in% file_itself(known_record(path)$written))) return(NULL)
  records <- list.files(record_folder(path), "[.]json$")
  others <- file.path(dirname(path), setdiff(sub("[.]json$", "", records), basename(path)))
  others <- others[file.exists(others)]
  lapply(stats::setNames(nm = others), function(other) known_record(other)$written)
}

# No two drawings of a file are written to one path.
check_apart <- function(drawings, path) {
  paths <- unlist(lapply(drawings, function(one) unique(one$save)))
  twice <- paths[duplicated(file_itself(paths))]
  if (!length(twice)) return(invisible())
  abort_nelvat(
    "figure",
    c(
      paste0("Two drawings would be written to \"", basename(twice[1]), "\"."),
      i = "Give each of them a `save` of its own, or `formats` in place of it."
    ),
    at = "save"
  )
}

# One drawing in each format it asks for, what the options ask for beside it, and its proof.
drawing_files <- function(drawing, options, with_proof) {
  own_plate <- drawing$plate
  resolved <- resolve_plate(own_plate)
  files <- plate_files(own_plate, drawing$save, options$dpi %||% 600, resolved = resolved)
  has_more <- isTRUE(options$source) || isTRUE(options$legend)
  if (!has_more && !with_proof) return(list(files = files))
  scene <- suppressWarnings(whole_scene(resolved, own_plate))
  stem <- tools::file_path_sans_ext(drawing$save[1])
  if (isTRUE(options$source)) {
    # One spreadsheet, where one can be written.
    ending <- if (requireNamespace("writexl", quietly = TRUE)) ".xlsx" else ".csv"
    files <- c(
      files,
      source_files(own_plate, paste0(stem, "-source", ending), NULL, resolved, scene)
    )
  }
  if (isTRUE(options$legend)) {
    legend <- strwrap(legend_text(scene, "markdown"), 100)
    files <- c(files, stats::setNames(list(text_bytes(legend)), paste0(stem, "-legend.md")))
  }
  list(
    files = files,
    findings = if (with_proof) as_proof(proof_findings(scene, own_plate, drawing$save))
  )
}

# "good", "2 to look at", "1 bad, 2 to look at".
proof_counts_of <- function(findings) {
  verdicts <- unlist(lapply(findings, `[[`, "verdict"))
  if (is.null(verdicts)) return("")
  n <- table(factor(verdicts, c("good", "look", "bad")))
  said <- c(
    if (n[["bad"]]) paste(n[["bad"]], "bad"),
    if (n[["look"]]) paste(n[["look"]], "to look at")
  )
  if (length(said)) paste(said, collapse = ", ") else "good"
}
