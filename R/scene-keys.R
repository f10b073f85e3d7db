# Where the plate's keys stand: at the top, flush with the first plot area; or inside the
# one block that has free room for them, such as the empty half of a matrix or the corner
# between two marginals.

# The block that may hold the keys, 0 for none.
key_home <- function(blocks, keys, plate) {
  if (!is.null(plate$key) || !is.null(plate$grid$key) || !length(keys) || length(blocks) != 1 || !has_free_room(blocks[[1]])) 0L else 1L
}

has_free_room <- function(block) !is.null(block$cells$free_half) || has_corner(block)

# A single panel with marginals on both sides has a corner between them.
has_corner <- function(block) nrow(block$cells$panels) == 1 && length(unique(block$strips$side)) == 2

# Returns list(items, x_mm, y_mm, inside) and what the plate's edges give up for keys,
# title and note: top_mm, bottom_mm, right_mm. marks: for a key in the emptiest corner.
place_keys <- function(keys, blocks, state, plate, font, marks = NULL) {
  edges <- page_edges(plate, font)
  none <- list(items = list(), top_mm = edges$top_mm, bottom_mm = edges$bottom_mm, right_mm = 0, inside = 0L, x_mm = 0, y_mm = 0, edges = edges)
  if (!length(keys)) return(none)
  space <- plate$house$space_mm
  where <- key_place_of(plate)
  if (where %in% c("direct", "block")) where <- "top"
  stack <- function() stack_keys(keys, plate$house, font)
  if (where == "cell") return(key_in_cell(keys, none, state, plate, font))
  if (where == "inside") {
    set <- stack()
    spot <- emptiest_spot(blocks, state$frames, set, marks)
    return(changed(none, items = set$items, x_mm = spot$x_mm, y_mm = spot$y_mm))
  }
  if (where == "right") {
    set <- stack()
    return(changed(none, items = set$items, right_mm = set$width_mm + space$entry_gap, x_mm = plate$width_mm - space$margin - set$width_mm, y_mm = state$frames[[1]]$y$start_mm[1]))
  }
  if (where == "top" && state$key_inside > 0) {
    set <- stack()
    spot <- free_spot(blocks[[state$key_inside]], state$frames[[state$key_inside]], set, plate$house)
    if (!is.null(spot)) return(changed(none, items = set$items, inside = state$key_inside, x_mm = spot$x_mm, y_mm = spot$y_mm))
  }
  start_mm <- min(vapply(state$frames, function(frame) frame$x$start_mm[1], 0))
  set <- set_keys(keys, plate$width_mm - start_mm - space$margin, plate$house, font)
  room <- set$height_mm + space$key_gap
  if (where == "bottom") {
    return(changed(none, items = set$items, x_mm = start_mm, y_mm = plate$height_mm - space$margin - edges$bottom_mm - set$height_mm, bottom_mm = edges$bottom_mm + room))
  }
  changed(none, items = set$items, x_mm = start_mm, y_mm = space$margin + edges$top_mm, top_mm = edges$top_mm + room)
}

key_place_of <- function(plate) if (!is.null(plate$grid$key)) "cell" else plate$key %||% "top"

# Room for the plate's title and note, laid out to its width.
page_edges <- function(plate, font) {
  house <- plate$house
  wide <- plate$width_mm - 2 * house$space_mm$margin
  lay <- function(text, size, bold = FALSE) if (!is.null(text)) set_text(text, size, font, wide, 6L, bold = bold)
  title <- lay(plate$title, house$type_pt$plate_title, TRUE)
  note <- lay(plate$note, house$type_pt$note)
  high <- function(laid) if (is.null(laid)) 0 else text_height_mm(laid$n_lines, laid$size_pt, font) + house$space_mm$key_gap
  list(title = title, note = note, top_mm = high(title), bottom_mm = high(note))
}

