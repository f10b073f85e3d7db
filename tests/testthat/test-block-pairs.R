scene_of <- function(block, width = 178, height = 150) {
  suppressWarnings(as_scene(plate(block, width = width, height = height)))
}
loaves <- study("loaves")
measures <- c("rise", "volume", "ph", "firmness")

# The points of a scene's panel in data units.
points_in <- function(scene, x, y) {
  panel <- scene$panels[scene$panels$x_variable == x & scene$panels$y_variable == y, ]
  layer <- Find(
    function(layer) layer$primitive == "points" && panel$id %in% layer$table$panel,
    scene$marks
  )
  of <- layer$table[layer$table$panel == panel$id, ]
  back <- function(unit, axis) scene$axes[[axis]]$range[1] + unit * diff(scene$axes[[axis]]$range)
  data.frame(x = back(of$x, panel$x_axis), y = back(of$y, panel$y_axis))
}

test_that("each cell's points are the two columns, in rows and columns that share their axes", {
  scene <- scene_of(every_pair(loaves, c(rise, volume, ph, firmness)))
  data <- as.data.frame(loaves$data)
  for (i in 2:4) for (j in seq_len(i - 1)) {
    held <- !is.na(data[[measures[j]]]) & !is.na(data[[measures[i]]])
    found <- points_in(scene, measures[j], measures[i])
    expect_equal(sort(found$x), sort(data[[measures[j]]][held]))
    expect_equal(sort(found$y), sort(data[[measures[i]]][held]))
  }
  below <- scene$panels[scene$panels$row > scene$panels$column, ]
  expect_true(all(tapply(below$x_axis, below$column, function(of) length(unique(of))) == 1))
  expect_true(all(tapply(below$y_axis, below$row, function(of) length(unique(of))) == 1))
  expect_lt(max(tapply(scene$panels$x, scene$panels$column, function(x) diff(range(x)))), 0.01)
  expect_lt(max(tapply(scene$panels$y, scene$panels$row, function(y) diff(range(y)))), 0.01)
  expect_identical(scene_faults(scene), NULL)
})

test_that("only the lower half is drawn when nothing is said, its tick text at the edge", {
  scene <- scene_of(every_pair(loaves, c(rise, volume, ph, firmness)))
  expect_true(all(scene$panels$row >= scene$panels$column))
  ticks <- scene$texts[scene$texts$role == "tick", ]
  panels <- scene$panels[match(unique(ticks$panel), scene$panels$id), ]
  expect_true(all(panels$column == 1 | panels$row == 4))
  # The first row shows only what the diagonal counts, which has no axis to read by.
  expect_false(any(ticks$panel == scene$panels$id[scene$panels$row == 1]))
})

test_that("the edge follows the staircase where only the upper half is drawn", {
  scene <- scene_of(every_pair(loaves, c(rise, volume, ph), above = ink_points(), below = NULL))
  expect_true(all(scene$panels$row <= scene$panels$column))
  bears <- unique(scene$texts$panel[scene$texts$role == "tick"])
  diagonal <- scene$panels$id[scene$panels$row == scene$panels$column]
  expect_setequal(bears, diagonal)
  expect_identical(scene_faults(scene), NULL)
})

test_that("the diagonal's counts leave the shared ranges alone", {
  plain <- scene_of(every_pair(loaves, c(rise, volume, ph), above = ink_points(), diagonal = NULL))
  counted <- scene_of(
    every_pair(loaves, c(rise, volume, ph), above = ink_points(), diagonal = ink_density())
  )
  ranges <- function(scene, direction) {
    axes <- Filter(
      function(axis) axis$direction == direction && axis$variable %in% measures,
      scene$axes
    )
    names <- vapply(axes, `[[`, "", "variable")
    stats::setNames(lapply(axes, `[[`, "range"), names)[sort(names)]
  }
  expect_equal(ranges(counted, "x"), ranges(plain, "x"))
  expect_equal(ranges(counted, "y"), ranges(plain, "y"))
  # The first row shows its own variable's axis at the diagonal, whose marks stand on counts.
  first <- counted$panels[counted$panels$row == 1 & counted$panels$column == 1, ]
  expect_identical(counted$axes[[first$y_shown]]$variable, "rise")
  expect_false(first$y_axis == first$y_shown)
})

