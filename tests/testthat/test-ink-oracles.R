# Each ink's marks, worked out from the data by other means: where they stand in units of the data,
# how many they are, and what they sum to.

set.seed(14)
table <- data.frame(
  f = factor(rep(c("rye", "oat", "emmer"), c(9, 12, 15)), c("rye", "oat", "emmer")),
  g = factor(rep(c("new", "old"), 18), c("new", "old")),
  x = round(rnorm(36, 20, 4), 2),
  y = round(rexp(36, 0.2) + 3, 2)
)

by_f <- function(values, how) as.numeric(tapply(values, table$f, how))

test_that("points and lines stand at their values, a line from left to right", {
  points <- drawn_marks(panel(table, x = x, y = y, ink_points()), "points")
  expect_equal(sort(points$x), sort(table$x), tolerance = 1e-9)
  expect_equal(
    points$y[order(points$x, points$y)],
    table$y[order(table$x, table$y)],
    tolerance = 1e-9
  )
  line <- drawn_marks(
    panel(data.frame(x = c(3, 1, 2), y = c(9, 7, 8)), x = x, y = y, ink_line()),
    "lines"
  )
  expect_equal(line$x, 1:3)
  expect_equal(line$y, 7:9)
  steps <- drawn_marks(
    panel(data.frame(x = c(1, 2, 4), y = c(5, 7, 6)), x = x, y = y, ink_step()),
    "lines"
  )
  expect_equal(rle(steps$y[order(steps$x, seq_along(steps$x))])$values, c(5, 7, 6))
})

test_that("a rug stands at its values from the edge, as long as it says, on either axis", {
  lying <- drawn_marks(panel(table, x = x, ink_rug(length = 3)), "segments")
  expect_equal(sort(lying$x0), sort(table$x), tolerance = 1e-9)
  expect_equal(lying$x0, lying$x1)
  range <- attr(lying, "range")$y
  expect_equal(unique(round(lying$y0, 9)), range[1])
  expect_equal(unique(round((lying$y1 - lying$y0) / diff(range) * attr(lying, "mm")[["y"]], 6)), 3)
  upright <- drawn_marks(panel(table, y = y, ink_rug(length = 2)), "segments")
  expect_equal(sort(upright$y0), sort(table$y), tolerance = 1e-9)
  expect_equal(
    unique(
      round(
        (upright$x1 - upright$x0) / diff(attr(upright, "range")$x) * attr(upright, "mm")[["x"]],
        6
      )
    ),
    2
  )
})

test_that(
  "bars are means, medians, sums and counts, their error that which they say, stacks cumulative",
  {
    for (centre in c("mean", "median", "sum")) {
      bars <- drawn_marks(
        panel(table, x = f, y = y, ink_bars(centre = centre, error = NULL)),
        "rects"
      )
      expect_equal(bars$y1[order(bars$x0)], by_f(table$y, get(centre)), tolerance = 1e-9)
      expect_equal(unique(bars$y0), 0)
      expect_equal((bars$x0 + bars$x1)[order(bars$x0)] / 2, 1:3, tolerance = 1e-9)
    }
    half <- list(
      sd = sd,
      se = function(v) sd(v) / sqrt(length(v)),
      ci = function(v) qt(0.975, length(v) - 1) * sd(v) / sqrt(length(v))
    )
    for (error in names(half)) {
      whiskers <- drawn_marks(panel(table, x = f, y = y, ink_bars(error = error)), "segments")
      found <- vapply(
        1:3,
        function(i) {
          own <- whiskers[abs(whiskers$x0 - i) < 0.01 & abs(whiskers$x0 - whiskers$x1) < 1e-9, ]
          c(min(own$y0, own$y1), max(own$y0, own$y1))
        },
        c(0, 0)
      )
      expect_equal(
        found[2, ],
        by_f(table$y, mean) + by_f(table$y, half[[error]]),
        tolerance = 1e-9,
        info = error
      )
      expect_equal(
        found[1, ],
        by_f(table$y, mean) - by_f(table$y, half[[error]]),
        tolerance = 1e-9,
        info = error
      )
    }
    stacked <- drawn_marks(panel(table, x = f, colour = g, ink_bars(arrange = "stack")), "rects")
    counts <- base::table(table$g, table$f)
    for (i in 1:3) {
      own <- stacked[round((stacked$x0 + stacked$x1) / 2) == i, ]
      own <- own[order(own$y0), ]
      expect_equal(own$y1 - own$y0, as.numeric(counts[, i])[match(own$y1 - own$y0, counts[, i])])
      expect_equal(own$y0, c(0, own$y1[1]))
      expect_equal(max(own$y1), sum(counts[, i]))
    }
    # The same level is at the foot of every stack.
    foot <- vapply(
      1:3,
      function(i) {
        own <- stacked[round((stacked$x0 + stacked$x1) / 2) == i, ]
        own$fill[which.min(own$y0)]
      },
      ""
    )
    expect_length(unique(foot), 1)
  }
)

