# A laid-out plate as plain tables.

assemble_scene <- function(laid, keys, plate, font) {
  style <- plate$house
  own <- Map(
    function(block, frame, fits, parts) list(
      block = block, frame = frame, fits = fits, parts = parts, letters = block$letters
    ),
    laid$blocks, laid$frames, laid$fits, laid$parts
  )
  of_blocks <- lapply(own, assemble_block, style, font)
  regions <- zoom_regions(laid, of_blocks)
  leaders <- leader_rules(regions, of_blocks, style)
  of_blocks <- mark_regions(of_blocks, regions, style, font)
  marks_by_block <- lapply(of_blocks, `[[`, "marks")
  of_blocks <- numbered(of_blocks)
  every <- function(name) unlist(lapply(of_blocks, `[[`, name), recursive = FALSE)
  marks <- every("marks")
  late <- late_keys(keys, marks)
  key <- place_keys(late, page_edges(plate, font), laid$blocks, laid, plate, font, marks_by_block)
  own_keys <- own_block_keys(own, marks, style, font)
  texts <- gather_texts(
    c(every("texts"), place_key_texts(key, font), own_keys$texts, place_edges(key$edges, plate, font)),
    style$colour$text
  )
  scene <- structure(list(
    page = list(width_mm = plate$width_mm, height_mm = plate$height_mm),
    font = font, title = if (!is.null(plate$title)) plain_text(plate$title),
    panels = stack_tables(lapply(of_blocks, `[[`, "panels")),
    axes = every("axes"),
    marks = lapply(
      Filter(function(layer) layer$primitive != "words", marks),
      function(layer) {
        layer[intersect(names(layer), c("block", "ink", "summarises", "on_zero", "primitive", "table", "pixels"))]
      }
    ),
    grounds = stack_tables(lapply(of_blocks, `[[`, "grounds")),
    rules = stack_tables(c(lapply(of_blocks, `[[`, "rules"), list(leaders))) %||% of_blocks[[1]]$rules,
    texts = texts$texts,
    runs = texts$runs,
    keys = rbind(scene_keys(late, key, style), own_keys$keys),
    facts = do.call(rbind, lapply(of_blocks, `[[`, "facts")),
    columns = unique(
      do.call(
        rbind,
        c(
          lapply(laid$blocks, function(block) if (is.null(block$design$zoom)) block_notes(block$design)),
          lapply(laid$blocks, trained_notes), list(unplaced_labels(marks))
        )
      )
    ),
    notes = unlist(lapply(laid$blocks, `[[`, "scale_note")),
    groups = do.call(rbind, lapply(of_blocks, `[[`, "groups")),
    fits = do.call(rbind, lapply(of_blocks, `[[`, "fits")),
    layout = list(rounds = laid$rounds)
  ), class = "nelvat_scene")
  pictures <- Filter(Negate(is.null), lapply(of_blocks, `[[`, "picture"))
  if (length(pictures)) attr(scene, "pictures") <- pictures
  scene
}

# What inks left out of what they were given, told where a reader looks.
trained_notes <- function(block) {
  drawn_here <- !vapply(block$layers, function(layer) isTRUE(layer$behind) || !is.null(layer$strip), NA)
  if (is.null(block$design$zoom)) do.call(rbind, lapply(block$trained[drawn_here], `[[`, "notes"))
}

unplaced_labels <- function(marks) {
  n <- sum(unlist(lapply(marks, `[[`, "unplaced")))
  if (n > 0) data.frame(column = "labels", what = "labels that found no place", n = n)
}

# Keys that stay with their block, above it.
own_block_keys <- function(own, marks, house, font) {
  each <- lapply(own, function(one) {
    if (is.null(one$parts$key)) return(NULL)
    entries <- late_keys(one$block$keys, marks)
    frame <- one$frame
    placed <- list(
      items = set_keys(entries, track_span(frame$x, c(1, length(frame$x$start_mm))), house, font)$items,
      x_mm = frame$x$start_mm[1], y_mm = frame$y$start_mm[1] - frame$reach$top[1]
    )
    list(texts = place_key_texts(placed, font), keys = scene_keys(entries, placed, house))
  })
  list(
    texts = unlist(lapply(each, `[[`, "texts"), recursive = FALSE), keys = do.call(rbind, lapply(each, `[[`, "keys"))
  )
}

# One block's part of the scene, its panels and axes numbered from 1. own: list(block,
# frame, fits, parts).
assemble_block <- function(own, house, font) {
  block <- own$block
  panels <- scene_panels(block, own$frame, house)
  axes <- scene_axes(block, own$fits)
  marks <- thinned_marks(place_marks(block, axes, panels, house, font), panels)
  list(
    panels = panels, axes = axes, marks = marks,
    texts = c(
      place_words(marks, panels, house, font),
      place_headings(panels, own, house, font),
      place_spans(own, house, font),
      place_sides(own, panels, font),
      place_empty(block, panels, house, font),
      place_tick_texts(panels, axes, own$fits, house, font),
      place_titles(panels, own, house, font),
      place_letters(panels, own, house, font),
      place_direct(own, marks, panels, house, font)
    ),
    grounds = inset_ground(own), around = lapply(own$frame$reach[c("left", "right", "top", "bottom")], `[[`, 1),
    letters = own$letters,
    picture = if (!is.null(block$design$picture)) list(
      panel = panels$id[1], picture = block$design$picture, reach = block$design$reach
    ),
    rules = scene_rules(panels, axes, own, house), facts = scene_facts(block, panels),
    groups = group_counts(block, panels), fits = scene_fits(block, panels)
  )
}

