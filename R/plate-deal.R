# How blocks without places of their own are dealt out in rows, and how high a page they need.

best_shape <- 1.3 # width over height of a place
best_width_mm <- 70
least_dealt_mm <- 16 # no panel is dealt into less, where there is another way
around_mm <- 12 # about what tick text and titles take beside a plot area

# Several blocks without a placement as cells of a table, and the weights of its rows: what their
# panels want, where the rows differ.
dealt_children <- function(children, per_row, sizes) {
  n <- length(children)
  width_mm <- sizes$page_mm[1]
  most <- min(n, per_row %||% dealt_per_row(children, width_mm, sizes$page_mm[2], sizes$house))
  rows <- if (is.null(per_row)) {
    dealt_rows(children, most, width_mm, sizes$house)
  } else {
    unname(split(seq_len(n), (seq_len(n) - 1) %/% most))
  }
  spans <- do.call(rbind, lapply(rows, dealt_spans, children, most, is.null(per_row)))
  row <- rep(seq_along(rows), lengths(rows))
  cell <- function(child, row, from, to) {
    structure(
      list(how = "at", rows = rep(row, 2), columns = c(from, to), child = child),
      class = "nelvat_placement"
    )
  }
  # The table has all its columns also where no row fills them.
  free <- if (max(spans$to) < most) most else integer()
  wanted <- row_heights(children, row, width_mm * (spans$to - spans$from + 1) / most, sizes$house)
  list(
    children = c(
      Map(cell, children, row, spans$from, spans$to),
      Map(cell, rep(list(blank()), length(free)), rep(1, length(free)), free, free)
    ),
    heights = if (max(wanted) > 1.15 * min(wanted)) wanted
  )
}

# Which blocks stand in each row of a table of `most` columns: in their order, so that panels come
# near the width they look best at. A list of numbers of blocks, a row each.
dealt_rows <- function(children, most, width_mm, house) {
  n <- length(children)
  even <- unname(split(seq_len(n), (seq_len(n) - 1) %/% most))
  several <- vapply(children, has_columns, NA)
  if (most == 1 || n %% most == 0 && !any(several)) return(even)
  if (!any(several)) return(even)
  # What a row costs, for the rows that begin at a block and hold up to `most`.
  cost <- rep(Inf, n + 1)
  cost[n + 1] <- 0
  taken <- integer(n)
  for (first in rev(seq_len(n))) {
    for (k in seq_len(min(most, n - first + 1))) {
      of <- first:(first + k - 1)
      spans <- dealt_spans(of, children, most, TRUE)
      wide <- mapply(
        function(child, columns) {
          wanted_size(child, width_mm * columns / most, house)[["wide"]]
        },
        children[of],
        spans$to - spans$from + 1
      )
      best <- ifelse(several[of], best_small_mm, best_width_mm)
      rest <- sum(log(pmax(pmin(wide, 1e3), 1) / best)^2) + cost[first + k]
      if (rest < cost[first] - 1e-9) {
        cost[first] <- rest
        taken[first] <- k
      }
    }
  }
  rows <- list()
  first <- 1
  while (first <= n) {
    rows <- c(rows, list(first:(first + taken[first] - 1)))
    first <- first + taken[first]
  }
  rows
}

best_small_mm <- 40 # of panels of one block

# Is a placement of several columns of panels, which take what width there is?
has_columns <- function(node) {
  if (node$how == "at") return(has_columns(node$child))
  if (node$how != "block") return(node$how %in% c("beside", "stacked"))
  if (inherits(node$block, "nelvat_zoom") || !is.null(node$block$aspect)) return(FALSE)
  max(standing_areas(cells_of(node$block)$areas)$column) > 1
}

has_fixed_shape <- function(node) {
  if (node$how == "at") return(has_fixed_shape(node$child))
  node$how == "block" && !is.null(node$block$aspect)
}

