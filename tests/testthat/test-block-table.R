trials <- study("trials")

test_that("a table has its rows and heads, numbers one under the other at the decimal sign", {
  scene <- as_scene(
    plate(table_panel(trials, c(bakery, loaves, ratio), bold = 7), width = 90, height = 50)
  )
  texts <- scene$texts
  expect_identical(nrow(texts), 3L * 8L)
  ratios <- texts[texts$x1 > max(texts$x1) - 0.01 & grepl("^[0-9]", texts$string), ]
  expect_identical(nrow(ratios), 7L)
  expect_lt(diff(range(ratios$x1)), 0.01)
  expect_true(all(diff(ratios$y0) > 0))
  rows <- texts[texts$string %in% trials$data$bakery, ]
  expect_lt(max(abs(rows$y0 - ratios$y0)), 0.01)
  expect_lt(diff(range(rows$x0)), 0.01)
  rules <- Find(function(one) one$primitive == "segments", scene$marks)$table
  expect_identical(nrow(rules), 3L)
  expect_identical(scene_faults(scene), NULL)
})

test_that("heads are wrapped before names, names before there is an error", {
  high <- function(width) {
    scene <- as_scene(plate(table_panel(trials), width = width, height = 80))
    expect_identical(scene_faults(scene), NULL)
    max(scene$texts$lines[scene$texts$string %in% trials$data$bakery], 0)
  }
  expect_equal(high(110), 1)
  expect_error(
    as_scene(plate(table_panel(trials), width = 30, height = 80)),
    "mm of width are missing",
    class = "nelvat_error_space"
  )
  expect_error(
    as_scene(plate(table_panel(trials), width = 110, height = 12)),
    "mm of height are missing",
    class = "nelvat_error_space"
  )
})

test_that("missing values are dashes, numbers of a column share their decimals", {
  table <- data.frame(
    what = c("a", NA),
    v = c(1.25, -30),
    whole = c(1, 2),
    day = as.Date("2026-01-02")
  )
  texts <- as_scene(plate(table_panel(table), width = 90, height = 40))$texts$string
  expect_true(all(c("\u2013", "1.2", "\u221230.0", "1", "2", "2026-01-02") %in% texts))
})

test_that("what is no table is told, and a table can be changed", {
  expect_error(table_panel(), "data", class = "nelvat_error_argument")
  expect_error(table_panel(trials, c(bakry)), "bakery", class = "nelvat_error_column")
  expect_error(table_panel(trials, bold = 9), "no row 9", class = "nelvat_error_argument")
  many <- data.frame(x = 1:201)
  expect_error(table_panel(many), "at most 200", class = "nelvat_error_argument")
  fig <- plate(table_panel(trials, c(bakery, ratio)), width = 90, height = 50)
  fewer <- change(fig, digits = 2, block = 1)
  expect_true("1.2" %in% as_scene(fewer)$texts$string)
})

test_that("no number is shown as nothing, and codes are no numbers", {
  table <- codebook(
    data.frame(code = c("10000", "1.5"), v = c(12345.678, 0.001), w = c(1e8, 1e-7)),
    code = category("ID 1.5")
  )
  style <- house(numbers = list(decimal_mark = ","))
  texts <- as_scene(plate(table_panel(table), width = 90, height = 40, house = style))$texts$string
  expect_true(all(c("ID 1.5", "10000", "1.5") %in% texts))
  expect_true(all(c("12345,678", "0,001", "100000000", "0,0000001") %in% texts))
  expect_false("0" %in% texts)
})