check_text_fits <- function(laid, panel, font) {
  missing <- text_height_mm(laid$n_lines, laid$size_pt, font) - panel$h
  if (missing <= 0.01) return(invisible())
  abort_nelvat(
    "space", along = "height",
    message = c(
      "A text panel has too little room for its text.",
      x = paste0(format(round(missing, 1)), " mm of height are missing: it takes ", laid$n_lines, " lines."),
      i = "Give it more room, or cut the text."), call = NULL)
}

# The paper under an inset and its tick text.
inset_ground <- function(own) {
  zoom_part <- own$block$design$zoom
  if (is.null(zoom_part) || isFALSE(zoom_part$inset)) return(NULL)
  frame <- own$frame
  reach <- frame$reach
  new_table(
    panel = 1L, x0 = frame$x$start_mm[1] - reach$left[1],
    x1 = frame$x$start_mm[1] + frame$x$length_mm[1] + reach$right[1],
    y0 = frame$y$start_mm[1] - reach$top[1],
    y1 = frame$y$start_mm[1] + frame$y$length_mm[1] + reach$bottom[1], .rows = 1L)
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
  if (!is.null(own$picture)) own$picture$panel <- own$picture$panel + by_panels
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
  for (table in c("rules", "facts", "groups", "fits", "grounds")) {
    if (!is.null(own[[table]])) own[[table]] <- shift(own[[table]], "panel", by_panels)
  }
  own
}

scene_panels <- function(block, frame, house) {
  panels <- block$cells$panels
  areas <- new_table(
    id = panels$panel, block = block$id, role = "panel", row = panels$row, column = panels$column,
    x = frame$x$start_mm[panels$column], y = frame$y$start_mm[panels$row],
    w = frame$x$length_mm[panels$column], h = frame$y$length_mm[panels$row],
    x_axis = block$axes$x, y_axis = block$axes$y, x_shown = block$axes$x_shown, y_shown = block$axes$y_shown,
    heading = plain_heading(panels$heading),
    x_variable = variable_ids(block$design, panels, "x"), y_variable = variable_ids(block$design, panels, "y"),
    .rows = nrow(panels)
  )
  as.data.frame(stack_tables(list(areas, strip_panels(block, areas, frame, house))))
}

variable_ids <- function(design, panels, direction) vapply(panel_variables(design, panels, direction), `[[`, "", "id")

scene_axes <- function(block, fits) {
  Map(function(axis, fit, id) {
    list(
      id = id, direction = axis$direction, variable = axis$variable, title = plain_text(axis$title),
      transform = axis$transform,
      range = fit$range, slot_levels = axis$slot_levels, hidden = axis$hidden, breaks = fit$breaks, unit = fit$unit,
      minor = fit$minor, kept = fit$kept,
      text = vapply(fit$laid, laid_string, ""),
      treatment = tick_treatments[fit$treatment], angle = fit$angle, size_pt = fit$size_pt,
      panels = axis$panels, drawn_at = axis$drawn_at, grounded = axis$grounded, quantity = axis$quantity,
      zoomed = axis$zoomed, named = axis$named
    )
  }, block$axes$list, fits, seq_along(fits))
}

# Text in panels: at unit-panel positions, with an anchor within its own box.
place_words <- function(marks, panels, house, font) {
  words <- Filter(function(layer) layer$primitive == "words", marks)
  words <- lapply(
    words, function(layer) if (isTRUE(layer$corner)) in_corners(layer, marks, panels, house, font) else layer
  )
  unlist(lapply(words, function(layer) {
    # What stands beyond the panel, as in a zoom, is not written.
    table <- layer$table
    if (!is.null(table$x)) {
      table <- table_rows(table, table$x >= -1e-6 & table$x <= 1 + 1e-6 & table$y >= -1e-6 & table$y <= 1 + 1e-6)
    }
    lapply(seq_len(nrow(table)), function(i) {
      one_panel <- panels[panels$id == table$panel[i], ]
      string <- if (
        identical(layer$role, "value") || identical(layer$role, "equation")
      ) house_numbers(table$string[i], house$numbers) else table$string[i]
      laid <- set_text(
        string, table$size_pt[i], font, if (is.null(table$most_mm)) one_panel$w else table$most_mm[i],
        layer$most_lines %||% 6L
      )
      if (!is.null(layer$most_lines)) check_text_fits(laid, one_panel, font)
      place_text(
        layer$role %||% "note", laid,
        one_panel$x + table$x[i] * one_panel$w + (table$dx_mm %||% rep(0, nrow(table)))[i],
        one_panel$y + (1 - table$y[i]) * one_panel$h - (table$dy_mm %||% rep(0, nrow(table)))[i], font,
        across = table$across[i], down = table$down[i], panel = one_panel$id, colour = table$colour[i])
    })
  }), recursive = FALSE)
}
