# Marks of each primitive as what ggplot2's geoms draw them from; their tables' columns are what the
# inks give.

# rects: panel, x0, x1, y0, y1, fill, opacity and, where they have an outline, colour and
# weight_pt.
draw_rects <- function(table) {
  table$fill <- ggplot2::alpha(table$fill, table$opacity)
  table$colour <- table$colour %||% rep(NA_character_, nrow(table))
  table$width <- mark_width(table$weight_pt %||% rep(0, nrow(table)))
  geom_data(
    ggplot2::GeomRect,
    table,
    list(linejoin = "mitre"),
    list(
      xmin = table$x0,
      xmax = table$x1,
      ymin = table$y0,
      ymax = table$y1,
      fill = table$fill,
      colour = table$colour,
      linewidth = table$width
    )
  )
}

# segments: panel, x0, y0, x1, y1, colour, weight_pt and, where dashed, dash.
draw_segments <- function(table) {
  table$width <- mark_width(table$weight_pt)
  table$line_type <- line_type(table$dash %||% rep("solid", nrow(table)))
  geom_data(
    ggplot2::GeomSegment,
    table,
    list(),
    list(
      x = table$x0,
      y = table$y0,
      xend = table$x1,
      yend = table$y1,
      colour = table$colour,
      linewidth = table$width,
      linetype = table$line_type
    )
  )
}

# points: panel, x, y, colour, shape, size_mm, opacity and, where they lie over each other, edge:
# the colour of a hair line round solid ones.
draw_points <- function(table) {
  looks <- symbol_looks(table$shape, table$colour, table$opacity)
  if (!is.null(table$edge)) {
    solid <- !table$shape %in% open_symbols
    looks$colour[solid] <- table$edge[solid]
    looks$stroke[solid] <- hair_stroke
  }
  # ggplot2 takes a size in its own mm and adds the outline to it.
  geom_data(
    ggplot2::GeomPoint,
    table,
    list(),
    list(
      x = table$x,
      y = table$y,
      colour = looks$colour,
      fill = looks$fill,
      shape = looks$pch,
      size = symbol_font_pt(table$size_mm) / ggplot2::.pt,
      stroke = looks$stroke
    )
  )
}

# R's own symbol for each of ours: solid ones have no outline, open ones are all
# outline.
symbol_codes <- c(
  disc = 21, triangle = 24, ring = 21, square = 22, wedge = 25, diamond = 23, `open square` = 22,
  `open triangle` = 24
)
open_symbols <- c("ring", "open square", "open triangle")

# Widths of outlines as GeomPoint takes them: 0.17 and 0.5 pt.
hair_stroke <- 0.12
open_stroke <- 0.35

# ggplot2 leaves out points of colour NA as missing, so "none" is a clear colour.
clear <- "#FFFFFF00"

symbol_looks <- function(shape, colour, opacity) {
  open <- shape %in% open_symbols
  painted <- ggplot2::alpha(colour, opacity)
  list(
    pch = unname(symbol_codes[shape]),
    colour = ifelse(open, painted, clear),
    fill = ifelse(open, clear, painted),
    stroke = ifelse(open, open_stroke, 0)
  )
}

# Type size at which R draws a disc of a diameter: a disc is 3/4 of its type size.
symbol_font_pt <- function(diameter_mm) diameter_mm / 0.75 * 72 / 25.4

# lines: panel, line, x, y, colour, weight_pt, dash, opacity. Rows of one `line` are joined
# in their order.
draw_lines <- function(table) {
  # Of one place there is no line.
  places <- stats::ave(seq_len(nrow(table)), table$panel, table$line, FUN = length)
  table <- table_rows(table, which(places > 1))
  table$width <- mark_width(table$weight_pt)
  table$line_type <- line_type(table$dash)
  table$colour <- ggplot2::alpha(table$colour, table$opacity)
  geom_data(
    ggplot2::GeomPath,
    table,
    list(lineend = "butt", linejoin = "round"),
    list(
      x = table$x,
      y = table$y,
      group = table$line,
      colour = table$colour,
      linewidth = table$width,
      linetype = table$line_type
    )
  )
}

# areas: panel, area, ring, x, y, fill, opacity, colour, weight_pt. Rows of one `area` are a
# polygon; its further rings are holes.
draw_areas <- function(table) {
  table$fill <- ggplot2::alpha(table$fill, table$opacity)
  table$width <- mark_width(table$weight_pt)
  table$ring <- table$ring %||% rep(1L, nrow(table))
  # Parts that one ring is enough for are drawn the faster way.
  one_ring <- all(table$ring == table$ring[1])
  geom_data(
    ggplot2::GeomPolygon,
    table,
    list(rule = "evenodd"),
    c(
      list(
        x = table$x,
        y = table$y,
        group = table$area,
        fill = table$fill,
        colour = table$colour,
        linewidth = table$width
      ),
      if (!one_ring) list(subgroup = table$ring)
    )
  )
}

# list(geom, params, data): what a geom is given, by its own names, once ggplot2 has built a plot.
# Marks are final, so nothing is left to be mapped, trained or explained.
geom_data <- function(geom, table, params, data) {
  common <- list(panel = table$panel, group = -1L, linetype = 1, alpha = NA)
  list(
    geom = geom,
    params = params,
    data = do.call(new_table, c(data, common[setdiff(names(common), names(data))]))
  )
}
