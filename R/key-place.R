# Where the plate's keys stand: at the top, flush with the first plot area; or inside the
# one block that has free room for them, such as the empty half of a matrix or the corner
# between two marginals.

# The block that may hold the keys, 0 for none.
key_home <- function(blocks, keys, plate) {
  if (
    !is.null(plate$key) || !is.null(
      plate$grid$key
    ) || !length(keys) || length(blocks) != 1 || !has_free_room(blocks[[1]])
  ) 0L else 1L
}

has_free_room <- function(block) !is.null(block$parts$free_half) || has_corner(block)

# A single panel with marginals on both sides has a corner between them.
has_corner <- function(block) nrow(block$panels) == 1 && all(c("x", "y") %in% block$areas$side)

# edges: the room of the plate's title and note. Returns list(items, x_mm, y_mm, inside) and what
# the plate's edges give up for keys,
# title and note: top_mm, bottom_mm, left_mm, right_mm. of_blocks: what is drawn in each block, for
# a key in the emptiest corner.
place_keys <- function(keys, edges, blocks, state, plate, font, of_blocks = NULL) {
  none <- list(
    items = list(),
    top_mm = edges$top_mm,
    bottom_mm = edges$bottom_mm,
    left_mm = 0,
    right_mm = 0,
    inside = 0L,
    x_mm = 0,
    y_mm = 0,
    edges = edges
  )
  if (!length(keys)) return(none)
  space <- plate$house$space_mm
  where <- key_place_of(plate)
  if (where %in% c("direct", "block")) where <- "top"
  stack <- function() {
    at_side <- where %in% c("left", "right")
    most_mm <- if (at_side) side_key_share * plate$width_mm else most_key_line_mm
    stack_keys(keys, plate$house, font, min(most_key_line_mm, most_mm))
  }
  if (where == "cell") return(key_in_cell(keys, none, state, plate, font))
  if (where == "inside") {
    set <- stack()
    found <- emptiest_spot(blocks, state$frames, set, of_blocks)
    return(
      changed(
        none,
        items = set$items,
        x_mm = found$x_mm,
        y_mm = found$y_mm,
        panel = found$panel,
        frame = found$frame
      )
    )
  }
  if (where == "left") {
    set <- stack()
    return(
      changed(
        none,
        items = set$items,
        left_mm = set$width_mm + space$entry_gap,
        x_mm = space$margin,
        y_mm = state$frames[[1]]$y$start_mm[1]
      )
    )
  }
  if (where == "right") {
    set <- stack()
    return(
      changed(
        none,
        items = set$items,
        right_mm = set$width_mm + space$entry_gap,
        x_mm = plate$width_mm - space$margin - set$width_mm,
        y_mm = state$frames[[1]]$y$start_mm[1]
      )
    )
  }
  if (where == "top" && state$key_inside > 0) {
    set <- stack()
    corner <- free_spot(
      blocks[[state$key_inside]],
      state$frames[[state$key_inside]],
      set,
      plate$house
    )
    if (!is.null(corner)) {
      return(
        changed(
          none,
          items = set$items,
          inside = state$key_inside,
          x_mm = corner$x_mm,
          y_mm = corner$y_mm
        )
      )
    }
  }
  start_mm <- min(vapply(state$frames, function(frame) frame$x$start_mm[1], 0))
  set <- set_keys(keys, plate$width_mm - start_mm - space$margin, plate$house, font)
  room <- set$height_mm + space$key_gap
  if (where == "bottom") {
    return(
      changed(
        none,
        items = set$items,
        x_mm = start_mm,
        y_mm = plate$height_mm - space$margin - edges$bottom_mm - set$height_mm,
        bottom_mm = edges$bottom_mm + room
      )
    )
  }
  changed(
    none,
    items = set$items,
    x_mm = start_mm,
    y_mm = space$margin + edges$top_mm,
    top_mm = edges$top_mm + room
  )
}

key_place_of <- function(plate) if (!is.null(plate$grid$key)) "cell" else plate$key %||% "top"

# The keys in a place of the plate's own.
key_in_cell <- function(keys, none, state, plate, font) {
  columns <- state$columns %||% grid_tracks(
    plate$grid$columns,
    0,
    plate$width_mm,
    0,
    0,
    plate$house$space_mm$column_gap
  )
  rows <- state$rows %||% grid_tracks(
    plate$grid$rows,
    0,
    plate$height_mm,
    0,
    0,
    plate$house$space_mm$row_gap
  )
  region <- region_of(plate$grid$key, columns, rows)
  set <- stack_keys(keys, plate$house, font)
  if (set$width_mm > region$w || set$height_mm > region$h) {
    set <- set_keys(keys, region$w, plate$house, font)
  }
  changed(none, items = set$items, x_mm = region$x, y_mm = region$y)
}

# The place in a panel that has least ink under the keys.
emptiest_spot <- function(blocks, frames, set, of_blocks) {
  best <- list(covered = Inf)
  for (i in seq_along(blocks)) {
    panels <- blocks[[i]]$panels
    for (k in seq_len(nrow(panels))) {
      area <- list(
        id = panels$id[k],
        x = frames[[i]]$x$start_mm[panels$column[k]],
        w = frames[[i]]$x$length_mm[panels$column[k]],
        y = frames[[i]]$y$start_mm[panels$row[k]],
        h = frames[[i]]$y$length_mm[panels$row[k]]
      )
      found <- spot_in_panel(
        set,
        area,
        of_blocks[[i]]$marks,
        of_blocks[[i]]$texts,
        anywhere = TRUE
      )
      if (!is.null(found) && found$covered < best$covered) best <- found
    }
  }
  if (best$covered < text_weight) return(best)
  abort_nelvat(
    "space",
    along = "width",
    message = c(
      "No panel has room for the keys inside.",
      x = paste0(
        "They take ",
        format(round(set$width_mm, 1)),
        " mm by ",
        format(round(set$height_mm, 1)),
        " mm."
      ),
      i = "Place them with `key = \"top\"` or another edge."
    ),
    call = NULL
  )
}

