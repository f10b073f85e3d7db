#' Bars
#'
#' Bars from zero: counts of a category, or the mean, median or sum of a quantity in
#' each category, with error bars. Colours stand side by side, on each other, or over
#' each other.
#'
#' @eval argument_lines("ink_bars")
#' @return An ink, for [panel()].
#' @details The category stands on `x` for upright bars, on `y` for lying ones. On an `x` of
#'   moments, or of a quantity where `width` is given, a bar stands at each value.
#'   Sources: Altman and Bland (2005), "Standard deviations and standard errors", BMJ
#'   331; Efron and Tibshirani (1993), "An Introduction to the Bootstrap".
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_bars(error = "se")),
#'   width = 80,
#'   height = 60
#' )
#' plate(
#'   panel(study("loaves"), y = flour, colour = grade, ink_bars(arrange = "share")),
#'   width = 80,
#'   height = 60
#' )
#' @export
ink_bars <- function(
  centre = NULL,
  error = NULL,
  arrange = "side",
  values = FALSE,
  width = NULL,
  opacity = NULL,
  seed = 1,
  colour = NULL,
  on = "axis",
  ...
) {
  ink <- said_ink("bars", ...)
  if (!is.null(error)) check_choice(error, errors_of(centre %||% "mean"), "error")
  if (arrange %in% c("stack", "share") && !identical(error %||% "none", "none")) {
    abort_nelvat(
      "argument",
      c(
        "Bars on each other have no error bars.",
        x = paste0("`error` is \"", error, "\", `arrange` is \"", arrange, "\"."),
        i = "Set them side by side, or leave `error` out."
      )
    )
  }
  ink
}

#' @export
check_ink.ink_bars <- function(ink, panel, call) {
  variables <- panel$variables
  check_no_logarithm(c(list(variables$x), variables$y), call)
  if (!is.null(variables$colour)) {
    check_variable_kind(variables$colour, "colour", c("category", "ordinal"), call)
  }
  on_levels <- any(
    vapply(
      c(list(variables$x), variables$y),
      function(one) !is.null(one) && has_levels(one$kind),
      NA
    )
  )
  if (on_levels && is.data.frame(ink$width)) {
    abort_nelvat(
      "argument",
      c("On a category `width` is in millimetres.", x = "A step of time is given."),
      call
    )
  }
  given <- intersect(c("x", "y"), names(variables))
  if (!length(given)) {
    abort_nelvat(
      "argument",
      c("Bars need a category on one axis.", x = "Neither `x` nor `y` is given."),
      call
    )
  }
  if (length(given) == 1) {
    if (!identical(ink$centre %||% "count", "count")) {
      abort_nelvat(
        "argument",
        c(
          paste0(
            "Bars of a ",
            ink$centre,
            " need a category on one axis and a quantity on the other."
          ),
          x = paste0("`", setdiff(c("x", "y"), given), "` is not given.")
        ),
        call
      )
    }
    one <- if (given == "y") variables$y[[1]] else variables$x
    if (given == "x" && bears_bars(one, ink)) return(invisible())
    return(check_variable_kind(one, given, c("category", "ordinal"), call, "for bars of counts"))
  }
  centre <- ink$centre %||% "mean"
  if (has_levels(variables$x$kind)) {
    for (y in variables$y) {
      check_variable_kind(y, "y", "quantity", call, paste("for bars of a", centre))
    }
  } else if (all(vapply(variables$y, function(y) has_levels(y$kind), NA))) {
    check_variable_kind(variables$x, "x", "quantity", call, paste("for bars of a", centre))
  } else if (bears_bars(variables$x, ink)) {
    for (y in variables$y) {
      check_variable_kind(y, "y", "quantity", call, paste("for bars of a", centre))
    }
  } else {
    check_variable_kind(
      variables$x,
      "x",
      c("category", "ordinal"),
      call,
      "for upright bars; on a quantity they need a `width`"
    )
  }
}

check_no_logarithm <- function(variables, call) {
  for (variable in variables) {
    if (
      !is.null(variable) && (
        is_logarithmic(variable$transform) || variable$transform == "logit"
      )
    ) {
      abort_nelvat(
        "argument",
        c(
          "Bars start at zero, which this axis does not have.",
          x = paste0(
            "The axis of \"",
            variable$id,
            "\" is transformed by ",
            variable$transform,
            "."
          ),
          i = "Draw points in place of bars, or leave the axis as it is."
        ),
        call
      )
    }
  }
}

#' @export
supplied_axis.ink_bars <- function(ink, direction, variables) {
  if (ink$arrange == "share") {
    new_kind("quantity", name = "Share", unit = "%")
  } else {
    new_kind("quantity", name = "Count", count = TRUE)
  }
}

# Bars that stand at numbers have their width there, those of a category in millimetres.
#' @export
said_on_axis.ink_bars <- function(ink, direction) if (direction == "x") ink["width"]

