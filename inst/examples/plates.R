# Plates of panels of mixed sizes from the sourdough study. Run with:
#   Rscript inst/examples/plates.R [FOLDER]

library(nelvat)

folder <- c(commandArgs(trailingOnly = TRUE), "demo-output")[1]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
loaves <- study("loaves")
probe <- study("probe")
crumb <- study_file("crumb.png")

slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
raw <- panel(
  probe,
  x = time,
  y = core,
  y_axis = axis_of(title = "As measured (°C)"),
  ink_line(weight = 0.5)
)
cleaned <- panel(
  probe,
  x = time,
  y = median,
  derive = list(median = derived(running_median(core, 15), quantity("Dough core", unit = "°C"))),
  y_axis = axis_of(title = "Running median (°C)"),
  ink_line(weight = 0.5)
)
scatter <- facets(
  panel(loaves, x = rise, y = volume, colour = flour, shape = flour, ink_points()),
  across = hydration
)
pairs <- every_pair(loaves, c(rise, ph, acidity), colour = flour, above = ink_value())
pair <- joint(
  loaves,
  x = rise,
  y = firmness,
  colour = flour,
  keep = firmness < 12,
  ink_points(size = 1),
  ink_fit()
)
heat <- panel(
  correlations(loaves, c(rise, volume, ph, acidity, firmness)),
  x = first,
  y = second,
  colour = r,
  ink_tiles(values = FALSE)
)
boxes <- panel(loaves, x = bakery, y = ph, ink_box())

figure <- plate(
  stacked(scatter, pairs, beside(pair, heat), heights = c(1, 1.8, 1.2)),
  width = "double",
  height = 220,
  note = "All values are made up."
)

plates <- list(
  # A photograph, a mesh with a part of it enlarged, small multiples, a joint figure and boxes.
  mixed = plate(
    stacked(
      beside(
        image_panel(crumb, scale_bar(length = 5, unit = "mm", per_pixel = 0.05)),
        slice = slice,
        zoom(of = "slice", x = c(80, 100), y = c(42, 57), leaders = TRUE),
        widths = c(1.1, 1.2, 0.9)
      ),
      facets(panel(loaves, x = rise, y = volume, colour = flour, ink_points()), across = hydration),
      beside(
        joint(
          loaves,
          x = rise,
          y = firmness,
          colour = flour,
          keep = firmness < 12,
          ink_points(),
          ink_fit()
        ),
        panel(loaves, x = flour, y = ph, colour = flour, ink_box(fill = "light")),
        widths = c(1.3, 1)
      ),
      heights = c(0.6, 0.8, 1.1)
    ),
    width = "double",
    height = 180
  ),
  # A mesh over four rows, with two parts of it enlarged.
  zooms = plate(
    at(slice, rows = 1:4, columns = 1:2),
    at(zoom(of = 1, x = c(30, 50), y = c(22, 37), leaders = TRUE), rows = 1:2, columns = 3),
    at(zoom(of = 1, x = c(80, 100), y = c(42, 57), leaders = TRUE), rows = 3:4, columns = 3),
    width = "double",
    height = 90
  ),
  # Cleaned and raw traces beside each other, and stacked on another page.
  beside = plate(
    beside(raw, cleaned),
    width = "double",
    height = 55,
    share = share_axis("core", "median")
  ),
  stacked = plate(
    stacked(raw, cleaned),
    width = "single",
    height = 90,
    share = share_axis("core", "median")
  ),
  # A figure of mixed blocks at double width, and the same at single width.
  figure = figure,
  single = resize(figure, width = "single", height = 225),
  # A finished plot of another package and an image.
  foreign = plate(
    beside(
      drawn(
        ggplot2::ggplot(loaves$data, ggplot2::aes(rise, volume)) + ggplot2::geom_point(size = 0.8),
        restyle = TRUE
      ),
      boxes,
      image_panel(crumb, scale_bar(length = 5, unit = "mm", per_pixel = 0.05)),
      widths = c(1, 1, 1.1)
    ),
    width = "double",
    height = 68
  )
)

for (name in names(plates)) {
  cat(save_plate(plates[[name]], file.path(folder, paste0("plate-", name, ".pdf"))), sep = "\n")
}
