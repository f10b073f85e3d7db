# Inks in a figure file.

# An ink is its word alone, or its word with the arguments of its function.
build_ink <- function(ink, columns, tables, at) {
  if (rlang::is_string(ink)) ink <- stats::setNames(list(list()), ink)
  if (!is.list(ink) || length(ink) != 1 || is.null(names(ink))) {
    abort_figure(at, "An ink is one word, with its settings: {bars: {centre: mean}}.", ink)
  }
  known <- ink_words()
  if (grepl("::", names(ink), fixed = TRUE)) {
    make <- foreign_word(names(ink), at)
  } else if (names(ink) %in% known) {
    make <- get(paste0("ink_", names(ink)), mode = "function")
  } else {
    abort_figure(at, "There is no ink of that name.", names(ink), known)
  }
  word <- paste0("ink_", sub("^.*::", "", names(ink)))
  context <- list(columns = columns, folder = attr(tables, "folder"), tables = tables)
  values <- file_values(word, ink[[1]], context, c(at, names(ink)))
  at_key(c(at, names(ink)), do.call(make, values))
}

# The word of an ink of another package, `package::name`: of one that is loaded already, as a file
# can load no code.
foreign_word <- function(said, at) {
  parts <- strsplit(said, "::", fixed = TRUE)[[1]]
  package <- parts[1]
  if (length(parts) != 2 || !package %in% loadedNamespaces()) {
    abort_figure(
      at,
      paste0(
        "The package \"",
        package,
        "\" is not loaded: a file loads no code. Say `nelvat --allow ",
        package,
        "` before the command, or `library(",
        package,
        ")` in R."
      ),
      said
    )
  }
  known <- ink_words(package)
  if (!parts[2] %in% known) {
    abort_figure(
      at,
      paste0("The package \"", package, "\" has no ink of that name."),
      parts[2],
      known
    )
  }
  getExportedValue(package, paste0("ink_", parts[2]))
}

# Exported functions that begin with ink_: the registry has no list of its own.
ink_words <- function(package = topenv()) {
  exported <- getNamespaceExports(package)
  sort(sub("^ink_", "", exported[startsWith(exported, "ink_")]))
}

# Packages that are loaded and have inks.
ink_packages <- function() {
  Filter(function(package) length(ink_words(package)) > 0, loadedNamespaces())
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
