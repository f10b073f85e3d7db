# Layout and label fitting together. Tick text takes room from plot areas, and plot
# areas give tick text its room: both are solved in turn until nothing changes.
# Treatments of tick text only move down their list, numbers of breaks only fall, a
# key that left its block stays out and a block that draws an axis of its own goes on to, so the
# rounds come to an end.

most_rounds <- 14
settled_mm <- 0.005 # half of what alignment is held to
still_mm <- 1e-4 # within one round; plot areas of one step are aligned exactly

# from: frames to begin with, those of a page nearly as high where there is one.
# Returns list(blocks, frames, fits, parts, key, rounds): for each block its `frame` has
# the plot areas by column and row, `fits` the fitted tick text of each axis, `parts` its
# laid out headings and titles.
lay_out <- function(blocks, keys, plate, font, call, from = first_frames(blocks, plate)) {
  state <- list(
    n_breaks = lapply(blocks, function(block) rep(Inf, length(block$axes))),
    treatment = lapply(blocks, function(block) rep(1L, length(block$axes))),
    frames = from,
    key_inside = key_home(blocks, keys, plate),
    even = alignments(blocks, plate$grid$places)
  )
  last_round <- most_rounds
  round <- 0
  while (round < last_round) {
    round <- round + 1
    fitted <- lapply(seq_along(blocks), function(i) {
      fit_axes(
        blocks[[i]],
        state$n_breaks[[i]],
        state$treatment[[i]],
        state$frames[[i]],
        state$fits[[i]],
        plate,
        font,
        call
      )
    })
    page <- solve_page(blocks, keys, fitted, state, plate, font)
    settled <- same_frames(page$frames, state$frames, settled_mm) && identical(
      page$key_inside,
      state$key_inside
    )
    state <- list(
      even = state$even,
      n_breaks = lapply(fitted, function(of) vapply(of, `[[`, 0, "n_breaks")),
      treatment = lapply(fitted, function(of) vapply(of, `[[`, 0L, "treatment")),
      frames = page$frames,
      key_inside = page$key_inside,
      columns = page$columns,
      rows = page$rows,
      fits = fitted
    )
    if (!settled && round < last_round) next
    parted <- with_own_axes(blocks, page$frames)
    if (is.null(parted)) break
    blocks <- parted
    state <- changed(state, even = alignments(blocks, plate$grid$places))
    last_round <- round + most_rounds
  }
  c(
    list(
      blocks = blocks,
      fits = lapply(fitted, lapply, new_fitted_axis),
      rounds = round,
      page_mm = plate$height_mm
    ),
    page
  )
}

# Stops where a plot area of a layout is under its least size.
check_lengths <- function(laid, plate, call) {
  for (i in seq_along(laid$blocks)) {
    block <- laid$blocks[[i]]
    frame <- laid$frames[[i]]
    label <- if (length(plate$blocks) > 1) block$title
    least <- least_lengths(block, plate)
    share <- page_share_of(plate$grid, i)
    check_least_lengths(
      frame$x$length_mm,
      least$width,
      "width",
      plate$width_mm,
      label,
      share$x,
      call
    )
    check_least_lengths(
      frame$y$length_mm,
      least$height,
      "height",
      plate$height_mm,
      label,
      share$y,
      call
    )
  }
}

least_lengths <- function(block, plate) {
  if (is.null(block$least_mm)) plate$house$least_panel_mm else block$least_mm
}

# Before anything is known, decorations are taken to be nothing.
first_frames <- function(blocks, plate) {
  space <- plate$house$space_mm
  grid <- plate$grid
  columns <- grid_tracks(
    grid$columns,
    space$margin,
    plate$width_mm - 2 * space$margin,
    0,
    0,
    space$column_gap
  )
  rows <- grid_tracks(
    grid$rows,
    space$margin,
    plate$height_mm - 2 * space$margin,
    0,
    0,
    space$row_gap
  )
  Map(
    function(block, i) {
      place <- if (is.na(grid$places$x0[i])) {
        data.frame(x0 = 1, x1 = 1, y0 = 1, y1 = 1)
      } else {
        grid$places[i, ]
      }
      block_frame(block, region_of(place, columns, rows), no_reach(block), space)
    },
    blocks,
    seq_along(blocks)
  )
}

no_reach <- function(block) {
  none <- function(n) rep(0, n)
  n_columns <- max(block$panels$column)
  n_rows <- max(block$panels$row)
  list(left = none(n_columns), right = none(n_columns), top = none(n_rows), bottom = none(n_rows))
}

same_frames <- function(a, b, within_mm) {
  ends <- function(frames) {
    unlist(
      lapply(
        frames,
        function(frame) c(frame$x$start_mm, frame$x$length_mm, frame$y$start_mm, frame$y$length_mm)
      )
    )
  }
  max(abs(ends(a) - ends(b))) < within_mm
}

# Plot areas ----------------------------------------------------------------------

# With all texts as fitted, plot areas and the reach of tick text beyond them depend
# on each other; a few cheap steps settle them.
solve_page <- function(blocks, keys, fits, state, plate, font) {
  parts <- Map(function(block, frame) block_parts(block, frame, plate, font), blocks, state$frames)
  key <- place_keys(keys, page_edges(plate, font), blocks, state, plate, font)
  frames <- state$frames
  fixed <- Map(
    function(block, fit, of) fixed_decorations(block, fit, of, plate$house),
    blocks,
    fits,
    parts
  )
  for (step in seq_len(200)) {
    reaches <- Map(
      function(block, of, frame, fix) block_reach(block, fix, of, frame, plate$house),
      blocks,
      parts,
      frames,
      fixed
    )
    page <- place_blocks(blocks, reaches, state$even, key, plate)
    settled <- same_frames(page$frames, frames, still_mm)
    frames <- page$frames
    if (settled) break
  }
  c(page, list(parts = parts, key = key, key_inside = key$inside))
}

