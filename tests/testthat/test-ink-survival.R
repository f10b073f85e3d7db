keeping <- study("keeping")
fig <- plate(
  panel(keeping, x = days, colour = flour, ink_survival(stale, test = TRUE, median = TRUE)),
  width = 86,
  height = 80
)

test_that(
  "numbers at risk stand at their ticks, in the colours of their groups, names at the left",
  {
    scene <- as_scene(fig)
    expect_null(scene_faults(scene))
    axis <- scene$axes[[scene$panels$x_axis[1]]]
    under <- scene$texts[scene$texts$role == "under", ]
    expect_identical(nrow(under), 3L * length(axis$unit))
    for (value in unique(round(under$y0, 3))) {
      row <- under[round(under$y0, 3) == value, ]
      expect_equal(
        sort((row$x0 + row$x1) / 2),
        sort(scene$panels$x + axis$unit * scene$panels$w),
        tolerance = 1e-6
      )
    }
    wheat <- keeping$data$days[keeping$data$flour == "wheat"]
    first <- under[which.min(under$y0), ]
    at <- axis$breaks[
      which.min(abs(scene$panels$x + axis$unit * scene$panels$w - (first$x0 + first$x1) / 2))
    ]
    expect_identical(first$string, as.character(sum(wheat >= at)))
    names <- scene$texts[scene$texts$role == "under name", ]
    expect_identical(names$string, c("At risk", "Wheat", "Spelt", "Rye"))
    expect_true(all(names$x1 < scene$panels$x))
    expect_true(
      all(under$y0 > scene$texts$y1[scene$texts$role == "axis title" & scene$texts$angle == 0])
    )
  }
)

test_that("the legend says estimate, band, events and test; source data have curves and medians", {
  text <- legend_text(fig)
  expect_match(text, "Kaplan-Meier estimate with its 95 % band")
  expect_match(text, paste(sum(keeping$data$stale), "events"))
  expect_match(text, "log-rank test: \u03c7\u00b2\\(2\\) = ")
  found <- source_data(fig)[[1]]
  expect_true("median" %in% names(found))
  expect_identical(sort(unique(stats::na.omit(found$flour))), c("Rye", "Spelt", "Wheat"))
})

test_that("bad times and states are told before anything is drawn", {
  bad <- function(...) {
    panel(data.frame(t = c(1, 2, -3), s = c(0, 1, 2), g = c("a", "b", "c")), x = t, ...)
  }
  expect_error(bad(ink_survival(s)), "negative", class = "nelvat_error_argument")
  ok <- data.frame(t = 1:3, s = c(0, 1, 2), two = c("cured", "not", "not"), three = letters[1:3])
  expect_error(panel(ok, x = t, ink_survival(s)), "zeros and ones", class = "nelvat_error_argument")
  expect_error(panel(ok, x = t, ink_survival(three)), "two levels", class = "nelvat_error_argument")
  expect_error(panel(ok, x = t, ink_survival(two)), class = "nelvat_error_level")
  expect_error(
    panel(ok, x = t, ink_survival(two, event = "curd")),
    "cured",
    class = "nelvat_error_level"
  )
  expect_error(
    panel(ok, y = t, ink_survival(two, event = "cured")),
    class = "nelvat_error_argument"
  )
  # Unknown ones are left out, and told.
  ok$two[2] <- NA
  fig <- plate(panel(ok, x = t, ink_survival(two, event = "cured")), width = 86)
  expect_match(suppressWarnings(legend_text(fig)), "1 missing value of two is left out")
})

test_that("facets have their own numbers, one without colours a single row", {
  scene <- as_scene(
    plate(facets(panel(keeping, x = days, ink_survival(stale)), across = flour), width = 178)
  )
  expect_null(scene_faults(scene))
  expect_identical(scene$texts$string[scene$texts$role == "under name"], "At risk")
  first <- scene$texts[scene$texts$role == "under", ]
  expect_identical(unique(first$string[first$panel %in% scene$panels$id])[1], "24")
})
