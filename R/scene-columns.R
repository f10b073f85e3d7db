# Columns of text beside a panel whose rows they describe: their own axis is left out only where the
# panel in the same row of the plate names the same rows in the same order.

with_columns_beside <- function(blocks, plate) {
  lapply(seq_along(blocks), function(i) {
    block <- blocks[[i]]
    neighbour <- if (is_text_block(block)) nearest_of_rows(blocks, plate$grid$places, i)
    if (is.null(neighbour)) return(block)
    with_place(block_called(plate, i), check_same_rows(block, neighbour))
    without_y_axis(block, neighbour$id)
  })
}

row_axis <- function(block) {
  Find(
    function(axis) axis$direction == "y" && axis$slots && !axis$hidden && axis$role == "matrix",
    block$axes
  )
}

# The nearest block that stands in the same rows of the grid as a column, is one panel high and has
# its variable on y; NULL for none.
nearest_of_rows <- function(blocks, places, i) {
  axis_of_rows <- row_axis(blocks[[i]])
  if (is.null(axis_of_rows) || is.na(places$x0[i]) || max(blocks[[i]]$panels$row) > 1) return(NULL)
  likely <- vapply(
    seq_along(blocks),
    function(j) {
      if (j == i || is.na(places$x0[j]) || is_text_block(blocks[[j]])) return(FALSE)
      axis <- row_axis(blocks[[j]])
      same_place <- places$y0[j] == places$y0[i] && places$y1[j] == places$y1[i]
      !is.null(axis) && axis$variable == axis_of_rows$variable && same_place &&
        max(blocks[[j]]$panels$row) == 1
    },
    NA
  )
  if (!any(likely)) return(NULL)
  away <- abs(places$x0 - places$x0[i])
  blocks[[which(likely)[which.min(away[likely])]]]
}

check_same_rows <- function(block, neighbour) {
  axis_of_rows <- row_axis(block)
  other <- row_axis(neighbour)
  if (
    identical(axis_of_rows$slot_names, other$slot_names) &&
      axis_of_rows$turned == other$turned && axis_of_rows$transform == other$transform
  ) {
    return(invisible())
  }
  abort_nelvat(
    "level",
    c(
      "A column of text has other rows than the panel beside it, or another order.",
      x = paste0(
        "Its rows are ",
        quoted(plain_text(axis_of_rows$slot_names), 4),
        "; those of the panel are ",
        quoted(plain_text(other$slot_names), 4),
        "."
      ),
      i = "Make both of the same table, or give their category the same `order`."
    ),
    call = NULL
  )
}

without_y_axis <- function(block, on) {
  hidden <- function(table) changed(table, y_shown = rep(NA_integer_, nrow(table)))
  for (k in which(vapply(block$axes, function(axis) axis$direction == "y", NA))) {
    bare <- changed(
      with_axis(block, k, hidden = TRUE, title = ""),
      areas = hidden(block$areas),
      panels = hidden(block$panels)
    )
    block <- relying(bare, block, k, on)
  }
  block
}
