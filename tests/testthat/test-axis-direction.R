# Which way an axis runs changes where marks stand, and nothing else.
loaves <- study("loaves")
figure_of <- function(panel) plate(panel, width = 120, height = 80)
quiet <- function(code) suppressMessages(suppressWarnings(code))

ways <- list(
  said = function(...) figure_of(panel(loaves, x = rise, y = reverse(volume), ...)),
  asked = function(...) {
    figure_of(panel(loaves, x = rise, y = volume, ..., y_axis = axis_of(reverse = TRUE)))
  },
  both = function(...) {
    figure_of(panel(loaves, x = reverse(rise), y = reverse(volume), ...))
  }
)
as_it_is <- function(...) figure_of(panel(loaves, x = rise, y = volume, ...))

inks <- list(
  points = list(ink_points()),
  fits = list(ink_points(), ink_fit(equation = TRUE)),
  polynomial = list(ink_fit("polynomial", degree = 2)),
  residuals = list(ink_residuals()),
  correlation = list(ink_value()),
  lines = list(ink_line(centre = "mean")),
  contours = list(ink_contours())
)

test_that("no number, sign or equation depends on the direction of an axis", {
  for (name in names(inks)) {
    plain <- do.call(as_it_is, inks[[name]])
    # Both axes at once for what depends on both.
    tried <- if (name %in% c("fits", "correlation")) names(ways) else c("said", "asked")
    for (way in tried) {
      turned <- do.call(ways[[way]], inks[[name]])
      label <- paste(name, way)
      expect_equal(quiet(source_data(turned)), quiet(source_data(plain)), label = label)
      expect_identical(quiet(legend_text(turned)), quiet(legend_text(plain)), label = label)
      expect_identical(quiet(alt_text(turned)), quiet(alt_text(plain)), label = label)
      expect_equal(quiet(fits(turned)), quiet(fits(plain)), label = label)
      words <- function(fig) {
        texts <- quiet(as_scene(fig))$texts
        sort(texts$string[texts$role %in% c("equation", "value")])
      }
      expect_identical(words(turned), words(plain), label = label)
    }
  }
})

test_that("points on a turned axis stand at the mirrored places", {
  marks <- function(fig) quiet(as_scene(fig))$marks[[1]]$table
  plain <- marks(as_it_is(ink_points()))
  for (way in c("said", "asked")) {
    turned <- marks(ways[[way]](ink_points()))
    expect_equal(turned$x, plain$x, tolerance = 1e-9)
    expect_equal(turned$y, 1 - plain$y, tolerance = 1e-9)
  }
  both <- marks(ways$both(ink_points()))
  expect_equal(both$x, 1 - plain$x, tolerance = 1e-9)
  # Turned twice is not turned.
  twice <- figure_of(
    panel(
      loaves,
      x = rise,
      y = reverse(volume),
      ink_points(),
      y_axis = axis_of(reverse = TRUE)
    )
  )
  expect_equal(marks(twice)$y, plain$y, tolerance = 1e-9)
})

test_that("comparisons, bins and logarithms do not depend on the direction either", {
  table_of <- function(fig) quiet(contrast_table(fig))
  plain <- table_of(figure_of(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts())))
  turned <- table_of(
    figure_of(panel(loaves, x = flour, y = reverse(rise), ink_box(), ink_contrasts()))
  )
  expect_equal(turned, plain)
  expect_equal(
    plain$difference[1],
    with(
      loaves$data,
      mean(rise[flour == "spelt"], na.rm = TRUE) - mean(rise[flour == "wheat"], na.rm = TRUE)
    )
  )
  # Values on an edge belong to the same bin: closed on the same side.
  edges <- data.frame(v = c(0, 5, 5, 10, 10, 10, 15.5))
  bins <- function(fig) {
    found <- source_data(fig)[[1]]
    found <- found[found$part == "histogram", c("from", "to", "n")]
    found[order(found$from), ]
  }
  as_said <- bins(figure_of(panel(edges, x = v, ink_histogram(width = 5))))
  reversed <- bins(figure_of(panel(edges, x = reverse(v), ink_histogram(width = 5))))
  expect_equal(reversed, as_said, ignore_attr = TRUE)
  expect_equal(as_said$n[as_said$n > 0], c(3, 3, 1))
  log_fit <- fits(figure_of(panel(loaves, x = log10(rise), y = volume, ink_points(), ink_fit())))
  turned_fit <- fits(
    figure_of(panel(loaves, x = reverse(log10(rise)), y = volume, ink_points(), ink_fit()))
  )
  expect_equal(turned_fit$estimate, log_fit$estimate)
  expect_equal(
    log_fit$estimate,
    unname(stats::coef(stats::lm(volume ~ log10(rise), loaves$data))),
    tolerance = 1e-6
  )
})

test_that("a matrix's correlations have their sign, whichever way its axes run", {
  said <- function(fig) {
    texts <- quiet(as_scene(fig))$texts
    sort(texts$string[texts$role == "value"])
  }
  plain <- plate(
    every_pair(loaves, c(rise, volume, ph), above = ink_value()),
    width = 120,
    height = 120
  )
  turned <- plate(
    every_pair(loaves, c(rise, reverse(volume), ph), above = ink_value()),
    width = 120,
    height = 120
  )
  expect_identical(said(turned), said(plain))
  expect_match(said(plain), "0.92", all = FALSE)
})

test_that("blocks whose axes run unlike ways do not share them", {
  down <- panel(loaves, x = rise, y = reverse(volume), ink_points())
  up <- panel(loaves, x = firmness, y = volume, ink_points())
  scene <- quiet(as_scene(plate(beside(down, up), width = 160, height = 60)))
  ranges <- lapply(scene$axes[scene$panels$y_axis], `[[`, "range")
  expect_gt(ranges[[1]][1], ranges[[1]][2])
  expect_lt(ranges[[2]][1], ranges[[2]][2])
  # Each has its own tick text.
  ticks <- scene$texts[scene$texts$role == "tick", ]
  expect_true(sum(ticks$panel == 2 & ticks$x1 < scene$panels$x[2]) >= 3)
})
