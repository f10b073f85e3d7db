# Headings: set to the room they have, and placed. own: one block's list(block, frame, fits,
# parts).

place_headings <- function(panels, own, house, font) {
  rule_y <- heading_rule_y(panels, own, house)
  text_at <- heads_text_at(own$block)
  lapply(seq_along(own$parts$headings), function(i) {
    laid <- own$parts$headings[[i]]
    if (is.null(laid)) return(NULL)
    place_text(
      "heading",
      laid,
      panels$x[i] + text_at[["share"]] * panels$w[i] + text_at[["inset_mm"]],
      rule_y[i] - house$space_mm$heading_gap,
      font,
      across = text_at[["share"]],
      down = 1,
      panel = panels$id[i]
    )
  })
}

# Headings stand flush left, those of a column of text as that does.
heads_text_at <- function(block) {
  if (of_text(block$layers)) {
    ink_traits(block$layers[[1]]$ink)$text_at
  } else {
    c(share = 0, inset_mm = 0)
  }
}

# Where a panel's heading rule stands: above its marginal, where it has one.
heading_rule_y <- function(panels, own, house) {
  over <- margins_mm(own$block, "x", own$frame) +
    own$parts$under$over_mm[own$block$panels$row]
  over <- over[match(panels$id, own$block$panels$id)]
  panels$y - over - house$space_mm$heading_above_panel
}

# Headings of outer tiers: flush left over a rule across their columns, above the inner ones.
place_spans <- function(own, house, font) {
  spans <- own$block$parts$spans
  if (is.null(spans)) return(NULL)
  rule_y <- span_rule_y(own)
  text_at <- heads_text_at(own$block)
  lapply(seq_len(nrow(spans)), function(i) {
    x <- own$frame$x
    from <- x$start_mm[spans$from[i]]
    wide <- x$start_mm[spans$to[i]] + x$length_mm[spans$to[i]] - from
    place_text(
      "heading",
      own$parts$spans[[i]],
      from + text_at[["share"]] * wide + text_at[["inset_mm"]],
      rule_y[i] - house$space_mm$heading_gap,
      font,
      across = text_at[["share"]],
      down = 1
    )
  })
}

# The rule of a tier stands above everything of the tiers within it.
span_rule_y <- function(own) {
  spans <- own$block$parts$spans
  reach <- own$frame$reach
  vapply(
    seq_len(nrow(spans)),
    function(i) {
      tiers <- sort(unique(spans$tier[spans$row == spans$row[i]]))
      above <- tiers[tiers >= spans$tier[i]]
      low <- own$frame$y$start_mm[spans$row[i]] - reach$decor_top[spans$row[i]]
      low - sum(reach$span_mm[setdiff(above, spans$tier[i])])
    },
    0
  )
}

span_gap_mm <- 1.2

# Headings of rows, right of the last column: level where there is room, else turned.
place_sides <- function(own, panels, font) {
  sides <- own$block$parts$sides
  if (is.null(sides)) return(NULL)
  side <- own$parts$sides
  panels <- panels[panels$role != "marginal", ]
  x <- max(panels$x + panels$w) + utils::tail(own$frame$reach$right_inner, 1) + side_gap_mm
  lapply(seq_len(nrow(sides)), function(i) {
    row <- panels[panels$row == sides$row[i], ]
    middle <- row$y[1] + row$h[1] / 2
    if (side$angle == 0) place_text("row heading", side$laid[[i]], x, middle, font, down = 0.5)
    else place_text("row heading", side$laid[[i]], x, middle, font, across = 0.5, angle = 90)
  })
}

side_gap_mm <- 1.6

# Panels without rows say so where asked.
place_empty <- function(block, panels, house, font) {
  if (!identical(block$design$empty, "say")) return(NULL)
  lapply(which(block$panels$n == 0), function(i) {
    one_panel <- panels[i, ]
    laid <- set_text("no data", house$type_pt$least, font, one_panel$w, 2L)
    place_text(
      "note",
      laid,
      one_panel$x + one_panel$w / 2,
      one_panel$y + one_panel$h / 2,
      font,
      across = 0.5,
      down = 0.5,
      panel = one_panel$id
    )
  })
}

fit_headings <- function(block, column_mm, house, font) {
  Map(
    function(words, column) {
      if (!is.null(words)) {
        set_within(words, house$type_pt$heading, font, max(8, column_mm[column]), 4L)
      }
    },
    block$heading_words,
    block$panels$column
  )
}

# Headings of outer tiers, wrapped to the columns they span.
fit_spans <- function(block, x, house, font) {
  spans <- block$parts$spans
  lapply(seq_len(nrow(spans) %||% 0), function(i) {
    wide <- x$start_mm[spans$to[i]] + x$length_mm[spans$to[i]] - x$start_mm[spans$from[i]]
    set_within(
      measure_words(spans$text[i], font, TRUE),
      house$type_pt$heading,
      font,
      max(8, wide),
      3L
    )
  })
}

# The room that headings of outer tiers take: `tier_mm`, the outermost first; `room_mm`,
# above each row of panels.
span_heights <- function(block, laid, house, font) {
  room <- rep(0, max(block$panels$row))
  if (!length(laid)) return(list(tier_mm = numeric(), room_mm = room))
  tall <- vapply(laid, function(one) text_height_mm(one$n_lines, one$size_pt, font), 0)
  spans <- block$parts$spans
  tiers <- as.numeric(tapply(tall, spans$tier, max)) + house$space_mm$heading_gap + span_gap_mm
  # Rows below the first may have fewer tiers, such as no title of the block.
  for (row in unique(spans$row)) room[row] <- sum(tiers[sort(unique(spans$tier[spans$row == row]))])
  list(tier_mm = tiers, room_mm = room)
}

side_share <- 1 / 6 # of the page's width, for level headings of rows

# Headings of rows: level in lines where they fit in a sixth of the width, else turned.
fit_sides <- function(block, frame, plate, font) {
  sides <- block$parts$sides
  if (is.null(sides)) return(list(room_mm = 0))
  size <- plate$house$type_pt$heading
  side_words <- lapply(sides$text, measure_words, font, bold = TRUE)
  level <- lapply(side_words, set_lines, size, font, plate$width_mm * side_share, 4L)
  high <- frame$y$length_mm[sides$row]
  has_room <- vapply(level, `[[`, NA, "fits") &
    vapply(level, function(one) text_height_mm(one$n_lines, size, font), 0) <= pmax(high, 4)
  if (all(has_room)) {
    return(list(angle = 0, laid = level, room_mm = max(widest_mm(level)) + side_gap_mm))
  }
  turned <- Map(
    function(word, most) set_lines(word, size, font, max(most, 8), 4L),
    side_words,
    high
  )
  list(
    angle = 90,
    laid = turned,
    room_mm = max(vapply(turned, function(one) text_height_mm(one$n_lines, size, font), 0)) +
      side_gap_mm
  )
}
