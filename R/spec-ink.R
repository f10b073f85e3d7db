# Inks in a figure file.

# An ink is its word alone, or its word with the arguments of its function.
build_ink <- function(ink, columns, tables, at) {
  if (rlang::is_string(ink)) ink <- stats::setNames(list(list()), ink)
  if (!is.list(ink) || length(ink) != 1 || is.null(names(ink))) {
    abort_figure(at, "An ink is one word, with its settings: {bars: {centre: mean}}.", ink)
  }
  known <- ink_words()
  if (!names(ink) %in% known) abort_figure(at, "There is no ink of that name.", names(ink), known)
  word <- paste0("ink_", names(ink))
  context <- list(columns = columns, folder = attr(tables, "folder"), tables = tables)
  values <- file_values(word, ink[[1]], context, c(at, names(ink)))
  at_key(c(at, names(ink)), do.call(word, values))
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
    function(ink, i) build_ink(ink, columns, tables, c(at, i)),
    as.list(inks),
    seq_along(inks)
  )
}
