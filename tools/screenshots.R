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
save_plate(plate(facets(
  panel(study("loaves"), x = rise, y = moisture, ink_points(), ink_fit(equation = TRUE)), across = flour, down = hydration, behind = TRUE
), width = "double", height = 130), file.path(folder, "facets.png"), dpi = 180)

# All panels of examples/inks.R on one sheet, at true size beside each other.
example <- parse("examples/inks.R")
keep <- !vapply(example, function(one) grepl("folder|^for", deparse(one)[1]), NA)
suppressWarnings(for (one in example[keep]) eval(one))
panels$polygons <- NULL # looks as the mesh does
columns <- 5
sheet <- list(width = 86, height = 65)
rows <- ceiling(length(panels) / columns)
png(file.path(folder, "inks.png"), width = columns * sheet$width, height = rows * sheet$height, units = "mm", res = 85, type = "cairo")
grid::grid.newpage()
for (i in seq_along(panels)) {
  grid::pushViewport(grid::viewport(
    x = grid::unit(((i - 1) %% columns + 0.5) * sheet$width, "mm"), y = grid::unit(1, "npc") - grid::unit(((i - 1) %/% columns + 0.5) * sheet$height, "mm"),
    width = grid::unit(sheet$width, "mm"), height = grid::unit(sheet$height, "mm")
  ))
  grid::grid.draw(suppressWarnings(as_grob(plate(panels[[i]], width = sheet$width - 4, height = sheet$height - 4))))
  grid::popViewport()
}
invisible(dev.off())
