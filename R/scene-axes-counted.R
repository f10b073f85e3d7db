# The axes of what is counted of one variable alone, on diagonals and in margins.

# Areas of a diagonal have an axis of their own for what they count; they show that of
# their row, where the row has another area to read by it.
with_count_axes <- function(asked, layers) {
  areas <- asked$areas
  diagonal <- which(areas$role == "diagonal")
  if (!length(diagonal)) return(asked)
  of_row <- areas$y_axis
  shows_none <- vapply(
    diagonal,
    function(i) {
      others <- setdiff(which(of_row == of_row[i] & areas$role != "marginal"), diagonal)
      before <- areas$row[others] == areas$row[i] & areas$column[others] < areas$column[i]
      !length(others) || any(before)
    },
    NA
  )
  without_text <- areas$id[diagonal[shows_none]]
  axes <- lapply(seq_along(asked$axes), function(k) {
    axis <- asked$axes[[k]]
    bare <- without_text[of_row[diagonal[shows_none]] == k]
    if (length(bare)) changed(axis, drawn_at = setdiff(axis$drawn_at, bare)) else axis
  })
  # What is of one variable is counted on one axis.
  of <- areas$x_axis[diagonal]
  count_axes <- lapply(unique(of), function(one) {
    id <- areas$id[diagonal[match(one, of)]]
    list(
      direction = "y",
      variable = new_variable("diagonal", hidden_kind(supplied_kind(layers, id, "y"))),
      drawn_at = integer(),
      role = "diagonal"
    )
  })
  list(
    areas = changed(
      areas,
      y_shown = replace(areas$y_shown, diagonal[shows_none], NA_integer_),
      y_axis = replace(areas$y_axis, diagonal, length(axes) + match(of, unique(of)))
    ),
    axes = c(axes, count_axes)
  )
}

# A marginal stands on its host's axis; what it counts has an axis for all marginals of a strip,
# drawn at the edge where that is asked for.
with_marginal_axes <- function(asked, block, layers) {
  areas <- asked$areas
  axes <- asked$axes
  for (strip in each_row(unique(areas[!is.na(areas$side), c("side", "tier")]))) {
    side <- strip$side
    areas_of_side <- which(areas$side %in% side & areas$tier %in% strip$tier)
    host <- match(areas$host[areas_of_side], areas$id)
    if (isTRUE(block$marginals$outside)) check_one_scale(areas, side)
    other <- setdiff(c("x", "y"), side)
    # What is of one variable is counted on one axis.
    of <- vapply(
      asked$axes[areas[[paste0(side, "_axis")]][host]],
      function(axis) paste(axis$variable$id, axis$variable$transform),
      ""
    )
    for (variable in unique(of)) {
      counted <- areas_of_side[of == variable]
      kind <- supplied_kind(layers, areas$id[counted[1]], other)
      if (!block$marginals$axis) kind <- hidden_kind(kind)
      at_edge <- if (side == "x") {
        areas$column[counted] == min(areas$column[counted])
      } else {
        areas$row[counted] == max(areas$row[counted])
      }
      axes <- c(
        axes,
        list(
          list(
            direction = other,
            variable = new_variable(
              paste0("marginal of ", side, if (strip$tier > 1) paste0(" ", strip$tier)),
              kind
            ),
            drawn_at = if (block$marginals$axis) areas$id[counted][at_edge] else integer(),
            role = "marginal"
          )
        )
      )
      areas <- with_axis_columns(areas, counted, other, axis = length(axes))
    }
    areas <- with_axis_columns(
      areas,
      areas_of_side,
      side,
      axis = areas[[paste0(side, "_axis")]][host],
      variable = areas[[paste0(side, "_variable")]][host]
    )
  }
  list(areas = areas, axes = axes)
}
