# Letters of blocks or panels, in the space left of the heading.

# For each block, a letter for each of its panels, NA where it has none. In reading
# order; insets and text, a column of it too, have none.
plate_letters <- function(blocks, plate) {
  wanted <- plate$letters
  none <- lapply(blocks, function(block) rep(NA_character_, nrow(block$panels)))
  if (is.null(wanted)) return(none)
  places <- plate$grid$places
  order <- block_order(blocks, plate)
  lettered <- function(i) {
    !is.na(places$x0[i]) && blocks[[i]]$panels$role[1] != "words" && !is_text_block(blocks[[i]])
  }
  order <- Filter(lettered, order)
  # One block beside its columns of text needs no letter, unless it is asked for.
  if (length(order) == 1 && is.null(plate$made$settings$letters)) return(none)
  by_panel <- identical(wanted, "panel")
  n <- vapply(order, function(i) if (by_panel) length(none[[i]]) else 1L, 0L)
  letters <- if (by_panel || identical(wanted, "block")) {
    letter_sequence(sum(n))
  } else {
    rep_len(c(wanted, rep(NA, sum(n))), sum(n))
  }
  styled <- letter_style(letters, plate$house)
  from <- cumsum(c(0, n))
  for (k in seq_along(order)) {
    i <- order[k]
    panels <- blocks[[i]]$panels
    letter_order <- if (by_panel) {
      order(panels$row, panels$column)
    } else {
      which(panels$row == 1)[which.min(panels$column[panels$row == 1])]
    }
    none[[i]][letter_order] <- styled[from[k] + seq_len(n[k])]
  }
  none
}

# Does a block hold nothing but text of rows, which belongs to its neighbour?
is_text_block <- function(block) {
  of_text(block$layers)
}

# Blocks in reading order: by their place in the grid, insets last.
block_order <- function(blocks, plate) {
  order(plate$grid$places$y0, plate$grid$places$x0)[seq_along(blocks)]
}

# a to z, then aa, ab ...
letter_sequence <- function(n) {
  c(letters, outer(letters, letters, function(b, a) paste0(a, b)))[seq_len(n)]
}

letter_style <- function(letters, house) {
  style <- house$letters
  text <- if (style$case == "upper") toupper(letters) else letters
  text <- switch(
    style$bracket,
    round = paste0("(", text, ")"),
    right = paste0(text, ")"),
    none = text
  )
  ifelse(is.na(letters), NA, text)
}

letter_gap_mm <- 0.8

# A title that stands beside several rows of panels would meet the letters of the lower
# ones, so those stand right of it.
beside_titles <- function(letters) sum(!is.na(letters)) > 1

lay_letter <- function(letter, house, font) {
  set_text(letter, house$type_pt$letter, font, bold = identical(house$letters$weight, "bold"))
}

# Room for letters beside and above plot areas, for each panel.
letter_reach <- function(letters, house, font) {
  has <- !is.na(letters)
  wide <- vapply(
    letters,
    function(letter) {
      if (is.na(letter)) 0 else max(lay_letter(letter, house, font)$widths_mm) + letter_gap_mm
    },
    0
  )
  high <- ifelse(
    has,
    text_height_mm(1, house$type_pt$letter, font) + house$space_mm$heading_gap +
      house$space_mm$heading_above_panel,
    0
  )
  list(left = unname(wide), top = unname(high))
}

# How far above its panels a letter stands: in line with its neighbours, where that is near enough.
letter_top <- function(reach, row) {
  if (reach$top[row] - reach$own_top[row] <= most_letter_mm) reach$top[row] else reach$own_top[row]
}

most_letter_mm <- 10

# On the line of the first line of the heading, all of one column of the plate on one
# vertical line.
place_letters <- function(panels, own, house, font) {
  letters <- own$letters
  reach <- own$frame$reach
  rule_y <- heading_rule_y(panels, own, house)
  spans <- own$block$parts$spans
  over_key <- !is.null(own$parts$key) && sum(!is.na(letters)) == 1
  lapply(which(!is.na(letters)), function(i) {
    # The letter of a block that has a key stands over that, too.
    heading <- if (!over_key) own$parts$headings[[i]]
    # Without a heading, above its own panel.
    line_y <- if (is.null(heading)) {
      own$frame$y$start_mm[panels$row[i]] - letter_top(reach, panels$row[i]) +
        text_height_mm(1, house$type_pt$letter, font)
    } else {
      rule_y[i] - house$space_mm$heading_gap
    }
    if (!is.null(heading)) {
      line_y <- line_y - text_height_mm(heading$n_lines, heading$size_pt, font) + text_height_mm(
        1,
        heading$size_pt,
        font
      )
    }
    over <- if (!over_key) which(spans$row == panels$row[i])
    if (length(over)) {
      first <- own$parts$spans[[over[1]]]
      line_y <- span_rule_y(own)[over[1]] - house$space_mm$heading_gap -
        text_height_mm(first$n_lines, first$size_pt, font) + text_height_mm(1, first$size_pt, font)
    }
    left <- if (beside_titles(letters)) reach$left_ticks else reach$left
    place_text(
      "letter",
      lay_letter(letters[i], house, font),
      own$frame$x$start_mm[panels$column[i]] - left[panels$column[i]],
      line_y,
      font,
      down = 1,
      panel = panels$id[i]
    )
  })
}
