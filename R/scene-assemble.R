# A laid-out plate as plain tables.

assemble_scene <- function(laid, keys, plate, font) {
  house <- plate$house
  block <- laid$block
  panels <- scene_panels(block, laid$frame)
  axes <- scene_axes(block, laid$fits)
  marks <- place_marks(block, axes, panels, house)
  late <- late_keys(keys, marks)
  laid$frame$key <- place_key(late, laid$frame$x$start_mm[1], plate, font)
  texts <- gather_texts(c(
    place_words(marks, panels, house, font),
    place_key_texts(laid$frame, font),
    place_headings(panels, laid$frame$headings, house, font),
    place_spans(laid, panels, house, font),
    place_sides(laid, panels, house, font),
    place_empty(block, panels, house, font),
    place_tick_texts(panels, axes, laid$fits, house, font),
    place_titles(panels, laid, plate, font)
  ), house$colour$text)
  structure(list(
    page = list(width_mm = plate$width_mm, height_mm = plate$height_mm),
    font = font,
    panels = panels,
    axes = axes,
    marks = lapply(Filter(function(layer) layer$primitive != "words", marks), function(layer) layer[intersect(names(layer), c("block", "ink", "primitive", "table", "pixels"))]),
    rules = scene_rules(panels, axes, laid, house),
    texts = texts$texts,
    runs = texts$runs,
    keys = scene_keys(late, laid$frame, house),
    facts = scene_facts(block, panels),
    columns = block_notes(block$design),
    groups = group_counts(block, panels),
    fits = scene_fits(block, panels),
    layout = list(rounds = laid$rounds)
  ), class = "nelvat_scene")
}

scene_panels <- function(block, frame) {
  panels <- block$cells$panels
  data.frame(
    id = panels$panel, block = block$id, row = panels$row, column = panels$column,
    x = frame$x$start_mm[panels$column], y = frame$y$start_mm[panels$row],
    w = frame$x$length_mm[panels$column], h = frame$y$length_mm[panels$row],
    x_axis = block$axes$x, y_axis = block$axes$y, heading = plain_heading(panels$heading)
  )
}

scene_axes <- function(block, fits) {
  Map(function(axis, fit, id) {
    list(
      id = id, direction = axis$direction, variable = axis$variable, title = plain_text(axis$title), transform = axis$transform,
      range = fit$range, slot_levels = axis$slot_levels, hidden = axis$hidden, breaks = fit$breaks, unit = fit$unit, minor = fit$minor, kept = fit$kept,
      text = vapply(fit$laid, laid_string, ""),
      treatment = tick_treatments[fit$treatment], angle = fit$angle, size_pt = fit$size_pt,
      panels = axis$panels, drawn_at = axis$drawn_at
    )
  }, block$axes$list, fits, seq_along(fits))
}

# Keys of what is known only once marks are placed, such as counts of hexagons that
# are regular on paper, take their numbers from the marks.
late_keys <- function(keys, marks) {
  lapply(keys, function(key) {
    if (is.null(key$late)) return(key)
    found <- Filter(function(layer) identical(layer$key, key$id), marks)
    if (length(found)) key[c("range", "at", "share", "text", "colours")] <- found[[1]]$steps[c("range", "at", "share", "text", "colours")]
    key
  })
}

# Text in panels: at unit-panel positions, with an anchor within its own box.
place_words <- function(marks, panels, house, font) {
  words <- Filter(function(layer) layer$primitive == "words", marks)
  words <- lapply(words, function(layer) if (isTRUE(layer$corner)) in_corners(layer, marks, panels, house, font) else layer)
  unlist(lapply(words, function(layer) {
    table <- layer$table
    lapply(seq_len(nrow(table)), function(i) {
      panel <- panels[panels$id == table$panel[i], ]
      laid <- set_text(table$string[i], table$size_pt[i], font, if (is.null(table$most_mm)) panel$w else table$most_mm[i], 6L)
      place_text(layer$role %||% "note", laid, panel$x + table$x[i] * panel$w + (table$dx_mm %||% rep(0, nrow(table)))[i],
                 panel$y + (1 - table$y[i]) * panel$h - (table$dy_mm %||% rep(0, nrow(table)))[i], font,
                 across = table$across[i], down = table$down[i], panel = panel$id, colour = table$colour[i])
    })
  }), recursive = FALSE)
}