test_that("correlations are those of cor.test, by group where there is colour", {
  scene <- scene_of(every_pair(loaves, c(rise, volume), above = ink_value(n = TRUE)))
  test <- stats::cor.test(loaves$data$rise, loaves$data$volume)
  written <- gsub("\u2212", "-", scene$texts$string[scene$texts$role == "value"])
  expect_identical(
    written,
    sprintf(
      "r = %.2f (%.2f to %.2f); n = %d",
      test$estimate,
      test$conf.int[1],
      test$conf.int[2],
      sum(!is.na(loaves$data$rise) & !is.na(loaves$data$volume))
    )
  )
  for (method in c("pearson", "spearman", "kendall")) {
    found <- nelvat:::correlation_interval(iris$Sepal.Length, iris$Petal.Length, method)
    test <- suppressWarnings(stats::cor.test(iris$Sepal.Length, iris$Petal.Length, method = method))
    expect_equal(found$r, unname(test$estimate))
    if (method == "pearson") expect_equal(c(found$lower, found$upper), as.numeric(test$conf.int))
    expect_true(found$lower < found$r && found$r < found$upper)
  }
  groups <- scene_of(
    every_pair(loaves, c(rise, volume), colour = flour, above = ink_value(interval = NULL))
  )
  written <- groups$texts$string[groups$texts$role == "value"]
  each <- vapply(
    split(as.data.frame(loaves$data), factor(loaves$data$flour, loaves$columns$flour$levels)),
    function(of) stats::cor(of$rise, of$volume, use = "complete"),
    0
  )
  expect_identical(gsub("\u2212", "-", written), sprintf("r = %.2f", each))
})

test_that("constant and short columns have no correlation", {
  none <- nelvat:::correlation_interval(c(1, 1, 1), c(1, 2, 3))
  expect_true(is.na(none$r))
  expect_identical(nelvat:::correlation_interval(1:2, 2:1)$n, 2L)
})

test_that("variables on transformed axes are drawn, fitted and correlated in them", {
  pores <- study("pores")
  few <- pores$data[1:400, ]
  scene <- scene_of(every_pair(few, c(log10(area), roundness), above = ink_value()), 100, 90)
  expect_equal(
    sort(points_in(scene, "area", "roundness")$x),
    sort(log10(few$area[!is.na(few$area) & !is.na(few$roundness)]))
  )
  expect_match(
    scene$texts$string[scene$texts$role == "value"],
    sprintf("%.2f", abs(stats::cor(log10(few$area), few$roundness, use = "complete")))
  )
})

test_that("a rectangular matrix takes categories: boxes, and counts of pairs", {
  scene <- scene_of(every_pair(loaves, c(rise, flour), rows = c(ph, hydration)))
  expect_identical(nrow(scene$panels), 4L)
  inks <- vapply(scene$marks, `[[`, "", "ink")
  expect_true(all(c("points", "box") %in% inks))
  counts <- Find(
    function(layer) {
      layer$ink == "points" && length(unique(layer$table$size_mm)) >= 1 &&
        max(layer$table$size_mm) > 3
    },
    scene$marks
  )
  expect_identical(nrow(counts$table), 12L)
  expect_true("Count" %in% scene$texts$string)
  # A variable that stands on both sides is alone with itself, so it has a histogram.
  both <- scene_of(every_pair(loaves, c(rise, volume), rows = c(rise, ph)))
  expect_identical(sum(vapply(both$marks, `[[`, "", "ink") == "histogram"), 1L)
})

test_that("a square matrix holds categories, too, its diagonal counting them", {
  scene <- scene_of(every_pair(loaves, c(rise, flour), colour = hydration))
  expect_true(all(c("density", "bars", "box") %in% vapply(scene$marks, `[[`, "", "ink")))
  bars <- Find(function(layer) layer$ink == "bars", scene$marks)$table
  count <- scene$axes[[scene$panels$y_axis[scene$panels$id == bars$panel[1]]]]
  heights <- (bars$y1 - bars$y0) * diff(count$range)
  expect_equal(heights, as.vector(table(factor(loaves$data$flour, loaves$columns$flour$levels))))
  expect_identical(scene_faults(scene), NULL)
})

test_that("a quantity on colour shades the points and leaves the diagonal alone", {
  scene <- scene_of(every_pair(loaves, c(rise, volume), colour = moisture))
  points <- Find(function(layer) layer$ink == "points", scene$marks)$table
  expect_gt(length(unique(points$colour)), 20)
  expect_true("histogram" %in% vapply(scene$marks, `[[`, "", "ink"))
  expect_identical(scene$texts$string[scene$texts$role == "key title"], "Moisture (%)")
})

