#' @rdname marks
#' @export
ink_region <- function(x = NULL, y = NULL, colour = NULL, weight = 0.8, where = NULL, ...) {
  if (is.null(x) || is.null(y)) {
    abort_nelvat(
      "argument",
      c(
        "A region has two ends on `x` and two on `y`.",
        x = paste0("Not given: ", quoted(c("x", "y")[c(is.null(x), is.null(y))]), "."),
        i = "A part of one axis is an `ink_shade()`."
      )
    )
  }
  said_ink("region", ...)
}

#' @export
word_rows.ink_region <- function(word) {
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
    weight = pt_weight(FALSE, says = "Line weight in points."),
    where = a_condition(
      says = c(
        "A condition: the mark is drawn only in panels that hold a row for which it is true,",
        'such as `flour == "rye"`; `NULL`: in all.'
      )
    )
  )
}

#' @export
check_ink.ink_region <- function(ink, panel, call) check_places_axes(panel, call)

#' @export
train_ink.ink_region <- function(ink, layer) {
  ends <- c(said_place(layer$x, ink$x, TRUE), said_place(layer$y, ink$y, TRUE))
  c(
    train_places(layer, ink$x, ink$y),
    list(says = said_phrases(ink, if (length(ends)) paste("outlined,", listed(ends))))
  )
}

#' @export
place_ink.ink_region <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(value, direction) site$unit(rep(value, length(panels)), panels, direction)
  list(
    new_marks(
      "rects",
      new_table(
        panel = panels,
        x0 = unit(ink$x[1], "x"),
        x1 = unit(ink$x[2], "x"),
        y0 = unit(ink$y[1], "y"),
        y1 = unit(ink$y[2], "y"),
        fill = "#FFFFFF",
        opacity = 0,
        colour = ink$colour %||% site$house$colour$axis,
        weight_pt = ink$weight,
        .rows = length(panels)
      )
    )
  )
}

#' @export
ink_traits.ink_region <- function(ink) note_traits()
