loaves <- study("loaves")
slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
scatter <- panel(loaves, x = rise, y = volume, colour = flour, ink_points())
scene_of <- function(...) suppressWarnings(as_scene(plate(...)))
of_block <- function(scene, i) {
  scene$panels[scene$panels$block == paste0("block", i) & scene$panels$role != "marginal", ]
}
outline_of <- function(scene, i) {
  Filter(
    function(layer) {
      layer$ink == "zoom" && layer$primitive == "areas" && layer$block == paste0("block", i)
    },
    scene$marks
  )
}

test_that("a zoom shows its part with the same marks and colours, outlined where it is from", {
  scene <- scene_of(
    beside(all = scatter, zoom(of = "all", x = c(40, 60), y = c(600, 800))),
    width = 178,
    height = 70
  )
  whole <- of_block(scene, 1)
  part <- of_block(scene, 2)
  expect_equal(scene$axes[[part$x_axis]]$range, c(40, 60))
  expect_equal(scene$axes[[part$y_axis]]$range, c(600, 800))
  points <- Filter(function(layer) layer$primitive == "points", scene$marks)
  expect_identical(points[[1]]$table$colour, points[[2]]$table$colour)
  back <- function(unit, axis) scene$axes[[axis]]$range[1] + unit * diff(scene$axes[[axis]]$range)
  expect_equal(back(points[[1]]$table$x, whole$x_axis), back(points[[2]]$table$x, part$x_axis))
  outline <- outline_of(scene, 1)[[1]]$table
  expect_equal(sort(unique(back(outline$x, whole$x_axis))), c(40, 60))
  expect_equal(sort(unique(back(outline$y, whole$y_axis))), c(600, 800))
  expect_identical(scene$texts$string[scene$texts$role == "region letter"], "b")
})

test_that("equal lengths stay equal in a zoom, by the shape of its plot area", {
  scene <- scene_of(
    beside(
      slice = slice,
      stacked(
        zoom(of = "slice", x = c(30, 50), y = c(22, 37)),
        zoom(of = 1, x = c(80, 100), y = c(42, 57))
      ),
      widths = c(2, 1)
    ),
    width = 178,
    height = 90
  )
  for (i in 2:3) {
    part <- of_block(scene, i)
    per_mm <- c(
      diff(scene$axes[[part$x_axis]]$range) / part$w,
      diff(scene$axes[[part$y_axis]]$range) / part$h
    )
    expect_equal(per_mm[1], per_mm[2], tolerance = 1e-6)
  }
  expect_identical(scene_faults(scene), NULL)
})

test_that("zooms nest, take one panel of several, and one direction alone", {
  nested <- scene_of(
    beside(a = scatter, b = zoom(of = "a", x = c(30, 70)), zoom(of = "b", x = c(40, 50))),
    width = 178,
    height = 60
  )
  expect_length(outline_of(nested, 1), 2)
  expect_length(outline_of(nested, 2), 2)
  expect_equal(nested$axes[[of_block(nested, 3)$x_axis]]$range, c(40, 50))
  of_grid <- scene_of(
    stacked(
      grid = facets(scatter, across = hydration),
      zoom(of = "grid", panel = 3, x = c(60, 90))
    ),
    width = 178,
    height = 120
  )
  zoomed <- Filter(function(layer) layer$primitive == "points", of_grid$marks)[[2]]$table
  expect_identical(
    nrow(zoomed),
    sum(loaves$data$hydration == "100" & !is.na(loaves$data$rise) & !is.na(loaves$data$volume))
  )
})

test_that("an inset stands inside its panel, in the emptiest corner or where told", {
  inside <- function(inset) {
    scene <- scene_of(
      all = scatter,
      zoom(of = "all", x = c(40, 60), y = c(600, 800), inset = inset),
      width = 100,
      height = 80
    )
    whole <- of_block(scene, 1)
    part <- of_block(scene, 2)
    expect_true(
      part$x > whole$x && part$x + part$w < whole$x + whole$w && part$y > whole$y &&
        part$y + part$h < whole$y + whole$h
    )
    c(part$x + part$w / 2 > whole$x + whole$w / 2, part$y + part$h / 2 > whole$y + whole$h / 2)
  }
  expect_identical(inside("top left"), c(FALSE, FALSE))
  expect_identical(inside("bottom right"), c(TRUE, TRUE))
  # Rise and volume go together, so the upper left and the lower right are empty.
  expect_true(sum(inside(TRUE)) %in% c(0, 2))
})

