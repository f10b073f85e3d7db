# Symbols of points that are written into the PDF stand where, and look as, cairo would draw them.

set.seed(8)
table <- data.frame(
  x = runif(160),
  y = runif(160),
  f = factor(rep(letters[1:8], 20)),
  g = factor(rep(c("p", "q"), each = 80)),
  s = runif(160, 1, 9)
)
shapes <- panel(table, x = x, y = y, colour = f, shape = f, ink_points(size = 2))

# The page as cairo draws it and as it is saved, both as pixels.
both_pages <- function(plate, envir = parent.frame()) {
  scene <- suppressWarnings(as_scene(plate))
  apart <- nelvat:::symbols_apart(scene)
  pixels <- function(bytes) {
    path <- withr::local_tempfile(fileext = ".pdf")
    to <- withr::local_tempfile()
    writeBin(bytes, path)
    system2("pdftocairo", c("-png", "-r", "200", "-singlefile", path, to))
    png::readPNG(paste0(to, ".png"))
  }
  list(
    n = length(apart$of),
    by_cairo = pixels(nelvat:::layered_pdf(scene, list(scene = scene))),
    saved = pixels(nelvat:::layered_pdf(scene, apart))
  )
}

test_that("symbols of all shapes, sizes, opacities are those that cairo draws, in the same order", {
  needs_poppler()
  skip_if_not_installed("png")
  host <- panel(table, x = x, y = y, ink_points(), ink_rule(y = 0.5, weight = 3))
  figures <- list(
    shapes = plate(shapes, width = 80, height = 70),
    bubbles = plate(
      panel(table, x = x, y = y, size = s, colour = s, ink_points(opacity = 0.5)),
      width = 80,
      height = 70
    ),
    panels = plate(
      facets(panel(table, x = x, y = y, ink_fit(), ink_points()), across = g),
      width = 120,
      height = 60
    ),
    over = plate(
      panel(table, x = x, y = y, ink_points(size = 3), ink_line(colour = "#AA0000", weight = 3)),
      width = 80,
      height = 70
    ),
    cut = plate(
      panel(table, x = x, y = y, x_axis = axis_of(range = c(0.2, 0.5)), ink_points(size = 3)),
      width = 80,
      height = 70
    ),
    zoomed = plate(
      host = host,
      zoom(of = "host", x = c(0.2, 0.6), y = c(0.3, 0.6)),
      width = 120,
      height = 60
    )
  )
  for (name in names(figures)) {
    pages <- both_pages(figures[[name]])
    expect_gt(pages$n, 0, label = name)
    off <- abs(pages$by_cairo - pages$saved)
    # Cairo's small discs are not quite round, and readers set the edges of squares on pixels.
    if (name != "shapes") expect_lt(max(off), 0.2, label = name)
    expect_lt(mean(off), 0.002, label = name)
  }
})

test_that("each symbol stands at its value, in PDF units of a scale, and as large as it is said", {
  scene <- as_scene(
    plate(
      panel(table, x = x, y = y, ink_points(size = 2, shape = "square")),
      width = 80,
      height = 70
    )
  )
  one <- nelvat:::symbols_apart(scene)$of[[1]]
  box <- nelvat:::panel_box(one, scene, 1)
  expect_equal(box, c(scene$panels$x, scene$panels$y, scene$panels$w, scene$panels$h) * 72 / 25.4)
  lines <- strsplit(nelvat:::symbol_commands(one, box, 1), "\n")[[1]]
  placed <- grep(" cm ", lines, value = TRUE)
  expect_length(placed, 160)
  at <- t(
    vapply(
      regmatches(placed, regexpr("1 0 0 1 \\S+ \\S+ cm", placed)),
      function(text) {
        as.numeric(strsplit(text, " ")[[1]][5:6])
      },
      c(0, 0)
    )
  )
  expect_equal(unname(at[, 1]), box[1] + one$points$x * box[3], tolerance = 1e-3)
  expect_equal(unname(at[, 2]), box[2] + box[4] - one$points$y * box[4], tolerance = 1e-3)
  # A disc of 2 mm has a radius of 1 mm, and four curves.
  path <- nelvat:::symbol_path("disc", 72 / 25.4)
  expect_match(path, "^2.835 0 m 2.835 1.566 ")
  expect_identical(lengths(regmatches(path, gregexpr(" c", path))), 4L)
})