place_edges <- function(edges, plate, font) {
  margin <- plate$house$space_mm$margin
  list(
    if (!is.null(edges$title)) place_text("plate title", edges$title, margin, margin, font),
    if (!is.null(edges$note)) place_text("plate note", edges$note, margin, plate$height_mm - margin, font, down = 1)
  )
}

# The keys in a place of the plate's own.
key_in_cell <- function(keys, none, state, plate, font) {
  columns <- state$columns %||% grid_tracks(plate$grid$columns, 0, plate$width_mm, 0, 0, plate$house$space_mm$column_gap)
  rows <- state$rows %||% grid_tracks(plate$grid$rows, 0, plate$height_mm, 0, 0, plate$house$space_mm$row_gap)
  region <- region_of(plate$grid$key, columns, rows)
  set <- stack_keys(keys, plate$house, font)
  if (set$width_mm > region$w || set$height_mm > region$h) set <- set_keys(keys, region$w, plate$house, font)
  changed(none, items = set$items, x_mm = region$x, y_mm = region$y)
}

# The corner of a panel that has least ink under the keys.
emptiest_spot <- function(blocks, frames, set, marks) {
  best <- list(ink = Inf)
  for (i in seq_along(blocks)) {
    panels <- blocks[[i]]$cells$panels
    for (k in seq_len(nrow(panels))) {
      area <- list(x = frames[[i]]$x$start_mm[panels$column[k]], w = frames[[i]]$x$length_mm[panels$column[k]], y = frames[[i]]$y$start_mm[panels$row[k]], h = frames[[i]]$y$length_mm[panels$row[k]])
      if (area$w < set$width_mm + 2 || area$h < set$height_mm + 2) next
      ink <- if (is.null(marks)) list(x = numeric(), y = numeric()) else ink_points_of(marks[[i]], panels$panel[k])
      corner <- emptiest_corner(set$width_mm, set$height_mm, area, ink)
      held <- attr(corner, "held")
      if (held < best$ink) {
        best <- list(ink = held, x_mm = if (corner$x == 0) area$x + corner_inset_mm else area$x + area$w - set$width_mm - corner_inset_mm,
                     y_mm = if (corner$y == 1) area$y + corner_inset_mm else area$y + area$h - set$height_mm - corner_inset_mm)
      }
    }
  }
  if (is.finite(best$ink)) return(best)
  abort_nelvat("space", along = "width", message = c("No panel has room for the keys inside.", x = paste0("They take ", format(round(set$width_mm, 1)), " mm by ", format(round(set$height_mm, 1)), " mm."),
                                   i = "Place them with `key = \"top\"` or another edge."), call = NULL)
}

# Keys one under the other, entries too.
stack_keys <- function(keys, house, font) {
  items <- list()
  y <- 0
  wide <- 0
  for (k in seq_along(keys)) {
    set <- if (isTRUE(keys[[k]]$ramp)) set_ramp(keys[[k]], house$space_mm$ramp + 6, house, font)
    else set_levels(keys[[k]], levels_width(keys[[k]], house, font), house, font)
    items <- c(items, lapply(set$items, function(item) {
      item$key <- k
      item$y_mm <- item$y_mm + y
      item
    }))
    wide <- max(wide, set$width_mm)
    y <- y + set$height_mm + house$space_mm$key_gap
  }
  list(items = items, width_mm = wide, height_mm = y - house$space_mm$key_gap)
}

most_key_line_mm <- 60

# The width at which each entry of a key has its own line.
levels_width <- function(key, house, font) {
  size <- house$type_pt$key
  wide <- function(text) max(set_text(text, size, font, most_key_line_mm, 3L)$widths_mm)
  glyph <- key_mark_mm(key, house) + house$space_mm$swatch_gap
  max(wide(key$title), vapply(key$labels, wide, 0) + glyph) + 0.01
}

# Where in a block's free room the keys fit: list(x_mm, y_mm), or NULL.
free_spot <- function(block, frame, set, house) {
  if (has_corner(block)) corner_spot(block, frame, set, house) else half_spot(block, frame, set)
}

