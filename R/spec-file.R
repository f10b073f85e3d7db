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
  tables <- structure(build_tables(document$data, folder), folder = folder)
  blocks <- lapply(named_list(document$blocks, "blocks"), identity)
  blocks <- Map(function(block, name) build_block(block, tables, c("blocks", name)), blocks, names(blocks))
  list(plate = build_plate(document$plate, blocks), save = build_save(document$save, folder))
}

# Tables in the order they stand; an entry may use those before it.
build_tables <- function(data, folder) {
  tables <- list()
  entries <- named_list(data, "data")
  for (name in names(entries)) {
    tables[[name]] <- build_table(entries[[name]], tables, folder, c("data", name))
    tables[[name]]$label <- paste0("data \"", name, "\"")
  }
  tables
}

build_table <- function(entry, tables, folder, at) {
  if (rlang::is_string(entry)) entry <- list(file = entry)
  if (!is.null(entry$counts)) return(build_counts(entry, tables, at))
  if (!is.null(entry$correlations)) return(build_correlations(entry, tables, at))
  check_keys(entry, c("file", "codebook", "sheet", "range", "encoding", "zone", "join", "counts", "correlations"), needs = "file", at = at)
  file <- string_at(entry$file, c(at, "file"))
  codebook <- if (!is.null(entry$codebook)) beside_file(string_at(entry$codebook, c(at, "codebook")), folder)
  book <- at_key(at, read_data(beside_file(file, folder), codebook, entry$sheet, entry$range, entry$encoding %||% "UTF-8", entry$zone))
  for (other in unlist(entry$join)) {
    if (!other %in% names(tables)) abort_figure(c(at, "join"), "No table of that name stands before this one under `data`.", other, names(tables))
    book <- at_key(c(at, "join"), join_books(book, tables[[other]], NULL, rlang::current_env()))
  }
  book
}

# counts: {data: loaves, over: [bakery, verdict]}
build_counts <- function(entry, tables, at) {
  check_keys(entry, "counts", at = at)
  at <- c(at, "counts")
  check_keys(entry$counts, c("data", "over", "empty"), needs = c("data", "over"), at = at)
  table <- named_table(entry$counts$data, tables, c(at, "data"))
  columns <- lapply(unlist(entry$counts$over), function(column) rlang::expr(.data[[!!string_at(column, c(at, "over"))]]))
  at_key(at, rlang::eval_tidy(rlang::call2(counts, table, !!!columns, empty = entry$counts$empty %||% TRUE)))
}

# correlations: {data: loaves, columns: [rise, volume], method: spearman}
build_correlations <- function(entry, tables, at) {
  check_keys(entry, "correlations", at = at)
  at <- c(at, "correlations")
  check_keys(entry$correlations, c("data", "columns", "method", "half"), needs = "data", at = at)
  table <- named_table(entry$correlations$data, tables, c(at, "data"))
  columns <- unlist(entry$correlations$columns)
  chosen <- if (!is.null(columns)) rlang::call2("c", !!!lapply(columns, function(column) rlang::expr(.data[[!!string_at(column, c(at, "columns"))]])))
  at_key(at, rlang::eval_tidy(rlang::call2(correlations, table, chosen, method = entry$correlations$method %||% "pearson", half = entry$correlations$half %||% FALSE)))
}

named_table <- function(name, tables, at) {
  name <- string_at(name, at)
  if (!name %in% names(tables)) abort_figure(at, "No table of that name is under `data`.", name, names(tables))
  tables[[name]]
}

build_block <- function(block, tables, at) {
  check_keys(block, c("facets", "panel"), at = at)
  if (length(block) != 1) abort_figure(at, "A block is one of \"facets\" and \"panel\".", names(block))
  if (!is.null(block$panel)) return(build_panel(block$panel, tables, c(at, "panel")))
  facets <- block$facets
  at <- c(at, "facets")
  check_keys(facets, c("panel", "across", "down", names(facets_settings)), needs = "panel", at = at)
  panel <- build_panel(facets$panel, tables, c(at, "panel"))
  columns <- names(panel$book$data)
  settings <- facets[intersect(names(facets), names(facets_settings))]
  settings$order <- at_key(c(at, "order"), field_order(facets$order))
  if (is.list(settings$share)) settings$share <- unlist(settings$share)
  at_key(at, new_facets(panel, channel_quo(facets$across, columns, c(at, "across")), channel_quo(facets$down, columns, c(at, "down")), settings, rlang::current_env()))
}

