# Tick text of all axes of a block, fitted to the plot areas it has.

# before: the fits of the round before, whose breaks are kept where nothing about them
# changed.
fit_axes <- function(block, n_breaks, treatment, frame, before, plate, font, call) {
  axes <- equal_ranges(block, frame)
  lapply(seq_along(axes), function(i) {
    axis <- axes[[i]]
    length_mm <- axis_length(block, axis, frame, plate$house)
    n <- min(n_breaks[i], if (axis$slots) Inf else breaks_wished(axis, length_mm))
    fit <- fit_axis(axis, n, length_mm, treatment[i], before[[i]], plate, font)
    if (is.null(fit)) abort_no_room(axis, n, length_mm, plate, font, call, if (length(plate$blocks) > 1) block$title)
    fit
  })
}

# The length of the shortest plot area that an axis serves. A plot area under the least is
# an error of the layout, not of its labels.
axis_length <- function(block, axis, frame, house) {
  least_mm <- house$least_panel_mm[[if (axis$direction == "x") "width" else "height"]]
  if (isTRUE(axis$of_strip)) {
    return(max(2, min(strip_depth(block, frame, house)[[if (axis$direction == "y") "x" else "y"]])))
  }
  panels <- block$cells$panels
  spot <- unique(panels[[if (axis$direction == "x") "column" else "row"]][panels$panel %in% axis$panels])
  if (length(spot)) max(least_mm, min(frame[[axis$direction]]$length_mm[spot])) else least_mm
}

# The least length that texts take, each in a line of its own, upright or beside the axis.
single_lines_mm <- function(n, house, font) n * text_height_mm(1, house$type_pt$least, font)

# NULL where the axis's tick text has no room in any treatment.
fit_axis <- function(axis, n, length_mm, from, before, plate, font) {
  shown <- if (axis$slots) Inf else n
  known <- !is.null(before) && identical(before$range, axis$range) && identical(before$n_breaks, shown)
  breaks <- if (known) before$found else axis_breaks(axis, n, font, plate$house$numbers)
  to_axis <- function(values) to_unit(axis_transform(axis$transform)$forward(values), axis$range)
  unit <- to_axis(breaks$at)
  type <- list(base = plate$house$type_pt$base, least = plate$house$type_pt$least, font = font)
  depth_most_mm <- if (axis$direction == "y") plate$width_mm / 4 else plate$height_mm / 3
  try_from <- function(from, lost) {
    treatments <- allowed_treatments(from, axis$asked$labels, lost)
    fit_tick_text(
      axis$direction, unit * length_mm, length_mm, breaks$texts, !axis$slots, treatments, type, depth_most_mm
    )
  }
  lost <- before$lost
  fit <- try_from(from, lost)
  if (is.null(fit) && from > 1) {
    # What was cheapest has no room any more: the others are tried again, but never it.
    lost <- c(lost, from)
    fit <- try_from(1L, lost)
  }
  if (is.null(fit)) return(NULL)
  c(fit, list(
    lost = lost, found = breaks, breaks = breaks$at, unit = unit, minor = to_axis(breaks$minor), range = axis$range,
    hidden = axis$hidden, n_breaks = shown
  ))
}

abort_no_room <- function(axis, n, length_mm, plate, font, call, label) {
  asked <- axis$asked$labels
  if (!is.null(asked)) {
    abort_nelvat("labels", c(
      paste0("The tick text of \"", axis$variable, "\" has no room as `labels = \"", asked, "\"` asks."),
      i = "Leave `labels` out, so that another treatment can be found."
    ), call)
  }
  n_texts <- length(axis_breaks(axis, n, font, plate$house$numbers)$texts)
  lines_mm <- single_lines_mm(n_texts, plate$house, font)
  abort_nelvat("labels", c(
    paste0(
      "The tick text of \"", axis$variable, "\" has no room on its ", axis$direction, " axis",
      if (!is.null(label)) paste0(", in the panels of ", label), "."
    ),
    x = paste0(
      counted(n_texts, "text"), " on ", format(round(length_mm, 1)),
      " mm touch each other in every treatment, down to ",
      plate$house$type_pt$least, " pt; set in single lines they take ", format(round(lines_mm, 1)), " mm."
    ),
    i = c(
      x = "Make the plate wider, put fewer panels in a row, or put this variable on `y`.",
      y = "Make the plate higher, or put fewer panels under each other."
    )[[axis$direction]]
  ), call)
}