test_that("leader lines that would cross tick text are left out", {
  scene <- scene_of(
    beside(all = scatter, zoom(of = "all", x = c(40, 60), y = c(600, 800), leaders = TRUE)),
    width = 178,
    height = 70
  )
  expect_identical(sum(scene$rules$role == "leader"), 0L)
})

test_that("a zoom of nothing is an error that says what there is", {
  expect_snapshot(plate(beside(slice = slice, zoom(of = "slcie", x = c(30, 50)))), error = TRUE)
  expect_snapshot(plate(beside(slice, zoom(of = 7, x = c(30, 50)))), error = TRUE)
  expect_snapshot(plate(beside(slice, zoom(of = 1, panel = 2, x = c(30, 50)))), error = TRUE)
  expect_snapshot(
    plate(a = zoom(of = "b", x = c(1, 2)), b = zoom(of = "a", x = c(1, 2))),
    error = TRUE
  )
  expect_snapshot(zoom(of = "a"), error = TRUE)
  expect_snapshot(plate(a = text_panel("words"), zoom(of = "a", x = c(1, 2))), error = TRUE)
})

test_that("an inset stands on no filled area, however large; grid lines are no data", {
  # Two bars side by side fill the right half; only what is filled bars the way there.
  filled <- data.frame(x = c("a", "b"), y = c(1, 10))
  fig <- plate(
    bars = panel(filled, x = x, y = y, ink_bars()),
    zoom(of = "bars", y = c(0, 0.5), inset = TRUE),
    width = 120,
    height = 90
  )
  scene <- suppressWarnings(as_scene(fig))
  inset <- scene$panels[scene$panels$role == "inset", ]
  host <- scene$panels[scene$panels$role == "panel", ]
  bars <- Filter(function(one) one$primitive == "rects" && !is.null(one$layer), scene$marks)[[
    1
  ]]$table
  bars <- bars[bars$panel == host$id, ]
  left <- host$x + bars$x0 * host$w
  right <- host$x + bars$x1 * host$w
  top <- host$y + (1 - pmax(bars$y0, bars$y1)) * host$h
  expect_false(any(left < inset$x + inset$w & right > inset$x & top < inset$y + inset$h))
  plain <- panel(study("loaves"), x = rise, y = volume, ink_points())
  gridded <- panel(
    study("loaves"),
    x = rise,
    y = volume,
    x_axis = axis_of(grid = TRUE),
    y_axis = axis_of(grid = TRUE),
    ink_points()
  )
  spot <- function(of) {
    scene <- as_scene(
      plate(
        of = of,
        zoom(of = "of", x = c(40, 45), y = c(600, 650), inset = TRUE),
        width = 160,
        height = 120
      )
    )
    scene$panels[scene$panels$role == "inset", c("x", "y", "w", "h")]
  }
  expect_identical(spot(gridded), spot(plain))
})

test_that("what lies in a polygon is told by hand-worked places", {
  # An L: the square of 2 without its upper right quarter.
  inside <- nelvat:::inside_polygon(
    c(0.5, 1.5, 1.5, 0.5, 2.5),
    c(0.5, 0.5, 1.5, 1.5, 0.5),
    c(0, 2, 2, 1, 1, 0),
    c(0, 0, 1, 1, 2, 2)
  )
  expect_identical(inside, c(TRUE, TRUE, FALSE, TRUE, FALSE))
})

test_that(
  "leaders run from the part's corners, behind the data, and are left out where they cross",
  {
    probe <- study("probe")
    start <- min(probe$data$time)
    core <- panel(probe, x = time, y = core, x_axis = axis_of(every = "1 day"), ink_line())
    whole <- function(...) suppressWarnings(as_scene(plate(..., width = "double", height = 100)))
    leaders <- function(scene) scene$rules[scene$rules$role == "leader", ]
    near <- whole(p = core, zoom(of = "p", x = start + c(6, 12) * 3600, leaders = TRUE))
    lines <- leaders(near)
    expect_identical(nrow(lines), 2L)
    frame <- near$panels[2, ]
    expect_equal(lines$x1, rep(frame$x, 2))
    expect_equal(sort(lines$y1), frame$y + c(0, frame$h))
    # A step of a day leaves a part of six hours without a tick, so its ticks are its own.
    zoomed <- near$axes[[
      which(vapply(near$axes, function(axis) axis$direction == "x" && 2 %in% axis$drawn_at, NA))[1]
    ]]
    expect_gte(length(zoomed$text), 2)
    between <- whole(
      beside(
        p = core,
        panel(probe, x = time, y = core, ink_line()),
        zoom(of = "p", x = start + c(6, 12) * 3600, leaders = TRUE)
      )
    )
    expect_identical(nrow(leaders(between)), 0L)
    grob <- as_grob(near)
    order <- names(grob$children)
    expect_lt(which(order == "leaders"), min(grep("panel", order)))
    expect_true(all(c("leaders", "rules") %in% order))
  }
)

