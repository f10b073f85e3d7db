# name: own
# Your own table
dough <- data.frame(
  flour = rep(c("w", "s", "r"), each = 8),
  hours = rep(c(2, 4, 6, 8), 6),
  rise = c(
    18, 34, 52, 66, 21, 37, 49, 70, 15, 29, 41, 55, 12, 27, 44, 51, 9, 17, 24, 31, 8, 15, 27, 33
  )
)
book <- codebook(
  dough,
  flour = category("Flour", names = c(w = "Wheat", s = "Spelt", r = "Rye")),
  hours = quantity("Time", unit = "h"),
  rise = quantity("Loaf rise", unit = "mm")
)
fig <- plate(
  panel(book, x = flour, y = rise, ink_box(), ink_points()),
  panel(book, x = hours, y = rise, colour = flour, ink_points(), ink_fit()),
  width = "double",
  height = 70
)

# name: responses
# Six measures, one panel each
plate(
  facets(
    panel(
      study("loaves"),
      x = flour,
      y = c(rise, volume, ph, acidity, firmness, moisture),
      colour = hydration,
      ink_bars(error = "sd")
    ),
    per_row = 3
  ),
  width = "double",
  height = 120
)

# name: facets
# Small multiples with a fit in each
plate(
  facets(
    panel(study("loaves"), x = rise, y = moisture, ink_points(), ink_fit(equation = TRUE)),
    across = flour,
    down = hydration,
    behind = TRUE
  ),
  width = "double",
  height = 130
)

# name: contrasts
# Groups compared: brackets, stars within each category, letters
loaves <- study("loaves")
stars <- ink_contrasts(between = "wheat", show = "stars")
letters <- ink_contrasts(test = "tukey", show = "letters")
plate(
  panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
  panel(loaves, x = hydration, y = volume, colour = flour, ink_bars(), stars),
  panel(loaves, x = flour, y = ph, ink_dots(), letters),
  per_row = 3,
  width = "double",
  height = 85,
  share = FALSE
)

# name: pairs
# Every pair of four measures, with correlations
plate(
  every_pair(
    study("loaves"),
    c(rise, volume, ph, acidity),
    colour = flour,
    above = ink_value(),
    names = "diagonal"
  ),
  width = "double",
  height = 130
)

# name: joint
# One pair closely: a line for each flour, and marginals
plate(
  joint(
    study("loaves"),
    x = rise,
    y = firmness,
    colour = flour,
    keep = firmness < 12,
    ink_points(opacity = 0.6),
    ink_fit(equation = TRUE),
    marginal = list(x = list(ink_density(), ink_rug()), y = ink_box())
  ),
  width = 120,
  height = 105
)

# name: hexagons
# Sixty thousand values in hexagons
plate(
  joint(study("pores"), x = log10(area), y = roundness, ink_hexagons()),
  width = "single",
  height = 80
)

# name: zooms
# A mesh with two parts enlarged
slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
plate(
  at(slice, rows = 1:4, columns = 1:2),
  at(zoom(of = 1, x = c(30, 50), y = c(22, 37), leaders = TRUE), rows = 1:2, columns = 3),
  at(zoom(of = 1, x = c(80, 100), y = c(42, 57), leaders = TRUE), rows = 3:4, columns = 3),
  width = "double",
  height = 90
)

# name: plate
# Blocks of unlike size on one page
loaves <- study("loaves")
slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
pair <- joint(
  loaves,
  x = rise,
  y = firmness,
  colour = flour,
  keep = firmness < 12,
  ink_points(),
  ink_fit()
)
plate(
  stacked(
    beside(slice = slice, zoom(of = "slice", x = c(80, 100), y = c(42, 57)), widths = c(2, 1)),
    pair,
    heights = c(0.6, 1)
  ),
  width = "double",
  height = 140
)

# name: statistics
# Comparisons, paired tasters, a forest plot and a dose-response, from a figure file
read_figure(system.file("paper", "figure-5.yaml", package = "nelvat"))$plate
