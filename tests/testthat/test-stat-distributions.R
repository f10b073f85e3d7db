test_that("boxes have quartiles of type 7, whiskers within the reach, and the rest as outliers", {
  set.seed(4)
  values <- c(rt(300, 2), NA)
  group <- c(sample(1:3, 300, TRUE), 1L)
  for (coef in c(0.5, 1.5, 3)) {
    got <- nelvat:::box_summary(values, group, 3L, coef)
    for (g in 1:3) {
      v <- values[group == g & !is.na(values)]
      q <- stats::quantile(v, c(0.25, 0.5, 0.75), names = FALSE)
      box <- got$boxes[got$boxes$group == g, ]
      expect_equal(c(box$q1, box$median, box$q3), q)
      reach <- coef * (q[3] - q[1])
      out <- v < q[1] - reach | v > q[3] + reach
      expect_equal(c(box$low, box$high), range(v[!out]))
      expect_setequal(got$outliers$value[got$outliers$group == g], v[out])
      expect_equal(box$notch_high - box$median, 1.58 * (q[3] - q[1]) / sqrt(length(v)))
    }
  }
})

test_that(
  "boxes of odd-sized samples are those of boxplot.stats, whose hinges are then quartiles",
  {
    v <- datasets::chickwts$weight[1:69]
    got <- nelvat:::box_summary(v, rep(1L, 69), 1L)
    wanted <- grDevices::boxplot.stats(v)
    expect_equal(
      unlist(got$boxes[c("low", "q1", "median", "q3", "high")], use.names = FALSE),
      wanted$stats
    )
    expect_setequal(got$outliers$value, wanted$out)
  }
)

test_that("quantiles by selection are those of type 7", {
  set.seed(12)
  for (n in c(1, 2, 5, 100, 101)) {
    v <- c(round(rnorm(n), 1), NA)
    p <- c(0, 0.05, 0.25, 0.5, 0.75, 1)
    expect_equal(nelvat:::quantiles_cpp(v, p), stats::quantile(v, p, names = FALSE, na.rm = TRUE))
  }
})

test_that("density curves are those of stats::density() for every rule of bandwidth", {
  for (values in list(datasets::faithful$eruptions, datasets::precip, c(1, 1, 2, 5, 5, 5.5))) {
    for (rule in c("silverman", "scott", "sheather-jones")) {
      if (rule == "sheather-jones" && length(values) < 10) next
      wanted <- stats::density(
        values,
        bw = c(silverman = "nrd0", scott = "nrd", `sheather-jones` = "SJ")[[rule]]
      )
      got <- nelvat:::density_curve(values, rule)
      expect_equal(got$x, wanted$x, tolerance = 1e-10)
      expect_lt(max(abs(got$density - wanted$y)) / max(wanted$y), 1e-6)
    }
  }
  expect_equal(
    nelvat:::density_curve(datasets::precip, 3)$density,
    stats::density(datasets::precip, bw = 3)$y,
    tolerance = 1e-6
  )
})

test_that("values that are all equal have a density, and it integrates to one", {
  got <- nelvat:::density_curve(rep(4, 10))
  expect_equal(sum(got$density) * diff(got$x)[1], 1, tolerance = 0.01)
})

test_that("counts in bins are those of hist(), edges and ties included", {
  set.seed(6)
  values <- c(round(rnorm(400, 5, 2), 1), NA)
  group <- c(sample(1:3, 400, TRUE), 2L)
  breaks <- seq(-4, 14, 0.5)
  got <- nelvat:::histogram_counts(values, group, 3L, breaks)
  for (g in 1:3) {
    expect_equal(got[, g], graphics::hist(values[group == g], breaks, plot = FALSE)$counts)
  }
  uneven <- c(-4, 0, 1, 1.5, 3, 14)
  expect_equal(
    rowSums(nelvat:::histogram_counts(values, group, 3L, uneven)),
    graphics::hist(values, uneven, plot = FALSE)$counts
  )
})

