#' @rdname marks
#' @export
ink_shade <- function(x = NULL, y = NULL, colour = NULL, opacity = 0.14, where = NULL, ...) {
  if (is.null(x) == is.null(y)) {
    abort_nelvat(
      "argument",
      c(
        "A shade needs either `x` or `y`, its two ends.",
        x = if (is.null(x)) "Neither is given." else "Both are given."
      )
    )
  }
  said_ink("shade", ...)
}

#' @export
word_rows.ink_shade <- function(word) {
  of_marks <- mark_rows(2)
  c(
    of_marks[c("x", "y", "colour")],
    list(opacity = a_number(0, 1, says = "Opacity of a shade.")),
    of_marks["where"]
  )
}

#' @export
check_ink.ink_shade <- function(ink, panel, call) check_places_axes(panel, call)

#' @export
train_ink.ink_shade <- function(ink, layer) {
  from <- c(said_place(layer$x, ink$x, TRUE), said_place(layer$y, ink$y, TRUE))
  of_one_level <- covers_one_level(layer$x, ink$x) || covers_one_level(layer$y, ink$y)
  c(
    train_places(layer, ink$x, ink$y),
    list(
      says = said_phrases(
        ink,
        if (length(from)) paste(if (of_one_level) "shaded at" else "shaded from", from)
      )
    )
  )
}

#' @export
place_ink.ink_shade <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(values, k, direction) {
    if (is.null(values)) {
      rep(k - 1, length(panels))
    } else {
      site$unit(rep(values[k], length(panels)), panels, direction)
    }
  }
  list(
    under_points(
      new_marks(
        "rects",
        new_table(
          panel = panels,
          x0 = unit(ink$x, 1, "x"),
          x1 = unit(ink$x, 2, "x"),
          y0 = unit(ink$y, 1, "y"),
          y1 = unit(ink$y, 2, "y"),
          fill = ink$colour %||% site$house$colour$lone,
          opacity = ink$opacity,
          .rows = length(panels)
        )
      )
    )
  )
}

#' @export
ink_traits.ink_shade <- function(ink) note_traits()
