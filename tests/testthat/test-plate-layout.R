test_that("tracks share what decorations leave, by weight, and fill the length", {
  tracks <- nelvat:::solve_tracks(5, 100, c(3, 1), c(2, 0), c(1, 3), 4)
  expect_equal(tracks$length_mm, c(22.5, 67.5))
  expect_equal(tracks$start_mm[1], 8)
  expect_equal(tracks$start_mm[2] + tracks$length_mm[2], 105)
})

test_that("a plate fills its page: decorations reach the margins, and no more", {
  scene <- as_scene(responses())
  margin <- house("plain")$space_mm$margin
  expect_equal(min(scene$texts$x0), margin, tolerance = 0.05)
  expect_equal(max(scene$texts$y1), 120 - margin, tolerance = 0.05)
  expect_equal(min(scene$texts$y0, scene$keys$y), margin, tolerance = 0.2)
  expect_lte(max(scene$panels$x + scene$panels$w), 178 - margin + 0.01)
})

test_that("without a height, panels get about three quarters of their width", {
  for (block in list(
    panel(study("loaves"), x = flour, y = rise, ink_bars()),
    facets(
      panel(study("loaves"), x = flour, y = c(rise, ph, volume, moisture), ink_bars()),
      per_row = 2
    )
  )) {
    panels <- as_scene(plate(block, width = "double"))$panels
    expect_gt(panels$h[1] / panels$w[1], 0.45)
    expect_lt(panels$h[1] / panels$w[1], 0.95)
  }
})

test_that("house columns name widths", {
  widths <- vapply(
    c("single", "middle", "double"),
    function(width) {
      plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = width)$width_mm
    },
    0
  )
  expect_identical(unname(widths), c(86, 120, 178))
})

test_that("shared axes have one treatment of their tick text for all panels", {
  scene <- as_scene(
    plate(
      facets(panel(study("loaves"), x = flour, y = rise, ink_bars()), across = bakery),
      width = 110,
      height = 60
    )
  ) |> suppressWarnings()
  ticks <- scene$texts[
    scene$texts$role == "tick" & scene$texts$y0 > min(scene$panels$y + scene$panels$h),
  ]
  expect_length(unique(ticks$angle), 1)
  expect_length(unique(ticks$size_pt), 1)
  expect_identical(sum(ticks$string %in% "Wheat"), 3L)
})

test_that("headings of a row stand on one line over one rule", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        facets(panel(study("loaves"), x = hydration, y = rise, ink_bars()), across = flour),
        width = 120,
        height = 60
      )
    )
  )
  headings <- scene$texts[scene$texts$role == "heading", ]
  expect_lt(diff(range(headings$y1)), 0.01)
  rules <- scene$rules[scene$rules$role == "heading rule", ]
  expect_equal(rules$x0, scene$panels$x)
  expect_equal(rules$x1, scene$panels$x + scene$panels$w)
})

test_that("own and shared ranges are as asked", {
  ranges <- function(range_per) {
    scene <- suppressWarnings(
      as_scene(
        plate(
          facets(
            panel(study("loaves"), x = hydration, y = rise, ink_points()),
            across = flour,
            range_per = range_per
          ),
          width = 178,
          height = 60
        )
      )
    )
    vapply(scene$axes[scene$panels$y_axis], function(axis) axis$range[2], 0)
  }
  expect_length(unique(ranges(c(y = "block"))), 1)
  expect_length(unique(ranges(c(y = "panel"))), 4)
  expect_length(unique(ranges(c(y = "column"))), 4)
  expect_length(unique(ranges("row")), 1)
})
