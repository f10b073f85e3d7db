# A figure file that is another with something different:
#   from: figure-1.yaml
#   blocks: {scatter: {panel: {y: firmness}}}
# Keys are merged as far as both have mappings; null takes a key away; inks, places and lists are
# replaced whole. Paths of the other file stay relative to it; what it saves is not saved again, but
# under this file's own name in the same formats, unless `save` says otherwise.

# The document of a file, with those that it is from. seen: files on the way to it.
whole_document <- function(path, call, seen = character()) {
  document <- read_document(path, "figure", call)
  base <- if (is.list(document)) document[["from"]]
  if (is.null(base)) return(document)
  base <- string_at(base, "from")
  base_path <- beside_file(base, dirname(path))
  seen <- c(seen, normalizePath(path, "/"))
  if (normalizePath(base_path, "/", mustWork = FALSE) %in% seen) {
    abort_figure("from", "A figure cannot be from itself.", base)
  }
  if (!file.exists(base_path)) abort_figure("from", "There is no such file.", base)
  other <- whole_document(base_path, call, seen)
  if (dirname(base) != ".") other <- rebased_paths(other, dirname(base))
  other <- saved_anew(other, basename(tools::file_path_sans_ext(path)))
  merged_documents(other, document[names(document) != "from"])
}

# The files that a figure file is from, itself first.
files_from <- function(path) {
  found <- path
  repeat {
    document <- tryCatch(read_document(utils::tail(found, 1), "figure", NULL), error = identity)
    base <- if (is.list(document) && !inherits(document, "error")) document[["from"]]
    if (!rlang::is_string(base)) return(found)
    base <- beside_file(base, dirname(utils::tail(found, 1)))
    if (!file.exists(base) || base %in% found) return(found)
    found <- c(found, base)
  }
}

is_mapping <- function(node) is.list(node) && length(node) && !is.null(names(node))

# Keys whose value is one thing: what is said anew takes its place.
replaced_whole <- c("ink", "above", "below", "diagonal", "mixed", "marginal", "place")

merged_documents <- function(base, new) {
  # Another word for a block is another block.
  of_block <- intersect(names(new), block_words)
  if (length(of_block) && !any(of_block %in% names(base))) {
    base <- base[!names(base) %in% block_words]
  }
  for (key in names(new)) {
    value <- new[[key]]
    both <- is_mapping(base[[key]]) && is_mapping(value) && !key %in% replaced_whole
    base[[key]] <- if (both) merged_documents(base[[key]], value) else value
  }
  base
}

# Every path in a document, seen from a folder that `folder` leads from.
rebased_paths <- function(node, folder, key = "") {
  if (is.list(node)) {
    return(
      Map(
        function(one, name) rebased_paths(one, folder, if (nzchar(name)) name else key),
        node,
        rlang::names2(node)
      )
    )
  }
  is_path <- key %in% path_keys & is.character(node) &
    (key != "house" | grepl("[.](ya?ml|json)$", as.character(node)))
  is_open <- is_path & !grepl("^(/|~|[A-Za-z]:)", as.character(node))
  if (any(is_open)) node[is_open] <- file.path(folder, node[is_open])
  node
}

# What is saved, under the name of another file.
saved_anew <- function(document, stem) {
  # Each of several values has a name of its own.
  each <- names(document[["for_each"]])
  if (length(each) == 1) stem <- paste0(stem, "-{", each, "}")
  renamed <- function(save, name) {
    if (is.null(save)) return(NULL)
    paste0(name, ".", unique(tools::file_ext(unlist(save))))
  }
  document[["save"]] <- renamed(document[["save"]], stem)
  if (is_mapping(document[["plate"]])) {
    document[["plate"]][["save"]] <- renamed(document[["plate"]][["save"]], stem)
  }
  for (part in c("plates", "outputs")) {
    for (name in names(document[[part]])) {
      if (!is_mapping(document[[part]][[name]])) next
      document[[part]][[name]][["save"]] <- renamed(
        document[[part]][[name]][["save"]],
        paste0(stem, "-", name)
      )
    }
  }
  document
}
