strains <- study("strains")
stages <- study("stages")
heat <- function(..., ink = ink_tiles(values = FALSE)) {
  panel(strains, x = medium, y = strain, colour = growth, ..., ink)
}
clustered <- list(
  strain = by_likeness(growth, medium, groups = 3),
  medium = by_likeness(growth, strain)
)
scene_of <- function(block, width = 120, height = 110) {
  suppressWarnings(as_scene(plate(block, width = width, height = height)))
}

test_that("strips and trees stand one beside the other, on the panel's own axis to 0.01 mm", {
  scene <- scene_of(
    marginals(
      heat(order = clustered),
      x = ink_tree(depth = 7),
      y = list(
        ink_strip(colour = kind),
        ink_strip(colour = origin, depth = 4),
        ink_tree(depth = 9)
      ),
      gap = 0.8
    )
  )
  main <- scene$panels[scene$panels$role == "panel", ]
  right <- scene$panels[scene$panels$side %in% "y", ]
  expect_identical(right$tier, 1:3)
  expect_equal(right$w, c(2.5, 4, 9))
  expect_equal(right$x, main$x + main$w + 0.8 + c(0, 3.3, 8.1))
  expect_equal(right$y, rep(main$y, 3))
  expect_equal(right$h, rep(main$h, 3))
  expect_identical(scene_faults(scene), NULL)
  # Each cell of a strip is as high as the row of tiles that it is of.
  rows_mm <- function(id, ink) {
    found <- Find(function(one) one$ink == ink && id %in% one$table$panel, scene$marks)$table
    middle <- unique(round((found$y0 + found$y1) / 2, 6))
    sort(middle)
  }
  tiles <- rows_mm(main$id, "tiles")
  strip <- rows_mm(right$id[1], "strip")
  expect_length(strip, 24)
  # Gaps between groups shift a middle by less than half of one.
  expect_lt(max(abs(tiles - strip)) * main$h, 0.01)
  names <- scene$texts[scene$texts$role == "strip name", ]
  expect_setequal(names$string, c("Kind", "Origin"))
  expect_equal(names$centre_x, right$x[1:2] + right$w[1:2] / 2, tolerance = 1e-6)
})

test_that("a tree's leaves stand on the middles of their levels, its joints at their heights", {
  scene <- scene_of(marginals(heat(order = clustered), y = ink_tree()))
  lines <- Find(function(one) one$ink == "tree", scene$marks)$table
  wide <- reshape(
    as.data.frame(strains$data[c("strain", "medium", "growth")]),
    idvar = "strain",
    timevar = "medium",
    direction = "wide"
  )
  tree <- stats::hclust(stats::dist(as.matrix(wide[-1])), "average")
  axis <- scene$axes[[scene$panels$y_axis[1]]]
  expect_identical(axis$text, wide$strain[tree$order][axis$kept])
  ends <- unique(round(lines$x1 / max(lines$x1), 6))
  expect_setequal(setdiff(ends, 0), unique(round(tree$height / max(tree$height), 6)))
  leaves <- lines[lines$x0 == 0 & lines$y0 == lines$y1, ]
  middles <- 1 - (seq_len(24) - 0.5) / 24
  expect_lt(max(abs(sort(leaves$y0) - sort(middles))), 1e-9)
})

test_that("groups of a cut tree part tiles and strips by gaps", {
  scene <- scene_of(marginals(heat(order = clustered), y = ink_strip(colour = kind)))
  high <- scene$panels$h[1]
  for (ink in c("tiles", "strip")) {
    table <- Find(function(one) one$ink == ink, scene$marks)$table
    low <- sort(unique(round(pmin(table$y0, table$y1), 7)))
    top <- sort(unique(round(pmax(table$y0, table$y1), 7)))
    gaps <- (low[-1] - top[-length(top)]) * high
    expect_identical(sum(gaps > 0.8), 2L)
  }
})

test_that("one level alone has no tree and no order by likeness, and none is said", {
  lone <- heat(keep = strain == "L01", order = list(strain = by_likeness(growth, medium)))
  scene <- scene_of(marginals(lone, y = ink_tree()), height = 60)
  expect_false(grepl("tree|likeness", legend_text(scene)))
})

test_that("what cannot stand in a strip is told", {
  in_margin <- function(..., panel = heat()) {
    suppressWarnings(as_scene(plate(marginals(panel, ...), width = 120, height = 110)))
  }
  expect_error(in_margin(y = ink_tree()), "no tree of \"strain\"", class = "nelvat_error_argument")
  expect_error(in_margin(y = ink_strip()), "needs `colour`", class = "nelvat_error_argument")
  expect_error(in_margin(y = ink_strip(colour = medium)), "one colour", class = "nelvat_error_data")
  expect_error(in_margin(y = ink_histogram()), class = "nelvat_error_kind")
  expect_error(heat(ink = ink_tree()), "stands along one axis", class = "nelvat_error_argument")
  expect_error(
    panel(strains, x = medium, y = strain, colour = growth, ink_strip(colour = kind)),
    "stands along one axis"
  )
  # Levels that are left out after the tree was made leave no tree.
  book <- codebook(
    strains,
    strain = category(order = by_likeness(growth, medium))
  )
  some <- panel(
    book,
    x = medium,
    y = strain,
    colour = growth,
    keep = kind == "yeast",
    ink_tiles()
  )
  expect_error(marginals(some, y = ink_tree()), "other levels", class = "nelvat_error_argument")
})