# Texts ---------------------------------------------------------------------------

place_key_texts <- function(frame, font) {
  lapply(Filter(function(item) !is.null(item$laid), frame$key$items), function(item) {
    after_glyph <- if (item$entry == 0) 0 else item$glyph_mm
    place_text(if (item$entry == 0) "key title" else "key", item$laid, frame$x$start_mm[1] + item$x_mm + after_glyph,
               frame$key$y_mm + item$y_mm + item$row_mm / 2, font, down = first_line_middle(item$laid, font))
  })
}

# Where in a text's box the middle of its first line stands, 0 to 1.
first_line_middle <- function(laid, font) {
  text_height_mm(1, laid$size_pt, font) / 2 / text_height_mm(laid$n_lines, laid$size_pt, font)
}

place_headings <- function(panels, headings, house, font) {
  lapply(seq_len(nrow(panels)), function(i) {
    if (is.null(headings[[i]])) return(NULL)
    place_text("heading", headings[[i]], panels$x[i], heading_rule_y(panels$y[i], house) - house$space_mm$heading_gap, font,
               down = 1, panel = panels$id[i])
  })
}

# Headings of outer tiers: flush left over a rule across their columns, above the inner ones.
place_spans <- function(laid, panels, house, font) {
  spans <- laid$block$cells$spans
  if (is.null(spans)) return(NULL)
  lapply(seq_len(nrow(spans)), function(i) {
    place_text("heading", laid$frame$spans[[i]], panels_left(panels, spans$from[i]), span_rule_y(laid, panels, spans$tier[i]) - house$space_mm$heading_gap, font, down = 1)
  })
}

panels_left <- function(panels, column) min(panels$x[panels$column == column])
panels_right <- function(panels, column) max((panels$x + panels$w)[panels$column == column])

# The rule of a tier stands above everything of the tiers within it.
span_rule_y <- function(laid, panels, tier) {
  top <- min(panels$y[panels$row == 1]) - laid$frame$decor_top_mm
  top + sum(laid$frame$span_mm[seq_len(tier)]) - span_gap_mm
}

span_gap_mm <- 1.2

# Headings of rows, right of the last column: level where there is room, else turned.
place_sides <- function(laid, panels, house, font) {
  sides <- laid$block$cells$sides
  if (is.null(sides)) return(NULL)
  side <- laid$frame$sides
  lapply(seq_len(nrow(sides)), function(i) {
    row <- panels[panels$row == sides$row[i], ]
    x <- max(panels$x + panels$w) + laid$frame$right_mm + side_gap_mm
    middle <- row$y[1] + row$h[1] / 2
    if (side$angle == 0) place_text("row heading", side$laid[[i]], x, middle, font, down = 0.5)
    else place_text("row heading", side$laid[[i]], x, middle, font, across = 0.5, angle = 90)
  })
}

side_gap_mm <- 1.6

# Panels without rows say so where asked.
place_empty <- function(block, panels, house, font) {
  if (!identical(block$design$empty, "say")) return(NULL)
  lapply(which(block$cells$panels$n == 0), function(i) {
    panel <- panels[i, ]
    laid <- set_text("no data", house$type_pt$least, font, panel$w, 2L)
    place_text("note", laid, panel$x + panel$w / 2, panel$y + panel$h / 2, font, across = 0.5, down = 0.5, panel = panel$id)
  })
}

heading_rule_y <- function(panel_y, house) panel_y - house$space_mm$heading_above_panel

place_tick_texts <- function(panels, axes, fits, house, font) {
  beyond <- house$space_mm$tick + house$space_mm$tick_gap
  unlist(Map(function(axis, fit) {
    unlist(lapply(axis$drawn_at, function(id) {
      panel <- panels[panels$id == id, ]
      place <- if (axis$direction == "x") place_tick_below else place_tick_beside
      Map(function(laid, unit) place(laid, unit, panel, beyond, fit, font), fit$laid, fit$unit[fit$kept])
    }), recursive = FALSE)
  }, axes, fits), recursive = FALSE)
}

