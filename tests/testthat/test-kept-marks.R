# Marks of many small figures are as they were kept: which figure, layer and column is not, is said.

same_kept <- function(kept, now) {
  numbers <- function(text) suppressWarnings(as.numeric(strsplit(text, " ")[[1]]))
  mapply(
    function(a, b) {
      if (identical(a, b)) return(TRUE)
      a <- numbers(a)
      b <- numbers(b)
      length(a) == length(b) && !anyNA(c(a, b)) && all(
        abs(a - b) <= 2e-4 * pmax(abs(a), abs(a[1]) * 0.1, 1e-6)
      )
    },
    kept,
    now
  )
}

expect_kept <- function(part) {
  skip_if_not_installed("png")
  fig <- as_scene(plate(panel(study("loaves"), x = rise, ink_histogram()), width = 60, height = 50))
  skip_if(fig$font$family != "Liberation Sans", "places of texts are kept for another font")
  figures <- kept_figures()
  figures <- figures[(seq_along(figures) - 1) %% 6 + 1 == part]
  kept <- utils::read.csv(
    "kept-marks.csv",
    colClasses = "character",
    encoding = "UTF-8",
    na.strings = character()
  )
  kept <- kept[kept$figure %in% names(figures), ]
  now <- kept_table(figures)
  now[] <- lapply(now, as.character)
  id <- function(table) paste(table$figure, table$part, table$column, sep = " | ")
  expect_identical(
    setdiff(id(kept), id(now)),
    character(),
    label = "layers and columns that are no longer there"
  )
  expect_identical(
    setdiff(id(now), id(kept)),
    character(),
    label = "layers and columns that were not kept"
  )
  both <- intersect(id(kept), id(now))
  before <- kept$kept[match(both, id(kept))]
  after <- now$kept[match(both, id(now))]
  moved <- !same_kept(before, after)
  expect_identical(
    paste0(both, ": ", before, " -> ", after)[moved],
    character(),
    label = "what is drawn otherwise"
  )
  expect_gt(length(both), 300)
}

test_that("what many small figures draw is what was kept, the first of them", {
  expect_kept(1)
})
test_that("what many small figures draw is what was kept, the second of them", {
  expect_kept(2)
})
test_that("what many small figures draw is what was kept, the third of them", {
  expect_kept(3)
})
test_that("what many small figures draw is what was kept, the fourth of them", {
  expect_kept(4)
})
test_that("what many small figures draw is what was kept, the fifth of them", {
  expect_kept(5)
})
test_that("what many small figures draw is what was kept, the sixth of them", {
  expect_kept(6)
})
