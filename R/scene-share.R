# Axes shared by blocks of a plate: blocks over the same columns that show the same
# variable on x have one range, blocks over the same rows on y; blocks that stand next to
# each other draw its tick text once.

share_across <- function(blocks, plate) {
  if (isFALSE(plate$share)) return(blocks)
  forced <- if (is.list(plate$share)) plate$share$variables
  for (direction in c("x", "y")) {
    line <- place_lines(plate, direction)
    joined <- shareable_axes(blocks, direction)
    is_forced <- joined$variable %in% forced
    line_of <- ifelse(is_forced, "all", line[joined$block])
    named <- ifelse(
      is_forced,
      "named by share_axis()",
      paste(joined$variable, joined$name, sep = "\r")
    )
    shared <- paste(named, joined$transform, joined$turned, joined$slots, line_of)
    for (of in split(seq_len(nrow(joined)), shared)) {
      if (length(unique(joined$block[of])) > 1) blocks <- with_one_range(blocks, joined[of, ])
    }
    blocks <- drawn_once(blocks, joined, plate, direction)
  }
  blocks
}

# Over which columns (for x) or rows (for y) each block stands.
place_lines <- function(plate, direction) {
  places <- plate$grid$places
  if (direction == "x") paste(places$x0, places$x1) else paste(places$y0, places$y1)
}

# Axes of one direction that may share: not those of zooms, of marginals, or that panels
# of their own block do not share.
shareable_axes <- function(blocks, direction) {
  found <- lapply(seq_along(blocks), function(i) {
    block <- blocks[[i]]
    if (
      !is.null(block$design$zoom) || block$equal || block$design$range_per[[direction]] != "block"
    ) {
      return(NULL)
    }
    areas_of_axis <- which(
      vapply(
        block$axes,
        function(axis) {
          axis$direction == direction && !axis$hidden && !axis$bare && axis$role == "matrix" &&
            length(axis$areas) > 0
        },
        NA
      )
    )
    stack_tables(
      lapply(areas_of_axis, function(k) {
        axis <- block$axes[[k]]
        new_table(
          block = i,
          axis = k,
          variable = axis$variable,
          name = axis$name,
          transform = axis$transform,
          turned = axis$turned,
          slots = paste(
            vapply(axis$slot_texts, function(one) paste(one$words$string, collapse = " "), ""),
            collapse = "|"
          ),
          ticks = asked_ticks(axis)
        )
      })
    )
  })
  stack_tables(found) %||% new_table(
    block = integer(),
    axis = integer(),
    variable = character(),
    name = character(),
    transform = character(),
    turned = logical(),
    slots = character(),
    ticks = character()
  )
}

# What was asked of the ticks of an axis: only axes of the same ticks share their text.
asked_ticks <- function(axis) {
  asked <- Filter(
    function(said) !is.null(said) && !isFALSE(said),
    axis$asked[c("every", "breaks", "format", "counts")]
  )
  if (length(asked)) rlang::hash(asked) else ""
}

# The range that one of them was asked to have, else what all of them show.
with_one_range <- function(blocks, joined) {
  axes <- Map(function(i, k) blocks[[i]]$axes[[k]], joined$block, joined$axis)
  if (axes[[1]]$slots) return(blocks)
  direction <- axes[[1]]$direction
  asked <- which(
    vapply(joined$block, function(i) !is.null(blocks[[i]]$design$axes[[direction]]$range), NA)
  )
  ranges <- lapply(axes, `[[`, "range")
  range <- if (length(asked)) ranges[[asked[1]]] else range(unlist(ranges))
  if (axes[[1]]$turned && !length(asked)) range <- rev(range)
  for (row in seq_len(nrow(joined))) {
    i <- joined$block[row]
    block <- with_axis(blocks[[i]], joined$axis[row], range = range)
    notes <- c(block$scale_note, tenfold_note(axes[[row]], range, block$title))
    blocks <- replace(blocks, i, list(changed(block, scale_note = notes)))
  }
  blocks
}

# Where one block's values take less than a tenth of the shared range.
tenfold_note <- function(axis, range, title) {
  if (abs(diff(axis$range)) * 10 > abs(diff(range))) return(NULL)
  paste0(
    "\"",
    axis$variable,
    "\" of ",
    title,
    paste0(
      " takes less than a tenth of the range it shares with other blocks; `share = FALSE` gives ",
      "it one of its own."
    )
  )
}

# Of two blocks that stand next to each other with the same panels across and the same
# axis, only the outer draws tick text and title.
drawn_once <- function(blocks, joined, plate, direction) {
  places <- plate$grid$places
  lines <- place_lines(plate, direction)
  along <- if (direction == "x") c("y1", "y0") else c("x0", "x1")
  side <- if (direction == "x") "column" else "row"
  for (row in seq_len(nrow(joined))) {
    i <- joined$block[row]
    beyond <- which(
      lines == lines[i] &
        places[[along[2]]] == places[[along[1]]][i] + if (direction == "x") 1 else -1
    )
    beyond <- Filter(
      function(j) {
        same_page(plate, i, j) && any(
          joined$block == j & joined$variable == joined$variable[row] &
            joined$name == joined$name[row] &
            joined$transform == joined$transform[row] &
            joined$turned == joined$turned[row] &
            joined$slots == joined$slots[row] &
            joined$ticks == joined$ticks[row]
        )
      },
      beyond
    )
    if (length(beyond) != 1) next
    same <- max(blocks[[i]]$panels[[side]]) == max(blocks[[beyond]]$panels[[side]])
    lone <- sum(joined$block == i) == 1 && sum(joined$block == beyond) == 1
    if (
      !same || !lone || identical(blocks[[i]]$design$show_axes, "all") ||
        identical(blocks[[beyond]]$design$show_axes, "all") || has_marginals(blocks[[i]])
    ) {
      next
    }
    k <- joined$axis[row]
    bare <- with_axis(blocks[[i]], k, drawn_at = integer(), title = "")
    blocks <- replace(blocks, i, list(relying(bare, blocks[[i]], k, blocks[[beyond]]$id)))
  }
  blocks
}

same_page <- function(plate, i, j) {
  rows <- plate$grid$places$y0[c(i, j)]
  is.null(plate$pages) || any(vapply(plate$pages, function(page) all(rows %in% page), NA))
}
