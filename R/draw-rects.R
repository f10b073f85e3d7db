# rects: panel, x0, x1, y0, y1, fill, opacity and, where they have an outline, colour and
# weight_pt.
draw_rects <- function(table) {
  table$fill <- ggplot2::alpha(table$fill, table$opacity)
  table$colour <- table$colour %||% rep(NA_character_, nrow(table))
  table$width <- mark_width(table$weight_pt %||% rep(0, nrow(table)))
  mark_layer(ggplot2::GeomRect, table, linejoin = "mitre", mapping = ggplot2::aes(
    xmin = .data$x0, xmax = .data$x1, ymin = .data$y0, ymax = .data$y1, fill = I(.data$fill), colour = I(.data$colour),
    linewidth = I(.data$width), alpha = NULL
  ))
}
