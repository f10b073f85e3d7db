loaves <- study("loaves")
scatter <- panel(loaves, x = volume, y = rise, ink_points())
boxes <- panel(loaves, x = flour, y = rise, ink_box())
mm_off <- function(scene) {
  left <- vapply(split(scene$panels$x, scene$panels$block), min, 0)
  max(left) - min(left)
}
shows_text <- function(scene, id, direction) {
  any(
    vapply(
      scene$axes,
      function(axis) axis$direction == direction && id %in% axis$drawn_at,
      NA
    )
  )
}

test_that("an axis stands once only under panels on one line, else under each", {
  short <- data.frame(x = 1:6, v = 1:6, g = letters[1:6])
  long <- short
  long$g <- paste("a long name of a bakery in the harbour,", letters[1:6])
  of <- function(table, ...) {
    as_scene(
      plate(
        stacked(
          panel(short, x = x, y = v, ink_line()),
          panel(table, x = x, y = g, ink_points()),
          heights = c(1, 2)
        ),
        width = 86,
        height = 110,
        ...
      )
    )
  }
  near <- of(short)
  expect_lt(mm_off(near), 0.01)
  expect_false(shows_text(near, 1, "x"))
  # A third of the width is given for one line, more is not.
  middling <- of(transform(short, g = paste("a bakery", g)))
  expect_lt(mm_off(middling), 0.01)
  apart <- of(transform(short, g = paste("a bakery", g)), align = "never")
  expect_gt(mm_off(apart), 0.01)
  expect_true(shows_text(apart, 1, "x") && shows_text(apart, 2, "x"))
  far <- of(long)
  expect_identical(mm_off(far) > 0.01, shows_text(far, 1, "x"))
})

test_that("a plate with a height is one page or says what is missing; three stacked ones are one", {
  three <- plate(stacked(scatter, boxes, scatter))
  expect_null(three$pages)
  expect_lte(as_scene(three)$page$height_mm, house()$page$height_most_mm)
  rows <- plate(
    facets(
      panel(loaves, x = volume, y = rise, keep = hydration != "80", ink_points()),
      across = bakery,
      down = c(flour, hydration)
    ),
    width = 178,
    height = 60
  )
  folder <- withr::local_tempdir()
  for (use in list(as_scene, proof, function(fig) save_plate(fig, file.path(folder, "a.pdf")))) {
    error <- expect_error(suppressWarnings(use(rows)), class = "nelvat_error_space")
    expect_match(conditionMessage(error), "mm of height are missing")
  }
  expect_length(list.files(folder), 0)
})

test_that("facets and matrices alone in a row take its width, and no cell stays free", {
  ends <- function(scene, row_of) {
    of <- scene$panels[scene$panels$block == row_of, ]
    c(min(of$x), max(of$x + of$w))
  }
  scene <- suppressWarnings(
    as_scene(plate(facets(boxes, across = bakery), scatter, boxes, width = 178))
  )
  expect_lt(abs(diff(c(ends(scene, "block1")[2], ends(scene, "block3")[2]))), 1)
  expect_identical(length(unique(round(scene$panels$y[scene$panels$block != "block1"], 3))), 1L)
  five <- as_scene(plate(scatter, boxes, scatter, boxes, scatter, width = 178))
  right <- tapply(five$panels$x + five$panels$w, round(five$panels$y, 2), max)
  expect_lt(diff(range(right)), 1)
  matrix <- suppressWarnings(
    as_scene(plate(every_pair(loaves, c(rise, volume, ph)), width = 178, per_row = 2))
  )
  expect_gt(max(matrix$panels$x + matrix$panels$w), 170)
})

test_that("columns of text are as wide as their text, headings stand as it does", {
  effects <- data.frame(
    bakery = c("North", "South", "Harbour"),
    ratio = c(1.2, 0.9, 1.5),
    lower = c(0.9, 0.7, 1.1),
    upper = c(1.6, 1.16, 2.05),
    loaves = c(40, 52, 31)
  )
  of <- function(side) {
    as_scene(
      plate(
        panel(effects, x = log10(ratio), y = bakery, ink_estimate(lower, upper, line = 1)),
        panel(
          effects,
          y = bakery,
          heading = "Ratio",
          ink_column(interval_text(ratio, lower, upper), side = side)
        ),
        panel(effects, y = bakery, heading = "Loaves", ink_column(loaves, side = side)),
        width = 120,
        height = 50
      )
    )
  }
  for (side in c("left", "middle", "right")) {
    scene <- of(side)
    expect_gt(scene$panels$w[1], sum(scene$panels$w[2:3]))
    expect_identical(sum(scene$texts$role == "letter"), 0L)
    texts <- scene$texts
    for (head in c("Ratio", "Loaves")) {
      heading <- texts[texts$string == head & texts$role == "heading", ]
      column <- scene$panels[scene$panels$x <= heading$x0 + 0.01 &
        scene$panels$x + scene$panels$w >= heading$x1 - 0.01, ]
      values <- texts[texts$role == "value" & texts$x0 >= column$x - 0.01 &
        texts$x1 <= column$x + column$w + 0.01, ]
      expect_identical(nrow(values), 3L)
      at <- switch(
        side,
        left = list(values$x0, heading$x0),
        right = list(values$x1, heading$x1),
        list((values$x0 + values$x1) / 2, (heading$x0 + heading$x1) / 2)
      )
      expect_equal(at[[1]], rep(at[[2]], 3), tolerance = 1e-6)
    }
  }
})

test_that("notes of many lines make room, on the page and in a panel", {
  note <- paste(rep("This line of a note says much about the loaves.", 14), collapse = " ")
  scene <- as_scene(plate(scatter, note = note, width = 86, height = 100))
  expect_null(scene_faults(scene))
  lines <- scene$texts$lines[scene$texts$role == "plate note"]
  expect_gt(lines, 7)
  inside <- as_scene(
    plate(
      panel(loaves, x = volume, y = rise, ink_text(note, x = 0.02, y = 0.98, at = "panel")),
      width = 86,
      height = 100
    )
  )
  expect_gt(inside$texts$lines[inside$texts$role == "note"], 7)
  expect_null(scene_faults(inside))
})

test_that("a plot of another package keeps its shape, alone and restyled", {
  plot <- ggplot2::ggplot(loaves$data, ggplot2::aes(rise, ph)) + ggplot2::geom_point() +
    ggplot2::theme(aspect.ratio = 1.5)
  for (restyle in c(FALSE, TRUE)) {
    scene <- as_scene(plate(scatter, drawn(plot, restyle = restyle), width = 178, height = 60))
    area <- scene$panels[scene$panels$role == "picture", ]
    expect_equal(area$h / area$w, 1.5, tolerance = 1e-6)
  }
  free <- as_scene(plate(scatter, drawn(ggplot2::ggplot()), width = 178, height = 60))
  expect_gt(free$panels$w[2], free$panels$h[2])
})

test_that("ticks stop where only brackets go on", {
  table <- data.frame(g = rep(c("a", "b", "c"), each = 8), v = c(1:8, 2:9, 11:18) / 3)
  scene <- as_scene(
    plate(panel(table, x = g, y = v, ink_box(), ink_contrasts()), width = 86, height = 60)
  )
  axis <- Find(function(axis) axis$direction == "y", scene$axes)
  expect_lt(max(axis$breaks), 6.5)
  expect_gte(length(axis$breaks), 3)
  expect_gt(max(axis$range), 7)
})
