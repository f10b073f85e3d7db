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
  mark_rows(2)[c("x", "y", "colour", "weight", "where")]
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
