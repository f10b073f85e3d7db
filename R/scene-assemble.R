# A laid-out plate as plain tables.

assemble_scene <- function(laid, keys, plate, font) {
  style <- plate$house
  of_blocks <- lapply(seq_along(laid$blocks), function(i) block_scene(laid, i, style, font))
  leaders <- leader_rules(zoom_regions(laid), of_blocks, style)
  drawn_in_blocks <- of_blocks
  of_blocks <- numbered_axes(of_blocks)
  every <- function(name) unlist(lapply(of_blocks, `[[`, name), recursive = FALSE)
  marks <- every("marks")
  if (any(vapply(keys, function(key) !is.null(key$late), NA))) {
    marks <- with_common_shades(marks, keys, style)
  }
  late <- late_keys(keys, marks)
  key <- place_keys(late, page_edges(plate, font), laid$blocks, laid, plate, font, drawn_in_blocks)
  own_keys <- own_block_keys(laid, marks, style, font)
  inside_keys <- lapply(of_blocks, `[[`, "inside")
  texts <- gather_texts(
    c(
      every("texts"),
      place_key_texts(key, font),
      own_keys$texts,
      place_edges(key$edges, plate, font)
    ),
    style$colour$text
  )
  say_lacking(texts$runs)
  say_unprintable(texts$texts$string)
  areas <- stack_tables(lapply(of_blocks, `[[`, "panels"))
  accounts <- stack_tables(lapply(of_blocks, `[[`, "accounts"))
  told <- plate_notes(laid$blocks, plate, marks)
  structure(
    list(
      page = list(width_mm = plate$width_mm, height_mm = plate$height_mm),
      font = font[c("family", "wanted", "ascent", "descent")],
      numbers = style$numbers,
      names = names_with_numbers(laid$blocks, plate$title),
      title = if (!is.null(plate$title)) plain_text(plate$title),
      panels = areas,
      axes = every("axes"),
      marks = lapply(Filter(function(layer) layer$primitive != "words", marks), function(layer) {
        layer[intersect(names(layer), mark_fields)]
      }),
      grounds = stack_tables(lapply(of_blocks, `[[`, "grounds")),
      rules = stack_tables(
        c(
          lapply(of_blocks, `[[`, "rules"),
          list(leaders),
          lapply(inside_keys, `[[`, "rules"),
          list(key_frame(key, style))
        )
      ) %||%
        of_blocks[[1]]$rules,
      texts = texts$texts,
      runs = texts$runs,
      keys = do.call(
        rbind,
        c(
          list(scene_keys(late, key, style), own_keys$keys),
          lapply(inside_keys, `[[`, "keys")
        )
      ),
      ramps = key_ramps(c(late, own_keys$entries)),
      splits = stack_tables(lapply(laid$blocks, block_splits)),
      shades = stack_tables(lapply(laid$blocks, block_shades)),
      kept = stack_tables(lapply(laid$blocks, block_kept)),
      nouns = stack_tables(lapply(laid$blocks, block_nouns)),
      seen = stack_tables(lapply(laid$blocks, block_seen)),
      about = stack_tables(lapply(laid$blocks, block_about)),
      letters = unlist(
        lapply(laid$blocks[block_order(laid$blocks, plate)], function(block) {
          stats::na.omit(block$letters[order(block$panels$row, block$panels$column)])
        })
      ),
      accounts = accounts,
      facts = account_facts(accounts, areas),
      columns = unique(told[c("column", "what", "n", "out")]),
      told = told,
      notes = unlist(lapply(laid$blocks, `[[`, "scale_note")),
      fits = do.call(rbind, lapply(of_blocks, `[[`, "fits")),
      contrasts = do.call(rbind, lapply(of_blocks, `[[`, "contrasts")),
      pictures = stack_tables(lapply(laid$blocks, block_picture)),
      layout = list(rounds = laid$rounds)
    ),
    class = "nelvat_scene"
  )
}

