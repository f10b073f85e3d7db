# Where bars, and boxes, stand along their axis, and how wide they are.

# Does an ink of a category and a quantity lie, its category on y?
lies <- function(layer) !is.null(layer$y) && has_levels(layer$y$kind) && !(has_levels(layer$x$kind))

# Does the colour of a layer part the marks of one slot? One that repeats the axis's own category,
# or follows it, parts nothing.
parts_slots <- function(layer, table, on_slots) {
  if (is.null(layer$colour) || layer$colour$id == on_slots$id) return(FALSE)
  # Rows that no mark is of part nothing; what is counted has no y.
  known <- complete_rows(table, c("x", if (!all(is.na(table$y))) "y", "colour"))
  slots <- unique(table_rows(table[c("panel", "x", "colour")], known))
  anyDuplicated(slots[c("panel", "x")]) > 0
}

# Does another ink of the panel part its slots by the panel's colours? Then lines and points stand
# where its marks do.
parts_with <- function(ink, others) {
  of_panel <- function(one) is.null(one$variables$colour) && is.null(one$settings$colour)
  parting <- vapply(others, function(one) ink_traits(one)$side_by_side && of_panel(one), NA)
  changed(ink, in_slots = any(parting) && of_panel(ink), over_bars = lies_over_bars(others))
}

# Symbols over bars of their own colour have an edge, so that they are seen.
lies_over_bars <- function(others) {
  any(
    vapply(
      others,
      function(one) {
        traits <- ink_traits(one)
        traits$on_zero && "swatch" %in% traits$mark
      },
      NA
    )
  )
}

# How far from the middle of its slot each row stands, in slots: list(x, y). table: panel, x, y and
# colour of each.
aside_in_slots <- function(ink, layer, table) {
  none <- list(x = rep(0, nrow(table)), y = rep(0, nrow(table)))
  lying <- lies(layer)
  on_slots <- if (lying) layer$y else layer$x
  if (!isTRUE(ink$in_slots) || !is_category(layer$colour)) return(none)
  if (is.null(on_slots) || !has_levels(on_slots$kind)) return(none)
  if (!parts_slots(layer, exchange_axes(table, lying), on_slots)) return(none)
  places <- bar_places(table$colour, length(layer$colour$kind$levels))
  middle <- (places$from + places$to) / 2
  none[[if (lying) "y" else "x"]] <- replace(middle, is.na(middle), 0)
  none
}

# Where rows with `aside_x` and `aside_y` stand in their panels.
aside_unit <- function(table, site, direction) {
  aside <- table[[paste0("aside_", direction)]] * site$together
  site$unit(table[[direction]] + aside, table$panel, direction)
}

# Where marks stand within their slot: side by side, one place a colour, whether or not the colour
# is there, so that it stands in the same place in every slot. Places are those of all inks, `share`
# is what an ink fills of the slot.
bar_places <- function(colour, n_places, share = bar_share) {
  if (n_places == 1L) {
    return(list(from = rep(-share / 2, length(colour)), to = rep(share / 2, length(colour))))
  }
  middle <- bar_share * ((colour - 0.5) / n_places - 0.5)
  half <- min(share, bar_share) / n_places * (1 - bar_gap) / 2
  list(from = middle - half, to = middle + half)
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

# How far the marks of a slot are drawn together about its middle, as a part of where they stand: so
# that no bar or box is wider than is good to read, or each as wide as is asked, within the slot.
slots_together <- function(layers, sites) {
  shares <- Map(
    function(layer, site) {
      trained <- layer$trained
      if (!isTRUE(trained$drawn_together)) return(NULL)
      bars <- trained$table
      unit_at <- lying_unit(site, trained$lying, bars$panel)
      long_mm <- if (trained$lying) site$panel_h(bars$panel) else site$panel_w(bars$panel)
      wide_mm <- abs(unit_at(bars$x1, "x") - unit_at(bars$x0, "x")) * long_mm
      widest <- max(wide_mm, 1e-9, na.rm = TRUE)
      width_mm <- layer$ink$width
      if (is.null(width_mm)) min(1, most_bar_mm / widest) else min(width_mm / widest, 1 / bar_share)
    },
    layers,
    sites
  )
  if (length(unlist(shares))) min(unlist(shares)) else 1
}

# Rows of marks with their ends `x0` and `x1`, in slots, where those of a slot are drawn together.
# whole: their width goes with it where there is one mark in a slot, too.
drawn_together <- function(rows, site, whole = FALSE) {
  middle <- (rows$x0 + rows$x1) / 2
  wide <- if (whole || any(abs(middle - rows$x) > 1e-9)) site$together else 1
  place <- rows$x + (middle - rows$x) * site$together
  half <- (rows$x1 - rows$x0) / 2 * wide
  rows$x0 <- place - half
  rows$x1 <- place + half
  rows
}

# The same ends in unit-panel coordinates.
drawn_ends <- function(rows, lying, site, whole = FALSE) {
  unit_at <- lying_unit(site, lying, rows$panel)
  lapply(drawn_together(rows, site, whole)[c("x0", "x1")], unit_at, "x")
}

# Positions in a panel for an ink computed upright: its "x" is along the category.
lying_unit <- function(site, lying, panel) {
  function(values, direction) {
    site$unit(values, panel, if (lying) c(x = "y", y = "x")[[direction]] else direction)
  }
}
