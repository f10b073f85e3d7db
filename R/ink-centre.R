#' Centres with their error
#'
#' The mean or median of a quantity in each category as a symbol, with its error as a line: where a
#' bar from zero would say more than is meant, and on logarithmic axes, which bars cannot stand on.
#' Colours stand side by side. On a quantity or a moment in place of categories there is a centre
#' for each of its values that several rows have, such as times of measurement.
#'
#' @eval argument_lines("ink_centre")
#' @return An ink, for [panel()] with a category on one axis and a quantity on the other, or with
#'   a quantity on y and a quantity or moment on x.
#' @details Of values as the axis shows them: on a logarithmic axis the mean of the logarithms,
#'   which is the geometric mean. For what is drawn of single values beside it see [ink_dots()].
#'   Source: Cumming, Fidler and Vaux (2007), "Error bars in experimental biology", Journal of Cell
#'   Biology 177.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_centre(error = "ci")),
#'   width = 90,
#'   height = 60
#' )
#' @export
ink_centre <- function(
  centre = "mean",
  error = NULL,
  size = NULL,
  shape = NULL,
  seed = 1,
  colour = NULL,
  on = "axis",
  ...
) {
  ink <- said_ink("centre", ...)
  if (!is.null(error)) check_choice(error, errors_of(centre), "error")
  ink$error <- error %||% errors_of(centre)[1]
  ink$settings$shape <- shape %||% "disc"
  ink
}

#' @export
word_rows.ink_centre <- function(word) {
  list(
    centre = a_choice(c("mean", "median"), says = '`"mean"` or `"median"`.'),
    error = a_choice(
      all_errors(),
      or_null = TRUE,
      says = "As in [ink_bars()]; `NULL`: sd for a mean, quartiles for a median."
    ),
    size = mm_size(
      says = "Diameter of the symbols in mm; `NULL` for a third more than the house's."
    ),
    shape = a_choice(symbol_names, or_null = TRUE, says = "A symbol; `NULL`: a disc."),
    seed = a_number(whole = TRUE, says = "Seed of the bootstrap."),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What is summarised on a transformed axis: the values as the `"axis"` shows them,',
        'such as their logarithms, or the `"data"` as they are.'
      )
    )
  )
}

#' @export
check_ink.ink_centre <- function(ink, panel, call) {
  on_numbers <- !is.null(panel$variables$x) && !is.null(panel$variables$y) &&
    !any(
      vapply(
        c(list(panel$variables$x), panel$variables$y),
        function(one) has_levels(one$kind),
        NA
      )
    )
  if (!on_numbers) return(check_category_quantity(panel, "Centres", call))
  x <- panel$variables$x$values
  # A database's rows stand for several each.
  several <- any(panel$variables$x$times > 1)
  if (several || anyDuplicated(x[!is.na(x)])) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "Centres are of several values at one place.",
      x = paste0("Each value of \"", panel$variables$x$id, "\" is of one row."),
      i = "Cut it into classes by `cut_into()`, or draw its points."
    ),
    call
  )
}

# On two axes of numbers a group is a value of x, at which it stands.
centre_groups <- function(layer) {
  if (has_levels(layer$x$kind) || has_levels(layer$y$kind)) return(slot_groups(layer, share = 0.7))
  free <- free_slots(layer)
  group <- match_rows(free$table[c("panel", "x", "colour")], free$complete)
  rows <- group$rows
  rows$x0 <- rows$x1 <- rows$x
  changed(free, at = group$at, rows = rows, free = TRUE)
}

centre_apart_mm <- 1.3 # between the symbols of groups at one place, at most

# How far symbols of a place stand from its middle, in mm, so that groups are seen beside each
# other.
centres_aside <- function(rows, x, panel_mm) {
  place <- match_rows(rows[c("panel", "x")], rep(TRUE, nrow(rows)))$at
  of_panel <- split(x * panel_mm, rows$panel)
  step <- vapply(of_panel, function(all) min(diff(sort(unique(round(all, 6)))), Inf), 0)
  k <- stats::ave(rows$x, place, FUN = length)
  rank <- stats::ave(ifelse(is.na(rows$colour), 0, rows$colour), place, FUN = rank)
  apart <- pmin(centre_apart_mm, 0.6 * step[as.character(rows$panel)] / pmax(k, 1))
  (rank - (k + 1) / 2) * apart
}

