table <- data.frame(
  x = 1:4,
  y = c(2, 3, 5, 4),
  low = c(1.5, 2.6, 4.2, NA),
  high = c(2.4, 3.5, 5.6, NA),
  left = 1:4 - 0.2,
  right = 1:4 + 0.3
)

test_that("limits stand where the table has them, in both directions", {
  fig <- plate(
    panel(table, x = x, y = y, ink_limits(low, high, left, right, means = "standard error")),
    width = 86,
    height = 60
  )
  scene <- suppressWarnings(as_scene(fig))
  bars <- Find(function(one) one$primitive == "segments", scene$marks)$table
  back <- function(unit, direction) {
    axis <- scene$axes[[scene$panels[[paste0(direction, "_axis")]][1]]]
    axis$range[1] + unit * diff(axis$range)
  }
  upright <- bars[abs(bars$x0 - bars$x1) < 1e-9, ]
  expect_equal(back(upright$y0, "y"), table$low[1:3])
  expect_equal(back(upright$y1, "y"), table$high[1:3])
  level <- bars[abs(bars$y0 - bars$y1) < 1e-9, ]
  expect_equal(back(level$x0, "x"), table$left)
  expect_match(suppressWarnings(legend_text(fig)), "Error bars, standard error")
  expect_true(all(c("low", "high") %in% names(suppressWarnings(source_data(fig))[[1]])))
})

test_that("bands, and limits that cannot be", {
  band <- suppressWarnings(
    as_scene(
      plate(panel(table, x = x, y = y, ink_limits(low, high, drawn_as = "band")), width = 86)
    )
  )
  expect_true("areas" %in% vapply(band$marks, `[[`, "", "primitive"))
  of <- function(...) as_scene(plate(panel(table, x = x, y = y, ink_limits(...)), width = 86))
  expect_error(of(high, low), "above", class = "nelvat_error_argument")
  expect_error(of(low), "pairs", class = "nelvat_error_argument")
  expect_error(of(left = left, right = right, drawn_as = "band"), class = "nelvat_error_argument")
  far <- transform(table, high = low + 0.1)
  expect_error(
    as_scene(plate(panel(far, x = x, y = y, ink_limits(low, high)), width = 86)),
    "do not hold",
    class = "nelvat_error_argument"
  )
})
