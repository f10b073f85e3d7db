test_that(
  "in random figures no two texts touch, none leaves the page, enters a plot area or is too small",
  {
    drawn <- 0
    for (seed in tries(45, 30)) {
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
    expect_gt(drawn, 20)
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

test_that("what stands well stands well narrow, beside itself, turned and enlarged, too", {
  skip_if(
    !at_length(),
    "runs with CI=true or ALL=1"
  )
  inks <- new.env()
  for (part in parse(system.file("examples", "inks.R", package = "nelvat"))) {
    code <- paste(deparse(part), collapse = " ")
    if (!grepl("commandArgs|dir.create|save_plate", code)) suppressWarnings(eval(part, inks))
  }
  stands <- function(make, what) {
    drawn <- tryCatch(
      suppressMessages(
        suppressWarnings({
          fig <- make()
          scene <- as_scene(fig)
          list(scene = scene, said = c(legend_text(scene), alt_text(scene)))
        })
      ),
      nelvat_error = function(error) NULL
    )
    if (is.null(drawn)) return(invisible())
    expect_identical(
      nrow(nelvat:::touching_texts(drawn$scene)),
      0L,
      label = paste("texts of", what)
    )
    expect_no_match(drawn$said, "  |\\( |against :|^ | NA\\b|NULL")
  }
  for (name in names(inks$panels)) {
    one <- inks$panels[[name]]
    turned <- axis_of(reverse = TRUE)
    stands(function() plate(one, width = 60, height = 60), paste(name, "narrow"))
    stands(function() plate(beside(one, one), width = 178, height = 90), paste(name, "beside"))
    stands(
      function() plate(change(one, x_axis = turned, y_axis = turned), width = 110, height = 90),
      paste(name, "turned")
    )
    scene <- suppressWarnings(as_scene(plate(one, width = 110, height = 90)))
    axis <- scene$axes[[scene$panels$x_axis[1]]]
    if (axis$slots || axis$transform != "identity" || !is.null(axis$moment)) next
    part <- mean(axis$range) + c(-0.2, 0.2) * diff(axis$range)
    stands(
      function() plate(beside(whole = one, zoom("whole", x = part)), width = 178, height = 90),
      paste(name, "enlarged")
    )
  }
})