#' @export
supplied_axis.ink_centre <- function(ink, direction, variables) lone_slot()

#' @export
train_ink.ink_centre <- function(ink, layer) {
  slots <- centre_groups(layer)
  # Zeros and ones are counted as they are.
  if (ink$error == "exact") ink$on <- "data"
  measured <- if (slots$lying) layer$x else layer$y
  scale <- summary_scale(ink, measured)
  values <- scale$forward(slots$table$y)
  found <- centre_error(
    values,
    slots$at,
    nrow(slots$rows),
    ink$centre,
    ink$error,
    ink$seed,
    parts_of(layer$table)
  )
  error <- error_that_exists(ink$error, found$lower)
  rows <- table_rows(slots$rows, found$group)
  rows$n <- found$n
  rows[c("centre", "lower", "upper")] <- lapply(
    found[c("centre", "lower", "upper")],
    scale$restored
  )
  list(
    table = rows,
    findings = new_findings(
      rows,
      "centre",
      rows$n,
      centre = rows$centre,
      lower = rows$lower,
      upper = rows$upper,
      lying = slots$lying
    ),
    lying = slots$lying,
    free = isTRUE(slots$free),
    extent = exchange_axes(
      extent_by_panel(
        rep(rows$panel, 3),
        x0 = rep(rows$x0, 3),
        x1 = rep(rows$x1, 3),
        # A limit that the axis cannot show asks for no room.
        y0 = showable(measured, c(rows$centre, rows$lower, rows$upper))
      ),
      slots$lying
    ),
    zero = character(),
    used = slots$complete,
    notes = unseen_errors(measured, rows$lower, rows$upper),
    shows = paste0(
      words_on_scale(centre_error_words(ink$centre, error), ink$centre, error, scale),
      if (isTRUE(slots$free) && anyDuplicated(rows[c("panel", "x")])) {
        ", groups of one place beside each other"
      }
    ),
    error_means = error_meaning(error)
  )
}

#' @export
place_ink.ink_centre <- function(ink, trained, site) {
  rows <- trained$table
  n <- nrow(rows)
  unit_at <- lying_unit(site, trained$lying, rows$panel)
  middle <- if (trained$free) {
    x <- site$unit(rows$x, rows$panel, "x")
    x + centres_aside(rows, x, site$panel_w(rows$panel)) / site$panel_w(rows$panel)
  } else {
    ends <- drawn_ends(rows, trained$lying, site)
    (ends$x0 + ends$x1) / 2
  }
  low <- unit_at(rows$lower, "y")
  high <- unit_at(rows$upper, "y")
  colour <- site$colour_of(if (all(is.na(rows$colour))) NULL else rows$colour, n)
  with_limits <- which(is.finite(low) & is.finite(high))
  list(
    new_marks(
      "segments",
      exchange_axes(
        new_table(
          panel = rows$panel[with_limits],
          x0 = middle[with_limits],
          x1 = middle[with_limits],
          y0 = low[with_limits],
          y1 = high[with_limits],
          colour = colour[with_limits],
          weight_pt = site$house$weight_pt$error,
          .rows = length(with_limits)
        ),
        trained$lying
      )
    ),
    new_marks(
      "points",
      exchange_axes(
        new_table(
          panel = rows$panel,
          x = middle,
          y = unit_at(rows$centre, "y"),
          colour = colour,
          opacity = 1,
          shape = ink$settings$shape,
          size_mm = ink$size %||% (site$house$points$size_mm * 4 / 3),
          .rows = n
        ),
        trained$lying
      )
    )
  )
}

#' @export
question_of.ink_centre <- function(ink) {
  question_of_centre(ink$centre, ink$error)
}

#' @export
ink_traits.ink_centre <- function(ink) {
  new_traits("symbol", "colour", "groups", side_by_side = TRUE, called = "symbol")
}

#' @export
marks_named.ink_centre <- function(ink) "symbols"
