# Bands of error along lines.

band_opacity <- 0.22
lone_band_mm <- 0.8

band_marks <- function(lines, x, site, colour) {
  under_points(new_marks("areas", band_areas(lines, x, site, colour)))
}

# What runs along curves of shares with their limits; NULL for none.
share_traces <- function(curves) {
  if (is.null(curves)) return(NULL)
  new_table(
    finding = curves$series,
    x = curves$x,
    share = curves$y,
    lower = curves$lower,
    upper = curves$upper
  )
}

# Lines of series, each in its colour and dash.
series_lines <- function(curves, x, y, looks, weight_pt) {
  new_marks(
    "lines",
    new_table(
      panel = curves$panel,
      line = curves$series,
      x = x,
      y = y,
      colour = looks$colour[curves$series],
      weight_pt = weight_pt,
      dash = looks$dash[curves$series],
      opacity = 1,
      .rows = nrow(curves)
    )
  )
}

band_areas <- function(lines, x, site, colour) {
  low <- suppressWarnings(site$unit(lines$lower, lines$panel, "y"))
  high <- suppressWarnings(site$unit(lines$upper, lines$panel, "y"))
  # Where a limit is none that the axis can show there is no band, as is told.
  shown <- is.finite(low) & is.finite(high)
  run <- cumsum(c(TRUE, diff(lines$series) != 0 | diff(shown) != 0))
  in_band <- which(shown)
  parts <- split(in_band, run[in_band])
  stack_tables(
    Map(
      function(rows, area) {
        lone <- length(rows) == 1
        if (lone) rows <- c(rows, rows)
        around <- c(rows, rev(rows))
        # Of one place a band is a bar, a little wider than a line.
        aside <- if (lone) {
          c(-1, 1, 1, -1) * lone_band_mm / 2 / site$panel_w(lines$panel[rows[1]])
        } else {
          0
        }
        new_table(
          panel = lines$panel[around],
          area = area,
          x = x[around] + aside,
          y = c(low[rows], rev(high[rows])),
          fill = colour[around],
          opacity = band_opacity,
          colour = NA_character_,
          weight_pt = 0,
          .rows = length(around)
        )
      },
      parts,
      as.integer(names(parts))
    )
  )
}

# Is there a band that is seen? Two points, or a fit that is exact, have none.
has_band <- function(curves) {
  if (is.null(curves)) return(FALSE)
  width <- curves$upper - curves$lower
  any(is.finite(width) & width > 1e-9 * max(abs(curves$y), 0, na.rm = TRUE))
}
