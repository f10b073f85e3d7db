# Headings, tick text and axis titles on the page. own: one block's list(block, frame,
# fits, parts).

place_headings <- function(panels, own, house, font) {
  rule_y <- heading_rule_y(panels, own, house)
  lapply(seq_along(own$parts$headings), function(i) {
    laid <- own$parts$headings[[i]]
    if (is.null(laid)) return(NULL)
    place_text(
      "heading", laid, panels$x[i], rule_y[i] - house$space_mm$heading_gap, font, down = 1, panel = panels$id[i]
    )
  })
}

# Where a panel's heading rule stands: above its marginal, where it has one.
heading_rule_y <- function(panels, own, house) {
  above <- 0
  if (any(own$block$strips$side == "x")) {
    above <- rep_len(strip_depth(own$block, own$frame, house)$x + own$block$design$marginals$gap, nrow(panels))
  }
  panels$y - above - house$space_mm$heading_above_panel
}

# Headings of outer tiers: flush left over a rule across their columns, above the inner ones.
place_spans <- function(own, house, font) {
  spans <- own$block$cells$spans
  if (is.null(spans)) return(NULL)
  rule_y <- span_rule_y(own)
  lapply(seq_len(nrow(spans)), function(i) {
    place_text(
      "heading", own$parts$spans[[i]], own$frame$x$start_mm[spans$from[i]], rule_y[i] - house$space_mm$heading_gap,
      font, down = 1
    )
  })
}

# The rule of a tier stands above everything of the tiers within it.
span_rule_y <- function(own) {
  spans <- own$block$cells$spans
  reach <- own$frame$reach
  top <- own$frame$y$start_mm[spans$row] - reach$decor_top[spans$row] - sum(reach$span_mm)
  top + cumsum(reach$span_mm)[spans$tier]
}

span_gap_mm <- 1.2

# Headings of rows, right of the last column: level where there is room, else turned.
place_sides <- function(own, panels, font) {
  sides <- own$block$cells$sides
  if (is.null(sides)) return(NULL)
  side <- own$parts$sides
  panels <- panels[panels$role == "panel", ]
  x <- max(panels$x + panels$w) + utils::tail(own$frame$reach$right_inner, 1) + side_gap_mm
  lapply(seq_len(nrow(sides)), function(i) {
    row <- panels[panels$row == sides$row[i], ]
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
    one_panel <- panels[i, ]
    laid <- set_text("no data", house$type_pt$least, font, one_panel$w, 2L)
    place_text(
      "note", laid, one_panel$x + one_panel$w / 2, one_panel$y + one_panel$h / 2, font, across = 0.5, down = 0.5,
      panel = one_panel$id
    )
  })
}

place_tick_texts <- function(panels, axes, fits, house, font) {
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  unlist(Map(function(axis, fit) {
    unlist(lapply(axis$drawn_at, function(id) {
      one_panel <- panels[panels$id == id, ]
      place <- if (axis$direction == "x") place_tick_below else place_tick_beside
      Map(function(laid, unit) place(laid, unit, one_panel, beyond, fit, font), fit$laid, fit$unit[fit$kept])
    }), recursive = FALSE)
  }, axes, fits), recursive = FALSE)
}

place_tick_below <- function(laid, unit, panel, beyond, fit, font) {
  x <- panel$x + unit * panel$w
  y <- panel$y + panel$h + beyond
  if (fit$angle == 0) return(place_text("tick", laid, x, y, font, across = 0.5, panel = panel$id))
  half_mm <- text_height_mm(1, laid$size_pt, font) / 2
  place_text(
    "tick", laid, x, y + half_mm * cos(fit$angle * pi / 180), font, across = 1, down = 0.5, angle = fit$angle,
    panel = panel$id
  )
}

place_tick_beside <- function(laid, unit, panel, beyond, fit, font) {
  place_text(
    "tick", laid, panel$x - beyond, panel$y + (1 - unit) * panel$h, font, across = 1, down = 0.5, panel = panel$id
  )
}

# Titles of neighbours stand on one line: beyond the deepest tick text there.
place_titles <- function(panels, own, house, font) {
  titles <- own$parts$titles
  reach <- own$frame$reach
  frame <- own$frame
  middle <- function(track) (track$start_mm[1] + utils::tail(track$start_mm + track$length_mm, 1)) / 2
  left <- function(column) frame$x$start_mm[column] - reach$left[column]
  below <- function(row) {
    frame$y$start_mm[row] + frame$y$length_mm[row] + reach$bottom_ticks[row] + house$space_mm$title_gap
  }
  title <- function(laid, x, y, ..., panel = NA_integer_) {
    if (!is.null(laid)) place_text("axis title", laid, x, y, font, across = 0.5, ..., panel = panel)
  }
  c(
    list(
      title(titles$x_block, middle(frame$x), below(length(frame$y$start_mm))),
      title(titles$y_block, left(1), middle(frame$y), angle = 90)
    ),
    lapply(
      seq_along(titles$x_each),
      function(i) title(titles$x_each[[i]], panels$x[i] + panels$w[i] / 2, below(panels$row[i]), panel = panels$id[i])
    ),
    lapply(
      seq_along(titles$y_each),
      function(i) {
        title(
          titles$y_each[[i]], left(panels$column[i]), panels$y[i] + panels$h[i] / 2, angle = 90, panel = panels$id[i]
        )
      }
    )
  )
}
