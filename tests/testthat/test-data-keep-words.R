# What a condition is in the legend.
condition_said <- function(keep) {
  book <- codebook(
    data.frame(
      mass = c(1, 5, 9, 12),
      flour = c("rye", "spelt", "rye", "oats"),
      baked = as.Date("2026-01-01") + 0:3,
      `f s` = c("a", "b", "a*", "a"),
      t_C = c(-2, 0, 4, 30),
      check.names = FALSE
    ),
    mass = quantity("Loaf mass", unit = "g", show = "kg"),
    flour = category("Flour", names = c(rye = "Dark *rye*", spelt = "Spelt", oats = "Oats")),
    t_C = quantity("Oven", unit = "\u00b0C")
  )
  fig <- eval(
    bquote(plate(panel(book, x = mass, y = t_C, keep = .(keep), ink_points()), width = 80))
  )
  text <- suppressWarnings(legend_text(fig))
  sub(" \\([0-9]+ of 4\\).*", "", sub(".*Shown are rows where ", "", text))
}

test_that("conditions are said with names, levels and units, as they are compared", {
  said <- function(keep) condition_said(substitute(keep))
  expect_identical(said(mass > 4), "Loaf mass > 4\u00a0g")
  expect_identical(said(9 >= mass), "Loaf mass \u2264 9\u00a0g")
  expect_identical(said(t_C != -2), "Oven \u2260 \u22122\u00a0\u00b0C")
  expect_identical(said(flour == "rye"), "flour is Dark rye")
  expect_identical(said(flour == "rye" | flour == "oats"), "flour is Dark rye or Oats")
  expect_identical(said(flour %in% c("rye", "oats")), "flour is Dark rye or Oats")
  expect_identical(said(!(flour %in% c("spelt", "oats"))), "flour is none of Spelt or Oats")
  expect_identical(said(flour != "rye"), "flour is not Dark rye")
  expect_identical(said(!is.na(mass) & t_C < 20), "Loaf mass is known and Oven < 20\u00a0\u00b0C")
  expect_identical(
    said(mass > 4 & (flour == "rye" | t_C > 9)),
    "Loaf mass > 4\u00a0g and (flour is Dark rye or Oven > 9\u00a0\u00b0C)"
  )
  expect_identical(said(mass %in% c(5, 9)), "Loaf mass is 5\u00a0g or 9\u00a0g")
  # Two conditions, one after the other: an "or" in one does not reach into the other.
  words <- nelvat:::condition_words
  before <- list(condition = words(rlang::quo(a > 1 | b > 2), NULL))
  expect_identical(words(rlang::quo(d == 3), before), "(a > 1 or b > 2) and d == 3")
  # What has no words stands as it was written.
  expect_identical(said(mass * 2 > t_C), "mass * 2 > t_C")
  expect_identical(said(mass %% 2 == 1), "mass %% 2 == 1")
  expect_identical(said(`f s` == "a*" | mass > 11), "f s is a* or Loaf mass > 11\u00a0g")
})

test_that("smoothed columns keep their name and unit, and say how", {
  loads <- codebook(
    data.frame(t = 1:20, v = (1:20) / 2),
    v = quantity("Load", unit = "kg", show = "g")
  )
  scene <- suppressWarnings(
    as_scene(plate(panel(loads, x = t, y = running_mean(v, 5), ink_line()), width = 80))
  )
  expect_identical(scene$axes[[2]]$title, "Load, running mean of 5 (g)")
  line <- scene$marks[[1]]$table
  range <- scene$axes[[2]]$range
  expect_equal(
    range[1] + line$y * diff(range),
    1000 * as.numeric(running_mean((1:20) / 2, 5)),
    tolerance = 1e-9
  )
  median <- plate(panel(loads, x = t, y = running_median(v, width = 3), ink_line()), width = 80)
  expect_match(legend_text(median), "^Load, running median of 3 \\(g\\) against t")
})
