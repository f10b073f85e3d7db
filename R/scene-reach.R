# What a block has around its plot areas: headings, tick text, axis titles, marginals,
# all measured in mm.

# Texts laid out for the plot areas of the round before.
block_parts <- function(block, frame, plate, font) {
  style <- plate$house
  list(
    headings = fit_headings(block$cells, frame$x$length_mm, style, font),
    spans = fit_spans(block$cells, frame$x, style, font),
    sides = fit_sides(block$cells, frame, plate, font),
    titles = axis_titles(block, frame, style, font),
    letters = letter_reach(block$letters, style, font),
    key = own_key(block, frame, style, font),
    font = font
  )
}

# Room around the panels of a block, for each column and row of them: left, right, top,
# bottom, and what left and bottom are of (ticks, titles).
block_reach <- function(block, fits, parts, frame, house) {
  panels <- block$cells$panels
  decor <- panel_decorations(block, fits, parts, frame, house)
  per_column <- function(mm) greatest_by(mm, panels$column)
  per_row <- function(mm) greatest_by(mm, panels$row)
  top <- per_row(decor$top)
  spans <- span_heights(block$cells, parts$spans, house, parts$font)
  top <- top + spans$room_mm
  right <- per_column(decor$right)
  right[length(right)] <- max(right[length(right)], direct_room(block$direct, house, parts$font)) + parts$sides$room_mm
  if (!is.null(parts$key)) top[1] <- top[1] + parts$key$height_mm + house$space_mm$key_gap
  reach <- list(
    left_ticks = pmax(
      per_column(decor$left),
      per_column(parts$letters$left) - if (beside_titles(block$letters)) 0 else parts$titles$left_mm
    ),
    left_title = parts$titles$left_mm, bottom_ticks = per_row(decor$bottom), bottom_title = parts$titles$bottom_mm,
    right_all = right, top_all = top, span_mm = spans$tier_mm, decor_top = per_row(decor$top),
    right_inner = pmax(
      per_column(decor$right), c(rep(0, length(right) - 1), direct_room(block$direct, house, parts$font))
    )
  )
  for (side in c("left", "right", "top", "bottom")) reach <- totalled(reach, side)
  reach
}

# The keys of a block that stay with it, set to its width.
own_key <- function(block, frame, house, font) {
  if (length(block$keys)) set_keys(block$keys, track_span(frame$x, c(1, length(frame$x$start_mm))), house, font)
}

# Headings of outer tiers, wrapped to the columns they span.
fit_spans <- function(cells, x, house, font) {
  spans <- cells$spans
  lapply(seq_len(nrow(spans) %||% 0), function(i) {
    wide <- x$start_mm[spans$to[i]] + x$length_mm[spans$to[i]] - x$start_mm[spans$from[i]]
    set_within(measure_words(spans$text[i], font, TRUE), house$type_pt$heading, font, max(8, wide), 3L)
  })
}

# The room that headings of outer tiers take: `tier_mm`, the outermost first; `room_mm`,
# above each row of panels.
span_heights <- function(cells, laid, house, font) {
  room <- rep(0, max(cells$panels$row))
  if (!length(laid)) return(list(tier_mm = numeric(), room_mm = room))
  tall <- vapply(laid, function(one) text_height_mm(one$n_lines, one$size_pt, font), 0)
  tiers <- as.numeric(tapply(tall, cells$spans$tier, max)) + house$space_mm$heading_gap + span_gap_mm
  room[unique(cells$spans$row)] <- sum(tiers)
  list(tier_mm = tiers, room_mm = room)
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
  has_room <- vapply(level, `[[`, NA, "fits") & vapply(
    level, function(one) text_height_mm(one$n_lines, size, font), 0
  ) <= pmax(high, 4)
  if (all(has_room)) return(list(angle = 0, laid = level, room_mm = max(widest_mm(level)) + side_gap_mm))
  turned <- Map(function(word, most) set_lines(word, size, font, max(most, 8), 4L), words, high)
  list(
    angle = 90, laid = turned,
    room_mm = max(vapply(turned, function(one) text_height_mm(one$n_lines, size, font), 0)) + side_gap_mm
  )
}

fit_headings <- function(cells, column_mm, house, font) {
  Map(function(words, column) {
    if (!is.null(words)) set_within(words, house$type_pt$heading, font, max(8, column_mm[column]), 4L)
  }, cells$heading_words, cells$panels$column)
}

