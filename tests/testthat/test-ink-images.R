# A grey image, written to a file: its levels by rows, the top one first.
grey_file <- function(levels, folder, name) {
  path <- file.path(folder, name)
  png::writePNG(levels, path)
  path
}

image_views <- function(folder) {
  grey_file(matrix(0.5, 20, 40), folder, "wide.png")
  grey_file(matrix(c(0.1, 0.4, 0.7, 1), 10, 12), folder, "small.png")
  data.frame(
    file = c("wide.png", "small.png", "wide.png"),
    flour = c("wheat", "wheat", "rye"),
    day = c("one", "two", "two")
  )
}

test_that("images stand in rows and columns at one scale, with one bar of its length", {
  skip_if_not_installed("png")
  folder <- withr::local_tempdir()
  views <- image_views(folder)
  shown <- panel(views, ink_images(file, scale_bar(4, "mm", 0.25), folder = folder))
  fig <- plate(facets(shown, across = day, down = flour), width = 120)
  scene <- as_scene(fig)
  images <- Filter(function(one) one$primitive == "image", scene$marks)
  expect_length(images, 3)
  area <- function(id) scene$panels[scene$panels$id == id, ]
  mm_a_pixel <- vapply(
    images,
    function(one) {
      at <- area(one$table$panel)
      c(
        (one$table$x1 - one$table$x0) * at$w / ncol(one$pixels),
        (one$table$y1 - one$table$y0) * at$h / nrow(one$pixels)
      )
    },
    c(0, 0)
  )
  expect_equal(diff(range(mm_a_pixel)), 0, tolerance = 1e-9)
  # The smaller one stands in the middle of its panel.
  small <- Filter(function(one) ncol(one$pixels) == 12, images)[[1]]$table
  expect_equal(c(small$x0 + small$x1, small$y0 + small$y1), c(1, 1))
  bars <- Filter(function(one) one$primitive == "rects", scene$marks)
  bar <- bars[[2]]$table
  expect_equal((bar$x1 - bar$x0) * area(bar$panel)$w, 16 * mm_a_pixel[[1]], tolerance = 1e-9)
  expect_identical(sum(scene$texts$string == "4\u00a0mm"), 1L)
  expect_identical(bar$panel, max(vapply(images, function(one) one$table$panel, 0L)))
  expect_identical(
    legend_text(fig),
    paste0(
      "Images, for each day (one and two) and flour (wheat and rye); ",
      "scale bar, 4\u00a0mm."
    )
  )
  expect_length(source_data(fig), 0)
})

test_that("brightness is changed alike for all images, and told", {
  skip_if_not_installed("png")
  folder <- withr::local_tempdir()
  path <- grey_file(matrix(c(0, 51, 102, 153, 204, 255) / 255, 2), folder, "steps.png")
  drawn <- function(...) strtoi(substr(ink_image(path, ...)$pixels, 2, 3), 16)
  expect_identical(drawn(), c(0L, 51L, 102L, 153L, 204L, 255L))
  # 20 % is 51 of 255, 80 % is 204: black and white, and what lies between evenly.
  expect_identical(drawn(brightness = c(20, 80)), c(0L, 0L, 85L, 170L, 255L, 255L))
  told <- legend_text(plate(image_panel(path, brightness = c(20, 80)), width = 60))
  expect_match(told, "brightness from 20 to 80.% of full scale, evenly")
  views <- data.frame(file = basename(path))
  many <- panel(views, ink_images(file, brightness = c(20, 80), folder = folder))
  expect_identical(
    unname(as_scene(plate(many, width = 60))$marks[[1]]$pixels),
    ink_image(path, brightness = c(20, 80))$pixels
  )
  expect_error(ink_image(path, brightness = c(80, 20)), "the darker first")
  expect_error(image_panel(path, brightness = c(0, 200)), "from 0 to 100")
})

test_that("images that cannot be drawn are told by their row, and several of a panel", {
  skip_if_not_installed("png")
  folder <- withr::local_tempdir()
  views <- image_views(folder)
  expect_error(
    as_scene(plate(panel(views, ink_images(file, folder = folder)), width = 60)),
    "One has 2: \"wide.png\", \"small.png\"",
    class = "nelvat_error_data"
  )
  views$file[2] <- "nowhere.png"
  expect_error(
    panel(views, ink_images(file, folder = folder)),
    "row 2 of \"file\"",
    class = "nelvat_error_file"
  )
  writeLines("no image", file.path(folder, "nowhere.png"))
  expect_error(panel(views, ink_images(file, folder = folder)), "first bytes")
  views$file[2] <- NA
  expect_error(
    panel(views, x = flour, ink_images(file, folder = folder)),
    "has no `x`",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(views, ink_images(file, scale_bar(400, "mm", 0.25), folder = folder)),
    "shorter than its image"
  )
  missing <- facets(panel(views, ink_images(file, folder = folder)), across = day, down = flour)
  scene <- as_scene(plate(missing, width = 100))
  expect_length(Filter(function(one) one$primitive == "image", scene$marks), 2)
})

test_that("a figure file finds images beside itself, and they are among its inputs", {
  skip_if_not_installed("png")
  folder <- withr::local_tempdir()
  utils::write.csv(image_views(folder), file.path(folder, "views.csv"), row.names = FALSE)
  file <- file.path(folder, "figure.yaml")
  writeLines(
    c(
      "nelvat: 1",
      "data: {views: views.csv}",
      "blocks:",
      "  views:",
      "    facets:",
      "      panel: {data: views, ink: {images: {path: file, brightness: [0, 50]}}}",
      "      across: day",
      "      down: flour",
      "plate: {width: 100, place: views}"
    ),
    file
  )
  figure <- read_figure(file)
  expect_setequal(basename(figure$inputs), c("views.csv", "wide.png", "small.png"))
  expect_match(legend_text(figure$plate), "Images, for each day")
})

test_that("in an enlargement the bar is as long as what it says, and the legend says it too", {
  skip_if_not_installed("png")
  image <- image_panel(study_file("crumb.png"), scale_bar(5, "mm", 0.05))
  # 5 mm are 100 of 640 pixels; of 160 that is too long, and 2 mm are drawn.
  for (wide in c(160, 320)) {
    fig <- plate(
      beside(whole = image, zoom("whole", x = c(100, 100 + wide), y = c(100, 220))),
      width = 120
    )
    scene <- as_scene(fig)
    bars <- Filter(
      function(one) one$ink == "scale_bar" && one$primitive == "rects",
      scene$marks
    )
    tables <- lapply(bars, function(one) as.data.frame(one$table))
    bar <- do.call(rbind, lapply(tables, `[`, c("panel", "x0", "x1")))
    enlarged <- scene$panels$id[scene$panels$role == "zoom"]
    length <- if (wide == 160) 2 else 5
    drawn <- bar[bar$panel == enlarged, ][2, ]
    expect_equal(drawn$x1 - drawn$x0, length / 0.05 / wide)
    expect_match(
      legend_text(fig),
      paste0("enlargement of the outlined part of a; scale bar, ", length, ".mm")
    )
  }
})
