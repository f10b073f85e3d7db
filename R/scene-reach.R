# What a block has around its plot areas: headings, tick text, axis titles, marginals,
# all measured in mm.

# Texts laid out for the plot areas of the round before.
block_parts <- function(block, frame, plate, font) {
  style <- plate$house
  spans <- fit_spans(block, frame$x, style, font)
  list(
    headings = fit_headings(block, frame$x$length_mm, style, font),
    spans = spans,
    span_heights = span_heights(block, spans, style, font),
    direct_mm = direct_room(block$direct, style, font),
    sides = fit_sides(block, frame, plate, font),
    under = fit_under(block, style, font),
    strips = fit_strips(block, style, font),
    also = fit_also(block, frame, style, font),
    titles = axis_titles(block, frame, style, font),
    letters = letter_reach(block$letters, style, font),
    key = own_key(block, frame, style, font),
    font = typeface(font)
  )
}

# Room around the panels of a block, for each column and row of them: left, right, top,
# bottom, and what left and bottom are of (ticks, titles); own_left, own_bottom (of each panel) and
# own_top stay what the block itself needs where neighbours are made even.
block_reach <- function(block, fixed, parts, frame, house) {
  panels <- block$panels
  decor <- panel_decorations(block, fixed, frame, parts$under)
  per_column <- function(mm) greatest_by(mm, panels$column)
  per_row <- function(mm) greatest_by(mm, panels$row)
  top <- per_row(decor$top)
  spans <- parts$span_heights
  top <- top + spans$room_mm
  right <- per_column(decor$right)
  # A second scale stands next to the last column and the first row.
  right[length(right)] <- max(right[length(right)], parts$also$y$room_mm)
  top[1] <- top[1] + max(0, parts$also$x$room_mm)
  right[length(right)] <- max(right[length(right)], parts$direct_mm) + parts$sides$room_mm
  if (!is.null(parts$key)) top[1] <- top[1] + parts$key$height_mm + house$space_mm$key_gap
  bottom <- per_row(decor$bottom)
  bottom[length(bottom)] <- max(bottom[length(bottom)], parts$strips$bottom_mm)
  reach <- list(
    left_ticks = pmax(
      per_column(decor$left),
      c(max(parts$under$left_mm, parts$strips$left_mm), rep(0, max(panels$column) - 1)),
      per_column(parts$letters$left) - if (beside_titles(block$letters)) 0 else parts$titles$left_mm
    ),
    left_title = parts$titles$left_mm,
    bottom_ticks = bottom,
    bottom_title = parts$titles$bottom_mm + parts$under$room_mm,
    right_all = right,
    top_all = top,
    span_mm = spans$tier_mm,
    decor_top = per_row(decor$top),
    right_inner = pmax(
      per_column(decor$right),
      c(rep(0, length(right) - 1), max(parts$direct_mm, parts$also$y$room_mm))
    ),
    # Names of rows under a panel stand beside the name of the axis where that goes on past them.
    own_left = if (max(panels$row) > 1) {
      pmax(decor$left, ifelse(panels$column == 1, parts$under$left_mm, 0))
    } else {
      decor$left
    },
    own_bottom = decor$bottom,
    own_top = top
  )
  for (side in c("left", "right", "top", "bottom")) reach <- totalled(reach, side)
  reach
}

# The keys of a block that stay with it, set to its width.
own_key <- function(block, frame, house, font) {
  if (length(block$keys)) {
    set_keys(block$keys, track_span(frame$x, c(1, length(frame$x$start_mm))), house, font)
  }
}

# Room that each panel's own decorations take beyond its plot area, in mm. What does not hang on
# the lengths of plot areas is worked out once a round: `fixed`, see fixed_decorations().
panel_decorations <- function(block, fixed, frame, numbers) {
  if (!is.null(block$around)) {
    return(transform(block$around, top = pmax(block$around$top, fixed$top)))
  }
  panels <- block$panels
  x_over <- panel_overhang(fixed$x, frame$x$length_mm[panels$column])
  y_over <- panel_overhang(fixed$y, frame$y$length_mm[panels$row])
  strips <- if (has_marginals(block)) marginal_reach(block, fixed$axis_mm, frame) else no_strips
  new_table(
    left = pmax(fixed$left, replace(x_over$before, fixed$runs_on, 0), strips$left),
    right = pmax(x_over$after, strips$right + numbers$right_mm[panels$column]),
    top = pmax(fixed$top + strips$top + numbers$over_mm[panels$row], y_over$after),
    bottom = pmax(fixed$bottom, y_over$before, strips$bottom),
    .rows = nrow(panels)
  )
}

no_strips <- list(left = 0, right = 0, top = 0, bottom = 0)

fixed_decorations <- function(block, fits, parts, house) {
  if (!is.null(block$around)) return(list(top = parts$letters$top))
  space <- house$space_mm
  tick <- tick_out_mm(house)
  side <- function(direction) {
    index <- shown_or_own(block, direction)
    has_text <- has_tick_text(block, direction)
    depth <- vapply(fits, `[[`, 0, "depth_mm")[index]
    shown <- !is.na(block$panels[[paste0(direction, "_shown")]])
    list(
      fits = fits,
      index = index,
      has_text = has_text,
      room = ifelse(shown, ifelse(has_text, tick + space$tick_gap + depth, tick), 0)
    )
  }
  x <- side("x")
  y <- side("y")
  heading_mm <- vapply(
    parts$headings,
    function(laid) {
      if (is.null(laid)) {
        0
      } else {
        text_height_mm(laid$n_lines, laid$size_pt, parts$font) + space$heading_gap +
          space$heading_above_panel
      }
    },
    0
  )
  # Turned texts lie parallel to those of the panel before, where these are turned, too: only the
  # first of them must make room for their ends.
  turned <- vapply(fits, `[[`, 0, "angle")[x$index] != 0
  before <- match(
    paste(block$panels$row, block$panels$column - 1),
    paste(block$panels$row, block$panels$column)
  )
  level_before <- !is.na(before) & x$has_text[before] & !turned[before]
  list(
    x = x,
    y = y,
    left = y$room,
    bottom = x$room,
    top = pmax(heading_mm, parts$letters$top),
    runs_on = turned & block$panels$column > 1 & !level_before,
    axis_mm = tick + space$tick_gap + vapply(fits, `[[`, 0, "depth_mm")
  )
}

# The axis that each panel shows; where it shows none, that of its marks.
shown_or_own <- function(block, direction) {
  shown <- block$panels[[paste0(direction, "_shown")]]
  ifelse(is.na(shown), block$panels[[paste0(direction, "_axis")]], shown)
}

# How far tick texts reach beyond plot areas of these lengths; panels of one axis and length alike.
panel_overhang <- function(of, length_mm) {
  key <- ifelse(of$has_text, paste(of$index, length_mm), "")
  first <- which(!duplicated(key))
  ends <- lapply(first, function(i) {
    if (key[i] == "") return(c(before = 0, after = 0))
    tick_overhang(of$fits[[of$index[i]]], max(length_mm[i], 1))
  })
  of_panel <- ends[match(key, key[first])]
  list(
    before = vapply(of_panel, `[[`, 0, "before"),
    after = vapply(of_panel, `[[`, 0, "after")
  )
}

# Whether each panel has the tick text of the axis it shows.
has_tick_text <- function(block, direction) {
  panels <- block$panels$id
  shown <- block$panels[[paste0(direction, "_shown")]]
  mapply(function(panel, i) !is.na(i) && panel %in% block$axes[[i]]$drawn_at, panels, shown)
}