# Where a finished picture of another package stands: the block whose picture it is, and what
# reaches out of the plot area, in mm.
block_picture <- function(block) {
  if (is.null(block$design$picture)) return(NULL)
  reach <- block$design$reach
  data.frame(
    panel = block$panels$id[1],
    block = block$id,
    left = reach$left,
    right = reach$right,
    top = reach$top,
    bottom = reach$bottom
  )
}

mark_fields <- c(
  "block", "layer", "ink", "summarises", "on_zero", "primitive", "table", "pixels", "findings"
)

# Keys that stay with their block, above it.
own_block_keys <- function(laid, marks, house, font) {
  each <- lapply(seq_along(laid$blocks), function(i) {
    if (is.null(laid$parts[[i]]$key)) return(NULL)
    entries <- late_keys(laid$blocks[[i]]$keys, marks)
    frame <- laid$frames[[i]]
    placed <- list(
      items = set_keys(
        entries,
        track_span(frame$x, c(1, length(frame$x$start_mm))),
        house,
        font
      )$items,
      x_mm = frame$x$start_mm[1],
      y_mm = frame$y$start_mm[1] - frame$reach$top[1]
    )
    list(
      texts = place_key_texts(placed, font),
      keys = scene_keys(entries, placed, house),
      entries = entries
    )
  })
  every <- function(name) unlist(lapply(each, `[[`, name), recursive = FALSE)
  list(
    texts = every("texts"),
    keys = do.call(rbind, lapply(each, `[[`, "keys")),
    entries = every("entries")
  )
}

# The part of the scene of block `i` of a layout.
block_scene <- function(laid, i, house, font) {
  block <- laid$blocks[[i]]
  given <- list(
    block = block,
    frame = laid$frames[[i]],
    fits = laid$fits[[i]],
    parts = laid$parts[[i]],
    letters = block$letters,
    regions = Filter(function(region) region$parent == i, zoom_regions(laid)),
    insets = inset_boxes(laid, i)
  )
  from <- list(given, house, typeface(font))
  kept_step("assemble_block", from, assemble_block(given, house, font))
}

# One block's part of the scene, its panels and axes numbered from 1. own: list(block,
# frame, fits, parts, letters, regions: parts that zooms show, insets: their boxes on the page).
assemble_block <- function(own, house, font) {
  block <- own$block
  panels <- scene_areas(block, own$frame)
  axes <- scene_axes(block, own$fits)
  marks <- c(
    thinned_marks(place_marks(block, axes, panels, house, font), panels),
    region_outlines(own$regions, house)
  )
  texts <- c(
      place_words(zoom_words(marks, block), panels, house, font, area_counts(block), own$insets),
      place_headings(panels, own, house, font),
      place_spans(own, house, font),
      place_sides(own, panels, font),
      place_empty(block, panels, house, font),
      place_tick_texts(panels, axes, own$fits, house, font),
      place_titles(panels, own, house, font),
      place_under(own, panels, house, font),
      place_strip_names(own, panels, house, font),
      place_also(own, panels, house, font),
      place_letters(panels, own, house, font),
      place_direct(own, marks, panels, house, font)
    )
  letters_of_parts <- region_letters(own$regions, house, font, texts)
  texts <- c(texts, letters_of_parts$texts)
  marks <- c(marks, letters_of_parts$marks)
  inside <- place_inside(block, panels, marks, texts, house, font)
  list(
    panels = panels,
    axes = axes,
    marks = marks,
    texts = c(texts, inside$texts),
    inside = inside,
    grounds = inset_ground(own),
    around = lapply(own$frame$reach[c("left", "right", "top", "bottom")], `[[`, 1),
    letters = own$letters,
    rules = scene_rules(panels, axes, own, house),
    accounts = block$accounts,
    fits = scene_fits(block, panels),
    contrasts = scene_contrasts(block, panels)
  )
}

# What words in a panel say: numbers as the house writes them, the pieces of a note filled in.
word_string <- function(layer, string, id, counts, house) {
  role <- layer$role %||% "words"
  if (role %in% c("value", "equation")) return(house_numbers(string, house$numbers))
  if (role != "note") return(string)
  count_row <- match(id, counts$id)
  filled_pattern(string, list(n = counts$n[count_row], missing = counts$missing[count_row]))
}

