# The emptiest place of a panel, found by counting ink: how many points of marks fall where the text
# would stand.

corner_inset_mm <- 1

# Words that may stand anywhere, with positions: those of a panel one under the other in the place
# that has least ink, or, of words of a part of it (x0, x1, y0, y1), in that part. texts: those that
# stand already.
in_corners <- function(layer, marks, panels, house, font, texts = list()) {
  table <- layer$table
  if (!is.null(table$x0)) return(in_parts(layer, marks, panels, font, texts))
  parts <- lapply(split(seq_len(nrow(table)), table$panel), function(rows) {
    one_panel <- panels[panels$id == table$panel[rows[1]], ]
    lines <- corner_lines(table, rows, one_panel, font)
    laid <- lines$laid
    heights <- lines$heights
    ink <- with_texts(ink_points_of(marks, one_panel$id), texts, one_panel)
    corner <- emptiest_corner(max(widest_mm(laid)), sum(heights), one_panel, ink, anywhere = TRUE)
    below <- c(0, cumsum(heights)[-length(heights)])
    down <- 1 - corner$y
    new_table(
      panel = one_panel$id,
      x = corner$x,
      y = corner$y,
      string = table$string[rows],
      size_pt = table$size_pt[rows],
      across = corner$x,
      down = down,
      colour = table$colour[rows],
      dx_mm = corner_inset_mm * (1 - 2 * corner$x),
      dy_mm = corner_inset_mm * (1 - 2 * corner$y) + down * (sum(heights) - heights) - below,
      most_mm = one_panel$w - 2 * corner_inset_mm,
      .rows = length(rows)
    )
  })
  layer$table <- stack_tables(parts)
  layer
}

# Words that each stand in a part of a panel, where there is room for them.
in_parts <- function(layer, marks, panels, font, texts) {
  rows <- lapply(seq_len(nrow(layer$table)), function(row) {
    one <- table_rows(layer$table, row)
    one_panel <- panels[panels$id == one$panel, ]
    part <- one_panel
    part$w <- one_panel$w * (one$x1 - one$x0)
    part$h <- one_panel$h * (one$y1 - one$y0)
    lines <- corner_lines(one, 1, one_panel, font)
    wide <- widest_mm(lines$laid)
    if (min(part$w - wide, part$h - lines$heights) < 2 * corner_inset_mm) return(NULL)
    ink <- with_texts(ink_points_of(marks, one_panel$id), texts, one_panel)
    ink <- changed(
      ink,
      x = (ink$x - one$x0) / (one$x1 - one$x0),
      y = (ink$y - one$y0) / (one$y1 - one$y0)
    )
    corner <- emptiest_corner(wide, lines$heights, part, ink, anywhere = TRUE)
    changed(
      one[setdiff(names(one), c("x0", "x1", "y0", "y1"))],
      x = one$x0 + corner$x * (one$x1 - one$x0),
      y = one$y0 + corner$y * (one$y1 - one$y0),
      across = corner$x,
      down = 1 - corner$y,
      dx_mm = corner_inset_mm * (1 - 2 * corner$x),
      dy_mm = corner_inset_mm * (1 - 2 * corner$y)
    )
  })
  layer$table <- stack_tables(rows) %||% table_rows(layer$table, integer())
  layer
}

# Words of one panel in lines, and the height of each: list(laid, heights).
corner_lines <- function(table, rows, panel, font) {
  laid <- lapply(
    rows,
    function(row) {
      set_text(table$string[row], table$size_pt[row], font, panel$w - 2 * corner_inset_mm, 4L)
    }
  )
  list(
    laid = laid,
    heights = vapply(laid, function(one) text_height_mm(one$n_lines, one$size_pt, font), 0)
  )
}

# A text in the way is worse than any mark.
text_weight <- 1e5

# The places of marks and those that texts take, in unit-panel coordinates.
with_texts <- function(ink, texts, panel) {
  meets <- function(box) {
    !is.null(box) && box$x1 > panel$x && box$x0 < panel$x + panel$w && box$y1 > panel$y &&
      box$y0 < panel$y + panel$h
  }
  for (box in Filter(meets, texts)) {
    grid <- expand.grid(
      x = seq(box$x0, box$x1, length.out = 9),
      y = seq(box$y0, box$y1, length.out = 5)
    )
    ink <- list(
      x = c(ink$x, (grid$x - panel$x) / panel$w),
      y = c(ink$y, 1 - (grid$y - panel$y) / panel$h),
      weight = c(ink_weights(ink), rep(text_weight, nrow(grid)))
    )
  }
  ink
}

# How much each place of a panel's ink counts.
ink_weights <- function(ink) ink$weight %||% rep(1, length(ink$x))

# Top right first: where places are equally empty, the first is taken. anywhere: not only corners,
# where none of these is empty? Returns list(x, y, covered): where the text stands, 0 to 1 of the
# room that it leaves, and how many places of marks it covers (`text_weight` and more where it is a
# text).
emptiest_corner <- function(width_mm, height_mm, panel, ink, anywhere = FALSE) {
  reach_x <- (width_mm + 2 * corner_inset_mm) / panel$w
  reach_y <- (height_mm + 2 * corner_inset_mm) / panel$h
  weights <- ink_weights(ink)
  covered_at <- function(x, y) {
    left <- x * (1 - reach_x)
    low <- y * (1 - reach_y)
    within <- ink$x > left & ink$x < left + reach_x & ink$y > low & ink$y < low + reach_y
    sum(weights[which(within)])
  }
  spots <- data.frame(x = c(1, 0, 1, 0), y = c(1, 1, 0, 0))
  covered <- mapply(covered_at, spots$x, spots$y)
  if (anywhere && min(covered) > 0) {
    inner <- expand.grid(x = c(1, 0, 0.5, 0.75, 0.25), y = c(1, 0, 0.75, 0.25, 0.5))
    spots <- rbind(spots, inner)
    covered <- c(covered, mapply(covered_at, inner$x, inner$y))
  }
  best <- which.min(covered)
  list(x = spots$x[best], y = spots$y[best], covered = covered[best])
}

