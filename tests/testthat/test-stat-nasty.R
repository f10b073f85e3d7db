# Numbers that are easily lost: far from zero, very small, tied, or few. Oracles are R's own
# functions on the same values, or the values moved to where nothing is lost.

set.seed(21)
# Multiples of a power of two, so that adding an offset loses nothing.
spread <- round(rnorm(40) * 2^10) / 2^10

test_that(
  "means, their errors and quartiles are those of R far from zero, for tiny values, ties and few",
  {
    cases <- list(
      far = 1e9 + spread,
      tiny = spread * 1e-300,
      tied = rep(c(2, 2, 5), 10),
      two = c(3, 8),
      three = c(1e9, 1e9 + 1, 1e9 + 3),
      huge = spread * 2^600
    )
    for (name in names(cases)) {
      v <- cases[[name]]
      n <- length(v)
      centre <- function(centre, error) nelvat:::centre_error(v, rep(1L, n), 1L, centre, error, 1)
      # R's own sd() of very small and large values is none, so they are moved by a power of two.
      unit <- if (name %in% c("tiny", "huge")) max(abs(v)) else 1
      scale <- stats::sd(v / unit) * unit
      expect_equal(
        (centre("mean", "sd")$upper - mean(v)) / scale,
        1,
        tolerance = 1e-6,
        label = paste(name, "sd")
      )
      expect_equal(
        (centre("mean", "se")$upper - mean(v)) / (scale / sqrt(n)),
        1,
        tolerance = 1e-6,
        label = paste(name, "se")
      )
      expect_equal(
        (centre("mean", "ci")$upper - mean(v)) / (stats::qt(0.975, n - 1) * scale / sqrt(n)),
        1,
        tolerance = 1e-6,
        label = paste(name, "ci")
      )
      expect_identical(
        centre("median", "quartiles")$centre,
        stats::median(v),
        label = paste(name, "median")
      )
      quartiles <- stats::quantile(v, c(0.25, 0.75), names = FALSE)
      expect_equal(
        c(centre("median", "quartiles")$lower, centre("median", "quartiles")$upper) - v[1],
        quartiles - v[1],
        tolerance = 1e-8
      )
      expect_identical(centre("sum", "none")$centre, sum(v), label = paste(name, "sum"))
      expect_equal(
        c(centre("mean", "range")$lower, centre("mean", "range")$upper),
        range(v),
        label = paste(name, "range")
      )
    }
    whole <- c(2^52 + 1, 3, 5, 2^51 + 7)
    expect_identical(
      nelvat:::centre_error(whole, rep(1L, 4), 1L, "sum", "none", 1)$centre,
      sum(whole)
    )
    one <- nelvat:::centre_error(7, 1L, 1L, "mean", "sd", 1)
    expect_identical(one$centre, 7)
    expect_true(is.na(one$upper) || one$upper == 7)
  }
)

test_that("bootstrap limits are the percentiles of means of resamples", {
  v <- spread + 10
  limits <- nelvat:::centre_error(v, rep(1L, 40), 1L, "mean", "bootstrap", 1)
  set.seed(99)
  own <- stats::quantile(
    replicate(4000, mean(sample(v, replace = TRUE))),
    c(0.025, 0.975),
    names = FALSE
  )
  expect_equal(c(limits$lower, limits$upper), own, tolerance = 0.02)
  again <- nelvat:::centre_error(v, rep(1L, 40), 1L, "mean", "bootstrap", 1)
  expect_identical(limits, again)
})

test_that("densities are the sum of their kernels, near zero and far from it", {
  truth <- function(x, h) vapply(x, function(spot) mean(stats::dnorm(spot, spread, h)), 0)
  near <- nelvat:::density_curve(spread, 0.3)
  expect_lt(max(abs(near$density - truth(near$x, 0.3))) / max(near$density), 2e-3)
  for (offset in c(2^20, 2^30)) {
    far <- nelvat:::density_curve(spread + offset, 0.3)
    expect_equal(far$density, near$density, tolerance = 1e-7)
    expect_equal(far$x - offset, near$x, tolerance = 1e-6)
  }
  for (rule in c("silverman", "scott", "sheather-jones")) {
    h <- switch(
      rule,
      silverman = stats::bw.nrd0(spread),
      scott = stats::bw.nrd(spread),
      stats::bw.SJ(spread)
    )
    expect_equal(nelvat:::density_bandwidth(spread, rule), h, label = rule)
  }
  # The plane: at the middle of a grid, against the kernels themselves.
  set.seed(5)
  x <- rnorm(400)
  y <- rnorm(400, 0, 2)
  grid <- nelvat:::density_grid(x, y, c(-4, 4), c(-8, 8))
  expect_equal(
    grid$bandwidth,
    c(
      min(stats::sd(x), diff(stats::quantile(x, c(0.25, 0.75), names = FALSE)) / 1.349),
      min(stats::sd(y), diff(stats::quantile(y, c(0.25, 0.75), names = FALSE)) / 1.349)
    ) * 400^(-1 / 6),
    tolerance = 1e-8
  )
  at <- c(50, 50)
  expected <- mean(
    stats::dnorm(grid$x[at[1]], x, grid$bandwidth[1]) * stats::dnorm(
      grid$y[at[2]],
      y,
      grid$bandwidth[2]
    )
  )
  expect_equal(grid$z[at[1], at[2]], expected, tolerance = 0.01)
  expect_equal(sum(grid$z) * diff(grid$x)[1] * diff(grid$y)[1], 1, tolerance = 1e-3)
})

