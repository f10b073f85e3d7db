# Keys set in rows or one under the other: how large they are, and where each entry stands.

# Sets keys in rows within `width_mm`, 120 mm at most in type of 7 pt: the title, then the entries,
# in columns where they take several rows; these begin under the first entry where that leaves half
# the width. What stands in one row has its text on one line. Offsets are from the key's top left
# corner. Returns list(height_mm, items): items have key, entry (0 the title), x_mm, y_mm, glyph_mm
# (room for the glyph before the text) and laid text.
set_keys <- function(keys, width_mm, house, font) {
  width_mm <- min(width_mm, most_key_row_mm * house$type_pt$key / 7)
  rows <- list()
  for (k in seq_along(keys)) {
    set <- (if (isTRUE(keys[[k]]$ramp)) set_ramp else set_levels)(keys[[k]], width_mm, house, font)
    # A key goes on beside the one before where there is room for it whole.
    row <- if (length(rows)) rows[[length(rows)]]
    from <- if (k > 1) row$width_mm + house$space_mm$entry_gap * 2
    goes_on <- k > 1 && from + set$width_mm <= width_mm && set$rows == 1 &&
      row$sets[[1]]$rows == 1
    if (!goes_on) from <- 0
    joined <- list(
      sets = c(if (goes_on) row$sets, list(changed(set, key = k, from = from))),
      width_mm = from + set$width_mm
    )
    rows <- c(if (goes_on) rows[-length(rows)] else rows, list(joined))
  }
  items <- list()
  y <- 0
  for (row in rows) {
    # The line of the highest entry is that of all.
    middle <- max(vapply(row$sets, function(set) set$items[[1]]$row_mm, 0)) / 2
    down <- vapply(row$sets, function(set) middle - set$items[[1]]$row_mm / 2, 0)
    items <- c(items, unlist(Map(moved_items, row$sets, y + down), recursive = FALSE))
    high <- max(down + vapply(row$sets, `[[`, 0, "height_mm"))
    y <- y + high + house$space_mm$key_row_gap
  }
  list(
    items = items,
    height_mm = max(0, y - house$space_mm$key_row_gap),
    row_mm = key_row_mm(house, font)
  )
}

moved_items <- function(set, down_mm) {
  lapply(set$items, function(item) {
    changed(item, key = set$key, x_mm = item$x_mm + set$from, y_mm = item$y_mm + down_mm)
  })
}

most_key_row_mm <- 120

key_row_mm <- function(house, font) {
  max(text_height_mm(1, house$type_pt$key, font), house$space_mm$swatch)
}

key_mark_mm <- function(key, house) {
  if ("line" %in% key$glyph) {
    house$space_mm$key_line
  } else {
    max(house$space_mm$swatch, if ("symbol" %in% key$glyph) key$size_mm else 0)
  }
}

set_levels <- function(key, width_mm, house, font) {
  size <- house$type_pt$key
  space <- house$space_mm
  row_mm <- max(key_row_mm(house, font), if ("symbol" %in% key$glyph) max(key$size_mm) else 0)
  wide <- key_mark_mm(key, house)
  glyph_mm <- wide + space$swatch_gap
  title <- set_text(key$title, size, font, width_mm, 3L)
  labels <- lapply(key$labels, set_text, size, font, width_mm - glyph_mm, 3L)
  widths <- vapply(labels, function(laid) max(laid$widths_mm), 0) + glyph_mm
  item <- function(entry, x, y, laid) {
    list(
      entry = entry,
      x_mm = x,
      y_mm = y,
      laid = laid,
      glyph_mm = glyph_mm,
      wide_mm = wide,
      row_mm = row_mm
    )
  }
  items <- list(item(0L, 0, 0, title))
  indent <- max(title$widths_mm) + space$entry_gap * 0.8
  more_mm <- function(n_lines) text_height_mm(n_lines, size, font) - text_height_mm(1, size, font)
  y <- 0
  rows <- 1
  if (indent > width_mm / 2 || indent + max(widths) > width_mm) {
    y <- row_mm + more_mm(title$n_lines) + space$key_row_gap
    indent <- 0
    rows <- 2
  }
  places <- entry_places(widths, width_mm - indent, space$entry_gap)
  lines <- vapply(labels, `[[`, 0L, "n_lines")
  row <- places$row
  step <- vapply(split(lines, row), function(of) row_mm + more_mm(max(of)) + space$key_row_gap, 0)
  x <- indent + places$x
  top <- y + c(0, cumsum(step))[row]
  items <- c(items, Map(item, seq_along(labels), x, top, labels))
  list(
    items = items,
    height_mm = y + sum(step) - space$key_row_gap,
    width_mm = max(title$widths_mm, x + widths),
    rows = rows + max(row) - 1
  )
}

