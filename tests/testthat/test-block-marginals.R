loaves <- study("loaves")
scene_of <- function(block, width = 110, height = 100) {
  suppressWarnings(as_scene(plate(block, width = width, height = height)))
}
main_of <- function(scene) scene$panels[scene$panels$role != "marginal", ]
strip_of <- function(scene, side) {
  strips <- scene$panels[scene$panels$role == "marginal", ]
  strips[
    if (side == "x") {
      strips$x_axis %in% main_of(scene)$x_axis
    } else {
      strips$y_axis %in% main_of(scene)$y_axis
    },
  ]
}

test_that("marginals stand on the panel's own edges and range", {
  for (block in list(
    joint(loaves, x = rise, y = firmness),
    joint(study("pores"), x = log10(area), y = roundness, ink_hexagons())
  )) {
    scene <- scene_of(block)
    main <- main_of(scene)
    top <- strip_of(scene, "x")
    right <- strip_of(scene, "y")
    expect_equal(c(top$x, top$w), c(main$x, main$w), tolerance = 1e-9)
    expect_equal(c(right$y, right$h), c(main$y, main$h), tolerance = 1e-9)
    expect_identical(top$x_axis, main$x_axis)
    expect_identical(right$y_axis, main$y_axis)
    expect_equal(main$y - (top$y + top$h), 1)
    expect_equal(right$x - (main$x + main$w), 1)
    expect_identical(scene_faults(scene), NULL)
  }
})

test_that("marginal counts sum to the panel's n and their bins line up with its ticks", {
  scene <- scene_of(joint(loaves, x = rise, y = volume))
  main <- main_of(scene)
  for (side in c("x", "y")) {
    strip <- strip_of(scene, side)
    bars <- Find(
      function(layer) layer$ink == "histogram" && strip$id %in% layer$table$panel,
      scene$marks
    )$table
    count <- scene$axes[[if (side == "x") strip$y_axis else strip$x_axis]]
    heights <- if (side == "x") bars$y1 - bars$y0 else bars$x1 - bars$x0
    expect_equal(
      sum(heights * diff(count$range)),
      sum(!is.na(loaves$data[[c(x = "rise", y = "volume")[side]]]))
    )
    ticks <- scene$axes[[if (side == "x") main$x_axis else main$y_axis]]$unit
    edges <- if (side == "x") c(bars$x0, bars$x1) else c(bars$y0, bars$y1)
    inside <- ticks[ticks > min(edges) - 1e-9 & ticks < max(edges) + 1e-9]
    for (tick in inside) expect_lt(min(abs(edges - tick)), 1e-9)
  }
})

test_that("marginals go by colour as densities, boxes and rugs", {
  scene <- scene_of(
    joint(
      loaves,
      x = rise,
      y = firmness,
      colour = flour,
      marginal = list(x = list(ink_density(), ink_rug()), y = ink_box())
    )
  )
  inks <- vapply(scene$marks, `[[`, "", "ink")
  expect_true(all(c("density", "rug", "box") %in% inks))
  strip <- strip_of(scene, "y")
  medians <- Filter(
    function(layer) layer$ink == "box" && layer$primitive == "segments",
    scene$marks
  )[[2]]$table
  axis <- scene$axes[[strip$y_axis]]
  found <- axis$range[1] + medians$y0 * diff(axis$range)
  expected <- tapply(
    loaves$data$firmness,
    factor(loaves$data$flour, loaves$columns$flour$levels),
    stats::median,
    na.rm = TRUE
  )
  expect_equal(sort(found), sort(as.vector(expected)))
})

test_that("fits go by group and equal those of lm", {
  found <- fits(
    plate(
      joint(loaves, x = rise, y = firmness, colour = flour, ink_fit(equation = TRUE)),
      width = 100,
      height = 90
    )
  )
  for (level in unique(found$colour)) {
    code <- loaves$columns$flour$levels[
      match(level, nelvat:::plain_text(loaves$columns$flour$level_names))
    ]
    own <- stats::lm(firmness ~ rise, loaves$data[loaves$data$flour == code, ])
    expect_equal(found$estimate[found$colour == level], unname(stats::coef(own)))
  }
})

