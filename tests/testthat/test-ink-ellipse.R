loaves <- study("loaves")

test_that("ellipses are where Mahalanobis's distance is that of their level, hulls those of R", {
  fig <- plate(
    panel(loaves, x = rise, y = volume, colour = flour, ink_points(), ink_ellipse(level = 0.9)),
    width = 86
  )
  scene <- as_scene(fig)
  ring <- Find(function(one) one$primitive == "lines", scene$marks)$table
  back <- function(unit, direction) {
    axis <- scene$axes[[scene$panels[[paste0(direction, "_axis")]][1]]]
    axis$range[1] + unit * diff(axis$range)
  }
  of <- loaves$data[loaves$data$flour == "wheat", c("rise", "volume")]
  of_line <- vapply(split(back(ring$x, "x"), ring$line), mean, 0)
  one <- ring[ring$line == as.integer(names(which.max(of_line))), ]
  away <- stats::mahalanobis(
    cbind(back(one$x, "x"), back(one$y, "y")),
    colMeans(of),
    stats::cov(of)
  )
  expect_equal(away, rep(stats::qchisq(0.9, 2), length(away)), tolerance = 1e-6)
  expect_match(legend_text(fig), "around 90 % of a normal distribution")
  hull <- nelvat:::hull_ring(of$rise, of$volume)
  expect_identical(nrow(hull), length(grDevices::chull(of)) + 1L)
})

test_that("groups without an ellipse are told", {
  few <- data.frame(x = c(1, 2, 1, 2, 3), y = c(1, 3, 1, 2, 3), g = c("a", "a", "b", "b", "b"))
  fig <- plate(panel(few, x = x, y = y, colour = g, ink_points(), ink_ellipse()), width = 86)
  expect_match(suppressWarnings(legend_text(fig)), "too few for an ellipse")
})
