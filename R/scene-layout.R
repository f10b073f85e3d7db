# Layout and label fitting together. Tick text takes room from plot areas, and plot
# areas give tick text its room: both are solved in turn until nothing changes.
# Treatments of tick text only move down their list and numbers of breaks only
# fall, so the rounds come to an end.

most_rounds <- 12
settled_mm <- 0.005 # half of what alignment is held to

# Returns list(block, frame, fits, key, rounds): `frame` has the plot areas by column
# and row, `fits` the fitted tick text of each axis.
lay_out <- function(block, keys, plate, font, call) {
  state <- list(
    n_breaks = rep(Inf, length(block$axes$list)), treatment = rep(1L, length(block$axes$list)),
    frame = first_frame(block, plate)
  )
  for (round in seq_len(most_rounds)) {
    fits <- fit_axes(block, state, plate, font, call)
    frame <- solve_frame(block, keys, fits, state$frame, plate, font)
    settled <- same_frame(frame, state$frame, settled_mm)
    state <- list(
      n_breaks = vapply(fits, `[[`, 0, "n_breaks"), treatment = vapply(fits, `[[`, 0L, "treatment"), frame = frame
    )
    if (settled) break
  }
  check_least_lengths(frame$x$length_mm, plate$house$least_panel_mm$width, "width", plate$width_mm, call)
  check_least_lengths(frame$y$length_mm, plate$house$least_panel_mm$height, "height", plate$height_mm, call)
  list(block = block, frame = frame, fits = fits, rounds = round)
}

# Before anything is known, decorations are taken to be nothing.
first_frame <- function(block, plate) {
  panels <- block$cells$panels
  space <- plate$house$space_mm
  list(
    x = solve_tracks(space$margin, plate$width_mm - 2 * space$margin, 0, 0, rep(1, max(panels$column)), space$column_gap),
    y = solve_tracks(space$margin, plate$height_mm - 2 * space$margin, 0, 0, rep(1, max(panels$row)), space$row_gap)
  )
}

same_frame <- function(a, b, within_mm) {
  max(abs(unlist(a[c("x", "y")]) - unlist(b[c("x", "y")]))) < within_mm
}

# Tick text -----------------------------------------------------------------------

fit_axes <- function(block, state, plate, font, call) {
  axes <- equal_ranges(block, state$frame)
  lapply(seq_along(axes), function(i) {
    axis <- axes[[i]]
    at <- axis_track(block, axis)
    # A plot area under the least is an error of the layout, not of its labels.
    least_mm <- plate$house$least_panel_mm[[if (axis$direction == "x") "width" else "height"]]
    length_mm <- if (length(at)) max(least_mm, min(state$frame[[axis$direction]]$length_mm[at])) else least_mm
    n <- min(state$n_breaks[i], if (axis$slots) Inf else breaks_wished(axis, length_mm))
    fit_axis(axis, n, length_mm, state$treatment[i], plate, font, call)
  })
}

# The columns (of an x axis) or rows (of a y axis) that an axis serves.
axis_track <- function(block, axis) {
  panels <- block$cells$panels
  unique(panels[[if (axis$direction == "x") "column" else "row"]][panels$panel %in% axis$panels])
}

fit_axis <- function(axis, n, length_mm, from, plate, font, call) {
  breaks <- axis_breaks(axis, n, font)
  to_axis <- function(at) to_unit(axis_transform(axis$transform)$forward(at), axis$range)
  unit <- to_axis(breaks$at)
  fit <- fit_tick_text(
    axis$direction, unit * length_mm, length_mm, breaks$texts, may_thin = !axis$slots, from = from,
    sizes_pt = list(base = plate$house$type_pt$base, least = plate$house$type_pt$least), font = font,
    depth_most_mm = if (axis$direction == "y") plate$width_mm / 4 else plate$height_mm / 3
  )
  if (is.null(fit)) {
    abort_nelvat("labels", c(
      paste0("The tick text of \"", axis$variable, "\" has no room on its ", axis$direction, " axis."),
      x = paste0(counted(length(breaks$texts), "text"), " on ", format(round(length_mm, 1)), " mm touch each other in every treatment, down to ",
                 plate$house$type_pt$least, " pt."),
      i = if (axis$direction == "x") "Make the plate wider, put fewer panels in a row, or put this variable on `y`." else
        "Make the plate higher, or put fewer panels under each other."
    ), call)
  }
  c(fit, list(breaks = breaks$at, unit = unit, minor = to_axis(breaks$minor), range = axis$range, hidden = axis$hidden, n_breaks = if (axis$slots) Inf else n))
}

