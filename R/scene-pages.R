# A block of more rows of panels than a page holds is laid over several pages: rows are
# dealt out evenly, headings repeated, and axes shared over all pages, as their ranges
# are those of all panels.

# The scenes of a plate, one a page. One page where all fits.
page_scenes <- function(plate, call) {
  whole <- tryCatch(as_scene(plate), nelvat_error_space = identity)
  if (inherits(whole, "nelvat_scene")) return(list(whole))
  n_rows <- max(block_cells(plate$blocks[[1]])$panels$row)
  if (length(plate$blocks) > 1 || n_rows == 1 || !identical(whole$along, "height")) stop(whole)
  for (n_pages in seq(2, n_rows)) {
    per_page <- ceiling(n_rows / n_pages)
    # The first page holds as many rows as any.
    first <- tryCatch(page_scene(plate, seq_len(per_page)), nelvat_error_space = identity)
    if (inherits(first, "nelvat_scene")) break
  }
  if (!inherits(first, "nelvat_scene")) stop(whole)
  pages <- split(seq_len(n_rows), ceiling(seq_len(n_rows) / per_page))
  lapply(pages, function(rows) page_scene(plate, rows, per_page))
}

# The scene of some rows of panels; `of_rows` keeps the panels of a shorter last page as
# high as those of the others.
page_scene <- function(plate, rows, of_rows = length(rows)) {
  plate$blocks[[1]]$page_rows <- rows
  if (length(rows) < of_rows) plate$height_mm <- shorter_page(plate, rows, of_rows)
  as_scene(plate)
}

# The height at which a page of fewer rows has panels as high as a full one.
shorter_page <- function(plate, rows, of_rows) {
  full <- plate
  full$blocks[[1]]$page_rows <- seq_len(of_rows)
  wanted <- as_scene(full)$panels$h[1]
  low <- 20
  high <- plate$height_mm
  for (step in 1:20) {
    plate$height_mm <- (low + high) / 2
    h <- tryCatch(as_scene(plate)$panels$h[1], nelvat_error_space = function(error) 0)
    if (h < wanted) low <- plate$height_mm else high <- plate$height_mm
  }
  round(high, 1)
}

# A resolved block with only some of its rows of panels, its axes those of the whole.
only_rows <- function(block, rows) {
  if (is.null(rows)) return(block)
  panels <- block$cells$panels
  held <- which(panels$row %in% rows)
  block$axes$x <- block$axes$x[held]
  block$axes$y <- block$axes$y[held]
  block$axes$x_shown <- block$axes$x_shown[held]
  block$axes$y_shown <- block$axes$y_shown[held]
  headed <- block$cells$panels$heading
  block$cells$panels <- table_rows(panels, held)
  # Columns are headed on each page.
  if (any(is.na(headed)) && any(!is.na(headed))) {
    top <- block$cells$panels$row == min(rows)
    block$cells$panels$heading[top] <- headed[panels$row == 1][match(block$cells$panels$column[top], panels$column[panels$row == 1])]
    words <- block$cells$heading_words[panels$row == 1]
    block$cells$heading_words <- vector("list", length(held))
    block$cells$heading_words[top] <- words[match(block$cells$panels$column[top], panels$column[panels$row == 1])]
  } else {
    block$cells$heading_words <- block$cells$heading_words[held]
  }
  block$cells$panels$row <- match(block$cells$panels$row, sort(unique(rows)))
  block$cells$rows <- block$cells$rows[held]
  if (!is.null(block$cells$sides)) {
    block$cells$sides <- table_rows(block$cells$sides, block$cells$sides$row %in% rows)
    block$cells$sides$row <- match(block$cells$sides$row, sort(unique(rows)))
  }
  ids <- block$cells$panels$panel
  block$axes$list <- lapply(seq_along(block$axes$list), function(i) {
    axis <- block$axes$list[[i]]
    at <- which((if (axis$direction == "x") block$axes$x else block$axes$y) == i)
    axis$panels <- ids[at]
    # An axis of other pages only is not drawn on this one.
    axis$hidden <- axis$hidden || !length(at)
    index <- if (axis$direction == "x") block$axes$x else block$axes$y
    drawn <- if (identical(block$design$show_axes, "all")) rep(TRUE, length(ids)) else draws_tick_text(block$cells$panels, index, axis$direction)
    axis$drawn_at <- ids[at][drawn[at]]
    axis
  })
  block$layers <- lapply(block$layers, function(layer) {
    ramp <- attr(layer$table, "ramp")
    layer$table <- structure(table_rows(layer$table, layer$table$panel %in% ids), ramp = ramp)
    layer$trained <- train_ink(layer$ink, layer)
    layer
  })
  block$trained <- lapply(block$layers, `[[`, "trained")
  block
}