test_that("one matrix for each level has the same ranges throughout and the level's rows", {
  scene <- scene_of(
    every_pair(loaves, c(rise, volume), within = hydration, colour = flour),
    178,
    70
  )
  expect_identical(scene$texts$string[scene$texts$role == "heading"], c("60%", "80%", "100%"))
  points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
  expect_identical(
    as.vector(table(points$panel)),
    as.vector(table(loaves$data$hydration[!is.na(loaves$data$rise) & !is.na(loaves$data$volume)]))
  )
  wrapped <- scene_of(
    every_pair(loaves, c(rise, volume), within = hydration, per_row = 2),
    120,
    120
  )
  heads <- wrapped$texts[wrapped$texts$role == "heading", ]
  expect_equal(heads$x0[3], heads$x0[1], tolerance = 0.01)
  expect_gt(heads$y0[3], heads$y1[1])
  expect_identical(scene_faults(wrapped), NULL)
})

test_that("the key stands in the empty half, and at the top where there is none", {
  half <- scene_of(every_pair(loaves, c(rise, volume, ph, firmness), colour = flour))
  expect_gt(min(half$keys$x), max(half$panels$x[half$panels$row == 1] + half$panels$w[1]))
  full <- scene_of(
    every_pair(loaves, c(rise, volume, ph, firmness), colour = flour, above = ink_contours())
  )
  expect_lt(max(full$keys$y), min(full$panels$y))
  lower <- scene_of(
    every_pair(
      loaves,
      c(rise, volume, ph, firmness),
      colour = flour,
      above = ink_points(),
      below = NULL
    )
  )
  expect_gt(min(lower$keys$y), min(lower$panels$y + lower$panels$h))
})

test_that("names stand on the diagonal where asked, alone or over what it shows", {
  headed <- scene_of(every_pair(loaves, c(rise, volume), names = "diagonal"))
  expect_identical(
    headed$texts$string[headed$texts$role == "heading"],
    c("Loaf rise (mm)", "Volume (mL)")
  )
  expect_false("axis title" %in% headed$texts$role)
  alone <- scene_of(every_pair(loaves, c(rise, volume), diagonal = "names"))
  expect_identical(
    alone$texts$string[alone$texts$role == "axis title"],
    c("Loaf rise (mm)", "Volume (mL)")
  )
  # They ask nothing of the axes.
  data <- loaves$data
  for (above in list(NULL, ink_value())) {
    words <- scene_of(every_pair(loaves, c(rise, ph), diagonal = "names", above = above))
    ranges <- lapply(c(x = "x", y = "y"), function(direction) {
      Filter(
        function(axis) {
          axis$direction == direction && axis$variable == c(x = "rise", y = "ph")[[direction]]
        },
        words$axes
      )[[1]]$range
    })
    expect_gt(ranges$x[1], min(data$rise) - 0.1 * diff(range(data$rise)))
    expect_gt(ranges$y[1], min(data$ph, na.rm = TRUE) - 0.1 * diff(range(data$ph, na.rm = TRUE)))
  }
})

test_that("a row of a matrix whose values all stand in figures has a name and no ticks", {
  scene <- scene_of(every_pair(loaves, c(rise, ph, acidity), above = ink_value()))
  bare <- function(direction, variable) {
    Filter(function(axis) axis$direction == direction && axis$variable == variable, scene$axes)[[1]]
  }
  expect_length(bare("y", "rise")$text, 0)
  expect_gt(length(bare("y", "ph")$text), 1)
  expect_gt(length(bare("x", "acidity")$text), 1)
  expect_identical(sum(scene$texts$string == "Loaf rise (mm)" & scene$texts$angle == 90), 1L)
  proved <- proof(
    plate(every_pair(loaves, c(rise, ph, acidity), above = ink_value()), width = 120, height = 100)
  )
  expect_false(any(proved$rule == "ticks on each axis" & proved$verdict != "good"))
  # Ticks that were asked for are drawn.
  lone <- function(...) {
    as_scene(plate(panel(loaves, x = rise, y = ph, ..., ink_value()), width = 60, height = 50))$axes
  }
  expect_identical(lengths(lapply(lone(), `[[`, "text")), c(0L, 0L))
  expect_gt(length(lone(x_axis = axis_of(every = 20))[[1]]$text), 1)
  # A neighbour with marks draws its own.
  beside <- suppressWarnings(
    as_scene(
      plate(
        panel(loaves, x = rise, y = ph, ink_value()),
        panel(loaves, x = rise, y = ph, ink_points()),
        width = 150,
        height = 60
      )
    )
  )
  upright <- Filter(function(axis) axis$direction == "y", beside$axes)
  expect_identical(lengths(lapply(upright, `[[`, "text")) > 1, c(FALSE, TRUE))
  expect_true(any(beside$texts$role == "tick" & beside$texts$string == upright[[2]]$text[1]))
  # Where the row has points too, they are read by its ticks.
  scene <- scene_of(every_pair(loaves, c(rise, ph, acidity), above = ink_points()))
  expect_gt(length(bare("y", "rise")$text), 1)
})

