#' Bars of a centre with its error
#'
#' One bar for each category, side by side for each colour, from zero to the
#' centre of the values, with an error bar.
#'
#' @param centre What the bar's height is: `"mean"`.
#' @param error What the error bar spans on each side of the mean: `"sd"` (sample
#'   standard deviation), `"se"` (standard error of the mean) or `"none"`.
#' @param alpha Opacity of the bars, 0 to 1.
#' @return An ink, for [panel()].
#' @details The category stands on `x` for upright bars, on `y` for lying ones.
#'   Source: Altman and Bland (2005), "Standard deviations and standard errors",
#'   BMJ 331.
#' @examples
#' plate(panel(study("loaves"), x = flour, y = rise, ink_bars(error = "se")), width = 80, height = 60)
#' @export
ink_bars <- function(centre = "mean", error = "sd", alpha = 1) {
  new_ink("bars",
    centre = check_choice(centre, "mean", "centre"),
    error = check_choice(error, c("sd", "se", "none"), "error"),
    alpha = check_number(alpha, "alpha", 0, 1)
  )
}

#' @export
check_ink.ink_bars <- function(ink, panel, call) {
  variables <- panel$variables
  check_no_logarithm(c(list(variables$x), variables$y), call)
  if (!is.null(variables$colour)) check_variable_kind(variables$colour, "colour", c("category", "ordinal"), call)
  for (channel in c("x", "y")) {
    if (is.null(variables[[channel]])) {
      abort_nelvat("argument", c(
        "Bars of a mean need a category on one axis and a quantity on the other.",
        x = paste0("`", channel, "` is not given.")
      ), call)
    }
  }
  if (has_levels(variables$x$kind)) {
    for (y in variables$y) check_variable_kind(y, "y", "quantity", call, "for bars of a mean")
  } else if (all(vapply(variables$y, function(y) has_levels(y$kind), NA))) {
    check_variable_kind(variables$x, "x", "quantity", call, "for bars of a mean")
  } else {
    check_variable_kind(variables$x, "x", c("category", "ordinal"), call, "for upright bars")
  }
}

check_no_logarithm <- function(variables, call) {
  for (variable in variables) {
    if (!is.null(variable) && (is_logarithmic(variable$transform) || variable$transform == "logit")) {
      abort_nelvat("argument", c(
        "Bars start at zero, which this axis does not have.", x = paste0("The axis of \"", variable$id, "\" is transformed by ", variable$transform, "."),
        i = "Draw points in place of bars, or leave the axis as it is."
      ), call)
    }
  }
}

#' @export
train_ink.ink_bars <- function(ink, layer) {
  lying <- !has_levels(layer$x$kind)
  table <- exchange_axes(layer$table, lying)
  category <- if (lying) layer$y else layer$x
  # A colour that repeats the axis's own category parts no bars.
  parted <- !is.null(layer$colour) && layer$colour$id != category$id
  colour <- table$colour %||% rep(NA_integer_, nrow(table))
  complete <- complete_rows(table, c("x", "y", "colour"))
  key <- new_table(panel = table$panel, x = table$x, colour = colour, .rows = nrow(table))
  group <- match_rows(key, complete)
  means <- mean_error(table$y, group$at, nrow(group$rows), ink$error)
  bars <- cbind(table_rows(group$rows, means$group), means[-1])
  width <- bar_places(bars$colour, if (parted) length(layer$colour$kind$levels) else 1L)
  bars$x0 <- bars$x + width$from
  bars$x1 <- bars$x + width$to
  list(
    table = bars, lying = lying,
    extent = exchange_axes(extent_by_panel(
      bars$panel, x0 = bars$x0, x1 = bars$x1,
      y0 = pmin(bars$centre, bars$lower, na.rm = TRUE), y1 = pmax(bars$centre, bars$upper, na.rm = TRUE)
    ), lying),
    zero = if (lying) "x" else "y",
    facts = cbind(count_by_panel(table, complete), shows = mean_error_words(ink$centre, ink$error))
  )
}

# Where bars stand within their slot: side by side, one place a colour, whether or
# not the colour is there, so that it stands in the same place in every slot.
bar_places <- function(colour, n_places) {
  place <- if (n_places == 1L) rep(1L, length(colour)) else colour
  wide <- bar_share / n_places
  from <- -bar_share / 2 + (place - 1) * wide
  trim <- if (n_places > 1) wide * bar_gap / 2 else 0
  list(from = from + trim, to = from + wide - trim)
}

bar_share <- 0.78 # of the slot
bar_gap <- 0.08   # of a bar's place

#' @export
place_ink.ink_bars <- function(ink, trained, place) {
  bars <- trained$table
  panel <- bars$panel
  fill <- place$colour_of(bars$colour)
  at <- function(values, direction) place$unit(values, panel, if (trained$lying) c(x = "y", y = "x")[[direction]] else direction)
  base <- at(rep(0, nrow(bars)), "y")
  rects <- new_table(panel = panel, x0 = at(bars$x0, "x"), x1 = at(bars$x1, "x"), y0 = base, y1 = at(bars$centre, "y"),
                     fill = fill, alpha = ink$alpha, .rows = nrow(bars))
  marks <- list(new_marks("rects", exchange_axes(rects, trained$lying)))
  if (ink$error == "none") return(marks)
  middle <- (rects$x0 + rects$x1) / 2
  errors <- error_segments(panel, middle, at(bars$lower, "y"), at(bars$upper, "y"), base, rects$y1, place$contrast(fill),
                           place$house$colour$axis, place$house$weight_pt$error)
  c(marks, list(new_marks("segments", exchange_axes(errors, trained$lying))))
}

# An error bar is dark over the paper and, over its bar, whatever contrasts with it.
error_segments <- function(panel, x, lower, upper, base, top, over_bar, over_paper, weight_pt) {
  low_end <- pmin(base, top)
  high_end <- pmax(base, top)
  piece <- function(from, to, colour) {
    shown <- which(!is.na(from) & !is.na(to) & to > from)
    new_table(panel = panel[shown], x0 = x[shown], y0 = from[shown], x1 = x[shown], y1 = to[shown],
              colour = rep_len(colour, length(x))[shown], weight_pt = weight_pt, .rows = length(shown))
  }
  stack_tables(list(
    piece(lower, pmin(upper, low_end), over_paper),
    piece(pmax(lower, low_end), pmin(upper, high_end), over_bar),
    piece(pmax(lower, high_end), upper, over_paper)
  ))
}

#' @export
key_glyph.ink_bars <- function(ink) "swatch"