test_that("each symbol is painted in its own colour, said where it is another than the last", {
  colours <- c("p", "q", "q", "p", "r", "r", "p")
  d <- data.frame(x = 1:7, y = 1:7, colours = colours)
  plain <- plate(
    panel(d, x = x, y = y, colour = colours, ink_points(shape = "disc")),
    width = 80,
    height = 70
  )
  scene <- as_scene(plain)
  one <- nelvat:::symbols_apart(scene)$of[[1]]
  lines <- strsplit(nelvat:::symbol_commands(one, nelvat:::panel_box(one, scene, 1), 1), "\n")[[1]]
  lines <- grep(" cm ", lines, value = TRUE)
  said <- sub(" rg .*", "", ifelse(grepl(" rg ", lines), lines, NA))
  expect_identical(is.na(said), c(FALSE, FALSE, TRUE, FALSE, FALSE, TRUE, FALSE))
  number <- function(text) round(255 * as.numeric(strsplit(text, " ")[[1]]))
  painted <- vapply(
    said[!is.na(said)],
    function(text) {
      grDevices::rgb(t(number(text)), maxColorValue = 255)
    },
    ""
  )
  expect_identical(unname(painted)[cumsum(!is.na(said))], one$points$colour)
})

test_that(
  "stand-ins have a colour of their own; where they are not found cairo draws the symbols",
  {
    needs_poppler()
    scene <- as_scene(
      plate(
        panel(
          table,
          x = x,
          y = y,
          ink_points(colour = "#01020A"),
          ink_rule(y = 0.5, colour = "#010211")
        ),
        width = 80,
        height = 70
      )
    )
    fill <- nelvat:::symbols_apart(scene)$of[[1]]$fill
    expect_false(fill %in% c("#01020A", "#010211"))
    path <- withr::local_tempfile(fileext = ".pdf")
    save_plate(plate(shapes, width = 80, height = 70), path)
    other <- withr::local_tempfile(fileext = ".pdf")
    for (broken in list(
      function(text) nelvat:::abort_pdf("nothing in it is filled"),
      function(text) list(from = 1, to = 2, before = "", fill = "#FFFFFF", box = matrix(0, 1, 4))
    )) {
      with_replaced(
        expect_no_warning(save_plate(plate(shapes, width = 80, height = 70), other)),
        painted_boxes = broken
      )
      expect_equal(read_pdf_words(other), read_pdf_words(path))
      expect_gt(file.size(other), file.size(path))
    }
  }
)

test_that("symbols without one opacity, and images of many marks, are left to cairo", {
  scene <- as_scene(plate(shapes, width = 80, height = 70))
  points <- which(vapply(scene$marks, function(layer) layer$primitive == "points", NA))[1]
  expect_length(nelvat:::panels_apart(scene$marks[[points]], scene), 1)
  mixed <- scene$marks[[points]]
  mixed$table$opacity[3] <- 0.5
  expect_length(nelvat:::panels_apart(mixed, scene), 0)
  missing <- scene$marks[[points]]
  missing$table$x[3] <- NA
  expect_length(nelvat:::panels_apart(missing, scene), 0)
  dense <- data.frame(x = rnorm(nelvat:::dense_marks + 1), y = 0)
  many <- suppressMessages(
    suppressWarnings(
      as_scene(plate(panel(dense, x = x, y = y, ink_points()), width = 80, height = 70))
    )
  )
  drawing <- nelvat:::as_drawing(many, dense_dpi = 300)
  expect_length(nelvat:::symbols_apart(drawing)$of, 0)
})