test_that(
  "bins cover the values, by number, width, edges, or the rule of Freedman and Diaconis made round",
  {
    set.seed(7)
    for (values in list(rnorm(500), rexp(2000) * 1e4, c(3, 3, 3), 1:10)) {
      breaks <- nelvat:::histogram_breaks(values)
      expect_true(min(breaks) <= min(values) && max(breaks) >= max(values))
      expect_lte(length(breaks), 203)
    }
    expect_length(nelvat:::histogram_breaks(rnorm(50), bins = 7), 8)
    expect_equal(diff(nelvat:::histogram_breaks(1:10, width = 2.5)), rep(2.5, 4))
    rule <- 2 * stats::IQR(datasets::precip) / length(datasets::precip)^(1 / 3)
    expect_equal(nelvat:::freedman_diaconis(datasets::precip), rule)
    expect_lte(diff(nelvat:::histogram_breaks(datasets::precip))[1], rule)
  }
)

# The slow way: the nearest of all centres of a patch of hexagons.
nearest_hexagon <- function(x, y) {
  centres <- expand.grid(column = -12:12, row = -12:12)
  at_x <- centres$column + (centres$row %% 2) / 2
  at_y <- centres$row * sqrt(3) / 2
  nearest <- vapply(seq_along(x), function(i) which.min((x[i] - at_x)^2 + (y[i] - at_y)^2), 0L)
  list(column = centres$column[nearest], row = centres$row[nearest])
}

test_that("each point falls in the hexagon whose centre is nearest, and all are counted", {
  set.seed(8)
  x <- runif(3000, -8, 8)
  y <- runif(3000, -8, 8)
  got <- nelvat:::hexagon_counts_cpp(c(x / 2, NA), c(y, 1), rep(1, length(x) + 1), 2, 1)
  wanted <- as.data.frame(table(do.call(paste, nearest_hexagon(x, y))), stringsAsFactors = FALSE)
  expect_equal(got$n[match(wanted$Var1, paste(got$column, got$row))], wanted$Freq)
  expect_identical(sum(got$n), 3000)
})

test_that("a two-dimensional density integrates to one, and is that of a sum of Gaussians", {
  set.seed(9)
  x <- rnorm(60)
  y <- rnorm(60)
  grid <- nelvat:::density_grid(x, y, c(-6, 6), c(-6, 6), points = 161)
  step <- diff(grid$x)[1]
  expect_equal(sum(grid$z) * step^2, 1, tolerance = 1e-6)
  at <- cbind(c(0, 0.75, -1.5), c(0, 0.3, 0.6))
  by_hand <- apply(
    at,
    1,
    function(p) {
      mean(stats::dnorm(p[1], x, grid$bandwidth[1]) * stats::dnorm(p[2], y, grid$bandwidth[2]))
    }
  )
  on_grid <- grid$z[
    cbind(
      vapply(at[, 1], function(v) which.min(abs(grid$x - v)), 0L),
      vapply(at[, 2], function(v) which.min(abs(grid$y - v)), 0L)
    )
  ]
  expect_equal(on_grid, by_hand, tolerance = 0.02)
})

test_that("contours around a share of the points hold that share, to one point", {
  set.seed(10)
  for (n in c(20, 4000)) {
    x <- rnorm(n)
    y <- 0.5 * x + rnorm(n)
    grid <- nelvat:::density_grid(x, y, c(-6, 6), c(-6, 6))
    own <- nelvat:::heights_at(grid, x, y)
    # At the corners of the grid the height is the corner's.
    expect_equal(
      nelvat:::heights_at(grid, grid$x[c(1, 50, 100)], grid$y[c(3, 50, 99)]),
      grid$z[cbind(c(1, 50, 100), c(3, 50, 99))]
    )
    cut <- nelvat:::share_levels(own, c(0.5, 0.8, 0.95))
    expect_equal(vapply(cut, function(h) sum(own >= h), 0), c(0.5, 0.8, 0.95) * n)
  }
  # Equal heights are all inside.
  expect_true(all(c(2, 2, 2, 2) > nelvat:::share_levels(c(2, 2, 2, 2), 0.5)))
})

# A swarm in plain R, by trying all ends of forbidden stretches.
reference_swarm <- function(y, d) {
  offset <- numeric(length(y))
  for (i in seq_along(y)[-1]) {
    near <- which(y[i] - y[seq_len(i - 1)] < d)
    if (!length(near)) next
    reach <- sqrt(d^2 - (y[i] - y[near])^2)
    candidates <- c(0, offset[near] - reach, offset[near] + reach)
    free <- vapply(
      candidates,
      function(o) all((o - offset[near])^2 + (y[i] - y[near])^2 >= d^2 - 1e-7),
      NA
    )
    offset[i] <- candidates[free][order(round(abs(candidates[free]), 9), -candidates[free])][1]
  }
  offset
}

