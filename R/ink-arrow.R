#' @rdname marks
#' @export
ink_arrow <- function(from, to, colour = NULL, weight = 0.8, where = NULL, ...) {
  said_ink("arrow", ...)
}

#' @export
word_rows.ink_arrow <- function(word) {
  end <- places(2, says = "Two numbers each, x and y.")
  c(list(from = end, to = end), mark_rows(2)[c("colour", "weight", "where")])
}

#' @export
check_ink.ink_arrow <- function(ink, panel, call) check_places_axes(panel, call)

#' @export
train_ink.ink_arrow <- function(ink, layer) {
  train_places(layer, c(ink$from[1], ink$to[1]), c(ink$from[2], ink$to[2]))
}

arrow_head_mm <- 1.8

# Heads of arrows, in unit-panel coordinates: list(heads, base_x, base_y), where a shaft ends.
arrow_heads <- function(x0, y0, x1, y1, panel, colour, site) {
  w <- site$panel_w(panel)
  h <- site$panel_h(panel)
  turn <- atan2((y1 - y0) * h, (x1 - x0) * w)
  wing <- function(angle) {
    list(
      x = x1 - arrow_head_mm * cos(turn + angle) / w,
      y = y1 - arrow_head_mm * sin(turn + angle) / h
    )
  }
  a <- wing(0.4)
  b <- wing(-0.4)
  n <- length(panel)
  heads <- new_table(
    panel = rep(panel, each = 3),
    area = rep(seq_len(n), each = 3),
    x = as.vector(rbind(a$x, x1, b$x)),
    y = as.vector(rbind(a$y, y1, b$y)),
    fill = rep(rep_len(colour, n), each = 3),
    opacity = 1,
    colour = NA_character_,
    weight_pt = 0,
    .rows = 3 * n
  )
  list(heads = heads, base_x = (a$x + b$x) / 2, base_y = (a$y + b$y) / 2)
}

#' @export
place_ink.ink_arrow <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(value, direction) site$unit(rep(value, length(panels)), panels, direction)
  x0 <- unit(ink$from[1], "x")
  y0 <- unit(ink$from[2], "y")
  colour <- ink$colour %||% site$house$colour$axis
  found <- arrow_heads(x0, y0, unit(ink$to[1], "x"), unit(ink$to[2], "y"), panels, colour, site)
  list(
    new_marks(
      "segments",
      new_table(
        panel = panels,
        x0 = x0,
        y0 = y0,
        x1 = found$base_x,
        y1 = found$base_y,
        colour = colour,
        weight_pt = ink$weight,
        .rows = length(panels)
      )
    ),
    new_marks("areas", found$heads)
  )
}

#' @export
ink_traits.ink_arrow <- function(ink) note_traits()

#' @export
marks_named.ink_arrow <- function(ink) "arrows"
