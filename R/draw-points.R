# points: panel, x, y, colour, shape, size_mm, opacity.
draw_points <- function(table) {
  looks <- symbol_looks(table$shape, table$colour, table$opacity)
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
