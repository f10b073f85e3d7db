loaves <- study("loaves")
bars <- panel(loaves, x = flour, y = rise, ink_bars())
plain <- ggplot2::ggplot(loaves$data, ggplot2::aes(rise, volume)) + ggplot2::geom_point()

# ggplot2 leaves 5 % of the range free at each end, so its outermost points stand 1/22 of
# the plot area from its edges: where they are drawn says where the plot area is.
test_that("a ggplot2 plot's own plot area is drawn where the scene has it, to 0.1 mm in the SVG", {
  skip_if_not_installed("svglite")
  fig <- plate(beside(bars, plain), width = 178, height = 70)
  path <- withr::local_tempfile(fileext = ".svg")
  save_plate(fig, path)
  svg <- paste(readLines(path), collapse = "\n")
  number <- function() {
    as.numeric(
      regmatches(
        svg,
        gregexpr("(?<=<circle cx=')[0-9.]+(?=')|(?<= cy=')[0-9.]+(?=')", svg, perl = TRUE)
      )[[1]]
    )
  }
  at <- matrix(number(), 2) * 25.4 / 72
  area <- as_scene(fig)$panels[2, ]
  expect_identical(ncol(at), sum(stats::complete.cases(loaves$data[c("rise", "volume")])))
  expect_equal(range(at[1, ]), area$x + area$w * c(1, 21) / 22, tolerance = 0.1 / 178)
  expect_equal(range(at[2, ]), area$y + area$h * c(1, 21) / 22, tolerance = 0.1 / 70)
})

test_that("a ggplot2 plot is aligned by its plot area", {
  scene <- as_scene(plate(beside(bars, plain), width = 178, height = 70))
  expect_equal(scene$panels$y[1], scene$panels$y[2], tolerance = 1e-9)
  expect_equal(scene$panels$h[1], scene$panels$h[2], tolerance = 1e-9)
  expect_identical(unname(scene$panels$x_shown[2]), NA_integer_)
  reach <- scene$pictures
  expect_true(reach$left > 5 && reach$bottom > 5)
  # What the plot has around its area stays within the page and clear of the neighbour.
  expect_gt(scene$panels$x[2] - reach$left, scene$panels$x[1] + scene$panels$w[1])
  expect_lte(scene$panels$y[2] + scene$panels$h[2] + reach$bottom, 70)
})

test_that("plots with facets, restyled plots and grobs take their places", {
  fig <- plate(
    beside(drawn(plain + ggplot2::facet_wrap(~flour), restyle = TRUE), grid::circleGrob()),
    width = 120,
    height = 60
  )
  path <- withr::local_tempfile(fileext = ".pdf")
  expect_silent(save_plate(fig, path))
  expect_gt(file.size(path), 2000)
  expect_error(plate(list(1, 2)), class = "nelvat_error_argument")
  expect_snapshot(drawn(loaves), error = TRUE)
})

test_that("a plate draws through ggsave and in knitr at its own proportions", {
  fig <- plate(bars, width = 80, height = 60)
  skip_if_not_installed("png")
  path <- withr::local_tempfile(fileext = ".png")
  ggplot2::ggsave(path, fig, width = 80, height = 60, units = "mm", dpi = 100)
  expect_equal(dim(png::readPNG(path))[1:2], c(236, 315), tolerance = 0.01)
  skip_if_not_installed("knitr")
  withr::local_dir(withr::local_tempdir())
  writeLines(
    c(
      "```{r}", "library(nelvat)",
      "plate(panel(study('loaves'), x = flour, y = rise, ink_bars()), width = 80, height = 60)",
      "```"
    ),
    "doc.Rmd"
  )
  knitr::knit("doc.Rmd", "doc.md", quiet = TRUE)
  expect_true(any(grepl("width=80mm", readLines("doc.md"))))
  expect_length(list.files("figure", "png$"), 1)
})

test_that("text panels wrap to their place, and say how much room they lack", {
  scene <- as_scene(
    plate(
      beside(bars, text_panel("Loaves of **four flours**, twelve of each hydration.")),
      width = 100,
      height = 50
    )
  )
  text <- scene$texts[scene$texts$role == "note", ]
  expect_gt(text$lines, 1)
  expect_gte(text$x0, scene$panels$x[2] - 0.01)
  expect_identical(scene_faults(scene), NULL)
  long <- text_panel(paste(rep("many words", 200), collapse = " "))
  expect_error(
    as_scene(plate(beside(bars, long), width = 100, height = 50)),
    "mm of height are missing",
    class = "nelvat_error_space"
  )
})

