# What is drawn stands where the scene says, read from the pixels and the bytes of files.

pixels_of <- function(plate, dpi = 254) {
  path <- withr::local_tempfile(fileext = ".png")
  save_plate(plate, path, dpi = dpi)
  png::readPNG(path)[, , 1:3]
}
# The box of the pixels of a colour, in mm.
box_of <- function(pixels, colour) {
  wanted <- grDevices::col2rgb(colour)[, 1] / 255
  at <- which(
    apply(abs(sweep(pixels, 3, wanted)), c(1, 2), max) < 0.02,
    arr.ind = TRUE
  )
  c(x0 = min(at[, 2]) - 1, x1 = max(at[, 2]), y0 = min(at[, 1]) - 1, y1 = max(at[, 1])) / 10
}
table <- data.frame(x = 0:10, y = c(0:5, 4:0))

test_that("a disc has the size and the place of its mark", {
  skip_if_not_installed("png")
  fig <- plate(
    panel(
      table[6, ],
      x = x,
      y = y,
      x_axis = axis_of(range = c(0, 10)),
      y_axis = axis_of(range = c(0, 10)),
      ink_points(size = 5, shape = "disc", colour = "#AA0000", opacity = 1)
    ),
    width = 60,
    height = 50
  )
  area <- as_scene(fig)$panels[1, ]
  box <- box_of(pixels_of(fig), "#AA0000")
  centre <- c(area$x + area$w / 2, area$y + area$h / 2)
  expect_lt(max(abs(c(mean(box[1:2]), mean(box[3:4])) - centre)), 0.11)
  expect_lt(max(abs(c(box[["x1"]] - box[["x0"]], box[["y1"]] - box[["y0"]]) - 5)), 0.25)
})

test_that("an inset has a white ground, and only there", {
  skip_if_not_installed("png")
  host <- panel(
    table,
    x = x,
    y = y,
    y_axis = axis_of(range = c(0, 10)),
    ink_shade(y = c(6, 10), colour = "#0044CC", opacity = 1),
    ink_points()
  )
  fig <- plate(
    host = host,
    zoom(of = "host", x = c(2, 3), y = c(2, 3), inset = "top right", size = 0.3),
    width = 80,
    height = 70
  )
  scene <- suppressWarnings(as_scene(fig))
  ground <- scene$grounds[1, ]
  pixels <- pixels_of(fig)
  at <- function(x, y) pixels[round(y * 10), round(x * 10), ]
  expect_identical(nrow(scene$grounds), 1L)
  corners <- expand.grid(
    x = c(ground$x0 + 0.4, ground$x1 - 0.4),
    y = c(ground$y0 + 0.4, ground$y1 - 0.4)
  )
  inside <- mapply(function(x, y) min(at(x, y)), corners$x, corners$y)
  expect_gt(min(inside), 0.9)
  beside <- at(ground$x0 - 2, (ground$y0 + ground$y1) / 2)
  expect_lt(max(abs(beside - c(0, 68, 204) / 255)), 0.1)
})

test_that("an EPS page stands at the top of its sheet, to a hundredth of a point", {
  fig <- plate(panel(table, x = x, y = y, ink_points()), width = 60, height = 50)
  path <- withr::local_tempfile(fileext = ".eps")
  save_plate(fig, path)
  lines <- readLines(path, warn = FALSE)
  size <- as.numeric(
    strsplit(sub("%%HiResBoundingBox: 0 0 ", "", grep("HiRes", lines, value = TRUE)[1]), " ")[[1]]
  )
  expect_lt(max(abs(size - c(60, 50) / 25.4 * 72)), 0.01)
  needs_program("gs", "ghostscript")
  skip_if_not_installed("png")
  to <- withr::local_tempfile(fileext = ".png")
  system2(
    "gs",
    c("-q", "-dBATCH", "-dNOPAUSE", "-dEPSCrop", "-sDEVICE=png16m", "-r254", "-o", to, path)
  )
  drawn <- png::readPNG(to)[, , 1:3]
  ink <- which(apply(drawn, c(1, 2), min) < 0.4, arr.ind = TRUE)
  own <- which(apply(pixels_of(fig), c(1, 2), min) < 0.4, arr.ind = TRUE)
  expect_lt(max(abs(apply(ink, 2, range) - apply(own, 2, range))), 4)
})
