# What bench/before.R times with each of two packages, in a process of its own; what older ones do
# not know is asked for by its older word.
suppressMessages(library(nelvat))
options(warn = -1)
word <- function(f, now, before) if (now %in% names(formals(f))) now else before
set.seed(1)
n <- 1000
measures <- replicate(6, rnorm(n))
pairs <- expand.grid(i = 1:6, j = 1:6)
grid36 <- data.frame(
  pair = rep(sprintf("%d %d", pairs$i, pairs$j), each = n),
  x = as.vector(measures[, pairs$i]),
  y = as.vector(measures[, pairs$j])
)
grid100 <- data.frame(
  pair = rep(sprintf("p%03d", 1:100), each = 500),
  x = rnorm(5e4),
  y = rnorm(5e4)
)
loaves <- study("loaves")
probe <- study("probe")
per_row <- function(panel, ..., k) {
  do.call(facets, c(list(panel, ...), stats::setNames(list(k), word(facets, "per_row", "wrap"))))
}
of36 <- function() {
  plate(
    per_row(panel(grid36, x = x, y = y, ink_points()), across = quote(pair), k = 6),
    width = 178,
    height = 170
  )
}
of100 <- function() {
  plate(
    per_row(panel(grid100, x = x, y = y, ink_points()), across = quote(pair), k = 10),
    width = 178,
    height = 225
  )
}
of8 <- function() {
  slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
  six <- per_row(
    panel(loaves, x = flour, y = c(rise, volume, ph, acidity, firmness, moisture), ink_bars()),
    k = 3
  )
  plate(
    stacked(
      six,
      beside(
        every_pair(loaves, c(rise, volume, ph, acidity)),
        joint(loaves, x = rise, y = firmness)
      ),
      beside(
        slice = slice,
        zoom(of = "slice", x = c(30, 50), y = c(22, 37)),
        zoom(of = "slice", x = c(50, 70), y = c(22, 37))
      ),
      beside(
        panel(probe, x = time, y = core, ink_line()),
        panel(
          correlations(loaves, c(rise, volume, ph)),
          x = first,
          y = second,
          colour = r,
          ink_tiles()
        )
      )
    ),
    width = 178,
    height = 340
  )
}
small <- function() plate(panel(loaves, x = flour, y = rise, ink_bars()), width = 80, height = 60)
path <- tempfile(fileext = ".pdf")
time <- function(code) system.time(code)[["elapsed"]]
invisible(save_plate(small(), path))
cat(
  time(as_scene(of8())),
  time(save_plate(of8(), path)),
  time(save_plate(of36(), path)),
  time(save_plate(of100(), path)),
  time(save_plate(small(), path))
)
