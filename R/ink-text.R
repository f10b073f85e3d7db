#' @rdname marks
#' @export
ink_text <- function(
  label,
  x,
  y,
  at = "data",
  anchor = "right",
  size = NULL,
  colour = NULL,
  where = NULL,
  ...
) {
  check_rest(...)
  check_string(label, "label")
  in_panels_where(
    new_ink(
      "text",
      label = label,
      x = check_places(x, "x", 1, levels = at == "data"),
      y = check_places(y, "y", 1, levels = at == "data"),
      at = check_choice(at, c("data", "panel"), "at"),
      anchor = check_choice(anchor, names(anchors), "anchor"),
      size = check_number(size, "size", 3, 40, unit = "pt", or_null = TRUE),
      colour = check_colour(colour)
    ),
    rlang::enquo(where)
  )
}

anchors <- list(
  right = c(0, 0.5),
  left = c(1, 0.5),
  above = c(0.5, 1),
  below = c(0.5, 0),
  middle = c(0.5, 0.5)
)

#' @export
check_ink.ink_text <- function(ink, panel, call) check_places_axes(panel, call)

# A note in a corner of the panel stands on no axis.
#' @export
said_on_axis.ink_text <- function(ink, direction) if (ink$at == "data") ink[direction]

#' @export
train_ink.ink_text <- function(ink, layer) {
  if (ink$at == "panel") train_places(layer) else train_places(layer, ink$x, ink$y)
}

note_gap_mm <- 1

#' @export
place_ink.ink_text <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(value, direction) {
    if (ink$at == "panel") {
      rep(value, length(panels))
    } else {
      site$unit(rep(value, length(panels)), panels, direction)
    }
  }
  anchor <- anchors[[ink$anchor]]
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = panels,
          x = unit(ink$x, "x"),
          y = unit(ink$y, "y"),
          string = ink$label,
          size_pt = ink$size %||% site$house$type_pt$base,
          across = anchor[1],
          down = anchor[2],
          colour = ink$colour %||% site$house$colour$text,
          dx_mm = note_gap_mm * (1 - 2 * anchor[1]),
          dy_mm = note_gap_mm * (2 * anchor[2] - 1),
          .rows = length(panels)
        )
      ),
      list(role = "note")
    )
  )
}

#' @export
ink_traits.ink_text <- function(ink) note_traits()