# The top right of the free half of a matrix, or its bottom left.
half_spot <- function(block, frame, set) {
  n <- block$cells$n_variables
  upper <- block$cells$free_half == "upper"
  for (k in seq_len(n - 1)) {
    rows <- if (upper) seq_len(k) else (k + 1):n
    columns <- if (upper) (k + 1):n else seq_len(k)
    high <- track_span(frame$y, rows)
    wide <- track_span(frame$x, columns)
    if (high < set$height_mm || wide < set$width_mm) next
    # Flush with the last column from which the width is enough.
    fitting <- Filter(function(column) track_span(frame$x, column:max(columns)) >= set$width_mm, columns)
    return(list(x_mm = frame$x$start_mm[if (upper) max(fitting) else 1], y_mm = if (upper) frame$y$start_mm[1] else frame$y$start_mm[k + 1]))
  }
  NULL
}

track_span <- function(track, at) track$start_mm[max(at)] + track$length_mm[max(at)] - track$start_mm[min(at)]

# Between the two marginals of a panel.
corner_spot <- function(block, frame, set, house) {
  depth <- strip_depth(block, frame, house)
  gap <- block$design$marginals$gap
  if (depth$x < set$height_mm || depth$y < set$width_mm) return(NULL)
  list(x_mm = frame$x$start_mm + frame$x$length_mm + gap + 0.5, y_mm = frame$y$start_mm - gap - depth$x)
}

place_key_texts <- function(key, font) {
  lapply(Filter(function(item) !is.null(item$laid), key$items), function(item) {
    after_glyph <- if (item$entry == 0) 0 else item$glyph_mm
    place_text(if (item$entry == 0) "key title" else "key", item$laid, key$x_mm + item$x_mm + after_glyph,
               key$y_mm + item$y_mm + item$row_mm / 2, font, down = first_line_middle(item$laid, font))
  })
}

# Where in a text's box the middle of its first line stands, 0 to 1.
first_line_middle <- function(laid, font) {
  text_height_mm(1, laid$size_pt, font) / 2 / text_height_mm(laid$n_lines, laid$size_pt, font)
}

scene_keys <- function(keys, placed, house) {
  entries <- Filter(function(item) item$entry != 0, placed$items)
  do.call(rbind, lapply(entries, function(item) {
    key <- keys[[item$key]]
    if (isTRUE(key$ramp)) ramp_rows(key, item, placed, house) else level_row(key, item, placed, house)
  }))
}

key_row <- function(key, label, glyph, colour, shape, dash, size_mm, x, y, w, h) {
  data.frame(key = key, label = label, glyph = glyph, colour = colour, shape = shape, dash = dash, size_mm = size_mm, x = x, y = y, w = w, h = h)
}

level_row <- function(key, item, placed, house) {
  i <- item$entry
  swatch <- house$space_mm$swatch
  wide <- if (identical(key$glyph, "swatch")) swatch else item$wide_mm
  x <- placed$x_mm + item$x_mm
  y <- placed$y_mm + item$y_mm + (item$row_mm - swatch) / 2
  key_row(key$id, plain_text(key$labels[i]), paste(key$glyph, collapse = "+"), key$colour[i], key$shape[i], key$dash[i], key$size_mm[i], x, y, wide, swatch)
}

ramp_steps <- 64

# The bar of a ramp as narrow rectangles, or one for each step where there are few.
ramp_rows <- function(key, item, placed, house) {
  if (item$entry > 0) return(NULL)
  colours <- key$colours %||% ramp_colours(seq(0, 1, length.out = ramp_steps), c(0, 1), isTRUE(key$diverging), house$ramps)
  n <- length(colours)
  wide <- item$wide_mm / n
  key_row(key$id, NA_character_, "swatch", colours, "disc", "solid", 0, placed$x_mm + item$x_mm + (seq_len(n) - 1) * wide,
          placed$y_mm + item$y_mm + (item$row_mm - house$space_mm$swatch) / 2, wide * 1.02, house$space_mm$swatch)
}