test_that("a line is known to pass through a box, or beside it", {
  box <- data.frame(x0 = 10, y0 = 10, x1 = 20, y1 = 20)
  line <- function(...) stats::setNames(data.frame(...), c("x0", "y0", "x1", "y1"))
  expect_true(crosses_box(line(0, 15, 30, 15), box))
  expect_true(crosses_box(line(12, 12, 13, 13), box))
  expect_true(crosses_box(line(0, 12, 12, 0), data.frame(x0 = 3, y0 = 3, x1 = 9, y1 = 9)))
  expect_false(crosses_box(line(0, 5, 30, 5), box))
  expect_false(crosses_box(line(0, 0, 9, 9), box))
  expect_false(crosses_box(line(20, 0, 20, 30), box))
  # As often as a thousand points of the line lie inside.
  set.seed(6)
  for (i in 1:50) {
    ends <- line(runif(1, 0, 30), runif(1, 0, 30), runif(1, 0, 30), runif(1, 0, 30))
    t <- seq(0, 1, length.out = 5000)
    x <- ends$x0 + t * (ends$x1 - ends$x0)
    y <- ends$y0 + t * (ends$y1 - ends$y0)
    inside <- any(x > 10.05 & x < 19.95 & y > 10.05 & y < 19.95)
    expect_identical(crosses_box(ends, box), inside)
  }
})

test_that("an inset and what may stand anywhere in its panel keep clear of each other", {
  rows <- data.frame(x = seq(0.2, 9.8, by = 0.2))
  rows$y <- rows$x^1.2
  rows$name <- ifelse(seq_len(nrow(rows)) %in% c(3, 40), paste("Loaf", seq_len(nrow(rows))), NA)
  inside <- function(box, ground) {
    box$x1 > ground$x0 & box$x0 < ground$x1 & box$y1 > ground$y0 & box$y0 < ground$y1
  }
  for (note in list(
    ink_fit(equation = TRUE),
    ink_text("Loaves of the first winter, at night", x = 7, y = 1)
  )) {
    host <- panel(rows, x = x, y = y, ink_points(), note)
    scene <- as_scene(
      plate(host = host, zoom("host", x = c(1, 2), y = c(0, 3), inset = TRUE), width = 90)
    )
    words <- scene$texts[scene$texts$role %in% c("equation", "note"), ]
    expect_identical(unique(words$panel), scene$panels$id[1])
    expect_identical(nrow(words), 1L)
    expect_false(any(inside(words, scene$grounds)))
    # Nor does the outline of the enlarged part cross it.
    outline <- Find(function(layer) identical(layer$ink, "zoom"), scene$marks)$table
    area <- scene$panels[1, ]
    part <- list(
      x0 = area$x + min(outline$x) * area$w,
      x1 = area$x + max(outline$x) * area$w,
      y0 = area$y + (1 - max(outline$y)) * area$h,
      y1 = area$y + (1 - min(outline$y)) * area$h
    )
    expect_false(inside(words, part))
  }
  # Only points that the zoom shows are labelled in it.
  named <- panel(rows, x = x, y = y, ink_points(), ink_labels(name))
  scene <- suppressWarnings(
    as_scene(plate(host = named, zoom("host", x = c(7, 9)), width = 150, height = 60))
  )
  labels <- scene$texts[scene$texts$role == "point label", ]
  expect_setequal(labels$string[labels$panel == scene$panels$id[1]], c("Loaf 3", "Loaf 40"))
  expect_identical(labels$string[labels$panel == scene$panels$id[2]], "Loaf 40")
  bare <- suppressWarnings(
    as_scene(plate(host = named, zoom("host", x = c(4, 5)), width = 150, height = 60))
  )
  expect_false(any(bare$texts$panel[bare$texts$role == "point label"] == bare$panels$id[2]))
})