# Points of the marks of a panel, in unit-panel coordinates; along lines and over rectangles as
# many as it takes that no text stands between two of them.
ink_points_of <- function(marks, id) {
  points <- lapply(Filter(function(layer) layer$primitive != "words", marks), function(layer) {
    panel_marks <- table_rows(layer$table, which(layer$table$panel == id))
    switch(
      layer$primitive,
      points = list(x = panel_marks$x, y = panel_marks$y),
      lines = between_points(panel_marks$x, panel_marks$y, panel_marks$line),
      areas = along_outlines(panel_marks$x, panel_marks$y, panel_marks$area),
      rects = over_rects(panel_marks),
      segments = between_points(
        as.vector(rbind(panel_marks$x0, panel_marks$x1)),
        as.vector(rbind(panel_marks$y0, panel_marks$y1)),
        rep(seq_along(panel_marks$x0), each = 2)
      )
    )
  })
  list(x = unlist(lapply(points, `[[`, "x")), y = unlist(lapply(points, `[[`, "y")))
}

between_share <- 0.02 # of a panel's side, between points along a line

# Points of paths and between them. line: which path each point is of.
between_points <- function(x, y, line) {
  n <- length(x)
  if (n < 2) return(list(x = x, y = y))
  long <- pmax(abs(diff(x)), abs(diff(y)))
  pieces <- pmin(ceiling(long / between_share), 60)
  far <- which(line[-1] == line[-n] & is.finite(pieces) & pieces > 1)
  if (!length(far)) return(list(x = x, y = y))
  start <- rep(far, pieces[far] - 1)
  share <- sequence(pieces[far] - 1) / rep(pieces[far], pieces[far] - 1)
  list(
    x = c(x, x[start] + share * (x[start + 1] - x[start])),
    y = c(y, y[start] + share * (y[start + 1] - y[start]))
  )
}

# Outlines of areas: their points, and those between them, the last and the first too.
along_outlines <- function(x, y, area) {
  rows <- unlist(lapply(split(seq_along(x), area), function(rows) c(rows, rows[1])))
  between_points(x[rows], y[rows], area[rows])
}

over_rects <- function(rects) {
  share <- expand.grid(x = 0:4 / 4, y = 0:4 / 4)
  n <- nrow(rects)
  list(
    x = rep(rects$x0, each = 25) + rep(rects$x1 - rects$x0, each = 25) * rep(share$x, n),
    y = rep(rects$y0, each = 25) + rep(rects$y1 - rects$y0, each = 25) * rep(share$y, n)
  )
}

# Marks that layers draw: neither grid lines nor outlines of enlarged parts.
layer_marks <- function(marks) Filter(function(one) !is.null(one$layer), marks)

# Places where a panel shows data: those of ink_points_of(), and all over what is filled.
covered_places <- function(marks, id) {
  marks <- layer_marks(marks)
  filled <- lapply(
    Filter(function(one) one$primitive %in% c("areas", "rects"), marks),
    function(one) {
      inside_filled(table_rows(one$table, which(one$table$panel == id)), one$primitive)
    }
  )
  points <- c(list(ink_points_of(marks, id)), filled)
  list(x = unlist(lapply(points, `[[`, "x")), y = unlist(lapply(points, `[[`, "y")))
}

fill_share <- 0.04 # of a panel's side, between places in what is filled

# Places on a grid over the panel that lie in areas or rectangles larger than its cells.
inside_filled <- function(table, primitive) {
  grid <- expand.grid(x = seq(0, 1, by = fill_share), y = seq(0, 1, by = fill_share))
  shapes <- if (primitive == "areas") {
    split(data.frame(x = table$x, y = table$y), table$area)
  } else {
    Map(
      function(x0, x1, y0, y1) list(x = c(x0, x1, x1, x0), y = c(y0, y0, y1, y1)),
      table$x0,
      table$x1,
      table$y0,
      table$y1
    )
  }
  is_inside <- logical(nrow(grid))
  for (shape in shapes) {
    if (
      !all(is.finite(c(shape$x, shape$y))) ||
        min(diff(range(shape$x)), diff(range(shape$y))) < fill_share
    ) {
      next
    }
    is_inside <- is_inside | inside_polygon(grid$x, grid$y, shape$x, shape$y)
  }
  list(x = grid$x[is_inside], y = grid$y[is_inside])
}

# Are points in a polygon, by the even-odd rule (a ray to the right crosses its sides an odd number
# of times)?
inside_polygon <- function(x, y, corner_x, corner_y) {
  next_x <- c(corner_x[-1], corner_x[1])
  next_y <- c(corner_y[-1], corner_y[1])
  inside <- logical(length(x))
  for (i in which(corner_y != next_y)) {
    crossed <- (corner_y[i] > y) != (next_y[i] > y)
    at_x <- corner_x[i] + (y - corner_y[i]) / (next_y[i] - corner_y[i]) * (next_x[i] - corner_x[i])
    inside <- xor(inside, crossed & x < at_x)
  }
  inside
}
