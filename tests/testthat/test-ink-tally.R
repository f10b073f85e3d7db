loaves <- study("loaves")

test_that("rows of numbers are those of R, each at its tick", {
  summaries <- list(
    n = function(v) length(v),
    mean = mean,
    median = stats::median,
    sum = sum
  )
  codes <- c("wheat", "spelt", "rye", "emmer")
  for (of in names(summaries)) {
    scene <- as_scene(
      plate(panel(loaves, x = flour, y = rise, ink_box(), ink_tally(of)), width = 120)
    )
    under <- scene$texts[scene$texts$role == "under", ]
    wanted <- vapply(
      codes,
      function(code) summaries[[of]](loaves$data$rise[loaves$data$flour == code]),
      0
    )
    shown <- as.numeric(gsub(",", "", under$string[order(under$x0)]))
    expect_equal(shown, unname(wanted), tolerance = 5e-3)
    axis <- scene$axes[[scene$panels$x_axis[1]]]
    expect_equal(
      sort((under$x0 + under$x1) / 2),
      scene$panels$x + axis$unit * scene$panels$w,
      tolerance = 1e-6
    )
  }
})

test_that("colours have rows of their own, several inks stand under each other", {
  scene <- as_scene(
    plate(
      panel(
        loaves,
        x = flour,
        y = rise,
        colour = hydration,
        ink_bars(),
        ink_tally(),
        ink_tally("mean sd")
      ),
      width = 150,
      height = 90
    )
  )
  expect_null(scene_faults(scene))
  names <- scene$texts$string[scene$texts$role == "under name"]
  expect_identical(sum(names == "n"), 1L)
  expect_identical(length(names), 8L)
  expect_identical(sum(scene$texts$role == "under"), 24L)
  expect_error(panel(loaves, x = rise, y = volume, ink_tally()), class = "nelvat_error_kind")
  expect_error(panel(loaves, x = flour, ink_tally("mean")), class = "nelvat_error_argument")
})