build_panel <- function(panel, tables, at) {
  check_keys(panel, c("data", panel_channels, "ink", "derive", "keep", "order", "missing", "x_axis", "y_axis"), needs = c("data", "ink"), at = at)
  table <- named_table(panel$data, tables, c(at, "data"))
  derive <- build_derive(panel$derive, names(table$data), c(at, "derive"))
  columns <- c(names(table$data), names(derive))
  channels <- lapply(stats::setNames(nm = panel_channels), function(channel) channel_quo(panel[[channel]], columns, c(at, channel)))
  keep <- if (is.null(panel$keep)) rlang::quo(NULL) else file_expression(panel$keep, columns, c(at, "keep"))
  inks <- Map(function(ink, i) build_ink(ink, columns, attr(tables, "folder"), c(at, "ink", i)), as.list(panel$ink), seq_along(panel$ink))
  order <- if (!is.null(panel$order)) at_key(c(at, "order"), lapply(named_list(panel$order, c(at, "order")), field_order))
  at_key(at, new_panel(table, channels, inks, derive, keep, order, build_missing(panel$missing, c(at, "missing")),
                       list(x = build_axis(panel$x_axis, c(at, "x_axis")), y = build_axis(panel$y_axis, c(at, "y_axis"))), rlang::current_env()))
}

# x_axis: {range: [0, 24], every: 6}
build_axis <- function(axis, at) {
  if (is.null(axis)) return(NULL)
  check_keys(axis, names(formals(axis_of)), at = at)
  at_key(at, do.call(axis_of, lapply(axis, function(value) if (is.list(value)) unlist(lapply(value, function(one) if (is.null(one)) NA else one)) else value)))
}

# derive: {ratio: volume / rise} or {ratio: {expression: volume / rise, title: ..., unit: ...}},
# the other keys being those of a codebook's field.
build_derive <- function(derive, columns, at) {
  if (is.null(derive)) return(NULL)
  built <- list()
  for (name in names(named_list(derive, at))) {
    entry <- derive[[name]]
    kind <- NULL
    if (is.list(entry)) {
      check_keys(entry, c("expression", "type", "title", "unit", "show", "categories", "categoriesOrdered", "order", "count"), needs = "expression", at = c(at, name))
      if (length(entry) > 1) kind <- at_key(c(at, name), field_kind(utils::modifyList(list(type = "number"), entry)))
      entry <- entry$expression
    }
    built[[name]] <- new_derived(file_expression(entry, c(columns, names(built)), c(at, name)), kind, rlang::current_env())
  }
  built
}

# missing: gap, {fill_with: 0}, or policies by channel: {y: {fill_with: median}, colour: own}
build_missing <- function(missing, at) {
  if (is.null(missing)) return(NULL)
  policy <- function(value, at) {
    if (!is.list(value)) return(value)
    check_keys(value, "fill_with", needs = "fill_with", at = at)
    at_key(at, fill_with(value$fill_with))
  }
  if (!is.list(missing) || identical(names(missing), "fill_with")) return(policy(missing, at))
  Map(policy, missing, lapply(names(missing), function(channel) c(at, channel)))
}

# An ink is its word alone, or its word with the arguments of its function.
build_ink <- function(ink, columns, folder, at) {
  if (rlang::is_string(ink)) ink <- stats::setNames(list(list()), ink)
  if (!is.list(ink) || length(ink) != 1 || is.null(names(ink))) {
    abort_figure(at, "An ink is one word, with its settings: {bars: {centre: mean}}.", ink)
  }
  known <- ink_words()
  if (!names(ink) %in% known) abort_figure(at, "There is no ink of that name.", names(ink), known)
  make <- get(paste0("ink_", names(ink)), mode = "function")
  settings <- as.list(ink[[1]])
  check_keys(settings, names(formals(make)), at = c(at, names(ink)))
  if (rlang::is_string(settings$path)) settings$path <- beside_file(settings$path, folder)
  at_key(c(at, names(ink)), do.call(make, ink_settings(make, settings, columns, c(at, names(ink)))))
}

# Lists of numbers become vectors; on the ink's own channels a text that is no colour is
# a column.
ink_settings <- function(make, settings, columns, at) {
  for (name in names(settings)) {
    value <- settings[[name]]
    if (is.list(value) && all(lengths(value) == 1) && is.null(names(value))) value <- unlist(value)
    if (name %in% c("colour", "size", "shape", "z") && is.character(value) && (value %in% columns || !is_setting(value, name))) value <- one_quo(value, columns, c(at, name))
    settings[[name]] <- value
  }
  settings
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
  at_key("plate", new_plate(unname(blocks[place]), plate, rlang::current_env()))
}

build_save <- function(save, folder) {
  paths <- vapply(as.list(save), string_at, "", at = "save")
  vapply(paths, beside_file, "", folder = folder, USE.NAMES = FALSE)
}
