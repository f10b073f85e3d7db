# lines: panel, line, x, y, colour, weight_pt, dash, opacity. Rows of one `line` are joined
# in their order.
draw_lines <- function(table) {
  table$width <- mark_width(table$weight_pt)
  table$line_type <- line_type(table$dash)
  table$colour <- ggplot2::alpha(table$colour, table$opacity)
  mark_layer(ggplot2::GeomPath, table, lineend = "butt", linejoin = "round", mapping = ggplot2::aes(
    x = .data$x, y = .data$y, group = .data$line, colour = I(.data$colour), linewidth = I(.data$width),
    linetype = I(.data$line_type), alpha = NULL
  ))
}
