# What must hold of every placement, checked on random trees of blocks.
loaves <- study("loaves")
kinds <- list(
  function() panel(loaves, x = flour, y = rise, ink_bars()),
  function() panel(loaves, y = flour, x = volume, ink_box()),
  function() panel(loaves, x = rise, y = firmness, colour = flour, ink_points()),
  function() facets(panel(loaves, x = rise, y = ph, ink_points()), across = hydration),
  function() joint(loaves, x = rise, y = volume),
  function() every_pair(loaves, c(rise, ph))
)

# A tree of places with blocks at its leaves, `depth` deep at most; how many leaves it has.
random_tree <- function(depth) {
  if (depth == 0 || runif(1) < 0.35) {
    return(list(place = kinds[[sample(length(kinds), 1)]](), n = 1))
  }
  parts <- lapply(seq_len(sample(2:3, 1)), function(i) random_tree(depth - 1))
  children <- lapply(parts, `[[`, "place")
  sizes <- sample(c(1, 1, 2), length(children), TRUE)
  place <- if (runif(1) < 0.5) {
    do.call(beside, c(children, list(widths = sizes)))
  } else {
    do.call(stacked, c(children, list(heights = sizes)))
  }
  list(place = place, n = sum(vapply(parts, `[[`, 0, "n")))
}

block_edges <- function(scene) {
  panels <- scene$panels[scene$panels$role != "marginal", ]
  do.call(
    rbind,
    lapply(split(panels, factor(panels$block, unique(panels$block))), function(own) {
      data.frame(
        left = min(own$x),
        right = max(own$x + own$w),
        top = min(own$y),
        bottom = max(own$y + own$h)
      )
    })
  )
}

test_that(
  "blocks that begin or end at the same line of the grid have that edge in common, to 0.01 mm",
  {
    drawn <- 0
    for (seed in 1:40) {
      set.seed(seed)
      tree <- random_tree(2)
      fig <- plate(tree$place, width = 260, height = 260)
      scene <- tryCatch(
        suppressWarnings(as_scene(fig)),
        nelvat_error_space = function(error) NULL,
        nelvat_error_labels = function(error) NULL
      )
      if (is.null(scene)) next
      drawn <- drawn + 1
      edges <- block_edges(scene)
      places <- fig$grid$places
      expect_identical(nrow(edges), as.integer(tree$n))
      # Blocks beside one with marginals may line up with it by the outer edge; those under one with
      # a far wider margin keep their own.
      with_marginal <- function(side) {
        vapply(
          split(scene$panels, factor(scene$panels$block, unique(scene$panels$block))),
          function(own) side %in% own$side,
          NA
        )
      }
      edges_of <- function(edge, line) {
        tapply(edges[[edge]], line, function(values) length(unique(round(values, 2))))
      }
      most <- function(side, line) 1 + tapply(with_marginal(side), line, any)
      apart <- function(edge, line) {
        unlist(tapply(edges[[edge]], line, function(values) diff(range(values))))
      }
      expect_true(all(edges_of("top", places$y0) <= most("x", places$y0)))
      expect_true(all(apart("bottom", places$y1) < 0.01))
      expect_true(
        all(
          edges_of("right", places$x1) <= most("y", places$x1) |
            apart("right", places$x1) > 0.15 * 260
        )
      )
      expect_true(all(apart("left", places$x0) < 0.01 | apart("left", places$x0) > 0.15 * 260))
      expect_identical(scene_faults(scene), NULL, label = paste("what is wrong with", seed))
    }
    expect_gt(drawn, 20)
  }
)

test_that("no plot area enters another, and none leaves the page", {
  for (seed in 41:60) {
    set.seed(seed)
    fig <- plate(random_tree(2)$place, width = 260, height = 260)
    scene <- tryCatch(suppressWarnings(as_scene(fig)), nelvat_error = function(error) NULL)
    if (is.null(scene)) next
    boxes <- data.frame(
      x0 = scene$panels$x,
      x1 = scene$panels$x + scene$panels$w,
      y0 = scene$panels$y,
      y1 = scene$panels$y + scene$panels$h
    )
    expect_identical(nrow(overlapping_boxes(boxes, 0.01)), 0L)
    expect_true(
      min(boxes$x0, boxes$y0) > 0 && max(boxes$x1) < 260 && max(boxes$y1) < scene$page$height_mm
    )
  }
})

test_that("the same plate gives the same scene, and it goes to JSON", {
  set.seed(5)
  fig <- plate(random_tree(2)$place, width = 260, height = 240)
  one <- suppressWarnings(as_scene(fig))
  expect_identical(suppressWarnings(as_scene(fig)), one)
  json <- nelvat:::scene_json(one)
  back <- jsonlite::fromJSON(json)
  expect_equal(back$panels$x, one$panels$x, tolerance = 1e-4)
})

test_that("weights give plot areas their shares, whatever stands around them", {
  for (weights in list(c(1, 1), c(2, 1), c(1, 3))) {
    scene <- suppressWarnings(
      as_scene(
        plate(beside(kinds[[1]](), kinds[[2]](), widths = weights), width = 200, height = 80)
      )
    )
    expect_equal(scene$panels$w[1] / scene$panels$w[2], weights[1] / weights[2], tolerance = 1e-6)
    scene <- suppressWarnings(
      as_scene(
        plate(stacked(kinds[[1]](), kinds[[5]](), heights = weights), width = 120, height = 200)
      )
    )
    main <- scene$panels[scene$panels$role != "marginal", ]
    expect_equal(main$h[1] / main$h[2], weights[1] / weights[2], tolerance = 1e-6)
  }
})

test_that("a plate is drawn whatever device is open, and leaves it open", {
  skip_if_not_installed("png")
  withr::local_pdf(NULL)
  before <- grDevices::dev.cur()
  pores <- plate(
    panel(study("pores"), x = log10(area), y = roundness, ink_points(size = 0.4)),
    width = 60,
    height = 50
  )
  path <- withr::local_tempfile(fileext = ".pdf")
  suppressWarnings(save_plate(pores, path, dense = "image", dpi = 150))
  expect_gt(file.size(path), 5000)
  drawn(ggplot2::ggplot(loaves$data, ggplot2::aes(rise, volume)) + ggplot2::geom_point())
  expect_identical(grDevices::dev.cur(), before)
})

test_that("a key shows the glyphs of what is drawn, and none for what is only written", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        every_pair(loaves, c(rise, volume), colour = flour, shape = flour, above = ink_value()),
        width = 120,
        height = 100
      )
    )
  )
  expect_false(any(grepl("swatch", scene$keys$glyph)))
  expect_identical(length(unique(scene$keys$shape)), 4L)
})