test_that("marginals' own axes are drawn where asked", {
  without <- scene_of(joint(loaves, x = rise, y = volume))
  with_axis <- scene_of(joint(loaves, x = rise, y = volume, marginal_axis = TRUE))
  strips <- with_axis$panels$id[with_axis$panels$role == "marginal"]
  expect_false(any(without$texts$panel %in% without$panels$id[without$panels$role == "marginal"]))
  expect_setequal(unique(with_axis$texts$panel[with_axis$texts$panel %in% strips]), strips)
  expect_identical(scene_faults(with_axis), NULL)
})

test_that("every panel of facets can have marginals, with one scale for all of a side", {
  block <- marginals(
    facets(panel(loaves, x = rise, y = volume, colour = flour, ink_points()), across = hydration),
    x = ink_histogram(),
    y = ink_density(),
    depth = 8
  )
  scene <- scene_of(block, 178, 70)
  strips <- scene$panels[scene$panels$role == "marginal", ]
  expect_identical(nrow(strips), 6L)
  expect_length(unique(strip_of(scene, "x")$y_axis), 1)
  headings <- scene$texts[scene$texts$role == "heading", ]
  expect_true(all(headings$y1 <= min(strips$y) + 0.01))
  expect_identical(scene_faults(scene), NULL)
})

test_that("where marginals leave no room, the error says how many millimetres are missing", {
  block <- marginals(
    facets(panel(loaves, x = rise, y = volume, ink_points()), across = flour),
    x = ink_histogram(),
    y = ink_histogram(),
    depth = 20
  )
  expect_error(
    as_scene(plate(block, width = 70, height = 60)),
    "mm of width are missing",
    class = "nelvat_error_space"
  )
})

test_that("the key stands in the corner between marginals if it fits there", {
  roomy <- scene_of(joint(loaves, x = rise, y = volume, colour = verdict, depth = 45), 150, 150)
  main <- main_of(roomy)
  expect_gt(min(roomy$keys$x), main$x + main$w)
  expect_lt(max(roomy$keys$y + roomy$keys$h), main$y)
  tight <- scene_of(joint(loaves, x = rise, y = volume, colour = flour), 86, 80)
  expect_lt(max(tight$keys$y + tight$keys$h), min(tight$panels$y))
})

test_that("a joint figure keeps its shape", {
  main <- main_of(scene_of(joint(loaves, x = rise, y = volume, aspect = 1), 120, 80))
  expect_equal(main$w, main$h, tolerance = 1e-6)
})

test_that("lone quantities have boxes, violins, dots and swarms of their own", {
  for (ink in list(ink_box(), ink_violin(), ink_dots(), ink_swarm())) {
    scene <- scene_of(panel(loaves, y = rise, ink))
    expect_identical(scene$panels$x_shown, NA_integer_)
    expect_identical(scene_faults(scene), NULL)
  }
})

test_that("what cannot have marginals is an error that says why", {
  expect_snapshot(joint(loaves, x = rise), error = TRUE)
  expect_snapshot(joint(loaves, x = flour, y = rise, ink_box()), error = TRUE)
  expect_snapshot(marginals(loaves, x = ink_histogram()), error = TRUE)
  expect_snapshot(marginals(panel(loaves, x = rise, y = ph, ink_points())), error = TRUE)
  expect_snapshot(
    marginals(panel(loaves, x = rise, y = ph, ink_points()), x = ink_points()),
    error = TRUE
  )
})

test_that("each variable of a matrix with rows stands alone above its column, beside its row", {
  matrix <- every_pair(loaves, c(rise, flour, firmness), rows = c(ph, acidity), within = verdict)
  block <- marginals(matrix, x = ink_histogram(), y = ink_histogram(), depth = 7)
  scene <- scene_of(block, 180, 120)
  panels <- scene$panels
  top <- panels[panels$side %in% "x", ]
  right <- panels[panels$side %in% "y", ]
  # Of each level three columns and two rows.
  expect_identical(c(nrow(top), nrow(right)), c(6L, 4L))
  expect_equal(c(top$h, right$w), rep(7, 10), tolerance = 1e-6)
  for (i in seq_len(nrow(top))) {
    host <- panels[match(top$host[i], panels$id), ]
    expect_equal(c(top$x[i], top$w[i]), c(host$x, host$w), tolerance = 1e-6)
    expect_identical(top$x_axis[i], host$x_axis)
  }
  # Levels are counted on one axis of each variable, in the same bins.
  expect_true(all(tapply(top$y_axis, top$x_axis, function(of) length(unique(of)) == 1)))
  counts <- source_data(plate(block, width = 180, height = 120))
  sold <- counts[["sold rise margin of x"]]
  expect_identical(
    sum(sold$n, na.rm = TRUE),
    sum(loaves$data$verdict == loaves$columns$verdict$levels[2])
  )
  expect_identical(scene_faults(scene), NULL)
  # It changes as other blocks do, and is said in files.
  deep <- scene_of(change(block, depth = 11, columns = c(rise, volume)), 180, 120)
  expect_equal(unique(deep$panels$h[deep$panels$side %in% "x"]), 11, tolerance = 1e-6)
  expect_error(marginals(every_pair(loaves, c(rise, ph)), x = ink_box()), "This one is square")
  expect_error(
    marginals(every_pair(loaves, c(rise, ph), rows = c(ph, volume)), x = ink_box()),
    "\"ph\" stands in its rows and in its columns"
  )
  expect_error(marginals(matrix, x = ink_strip()), "stands along one axis of levels")
  expect_error(marginals(matrix, x = ink_points()), "`y` is not given")
})

