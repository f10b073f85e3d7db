# A laid-out plate as plain tables.

assemble_scene <- function(laid, keys, plate, font) {
  house <- plate$house
  of_blocks <- Map(function(block, frame, fits, parts) assemble_block(list(block = block, frame = frame, fits = fits, parts = parts), house, font),
                   laid$blocks, laid$frames, laid$fits, laid$parts)
  of_blocks <- numbered(of_blocks)
  every <- function(name) unlist(lapply(of_blocks, `[[`, name), recursive = FALSE)
  marks <- every("marks")
  late <- late_keys(keys, marks)
  key <- place_keys(late, laid$blocks, laid, plate, font)
  texts <- gather_texts(c(every("texts"), place_key_texts(key, font)), house$colour$text)
  structure(list(
    page = list(width_mm = plate$width_mm, height_mm = plate$height_mm),
    font = font,
    panels = stack_tables(lapply(of_blocks, `[[`, "panels")),
    axes = every("axes"),
    marks = lapply(Filter(function(layer) layer$primitive != "words", marks), function(layer) layer[intersect(names(layer), c("block", "ink", "primitive", "table", "pixels"))]),
    rules = stack_tables(lapply(of_blocks, `[[`, "rules")) %||% of_blocks[[1]]$rules,
    texts = texts$texts,
    runs = texts$runs,
    keys = scene_keys(late, key, house),
    facts = do.call(rbind, lapply(of_blocks, `[[`, "facts")),
    columns = unique(do.call(rbind, lapply(laid$blocks, function(block) block_notes(block$design)))),
    groups = do.call(rbind, lapply(of_blocks, `[[`, "groups")),
    fits = do.call(rbind, lapply(of_blocks, `[[`, "fits")),
    layout = list(rounds = laid$rounds)
  ), class = "nelvat_scene")
}

# One block's part of the scene, its panels and axes numbered from 1. own: list(block,
# frame, fits, parts).
assemble_block <- function(own, house, font) {
  block <- own$block
  panels <- scene_panels(block, own$frame, house)
  axes <- scene_axes(block, own$fits)
  marks <- place_marks(block, axes, panels, house)
  list(
    panels = panels, axes = axes, marks = marks,
    texts = c(
      place_words(marks, panels, house, font),
      place_headings(panels, own, house, font),
      place_spans(own, house, font),
      place_sides(own, panels, font),
      place_empty(block, panels, house, font),
      place_tick_texts(panels, axes, own$fits, house, font),
      place_titles(panels, own, house, font)
    ),
    rules = scene_rules(panels, axes, own, house), facts = scene_facts(block, panels), groups = group_counts(block, panels), fits = scene_fits(block, panels)
  )
}

# Panels and axes of all blocks numbered in one sequence.
numbered <- function(of_blocks) {
  if (length(of_blocks) == 1) return(of_blocks)
  before <- function(n) c(0L, cumsum(n)[-length(n)])
  panels <- before(vapply(of_blocks, function(own) max(own$panels$id), 0L))
  axes <- before(vapply(of_blocks, function(own) length(own$axes), 0L))
  Map(renumbered, of_blocks, panels, axes)
}

renumbered <- function(own, by_panels, by_axes) {
  shift <- function(table, columns, by) {
    for (column in intersect(columns, names(table))) table[[column]] <- table[[column]] + by
    table
  }
  own$panels <- shift(shift(own$panels, "id", by_panels), c("x_axis", "y_axis", "x_shown", "y_shown"), by_axes)
  own$axes <- lapply(own$axes, function(axis) {
    axis$id <- axis$id + by_axes
    axis$panels <- axis$panels + by_panels
    axis$drawn_at <- axis$drawn_at + by_panels
    axis
  })
  own$marks <- lapply(own$marks, function(layer) {
    layer$table <- shift(layer$table, "panel", by_panels)
    layer
  })
  own$texts <- lapply(own$texts, function(one) {
    if (!is.null(one)) one$text <- shift(one$text, "panel", by_panels)
    one
  })
  for (table in c("rules", "facts", "groups", "fits")) if (!is.null(own[[table]])) own[[table]] <- shift(own[[table]], "panel", by_panels)
  own
}

scene_panels <- function(block, frame, house) {
  panels <- block$cells$panels
  areas <- new_table(
    id = panels$panel, block = block$id, role = "panel", row = panels$row, column = panels$column,
    x = frame$x$start_mm[panels$column], y = frame$y$start_mm[panels$row],
    w = frame$x$length_mm[panels$column], h = frame$y$length_mm[panels$row],
    x_axis = block$axes$x, y_axis = block$axes$y, x_shown = block$axes$x_shown, y_shown = block$axes$y_shown, heading = plain_heading(panels$heading),
    x_variable = variable_ids(block$design, panels, "x"), y_variable = variable_ids(block$design, panels, "y"), .rows = nrow(panels)
  )
  as.data.frame(stack_tables(list(areas, strip_panels(block, areas, frame, house))))
}

variable_ids <- function(design, panels, direction) vapply(panel_variables(design, panels, direction), `[[`, "", "id")

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
