table <- data.frame(
  t = rep(0:3, 2),
  v = c(1, 2, 3, 4, 4, 3, 2, 1),
  g = factor(rep(c("a", "b"), each = 4))
)
areas <- function(...) {
  scene <- as_scene(
    plate(panel(table, x = t, y = v, colour = g, ink_area(...)), width = 86, height = 60)
  )
  list(
    marks = Find(function(one) one$primitive == "areas", scene$marks)$table,
    axis = scene$axes[[scene$panels$y_axis[1]]]
  )
}

test_that("areas stand on each other, the first level on top; shares are of the whole", {
  stacked <- areas()
  top <- tapply(stacked$marks$y, stacked$marks$area, max) * diff(stacked$axis$range) +
    stacked$axis$range[1]
  expect_equal(as.numeric(top), c(5, 4))
  shares <- areas("share")
  expect_match(shares$axis$title, "Share of v \\(%\\)")
  high <- max(shares$marks$y) * diff(shares$axis$range) + shares$axis$range[1]
  expect_equal(high, 100)
  found <- source_data(
    plate(panel(table, x = t, y = v, colour = g, ink_area("share")), width = 86)
  )[[1]]
  found <- found[found$part == "area", ]
  expect_equal(sort(found$centre), sort(100 * table$v / 5))
})

test_that("what has no value somewhere is told, negatives and several values are refused", {
  short <- table[-2, ]
  fig <- plate(panel(short, x = t, y = v, colour = g, ink_area()), width = 86)
  expect_match(suppressWarnings(legend_text(fig)), "taken to be 0")
  refused <- function(data) {
    as_scene(plate(panel(data, x = t, y = v, colour = g, ink_area()), width = 86))
  }
  expect_error(refused(transform(table, v = -v)), class = "nelvat_error_argument")
  expect_error(
    refused(rbind(table, table)),
    "one value at each place",
    class = "nelvat_error_argument"
  )
})
