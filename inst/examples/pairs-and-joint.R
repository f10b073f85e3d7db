# Scatter-plot matrices and joint figures from the sourdough study. Run from the package
# root:
#   Rscript inst/examples/pairs-and-joint.R [FOLDER]

library(nelvat)

folder <- c(commandArgs(trailingOnly = TRUE), "demo-output")[1]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
loaves <- study("loaves")

plates <- list(
  # Six measures by flour: points below, straight lines above.
  pairs = plate(
    every_pair(
      loaves,
      c(rise, volume, ph, acidity, firmness, moisture),
      colour = flour,
      above = ink_fit()
    ),
    width = "double",
    height = 160
  ),
  # Both halves: densities above, counts on the diagonal, points below.
  contours = plate(
    every_pair(
      loaves,
      c(rise, volume, ph, firmness),
      colour = flour,
      shape = flour,
      above = ink_contours(),
      diagonal = ink_histogram(arrange = "stack"),
      aspect = 1
    ),
    width = 150
  ),
  # Correlations above, by flour.
  correlations = plate(
    every_pair(
      loaves,
      c(rise, volume, ph, acidity),
      colour = flour,
      above = ink_value(),
      names = "diagonal"
    ),
    width = "double",
    height = 130
  ),
  # Two sets of variables against each other, categories among them.
  rectangle = plate(
    every_pair(
      loaves,
      c(rise, volume, flour),
      rows = c(ph, firmness, hydration),
      below = list(ink_points(size = 0.9), ink_fit())
    ),
    width = 140,
    height = 110
  ),
  # One matrix for each hydration, each variable alone at its edges.
  levels = plate(
    marginals(
      every_pair(
        loaves,
        c(rise, volume),
        rows = c(ph, acidity),
        colour = flour,
        within = hydration
      ),
      x = ink_density(),
      y = ink_density(),
      depth = 6
    ),
    width = "double",
    height = 85
  ),
  # One pair with its histograms.
  joint = plate(
    joint(loaves, x = rise, y = volume, ink_points(), aspect = 1),
    width = "single",
    height = 86
  ),
  # Sixty thousand pores, in hexagons, on a logarithmic axis.
  hexagons = plate(
    joint(study("pores"), x = log10(area), y = roundness, ink_hexagons()),
    width = "single",
    height = 80
  ),
  # Filled densities by flour.
  densities = plate(
    joint(loaves, x = rise, y = moisture, colour = flour, ink_contours(filled = TRUE), depth = 14),
    width = 120,
    height = 100
  ),
  # A line for each flour, with its equation.
  fits = plate(
    joint(
      loaves,
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
)

for (name in names(plates)) {
  cat(save_plate(plates[[name]], file.path(folder, paste0("joint-", name, ".pdf"))), sep = "\n")
}
