# Time of 36 panels of 1,000 rows (6 x 6 pairs of measures), to PNG and to PDF:
#   a  the same points as raw grid primitives;
#   b  36 complete single ggplot2 plots, drawn one by one into viewports;
#   c  Nelvat, from the panel description to a closed device.
# Run with `make bench`; a median over `runs` of elapsed seconds, in one process,
# the three in turn.

library(nelvat)
library(grid)
suppressPackageStartupMessages(library(ggplot2))

runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
set.seed(1)
n <- 1000
measures <- replicate(6, rnorm(n))
pairs <- expand.grid(i = 1:6, j = 1:6)
table <- data.frame(
  pair = rep(sprintf("%d %d", pairs$i, pairs$j), each = n),
  x = as.vector(measures[, pairs$i]),
  y = as.vector(measures[, pairs$j])
)
split_table <- split(table[c("x", "y")], factor(table$pair, unique(table$pair)))
width_in <- 178 / 25.4
height_in <- 170 / 25.4
grid_of_panels <- function() pushViewport(viewport(layout = grid.layout(6, 6)))
panel_at <- function(k) {
  viewport(layout.pos.row = (k - 1) %/% 6 + 1, layout.pos.col = (k - 1) %% 6 + 1)
}

draw_raw <- function() {
  grid.newpage()
  grid_of_panels()
  for (k in 1:36) {
    one <- split_table[[k]]
    pushViewport(panel_at(k))
    pushViewport(
      viewport(width = 0.8, height = 0.8, clip = "on", xscale = range(one$x), yscale = range(one$y))
    )
    grid.points(
      unit(one$x, "native"),
      unit(one$y, "native"),
      pch = 21,
      gp = gpar(col = NA, fill = "#5B6B7F", fontsize = 1.5 / 0.75 * 72 / 25.4)
    )
    popViewport(2)
  }
}

draw_plots <- function() {
  grid.newpage()
  grid_of_panels()
  for (k in 1:36) {
    print(ggplot(split_table[[k]], aes(x, y)) + geom_point(size = 0.5), vp = panel_at(k))
  }
}

draw_nelvat <- function(path) {
  fig <- plate(
    facets(panel(table, x = x, y = y, ink_points()), across = pair, per_row = 6),
    width = 178,
    height = 170
  )
  save_plate(fig, path)
}

on_device <- function(draw) {
  function(path) {
    if (grepl("png$", path)) png(path, width_in, height_in, units = "in", res = 600, type = "cairo")
    else cairo_pdf(path, width_in, height_in)
    draw()
    dev.off()
  }
}

ways <- list(a = on_device(draw_raw), b = on_device(draw_plots), c = draw_nelvat)
result <- do.call(
  rbind,
  lapply(c("pdf", "png"), function(format) {
    path <- tempfile(fileext = paste0(".", format))
    for (way in ways) way(path)
    seconds <- replicate(runs, vapply(ways, function(way) system.time(way(path))[["elapsed"]], 0))
    median <- apply(seconds, 1, stats::median)
    data.frame(
      format = format,
      raw_s = median[["a"]],
      plots_s = median[["b"]],
      nelvat_s = median[["c"]],
      `c/a` = stats::median(seconds["c", ] / seconds["a", ]),
      `c/b` = stats::median(seconds["c", ] / seconds["b", ]),
      check.names = FALSE
    )
  })
)
cat("36 panels of 1,000 rows; medians of", runs, "runs, elapsed seconds\n")
print(format(result, digits = 3), row.names = FALSE)