# The columns of the table that the blocks of a row take: one each; what is free goes to those of
# several columns of panels, and where `filled` to the last block.
dealt_spans <- function(of, children, most, filled) {
  columns <- rep(1, length(of))
  free <- most - length(of)
  takes <- which(vapply(children[of], has_columns, NA))
  if (!length(takes) && filled) {
    takes <- utils::tail(which(!vapply(children[of], has_fixed_shape, NA)), 1)
  }
  if (free > 0 && length(takes)) {
    more <- free %/% length(takes) + (rev(seq_along(takes)) <= free %% length(takes))
    columns[takes] <- columns[takes] + more
  }
  to <- cumsum(columns)
  data.frame(from = to - columns + 1, to = to)
}

row_heights <- function(children, row, width_mm, house) {
  high <- mapply(
    function(child, mm) wanted_size(child, mm, house)[["high"]],
    children,
    rep_len(width_mm, length(children))
  )
  pmax(10, vapply(split(high, row), max, 0, USE.NAMES = FALSE))
}

# How many blocks in a row: so that no panel gets too narrow and all fit the page, places are of a
# good shape (where the height is known) or width, and none stays empty, if that can be.
dealt_per_row <- function(children, width_mm, height_mm, house) {
  n <- length(children)
  # More columns leave each less than any panel needs.
  columns <- seq_len(min(n, max(1, floor(width_mm / least_dealt_mm))))
  rows <- ceiling(n / columns)
  wide <- width_mm / columns
  known <- !is.na(height_mm)
  shape <- if (known) wide / (height_mm / rows) else wide / best_width_mm * best_shape
  good <- if (known) shape >= 0.6 & shape <= 1.8 else wide >= 40 & wide <= 130
  empty <- rows * columns - n
  if (!any(good)) good[which.min(abs(log(shape / best_shape)))] <- TRUE
  narrowest <- vapply(
    wide,
    function(mm) {
      min(vapply(children, function(child) wanted_size(child, mm, house)[["wide"]], 0))
    },
    0
  )
  high <- vapply(
    columns,
    function(k) {
      sum(row_heights(children, (seq_len(n) - 1) %/% k + 1, wide[k], house) + around_mm + 3)
    },
    0
  )
  most <- if (known) Inf else house$page$height_most_mm
  rank <- abs(log(shape / best_shape)) + ifelse(empty > 0, 1 + empty / n, 0) +
    ifelse(good, 0, 10) +
    ifelse(narrowest < least_dealt_mm, 20 + least_dealt_mm - narrowest, 0) + ifelse(
    high > most,
    3 + high / most,
    0
  )
  columns[which.min(rank)]
}

# What a placement wants at a width, in mm: `high` for its plot areas and what stands between them,
# `wide` what its narrowest panel gets.
wanted_size <- function(node, width_mm, house) {
  if (node$how == "block") return(block_size(node$block, width_mm, house))
  if (node$how == "at") return(wanted_size(node$child, width_mm, house))
  if (node$how %in% c("blank", "key")) return(c(high = 0, wide = Inf))
  across <- node$how == "beside"
  n <- length(node$children)
  fixed <- ifelse(is.na(node$sizes$mm), 30, node$sizes$mm)
  part <- if (!across) {
    rep(width_mm, n)
  } else {
    fixed + max(0, width_mm - sum(fixed)) * node$sizes$weight / max(sum(node$sizes$weight), 1e-9)
  }
  each <- vapply(
    seq_len(n),
    function(i) wanted_size(node$children[[i]], part[i], house),
    c(high = 0, wide = 0)
  )
  high <- if (across) max(each["high", ]) else sum(each["high", ]) + (n - 1) * (around_mm + 3)
  c(high = high, wide = min(each["wide", ]))
}

# A zoom has no panels yet where blocks are dealt out; it is taken for one.
block_size <- function(block, width_mm, house) {
  if (inherits(block, "nelvat_zoom")) {
    return(c(high = max(8, width_mm - around_mm) * 0.75, wide = width_mm - around_mm))
  }
  panels <- if (identical(block$per_row, "page")) {
    row_places(panel_sequence(block, cells_of(block)), page_wrap(block, width_mm, NULL, house))
  } else {
    standing_areas(cells_of(block)$areas)
  }
  between <- between_mm(block)
  n <- c(x = max(panels$column), y = max(panels$row))
  wide <- (width_mm - around_mm - between[["x"]] * (n[["x"]] - 1)) / n[["x"]]
  c(
    high = n[["y"]] * max(wide, 8) * wished_shape(block) + (n[["y"]] - 1) * between[["y"]],
    wide = if (any(is.finite(wide))) wide else 0
  )
}