#' @export
train_ink.ink_bars <- function(ink, layer) {
  lying <- lies(layer)
  table <- exchange_axes(layer$table, lying)
  on_slots <- if (lying) layer$y else layer$x
  measured <- if (lying) layer$x else layer$y
  counting <- identical(ink$centre, "count") ||
    measured$id %in% c("Count", "Share") && all(is.na(table$y))
  centre <- if (counting) "count" else ink$centre %||% "mean"
  is_stacked <- ink$arrange %in% c("stack", "share")
  error <- if (is_stacked || counting) "none" else ink$error %||% errors_of(centre)[1]
  # Sums, shares and counted ones are of the data.
  if (centre == "sum" || is_stacked || error == "exact") ink$on <- "data"
  scale <- summary_scale(ink, measured)
  table$colour <- table$colour %||% rep(NA_integer_, nrow(table))
  parted <- parts_slots(layer, table, on_slots)
  complete <- complete_rows(table, c("x", if (!counting) "y", if (!is.null(layer$colour)) "colour"))
  if (is_stacked) check_stackable(table$y[complete], measured, ink$arrange, counting)
  group <- match_rows(table[c("panel", "x", "colour")], complete)
  n_groups <- nrow(group$rows)
  heights <- if (counting) {
    n <- tabulate_rows(group$at, n_groups, table$times)
    new_table(
      group = seq_len(n_groups),
      n = n,
      centre = n,
      lower = NA_real_,
      upper = NA_real_,
      .rows = n_groups
    )
  } else {
    summed <- centre_error(
      scale$forward(table$y),
      group$at,
      n_groups,
      centre,
      error,
      ink$seed,
      parts_of(table)
    )
    ends <- c("centre", "lower", "upper")
    summed[ends] <- lapply(summed[ends], scale$restored)
    summed
  }
  error <- error_that_exists(error, heights$lower)
  bars <- cbind(table_rows(group$rows, heights$group), heights[-1])
  # Of a whole of nothing there are no shares.
  if (ink$arrange == "share") {
    of_nothing <- stats::ave(bars$centre, bars$panel, bars$x, FUN = sum) <= 0
    complete <- complete & !group$at %in% heights$group[of_nothing]
    bars <- table_rows(bars, !of_nothing)
  }
  places <- if (parted && ink$arrange == "side") length(layer$colour$kind$levels) else 1L
  on_values <- !has_levels(on_slots$kind)
  wide <- if (on_values) value_width(ink, bars$x, on_slots) else bar_share
  width <- bar_places(bars$colour, places, wide)
  bars$x0 <- bars$x + width$from
  bars$x1 <- bars$x + width$to
  bars$base <- rep(0, nrow(bars))
  if (is_stacked) bars <- stack_bars(bars, ink$arrange == "share")
  list(
    table = bars,
    findings = new_findings(
      bars,
      "bar",
      bars$n,
      centre = bars$length %||% bars$centre,
      lower = bars$lower,
      upper = bars$upper,
      base = bars$base,
      lying = lying
    ),
    lying = lying,
    error = error,
    on_values = on_values,
    drawn_together = !on_values,
    overlay = ink$arrange == "overlay" && parted,
    whole = counting && ink$arrange != "share",
    extent = exchange_axes(
      extent_by_panel(
        bars$panel,
        x0 = bars$x0,
        x1 = bars$x1,
        y0 = pmin(bars$base, bars$centre, bars$lower, na.rm = TRUE),
        y1 = pmax(bars$centre, bars$upper, na.rm = TRUE) * head_room(ink)
      ),
      lying
    ),
    zero = if (lying) "x" else "y",
    used = complete,
    notes = unseen_errors(measured, bars$lower, bars$upper),
    shows = if (ink$arrange == "share") {
      "shares of 100 %"
    } else if (counting) {
      "counts"
    } else {
      words_on_scale(centre_error_words(centre, error), centre, error, scale)
    },
    error_means = error_meaning(error)
  )
}

# Values written beyond the bars need room there.
head_room <- function(ink) if (ink$values && ink$arrange %in% c("side", "overlay")) 1.12 else 1

#' @export
place_ink.ink_bars <- function(ink, trained, site) {
  bars <- trained$table
  one_panel <- bars$panel
  fill <- site$colour_of(if (all(is.na(bars$colour))) NULL else bars$colour, nrow(bars))
  unit_at <- lying_unit(site, trained$lying, one_panel)
  base <- unit_at(bars$base, "y")
  ends <- if (trained$on_values) {
    lapply(list(x0 = bars$x0, x1 = bars$x1), unit_at, "x")
  } else {
    drawn_ends(bars, trained$lying, site, whole = TRUE)
  }
  rects <- new_table(
    panel = one_panel,
    x0 = ends$x0,
    x1 = ends$x1,
    y0 = base,
    y1 = unit_at(bars$centre, "y"),
    fill = fill,
    opacity = ink$opacity %||% if (trained$overlay) 0.6 else 1,
    .rows = nrow(bars)
  )
  marks <- list(new_marks("rects", exchange_axes(rects, trained$lying)))
  middle <- (rects$x0 + rects$x1) / 2
  if (trained$error != "none") {
    errors <- error_segments(
      one_panel,
      middle,
      unit_at(bars$lower, "y"),
      unit_at(bars$upper, "y"),
      base,
      rects$y1,
      list(over_bar = site$contrast(fill), over_paper = site$house$colour$axis),
      site$house$weight_pt$error
    )
    if (!is.null(errors)) {
      marks <- c(marks, list(new_marks("segments", exchange_axes(errors, trained$lying))))
    }
  }
  if (ink$values) marks <- c(marks, list(bar_values(bars, rects, unit_at, trained, site, fill)))
  marks
}

#' @export
question_of.ink_bars <- function(ink) {
  if (identical(ink$centre, "count")) return("counts")
  centre <- ink$centre %||% "mean"
  question_of_centre(centre, ink$error %||% errors_of(centre)[1])
}

#' @export
ink_traits.ink_bars <- function(ink) {
  new_traits(
    "swatch",
    "colour",
    if (identical(ink$centre, "count") || ink$arrange == "share") "counts" else "groups",
    on_zero = TRUE,
    side_by_side = ink$arrange == "side",
    # On each other, each colour is a part of its bar, with an n of its own.
    called = if (ink$arrange %in% c("stack", "share")) "part" else "bar"
  )
}

#' @export
marks_named.ink_bars <- function(ink) "bars"
