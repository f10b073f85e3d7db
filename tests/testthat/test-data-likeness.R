test_that("orders by likeness are those of hclust, by every distance and linkage", {
  set.seed(4)
  table <- expand.grid(level = letters[1:9], place = 1:7, stringsAsFactors = FALSE)
  table$v <- rnorm(63)
  wide <- matrix(table$v, 9)
  rownames(wide) <- letters[1:9]
  for (linkage in c("average", "complete", "single", "ward")) {
    for (distance in c("euclidean", "manhattan", "correlation")) {
      apart <- if (distance == "correlation") {
        stats::as.dist(1 - stats::cor(t(wide)))
      } else {
        stats::dist(wide, distance)
      }
      tree <- stats::hclust(apart, if (linkage == "ward") "ward.D2" else linkage)
      book <- codebook(
        table,
        level = category(order = by_likeness(v, place, distance, linkage, groups = 3))
      )
      kind <- book$columns$level
      expect_identical(kind$levels, letters[1:9][tree$order])
      expect_equal(kind$tree$height, tree$height)
      cut <- stats::cutree(tree, 3)[tree$order]
      expect_identical(diff(kind$tree$groups) != 0, unname(diff(cut) != 0))
    }
  }
})

test_that("distances of many profiles are those of dist", {
  set.seed(5)
  far <- matrix(rnorm(400 * 12, 1000), 400)
  # Equal distances stay equal, as an order by them breaks ties by the order of the rows.
  tied <- matrix(sample(3, 200 * 7, TRUE) / 10, 200)
  for (many in list(far, tied, tied[1:2, ])) {
    expect_identical(
      as.numeric(profile_distances(many, "euclidean")),
      as.numeric(stats::dist(many))
    )
  }
})

test_that("several values of one place are averaged, and missing ones left out", {
  table <- data.frame(
    level = c("a", "a", "a", "b", "b", "c", "c"),
    place = c(1, 1, 2, 1, 2, 1, 2),
    v = c(0, 2, 1, 1, 1.1, 9, 8)
  )
  book <- codebook(table, level = category(order = by_likeness(v, place)))
  # a is (1, 1), b (1, 1.1), c (9, 8).
  expect_equal(book$columns$level$tree$height[1], 0.1)
  expect_setequal(
    book$columns$level$levels[c(1, 3)],
    c("c", setdiff(c("a", "b"), book$columns$level$levels[2]))
  )
})

test_that("what has no likeness is told", {
  of <- function(table, ...) codebook(table, level = category(order = by_likeness(v, place, ...)))
  apart <- data.frame(level = c("a", "b"), place = 1:2, v = c(1, 2))
  expect_error(of(apart), "no value at one place", class = "nelvat_error_data")
  flat <- expand.grid(level = c("a", "b", "c"), place = 1:3, stringsAsFactors = FALSE)
  flat$v <- c(1, 1, 2, 1, 2, 3, 1, 5, 1)
  expect_error(
    of(flat, distance = "correlation"),
    "All values of \"a\"",
    class = "nelvat_error_data"
  )
  expect_error(of(flat, groups = 4), "at most the number", class = "nelvat_error_argument")
  flat$v <- "x"
  expect_error(of(flat), "needs a quantity", class = "nelvat_error_kind")
  one <- of(data.frame(level = "a", place = 1, v = 1))
  expect_identical(one$columns$level$levels, "a")
})