# What stands between two panels of a block, across and down.
between_mm <- function(block) {
  if (inherits(block, "nelvat_pairs")) return(c(x = 2, y = 2))
  has_own_axes <- function(direction) {
    identical(block$show_axes, "all") || identical(block$range_per[[direction]], "panel")
  }
  c(x = if (has_own_axes("y")) around_mm else 4, y = if (has_own_axes("x")) around_mm else 7)
}

# The share of the page that a block has across and down.
block_share <- function(grid, i, direction) {
  place <- grid$places[i, ]
  tracks <- if (direction == "x") {
    grid$columns[place$x0:place$x1, ]
  } else {
    grid$rows[place$y0:place$y1, ]
  }
  list(mm = sum(tracks$mm), share = sum(tracks$share))
}

settle_wrap <- function(block, i, grid, width_mm, height_mm, house) {
  if (is.na(grid$places$x0[i])) return(block)
  given_length <- function(direction, total) {
    if (!is.null(total)) {
      part <- block_share(grid, i, direction)
      part$mm + part$share * total
    }
  }
  if (identical(block$per_row, "page")) {
    wrap <- page_wrap(block, given_length("x", width_mm), given_length("y", height_mm), house)
    return(changed(block, per_row = wrap))
  }
  if (is.null(block$per_row)) {
    with_lines(block, given_length("x", width_mm), given_length("y", height_mm), house)
  } else {
    block
  }
}

# A block whose panels have no room beside each other, in as many lines as they need: panels of a
# sequence, columns of nested levels, matrices of each level.
with_lines <- function(block, width_mm, height_mm, house) {
  if (!is.null(block$only) || !inherits(block, c("nelvat_facets", "nelvat_pairs"))) return(block)
  most <- most_columns(block, width_mm, house)
  cells <- cells_of(block)
  if (inherits(block, "nelvat_pairs")) {
    # Each matrix has tick text of its own.
    each <- cells$n_variables * (house$least_panel_mm$width + between_mm(block)[["x"]]) +
      around_mm + matrix_gap_mm
    changed(block, per_row = max(1, floor((width_mm + matrix_gap_mm) / each)))
  } else if (max(cells$areas$column) <= most) {
    block
  } else if (is_sequence(cells, panel_measures(block$panel))) {
    changed(block, per_row = page_wrap(block, width_mm, height_mm, house))
  } else {
    changed(block, line_columns = most)
  }
}

# Columns of panels of the least width that a width holds, with what stands between them.
most_columns <- function(block, width_mm, house) {
  between <- between_mm(block)[["x"]]
  max(1, floor((width_mm - around_mm + between) / (house$least_panel_mm$width + between)))
}

# Panels in their sequence, by the outer level that each is of, or each for itself.
panel_sequence <- function(block, cells) {
  n <- nrow(standing_areas(cells$areas))
  outer <- outer_levels(block, cells$sets$across)
  if (length(outer) == n) outer else seq_len(n)
}

# Panels in a row so that each comes nearest to three quarters as high as wide; without
# a height, about as many rows as columns.
page_wrap <- function(block, width_mm, height_mm, house) {
  panels <- panel_sequence(block, cells_of(block))
  n <- length(panels)
  # More columns than the least panels and their tick text leave room for are of no use.
  columns <- seq_len(min(n, max(1, floor(width_mm / (house$least_panel_mm$width + 7)))))
  # Outer levels stay in a row where that has room for them.
  nested <- anyDuplicated(panels) > 0
  if (nested && max(tabulate(panels)) <= max(columns)) {
    columns <- columns[columns >= max(tabulate(panels))]
  }
  rows <- vapply(columns, function(k) max(row_places(panels, k)$row), 0)
  shape <- if (is.null(height_mm)) {
    rows / columns
  } else {
    pmax(height_mm / rows - 12, 2) / (width_mm / columns - 10) / 0.75
  }
  # Of equally good shapes the one that leaves the fewest places empty.
  fitness <- abs(log(pmax(shape, 1e-3))) + 0.1 * (rows * columns - n) / n
  columns[which.min(fitness)]
}