# Plot areas ----------------------------------------------------------------------

# With all texts as fitted, plot areas and the reach of tick text beyond them depend
# on each other; a few cheap steps settle them.
solve_frame <- function(block, keys, fits, before, plate, font) {
  parts <- list(
    headings = fit_headings(block$cells, before$x$length_mm, plate$house, font),
    spans = fit_spans(block$cells, before$x, plate$house, font),
    sides = fit_sides(block$cells, before, plate, font),
    titles = axis_titles(block, before, plate$house, font),
    key = place_key(keys, before$x$start_mm[1], plate, font)
  )
  for (step in seq_len(200)) {
    frame <- place_tracks(block, fits, parts, before, plate)
    if (same_frame(frame, before, 1e-6)) break
    before <- frame
  }
  c(frame, parts)
}

place_tracks <- function(block, fits, parts, before, plate) {
  space <- plate$house$space_mm
  panels <- block$cells$panels
  decor <- panel_decorations(block, fits, parts, before, plate$house)
  per_column <- function(mm) greatest_by(mm, panels$column)
  per_row <- function(mm) greatest_by(mm, panels$row)
  left <- space$margin + parts$titles$left_mm
  span_mm <- span_heights(block$cells, parts$spans, plate$house, parts$titles$font)
  x <- solve_tracks(left, plate$width_mm - left - space$margin - parts$sides$room_mm, per_column(decor$left), per_column(decor$right),
                    track_weights(block, "x", panels$column), space$column_gap)
  top <- space$margin + parts$key$room_mm
  bottom <- space$margin + parts$titles$bottom_mm
  row_top <- per_row(decor$top)
  row_top[1] <- row_top[1] + sum(span_mm)
  y <- solve_tracks(top, plate$height_mm - top - bottom, row_top, per_row(decor$bottom),
                    track_weights(block, "y", panels$row), space$row_gap)
  list(x = x, y = y, span_mm = span_mm, decor_top_mm = row_top[1], right_mm = utils::tail(per_column(decor$right), 1))
}

# Columns (or rows) of panels share the page evenly, or by the levels on their axes.
track_weights <- function(block, direction, place) {
  axes <- block$axes$list[block$axes[[direction]]]
  if (block$design$room == "even" || !all(vapply(axes, `[[`, NA, "slots"))) return(rep(1, max(place)))
  greatest_by(vapply(axes, function(axis) length(axis$slot_texts), 0), place)
}

# Headings of outer tiers, wrapped to the columns they span.
fit_spans <- function(cells, x, house, font) {
  spans <- cells$spans
  lapply(seq_len(nrow(spans) %||% 0), function(i) {
    wide <- x$start_mm[spans$to[i]] + x$length_mm[spans$to[i]] - x$start_mm[spans$from[i]]
    set_text(spans$text[i], house$type_pt$heading, font, max(8, wide), 3L, bold = TRUE)
  })
}

# The room each outer tier takes, the outermost first.
span_heights <- function(cells, laid, house, font) {
  if (!length(laid)) return(numeric())
  tall <- vapply(laid, function(one) text_height_mm(one$n_lines, one$size_pt, font), 0)
  as.numeric(tapply(tall, cells$spans$tier, max)) + house$space_mm$heading_gap + span_gap_mm
}

side_share <- 1 / 6 # of the page's width, for level headings of rows

# Headings of rows: level in lines where they fit in a sixth of the width, else turned.
fit_sides <- function(cells, frame, plate, font) {
  sides <- cells$sides
  if (is.null(sides)) return(list(room_mm = 0))
  size <- plate$house$type_pt$heading
  words <- lapply(sides$text, measure_words, font, bold = TRUE)
  level <- lapply(words, set_lines, size, font, plate$width_mm * side_share, 4L)
  high <- frame$y$length_mm[sides$row]
  fits <- vapply(level, `[[`, NA, "fits") & vapply(level, function(one) text_height_mm(one$n_lines, size, font), 0) <= pmax(high, 4)
  if (all(fits)) return(list(angle = 0, laid = level, room_mm = max(widest_mm(level)) + side_gap_mm))
  turned <- Map(function(word, most) set_lines(word, size, font, max(most, 8), 4L), words, high)
  list(angle = 90, laid = turned, room_mm = max(vapply(turned, function(one) text_height_mm(one$n_lines, size, font), 0)) + side_gap_mm)
}

