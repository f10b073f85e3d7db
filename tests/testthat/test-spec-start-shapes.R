# Which figure a draft proposes for the shape of a table, on both sides of each limit.

drafted_lines <- function(..., kind = NULL) {
  folder <- withr::local_tempdir()
  path <- file.path(folder, "t.csv")
  utils::write.csv(data.frame(..., check.names = FALSE), path, row.names = FALSE)
  trimws(suppressMessages(suppressWarnings(start_figure(path, kind = kind))))
}
expect_drafted <- function(lines, ...) {
  for (wanted in c(...)) expect_match(lines, wanted, fixed = TRUE, all = FALSE)
}
# Numbers that are measured: no two alike, in no order.
measures <- function(n, by = 7) ((seq_len(n) * by) %% 1009) + seq_len(n) / 1000 + 0.5

test_that("groups are shown by as many values as there are in each", {
  flours <- function(each) rep(c("wheat", "rye", "spelt", "emmer"), each)
  expect_drafted(drafted_lines(flour = flours(1), rise = measures(4)), "ink: bars", "about 1 value")
  few <- drafted_lines(flour = flours(9), rise = measures(36))
  expect_drafted(few, "ink: [dots, {centre: {error: ci}}]", "about 9 values in each", "x: flour")
  many <- drafted_lines(flour = flours(10), rise = measures(40))
  expect_drafted(many, "ink: box", "about 10 values in each")
  by_two <- drafted_lines(
    flour = rep(c("wheat", "rye"), 18),
    oven = rep(c("stone", "steel"), each = 18),
    site = rep(c("a", "b", "c"), 12),
    rise = measures(36)
  )
  expect_drafted(by_two, "colour: oven   #", "across: site", "ink: [dots", "x: flour")
  expect_drafted(drafted_lines(flour = flours(5)), "Categories only: their counts", "ink: bars")
  expect_drafted(drafted_lines(rise = measures(20)), "One quantity: its distribution")
})

test_that("doses show every value of fewer than ten, else means with their errors", {
  dosed <- function(each) drafted_lines(dose = rep(c(0, 5, 20), each), rise = measures(3 * each))
  expect_drafted(
    dosed(9),
    "ink: [points, {line: {centre: mean}}]",
    "was set at 3 values: every value, with the means joined"
  )
  expect_drafted(
    dosed(10),
    "ink: [{line: {centre: mean}}, {centre: {error: se}}]",
    "means with their errors"
  )
  # A dose of each group counts by itself.
  grouped <- drafted_lines(
    dose = rep(c(0, 5, 20), 12),
    acid = rep(c("lactic", "acetic"), each = 18),
    rise = measures(36)
  )
  expect_drafted(grouped, "ink: [points, {line: {centre: mean}}]", "colour: acid")
})

test_that("times are joined as they are, or by their means where they come again", {
  expect_drafted(drafted_lines(time = 1:8, rise = measures(8)), "ink: line", "One value at each")
  again <- drafted_lines(time = rep(1:4, 3), rise = measures(12))
  expect_drafted(again, "ink: {line: {centre: mean, band: se, markers: true}}", "Several values")
  parted <- drafted_lines(
    time = rep(1:4, 2),
    flour = rep(c("wheat", "rye"), each = 4),
    rise = measures(8)
  )
  expect_drafted(parted, "One value at each \"time\" and group: a line", "colour: flour")
  several <- drafted_lines(time = 1:8, rise = measures(8), ph = measures(8, 11))
  expect_drafted(several, "y: [rise, ph]", "range_per: {y: panel}", "per_row: 3")
})

test_that("one value of each pair of categories is a tile, three by five at least", {
  pairs <- function(a, b) {
    drafted_lines(
      dough = rep(letters[seq_len(a)], b),
      baker = rep(LETTERS[seq_len(b)], each = a),
      rise = measures(a * b)
    )
  }
  expect_drafted(pairs(3, 5), "ink: tiles", "x: dough", "y: baker", "colour: rise")
  expect_drafted(pairs(5, 3), "x: baker", "y: dough")
  expect_false(any(grepl("tiles", pairs(3, 4))))
  expect_false(any(grepl("tiles", pairs(2, 5))))
  twice <- drafted_lines(
    dough = c(rep(letters[1:3], 5), "a"),
    baker = c(rep(LETTERS[1:5], each = 3), "A"),
    rise = measures(16)
  )
  expect_false(any(grepl("tiles", twice)))
  two <- drafted_lines(
    dough = rep(letters[1:3], 5),
    baker = rep(LETTERS[1:5], each = 3),
    rise = measures(15),
    ph = measures(15, 11)
  )
  expect_false(any(grepl("tiles", two)))
})