test_that("running means are those of their windows, an infinity in its own ones only", {
  window_means <- function(v, width) {
    vapply(
      seq_along(v),
      function(i) {
        mean(v[max(1, i - (width - 1) / 2):min(length(v), i + (width - 1) / 2)])
      },
      0
    )
  }
  for (v in list(spread, spread + 1e9, spread * 1e-300, c(1, 2, Inf, 4:9))) {
    for (width in c(1, 3, 7)) {
      expect_equal(as.numeric(running_mean(v, width)), window_means(v, width), tolerance = 1e-12)
    }
  }
  expect_equal(as.numeric(running_mean(c(1, NA, 3, 5), 3)), c(2, NA, 3, 4))
})

test_that("a histogram puts each value in one bin, also where edges and values are decimals", {
  set.seed(31)
  for (width in c(0.1, 0.2, 0.25, 0.05, 0.3, 1e-3, 7)) {
    for (offset in c(0, 1, 1000)) {
      k <- sample(0:30, 300, TRUE)
      v <- offset + k * width
      edges <- nelvat:::histogram_breaks(v, width = width)
      bins <- nelvat:::histogram_counts(v, rep(1L, 300), 1L, edges)
      expect_identical(sum(bins), 300, label = paste("all values at width", width))
      # Values on an edge belong to the bin below it, the first to the first; those of whole numbers
      # are in the middle of their own.
      expected <- if (width == 7) tabulate(k + 1) else tabulate(pmax(k, 1), max(k))
      if (offset == 0) {
        expect_equal(
          as.numeric(bins)[seq_along(expected)],
          as.numeric(expected),
          label = paste("bins of width", width)
        )
      }
    }
  }
})

test_that("fits are lm()'s far from zero: slope, R squared and p", {
  x <- 2^30 + spread
  y <- 5 + 3 * spread + rnorm(40)
  found <- fits(plate(panel(data.frame(x = x, y = y), x = x, y = y, ink_points(), ink_fit())))
  model <- summary(stats::lm(y ~ I(x - 2^30)))
  expect_equal(found$r2[1], model$r.squared, tolerance = 1e-8)
  expect_equal(found$p[1], model$coefficients[2, 4], tolerance = 1e-8)
  expect_true(
    any(abs(found$estimate - model$coefficients[2, 1]) < 1e-8 * abs(model$coefficients[2, 1]))
  )
})

test_that("correlations and their intervals are those of cor.test() and of the sources named", {
  loaves <- study("loaves")$data
  r <- correlations(study("loaves"), c(rise, volume))$data$r
  expect_equal(r[r < 1][1], stats::cor(loaves$rise, loaves$volume), tolerance = 1e-12)
  for (method in c("spearman", "kendall")) {
    found <- correlations(study("loaves"), c(rise, volume), method = method)$data$r
    expect_equal(
      found[found < 1][1],
      stats::cor(loaves$rise, loaves$volume, method = method),
      tolerance = 1e-12
    )
  }
})

test_that(
  "every value is in a bin, however near an edge, and a histogram of nothing has no counts",
  {
    set.seed(3)
    for (width in c(0.1, 0.25, 1, 3, 1e-7, 1e6)) {
      for (offset in c(0, 1, -3, 5e3) * width) {
        for (far in c(1e-6, 1e-10, 1e-13, 0)) {
          values <- offset + width * (sample(-3:3, 12, TRUE) + far * sample(-1:1, 12, TRUE))
          breaks <- nelvat:::histogram_breaks(values, width = width)
          expect_identical(sum(nelvat:::histogram_counts(values, rep(1L, 12), 1L, breaks)), 12)
          expect_lte(length(breaks), 1 + 8)
        }
      }
    }
    expect_identical(nelvat:::covering_edges(c(0.3, 0.9), 0.1)[1], 3 * 0.1)
    expect_length(nelvat:::covering_edges(c(0.3, 0.9), 0.1), 7)
    near <- data.frame(x = c(5 - 1e-12, 5, 5 + 1e-12, 6, 8), y = 1:5)
    drawn <- source_data(
      plate(panel(near, x = x, ink_histogram(width = 1)), width = 60, height = 40)
    )[[1]]
    expect_equal(sum(drawn$n, na.rm = TRUE), 5)
    expect_length(nelvat:::histogram_breaks(numeric()), 2)
  }
)
