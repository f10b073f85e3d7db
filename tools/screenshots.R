# Makes docs/screenshots/ from the demo study: Rscript tools/screenshots.R

library(nelvat)
folder <- file.path("docs", "screenshots")
responses <- plate(
  facets(
    panel(study("loaves"), x = flour, y = c(rise, volume, ph, acidity, firmness, moisture), colour = hydration, ink_bars()),
    wrap = 3
  ),
  width = "double", height = 120
)
scatter <- plate(
  facets(panel(study("loaves"), x = rise, y = firmness, colour = flour, shape = flour, ink_points(alpha = 0.8)), across = hydration),
  width = "double", height = 70
)
save_plate(responses, file.path(folder, "responses.png"), dpi = 180)
save_plate(scatter, file.path(folder, "scatter.png"), dpi = 180)
