# How files of each format come about: the time of ragg's bitmaps against those of R's own cairo
# device, and the size of PDFs by the scale that marks and text are drawn at.

library(nelvat)
private <- function(name) get(name, asNamespace("nelvat"))
rounds <- 5
set.seed(1)

seconds <- function(code) system.time(code)[["elapsed"]]

# Bitmaps ---------------------------------------------------------------------------
design <- every_pair(
  as.data.frame(matrix(rnorm(6000), ncol = 6)),
  c(V1, V2, V3, V4, V5, V6),
  above = ink_points()
)
scene <- suppressWarnings(as_scene(plate(design, width = 178, height = 170)))
grob <- as_grob(scene)
draw <- function(open, path) {
  open(path)
  grid::grid.newpage()
  grid::grid.draw(grob)
  invisible(grDevices::dev.off())
}
by_cairo <- function(path) {
  grDevices::png(path, 178, 170, units = "mm", res = 600, type = "cairo", antialias = "subpixel")
}
by_ragg <- function(path) ragg::agg_png(path, 178, 170, units = "mm", res = 600)
times <- t(
  replicate(rounds, {
    path <- tempfile(fileext = ".png")
    c(
      cairo = seconds(draw(by_cairo, path)),
      cairo_kb = file.size(path) / 1000,
      ragg = seconds(draw(by_ragg, path)),
      ragg_kb = file.size(path) / 1000
    )
  })
)
cat(
  sprintf(
    paste0(
      "PNG, 36 panels of 1,000 points at 600 dpi: cairo %.2f s (%.0f kB), ",
      "ragg %.2f s (%.0f kB), ragg / cairo %.2f\n"
    ),
    median(times[, "cairo"]),
    median(times[, "cairo_kb"]),
    median(times[, "ragg"]),
    median(times[, "ragg_kb"]),
    median(times[, "ragg"] / times[, "cairo"])
  )
)

# Sizes of PDFs by scale ----------------------------------------------------------------
cloud <- plate(
  panel(data.frame(x = rnorm(60000), y = rnorm(60000)), x = x, y = y, ink_points(opacity = 0.3)),
  width = "single",
  height = 80
)
words <- plate(
  facets(
    panel(study("loaves"), x = flour, y = c(rise, volume, ph), colour = hydration, ink_bars()),
    per_row = 3
  ),
  width = "double",
  height = 70
)
size <- function(scene, scale) {
  length(
    private("cairo_pdf_bytes")(
      scene,
      list(private("scene_grob")(scene, scale, corner = TRUE)),
      scale
    )
  )
}
scales <- c(1, 2, 4, 5, 10, 20, 50)
clouds <- vapply(scales, function(scale) size(as_scene(cloud), scale), 0)
pages <- vapply(scales, function(scale) size(suppressWarnings(as_scene(words)), scale), 0)
print(
  data.frame(
    scale = scales,
    points_60000_kb = round(clouds / 1000),
    text_kb = round(pages / 1000, 1)
  ),
  row.names = FALSE
)