test_that("twenty quantities of up to 300 rows are tiles, of which up to forty are named", {
  wide <- function(columns, rows) {
    table <- lapply(seq_len(columns), function(k) measures(rows, k + 3))
    names(table) <- vapply(seq_len(columns), function(k) strrep("q", k), "")
    do.call(drafted_lines, c(list(sample = sprintf("s%03d", seq_len(rows))), table))
  }
  expect_drafted(wide(20, 30), "20 quantities of 30 rows: a map of tiles", "y: sample")
  expect_false(any(grepl("tiles", wide(19, 30))))
  expect_true(any(grepl("tiles", wide(20, 300))))
  expect_false(any(grepl("tiles", wide(20, 301))))
  unnamed <- function(lines, axis) {
    any(grepl(paste0("^", axis, "_axis: \\{breaks: \\[\\]\\}"), lines))
  }
  expect_false(unnamed(wide(40, 40), "x"))
  expect_false(unnamed(wide(40, 40), "y"))
  expect_true(unnamed(wide(41, 40), "x"))
  expect_true(unnamed(wide(40, 41), "y"))
})

test_that("columns of replicates are put below each other, twelve at most", {
  repeated <- function(k) {
    runs <- stats::setNames(
      lapply(seq_len(k), function(i) measures(6, i + 4)),
      paste0("Rep", seq_len(k))
    )
    do.call(drafted_lines, c(list(flour = c("wheat", "rye", "spelt", "oat", "teff", "corn")), runs))
  }
  expect_drafted(repeated(3), "into: {replicate: {title: Replicate}, value: {title: Value}}")
  expect_false(any(grepl("replicate", repeated(2))))
  expect_true(any(grepl("replicate", repeated(12))))
  expect_false(any(grepl("replicate", repeated(13))))
  numbered <- drafted_lines(
    flour = c("wheat", "rye", "spelt", "oat"),
    rise1 = measures(4),
    rise2 = measures(4, 8),
    rise3 = measures(4, 9)
  )
  expect_drafted(numbered, "into: {number: {title: Number}, value: {title: Rise}}", "x: flour")
})

test_that("three quantities are a matrix, two one over the other", {
  a <- measures(20)
  b <- measures(20, 11)
  d <- measures(20, 13)
  expect_drafted(
    drafted_lines(a = a, b = b, d = d),
    "Each pair of 3 quantities",
    "columns: [a, b, d]"
  )
  expect_drafted(drafted_lines(a = a, b = b), "ink: [points, fit]", "x: a", "y: b")
  expect_error(drafted_lines(a = a, b = b, kind = "pairs"), "needs three quantities")
  expect_drafted(
    drafted_lines(a = a, b = b, flour = rep(c("w", "r"), 10), kind = "plate"),
    "ink: histogram",
    "x: flour",
    "place: {beside: [scatter, {stacked: [boxes, spread]}], widths: [3, 2]}"
  )
  n <- 50000
  expect_drafted(drafted_lines(a = measures(n), b = measures(n, 11)), "ink: [points, fit]")
  expect_drafted(drafted_lines(a = measures(n + 1), b = measures(n + 1, 11)), "ink: hexagons")
})

test_that("events are survival, with the level that means that it happened", {
  survival <- function(status) drafted_lines(days = measures(length(status)), status = status)
  expect_drafted(survival(rep(0:1, 6)), "ink: {survival: {status: status}}", "x: days")
  expect_drafted(survival(rep(1:2, 6)), "ink: {survival: {status: status, event: \"2\"}}")
  expect_drafted(survival(c(NA, rep(0:1, 6))), "ink: {survival: {status: status}}")
})
