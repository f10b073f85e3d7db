# Marks of each primitive as layers of ggplot2; their tables' columns are what the inks give.

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

# segments: panel, x0, y0, x1, y1, colour, weight_pt and, where dashed, dash.
draw_segments <- function(table) {
  table$width <- mark_width(table$weight_pt)
  table$line_type <- line_type(table$dash %||% rep("solid", nrow(table)))
  mark_layer(ggplot2::GeomSegment, table, ggplot2::aes(
    x = .data$x0, y = .data$y0, xend = .data$x1, yend = .data$y1, colour = I(.data$colour),
    linewidth = I(.data$width), linetype = I(.data$line_type)
  ))
}

# points: panel, x, y, colour, shape, size_mm, opacity and, where they lie over each other, edge: the colour
# of a hair line round solid ones.
draw_points <- function(table) {
  looks <- symbol_looks(table$shape, table$colour, table$opacity)
  if (!is.null(table$edge)) {
    solid <- !table$shape %in% open_symbols
    looks$colour[solid] <- table$edge[solid]
    looks$stroke[solid] <- hair_stroke
  }
  table[names(looks)] <- looks
  # ggplot2 takes a size in its own mm and adds the outline to it.
  table$size <- symbol_font_pt(table$size_mm) / ggplot2::.pt
  mark_layer(ggplot2::GeomPoint, table, ggplot2::aes(
    x = .data$x, y = .data$y, colour = I(.data$colour), fill = I(.data$fill), shape = I(.data$pch),
    size = I(.data$size),
    stroke = I(.data$stroke), alpha = NULL
  ))
}

# R's own symbol for each of ours: solid ones have no outline, open ones are all
# outline.
symbol_codes <- c(
  disc = 21, triangle = 24, ring = 21, square = 22, wedge = 25, diamond = 23, `open square` = 22, `open triangle` = 24
)
open_symbols <- c("ring", "open square", "open triangle")

hair_stroke <- 0.12 # about 0.17 pt

# ggplot2 leaves out points of colour NA as missing, so "none" is a clear colour.
clear <- "#FFFFFF00"

symbol_looks <- function(shape, colour, opacity) {
  open <- shape %in% open_symbols
  painted <- ggplot2::alpha(colour, opacity)
  list(
    pch = unname(symbol_codes[shape]), colour = ifelse(open, painted, clear), fill = ifelse(open, clear, painted),
    stroke = ifelse(open, 0.35, 0)
  )
}

# Type size at which R draws a disc of a diameter: a disc is 3/4 of its type size.
symbol_font_pt <- function(diameter_mm) diameter_mm / 0.75 * 72 / 25.4

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