test_that("the axes of marginals are named where their name has room", {
  scene <- as_scene(
    plate(
      joint(
        study("loaves"),
        x = rise,
        y = volume,
        marginal = ink_histogram(),
        marginal_axis = TRUE
      ),
      width = 90,
      height = 80
    )
  )
  named <- scene$texts[scene$texts$role == "axis title" & scene$texts$string == "Count", ]
  strips <- scene$panels[scene$panels$role == "marginal", ]
  expect_setequal(named$panel, strips$id)
  expect_null(scene_faults(scene))
  hidden <- as_scene(
    plate(
      joint(study("loaves"), x = rise, y = volume, marginal = ink_histogram()),
      width = 90,
      height = 80
    )
  )
  expect_false("Count" %in% hidden$texts$string)
})

test_that("marginals outside a grid are of all panels of a column or row", {
  grid <- facets(
    panel(loaves, x = rise, y = volume, ink_points()),
    across = flour,
    down = hydration
  )
  figure <- plate(
    marginals(grid, x = ink_histogram(), y = ink_box(), depth = 7, outside = TRUE),
    width = 178,
    height = 130
  )
  scene <- as_scene(figure)
  expect_null(scene_faults(scene))
  main <- main_of(scene)
  edges <- scene$panels[scene$panels$role == "marginal", ]
  top <- edges[edges$side == "x", ]
  right <- edges[edges$side == "y", ]
  expect_identical(c(nrow(top), nrow(right)), c(4L, 3L))
  expect_equal(sort(top$x), sort(unique(main$x)), tolerance = 1e-9)
  expect_equal(sort(right$y), sort(unique(main$y)), tolerance = 1e-9)
  expect_lt(max(top$y + top$h), min(main$y))
  expect_gt(min(right$x), max(main$x + main$w))
  # Between the panels nothing is left for them.
  gaps <- function(start, length) diff(sort(unique(start))) - length
  plain <- main_of(as_scene(plate(grid, width = 178, height = 130)))
  expect_equal(gaps(main$y, main$h[1]), gaps(plain$y, plain$h[1]), tolerance = 1e-6)
  told <- source_data(figure)
  data <- loaves$data
  boxes <- lapply(c("60", "80", "100"), function(level) told[[paste(level, "margin of y")]])
  for (i in 1:3) {
    of <- data$hydration == c(60, 80, 100)[i]
    expect_equal(boxes[[i]]$median, stats::median(data$volume[of]))
    expect_equal(boxes[[i]]$n, sum(of))
  }
  counts <- told[["Rye margin of x"]]
  expect_identical(sum(counts$n), sum(data$flour == "rye"))
  expect_match(legend_text(figure), "n = 36 loaves a margin")
  apart <- facets(
    panel(loaves, x = rise, y = volume, ink_points()),
    across = flour,
    down = hydration,
    range_per = c(x = "panel")
  )
  expect_error(
    as_scene(plate(marginals(apart, x = ink_histogram(), outside = TRUE))),
    "x axes of their own",
    class = "nelvat_error_argument"
  )
})

test_that("tables are named by the levels that are drawn", {
  few <- facets(
    panel(loaves, x = rise, y = volume, ink_points(), keep = flour != "wheat"),
    across = flour,
    down = hydration,
    empty = "drop"
  )
  names <- names(source_data(plate(few, width = 178, height = 130)))
  expect_identical(names[1:3], c("Spelt 60", "Rye 60", "Stone-ground emmer and einkorn blend 60"))
})