test_that("phases stand where their table says, over panels and on their ground", {
  probe <- study("probe")
  course <- panel(probe, x = time, y = gas, ink_phases(stages), ink_line())
  scene <- scene_of(marginals(course, x = ink_phases(stages)), height = 60)
  axis <- scene$axes[[scene$panels$x_axis[1]]]
  seconds <- as.numeric(as.POSIXct(stages$data$from, tz = "UTC"))
  for (one in Filter(function(one) one$ink == "phases" && one$primitive == "rects", scene$marks)) {
    where <- (seconds - axis$range[1]) / diff(axis$range)
    expect_lt(max(abs(one$table$x0 - where)) * scene$panels$w[1], 0.01)
  }
  said <- scene$texts[scene$texts$role == "phase", ]
  expect_identical(said$string, stages$data$name)
  expect_match(legend_text(scene), "phases: Feeding, Rest, Folding, Proof and Cold")
  # Units are those of the axis.
  hours <- data.frame(h = 0:72, y = sin(0:72))
  book <- codebook(hours, h = quantity(unit = "h"), y = quantity())
  table <- codebook(
    data.frame(from = c(0, 1), to = c(1, 2), name = c("one", "two")),
    from = quantity(unit = "d"),
    to = quantity(unit = "d")
  )
  scene <- scene_of(panel(book, x = h, y = y, ink_phases(table), ink_line()), height = 60)
  axis <- scene$axes[[scene$panels$x_axis[1]]]
  expect_equal(
    Find(function(one) one$ink == "phases", scene$marks)$table$x1,
    (c(24, 48) - axis$range[1]) / diff(axis$range)
  )
})

test_that("phases that cannot be are told", {
  hours <- data.frame(h = 0:72, y = sin(0:72))
  of <- function(from, to, name = "a") {
    panel(
      hours,
      x = h,
      y = y,
      ink_phases(data.frame(from = from, to = to, name = name)),
      ink_line()
    )
  }
  expect_error(of(3, 1), "begin before it ends", class = "nelvat_error_argument")
  expect_error(of("x", "y"), "numbers, dates or times", class = "nelvat_error_argument")
  expect_error(ink_phases(data.frame(from = 1, to = 2)), "\"name\"", class = "nelvat_error_column")
  expect_error(of(as.Date("2026-01-01"), as.Date("2026-01-02")), "axis is of numbers")
  long <- data.frame(from = c(0, 3), to = c(3, 72), name = c("a very long name of a phase", "b"))
  expect_error(
    scene_of(marginals(panel(hours, x = h, y = y, ink_line()), x = ink_phases(long)), 60, 50),
    "does not fit over it",
    class = "nelvat_error_labels"
  )
})

test_that("margins of categories count them", {
  loaves <- study("loaves")
  scene <- scene_of(marginals(panel(loaves, x = flour, y = rise, ink_dots()), x = ink_bars()))
  bars <- Find(function(one) one$ink == "bars", scene$marks)$table
  axis <- scene$axes[[scene$panels$y_axis[scene$panels$role == "marginal"]]]
  counted <- table(loaves$data$flour[!is.na(loaves$data$rise)])
  expect_equal(
    sort((bars$y1 - bars$y0) * diff(axis$range)),
    sort(as.numeric(counted))
  )
})

test_that("heat maps of very many cells are images of what 600 dots show", {
  set.seed(1)
  many <- expand.grid(a = sprintf("a%03d", 1:150), b = sprintf("b%03d", 1:150))
  many$v <- as.numeric(many$a) + as.numeric(many$b)
  scene <- scene_of(
    panel(
      many,
      x = a,
      y = b,
      colour = v,
      x_axis = axis_of(breaks = character()),
      y_axis = axis_of(breaks = c("b001", "b150")),
      ink_tiles()
    )
  )
  expect_identical(vapply(scene$marks, `[[`, "", "primitive"), "image")
  pixels <- scene$marks[[1]]$pixels
  expect_identical(dim(pixels), c(150L, 150L))
  # The first level is at the left and at the top: the palest; the last the darkest.
  light <- function(colour) sum(grDevices::col2rgb(colour))
  expect_gt(light(pixels[1, 1]), light(pixels[1, 150]))
  expect_gt(light(pixels[1, 150]), light(pixels[150, 150]))
  expect_identical(pixels[1, 150], pixels[150, 1])
})

test_that("phases stand over every measure, upright along y, and are said only where rows are", {
  probe <- study("probe")
  several <- marginals(
    facets(panel(probe, x = time, y = c(surface, core), ink_line()), per_row = 1),
    x = ink_phases(stages)
  )
  scene <- scene_of(several)
  expect_identical(sum(scene$texts$role == "phase"), 2L * nrow(stages$data))
  upright <- scene_of(
    marginals(
      panel(probe, x = gas, y = time, ink_line(along = "y")),
      y = ink_phases(stages)
    )
  )
  expect_true(all(upright$texts$angle[upright$texts$role == "phase"] == 90))
  expect_identical(scene_faults(upright), NULL)
  late <- data.frame(from = 50, to = 60, name = "never")
  beyond <- panel(data.frame(x = 1:9, y = 1:9), x = x, y = y, ink_phases(late), ink_line())
  expect_false(grepl("never", legend_text(plate(beyond, width = 86))))
})
