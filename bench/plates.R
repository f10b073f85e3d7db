# A plate of 8 blocks in PDF: facets of 6, a 4 x 4 matrix, a joint figure, a mesh with two
# zooms, a trace of 13,000 points and a heat map; against the same marks (taken from the
# scene) drawn as raw grid primitives into viewports of the same sizes, without any text.
# Also the share of laying out and fitting labels, by R's profiler.
# Run with `make bench`; medians over `runs` of elapsed seconds, in one process, in turn.

library(nelvat)
library(grid)

runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
loaves <- study("loaves")
slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
describe <- function() {
  plate(
    stacked(
      beside(
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
        every_pair(loaves, c(rise, volume, ph, firmness), colour = flour)
      ),
      beside(
        joint(loaves, x = rise, y = firmness, colour = flour),
        beside(
          slice = slice,
          stacked(
            zoom(of = "slice", x = c(30, 50), y = c(22, 37)),
            zoom(of = "slice", x = c(80, 100), y = c(42, 57))
          ),
          widths = c(2, 1)
        )
      ),
      beside(
        panel(study("probe"), x = time, y = core, ink_line()),
        panel(correlations(loaves), x = first, y = second, colour = r, ink_tiles()),
        widths = c(2, 1)
      )
    ),
    width = 300,
    height = 300
  )
}
draw_nelvat <- function(path) suppressWarnings(save_plate(describe(), path))

scene <- suppressWarnings(as_scene(describe()))
draw_raw <- function(path) {
  cairo_pdf(path, 300 / 25.4, 300 / 25.4)
  grid.newpage()
  for (i in seq_len(nrow(scene$panels))) {
    panel <- scene$panels[i, ]
    pushViewport(
      viewport(
        x = unit(panel$x, "mm"),
        y = unit(300 - panel$y - panel$h, "mm"),
        width = unit(panel$w, "mm"),
        height = unit(panel$h, "mm"),
        just = c(0, 0),
        clip = "on"
      )
    )
    for (layer in scene$marks) {
      own <- layer$table[layer$table$panel == panel$id, ]
      if (!nrow(own)) next
      switch(
        layer$primitive,
        points = grid.points(
          unit(own$x, "npc"),
          unit(own$y, "npc"),
          pch = 21,
          gp = gpar(fill = own$colour, col = NA, fontsize = 5)
        ),
        rects = grid.rect(
          own$x0,
          own$y0,
          own$x1 - own$x0,
          own$y1 - own$y0,
          just = c(0, 0),
          gp = gpar(fill = own$fill, col = NA)
        ),
        segments = grid.segments(own$x0, own$y0, own$x1, own$y1, gp = gpar(col = own$colour)),
        lines = for (one in split(own, own$line)) {
          grid.lines(one$x, one$y, gp = gpar(col = one$colour[1]))
        },
        areas = grid.polygon(
          own$x,
          own$y,
          id = own$area,
          gp = gpar(fill = own$fill[!duplicated(own$area)], col = own$colour[!duplicated(own$area)])
        )
      )
    }
    popViewport()
  }
  dev.off()
}

path <- tempfile(fileext = ".pdf")
ways <- list(raw = draw_raw, nelvat = draw_nelvat)
for (way in ways) way(path)
seconds <- replicate(runs, vapply(ways, function(way) system.time(way(path))[["elapsed"]], 0))
layout <- replicate(runs, {
  fig <- describe()
  profile <- tempfile()
  Rprof(profile, interval = 0.005)
  suppressWarnings(save_plate(fig, path))
  Rprof(NULL)
  total <- summaryRprof(profile)$by.total
  total["\"lay_out\"", "total.time"] / max(total$total.time)
})
cat("A plate of 8 blocks to PDF, medians of", runs, "runs, elapsed seconds\n")
print(
  format(
    data.frame(
      raw_s = median(seconds["raw", ]),
      nelvat_s = median(seconds["nelvat", ]),
      `nelvat/raw` = median(seconds["nelvat", ] / seconds["raw", ]),
      layout_share = median(layout),
      check.names = FALSE
    ),
    digits = 3
  ),
  row.names = FALSE
)