test_that(
  "boxes have R's quartiles and whiskers, violins R's densities mirrored about the middle",
  {
    boxes <- drawn_marks(panel(table, x = f, y = y, ink_box()), "areas")
    quartile <- function(share) by_f(table$y, function(v) quantile(v, share, names = FALSE))
    expect_equal(as.numeric(tapply(boxes$y, round(boxes$x), min)), quartile(0.25), tolerance = 1e-9)
    expect_equal(as.numeric(tapply(boxes$y, round(boxes$x), max)), quartile(0.75), tolerance = 1e-9)
    whiskers <- drawn_marks(panel(table, x = f, y = y, ink_box()), "segments")
    reach <- function(how, end) {
      by_f(table$y, function(v) how(grDevices::boxplot.stats(v)$stats[end]))
    }
    expect_true(
      all(
        abs(vapply(reach(identity, 5), function(v) min(abs(c(whiskers$y0, whiskers$y1) - v)), 0)) <
          1e-6
      )
    )
    expect_true(
      all(
        abs(vapply(reach(identity, 1), function(v) min(abs(c(whiskers$y0, whiskers$y1) - v)), 0)) <
          1e-6
      )
    )
    for (side in c("both", "before", "after")) {
      shapes <- drawn_marks(
        panel(table, x = f, y = y, ink_violin(side = side, quartiles = FALSE)),
        "areas"
      )
      widths <- vapply(
        1:3,
        function(i) {
          own <- shapes[round(shapes$x) == i, ]
          # Nothing on the side that it does not stand on.
          if (side == "before") expect_lte(max(own$x), i)
          if (side == "after") expect_gte(min(own$x), i)
          if (side == "both") expect_equal(max(own$x) - i, i - min(own$x), tolerance = 1e-9)
          diff(range(own$x))
        },
        0
      )
      peaks <- by_f(table$y, function(v) max(density(v)$y))
      if (side == "both") expect_equal(widths / max(widths), peaks / max(peaks), tolerance = 0.02)
    }
  }
)

test_that("histograms, densities and cumulative shares are R's own", {
  bins <- drawn_marks(panel(table, x = x, ink_histogram(width = 2)), "rects")
  edges <- sort(unique(round(c(bins$x0, bins$x1), 9)))
  expect_equal(diff(edges), rep(2, length(edges) - 1))
  expect_equal(
    bins$y1[order(bins$x0)],
    as.numeric(hist(table$x, edges, plot = FALSE)$counts)[match(sort(round(bins$x0, 9)), edges)]
  )
  curve <- drawn_marks(panel(table, x = x, ink_density()), "areas")
  top <- curve[curve$y > 0, ]
  by_r <- density(table$x)
  expect_equal(max(top$y), max(by_r$y), tolerance = 0.01)
  expect_equal(top$x[which.max(top$y)], by_r$x[which.max(by_r$y)], tolerance = 0.01)
  share <- drawn_marks(panel(table, x = x, ink_cumulative(band = NULL)), "lines")
  at <- sort(table$x)[c(5, 18, 30)] + 1e-7
  drawn <- vapply(at, function(v) max(share$y[share$x <= v]), 0)
  expect_equal(drawn, ecdf(table$x)(at), tolerance = 1e-9)
})

test_that("a fit is R's line with its band, its residuals what is left of the values", {
  line <- drawn_marks(panel(table, x = x, y = y, ink_fit()), "lines")
  by_r <- lm(y ~ x, table)
  expect_equal(line$y, unname(predict(by_r, data.frame(x = line$x))), tolerance = 1e-8)
  band <- drawn_marks(panel(table, x = x, y = y, ink_fit()), "areas")
  limits <- predict(by_r, data.frame(x = band$x), interval = "confidence")
  expect_true(all(pmin(abs(band$y - limits[, "lwr"]), abs(band$y - limits[, "upr"])) < 1e-6))
  left <- drawn_marks(panel(table, x = x, y = y, ink_residuals()), "points")
  expect_equal(
    left$y[order(left$x, left$y)],
    unname(resid(by_r))[order(table$x, resid(by_r))],
    tolerance = 1e-8
  )
})

test_that("dots keep to their slot and their value, swarms do not touch, tiles cover their cell", {
  for (ink in list(ink_dots(), ink_swarm())) {
    dots <- drawn_marks(panel(table, x = f, y = y, ink), "points")
    expect_equal(sort(dots$y), sort(table$y), tolerance = 1e-9)
    expect_true(all(abs(dots$x - round(dots$x)) < 0.5))
    for (i in 1:3) {
      expect_equal(
        sort(dots$y[round(dots$x) == i]),
        sort(table$y[as.integer(table$f) == i]),
        tolerance = 1e-9
      )
    }
  }
  swarm <- drawn_marks(panel(table, x = f, y = y, ink_swarm()), "points")
  mm <- attr(swarm, "mm") / vapply(attr(swarm, "range"), diff, 0)
  apart <- as.matrix(dist(cbind(swarm$x * mm[["x"]], swarm$y * mm[["y"]])))
  expect_gte(min(apart[upper.tri(apart)]), min(swarm$size_mm) - 1e-6)
  cells <- expand.grid(a = factor(c("p", "q")), b = factor(c("u", "v", "w")))
  cells$v <- 1:6
  tiles <- drawn_marks(panel(cells, x = a, y = b, colour = v, ink_tiles(values = FALSE)), "rects")
  expect_identical(nrow(tiles), 6L)
  expect_setequal(
    paste(round((tiles$x0 + tiles$x1) / 2), abs(round((tiles$y0 + tiles$y1) / 2))),
    paste(rep(1:2, 3), rep(1:3, each = 2))
  )
})
