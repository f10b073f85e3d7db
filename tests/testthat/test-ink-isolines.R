grid <- expand.grid(x = 0:20, y = 0:10)
plane <- transform(grid, z = 2 * x + 3 * y)
scene_of <- function(...) as_scene(plate(..., width = 100, height = 70))
lines_of <- function(scene) Find(function(one) one$primitive == "lines", scene$marks)$table

test_that("isolines of a plane are straight and hold its value everywhere", {
  fig <- plate(
    panel(plane, x = x, y = y, ink_isolines(z, levels = c(15, 30, 50))),
    width = 100,
    height = 70
  )
  found <- source_data(fig)[[1]]
  traced <- found[found$part == "isolines" & !is.na(found$x), ]
  expect_setequal(unique(traced$estimate), c(15, 30, 50))
  expect_lt(max(abs(2 * traced$x + 3 * traced$y - traced$estimate)), 1e-9)
  expect_match(legend_text(fig), "lines of equal z \\(15, 30 and 50\\)")
})

test_that("values stand in gaps of their lines, along them", {
  scene <- scene_of(panel(plane, x = x, y = y, ink_isolines(z, every = 10)))
  box <- scene$panels[1, ]
  values <- scene$texts[scene$texts$role == "value", ]
  expect_setequal(values$string, as.character(seq(10, 60, 10)))
  turn <- atan2(-2 / 3 * box$h / diff(scene$axes[[2]]$range), box$w / diff(scene$axes[[1]]$range))
  expect_lt(max(abs(values$angle - turn * 180 / pi)), 0.5)
  lines <- lines_of(scene)
  for (i in seq_len(nrow(values))) {
    far <- sqrt(
      (box$x + lines$x * box$w - values$centre_x[i])^2 +
        (box$y + (1 - lines$y) * box$h - values$centre_y[i])^2
    )
    expect_gt(min(far), values$width_mm[i] / 2)
  }
  expect_identical(scene_faults(scene), NULL)
  bare <- scene_of(panel(plane, x = x, y = y, ink_isolines(z, every = 10, labels = FALSE)))
  expect_false(any(bare$texts$role == "value"))
})

test_that("over cells of the same quantity lines stand out from their ground", {
  scene <- scene_of(
    panel(plane, x = x, y = y, colour = z, ink_tiles(values = FALSE), ink_isolines(z, every = 10))
  )
  lines <- lines_of(scene)
  expect_length(unique(lines$colour), 2)
})

test_that("bands between isolines hold the values that lie between, and fill the field", {
  fig <- function(...) {
    plate(panel(plane, x = x, y = y, colour = z, ink_isolines(z, every = 10, ...)), width = 90)
  }
  found <- source_data(fig(filled = TRUE))[[1]]
  bands <- found[found$part == "isolines" & !is.na(found$from), ]
  levels <- seq(10, max(plane$z), by = 10)
  levels <- levels[levels > min(plane$z) & levels < max(plane$z)]
  expect_equal(bands$from, c(min(plane$z), levels))
  expect_equal(bands$to, c(levels, max(plane$z)))
  expect_equal(bands$n, as.vector(table(findInterval(plane$z, levels))))
  scene <- as_scene(fig(filled = TRUE))
  areas <- Filter(function(layer) layer$primitive == "areas", scene$marks)[[1]]$table
  # Their areas are together that of the field.
  shoelace <- function(x, y) abs(sum(x * c(y[-1], y[1]) - c(x[-1], x[1]) * y)) / 2
  each <- by(areas, list(areas$area, areas$ring), function(one) shoelace(one$x, one$y))
  whole <- diff(range(areas$x)) * diff(range(areas$y))
  expect_equal(sum(each, na.rm = TRUE), whole, tolerance = 1e-6)
  expect_identical(length(unique(areas$fill)), nrow(bands))
  expect_match(legend_text(scene), "bands between them as shades")
  expect_true(length(scene$keys) > 0)
  expect_error(
    as_scene(plate(panel(plane, x = x, y = y, ink_isolines(z, filled = TRUE)), width = 90)),
    "colour = z",
    class = "nelvat_error_argument"
  )
})

test_that("isolines end where the grid has no values, and what is no grid is told", {
  holed <- plane[!(plane$x > 8 & plane$x < 12 & plane$y > 3 & plane$y < 7), ]
  found <- source_data(plate(panel(holed, x = x, y = y, ink_isolines(z, 32)), width = 90))[[1]]
  found <- found[found$part == "isolines", ]
  inside <- found$x > 8 & found$x < 12 & found$y > 3 & found$y < 7
  expect_false(any(inside, na.rm = TRUE))
  of <- function(data, ...) scene_of(panel(data, x = x, y = y, ink_isolines(z, ...)))
  expect_error(of(rbind(plane, plane[1, ])), "several values", class = "nelvat_error_data")
  expect_error(of(plane[plane$x == 1, ]), "fewer than two", class = "nelvat_error_data")
  set.seed(1)
  wild <- data.frame(x = rnorm(50), y = rnorm(50), z = rnorm(50))
  expect_error(of(wild), "50 places are known of a grid of 50 by 50", class = "nelvat_error_data")
  flat <- transform(plane, z = 2)
  expect_error(of(flat), "All of \"z\" are 2", class = "nelvat_error_data")
  expect_error(
    of(transform(plane, z = NA_real_)),
    "No row has a value",
    class = "nelvat_error_data"
  )
  expect_error(of(plane, levels = 1000), "No isoline lies", class = "nelvat_error_argument")
  expect_error(of(plane, every = 1e-9), "too small a step", class = "nelvat_error_argument")
  expect_error(of(plane, levels = 3, every = 1), "either `levels` or `every`")
})