check_text_fits <- function(laid, panel, font) {
  missing <- text_height_mm(laid$n_lines, laid$size_pt, font) - panel$h
  if (missing <= 0.01) return(invisible())
  abort_nelvat(
    "space",
    along = "height",
    message = c(
      "A text panel has too little room for its text.",
      x = paste0(
        format(round(missing, 1)),
        " mm of height are missing: it takes ",
        laid$n_lines,
        " lines."
      ),
      i = "Give it more room, or cut the text."
    ),
    call = NULL
  )
}

# The paper under an inset and its tick text.
inset_ground <- function(own) {
  zoom_part <- own$block$design$zoom
  if (is.null(zoom_part) || isFALSE(zoom_part$inset)) return(NULL)
  frame <- own$frame
  reach <- frame$reach
  new_table(
    panel = own$block$panels$id[1],
    x0 = frame$x$start_mm[1] - reach$left[1],
    x1 = frame$x$start_mm[1] + frame$x$length_mm[1] + reach$right[1],
    y0 = frame$y$start_mm[1] - reach$top[1],
    y1 = frame$y$start_mm[1] + frame$y$length_mm[1] + reach$bottom[1],
    .rows = 1L
  )
}

# Axes of all blocks numbered in one sequence, as areas are from the start.
numbered_axes <- function(of_blocks) {
  before <- c(0L, cumsum(vapply(of_blocks, function(own) length(own$axes), 0L)))
  Map(
    function(own, by) {
      panels <- own$panels
      changed(
        own,
        panels = changed(
          panels,
          x_axis = panels$x_axis + by,
          y_axis = panels$y_axis + by,
          x_shown = panels$x_shown + by,
          y_shown = panels$y_shown + by
        ),
        axes = lapply(own$axes, function(axis) changed(axis, id = axis$id + by))
      )
    },
    of_blocks,
    before[seq_along(of_blocks)]
  )
}

# The areas of a block with their places on the page, in mm.
scene_areas <- function(block, frame) {
  panels <- block$panels
  placed <- changed(
    panels,
    x = frame$x$start_mm[panels$column],
    y = frame$y$start_mm[panels$row],
    w = frame$x$length_mm[panels$column],
    h = frame$y$length_mm[panels$row]
  )
  strips <- table_rows(block$areas, block$areas$role == "marginal")
  areas <- stack_tables(
    list(placed, if (nrow(strips)) marginal_boxes(strips, placed, block, frame))
  )
  changed(areas, heading = plain_heading(areas$heading))[
    c(
      "id", "block", "role", "host", "side", "tier", "row", "column", "x", "y", "w", "h", "x_axis",
      "y_axis", "x_shown",
      "y_shown", "heading", "called", "x_variable", "y_variable", "n"
    )
  ]
}

scene_axes <- function(block, fits) {
  Map(
    function(axis, fit, id) {
      list(
        id = id,
        direction = axis$direction,
        variable = axis$variable,
        name = plain_text(axis$name),
        title = plain_text(axis$title),
        transform = axis$transform,
        turned = axis$turned,
        range = fit$range,
        slot_levels = axis$slot_levels,
        hidden = axis$hidden,
        breaks = fit$breaks,
        unit = fit$unit,
        minor = fit$minor,
        kept = fit$kept,
        text = vapply(fit$laid, laid_string, ""),
        treatment = tick_treatments[fit$treatment],
        angle = fit$angle,
        size_pt = fit$size_pt,
        panels = axis$areas,
        drawn_at = axis$drawn_at,
        grounded = axis$grounded,
        quantity = axis$quantity,
        slots = axis$slots,
        moment = axis$moment,
        zoomed = axis$zoomed,
        named = axis$named,
        bare = axis$bare
      )
    },
    block$axes,
    fits,
    seq_along(fits)
  )
}

# For each area, rows drawn and rows given but not drawn, by id.
area_counts <- function(block) {
  n <- drawn_rows(block$accounts, block$areas)
  list(id = block$areas$id, n = n, missing = block$areas$n - n)
}
