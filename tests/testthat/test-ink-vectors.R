scores <- study("scores")
loadings <- study("loadings")
scene_of <- function(ink, ...) {
  as_scene(plate(panel(scores, x = first, y = second, ink_points(), ink), width = 110, ...))
}

test_that("arrows go from zero, all lengthened by one factor", {
  scene <- scene_of(ink_vectors(loadings))
  strokes <- Find(function(one) one$ink == "vectors", scene$marks)$table
  shafts <- strokes[seq_len(nrow(loadings$data)), ]
  data_of <- function(unit, k) {
    range <- scene$axes[[k]]$range
    range[1] + unit * diff(range)
  }
  expect_lt(max(abs(data_of(shafts$x0, 1))), 1e-9)
  expect_lt(max(abs(data_of(shafts$y0, 2))), 1e-9)
  by <- c(
    data_of(shafts$x1, 1) / loadings$data$x,
    data_of(shafts$y1, 2) / loadings$data$y
  )
  expect_lt(diff(range(by)), 1e-6)
  expect_true(all(shafts$x1 > 0 & shafts$x1 < 1 & shafts$y1 > 0 & shafts$y1 < 1))
  said <- scene_of(ink_vectors(loadings, stretch = 2))
  longer <- Find(function(one) one$ink == "vectors", said$marks)$table[1, ]
  range <- said$axes[[1]]$range
  expect_equal(range[1] + longer$x1 * diff(range), 2 * loadings$data$x[1])
})

test_that("their names stand in the panel and touch nothing", {
  for (height in c(50, 70, 110)) {
    scene <- scene_of(ink_vectors(loadings), height = height)
    names <- scene$texts[scene$texts$string %in% loadings$data$name, ]
    expect_identical(nrow(names), nrow(loadings$data))
    expect_identical(scene_faults(scene), NULL)
  }
  many <- data.frame(x = 1, y = seq(0.1, 0.2, length.out = 8), name = paste("name", 1:8))
  expect_identical(scene_faults(scene_of(ink_vectors(many))), NULL)
})

test_that("what is no vector is told", {
  expect_error(ink_vectors(data.frame(x = 1, y = 1)), "\"name\"", class = "nelvat_error_column")
  expect_error(ink_vectors(data.frame(x = "a", y = 1, name = "b")), "must be numbers")
  expect_error(ink_vectors(data.frame(x = 0, y = 0, name = "b")), "no vector")
  expect_error(
    panel(scores, x = asinh(first), y = second, ink_vectors(loadings)),
    "begin at zero",
    class = "nelvat_error_argument"
  )
})
