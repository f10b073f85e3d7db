# A block of more rows of panels than a page holds is laid over several pages: rows are
# dealt out evenly, headings repeated, and axes shared over all pages, as their ranges
# are those of all panels.

# The scenes of a plate, one a page. One page where all fits.
page_scenes <- function(plate, call, resolved = resolve_plate(plate)) {
  laid <- lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
  per_page <- rows_per_page(laid, plate)
  if (is.null(per_page)) return(list(settle_page(resolved, plate, call, laid)))
  n_rows <- max(laid$blocks[[1]]$cells$panels$row)
  per_page <- ceiling(n_rows / ceiling(n_rows / per_page))
  pages <- split(seq_len(n_rows), ceiling(seq_len(n_rows) / per_page))
  full <- settle_page(rows_of(resolved, pages[[1]]), plate, call)
  c(list(full), lapply(pages[-1], function(rows) page_like(full, rows_of(resolved, rows), length(rows), plate, call)))
}

# The scene that a plate is described from: on a page as high as all its rows of panels need.
whole_scene <- function(resolved, plate, call = rlang::caller_env()) {
  laid <- lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
  if (is.null(rows_per_page(laid, plate))) return(settle_page(resolved, plate, call, laid))
  n_rows <- max(laid$blocks[[1]]$cells$panels$row)
  plate$height_mm <- around_rows(laid, n_rows, plate) + 1.5 * n_rows * least_lengths(laid$blocks[[1]], plate)$height
  settle_page(resolved, plate, call)
}

# How many rows of panels of the least height a page holds; NULL where all rows fit, or where
# there is but one row or more than one block, which no dealing out helps.
rows_per_page <- function(laid, plate) {
  block <- laid$blocks[[1]]
  n_rows <- max(block$cells$panels$row)
  if (length(laid$blocks) > 1 || n_rows == 1) return(NULL)
  least <- least_lengths(block, plate)
  frame <- laid$frames[[1]]
  too_low <- sum(pmax(0, least$height - frame$y$length_mm)) > 1e-6
  too_narrow <- sum(pmax(0, least$width - frame$x$length_mm)) > 1e-6
  if (!too_low || too_narrow) return(NULL)
  fitting <- Filter(function(k) around_rows(laid, k, plate) + k * least$height <= plate$height_mm, seq_len(n_rows - 1))
  if (length(fitting)) max(fitting)
}

# What stands around the plot areas of a page of `k` rows, in mm.
around_rows <- function(laid, k, plate) {
  reach <- laid$frames[[1]]$reach
  space <- plate$house$space_mm
  n <- length(reach$top)
  between <- max(reach$top[-1]) + max(reach$bottom[-n]) + space$row_gap
  2 * space$margin + laid$key$top_mm + laid$key$bottom_mm + reach$top[1] + (k - 1) * between + reach$bottom[n]
}

# A resolved plate with only some of its rows of panels.
rows_of <- function(resolved, rows) changed(resolved, blocks = list(only_rows(resolved$blocks[[1]], rows)))

# A page of `n` rows whose panels are as high as those of the full one: every millimetre of the
# page goes to its rows alike.
page_like <- function(full, resolved, n, plate, call) {
  wanted <- full$panels$h[1]
  for (step in 1:3) {
    laid <- lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
    off <- wanted - laid$frames[[1]]$y$length_mm[1]
    if (abs(off) < 0.05) break
    plate$height_mm <- round(plate$height_mm + n * off, 1)
    laid <- NULL
  }
  settle_page(resolved, plate, call, laid)
}

# A resolved block with only some of its rows of panels, its axes those of the whole.
only_rows <- function(block, rows) {
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
    block$cells$panels$heading[top] <-
    headed[panels$row == 1][match(block$cells$panels$column[top], panels$column[panels$row == 1])]
    words <- block$cells$heading_words[panels$row == 1]
    block$cells$heading_words <- vector("list", length(held))
    block$cells$heading_words[top] <- words[match(block$cells$panels$column[top], panels$column[panels$row == 1])]
  } else {
    block$cells$heading_words <- block$cells$heading_words[held]
  }
  block$cells$panels$row <- match(block$cells$panels$row, sort(unique(rows)))
  block$cells$rows <- block$cells$rows[held]
  block$letters <- block$letters[held]
  if (!is.null(block$cells$sides)) {
    block$cells$sides <- table_rows(block$cells$sides, block$cells$sides$row %in% rows)
    block$cells$sides$row <- match(block$cells$sides$row, sort(unique(rows)))
  }
  ids <- block$cells$panels$panel
  block$axes$list <- lapply(seq_along(block$axes$list), function(i) {
    axis <- block$axes$list[[i]]
    spot <- which((if (axis$direction == "x") block$axes$x else block$axes$y) == i)
    axis$panels <- ids[spot]
    # An axis of other pages only is not drawn on this one.
    axis$hidden <- axis$hidden || !length(spot)
    index <- if (axis$direction == "x") block$axes$x else block$axes$y
    draws_text <- if (identical(block$design$show_axes, "all")) rep(TRUE, length(ids)) else draws_tick_text(
      block$cells$panels, index, axis$direction
    )
    axis$drawn_at <- ids[spot][draws_text[spot]]
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
