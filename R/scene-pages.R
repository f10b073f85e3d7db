# A block of more rows of panels than a page holds is laid over several pages: rows are
# dealt out evenly, headings repeated, and axes shared over all pages, as their ranges
# are those of all panels.

# The scenes of a plate, one a page. One page where all fits.
page_scenes <- function(plate, call, resolved = resolve_plate(plate)) {
  if (!is.null(plate$pages)) {
    return(
      lapply(plate$pages, function(rows) {
        part <- part_of_plate(resolved, plate, rows)
        settle_page(part$resolved, part$plate, call)
      })
    )
  }
  laid <- page_layout(resolved, plate, call)
  per_page <- rows_per_page(laid, plate)
  if (is.null(per_page)) return(list(lone_page(resolved, plate, call)))
  plate <- changed(plate, grows = FALSE)
  n_rows <- max(laid$blocks[[1]]$panels$row)
  per_page <- ceiling(n_rows / ceiling(n_rows / per_page))
  pages <- split(seq_len(n_rows), ceiling(seq_len(n_rows) / per_page))
  full <- settle_page(rows_of(resolved, pages[[1]]), plate, call)
  c(
    list(full),
    lapply(
      pages[-1],
      function(rows) page_like(full, rows_of(resolved, rows), length(rows), plate, call)
    )
  )
}

# The scene that a plate is described from: on a page as high as all its rows of panels need.
whole_scene <- function(resolved, plate, call = rlang::caller_env()) {
  if (is.null(plate$pages)) {
    laid <- page_layout(resolved, plate, call)
    if (is.null(rows_per_page(laid, plate))) return(lone_page(resolved, plate, call))
  }
  tell_scene(worked_out(plate, "whole", high_page(resolved, plate, call)))
}

# Of a plate that takes several pages, one that holds all.
high_page <- function(resolved, plate, call) {
  if (!is.null(plate$pages)) {
    grid <- changed(plate$grid, blocks = plate$blocks)
    height_mm <- natural_height(grid, plate$width_mm, plate$house)
  } else {
    laid <- page_layout(resolved, plate, call)
    n_rows <- max(laid$blocks[[1]]$panels$row)
    height_mm <- around_rows(laid, n_rows, plate) +
      1.5 * n_rows * least_lengths(laid$blocks[[1]], plate)$height
  }
  settled_page(resolved, changed(plate, height_mm = height_mm, grows = FALSE), call)
}

# A resolved plate, and what it asks, with only the blocks of some rows of its grid, and their
# insets. Blocks keep their ids, by which messages and letters know them.
part_of_plate <- function(resolved, plate, rows) {
  places <- plate$grid$places
  zooms <- lapply(resolved$blocks, function(block) block$design$zoom)
  on_page <- places$y0 %in% rows
  for (i in which(is.na(places$x0))) on_page[i] <- on_page[zooms[[i]]$of]
  blocks_on_page <- which(on_page)
  blocks <- lapply(blocks_on_page, function(i) {
    if (is.null(zooms[[i]])) return(resolved$blocks[[i]])
    part <- changed(zooms[[i]], of = match(zooms[[i]]$of, blocks_on_page))
    block <- resolved$blocks[[i]]
    changed(block, design = changed(block$design, zoom = part))
  })
  places <- places[blocks_on_page, ]
  places <- changed(places, y0 = match(places$y0, rows), y1 = match(places$y1, rows))
  tracks <- plate$grid$rows[rows, ]
  tracks <- changed(tracks, share = tracks$share / max(sum(tracks$share), 1e-9))
  grid <- changed(plate$grid, rows = tracks, places = places)
  height_mm <- if (plate$grows) {
    on_page <- changed(grid, blocks = plate$blocks[blocks_on_page])
    needed_mm <- natural_height(on_page, plate$width_mm, plate$house)
    min(plate$house$page$height_most_mm, needed_mm)
  } else {
    plate$height_mm
  }
  list(
    resolved = changed(resolved, blocks = blocks),
    plate = changed(plate, grid = grid, height_mm = height_mm)
  )
}

# How many rows of panels of the least height a page holds; NULL where all rows fit, or where
# there is but one row or more than one block, which no dealing out helps. A plate that was given a
# height is one page.
rows_per_page <- function(laid, plate) {
  if (!plate$grows) return(NULL)
  block <- laid$blocks[[1]]
  n_rows <- max(block$panels$row)
  if (length(laid$blocks) > 1 || n_rows == 1) return(NULL)
  least <- least_lengths(block, plate)
  frame <- laid$frames[[1]]
  too_low <- sum(pmax(0, least$height - frame$y$length_mm)) > 1e-6
  too_narrow <- sum(pmax(0, least$width - frame$x$length_mm)) > 1e-6
  if (!too_low || too_narrow) return(NULL)
  fitting <- Filter(
    function(k) around_rows(laid, k, plate) + k * least$height <= plate$height_mm,
    seq_len(n_rows - 1)
  )
  if (length(fitting)) max(fitting)
}