place_tick_below <- function(laid, unit, panel, beyond, fit, font) {
  x <- panel$x + unit * panel$w
  y <- panel$y + panel$h + beyond
  if (fit$angle == 0) return(place_text("tick", laid, x, y, font, across = 0.5, panel = panel$id))
  half_mm <- text_height_mm(1, laid$size_pt, font) / 2
  place_text("tick", laid, x, y + half_mm * cos(fit$angle * pi / 180), font, across = 1, down = 0.5, angle = fit$angle, panel = panel$id)
}

place_tick_beside <- function(laid, unit, panel, beyond, fit, font) {
  place_text("tick", laid, panel$x - beyond, panel$y + (1 - unit) * panel$h, font, across = 1, down = 0.5, panel = panel$id)
}

place_titles <- function(panels, laid, plate, font) {
  titles <- laid$frame$titles
  margin <- plate$house$space_mm$margin
  middle <- function(start, length) (min(start) + max(start + length)) / 2
  c(
    if (!is.null(titles$x_block)) {
      list(place_text("axis title", titles$x_block, middle(panels$x, panels$w), plate$height_mm - margin, font, across = 0.5, down = 1))
    },
    if (!is.null(titles$y_block)) {
      list(place_text("axis title", titles$y_block, margin, middle(panels$y, panels$h), font, across = 0.5, angle = 90))
    },
    lapply(seq_along(titles$y_each), function(i) {
      if (is.null(titles$y_each[[i]])) return(NULL)
      panel <- panels[i, ]
      place_text("axis title", titles$y_each[[i]], margin, panel$y + panel$h / 2, font, across = 0.5, angle = 90, panel = panel$id)
    })
  )
}

minor_tick_share <- 0.55 # of a tick's length

# Rules ---------------------------------------------------------------------------

scene_rules <- function(panels, axes, laid, house) {
  rule <- function(role, panel, x0, y0, x1, y1) {
    new_table(role = role, panel = panel, x0 = x0, y0 = y0, x1 = x1, y1 = y1, .rows = if (length(x0) && length(y0)) max(length(x0), length(y0)) else 0L)
  }
  right <- panels$x + panels$w
  bottom <- panels$y + panels$h
  tick <- house$space_mm$tick
  ticks <- unlist(lapply(seq_len(nrow(panels)), function(i) {
    at_x <- panels$x[i] + axes[[panels$x_axis[i]]]$unit * panels$w[i]
    at_y <- bottom[i] - axes[[panels$y_axis[i]]]$unit * panels$h[i]
    minor_x <- panels$x[i] + axes[[panels$x_axis[i]]]$minor * panels$w[i]
    minor_y <- bottom[i] - axes[[panels$y_axis[i]]]$minor * panels$h[i]
    list(
      rule("tick", panels$id[i], at_x, bottom[i], at_x, bottom[i] + tick),
      rule("tick", panels$id[i], panels$x[i] - tick, at_y, panels$x[i], at_y),
      rule("minor tick", panels$id[i], minor_x, bottom[i], minor_x, bottom[i] + tick * minor_tick_share),
      rule("minor tick", panels$id[i], panels$x[i] - tick * minor_tick_share, minor_y, panels$x[i], minor_y)
    )
  }), recursive = FALSE)
  headed <- which(!is.na(panels$heading))
  heading_y <- heading_rule_y(panels$y, house)
  shown <- function(index) !vapply(axes[index], `[[`, NA, "hidden")
  x_shown <- which(shown(panels$x_axis))
  y_shown <- which(shown(panels$y_axis))
  rules <- stack_tables(c(list(
    rule("axis", panels$id[x_shown], panels$x[x_shown], bottom[x_shown], right[x_shown], bottom[x_shown]),
    rule("axis", panels$id[y_shown], panels$x[y_shown], panels$y[y_shown], panels$x[y_shown], bottom[y_shown])
  ), ticks, list(
    rule("heading rule", panels$id[headed], panels$x[headed], heading_y[headed], right[headed], heading_y[headed])
  )))
  if (is.null(rules)) return(rule("axis", integer(), numeric(), numeric(), numeric(), numeric()))
  spans <- laid$block$cells$spans
  if (!is.null(spans)) {
    y <- vapply(spans$tier, function(tier) span_rule_y(laid, panels, tier), 0)
    left <- vapply(spans$from, panels_left, 0, panels = panels)
    rules <- stack_tables(list(rules, rule("heading rule", NA_integer_, left, y, vapply(spans$to, panels_right, 0, panels = panels), y)))
  }
  is_heading <- rules$role == "heading rule"
  rules$weight_pt <- ifelse(is_heading, house$weight_pt$heading_rule, house$weight_pt$axis)
  rules$colour <- ifelse(is_heading, house$colour$heading_rule, house$colour$axis)
  rules
}

