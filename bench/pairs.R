# Matrices of pairs and joint figures, description to closed PDF:
#   matrix    8 x 8, 3 groups, 2,000 rows: the lower half, 28 panels of points and 8 of
#             densities; against the same points and curves as raw grid primitives;
#   hexagons  a joint figure of 1,000,000 rows in hexagons with histograms.
# Run with `make bench`; medians over `runs` of elapsed seconds, in one process, in turn.

library(nelvat)
library(grid)

runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
set.seed(1)
n <- 2000
group <- sample(c("a", "b", "c"), n, TRUE)
table <- data.frame(group = group, replicate(8, rnorm(n) + match(group, c("a", "b", "c"))))
colours <- c("#8A1C00", "#6CC5FF", "#0A0F8F")
million <- data.frame(x = rnorm(1e6), y = rnorm(1e6))

draw_raw <- function(path) {
  cairo_pdf(path, 178 / 25.4, 150 / 25.4)
  grid.newpage()
  pushViewport(viewport(layout = grid.layout(8, 8)))
  for (i in 1:8) {
    for (j in 1:i) {
      pushViewport(viewport(layout.pos.row = i, layout.pos.col = j))
      x <- table[[j + 1]]
      if (i == j) {
        curves <- lapply(split(x, group), density)
        pushViewport(
          viewport(
            width = 0.8,
            height = 0.8,
            clip = "on",
            xscale = range(x),
            yscale = c(0, max(vapply(curves, function(of) max(of$y), 0)))
          )
        )
        for (g in 1:3) {
          grid.lines(
            unit(curves[[g]]$x, "native"),
            unit(curves[[g]]$y, "native"),
            gp = gpar(col = colours[g])
          )
        }
      } else {
        y <- table[[i + 1]]
        pushViewport(
          viewport(width = 0.8, height = 0.8, clip = "on", xscale = range(x), yscale = range(y))
        )
        grid.points(
          unit(x, "native"),
          unit(y, "native"),
          pch = 21,
          gp = gpar(
            col = NA,
            fill = paste0(colours[match(group, c("a", "b", "c"))], "BF"),
            fontsize = 0.9 / 0.75 * 72 / 25.4
          )
        )
      }
      popViewport(2)
    }
  }
  dev.off()
}
draw_matrix <- function(path) {
  save_plate(plate(every_pair(table, colour = group), width = 178, height = 150), path)
}
draw_hexagons <- function(path) {
  save_plate(plate(joint(million, x = x, y = y, ink_hexagons()), width = 86, height = 86), path)
}

path <- tempfile(fileext = ".pdf")
ways <- list(raw = draw_raw, matrix = draw_matrix, hexagons = draw_hexagons)
for (way in ways) way(path)
seconds <- replicate(runs, vapply(ways, function(way) system.time(way(path))[["elapsed"]], 0))
draw_hexagons(path)
cat(
  "8 x 8 matrix of 2,000 rows in 3 groups; joint hexagons of 1,000,000 rows; PDF, medians of",
  runs,
  "runs, elapsed seconds\n"
)
print(
  format(
    data.frame(
      raw_s = median(seconds["raw", ]),
      matrix_s = median(seconds["matrix", ]),
      `matrix/raw` = median(seconds["matrix", ] / seconds["raw", ]),
      hexagons_s = median(seconds["hexagons", ]),
      hexagons_kB = file.size(path) / 1000,
      check.names = FALSE
    ),
    digits = 3
  ),
  row.names = FALSE
)