# What each block has around its panels, made even where blocks meet the same line of the
# plate's grid; then all plot areas.
place_blocks <- function(blocks, reaches, alignments, key, plate) {
  space <- plate$house$space_mm
  grid <- plate$grid
  places <- grid$places
  reaches <- even_reaches(reaches, alignments, plate)
  side <- function(end, n, reach) {
    vapply(seq_len(n), function(k) max(0, vapply(reaches[which(places[[end]] == k)], reach, 0)), 0)
  }
  last <- function(values) values[length(values)]
  n_columns <- nrow(grid$columns)
  n_rows <- nrow(grid$rows)
  before <- side("x0", n_columns, function(reach) reach$left[1])
  after <- side("x1", n_columns, function(reach) last(reach$right))
  above <- side("y0", n_rows, function(reach) reach$top[1])
  below <- side("y1", n_rows, function(reach) last(reach$bottom))
  columns <- grid_tracks(
    grid$columns,
    space$margin + key$left_mm,
    plate$width_mm - 2 * space$margin - key$left_mm - key$right_mm,
    before,
    after,
    space$column_gap
  )
  rows <- grid_tracks(
    grid$rows,
    space$margin + key$top_mm,
    plate$height_mm - 2 * space$margin - key$top_mm - key$bottom_mm,
    above,
    below,
    space$row_gap
  )
  frames <- vector("list", length(blocks))
  # Insets stand in a panel of another block, so they come after it.
  for (i in order(is.na(places$x0))) {
    inset <- is.na(places$x0[i])
    region <- if (inset) {
      host_block <- blocks[[i]]$design$zoom$of
      host <- match(blocks[[i]]$panels$host[1], blocks[[host_block]]$panels$id)
      inset_region(
        blocks[[i]],
        reaches[[i]],
        blocks[[host_block]]$panels[host, ],
        frames[[host_block]]
      )
    } else {
      line <- places[i, ]
      block_region <- c(
        left = before[line$x0] - reaches[[i]]$left[1],
        right = after[line$x1] - last(reaches[[i]]$right),
        top = above[line$y0] - reaches[[i]]$top[1],
        bottom = below[line$y1] - last(reaches[[i]]$bottom)
      )
      widened_region(region_of(line, columns, rows), block_region)
    }
    # Outermost reaches are those of the plate's lines.
    frame <- changed(block_frame(blocks[[i]], region, reaches[[i]], space), reach = reaches[[i]])
    frames <- replace(frames, i, list(frame))
  }
  list(frames = frames, columns = columns, rows = rows)
}

# A region with what its block leaves free of what the lines of the grid keep for all.
widened_region <- function(region, free) {
  list(
    x = region$x - free[["left"]],
    w = region$w + free[["left"]] + free[["right"]],
    y = region$y - free[["top"]],
    h = region$h + free[["top"]] + free[["bottom"]]
  )
}

# Plot areas of a block within its region: from the outer edge of its first panel to that
# of its last.
block_frame <- function(block, region, reach, space) {
  inner <- function(before, after) {
    n <- length(before)
    before[1] <- 0
    after[n] <- 0
    list(before = before, after = after)
  }
  x_in <- inner(reach$left, reach$right)
  y_in <- inner(reach$top, reach$bottom)
  gaps <- function(base, extra) if (is.null(extra)) base else base + extra
  x <- solve_tracks(
    region$x,
    region$w,
    x_in$before,
    x_in$after,
    track_weights(block, "x"),
    gaps(space$column_gap, block$parts$more_gap$x)
  )
  y <- solve_tracks(
    region$y,
    region$h,
    y_in$before,
    y_in$after,
    track_weights(block, "y"),
    gaps(space$row_gap, block$parts$more_gap$y)
  )
  frame <- list(x = x, y = y)
  if (is.null(block$aspect)) return(frame)
  # Panels of a given shape leave the room they cannot use at the right or the bottom.
  wide <- min(x$length_mm)
  high <- min(y$length_mm)
  if (wide > 0 && high > 0) {
    if (high > wide * block$aspect) {
      y <- solve_shrunk(
        region$y,
        y_in,
        rep(wide * block$aspect, length(y$length_mm)),
        gaps(space$row_gap, block$parts$more_gap$y)
      )
    } else {
      x <- solve_shrunk(
        region$x,
        x_in,
        rep(high / block$aspect, length(x$length_mm)),
        gaps(space$column_gap, block$parts$more_gap$x)
      )
    }
  }
  list(x = x, y = y)
}

solve_shrunk <- function(start_mm, inner, length_mm, gap_mm) {
  n <- length(length_mm)
  total <- sum(inner$before, inner$after, length_mm, rep_len(gap_mm, n - 1))
  solve_tracks(start_mm, total, inner$before, inner$after, rep(1, n), gap_mm)
}

# Columns (or rows) of panels share the page evenly, or by the levels on their axes.
track_weights <- function(block, direction) {
  place <- block$panels[[if (direction == "x") "column" else "row"]]
  axes <- block$axes[block$panels[[paste0(direction, "_axis")]]]
  if (block$design$room == "even" || !all(vapply(axes, `[[`, NA, "slots"))) {
    return(rep(1, max(place)))
  }
  greatest_by(vapply(axes, function(axis) length(axis$slot_texts), 0), place)
}

# The greatest of each column or row; 0 for one without panels.
greatest_by <- function(mm, track) {
  n <- max(track)
  if (n == 1) max(0, mm) else vapply(seq_len(n), function(i) max(0, mm[track == i]), 0)
}