# Keys ----------------------------------------------------------------------------

scene_keys <- function(keys, frame, house) {
  entries <- Filter(function(item) item$entry != 0, frame$key$items)
  do.call(rbind, lapply(entries, function(item) {
    key <- keys[[item$key]]
    if (isTRUE(key$ramp)) ramp_rows(key, item, frame, house) else level_row(key, item, frame, house)
  }))
}

key_row <- function(key, label, glyph, colour, shape, dash, size_mm, x, y, w, h) {
  data.frame(key = key, label = label, glyph = glyph, colour = colour, shape = shape, dash = dash, size_mm = size_mm, x = x, y = y, w = w, h = h)
}

level_row <- function(key, item, frame, house) {
  i <- item$entry
  swatch <- house$space_mm$swatch
  wide <- if (identical(key$glyph, "swatch")) swatch else item$wide_mm
  x <- frame$x$start_mm[1] + item$x_mm
  y <- frame$key$y_mm + item$y_mm + (item$row_mm - swatch) / 2
  key_row(key$id, plain_text(key$labels[i]), paste(key$glyph, collapse = "+"), key$colour[i], key$shape[i], key$dash[i], key$size_mm[i], x, y, wide, swatch)
}

ramp_steps <- 64

# The bar of a ramp as narrow rectangles, or one for each step where there are few.
ramp_rows <- function(key, item, frame, house) {
  if (item$entry > 0) return(NULL)
  colours <- key$colours %||% ramp_colours(seq(0, 1, length.out = ramp_steps), c(0, 1), isTRUE(key$diverging))
  n <- length(colours)
  wide <- item$wide_mm / n
  key_row(key$id, NA_character_, "swatch", colours, "disc", "solid", 0, frame$x$start_mm[1] + item$x_mm + (seq_len(n) - 1) * wide,
          frame$key$y_mm + item$y_mm + (item$row_mm - house$space_mm$swatch) / 2, wide * 1.02, house$space_mm$swatch)
}

# Facts ---------------------------------------------------------------------------

# Rows with x and y of each level that colour parts, by panel; NULL without colour levels.
group_counts <- function(block, panels) {
  layer <- Find(function(layer) !isTRUE(layer$behind), block$layers)
  levels <- layer$colour$kind$levels
  if (is.null(levels) || is.null(layer$table$colour)) return(NULL)
  given <- Filter(function(direction) !isTRUE(layer[[direction]]$supplied), c("x", "y"))
  held <- complete_rows(layer$table, c(given, "colour")) & rep(TRUE, nrow(layer$table))
  n <- table(factor(layer$table$panel[held], panels$id), factor(layer$table$colour[held], seq_along(levels)))
  data.frame(panel = rep(panels$id, length(levels)), heading = rep(plain_heading(panels$heading), length(levels)),
             level = rep(plain_text(layer$colour$kind$level_names), each = nrow(panels)), n = as.integer(n))
}

scene_facts <- function(block, panels) {
  facts <- Map(function(trained, layer, number) {
    of <- trained$facts
    if (is.null(of) || isTRUE(layer$behind)) return(NULL)
    data.frame(block = block$id, panel = of$panel, heading = panels$heading[match(of$panel, panels$id)], layer = number,
               ink = layer$ink$ink, n = of$n, dropped = of$dropped,
               why = ifelse(of$dropped > 0, "missing values", NA_character_), shows = of$shows)
  }, block$trained, block$layers, seq_along(block$layers))
  do.call(rbind, facts)
}
