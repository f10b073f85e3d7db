# How high a page the blocks of a plate need, and over which pages they go.

# A height at which panels have the shape they look best at.
natural_height <- function(grid, width_mm, house) {
  across <- width_mm - sum(grid$columns$mm) - around_mm * (nrow(grid$columns) - 1)
  wanted <- vapply(
    which(!is.na(grid$places$x0)),
    function(i) {
      across_share <- block_share(grid, i, "x")
      down <- block_share(grid, i, "y")
      high <- block_size(grid$blocks[[i]], across_share$mm + across_share$share * across, house)[[
        "high"
      ]]
      if (down$share > 0) (high - down$mm) / down$share else 0
    },
    0
  )
  round(max(30, max(wanted) + sum(grid$rows$mm) + (around_mm + 3) * nrow(grid$rows) + 12))
}

low_mm <- 25 # no panel is made lower, before a plate goes over pages

# Rows of the grid by page, where the house's greatest height does not hold its panels at a height
# that they are still read at: as many rows as their natural heights fill. NULL where one page holds
# all, or no line parts the rows.
pages_of_rows <- function(grid, width_mm, natural_mm, house) {
  n_rows <- nrow(grid$rows)
  most <- house$page$height_most_mm
  if (n_rows < 2 || !is.null(grid$key)) return(NULL)
  high <- pmax(10, grid$rows$mm + grid$rows$share * (natural_mm - 12))
  # A page a quarter too low for the natural heights still has panels of good shapes.
  if (sum(high * low_share(grid, width_mm, house)) + 12 <= most || natural_mm <= 1.25 * most) {
    return(NULL)
  }
  joined <- joined_rows(grid)
  page <- integer(n_rows)
  page[1] <- 1L
  for (row in seq_len(n_rows)[-1]) {
    rows_of_page <- which(page == page[row - 1])
    page[row] <- page[row - 1] + (!joined[row - 1] && sum(high[c(rows_of_page, row)]) + 12 > most)
  }
  if (max(page) > 1) unname(split(seq_len(n_rows), page))
}

# The least height of a plate with all its panels at least `low_mm` high, as a part of its natural
# one.
low_share <- function(grid, width_mm, house) {
  across <- width_mm - around_mm * nrow(grid$columns)
  lows <- vapply(
    which(!is.na(grid$places$x0)),
    function(i) {
      across_share <- block_share(grid, i, "x")
      block <- grid$blocks[[i]]
      size <- block_size(block, across_share$mm + across_share$share * across, house)
      around <- around_mm + 3
      (around + rows_of_panels(block) * low_mm) / (around + size[["high"]])
    },
    0
  )
  min(1, max(lows))
}

rows_of_panels <- function(block) {
  if (inherits(block, "nelvat_zoom")) 1 else max(standing_areas(cells_of(block)$areas)$row)
}

# Whether each row of the grid stays with the next: a block stands over both, or a zoom and what it
# shows.
joined_rows <- function(grid) {
  places <- grid$places
  spans <- lapply(seq_len(nrow(places)), function(i) {
    host <- grid$blocks[[i]]$zoom$of
    rows <- c(places$y0[i], places$y1[i], if (!is.null(host)) c(places$y0[host], places$y1[host]))
    range(rows, na.rm = TRUE)
  })
  vapply(
    seq_len(nrow(grid$rows)),
    function(row) {
      any(vapply(spans, function(span) span[1] <= row && span[2] > row, NA))
    },
    NA
  )
}
