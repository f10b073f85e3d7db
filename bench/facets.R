# Facets: 100 panels x 500 rows from description to PDF, against the same points as raw
# grid primitives; how time grows from 25 to 100 panels; rounds of the layout. Run with
# `make bench`; medians of `runs` runs, in one process and in turn.

library(nelvat)
library(grid)

runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
set.seed(1)
table_of <- function(panels) {
  data.frame(
    f = rep(sprintf("site %03d", seq_len(panels)), each = 500),
    x = rnorm(500 * panels),
    y = rnorm(500 * panels)
  )
}
path <- tempfile(fileext = ".pdf")

draw_raw <- function(table) {
  parts <- split(table[c("x", "y")], table$f)
  cairo_pdf(path, 178 / 25.4, 220 / 25.4)
  grid.newpage()
  pushViewport(viewport(layout = grid.layout(10, 10)))
  for (k in seq_along(parts)) {
    one <- parts[[k]]
    pushViewport(viewport(layout.pos.row = (k - 1) %/% 10 + 1, layout.pos.col = (k - 1) %% 10 + 1))
    pushViewport(
      viewport(width = 0.8, height = 0.8, clip = "on", xscale = range(one$x), yscale = range(one$y))
    )
    grid.points(
      unit(one$x, "native"),
      unit(one$y, "native"),
      pch = 21,
      gp = gpar(col = NA, fill = "#5B6B7F", fontsize = 0.8 / 0.75 * 72 / 25.4)
    )
    popViewport(2)
  }
  dev.off()
}
figure <- function(table) {
  plate(
    facets(panel(table, x = x, y = y, ink_points(size = 0.8)), across = f, per_row = 10),
    width = 250,
    height = 300
  )
}
draw_nelvat <- function(table) save_plate(figure(table), path)

tables <- lapply(c(`25` = 25, `100` = 100), table_of)
invisible(draw_raw(tables$`100`))
invisible(draw_nelvat(tables$`25`))
seconds <- replicate(
  runs,
  c(
    raw = system.time(draw_raw(tables$`100`))[["elapsed"]],
    nelvat = system.time(draw_nelvat(tables$`100`))[["elapsed"]],
    nelvat_25 = system.time(draw_nelvat(tables$`25`))[["elapsed"]]
  )
)
median_of <- function(name) median(seconds[name, ])
cat("100 panels of 500 rows to PDF; medians of", runs, "runs, elapsed seconds\n")
print(
  format(
    data.frame(
      raw_s = median_of("raw"),
      nelvat_s = median_of("nelvat"),
      allowed_s = 1.5 * median_of("raw") + 0.5,
      `100/25 panels` = median(seconds["nelvat", ] / seconds["nelvat_25", ]),
      rounds = as_scene(figure(tables$`100`))$layout$rounds,
      check.names = FALSE
    ),
    digits = 3
  ),
  row.names = FALSE
)