# Where keys stand in a panel (id, x, y, w, h in mm), away from marks and the texts that stand
# already: list(x_mm, y_mm, covered, panel, frame), or NULL where it is too small for them.
spot_in_panel <- function(set, panel, marks, texts, anywhere = FALSE) {
  wide <- set$width_mm + 2 * key_frame_mm
  high <- set$height_mm + 2 * key_frame_mm
  free_x <- panel$w - wide - 2 * corner_inset_mm
  free_y <- panel$h - high - 2 * corner_inset_mm
  if (min(free_x, free_y) < 0) return(NULL)
  covered <- list(ink_points_of(marks, panel$id), covered_places(marks, panel$id))
  rims <- rims_of(marks, panel)
  ink <- list(
    x = c(unlist(lapply(covered, `[[`, "x")), rims$x),
    y = c(unlist(lapply(covered, `[[`, "y")), rims$y)
  )
  ink <- with_texts(ink, lapply(texts, `[[`, "text"), panel)
  corner <- emptiest_corner(wide, high, panel, ink, anywhere)
  x0 <- panel$x + corner_inset_mm + corner$x * free_x
  y0 <- panel$y + corner_inset_mm + (1 - corner$y) * free_y
  list(
    x_mm = x0 + key_frame_mm,
    y_mm = y0 + key_frame_mm,
    covered = corner$covered,
    panel = panel$id,
    frame = c(x0 = x0, x1 = x0 + wide, y0 = y0, y1 = y0 + high)
  )
}

key_frame_mm <- 0.8 # between keys and the frame that tells their symbols from a panel's marks

# The frame of keys that stand in a panel, as rules.
key_frame <- function(placed, house) {
  frame <- placed$frame
  if (is.null(frame)) return(NULL)
  new_table(
    role = "key frame",
    panel = placed$panel,
    x0 = frame[c("x0", "x0", "x0", "x1")],
    y0 = frame[c("y0", "y1", "y0", "y0")],
    x1 = frame[c("x1", "x1", "x0", "x1")],
    y1 = frame[c("y0", "y1", "y1", "y1")],
    weight_pt = house$weight_pt$heading_rule,
    colour = house$colour$heading_rule,
    .rows = 4L
  )
}

# The outer edges of a panel's symbols, as ink_points_of() gives their middles.
rims_of <- function(marks, panel) {
  turn <- seq(0, 2 * pi, length.out = 9)[-9]
  each <- lapply(Filter(function(layer) layer$primitive == "points", marks), function(layer) {
    table <- table_rows(layer$table, which(layer$table$panel == panel$id))
    list(
      x = as.vector(outer(cos(turn) / panel$w, table$size_mm / 2)) + rep(table$x, each = 8),
      y = as.vector(outer(sin(turn) / panel$h, table$size_mm / 2)) + rep(table$y, each = 8)
    )
  })
  list(x = unlist(lapply(each, `[[`, "x")), y = unlist(lapply(each, `[[`, "y")))
}

# Where in a block's free room the keys fit: list(x_mm, y_mm), or NULL.
free_spot <- function(block, frame, set, house) {
  if (has_corner(block)) corner_spot(block, frame, set, house) else half_spot(block, frame, set)
}

# The top right of the free half of a matrix, or its bottom left.
half_spot <- function(block, frame, set) {
  n <- block$parts$n_variables
  upper <- block$parts$free_half == "upper"
  for (k in seq_len(n - 1)) {
    rows <- if (upper) seq_len(k) else (k + 1):n
    columns <- if (upper) (k + 1):n else seq_len(k)
    high <- track_span(frame$y, rows)
    wide <- track_span(frame$x, columns)
    if (!isTRUE(high >= set$height_mm && wide >= set$width_mm)) next
    # Flush with the last column from which the width is enough.
    fitting <- Filter(
      function(column) track_span(frame$x, column:max(columns)) >= set$width_mm,
      columns
    )
    return(
      list(
        x_mm = frame$x$start_mm[if (upper) max(fitting) else 1],
        y_mm = if (upper) frame$y$start_mm[1] else frame$y$start_mm[k + 1]
      )
    )
  }
  NULL
}

# Between the two marginals of a panel.
corner_spot <- function(block, frame, set, house) {
  high <- margins_mm(block, "x", frame)
  wide <- margins_mm(block, "y", frame)
  gap <- block$design$marginals$gap
  if (high - gap < set$height_mm || wide - gap < set$width_mm) return(NULL)
  list(
    x_mm = frame$x$start_mm + frame$x$length_mm + gap + 0.5,
    y_mm = frame$y$start_mm - high
  )
}

place_key_texts <- function(key, font) {
  lapply(Filter(function(item) !is.null(item$laid), key$items), function(item) {
    after_glyph <- if (item$entry == 0) 0 else item$glyph_mm
    place_text(
      if (item$entry == 0) "key title" else "key",
      item$laid,
      key$x_mm + item$x_mm + after_glyph,
      key$y_mm + item$y_mm + item$row_mm / 2,
      font,
      down = first_line_middle(item$laid, font),
      panel = key$panel %||% NA_integer_
    )
  })
}

# Where in a text's box the middle of its first line stands, 0 to 1.
first_line_middle <- function(laid, font) {
  text_height_mm(1, laid$size_pt, font) / 2 / text_height_mm(laid$n_lines, laid$size_pt, font)
}
