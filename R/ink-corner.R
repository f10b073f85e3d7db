# The emptiest corner of a panel, found by counting ink: how many points of marks fall
# where the text would stand.

corner_inset_mm <- 1

# Words for corners, with positions: those of a panel one under the other in the corner
# that has least ink.
in_corners <- function(layer, marks, panels, house, font) {
  table <- layer$table
  parts <- lapply(split(seq_len(nrow(table)), table$panel), function(rows) {
    one_panel <- panels[panels$id == table$panel[rows[1]], ]
    laid <- lapply(
      rows, function(row) set_text(table$string[row], table$size_pt[row], font, one_panel$w - 2 * corner_inset_mm, 4L)
    )
    heights <- vapply(laid, function(one) text_height_mm(one$n_lines, one$size_pt, font), 0)
    corner <- emptiest_corner(max(widest_mm(laid)), sum(heights), one_panel, ink_points_of(marks, one_panel$id))
    below <- c(0, cumsum(heights)[-length(heights)])
    if (corner$y == 0) below <- below - sum(heights) + heights
    new_table(
      panel = one_panel$id, x = corner$x, y = corner$y, string = table$string[rows], size_pt = table$size_pt[rows],
      across = corner$x, down = 1 - corner$y,
      colour = table$colour[rows], dx_mm = corner_inset_mm * (1 - 2 * corner$x),
      dy_mm = corner_inset_mm * (1 - 2 * corner$y) - below,
      most_mm = one_panel$w - 2 * corner_inset_mm, .rows = length(rows)
    )
  })
  layer$table <- stack_tables(parts)
  layer
}

# Top right first: where corners are equally empty, the first is taken.
emptiest_corner <- function(width_mm, height_mm, panel, ink) {
  corners <- list(list(x = 1, y = 1), list(x = 0, y = 1), list(x = 1, y = 0), list(x = 0, y = 0))
  reach_x <- (width_mm + 2 * corner_inset_mm) / panel$w
  reach_y <- (height_mm + 2 * corner_inset_mm) / panel$h
  held <- vapply(corners, function(corner) sum(abs(ink$x - corner$x) < reach_x & abs(ink$y - corner$y) < reach_y), 0)
  structure(corners[[which.min(held)]], held = min(held))
}

# Points of the marks of a panel, in unit-panel coordinates.
ink_points_of <- function(marks, id) {
  points <- lapply(Filter(function(layer) layer$primitive != "words", marks), function(layer) {
    own <- layer$table[layer$table$panel == id, ]
    switch(layer$primitive,
      points = , lines = list(x = own$x, y = own$y),
      areas = list(x = own$x, y = own$y),
      rects = list(
        x = c(own$x0, own$x1, own$x0, own$x1, (own$x0 + own$x1) / 2),
        y = c(own$y0, own$y0, own$y1, own$y1, (own$y0 + own$y1) / 2)
      ),
      segments = list(x = c(own$x0, own$x1), y = c(own$y0, own$y1))
    )
  })
  list(x = unlist(lapply(points, `[[`, "x")), y = unlist(lapply(points, `[[`, "y")))
}