# What stands around the plot areas of a page of `k` rows, in mm.
around_rows <- function(laid, k, plate) {
  reach <- laid$frames[[1]]$reach
  space <- plate$house$space_mm
  n <- length(reach$top)
  between <- max(reach$top[-1]) + max(reach$bottom[-n]) + space$row_gap
  2 * space$margin + laid$key$top_mm + laid$key$bottom_mm + reach$top[1] + (k - 1) * between +
    reach$bottom[n]
}

# A resolved plate with only some of its rows of panels.
rows_of <- function(resolved, rows) {
  changed(resolved, blocks = list(only_rows(resolved$blocks[[1]], rows)))
}

# A page of `n` rows whose panels are as high as those of the full one: every millimetre of the
# page goes to its rows alike.
page_like <- function(full, resolved, n, plate, call) {
  wanted <- full$panels$h[1]
  for (step in 1:3) {
    laid <- lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
    off <- wanted - laid$frames[[1]]$y$length_mm[1]
    if (abs(off) < 0.05) break
    plate <- changed(plate, height_mm = round(plate$height_mm + n * off, 1))
    laid <- NULL
  }
  settle_page(resolved, plate, call, laid)
}

# A resolved block with only some of its rows of panels: those rows of its areas, and what belongs
# to them. Its axes and statistics are those of the whole.
only_rows <- function(block, rows) {
  on_page <- block$areas$row %in% rows
  areas <- headed_again(table_rows(block$areas, on_page), block$panels, rows)
  areas <- changed(areas, row = match(areas$row, sort(unique(rows))))
  panels <- standing_areas(areas)
  area_rows <- match(panels$id, block$panels$id)
  sides <- block$parts$sides
  if (!is.null(sides)) {
    sides <- table_rows(sides, sides$row %in% rows)
    sides <- changed(sides, row = match(sides$row, sort(unique(rows))))
  }
  spans <- spans_of_page(block$parts$spans, rows)
  heading_words <- block$heading_words
  source <- match(panels$heading, block$panels$heading)
  accounts <- block$accounts
  if (!is.null(accounts)) accounts <- table_rows(accounts, accounts$area %in% areas$id)
  changed(
    block,
    areas = areas,
    accounts = accounts,
    panels = panels,
    rows = block$rows[on_page],
    letters = block$letters[area_rows],
    heading_words = ifelse(is.na(panels$heading), list(NULL), heading_words[source]),
    parts = changed(block$parts, sides = sides, spans = spans),
    axes = lapply(
      seq_along(block$axes),
      function(k) axis_of_page(block$axes[[k]], k, areas, block$design)
    ),
    layers = lapply(block$layers, of_areas, areas$id)
  )
}

# Headings over columns: those of its rows, and over its first row, of each tier, those that it goes
# on from.
spans_of_page <- function(spans, rows) {
  if (is.null(spans)) return(NULL)
  first <- min(rows)
  gone <- spans$row <= first
  latest <- tapply(spans$row[gone], spans$tier[gone], max)
  on_page <- which(
    spans$row %in% rows[rows > first] | gone & spans$row == latest[as.character(spans$tier)]
  )
  changed(table_rows(spans, on_page), row = match(pmax(spans$row[on_page], first), rows))
}

# Columns are headed on each page.
headed_again <- function(areas, all_panels, rows) {
  if (!anyNA(all_panels$heading) || all(is.na(all_panels$heading))) return(areas)
  # Where columns go on in further lines, by the row that these begin with.
  headed <- all_panels$row[!is.na(all_panels$heading) & all_panels$row <= min(rows)]
  if (!length(headed)) return(areas)
  top <- all_panels$row == max(headed)
  first <- areas$role != "marginal" & areas$row == min(rows)
  column <- match(areas$column, all_panels$column[top])
  changed(areas, heading = ifelse(first, all_panels$heading[top][column], areas$heading))
}

# An axis of other pages only is not drawn on this one.
axis_of_page <- function(axis, k, areas, design) {
  column <- paste0(axis$direction, "_axis")
  areas_of_axis <- table_rows(areas, areas$id %in% axis$areas)
  drawn_at <- intersect(axis$drawn_at, areas_of_axis$id)
  if (axis$role == "matrix" && nrow(areas_of_axis)) {
    panels <- standing_areas(areas)
    bears <- if (identical(design$show_axes, "all")) {
      rep(TRUE, nrow(panels))
    } else {
      draws_tick_text(panels, panels[[column]], axis$direction)
    }
    drawn_at <- intersect(areas_of_axis$id, panels$id[bears])
  }
  changed(
    axis,
    areas = areas_of_axis$id,
    drawn_at = drawn_at,
    hidden = axis$hidden || !nrow(areas_of_axis)
  )
}

# A trained layer in some of its areas only. Tables of series and groups are pointed into by
# number, so they stay whole.
of_areas <- function(layer, ids) {
  in_areas <- layer$table$panel %in% ids
  trained <- lapply(stats::setNames(nm = names(layer$trained)), function(name) {
    part <- layer$trained[[name]]
    if (!is.data.frame(part) || is.null(part$panel) || name %in% c("series", "rows")) return(part)
    part[part$panel %in% ids, , drop = FALSE]
  })
  trained <- changed(trained, used = layer$trained$used[in_areas])
  changed(layer, table = table_rows(layer$table, in_areas), trained = trained)
}
