# The plate of a figure file, and where its blocks stand:
#   place: a
#   place: {beside: [a, {stacked: [b, c]}], widths: [2, 1]}
#   place: [{at: a, rows: [1, 2], columns: 1}, {at: blank, rows: 1, columns: 2}]
# Without one, all blocks in their order.

build_plate <- function(plate, blocks, folder, at = "plate") {
  children <- build_place(plate[["place"]] %||% names(blocks), blocks, c(at, "place"))
  for (side in c("width", "height")) check_plain_mm(plate[[side]], c(at, side))
  settings <- file_values("plate", plate[names(plate) != "place"], list(folder = folder), at)
  settings$house <- settings$house %||% folder_house(folder)
  if (is.list(settings$house)) {
    settings$house <- at_key(c(at, "house"), inline_house(settings$house, folder))
  }
  check_shared_names(settings$share, children, at)
  at_key(at, new_plate(children, settings, rlang::current_env()))
}

# A length of a page is a number of millimetres.
check_plain_mm <- function(value, at) {
  if (!rlang::is_string(value) || !grepl("^\\s*[0-9.]+\\s*mm\\s*$", value)) return(invisible())
  abort_figure(
    at,
    "Numbers are millimetres here.",
    value,
    hint = paste0("Write ", sub("\\s*mm\\s*$", "", value), ".")
  )
}

# What is shared must be columns of a table that the plate draws.
check_shared_names <- function(share, children, at) {
  if (!is.character(share)) return(invisible())
  books <- lapply(leaf_blocks(children), function(block) (block$panel %||% block)$book)
  columns <- unique(unlist(lapply(books, function(book) names(book$data))))
  absent <- setdiff(share, columns)
  if (length(absent)) {
    abort_figure(c(at, "share"), "No table of the plate has that variable.", absent[1], columns)
  }
}

# house: {from: compact, times: 1.5, type_pt: {base: 7}}
inline_house <- function(house, folder) {
  base <- house_from(house[["from"]] %||% folder_house(folder) %||% "plain", NULL)
  changed <- changed_house(base, house[!names(house) %in% c("from", "times")], character(), NULL)
  times_house(changed, house$times %||% 1, NULL)
}

# Insets need no place, so `place: {beside: [...]}` may stand in a list with them.
build_place <- function(place, blocks, at) {
  if (is.list(place) && is.null(names(place))) {
    return(
      unlist(
        lapply(seq_along(place), function(i) build_place(place[[i]], blocks, c(at, i))),
        recursive = FALSE
      )
    )
  }
  if (is.character(place)) return(unlist(lapply(place, place_named, blocks, at), recursive = FALSE))
  if (!is.list(place)) {
    abort_figure(at, "Expected the name of a block, or \"beside\", \"stacked\" or \"at\".", place)
  }
  word <- intersect(names(place), c("beside", "stacked", "at"))
  if (length(word) != 1) {
    abort_figure(at, "A place is one of \"beside\", \"stacked\" and \"at\".", names(place))
  }
  if (word == "at") {
    check_keys(place, c("at", "rows", "columns"), needs = c("rows", "columns"), at = at)
    inner <- build_place(place[["at"]], blocks, c(at, "at"))
    if (length(inner) != 1) {
      abort_figure(c(at, "at"), "One block or placement stands at cells.", place[["at"]])
    }
    return(
      stats::setNames(
        list(at_key(at, at(inner[[1]], unlist(place[["rows"]]), unlist(place[["columns"]])))),
        names(inner)
      )
    )
  }
  sizes <- if (word == "beside") "widths" else "heights"
  check_keys(place, c(word, sizes), at = at)
  children <- build_place(as.list(place[[word]]), blocks, c(at, word))
  list(
    at_key(
      at,
      new_placement(
        word,
        children,
        if (!is.null(place[[sizes]])) build_sizes(place[[sizes]], c(at, sizes)),
        sizes,
        rlang::current_env()
      )
    )
  )
}

place_named <- function(name, blocks, at) {
  if (identical(name, "blank")) return(list(blank()))
  if (identical(name, "key")) return(list(key_place()))
  if (!name %in% names(blocks)) {
    abort_figure(at, "No block of that name is under `blocks`.", name, names(blocks))
  }
  blocks[name]
}

# widths: [2, 40 mm, natural]
build_sizes <- function(sizes, at) {
  unlist(
    lapply(as.list(sizes), function(size) {
      if (is.numeric(size)) return(list(size))
      if (identical(size, "natural")) return(natural())
      parts <- if (rlang::is_string(size)) {
        regmatches(size, regexec("^\\s*([0-9.]+)\\s*mm\\s*$", size))[[1]]
      }
      if (length(parts) == 2) return(mm(as.numeric(parts[2])))
      abort_figure(at, "A size is a weight, millimetres such as \"40 mm\", or \"natural\".", size)
    }),
    recursive = FALSE
  )
}
