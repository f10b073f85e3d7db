# Bands of error along lines.

band_opacity <- 0.22

band_marks <- function(lines, x, site, colour) {
  under_points(new_marks("areas", band_areas(lines, x, site, colour)))
}

band_areas <- function(lines, x, site, colour) {
  in_band <- which(!is.na(lines$lower) & !is.na(lines$upper))
  low <- site$unit(lines$lower, lines$panel, "y")
  high <- site$unit(lines$upper, lines$panel, "y")
  # A band that reaches below what the axis can show goes to its end.
  low[is.nan(low)] <- 0
  parts <- split(in_band, lines$series[in_band])
  stack_tables(
    Map(
      function(rows, area) {
        around <- c(rows, rev(rows))
        new_table(
          panel = lines$panel[around],
          area = area,
          x = x[around],
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