# Room each panel's own decorations take beyond its plot area, in mm.
panel_decorations <- function(block, fits, parts, frame, house) {
  if (!is.null(block$decor)) return(block$decor)
  space <- house$space_mm
  panels <- block$cells$panels
  x_text <- has_tick_text(block, "x")
  y_text <- has_tick_text(block, "y")
  ticks <- tick_out_mm(house) + space$tick_gap
  shown <- function(direction) !is.na(block$axes[[paste0(direction, "_shown")]])
  fit_of <- function(direction) fits[shown_or_own(block, direction)]
  depth <- function(direction) vapply(fit_of(direction), `[[`, 0, "depth_mm")
  x_over <- panel_overhang(fit_of("x"), frame$x$length_mm[panels$column], x_text)
  y_over <- panel_overhang(fit_of("y"), frame$y$length_mm[panels$row], y_text)
  # Turned texts lie parallel to those of the panel before, so only the first column
  # must make room for their ends.
  turned <- vapply(fit_of("x"), `[[`, 0, "angle") != 0
  x_over$before[turned & panels$column > 1] <- 0
  heading_mm <- vapply(parts$headings, function(laid) {
    if (is.null(laid)) 0 else text_height_mm(
      laid$n_lines, laid$size_pt, parts$font
    ) + space$heading_gap + space$heading_above_panel
  }, 0)
  strips <- strip_reach(block, fits, frame, house)
  data.frame(
    left = pmax(
      ifelse(shown("y"), ifelse(y_text, ticks + depth("y"), tick_out_mm(house)), 0), x_over$before, strips$left
    ),
    right = pmax(x_over$after, strips$right),
    top = pmax(pmax(heading_mm, parts$letters$top) + strips$top, y_over$after),
    bottom = pmax(
      ifelse(shown("x"), ifelse(x_text, ticks + depth("x"), tick_out_mm(house)), 0), y_over$before, strips$bottom
    )
  )
}

# The axis that each panel shows; where it shows none, that of its marks.
shown_or_own <- function(block, direction) {
  shown <- block$axes[[paste0(direction, "_shown")]]
  ifelse(is.na(shown), block$axes[[direction]], shown)
}

panel_overhang <- function(fits, length_mm, has_text) {
  over <- mapply(
    function(fit, length, has) if (has) tick_overhang(fit, max(length, 1)) else c(before = 0, after = 0), fits,
    length_mm, has_text
  )
  list(before = over["before", ], after = over["after", ])
}

# Whether each panel has the tick text of the axis it shows.
has_tick_text <- function(block, direction) {
  panels <- block$cells$panels$panel
  shown <- block$axes[[paste0(direction, "_shown")]]
  mapply(function(panel, i) !is.na(i) && panel %in% block$axes$list[[i]]$drawn_at, panels, shown)
}

# Titles --------------------------------------------------------------------------

# An axis title stands once, centred on the block, where all panels show the same
# variable; otherwise at each panel with the axis's tick text that has none before it
# in its row or column, unless its heading names it.
axis_titles <- function(block, frame, house, font) {
  panels <- block$cells$panels
  size <- house$type_pt$title
  line_mm <- function(laid) {
    if (is.null(laid)) 0 else text_height_mm(laid$n_lines, size, font) + house$space_mm$title_gap
  }
  span <- function(track) utils::tail(track$start_mm + track$length_mm, 1) - track$start_mm[1]
  of <- function(direction) {
    shown <- block$axes[[paste0(direction, "_shown")]]
    vapply(shown, function(i) if (is.na(i)) "" else block$axes$list[[i]]$title, "")
  }
  titles <- list(left_mm = rep(0, max(panels$column)), bottom_mm = rep(0, max(panels$row)))
  for (direction in c("x", "y")) {
    title <- of(direction)
    if (all(title == "") || (direction == "y" && block$cells$heads_measure)) next
    words <- lapply(
      block$axes[[paste0(direction, "_shown")]], function(i) if (!is.na(i)) block$axes$list[[i]]$title_words
    )
    track <- frame[[direction]]
    place <- panels[[if (direction == "x") "column" else "row"]]
    if (length(unique(title)) == 1) {
      laid <- set_within(words[[1]], size, font, max(8, span(track)), 3L)
      titles[[paste0(direction, "_block")]] <- laid
      if (
        direction == "x"
      ) titles$bottom_mm[length(titles$bottom_mm)] <- line_mm(laid) else titles$left_mm[1] <- line_mm(laid)
      next
    }
    bears <- bears_title(title, panels, has_tick_text(block, direction), direction)
    each <- lapply(
      seq_along(title),
      function(i) if (bears[i]) set_within(words[[i]], size, font, max(8, track$length_mm[place[i]]), 4L)
    )
    titles[[paste0(direction, "_each")]] <- each
    lengths_mm <- vapply(each, line_mm, 0)
    if (direction == "x") titles$bottom_mm <- greatest_by(lengths_mm, panels$row) else titles$left_mm <- greatest_by(
      lengths_mm, panels$column
    )
  }
  titles
}

# Panels that have their own axis title: y titles at the first panel of a row that shows
# it, x titles at the last of a column.
bears_title <- function(title, panels, has_text, direction) {
  along <- if (direction == "x") -panels$row else panels$column
  line <- if (direction == "x") panels$column else panels$row
  vapply(seq_along(title), function(i) {
    has_text[i] && nzchar(title[i]) && !any(line == line[i] & along < along[i] & title == title[i])
  }, NA)
}