# The key stands at the top, flush with the first plot area.
place_key <- function(keys, start_mm, plate, font) {
  space <- plate$house$space_mm
  if (!length(keys)) return(list(items = list(), room_mm = 0))
  key <- set_keys(keys, plate$width_mm - start_mm - space$margin, plate$house, font)
  c(key, list(y_mm = space$margin, room_mm = key$height_mm + space$key_gap))
}

# The greatest of each column or row; 0 for one without panels.
greatest_by <- function(mm, place) vapply(seq_len(max(place)), function(i) max(0, mm[place == i]), 0)

fit_headings <- function(cells, column_mm, house, font) {
  Map(function(words, column) {
    if (!is.null(words)) set_lines(words, house$type_pt$heading, font, max(8, column_mm[column]), 4L)
  }, cells$heading_words, cells$panels$column)
}

# Room each panel's own decorations take beyond its plot area, in mm.
panel_decorations <- function(block, fits, parts, frame, house) {
  space <- house$space_mm
  panels <- block$cells$panels
  titles <- parts$titles
  x_text <- has_tick_text(block, "x")
  y_text <- has_tick_text(block, "y")
  depth <- function(direction) vapply(fits[block$axes[[direction]]], `[[`, 0, "depth_mm")
  ticks <- space$tick + space$tick_gap
  shown <- function(direction) !vapply(block$axes$list[block$axes[[direction]]], `[[`, NA, "hidden")
  x_over <- panel_overhang(fits[block$axes$x], frame$x$length_mm[panels$column], x_text)
  y_over <- panel_overhang(fits[block$axes$y], frame$y$length_mm[panels$row], y_text)
  # Turned texts lie parallel to those of the panel before, so only the first column
  # must make room for their ends.
  turned <- vapply(fits[block$axes$x], `[[`, 0, "angle") != 0
  x_over$before[turned & panels$column > 1] <- 0
  heading_mm <- vapply(parts$headings, function(laid) {
    if (is.null(laid)) 0 else text_height_mm(laid$n_lines, laid$size_pt, titles$font) + space$heading_gap + space$heading_above_panel
  }, 0)
  data.frame(
    left = pmax(ifelse(shown("y"), ifelse(y_text, ticks + depth("y"), space$tick), 0) + titles$y_panel_mm, x_over$before),
    right = x_over$after,
    top = pmax(heading_mm, y_over$after),
    bottom = pmax(ifelse(shown("x"), ifelse(x_text, ticks + depth("x"), space$tick), 0), y_over$before)
  )
}

panel_overhang <- function(fits, length_mm, has_text) {
  over <- mapply(function(fit, length, has) if (has) tick_overhang(fit, max(length, 1)) else c(before = 0, after = 0), fits, length_mm, has_text)
  list(before = over["before", ], after = over["after", ])
}

# Whether each panel has the tick text of its axis.
has_tick_text <- function(block, direction) {
  panels <- block$cells$panels$panel
  axes <- block$axes$list[block$axes[[direction]]]
  mapply(function(panel, axis) panel %in% axis$drawn_at, panels, axes)
}

# Titles --------------------------------------------------------------------------

# An axis title stands once, centred on the block, where all panels show the same
# variable; otherwise at each panel (each row, for y) unless its heading names it.
axis_titles <- function(block, frame, house, font) {
  of <- function(direction) vapply(block$axes$list[block$axes[[direction]]], `[[`, "", "title")
  size <- house$type_pt$title
  line_mm <- function(laid) text_height_mm(laid$n_lines, size, font) + house$space_mm$title_gap
  span <- function(track) utils::tail(track$start_mm + track$length_mm, 1) - track$start_mm[1]
  titles <- list(font = font, left_mm = 0, bottom_mm = 0, y_panel_mm = 0)
  x_title <- unique(of("x"))
  if (length(x_title) == 1 && nzchar(x_title)) {
    titles$x_block <- set_text(x_title, size, font, span(frame$x), 3L)
    titles$bottom_mm <- line_mm(titles$x_block)
  }
  y_title <- of("y")
  if (block$cells$heads_measure) return(titles)
  if (all(y_title == "")) return(titles)
  if (length(unique(y_title)) == 1) {
    titles$y_block <- set_text(y_title[1], size, font, span(frame$y), 3L)
    titles$left_mm <- line_mm(titles$y_block)
  } else {
    panels <- block$cells$panels
    first <- panels$column == 1
    titles$y_each <- lapply(seq_along(y_title), function(i) {
      if (first[i]) set_text(y_title[i], size, font, frame$y$length_mm[panels$row[i]], 3L)
    })
    titles$y_panel_mm <- ifelse(first, max(vapply(titles$y_each[first], line_mm, 0)), 0)
  }
  titles
}
