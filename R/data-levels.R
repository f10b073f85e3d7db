# The levels of a category: which there are, how they are named, in which order.

settle_levels <- function(kind, values, column, data, call) {
  present <- levels_present(values)
  check_level_lengths(present, column, call)
  if (!is.null(kind$names)) check_named(present, kind$names, column, call)
  kind <- with_ordered_levels(kind, present, column, values, data, call)
  kind$level_names <- unname(
    if (is.null(kind$names)) verbatim(kind$levels) else as.character(kind$names[kind$levels])
  )
  kind$n_levels <- length(kind$levels)
  check_names_differ(kind, column, call)
  if (!is.null(kind$colours)) kind$colours <- checked_colours(kind, column, call)
  kind
}

# Two levels that are shown by one name could not be told apart.
check_names_differ <- function(kind, column, call) {
  twice <- kind$level_names[duplicated(kind$level_names)]
  if (!length(twice)) return(invisible())
  alike <- kind$levels[kind$level_names == twice[1]]
  abort_nelvat(
    "level",
    c(
      paste0("Levels of column \"", column, "\" have the same name."),
      x = paste0(listed(paste0("\"", alike, "\"")), " are both called \"", twice[1], "\"."),
      i = paste0(
        "Give each a name of its own; to make them one level, replace one by the other in a ",
        "derived column."
      )
    ),
    call
  )
}

longest_level <- 1000 # letters

check_level_lengths <- function(present, column, call) {
  long <- which(nchar(present, "bytes") > longest_level)
  if (!length(long)) return(invisible())
  abort_nelvat(
    "level",
    c(
      paste0("A level of column \"", column, "\" is too long to be shown."),
      x = paste0(
        "\"",
        substr(present[long[1]], 1, 30),
        "...\" has ",
        nchar(present[long[1]], "bytes"),
        " letters."
      ),
      i = "Is it a column of free text? Leave it out of the figure."
    ),
    call
  )
}

# Colours by level, each one that can be drawn; levels may be named by code or by shown name.
checked_colours <- function(kind, column, call) {
  given <- unlist(kind$colours)
  wrong <- function(x, i = NULL) {
    abort_nelvat(
      "level",
      c(paste0("The colours of column \"", column, "\" cannot be used."), x = x, i = i),
      call
    )
  }
  if (is.null(names(given))) {
    if (length(given) < length(kind$levels)) {
      wrong(
        paste0("There are ", length(given), " for ", counted(length(kind$levels), "level"), ".")
      )
    }
    return(stats::setNames(given[seq_along(kind$levels)], kind$levels))
  }
  code <- ifelse(
    names(given) %in% kind$levels,
    names(given),
    kind$levels[match(names(given), kind$level_names)]
  )
  # A level that no row has may keep its colour.
  names(given) <- ifelse(is.na(code), names(given), code)
  absent <- setdiff(kind$levels, names(given))
  if (length(absent)) {
    stray <- setdiff(names(given), kind$levels)
    wrong(
      paste0("None is given for ", quoted(absent), "."),
      if (length(stray)) paste0("Given are colours of ", quoted(stray), ", which are no levels.")
    )
  }
  given
}

# Levels in a factor's order, by number for numbers, else by first appearance.
levels_present <- function(values) {
  if (is.factor(values)) return(levels(values)[levels(values) %in% values])
  if (is.character(values)) {
    present <- text_levels_cpp(values)$levels
    check_utf8(present)
    return(present)
  }
  present <- unique(values)
  present <- present[!is.na(present)]
  if (is.numeric(present) || is.logical(present)) present <- sort(present)
  as.character(present)
}

check_named <- function(present, names, column, call) {
  unnamed <- setdiff(present, names(names))
  if (!length(unnamed)) return(invisible())
  abort_nelvat(
    "level",
    c(
      paste0("Every code in column \"", column, "\" must have a name."),
      x = paste0("No name is given for ", quoted(unnamed), "."),
      i = paste0("Named are ", quoted(names(names)), ".")
    ),
    call
  )
}

check_utf8 <- function(texts) {
  bad <- which(!validUTF8(texts))
  if (!length(bad)) return(invisible())
  abort_nelvat(
    "encoding",
    c(
      "The text is not UTF-8.",
      x = paste0("For example \"", iconv(texts[bad[1]], "latin1", "UTF-8"), "\", read as Latin-1."),
      i = "Say `encoding = \"latin1\"` when reading the file."
    ),
    call = NULL
  )
}

# A kind with its levels in the order that it asks for, and with the tree of one by likeness.
with_ordered_levels <- function(kind, present, column, values, data, call) {
  kind$tree <- if (inherits(kind$order, "nelvat_order") && kind$order$rule == "likeness") {
    tree_of_levels(kind$order, present, values, data, column, call)
  }
  kind$levels <- kind$tree$levels %||% order_levels(kind, present, column, values, data, call)
  kind
}

order_levels <- function(kind, present, column, values, data, call) {
  order <- kind$order %||% (if (!is.null(kind$names)) names(kind$names))
  if (is.null(order)) return(present)
  if (inherits(order, "nelvat_order")) {
    return(apply_order(order, present, values, data, column, call))
  }
  order <- as.character(order)
  missed <- setdiff(present, order)
  if (length(missed)) {
    abort_nelvat(
      "level",
      c(
        paste0("The order of column \"", column, "\" must list all its levels."),
        x = paste0("In the data but not in the order: ", quoted(missed), "."),
        i = paste0("The order lists ", quoted(order), ".")
      ),
      call
    )
  }
  order
}

# A kind with its levels in another order; names and colours stay with their level.
reorder_levels <- function(kind, order, column, values, data, call) {
  names <- stats::setNames(kind$level_names, kind$levels)
  colours <- if (!is.null(kind$colours)) stats::setNames(level_colours_given(kind), kind$levels)
  before <- kind$levels
  if (!inherits(order, "nelvat_order")) {
    order <- match_level_names(as.character(order), kind, column, call)
  }
  kind$order <- order
  kind <- with_ordered_levels(kind, before, column, values, data, call)
  kind$level_names <- unname(names[kind$levels])
  kind$colours <- colours[kind$levels]
  # Without colours of their own, levels keep those of their place in the codebook.
  kind$colour_place <- (kind$colour_place %||% seq_along(before))[match(kind$levels, before)]
  kind
}

level_colours_given <- function(kind) {
  if (is.null(names(kind$colours))) {
    kind$colours[seq_along(kind$levels)]
  } else {
    unname(kind$colours[kind$levels])
  }
}

# Levels may be listed by code or by shown name; those not listed follow.
match_level_names <- function(order, kind, column, call) {
  code <- ifelse(
    order %in% kind$levels,
    order,
    kind$levels[match(order, kind$level_names)]
  )
  if (anyNA(code)) {
    wrong <- order[is.na(code)][1]
    abort_nelvat(
      "level",
      c(
        paste0("\"", wrong, "\" is no level of column \"", column, "\"."),
        offer(wrong, kind$levels, "level")
      ),
      call
    )
  }
  c(code, setdiff(kind$levels, code))
}
