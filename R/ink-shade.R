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
  list(
    x = places(
      2,
      says = c(
        'Positions in the unit that the axis shows, or with one of their own, such as `"200',
        'g"`, dates and times included; for rules and notes also levels, by code or name:',
        "for a rule one or more, for a shade or a region two ends, for a note one. For a",
        'note at `"panel"`, shares of the panel, 0 to 1 from the lower left.'
      )
    ),
    y = places(
      2,
      says = c(
        'Positions in the unit that the axis shows, or with one of their own, such as `"200',
        'g"`, dates and times included; for rules and notes also levels, by code or name:',
        "for a rule one or more, for a shade or a region two ends, for a note one. For a",
        'note at `"panel"`, shares of the panel, 0 to 1 from the lower left.'
      )
    ),
    colour = a_colour(says = "A colour; `NULL` for the house's."),
    opacity = a_number(0, 1, says = "Opacity of a shade."),
    where = a_condition(
      says = c(
        "A condition: the mark is drawn only in panels that hold a row for which it is true,",
        'such as `flour == "rye"`; `NULL`: in all.'
      )
    )
  )
}

#' @export
check_ink.ink_shade <- function(ink, panel, call) check_places_axes(panel, call)

#' @export
train_ink.ink_shade <- function(ink, layer) {
  from <- c(said_place(layer$x, ink$x, TRUE), said_place(layer$y, ink$y, TRUE))
  c(
    train_places(layer, ink$x, ink$y),
    list(says = said_phrases(ink, if (length(from)) paste("shaded from", from)))
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
