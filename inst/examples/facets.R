# Faceted grids from the sourdough study. Run with:
#   Rscript inst/examples/facets.R [FOLDER]

library(nelvat)

folder <- c(commandArgs(trailingOnly = TRUE), "demo-output")[1]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
loaves <- study("loaves")

plates <- list(
  # Bars of two factors over six measures.
  measures = plate(
    facets(
      panel(
        loaves,
        x = flour,
        y = c(rise, volume, ph, acidity, firmness, moisture),
        colour = hydration,
        ink_bars()
      ),
      per_row = 3
    ),
    width = "double",
    height = 120
  ),
  # Histograms over three variables, two of them nested.
  histograms = plate(
    facets(
      panel(loaves, x = rise, ink_histogram(width = 10)),
      across = c(verdict, bakery),
      down = hydration,
      heading = c(across = "{level} (n = {n})", down = "{level}{unit}")
    ),
    width = "double",
    height = 110
  ),
  # A grid of scatters, each with its fitted line and equation, all other loaves behind.
  fits = plate(
    facets(
      panel(loaves, x = rise, y = moisture, ink_points(), ink_fit(equation = TRUE)),
      across = flour,
      down = hydration,
      behind = TRUE
    ),
    width = "double",
    height = 130
  ),
  # Daily counts as small multiples with a date axis.
  days = plate(
    facets(
      panel(
        counts(loaves, baked, bakery),
        x = baked,
        y = n,
        ink_step(),
        x_axis = axis_of(every = "2 weeks", minor = "1 week")
      ),
      across = bakery
    ),
    width = "double",
    height = 55
  ),
  # Four channels in one column on one time axis, their gaps shown.
  channels = plate(
    facets(
      panel(
        study("probe"),
        x = time,
        y = c(chamber, surface, core, gas),
        ink_line(),
        x_axis = axis_of(every = "12 hours", minor = "3 hours")
      ),
      per_row = 1
    ),
    width = "double",
    height = 130
  ),
  # Each row and column of panels as a whole, outside the grid.
  edges = plate(
    marginals(
      facets(
        panel(study("loaves"), x = rise, y = moisture, ink_points()),
        across = flour,
        down = hydration
      ),
      x = ink_histogram(),
      y = ink_box(),
      outside = TRUE
    ),
    width = "double",
    height = 120
  ),
  # 24 long-named levels.
  dishes = plate(
    facets(
      panel(
        study("cultures"),
        x = hour,
        y = log10(count),
        keep = dish <= 3,
        derive = list(where = derived(paste("Colonies of", microbe, "in dish", dish))),
        ink_line()
      ),
      across = where,
      per_row = 6
    ),
    width = "double",
    height = 150
  )
)

for (name in names(plates)) {
  path <- file.path(folder, paste0("facets-", name, ".pdf"))
  save_plate(plates[[name]], path)
  cat(path, "\n", sep = "")
}
