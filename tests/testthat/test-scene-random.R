test_that(
  "in random figures no two texts touch, none leaves the page, enters a plot area or is too small",
  {
    drawn <- 0
    for (seed in 1:45) {
      got <- tryCatch(
        suppressMessages(suppressWarnings(random_scene(seed))),
        nelvat_error = identity
      )
      if (inherits(got, "nelvat_error")) {
        # Where no fit exists, the error says so, with the numbers.
        expect_true(
          inherits(got, c("nelvat_error_space", "nelvat_error_labels")),
          label = paste("the error of", seed)
        )
        expect_match(rlang::cnd_message(got), "mm", label = paste("the error of", seed))
        next
      }
      drawn <- drawn + 1
      expect_identical(
        scene_faults(got, got$least_pt),
        NULL,
        label = paste("what is wrong with", seed)
      )
      expect_lte(got$layout$rounds, 8)
    }
    expect_gt(drawn, 30)
  }
)

test_that("faults that are put into a scene are found", {
  scene <- as_scene(
    plate(
      panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()),
      width = 120,
      height = 60
    )
  )
  expect_null(scene_faults(scene))
  moved <- scene
  ticks <- which(moved$texts$role == "tick")[1:2]
  for (column in c("x0", "x1", "y0", "y1", "centre_x", "centre_y")) {
    moved$texts[[column]][ticks[2]] <- moved$texts[[column]][ticks[1]] + 0.5
  }
  expect_match(scene_faults(moved)[1], "tick touches tick")
  off <- scene
  off$texts$x0[1] <- -2
  expect_match(scene_faults(off), "leaves the page")
  small <- scene
  small$texts$size_pt[1] <- 4
  expect_match(scene_faults(small), "too small")
})

test_that("random figures written to PDF read back without words that touch or leave the page", {
  needs_poppler()
  for (seed in seq(3, 300, length.out = 20) %/% 1) {
    fig <- random_figure(seed)
    scene <- tryCatch(suppressWarnings(as_scene(fig)), nelvat_error = function(error) NULL)
    if (is.null(scene) || any(!scene$texts$angle %in% c(0, 90))) next
    path <- withr::local_tempfile(fileext = ".pdf")
    suppressMessages(suppressWarnings(save_plate(fig, path)))
    # One that goes over pages is of several files.
    if (!file.exists(path)) path <- sub("[.]pdf$", "-1.pdf", path)
    read <- read_pdf_words(path)
    expect_identical(
      nrow(overlapping_boxes(read$words, 0.25)),
      0L,
      label = paste("words that touch in", seed)
    )
    expect_true(all(read$words$x0 > -0.1 & read$words$x1 < read$width_mm + 0.1))
  }
})
