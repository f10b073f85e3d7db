# areas: panel, area, ring, x, y, fill, opacity, colour, weight_pt. Rows of one `area` are a
# polygon; its further rings are holes.
draw_areas <- function(table) {
  table$fill <- ggplot2::alpha(table$fill, table$opacity)
  table$width <- mark_width(table$weight_pt)
  table$ring <- table$ring %||% rep(1L, nrow(table))
  mapping <- ggplot2::aes(
    x = .data$x, y = .data$y, group = .data$area, subgroup = .data$ring, fill = I(.data$fill), colour = I(.data$colour),
    linewidth = I(.data$width), alpha = NULL
  )
  # Parts that one ring is enough for are drawn the faster way.
  if (all(table$ring == table$ring[1])) mapping$subgroup <- NULL
  mark_layer(ggplot2::GeomPolygon, table, mapping, rule = "evenodd")
}
