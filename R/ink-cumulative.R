#' Cumulative shares
#'
#' The share of values up to each value, as steps, for each colour: the empirical distribution
#' function, with a band that holds the true one.
#'
#' @eval argument_lines("ink_cumulative")
#' @return An ink, for [panel()] with a quantity or a moment on `x`.
#' @details The band is share +- sqrt(log(2 / alpha) / 2n), cut at 0 and 1, which holds the whole
#'   true curve with at least the level's probability: Dvoretzky, Kiefer and Wolfowitz (1956),
#'   Annals of Mathematical Statistics 27, with the constant of Massart (1990), Annals of
#'   Probability 18.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = rise, colour = flour, ink_cumulative()),
#'   width = 100,
#'   height = 60
#' )
#' @export
ink_cumulative <- function(band = 0.95, weight = NULL, colour = NULL, ...) {
  said_ink("cumulative", ...)
}

#' @export
word_rows.ink_cumulative <- function(word) {
  list(
    band = a_number(0.5, 0.9999, or_null = TRUE, says = "Level of the band, or `NULL` for none."),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_cumulative <- function(ink, panel, call) {
  check_one_quantity(panel, "A cumulative curve", call)
  if (is.null(panel$variables$x)) {
    abort_nelvat(
      "argument",
      c("A cumulative curve has its quantity on `x`.", x = "It is on `y`."),
      call
    )
  }
}

#' @export
supplied_axis.ink_cumulative <- function(ink, direction, variables) {
  new_kind("quantity", name = "Cumulative share")
}

#' @export
train_ink.ink_cumulative <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", if (!is_ramp(layer$colour)) "colour"))
  group <- layer_groups(layer, complete, ink, table)
  parts <- parts_of(table)
  curves <- stack_tables(
    lapply(seq_len(nrow(group$rows)), function(g) {
      rows <- which(group$at == g)
      own_parts <- if (!is.null(parts)) lapply(parts, `[`, rows)
      curve <- cumulative_shares(table$x[rows], ink$band, own_parts)
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = curve$x,
        y = curve$y,
        lower = curve$lower,
        upper = curve$upper,
        .rows = nrow(curve)
      )
    })
  )
  list(
    table = curves,
    series = group$rows,
    findings = new_findings(
      group$rows,
      "curve",
      tabulate_rows(group$at, nrow(group$rows), parts$times)
    ),
    traces = share_traces(curves),
    extent = if (!is.null(curves)) extent_by_panel(curves$panel, x0 = curves$x, y0 = 0, y1 = 1),
    zero = "y",
    used = complete,
    shows = paste0(
      "cumulative share of values",
      if (!is.null(ink$band)) {
        paste0(", with the ", format(100 * ink$band), " % band of Dvoretzky, Kiefer and Wolfowitz")
      }
    )
  )
}

#' @export
place_ink.ink_cumulative <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  looks <- series_looks(trained$series, site)
  colour <- looks$colour[curves$series]
  x <- site$unit(curves$x, curves$panel, "x")
  marks <- if (!is.null(ink$band)) list(band_marks(curves, x, site, colour))
  c(
    marks,
    list(
      series_lines(
        curves,
        x,
        site$unit(curves$y, curves$panel, "y"),
        looks,
        ink$weight %||% site$house$weight_pt$line
      )
    )
  )
}

#' @export
question_of.ink_cumulative <- function(ink) "classes"

#' @export
ink_traits.ink_cumulative <- function(ink) {
  new_traits("line", c("colour", "dash"), "spread", behind = FALSE)
}

#' @export
marks_named.ink_cumulative <- function(ink) "steps"
