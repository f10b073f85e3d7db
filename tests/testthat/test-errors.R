loaves <- study("loaves")

test_that("bad panels are refused in the user's terms", {
  expect_snapshot(error = TRUE, panel(loaves, x = flower, y = rise, ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = c(rise, volum), ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = bakery, ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = rise, y = volume, ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = rise, colour = volume, ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = rise))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = rise, color = hydration, ink_bars()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, ink_points()))
  expect_snapshot(error = TRUE, panel(loaves, x = log(flour), y = rise, ink_points()))
  expect_snapshot(error = TRUE, panel(loaves, x = mean(rise) + riise, y = rise, ink_points()))
  expect_snapshot(error = TRUE, panel(loaves$data[0, ], x = flour, y = rise, ink_points()))
  expect_snapshot(error = TRUE, ink_bars(error = "std"))
  expect_snapshot(error = TRUE, ink_points(opacity = 2))
  expect_error(panel(loaves, x = flower, y = rise, ink_bars()), class = "nelvat_error_column")
  expect_error(panel(loaves, x = flour, y = bakery, ink_bars()), class = "nelvat_error_kind")
})

test_that("bad blocks and plates are refused in the user's terms", {
  good <- panel(loaves, x = flour, y = rise, ink_bars())
  expect_snapshot(error = TRUE, facets(loaves, per_row = 3))
  expect_snapshot(error = TRUE, facets(good, across = rise))
  expect_snapshot(error = TRUE, facets(good, per_row = 2.5))
  expect_snapshot(error = TRUE, facets(good, range_per = c(x = "rows")))
  expect_snapshot(error = TRUE, plate(good, width = "dubble"))
  expect_snapshot(error = TRUE, plate(good, height = "tall"))
  expect_snapshot(error = TRUE, plate(loaves))
  expect_snapshot(error = TRUE, plate(good, hight = 20))
  expect_snapshot(error = TRUE, as_scene(good))
})

test_that(
  "a plate too small says how many millimetres are missing, and what was missing is enough",
  {
    expect_snapshot(error = TRUE, as_scene(responses(height = 40)))
    expect_snapshot(error = TRUE, as_scene(responses(width = 50)))
    small <- tryCatch(as_scene(responses(height = 40)), error = identity)
    expect_s3_class(small, "nelvat_error_space")
    enough <- as.numeric(sub(".*at least ([0-9.]+) mm high.*", "\\1", conditionMessage(small)))
    expect_s3_class(as_scene(responses(height = enough)), "nelvat_scene")
  }
)

test_that("a failed save leaves files as they were and makes none", {
  folder <- withr::local_tempdir()
  old <- file.path(folder, "old.pdf")
  writeLines("old", old)
  # Not even one row of panels fits a page of this height.
  fig <- responses(height = 25)
  expect_error(save_plate(fig, c(old, file.path(folder, "new.png"))), class = "nelvat_error_space")
  expect_error(
    save_plate(responses(), c(old, file.path(folder, "new.docx"))),
    class = "nelvat_error_file"
  )
  expect_error(
    save_plate(responses(), file.path(folder, "none", "new.pdf")),
    class = "nelvat_error_file"
  )
  expect_identical(readLines(old), "old")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "old.pdf")
})

test_that("nested places, long texts and times that are reversed are told in the user's terms", {
  one <- panel(loaves, x = rise, y = volume, ink_points())
  nested <- function(n) Reduce(function(before, i) beside(before, one), seq_len(n), one)
  for (n in c(33, 40, 60)) {
    expect_error(
      as_scene(plate(nested(n), width = 176, height = 60)),
      "nested so deeply",
      class = "nelvat_error_space"
    )
  }
  # What is missing of a part of the page is more of the page.
  small <- tryCatch(as_scene(plate(nested(5), width = 176, height = 60)), error = conditionMessage)
  wide <- as.numeric(sub(".*at least ([0-9]+) mm wide.*", "\\1", small))
  expect_no_error(as_scene(plate(nested(5), width = wide, height = 60)))
  expect_error(reverse(as.Date("2026-01-01")), "axis_of", class = "nelvat_error_argument")
  expect_error(reverse("a"), class = "nelvat_error_argument")
  long <- strrep("word ", 2500)
  expect_error(as_scene(plate(one, width = 86, height = 60, note = long)), class = "nelvat_error")
  expect_error(as_scene(plate(one, width = 86, height = 60, title = long)), class = "nelvat_error")
})
