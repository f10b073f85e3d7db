# Where bars, and boxes, stand along their axis, and how wide they are.

# Does an ink of a category and a quantity lie, its category on y?
lies <- function(layer) !is.null(layer$y) && has_levels(layer$y$kind) && !(has_levels(layer$x$kind))

# Where bars stand within their slot: side by side, one place a colour, whether or
# not the colour is there, so that it stands in the same place in every slot.
bar_places <- function(colour, n_places, share = bar_share) {
  slot_place <- if (n_places == 1L) rep(1L, length(colour)) else colour
  wide <- share / n_places
  from <- -share / 2 + (slot_place - 1) * wide
  trim <- if (n_places > 1) wide * bar_gap / 2 else 0
  list(from = from + trim, to = from + wide - trim)
}

bar_share <- 0.78 # of the slot
bar_gap <- 0.08 # of a bar's place

# Can bars stand at the values of a variable that is no category?
bears_bars <- function(variable, ink) {
  variable$kind$kind == "moment" || variable$kind$kind == "quantity" && is.numeric(ink$width)
}

# The width of bars on a variable that is no category, in its unit (of moments in seconds).
value_width <- function(ink, values, variable) {
  apart <- diff(sort(unique(values)))
  least <- if (length(apart)) min(apart) else Inf
  if (is.null(ink$width)) {
    return(if (is.finite(least)) 0.8 * least else 0.8 * unit_seconds[["DSTday"]])
  }
  if (is.data.frame(ink$width)) {
    # A month is as long as its shortest, and a year.
    unit <- c(unit_seconds, month = 28 * 86400, year = 365 * 86400)
    long <- ink$width$count * utils::tail(unit[names(unit) == ink$width$unit], 1)[[1]]
  } else {
    long <- ink$width
  }
  if (long > least * (1 + 1e-9)) {
    abort_nelvat(
      "argument",
      c(
        paste0("Bars of this `width` would stand over each other on \"", variable$id, "\"."),
        x = paste0(
          "The least distance of its values is ",
          number_text_each(least),
          if (variable$kind$kind == "moment") " seconds",
          "; the bars would be ",
          number_text_each(long),
          " wide."
        )
      ),
      call = NULL
    )
  }
  long
}

most_bar_mm <- 9

# Ends of bars and boxes along their category, in unit-panel coordinates, drawn together about the
# middle of their slot where they would be wider than is good to read, or as wide as is asked,
# within the slot.
narrow_ends <- function(x, x0, x1, lying, panel, site, width_mm = NULL) {
  unit_at <- lying_unit(site, lying, panel)
  middle <- unit_at(x, "x")
  from <- unit_at(x0, "x")
  to <- unit_at(x1, "x")
  long_mm <- if (lying) site$panel_h(panel) else site$panel_w(panel)
  widest <- max(abs(to - from) * long_mm, 0, na.rm = TRUE)
  share <- if (!is.null(width_mm)) min(width_mm / max(widest, 1e-9), 1 / bar_share) else if (
    widest > most_bar_mm
  ) most_bar_mm / widest else 1
  list(x0 = middle + (from - middle) * share, x1 = middle + (to - middle) * share, share = share)
}

# Positions in a panel for an ink computed upright: its "x" is along the category.
lying_unit <- function(site, lying, panel) {
  function(values, direction) {
    site$unit(values, panel, if (lying) c(x = "y", y = "x")[[direction]] else direction)
  }
}