test_that(
  "no two dots of a swarm overlap, each stands as near the middle as can be, the same each time",
  {
    set.seed(11)
    for (y in list(sort(rnorm(200, 30, 4)), rep(3, 9), sort(c(1, 1, 1.2, 9)))) {
      d <- 1.5
      offset <- nelvat:::swarm_offsets_cpp(y, d)
      apart <- as.matrix(stats::dist(cbind(offset, y)))
      expect_gte(min(apart[upper.tri(apart)]), d - 1e-5)
      expect_equal(offset, reference_swarm(y, d), tolerance = 1e-6)
      expect_identical(nelvat:::swarm_offsets_cpp(y, d), offset)
    }
  }
)

test_that("shades of counts rise from one to the greatest, no more steps than asked", {
  for (counts in list(1:4, c(1, 50, 978), 1, c(1, 1e6))) {
    for (steps in c(2, 6, 12)) {
      edges <- nelvat:::count_edges(counts, steps)
      expect_identical(edges[1], 1)
      expect_gt(edges[length(edges)], max(counts))
      expect_true(all(diff(edges) > 0))
      expect_lte(length(edges) - 1, max(steps, 1))
    }
  }
})

test_that("bins of whole numbers are centred on them, in marginals too", {
  expect_equal(nelvat:::histogram_breaks(datasets::mtcars$cyl), c(3, 5, 7, 9))
  expect_equal(nelvat:::histogram_breaks(datasets::mtcars$carb), 0.5 + 0:8)
  scene <- as_scene(plate(joint(datasets::mtcars, x = cyl, y = mpg), width = 86, height = 86))
  over <- which(
    vapply(scene$marks, function(one) !is.null(one$table$x0) && "y0" %in% names(one$table), NA)
  )
  bars <- scene$marks[[over[1]]]$table
  points <- Find(function(one) one$primitive == "points", scene$marks)$table
  at <- sort(unique(points$x))
  expect_equal(sort((bars$x0 + bars$x1) / 2)[seq_along(at)], at)
})

test_that("colours that follow the axis part nothing; marks of a slot stand in one place", {
  set.seed(4)
  table <- data.frame(
    g = rep(c("a", "b", "c"), each = 12),
    v = rnorm(36, rep(c(1, 2, 4), each = 12)),
    kind = rep(c("wild", "wild", "mutant"), each = 12),
    dose = rep(c("low", "high"), 18)
  )
  middles <- function(...) {
    scene <- as_scene(plate(panel(table, x = g, y = v, ...), width = 100, height = 60))
    lapply(scene$marks, function(one) {
      if (one$primitive == "rects") {
        sort(unique(round((one$table$x0 + one$table$x1) / 2, 6)))
      } else if (one$primitive == "segments") {
        sort(unique(round(one$table$x0[one$table$x0 == one$table$x1], 6)))
      }
    })
  }
  expect_equal(middles(colour = kind, ink_bars(error = "none"))[[1]], round(c(1, 3, 5) / 6, 6))
  both <- middles(colour = dose, ink_bars(error = "none"), ink_centre())
  expect_equal(both[[1]], both[[2]])
  boxes <- middles(colour = dose, ink_box(), ink_centre())
  expect_true(all(boxes[[1]] %in% unlist(boxes[-1])))
  # Letters stand over the bars that they compare.
  scene <- as_scene(
    plate(
      panel(table, x = g, y = v, colour = dose, ink_bars(), ink_contrasts(show = "letters")),
      width = 120,
      height = 60
    )
  )
  letters_at <- scene$texts[
    scene$texts$string %in% c("a", "b") & scene$texts$role != "tick" & scene$texts$role != "key",
  ]
  bars <- scene$marks[[1]]$table
  bar_mm <- sort(scene$panels$x + (bars$x0 + bars$x1) / 2 * scene$panels$w)
  letters_mm <- sort((letters_at$x0 + letters_at$x1) / 2)
  expect_equal(letters_mm, bar_mm[seq_along(letters_mm)], tolerance = 1e-4)
})