test_that("letters of plots of other packages and of images stand in line with those beside them", {
  skip_if_not_installed("png")
  other <- drawn(
    ggplot2::ggplot(data.frame(x = 1:9, y = 9:1), ggplot2::aes(x, y)) + ggplot2::geom_point(),
    restyle = TRUE
  )
  own <- panel(data.frame(x = 1:9, y = 9:1), x = x, y = y, ink_points())
  image <- image_panel(
    study_file("crumb.png"),
    scale_bar(length = 5, unit = "mm", per_pixel = 0.05)
  )
  scene <- as_scene(plate(beside(other, own, image), width = 178, height = 60))
  expect_equal(diff(range(scene$texts$y0[scene$texts$role == "letter"])), 0, tolerance = 1e-9)
  expect_equal(diff(range(scene$panels$y[1:2])), 0, tolerance = 1e-9)
})

test_that("an image keeps its shape, and its scale bar has the length it says", {
  skip_if_not_installed("png")
  image <- image_panel(
    study_file("crumb.png"),
    scale_bar(length = 5, unit = "mm", per_pixel = 0.05)
  )
  scene <- as_scene(plate(beside(bars, image), width = 178, height = 70))
  panel <- scene$panels[2, ]
  expect_equal(panel$h / panel$w, 480 / 640, tolerance = 1e-6)
  rects <- Filter(
    function(layer) layer$ink == "scale_bar" && layer$primitive == "rects",
    scene$marks
  )
  bar <- rects[[2]]$table
  # 5 mm at 0.05 mm a pixel are 100 of 640 pixels.
  expect_equal(bar$x1 - bar$x0, 100 / 640)
  expect_true("5\u00a0mm" %in% scene$texts$string)
  expect_snapshot(
    image_panel(study_file("crumb.png"), scale_bar(length = 50, unit = "mm", per_pixel = 0.05)),
    error = TRUE
  )
})

test_that("the example plates have no faults, and the file makes the figure of the call", {
  skip_if_not_installed("png")
  plates <- example_plates("plates")
  needs_poppler()
  folder <- withr::local_tempdir()
  for (name in names(plates)) {
    scene <- suppressWarnings(as_scene(plates[[name]]))
    expect_identical(scene_faults(scene), NULL, label = paste("what is wrong with", name))
    out <- file.path(folder, paste0(name, ".pdf"))
    suppressWarnings(save_plate(plates[[name]], out))
    read <- read_pdf_words(out)
    expect_equal(
      c(read$width_mm, read$height_mm),
      c(plates[[name]]$width_mm, plates[[name]]$height_mm),
      tolerance = 1e-4
    )
    expect_lt(max(read$words$x1), read$width_mm + 0.2)
    if (all(scene$texts$angle %in% c(0, 90))) {
      expect_identical(
        nrow(overlapping_boxes(read$words, 0.25)),
        0L,
        label = paste("words that touch in", name)
      )
    }
  }
  lines <- gsub(
    "../study",
    system.file("study", package = "nelvat"),
    readLines(example_file("plates.yaml")),
    fixed = TRUE
  )
  path <- file.path(folder, "plates.yaml")
  writeLines(lines, path)
  # Names of blocks, which only a file has, are in what is told alone.
  drawn_of <- function(plate) {
    scene <- suppressWarnings(as_scene(plate))
    scene$told$block <- NULL
    scene
  }
  expect_identical(drawn_of(read_figure(path)$plate), drawn_of(plates$figure))
  others <- sub("^#   ", "", lines[(grep("Other plates", lines) + 1):length(lines)])
  top <- lines[seq_len(grep("^plate:", lines) - 1)]
  other <- yaml::yaml.load(paste(others, collapse = "\n"))
  for (name in names(other)) {
    writeLines(c(top, yaml::as.yaml(list(plate = other[[name]]))), path)
    expect_identical(drawn_of(read_figure(path)$plate), drawn_of(plates[[name]]), label = name)
  }
})
