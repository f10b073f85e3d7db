loaves <- study("loaves")
scatter <- function() panel(loaves, x = rise, y = volume, ink_points())

test_that("a plate of unlike blocks needs no size, and no panel of it is narrow", {
  fig <- plate(
    facets(panel(loaves, x = rise, y = volume, colour = flour, ink_points()), across = hydration),
    every_pair(loaves, c(rise, ph, acidity), colour = flour),
    joint(loaves, x = rise, y = firmness, colour = flour, keep = firmness < 12, ink_points()),
    panel(
      correlations(loaves, c(rise, volume, ph, acidity, firmness)),
      x = first,
      y = second,
      colour = r,
      ink_tiles()
    ),
    panel(loaves, x = flour, y = ph, ink_box())
  )
  scene <- suppressWarnings(as_scene(fig))
  standing <- scene$panels[scene$panels$role != "marginal", ]
  expect_gt(min(standing$w), 16)
  expect_lte(scene$page$height_mm, 225)
  expect_null(scene_faults(scene))
})

test_that("like blocks are dealt without an empty place where that can be, in their best shape", {
  for (n in c(2, 3, 4, 6, 9, 12)) {
    scene <- as_scene(do.call(plate, rep(list(scatter()), n)))
    columns <- length(unique(round(scene$panels$x, 3)))
    rows <- length(unique(round(scene$panels$y, 3)))
    expect_identical(columns * rows, as.integer(n), label = paste(n, "blocks"))
    shape <- scene$panels$w / scene$panels$h
    expect_true(all(shape > 0.6 & shape < 1.8), label = paste("shapes of", n))
  }
})

test_that("blocks go over pages: letters go on, each page has its tick text, ranges are of all", {
  fig <- do.call(plate, c(rep(list(scatter()), 30), per_row = 3))
  pages <- page_scenes(fig, NULL)
  expect_length(pages, 3)
  expect_identical(unlist(lapply(pages, `[[`, "letters")), c(letters, "aa", "ab", "ac", "ad"))
  expect_identical(sum(vapply(pages, function(page) nrow(page$panels), 0L)), 30L)
  expect_true(all(vapply(pages, function(page) page$page$height_mm <= 225, NA)))
  for (page in pages) {
    expect_null(scene_faults(page))
    lowest <- page$panels$id[page$panels$y == max(page$panels$y)]
    drawn <- unlist(
      lapply(Filter(function(axis) axis$direction == "x", page$axes), `[[`, "drawn_at")
    )
    expect_true(all(lowest %in% drawn))
  }
  ranges <- unique(
    unlist(
      lapply(pages, function(page) {
        vapply(
          Filter(function(axis) axis$direction == "x", page$axes),
          function(axis) paste(axis$range, collapse = " "),
          ""
        )
      })
    )
  )
  expect_length(ranges, 1)
  folder <- withr::local_tempdir()
  expect_message(paths <- save_plate(fig, file.path(folder, "many.pdf")), "3 pages")
  expect_identical(basename(paths), paste0("many-", 1:3, ".pdf"))
  expect_match(legend_text(fig), ". ad, volume", fixed = TRUE)
})

test_that("a zoom stays on the page of what it shows", {
  slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
  many <- c(
    rep(list(scatter()), 22),
    list(slice = slice, zoom(of = "slice", x = c(30, 50), y = c(22, 37)))
  )
  pages <- page_scenes(do.call(plate, c(many, per_row = 1)), NULL)
  expect_gt(length(pages), 1)
  with_slice <- vapply(
    pages,
    function(page) {
      sum(vapply(page$marks, function(layer) identical(layer$primitive, "areas"), NA))
    },
    0L
  )
  expect_identical(sum(with_slice > 0), 1L)
  expect_gte(max(with_slice), 2L)
})

test_that("a matrix of ten variables fits double width", {
  set.seed(4)
  wide <- as.data.frame(matrix(rnorm(600), 60, dimnames = list(NULL, paste0("v", 1:10))))
  scene <- as_scene(plate(every_pair(wide)))
  expect_identical(length(unique(round(scene$panels$x, 3))), 10L)
  expect_null(scene_faults(scene))
})

test_that("a figure made narrower keeps the shape of its panels", {
  fig <- plate(
    facets(panel(loaves, x = flour, y = rise, ink_bars()), across = hydration, per_row = 2)
  )
  shape_of <- function(fig) {
    panels <- as_scene(fig)$panels
    mean(panels$h / panels$w)
  }
  expect_lt(abs(log(shape_of(resize(fig, width = "single")) / shape_of(fig))), 0.25)
  expect_lt(as_scene(resize(fig, width = "single"))$page$height_mm, fig$height_mm)
})

test_that("sixty panels go over pages, and are described as one figure", {
  one <- panel(study("loaves"), x = rise, y = moisture, ink_points())
  fig <- do.call(plate, c(rep(list(one), 60), list(width = "double")))
  scene <- suppressWarnings(as_scene(fig))
  expect_identical(nrow(scene$panels), 60L)
  expect_gte(min(scene$panels$h), 10)
  folder <- withr::local_tempdir()
  suppressMessages(suppressWarnings(save_plate(fig, file.path(folder, "a.pdf"))))
  expect_length(list.files(folder), length(fig$pages))
})
