# The look of a category on a plate: the colour, shape and dash of each level. It belongs to the
# level of the variable, never to its place in one table: tables with the levels in another
# order, or with some of them, show each level alike.

# labels: of the levels, as shown; colour, shape, dash: one a level, NULL where no mark shows it.
new_look <- function(id, title, levels, labels, colour = NULL, shape = NULL, dash = NULL) {
  one_each <- function(x) is.null(x) || (is.character(x) && length(x) == length(levels))
  check_record(
    list(
      id = id,
      title = title,
      levels = levels,
      labels = labels,
      colour = colour,
      shape = shape,
      dash = dash
    ),
    "look",
    list(
      id = rlang::is_string,
      title = rlang::is_string,
      levels = function(x) is.character(x) && !anyNA(x) && !anyDuplicated(x),
      labels = one_each,
      colour = one_each,
      shape = one_each,
      dash = one_each
    )
  )
}

# title: of its key; kind: of the variable, see merged_kind(); shows: the channels by which marks
# show it.
look_of <- function(id, title, kind, shows, house, call) {
  new_look(
    id,
    title,
    kind$levels,
    kind$level_names,
    colour = if ("colour" %in% shows) level_colours(kind, house$palette, call),
    shape = if ("shape" %in% shows) level_symbols(kind, house$symbols, call),
    dash = if ("dash" %in% shows) level_dashes(kind, house$dashes, call)
  )
}

# One kind with the levels of all, those of the first in their order. What one table says of a
# level holds for the others; where two say unlike things of it, that is an error.
merged_kind <- function(id, kinds, tables, call) {
  merged <- kinds[[1]]
  places <- merged$colour_place %||% seq_along(merged$levels)
  colours <- named_colours(merged)
  said_by <- rep(tables[1], length(merged$levels))
  for (k in seq_along(kinds)[-1]) {
    kind <- kinds[[k]]
    known <- match(kind$levels, merged$levels)
    agree <- function(mine, theirs, what) {
      unlike <- which(!is.na(mine) & !is.na(theirs) & mine != theirs)
      if (length(unlike)) {
        abort_contradiction(
          id,
          what,
          kind$levels[unlike[1]],
          c(said_by[known[unlike[1]]], tables[k]),
          c(mine[unlike[1]], theirs[unlike[1]]),
          call
        )
      }
    }
    colours_of <- named_colours(kind)
    agree(merged$level_names[known], kind$level_names, "name")
    agree(unname(colours[kind$levels]), unname(colours_of[kind$levels]), "colour")
    new <- which(is.na(known))
    wanted <- (kind$colour_place %||% seq_along(kind$levels))[new]
    for (place in wanted) {
      places <- c(
        places,
        if (is.na(place) || !place %in% places) place else max(places, wanted, na.rm = TRUE) + 1
      )
    }
    merged$levels <- c(merged$levels, kind$levels[new])
    merged$level_names <- c(merged$level_names, kind$level_names[new])
    said_by <- c(said_by, rep(tables[k], length(new)))
    colours <- c(colours, colours_of[setdiff(names(colours_of), names(colours))])
  }
  in_order <- match(common_order(lapply(kinds, `[[`, "levels")), merged$levels)
  merged$levels <- merged$levels[in_order]
  merged$level_names <- merged$level_names[in_order]
  merged$colour_place <- places[in_order]
  merged$n_levels <- max(unlist(lapply(kinds, function(kind) kind$n_levels)), length(merged$levels))
  merged$given_colours <- if (length(colours)) colours
  merged$colours <- NULL
  merged
}

# Levels of several tables in an order that each of them keeps, as far as they agree: those that
# only one table has come after what precedes them there.
common_order <- function(levels) {
  all <- levels[[which.max(lengths(levels))]]
  for (own in levels) {
    for (k in which(!own %in% all)) {
      before <- if (k > 1) match(own[k - 1], all) else 0
      all <- append(all, own[k], before)
    }
  }
  all
}

# Colours that a codebook gives, by level.
named_colours <- function(kind) {
  if (is.null(kind$colours)) return(stats::setNames(character(), character()))
  given <- stats::setNames(level_colours(kind), kind$levels)
  given
}

abort_contradiction <- function(id, what, level, tables, found, call) {
  abort_nelvat(
    "level",
    c(
      paste0("Two tables contradict each other about \"", id, "\"."),
      x = paste0(
        "The ",
        what,
        " of level \"",
        level,
        "\" is \"",
        found[1],
        "\" in ",
        tables[1],
        " and \"",
        found[2],
        "\" in ",
        tables[2],
        "."
      ),
      i = paste0("Say it alike in both codebooks, or give one of the columns another name.")
    ),
    call
  )
}
