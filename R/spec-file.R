#' A plate from a figure file
#'
#' Figure files are YAML in the words of the R functions. Paths in them are
#' relative to the file.
#'
#' @param path Path of a figure file.
#' @return A list of `plate`, a [plate()], and `save`, the paths it asks to be
#'   written.
#' @section Errors:
#' `nelvat_error_figure` for a file that is not YAML, a key that is not known or a
#' value of the wrong sort, with the place in the file; the errors of the functions
#' it calls, likewise.
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml"), study_file("responses.yaml")), folder)
#' read_figure(file.path(folder, "responses.yaml"))$save
#' @export
read_figure <- function(path) {
  check_string(path, "path")
  document <- read_document(path, "figure", rlang::current_env())
  with_place(paste0("\"", path, "\""), build_figure(document, dirname(path)))
}

build_figure <- function(document, folder) {
  check_keys(document, c("nelvat", "data", "blocks", "plate", "save"), needs = c("nelvat", "data", "blocks", "plate"), at = NULL)
  if (!identical(as.numeric(document$nelvat), 1)) {
    abort_figure("nelvat", "The version of the file's words must be 1.", document$nelvat)
  }
  tables <- build_tables(document$data, folder)
  blocks <- lapply(named_list(document$blocks, "blocks"), identity)
  blocks <- Map(function(block, name) build_block(block, tables, c("blocks", name)), blocks, names(blocks))
  list(plate = build_plate(document$plate, blocks), save = build_save(document$save, folder))
}

build_tables <- function(data, folder) {
  entries <- named_list(data, "data")
  Map(function(entry, name) {
    at <- c("data", name)
    if (rlang::is_string(entry)) entry <- list(file = entry)
    check_keys(entry, c("file", "codebook"), needs = "file", at = at)
    file <- string_at(entry$file, c(at, "file"))
    codebook <- if (!is.null(entry$codebook)) beside_file(string_at(entry$codebook, c(at, "codebook")), folder)
    book <- at_key(at, read_data(beside_file(file, folder), codebook))
    book$label <- paste0("data \"", name, "\"")
    book
  }, entries, names(entries))
}

build_block <- function(block, tables, at) {
  check_keys(block, c("facets", "panel"), at = at)
  if (length(block) != 1) abort_figure(at, "A block is one of \"facets\" and \"panel\".", names(block))
  if (!is.null(block$panel)) return(build_panel(block$panel, tables, c(at, "panel")))
  facets <- block$facets
  at <- c(at, "facets")
  check_keys(facets, c("panel", "across", "wrap", "share"), needs = "panel", at = at)
  panel <- build_panel(facets$panel, tables, c(at, "panel"))
  share <- unlist(facets$share) %||% c(x = "all", y = "all")
  at_key(at, new_facets(panel, column_quo(facets$across, c(at, "across")), facets$wrap, share, rlang::current_env()))
}

build_panel <- function(panel, tables, at) {
  check_keys(panel, c("data", panel_channels, "ink"), needs = c("data", "ink"), at = at)
  name <- string_at(panel$data, c(at, "data"))
  if (!name %in% names(tables)) abort_figure(c(at, "data"), "No table of that name is under `data`.", name, names(tables))
  channels <- lapply(stats::setNames(nm = panel_channels), function(channel) column_quo(panel[[channel]], c(at, channel)))
  inks <- Map(function(ink, i) build_ink(ink, c(at, "ink", i)), as.list(panel$ink), seq_along(panel$ink))
  at_key(at, new_panel(tables[[name]], channels, inks, rlang::current_env()))
}

# An ink is its word alone, or its word with the arguments of its function.
build_ink <- function(ink, at) {
  if (rlang::is_string(ink)) ink <- stats::setNames(list(list()), ink)
  if (!is.list(ink) || length(ink) != 1 || is.null(names(ink))) {
    abort_figure(at, "An ink is one word, with its settings: {bars: {centre: mean}}.", ink)
  }
  known <- ink_words()
  if (!names(ink) %in% known) abort_figure(at, "There is no ink of that name.", names(ink), known)
  make <- get(paste0("ink_", names(ink)), mode = "function")
  settings <- as.list(ink[[1]])
  check_keys(settings, names(formals(make)), at = c(at, names(ink)))
  at_key(c(at, names(ink)), do.call(make, settings))
}

# Exported functions that begin with ink_: the registry has no list of its own.
ink_words <- function() {
  exported <- getNamespaceExports(topenv())
  sort(sub("^ink_", "", exported[startsWith(exported, "ink_")]))
}

build_plate <- function(plate, blocks) {
  check_keys(plate, c("width", "height", "place"), needs = "place", at = "plate")
  place <- string_at(plate$place, c("plate", "place"))
  if (!place %in% names(blocks)) abort_figure(c("plate", "place"), "No block of that name is under `blocks`.", place, names(blocks))
  at_key("plate", new_plate(unname(blocks[place]), plate$width %||% "double", plate$height, rlang::current_env()))
}

build_save <- function(save, folder) {
  paths <- vapply(as.list(save), string_at, "", at = "save")
  vapply(paths, beside_file, "", folder = folder, USE.NAMES = FALSE)
}
