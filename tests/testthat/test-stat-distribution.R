loaves <- study("loaves")

test_that("cumulative shares are those of ecdf(), the band that of Massart's constant", {
  values <- c(3, 1, 1, 2, 5, NA)
  got <- nelvat:::cumulative_shares(values, 0.9)
  of <- stats::ecdf(values)
  upper <- got[seq(2, nrow(got), by = 2), ]
  expect_equal(upper$y, of(upper$x))
  expect_equal(got$y[1], 0)
  half <- sqrt(log(2 / 0.1) / 10)
  expect_equal(upper$upper, pmin(1, of(upper$x) + half))
  expect_equal(upper$lower, pmax(0, of(upper$x) - half))
  scene <- as_scene(
    plate(panel(loaves, x = rise, colour = flour, ink_cumulative()), width = 100, height = 70)
  )
  line <- Filter(function(layer) layer$primitive == "lines", scene$marks)[[1]]$table
  expect_length(unique(line$line), 4)
  ends <- scene$axes[[2]]$range
  expect_equal(max(line$y), (1 - ends[1]) / diff(ends))
})

test_that("quantiles and their lines are those of qqnorm(), qqline() and qqplot()", {
  values <- loaves$data$rise[1:40]
  got <- nelvat:::distribution_quantiles(values, stats::qnorm)
  of <- stats::qqnorm(sort(values), plot.it = FALSE)
  expect_equal(got$x, of$x)
  quartiles <- stats::quantile(values, c(0.25, 0.75), names = FALSE)
  expect_equal(got$intercept + got$slope * stats::qnorm(c(0.25, 0.75)), quartiles)
  two <- nelvat:::sample_quantiles(values, values[1:25] * 2)
  of <- stats::qqplot(values[1:25] * 2, values, plot.it = FALSE)
  expect_equal(two$x, of$x)
  expect_equal(two$y, of$y)
  scene <- as_scene(plate(panel(loaves, y = rise, ink_quantiles()), width = 80, height = 70))
  expect_identical(scene$axes[[1]]$title, "Normal quantile")
  expect_error(
    as_scene(plate(panel(loaves, y = rise, ink_quantiles(against = firmness)))),
    "one unit",
    class = "nelvat_error_unit"
  )
  expect_error(ink_quantiles("gaussian"), "normal", class = "nelvat_error_argument")
})

test_that("half violins and dots keep to their side of the slot", {
  marks <- as_scene(
    plate(
      panel(
        loaves,
        x = flour,
        y = moisture,
        ink_violin(side = "after", quartiles = FALSE),
        ink_dots(side = "before")
      ),
      width = 120,
      height = 70
    )
  )$marks
  slot <- function(x) x * 4 + 0.5
  of <- function(primitive) {
    slot(Filter(function(layer) layer$primitive == primitive, marks)[[1]]$table$x)
  }
  expect_true(all(of("areas") - round(of("areas")) > 0))
  expect_true(all(of("points") - round(of("points")) < 0))
  both <- as_scene(
    plate(
      panel(loaves, x = flour, y = moisture, ink_violin(quartiles = FALSE)),
      width = 120,
      height = 70
    )
  )$marks[[1]]$table
  expect_equal(mean(slot(both$x) - round(slot(both$x))), 0, tolerance = 1e-9)
})

test_that("ridges have the shapes of density(), one scale, stay in the panel and stand in rows", {
  scene <- as_scene(
    plate(panel(loaves, x = rise, y = flour, ink_ridges(overlap = 3)), width = 100, height = 80)
  )
  area <- scene$marks[[1]]$table
  expect_lte(max(area$y), 1 + 1e-9)
  base <- tapply(area$y, area$area, min)
  expect_equal(unname(as.numeric(base)), c(0.75, 0.5, 0.25, 0))
  heights <- tapply(area$y, area$area, max) - base
  peak <- vapply(
    split(loaves$data$rise, factor(loaves$data$flour, c("wheat", "spelt", "rye", "emmer"))),
    function(values) {
      max(stats::density(values[!is.na(values)], bw = "nrd0", n = 512)$y)
    },
    0
  )
  expect_equal(
    unname(as.numeric(heights / max(heights))),
    unname(peak / max(peak)),
    tolerance = 0.02
  )
})

test_that("two samples are compared as they are", {
  twice <- transform(loaves$data, again = rise * 1.1)
  expect_error(
    panel(twice, y = log10(rise), ink_quantiles(against = again)),
    "as they are",
    class = "nelvat_error_argument"
  )
  # Whichever way its axis runs.
  quantiles_of <- function(panel) source_data(plate(panel, width = 80, height = 60))
  expect_equal(
    quantiles_of(panel(twice, y = reverse(rise), ink_quantiles())),
    quantiles_of(panel(twice, y = rise, ink_quantiles()))
  )
  scene <- as_scene(
    plate(panel(twice, y = rise, ink_quantiles(against = again)), width = 80, height = 60)
  )
  points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
  ends <- lapply(scene$axes[1:2], `[[`, "range")
  expect_equal(
    (points$x * diff(ends[[1]]) + ends[[1]][1]) / (points$y * diff(ends[[2]]) + ends[[2]][1]),
    rep(1.1, nrow(points))
  )
})

test_that("a value at the end of a whisker is within it, in whichever unit", {
  kilograms <- c(8, 9, 9, 13, 17, 17, 18, 18, 18, 18, 26, 27) / 1000
  for (times in c(1, 1000, 1e-3, 1 / 3)) {
    box <- nelvat:::box_summary(kilograms * times, rep(1L, 12))
    expect_equal(box$boxes$high, 0.027 * times)
    expect_identical(box$beyond, 0L)
  }
})
