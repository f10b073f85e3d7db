# nelvat list FOLDER: what stands on what in a project, as a tree.

cli_list <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat list [--all] [--json] FOLDER",
    paste(
      "Shows for each figure file of a folder what it is drawn from (data, codebooks, house)",
      "and what is written of it."
    ),
    list(
      optparse::make_option(
        "--all",
        action = "store_true",
        default = FALSE,
        help = "enter the folders within it, too"
      ),
      json_option()
    ),
    least = 0,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  folder <- if (length(parsed$args)) parsed$args else "."
  figures <- lapply(figure_files(folder, NULL, isTRUE(parsed$options$all)), listed_figure, folder)
  if (isTRUE(parsed$options$json)) {
    writeLines(as_json(figures))
  } else {
    writeLines(enc2utf8(unlist(lapply(figures, figure_tree))), useBytes = TRUE)
  }
  if (all(vapply(figures, function(one) is.null(one$error), NA))) 0L else 1L
}

# One figure file: its inputs and outputs, and whether they are there and fresh; or what is wrong
# with it.
listed_figure <- function(path, folder) {
  figure <- tryCatch(suppressWarnings(suppressMessages(read_figure(path))), nelvat_error = identity)
  shown <- function(paths) path_from(folder, paths)
  if (inherits(figure, "nelvat_error")) {
    return(list(figure = shown(path), error = rlang::cnd_message(figure)))
  }
  written <- unlist(lapply(figure$drawings, `[[`, "save"))
  record <- known_record(path)
  fresh <- !is.null(record) && is_unchanged(path, list(source = FALSE, legend = FALSE))
  list(
    figure = shown(path),
    from = as.list(shown(figure$inputs)),
    written = as.list(shown(written)),
    state = drawing_state(written, fresh)
  )
}

drawing_state <- function(written, fresh) {
  if (!all(file.exists(as.character(written)))) return("not drawn")
  if (fresh) "up to date" else "to be drawn again"
}

figure_tree <- function(one) {
  if (!is.null(one$error)) return(c(one$figure, paste0("  ! ", strsplit(one$error, "\n")[[1]])))
  c(
    paste0(one$figure, " (", one$state, ")"),
    paste0("  from  ", unlist(one$from)),
    if (length(one$written)) paste0("  to    ", unlist(one$written))
  )
}