# Where entries stand: all in one row where that fits, else in columns as wide as their widest
# entry, the last row as full as can be; one after the other where columns would take more rows.
# Returns list(row, x).
entry_places <- function(widths, room_mm, gap_mm) {
  n <- length(widths)
  in_columns <- function(k) {
    column <- (seq_len(n) - 1) %% k + 1
    wide <- vapply(split(widths, column), max, 0, USE.NAMES = FALSE)
    list(fits = sum(wide) + gap_mm * (k - 1) <= room_mm, x = c(0, cumsum(wide + gap_mm))[column])
  }
  for (k in n:1) if (in_columns(k)$fits) break
  running <- running_places(widths, room_mm, gap_mm)
  if (max(running$row) < ceiling(n / k)) return(running)
  k <- ceiling(n / ceiling(n / k))
  list(row = (seq_len(n) - 1) %/% k + 1, x = in_columns(k)$x)
}

running_places <- function(widths, room_mm, gap_mm) {
  row <- integer(length(widths))
  x <- numeric(length(widths))
  row_now <- 1
  x_now <- 0
  for (i in seq_along(widths)) {
    if (x_now > 0 && x_now + widths[i] > room_mm) {
      row_now <- row_now + 1
      x_now <- 0
    }
    row[i] <- row_now
    x[i] <- x_now
    x_now <- x_now + widths[i] + gap_mm
  }
  list(row = row, x = x)
}

# A bar of colours after its title, with numbers under it.
set_ramp <- function(key, width_mm, house, font) {
  size <- house$type_pt$key
  space <- house$space_mm
  row_mm <- key_row_mm(house, font)
  title <- set_text(key$title, size, font, width_mm, 3L)
  start <- max(title$widths_mm) + space$entry_gap * 0.8
  rows <- 1
  y <- 0
  if (start + space$ramp > width_mm) {
    start <- 2
    y <- row_mm + space$key_row_gap
    rows <- 2
  }
  # Where not even so there is room, the bar is shorter.
  ramp_mm <- max(least_ramp_mm, min(space$ramp, width_mm - start - 2))
  numbers <- house_numbers(key$text %||% number_text(key$at), house$numbers)
  share <- if (is.null(key$share)) (key$at - key$range[1]) / diff(key$range) else key$share
  # Numbers that would touch are left out between the first and the last.
  for (step in seq_along(numbers)) {
    kept <- unique(c(seq(1, length(numbers), by = step), length(numbers)))
    if (step > 1 && length(kept) > 2 && diff(utils::tail(kept, 2)) < step) {
      kept <- kept[-(length(kept) - 1)]
    }
    laid <- lapply(numbers[kept], set_text, size, font)
    centre <- start + share[kept] * ramp_mm
    if (!texts_touch(centre, widest_mm(laid) / 2, widest_mm(laid) / 2)) break
  }
  item <- function(...) list(..., glyph_mm = 0, wide_mm = ramp_mm, row_mm = row_mm)
  items <- c(
    list(
      item(entry = 0L, x_mm = 0, y_mm = 0, laid = title),
      item(entry = -1L, x_mm = start, y_mm = y, laid = NULL)
    ),
    Map(
      function(one, x, i) {
        item(
          entry = i,
          x_mm = x - max(one$widths_mm) / 2,
          y_mm = y + row_mm + 0.4,
          laid = one,
          centre_mm = x
        )
      },
      laid,
      centre,
      seq_along(laid)
    )
  )
  right <- max(start + ramp_mm, centre + widest_mm(laid) / 2)
  list(
    items = items,
    height_mm = y + row_mm + 0.4 + text_height_mm(1, size, font),
    width_mm = right,
    rows = rows
  )
}
least_ramp_mm <- 8

# Keys one under the other, entries too, their names in lines of at most `most_mm`.
stack_keys <- function(keys, house, font, most_mm = most_key_line_mm) {
  items <- list()
  y <- 0
  wide <- 0
  for (k in seq_along(keys)) {
    set <- if (isTRUE(keys[[k]]$ramp)) {
      set_ramp(keys[[k]], house$space_mm$ramp + 6, house, font)
    } else {
      set_levels(keys[[k]], levels_width(keys[[k]], house, font, most_mm), house, font)
    }
    items <- c(
      items,
      lapply(set$items, function(item) changed(item, key = k, y_mm = item$y_mm + y))
    )
    wide <- max(wide, set$width_mm)
    y <- y + set$height_mm + house$space_mm$key_gap
  }
  list(items = items, width_mm = wide, height_mm = y - house$space_mm$key_gap)
}

most_key_line_mm <- 60
side_key_share <- 0.3 # of the width of the page, for names in a key beside it

# The width at which each entry of a key has its own line.
levels_width <- function(key, house, font, most_mm) {
  size <- house$type_pt$key
  glyph <- key_mark_mm(key, house) + house$space_mm$swatch_gap
  wide <- function(text) max(set_text(text, size, font, most_mm - glyph, 3L)$widths_mm)
  max(wide(key$title), vapply(key$labels, wide, 0) + glyph) + 0.01
}
