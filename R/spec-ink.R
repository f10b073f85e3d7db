# Inks in a figure file.

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
  check_keys(settings, argument_names(make), at = c(at, names(ink)))
  if (rlang::is_string(settings$path)) settings$path <- beside_file(settings$path, folder)
  at_key(c(at, names(ink)), do.call(make, ink_settings(make, settings, columns, c(at, names(ink)))))
}

own_columns <- c(
  "colour", "size", "shape", "z", "group", "where", "weigh_by", "low", "high", "subject", "against",
  "first", "second",
  "score", "truth"
)

# Lists of numbers become vectors; on the ink's own channels a text that is no colour is
# a column.
ink_settings <- function(make, settings, columns, at) {
  for (name in names(settings)) {
    value <- settings[[name]]
    if (is.list(value) && !is.null(names(value)) && name != "start") {
      abort_figure(c(at, name), "Expected a value or a list of values.", value)
    }
    if (name != "start" && is.list(value) && all(lengths(value) == 1) && is.null(names(value))) {
      value <- unlist(value)
    }
    # What labels write is a column; what a note writes is its own text.
    if (name == "text" && utils::tail(at, 1) %in% c("labels", "column")) {
      value <- one_quo(value, columns, c(at, name))
    }
    if (
      name %in% own_columns && is.character(value) && (
        value %in% columns ||
          !is_setting(value, name) && !(name == "against" && value %in% names(quantile_functions))
      )
    ) {
      value <- one_quo(value, columns, c(at, name))
    }
    settings[[name]] <- value
  }
  settings
}

# Exported functions that begin with ink_: the registry has no list of its own.
ink_words <- function() {
  exported <- getNamespaceExports(topenv())
  sort(sub("^ink_", "", exported[startsWith(exported, "ink_")]))
}

# Inks by their words, in a list or alone; NULL for none.
build_inks <- function(inks, columns, tables, at) {
  if (is.null(inks)) return(NULL)
  if (rlang::is_string(inks) || (is.list(inks) && !is.null(names(inks)))) inks <- list(inks)
  Map(
    function(ink, i) build_ink(ink, columns, attr(tables, "folder"), c(at, i)),
    as.list(inks),
    seq_along(inks)
  )
}
