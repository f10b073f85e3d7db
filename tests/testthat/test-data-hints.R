# Small rules of reading and drafting, each by its result.

test_that("a draft names numbers that stand for missing, beside blanks too, and no others", {
  table <- data.frame(
    negative = c(1:30, NA, -999, 12.5),
    positive = c(31:60, 9999, NA, 33.5),
    spread = c(seq(-500, 1000, length.out = 31), 99, NA)
  )
  draft <- format(draft_codebook(table))
  expect_match(draft, "negative: likely missing values: \"-999\"", fixed = TRUE, all = FALSE)
  expect_match(draft, "positive: likely missing values: \"9999\"", fixed = TRUE, all = FALSE)
  expect_no_match(draft, "spread: likely")
  # A value that lies among the others is one of them.
  near <- format(draft_codebook(data.frame(v = c(80:120, 99, 99))))
  expect_no_match(near, "likely missing")
})

test_that("classes of a cut quantity are written in as few figures as tell them apart", {
  expect_identical(
    levels(cut_into(c(1e5, 2.5e5, 4e5, 1e6), 2)),
    c("100000 to 325000", "325000 to 1000000")
  )
  expect_identical(
    levels(cut_into(c(-2, -1, 0.5, 2), 2)),
    c("\u22122 to \u22120.25", "\u22120.25 to 2")
  )
  expect_identical(levels(cut_into(c(0.25, 0.5, 1, 2), 2)), c("0.25 to 0.75", "0.75 to 2"))
})

test_that("columns made long keep their order as levels, but a kind that says its own keeps that", {
  wide <- data.frame(id = 1:2, zeta = 1:2, alpha = 3:4)
  said <- function(kind) {
    format(long_data(wide, c(zeta, alpha), day = kind, mass = quantity("Mass")))
  }
  expect_match(said(category("Day")), "zeta 2, alpha 2", fixed = TRUE, all = FALSE)
  expect_match(
    said(category("Day", order = c("alpha", "zeta"))),
    "alpha 2, zeta 2",
    fixed = TRUE,
    all = FALSE
  )
})

test_that("clocks that no day has are no times, and those at the ends of an hour are", {
  kind_of <- function(...) {
    path <- withr::local_tempfile(fileext = ".csv")
    writeLines(c("t,v", paste0(c(...), ",1")), path)
    draft <- format(draft_codebook(path))
    trimws(sub(" *type: ", "", draft[grep("type:", draft)[1]]))
  }
  for (good in c("10:59", "00:00", "23:59", "9:05", "10:59:60")) {
    expect_identical(c(good, kind_of(good, "10:05")), c(good, "time"))
  }
  for (bad in c("10:60", "10:65", "24:05", "10:75")) {
    expect_identical(c(bad, kind_of(bad, "10:05")), c(bad, "string"))
  }
  expect_identical(kind_of("14.03.2025 10:59", "15.03.2025 23:00"), "datetime")
  expect_identical(kind_of("14.03.2025 10:60", "15.03.2025 23:00"), "string")
})

test_that("a codebook prints levels as they are, and names without their markup", {
  book <- codebook(
    data.frame(o = c("a^2^", "*1/*1"), v = 1:2, `w^2` = 3:4, check.names = FALSE),
    o = category("Oven"),
    v = quantity("CO~2~", unit = "10^9^/L")
  )
  lines <- format(book)
  expect_match(lines, "\\*1/\\*1 1|a\\^2\\^ 1", all = FALSE)
  expect_match(lines, "CO2 +109/L", all = FALSE)
  expect_no_match(lines, "\\\\")
})

test_that("a total is what the others sum to, to the digits that are there", {
  totals <- nelvat:::totals_column
  a <- c(1200.4, 310.2, 95.1)
  b <- c(400.1, 88.7, 12.9)
  expect_identical(totals(data.frame(a = a, b = b, total = a + b)), "total")
  expect_null(totals(data.frame(a = a, b = b, total = a + b + c(0, 0.01, 0))))
  expect_identical(totals(data.frame(a = a, b = b, total = (a + b) * (1 + 1e-7))), "total")
  expect_null(totals(data.frame(a = a, b = b, total = (a + b) * (1 + 1e-5))))
  expect_null(totals(data.frame(a = a, total = a)))
})
