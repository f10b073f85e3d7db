# Where the values of isolines are written: in a gap of the longest line of each value, at the place
# where it turns least, the text along it.

isoline_gap_mm <- 0.5 # of a line, on each side of its value

# A row a value: panel, line, x, y, angle, string, half_mm (half of the gap).
isoline_labels <- function(lines, line, x, y, site) {
  size <- site$house$type_pt$least
  rows_of <- split(seq_along(line), line)
  length_of <- vapply(
    rows_of,
    function(rows) sum(steps_mm(rows, x, y, lines$panel, site)),
    0
  )
  first <- vapply(rows_of, `[`, 0L, 1L)
  value <- paste(lines$panel, lines$level)[first]
  chosen <- vapply(split(seq_along(first), value), function(i) i[which.max(length_of[i])], 0L)
  chosen <- chosen[order(lines$panel[first[chosen]], lines$level[first[chosen]])]
  placed <- NULL
  for (k in chosen) {
    rows <- rows_of[[k]]
    string <- number_text_each(lines$level[rows[1]], 6)
    text_mm <- site$text_mm(string, size)
    half <- text_mm$width / 2 + isoline_gap_mm
    place <- straight_spot(rows, x, y, lines$panel, site, half, text_mm$height, placed)
    if (is.null(place)) next
    placed <- stack_tables(
      list(
        placed,
        new_table(
          panel = lines$panel[rows[1]],
          line = k,
          x = place$x,
          y = place$y,
          angle = place$angle,
          string = string,
          half_mm = half,
          .rows = 1L
        )
      )
    )
  }
  placed
}

steps_mm <- function(rows, x, y, area, site) {
  w <- site$panel_w(area[rows[1]])
  h <- site$panel_h(area[rows[1]])
  sqrt((diff(x[rows]) * w)^2 + (diff(y[rows]) * h)^2)
}

# Places at even steps along one line, of which the straightest that is off the panel's edge and off
# other values is taken; NULL where the line has none.
straight_spot <- function(rows, x, y, area, site, half, high, placed) {
  one_area <- area[rows[1]]
  w <- site$panel_w(one_area)
  h <- site$panel_h(one_area)
  along <- c(0, cumsum(steps_mm(rows, x, y, area, site)))
  total <- along[length(along)]
  if (total < 4 * half) return(NULL)
  at_mm <- function(distance) {
    list(
      x = stats::approx(along, x[rows] * w, distance, ties = "ordered")$y,
      y = stats::approx(along, y[rows] * h, distance, ties = "ordered")$y
    )
  }
  middle <- seq(1.2 * half, total - 1.2 * half, length.out = 60)
  here <- at_mm(middle)
  before <- at_mm(middle - half)
  after <- at_mm(middle + half)
  straight <- sqrt((after$x - before$x)^2 + (after$y - before$y)^2) / (2 * half)
  inside <- here$x > half & here$x < w - half & here$y > high & here$y < h - high
  others <- placed[placed$panel == one_area, ]
  free <- vapply(
    seq_along(middle),
    function(i) {
      !NROW(others) ||
        all(
          sqrt((others$x * w - here$x[i])^2 + (others$y * h - here$y[i])^2) > half + others$half_mm
        )
    },
    NA
  )
  good <- which(inside & free & straight > 0.97)
  if (!length(good)) return(NULL)
  # Of places that are about as straight, the one next to the middle of the line.
  best <- good[which.min(round(1 - straight[good], 2) + 0.02 * abs(middle[good] / total - 0.5))]
  turn <- atan2(after$y[best] - before$y[best], after$x[best] - before$x[best]) * 180 / pi
  if (turn > 90) turn <- turn - 180
  if (turn <= -90) turn <- turn + 180
  list(x = here$x[best] / w, y = here$y[best] / h, angle = turn)
}

# Rows of lines without those in the gaps, each part a line of its own: list(row, line).
line_cuts <- function(written, line, x, y, area, site) {
  row <- seq_along(line)
  kept <- rep(TRUE, length(line))
  for (one in each_row(written)) {
    rows <- which(line == one$line)
    w <- site$panel_w(one$panel)
    h <- site$panel_h(one$panel)
    far <- sqrt(((x[rows] - one$x) * w)^2 + ((y[rows] - one$y) * h)^2)
    kept[rows[far < one$half_mm]] <- FALSE
  }
  part <- cumsum(c(TRUE, diff(line) != 0 | !kept[-1] & kept[-length(kept)]))
  list(row = row[kept], line = part[kept])
}
