#' Rules, shades, regions, arrows and notes
#'
#' Marks at places that are said, not in the data; they are drawn in every panel.
#' `ink_rule()`: lines across the panel. `ink_shade()`: bands over all of one direction, under the
#' points and lines said before it.
#' `ink_region()`: a rectangle's outline. `ink_arrow()`: an arrow. `ink_text()`: a note.
#'
#' @eval argument_lines("ink_rule", "ink_shade", "ink_region", "ink_text", "ink_arrow")
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(
#'     study("loaves"),
#'     x = rise,
#'     y = firmness,
#'     ink_shade(y = c(4, 7)),
#'     ink_points(),
#'     ink_rule(x = 60, dash = TRUE),
#'     ink_text("sold at once", x = 62, y = 12)
#'   ),
#'   width = 100,
#'   height = 70
#' )
#' @name marks
NULL

#' @rdname marks
#' @export
ink_rule <- function(
  x = NULL,
  y = NULL,
  slope = NULL,
  intercept = 0,
  dash = FALSE,
  weight = 0.6,
  colour = NULL,
  where = NULL,
  count = FALSE,
  ...
) {
  if (is.null(x) && is.null(y) && is.null(slope)) {
    abort_nelvat("argument", c("A rule needs `x`, `y` or `slope`.", x = "None is given."))
  }
  said_ink("rule", ...)
}

#' @export
word_rows.ink_rule <- function(word) {
  of_marks <- mark_rows()
  rising <- "A rule that rises; on transformed axes in transformed units."
  c(
    of_marks[c("x", "y")],
    list(
      slope = a_number(or_null = TRUE, says = rising),
      intercept = a_number(says = rising),
      dash = a_flag(says = "Is the rule dashed?")
    ),
    of_marks[c("weight", "colour", "where")],
    list(
      count = a_flag(
        says = c(
          "Write how many values lie beyond the rules, in the panel's corners: left and right of",
          "those at `x`, above the uppermost at `y` (and, of two or more, below the lowest)?"
        )
      )
    )
  )
}

#' @export
check_ink.ink_rule <- function(ink, panel, call) {
  check_places_axes(panel, call)
  if (!ink$count) return(invisible())
  given <- c(if (length(ink$x)) "x", if (length(ink$y)) "y")
  if (!length(given)) {
    abort_nelvat(
      "argument",
      c("Values are counted beyond rules at `x` or `y`.", x = "The rule has a slope only."),
      call
    )
  }
  check_needs(panel, given, "A count beyond rules", call)
  for (direction in given) {
    of_axis <- if (direction == "x") list(panel$variables$x) else panel$variables$y
    for (variable in of_axis) {
      check_variable_kind(variable, direction, c("quantity", "moment"), call, "to count beyond it")
    }
  }
}

#' @export
train_ink.ink_rule <- function(ink, layer) {
  where_said <- c(said_place(layer$x, ink$x), said_place(layer$y, ink$y))
  slope <- if (!is.null(ink$slope)) {
    paste0(
      "line of slope ",
      number_text_each(ink$slope, 4),
      " and intercept ",
      number_text_each(ink$intercept, 4)
    )
  }
  many <- length(ink$x) + length(ink$y) > 1
  counted_rows <- if (ink$count) corner_counts(ink, layer)
  c(
    train_places(layer, ink$x, ink$y),
    list(
      findings = counted_rows,
      says = said_phrases(
        ink,
        if (length(where_said)) {
          paste(if (many) "lines at" else "line at", listed(where_said))
        },
        slope,
        if (ink$count) corner_phrase(counted_rows)
      )
    )
  )
}

#' @export
place_ink.ink_rule <- function(ink, trained, site) {
  colour <- ink$colour %||% site$house$colour$axis
  panels <- trained$table$panel
  segment <- function(panel, x0, y0, x1, y1) {
    new_table(
      panel = panel,
      x0 = x0,
      y0 = y0,
      x1 = x1,
      y1 = y1,
      colour = colour,
      weight_pt = ink$weight,
      dash = if (ink$dash) "4 2" else "solid",
      .rows = length(panel)
    )
  }
  unit_of <- function(values, direction) {
    of_panel <- rep(panels, each = length(values))
    unit <- site$unit(rep(values, length(panels)), of_panel, direction)
    if (direction == "x") {
      segment(of_panel, unit, 0, unit, 1)
    } else {
      segment(of_panel, 0, unit, 1, unit)
    }
  }
  rules <- list(
    new_marks(
      "segments",
      stack_tables(
        list(
          if (length(ink$x)) unit_of(ink$x, "x"),
          if (length(ink$y)) unit_of(ink$y, "y"),
          if (!is.null(ink$slope)) {
            ends <- lapply(panels, function(panel) site$line_ends(panel, ink$slope, ink$intercept))
            segment(panels, 0, vapply(ends, `[`, 0, 1), 1, vapply(ends, `[`, 0, 2))
          }
        )
      )
    )
  )
  if (ink$count) c(rules, corner_words(ink, trained$findings, site)) else rules
}

# What lies beyond a rule is counted row by row.
#' @export
question_of.ink_rule <- function(ink) if (ink$count) "rows" else "nothing"

#' @export
ink_traits.ink_rule <- function(ink) note_traits()
