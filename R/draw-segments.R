# segments: panel, x0, y0, x1, y1, colour, weight_pt and, where dashed, dash.
draw_segments <- function(table) {
  table$width <- mark_width(table$weight_pt)
  table$line_type <- line_type(table$dash %||% rep("solid", nrow(table)))
  mark_layer(ggplot2::GeomSegment, table, ggplot2::aes(
    x = .data$x0, y = .data$y0, xend = .data$x1, yend = .data$y1, colour = I(.data$colour),
    linewidth = I(.data$width), linetype = I(.data$line_type)
  ))
}
