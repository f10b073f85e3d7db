# rects: panel, x0, x1, y0, y1, fill, alpha.
draw_rects <- function(table) {
  table$fill <- ggplot2::alpha(table$fill, table$alpha)
  mark_layer(ggplot2::GeomRect, table, colour = NA, ggplot2::aes(
    xmin = .data$x0, xmax = .data$x1, ymin = .data$y0, ymax = .data$y1, fill = I(.data$fill), alpha = NULL
  ))
}