test_that("missing values are left out by pair, or wherever a row lacks any", {
  by_pair <- scene_of(every_pair(loaves, c(rise, acidity, firmness)))$facts
  points <- by_pair[by_pair$ink == "points", ]
  data <- loaves$data
  expect_identical(
    sort(points$n),
    sort(
      c(
        sum(!is.na(data$rise + data$acidity)),
        sum(!is.na(data$rise + data$firmness)),
        sum(!is.na(data$acidity + data$firmness))
      )
    )
  )
  complete <- scene_of(every_pair(loaves, c(rise, acidity, firmness), missing = "complete"))$facts
  expect_identical(unique(complete$n), sum(!is.na(data$rise + data$acidity + data$firmness)))
})

test_that("many rows turn points transparent, more turn them to hexagons, and it is said", {
  many <- function(n) data.frame(a = seq_len(n) %% 97, b = seq_len(n) %% 89)
  few <- as_scene(plate(every_pair(many(100)), width = 80, height = 80))
  expect_identical(few$columns, NULL)
  nelvat:::forget_said()
  expect_warning(
    some <- as_scene(plate(every_pair(many(6000)), width = 80, height = 80)),
    "transparent"
  )
  expect_lt(max(Find(function(layer) layer$ink == "points", some$marks)$table$opacity), 0.5)
  expect_warning(
    most <- as_scene(plate(every_pair(many(60000)), width = 80, height = 80)),
    "hexagons"
  )
  expect_true("hexagons" %in% vapply(most$marks, `[[`, "", "ink"))
  asked <- as_scene(plate(every_pair(many(60000), below = ink_contours()), width = 80, height = 80))
  expect_identical(asked$columns, NULL)
})

test_that("panels keep a square shape where asked", {
  scene <- scene_of(every_pair(loaves, c(rise, volume, ph), aspect = 1), 178, 100)
  expect_equal(scene$panels$w, scene$panels$h, tolerance = 1e-6)
  expect_lt(max(scene$texts$y1), 100)
})

test_that("what cannot be a matrix is an error that says why", {
  wide <- as.data.frame(matrix(rnorm(130), 10))
  expect_snapshot(every_pair(wide), error = TRUE)
  expect_snapshot(every_pair(loaves, rise), error = TRUE)
  expect_snapshot(every_pair(loaves, c(rise, baked)), error = TRUE)
  expect_snapshot(every_pair(loaves, c(rise, volume), below = ink_histogram()), error = TRUE)
  expect_snapshot(every_pair(loaves, c(rise, volume), below = NULL), error = TRUE)
  expect_snapshot(every_pair(loaves, c(rise, volume), color = flour), error = TRUE)
})

test_that("example matrices and joint figures are drawn from the file as from the calls", {
  plates <- example_plates("pairs-and-joint")
  needs_poppler()
  folder <- withr::local_tempdir()
  for (name in names(plates)) {
    scene <- suppressWarnings(as_scene(plates[[name]]))
    expect_identical(
      suppressWarnings(as_scene(example_file_plate("pairs-and-joint", name, plates[[name]]))),
      scene,
      label = name
    )
    expect_identical(scene_faults(scene), NULL, label = paste("what is wrong with", name))
    out <- file.path(folder, paste0(name, ".pdf"))
    suppressWarnings(save_plate(plates[[name]], out))
    # The box of an exponent reaches a little into the line above, its letters do not.
    if (all(scene$texts$angle %in% c(0, 90))) {
      expect_identical(
        nrow(overlapping_boxes(read_pdf_words(out)$words, 0.25)),
        0L,
        label = paste("words that touch in", name)
      )
    }
  }
})

test_that("values of a matrix are worded alike in all its panels", {
  set.seed(2)
  for (width in c(110, 140, 178)) {
    scene <- as_scene(
      suppressWarnings(
        plate(
          every_pair(
            study("loaves"),
            c(rise, volume, ph, acidity),
            colour = flour,
            above = ink_value()
          ),
          width = width,
          height = width * 0.75
        )
      )
    )
    said <- scene$texts[scene$texts$role == "value", ]
    expect_length(unique(said$size_pt), 1)
    expect_length(unique(grepl(" to ", said$string)), 1)
  }
})
