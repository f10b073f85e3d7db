# Plates of several blocks, as the figures of papers are. In one process, in turn, medians over
# `runs` of elapsed seconds; run with `make bench`:
# - 8 blocks (facets of 6, a 4 x 4 matrix, a joint figure, a mesh with two zooms, a trace of
#   13,000 points and a heat map) to PDF, against the same marks, rules and texts (taken from the
#   scene) drawn as raw grid primitives; with the share of laying out and fitting labels, by R's
#   profiler;
# - 4 blocks (15 panels) to SVG, from one changed argument;
# - 100 blocks of one panel on pages, to PDF.

library(nelvat)
library(grid)

runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
loaves <- study("loaves")
probe <- study("probe")
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
  across <- function(mm) unit(mm, "mm")
  down <- function(mm) unit(300 - mm, "mm")
  rules <- scene$rules
  grid.segments(
    across(rules$x0),
    down(rules$y0),
    across(rules$x1),
    down(rules$y1),
    gp = gpar(col = rules$colour, lwd = rules$weight_pt * 96 / 72)
  )
  for (kind in split(scene$runs, paste(scene$runs$size_pt, scene$runs$angle, scene$runs$bold))) {
    grid.text(
      kind$string,
      across(kind$x),
      down(kind$y),
      just = c(0, 0),
      rot = kind$angle[1],
      gp = gpar(
        col = kind$colour,
        fontsize = kind$size_pt[1],
        fontfamily = kind$family[1],
        fontface = if (kind$bold[1]) "bold" else "plain"
      )
    )
  }
  dev.off()
}

four <- function(error) {
  plate(
    stacked(
      beside(
        facets(
          panel(loaves, x = hydration, y = rise, colour = hydration, ink_box()),
          across = flour,
          per_row = 2
        ),
        every_pair(loaves, c(rise, volume, firmness), above = ink_points())
      ),
      beside(
        panel(loaves, x = flour, y = volume, ink_bars(error = error)),
        panel(probe, x = time, y = core, ink_line())
      )
    ),
    width = "double",
    height = 180
  )
}
hundred <- function() {
  one <- function(i) panel(loaves, x = flour, y = rise, keep = volume > !!i, ink_bars())
  rows <- lapply(0:24, function(row) do.call(beside, lapply(4 * row + 1:4, one)))
  plate(do.call(stacked, rows), width = "double", height = NULL)
}

path <- tempfile(fileext = ".pdf")
seconds <- function(code) system.time(suppressWarnings(code))[["elapsed"]]
ways <- list(raw = draw_raw, nelvat = draw_nelvat)
for (way in ways) way(path)
eight <- replicate(runs, vapply(ways, function(way) seconds(way(path)), 0))
layout <- replicate(runs, {
  fig <- describe()
  profile <- tempfile()
  Rprof(profile, interval = 0.005)
  suppressWarnings(save_plate(fig, path))
  Rprof(NULL)
  total <- summaryRprof(profile)$by.total
  total["\"lay_out\"", "total.time"] / max(total$total.time)
})
picture <- tempfile(fileext = ".svg")
errors <- rep(c("sd", "se", "ci"), length.out = runs + 2)
changed <- vapply(errors, function(error) seconds(save_plate(four(error), picture)), 0)[-(1:2)]
pages <- tempfile(fileext = ".pdf")
many <- replicate(3, seconds(save_plate(hundred(), pages)))

cat("Plates to files, medians of elapsed seconds\n")
print(
  format(
    data.frame(
      `8 blocks raw` = median(eight["raw", ]),
      `8 blocks` = median(eight["nelvat", ]),
      ratio = median(eight["nelvat", ] / eight["raw", ]),
      `layout, share` = median(layout),
      `4 blocks, one argument changed` = median(changed),
      `100 blocks` = median(many),
      check.names = FALSE
    ),
    digits = 3
  ),
  row.names = FALSE
)
