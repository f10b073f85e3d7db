# Each number that a fit, a correlation or a choice of bins tells, against R's own functions where p
# is neither nought nor one, or against a formula written out.

set.seed(31)
d <- data.frame(x = runif(25, 1, 9))
d$y <- 2 + 0.15 * d$x + rnorm(25)
d$w <- sample(1:5, 25, TRUE)
told <- function(model, ..., x = d$x, y = d$y) nelvat:::fit_curve(x, y, model, ...)

test_that(
  "p, R2, s, residuals, curve, bands of least squares are lm()'s, also through the origin",
  {
    models <- list(
      list("line", 2, y ~ x),
      list("polynomial", 2, y ~ x + I(x^2)),
      list("polynomial", 3, y ~ x + I(x^2) + I(x^3)),
      list("proportional", 2, y ~ x - 1)
    )
    for (one in models) {
      for (weighted in c(FALSE, TRUE)) {
        data <- transform(d, v = if (weighted) w else 1)
        by_r <- lm(one[[3]], data, weights = v)
        sum_of <- summary(by_r)
        for (interval in c("confidence", "prediction")) {
          fit <- told(
            one[[1]],
            degree = one[[2]],
            level = 0.9,
            how = list(w = data$v, interval = interval)
          )
          f <- sum_of$fstatistic
          what <- paste(one[[1]], one[[2]], weighted, interval)
          expect_equal(
            fit$p / pf(f[[1]], f[[2]], f[[3]], lower.tail = FALSE),
            1,
            tolerance = 1e-7,
            label = what
          )
          expect_equal(fit$r2, sum_of$r.squared, tolerance = 1e-9, label = what)
          expect_equal(fit$s, sum_of$sigma, tolerance = 1e-9, label = what)
          expect_equal(fit$residuals, unname(d$y - fitted(by_r)), tolerance = 1e-8, label = what)
          expect_equal(
            fit$coefficients$estimate,
            unname(coef(by_r)),
            tolerance = 1e-7,
            label = what
          )
          expect_equal(
            fit$coefficients$se,
            unname(sum_of$coefficients[, 2]),
            tolerance = 1e-7,
            label = what
          )
          expect_equal(
            fit$coefficients$low,
            unname(confint(by_r, level = 0.9)[, 1]),
            tolerance = 1e-6,
            label = what
          )
          band <- suppressWarnings(
            predict(by_r, data.frame(x = fit$curve$x), interval = interval, level = 0.9)
          )
          expect_equal(
            cbind(fit$curve$y, fit$curve$lower, fit$curve$upper),
            unname(band),
            tolerance = 1e-7,
            label = what,
            ignore_attr = TRUE
          )
        }
      }
    }
  }
)

test_that(
  "an exponential, a power and a logistic curve are those of nls(), rising, falling and below zero",
  {
    cases <- list(
      exponential = list(y ~ a * exp(b * x), c(3, 0.25), c(3, -0.4), c(-2, 0.2)),
      power = list(y ~ a * x^b, c(2, 1.3), c(5, -0.7), c(-2, 0.8))
    )
    for (model in names(cases)) {
      for (true in cases[[model]][-1]) {
        data <- data.frame(x = d$x, a = true[1], b = true[2])
        data$y <- eval(cases[[model]][[1]][[3]], data) + rnorm(25, sd = 0.05)
        by_r <- nls(
          cases[[model]][[1]],
          data[c("x", "y")],
          start = list(a = true[1], b = true[2]),
          control = nls.control(tol = 1e-9, scaleOffset = 1)
        )
        fit <- told(model, y = data$y)
        expect_equal(
          fit$coefficients$estimate,
          unname(coef(by_r)),
          tolerance = 1e-6,
          label = paste(model, true[2])
        )
        expect_equal(
          fit$coefficients$se,
          unname(summary(by_r)$coefficients[, 2]),
          tolerance = 1e-5,
          label = paste(model, true[2])
        )
        expect_equal(
          fit$curve$y,
          predict(by_r, data.frame(x = fit$curve$x)),
          tolerance = 1e-6,
          label = paste(model, true[2])
        )
        expect_equal(fit$residuals, data$y - predict(by_r), tolerance = 1e-5, ignore_attr = TRUE)
        expect_equal(fit$r2, 1 - deviance(by_r) / sum((data$y - mean(data$y))^2), tolerance = 1e-8)
        expect_equal(fit$n, 25)
      }
    }
  }
)

test_that("a logistic regression's curve, band and p are glm()'s", {
  shares <- data.frame(x = 1:8, n = c(20, 18, 25, 30, 22, 19, 24, 20))
  shares$y <- c(2, 3, 6, 14, 12, 15, 21, 19) / shares$n
  by_r <- glm(y ~ x, binomial(), shares, weights = n, control = list(epsilon = 1e-12))
  fit <- told("binomial", x = shares$x, y = shares$y, how = list(w = shares$n))
  link <- predict(by_r, data.frame(x = fit$curve$x), se.fit = TRUE)
  expect_equal(fit$curve$y, plogis(link$fit), tolerance = 1e-7, ignore_attr = TRUE)
  expect_equal(
    fit$curve$upper,
    plogis(link$fit + qnorm(0.975) * link$se.fit),
    tolerance = 1e-6,
    ignore_attr = TRUE
  )
  expect_equal(
    fit$curve$lower,
    plogis(link$fit - qnorm(0.975) * link$se.fit),
    tolerance = 1e-6,
    ignore_attr = TRUE
  )
  expect_equal(fit$coefficients$estimate, unname(coef(by_r)), tolerance = 1e-7)
  expect_equal(fit$coefficients$se, unname(summary(by_r)$coefficients[, 2]), tolerance = 1e-7)
  expect_equal(
    unname(as.matrix(fit$coefficients[c("low", "high")])),
    unname(confint.default(by_r)),
    tolerance = 1e-6
  )
})

test_that("a robust line's curve and band are those of its coefficients", {
  skip_if_not_installed("MASS")
  off <- replace(d$y, c(3, 9), c(30, -25))
  by_r <- MASS::rlm(off ~ d$x, maxit = 500, acc = 1e-14)
  fit <- told("robust", y = off)
  covariance <- vcov(by_r)
  at <- cbind(1, fit$curve$x)
  expect_equal(fit$curve$y, as.vector(at %*% coef(by_r)), tolerance = 1e-7)
  expect_equal(
    fit$curve$upper - fit$curve$y,
    qt(0.975, 23) * sqrt(rowSums((at %*% covariance) * at)),
    tolerance = 1e-6
  )
  expect_equal(fit$p, 2 * pt(-abs(coef(by_r)[[2]] / sqrt(covariance[2, 2])), 23), tolerance = 1e-6)
  expect_equal(fit$residuals, unname(off - fitted(by_r)), tolerance = 1e-6)
  half <- qt(0.975, 23) * sqrt(diag(covariance))
  expect_equal(fit$coefficients$low, unname(coef(by_r) - half), tolerance = 1e-6)
  expect_equal(fit$coefficients$high, unname(coef(by_r) + half), tolerance = 1e-6)
})

test_that("spikes are what stands out by the limit times the spread about the running median", {
  v <- c(5.1, 5.2, 5.05, 5.3, 9, 5.15, 5.2, 5.1, 5.25, 5.9, 5.2, 5.1)
  away <- v - stats::runmed(v, 5, endrule = "median")
  for (limit in c(2, 6)) {
    expected <- ifelse(abs(away) > limit * stats::mad(away, center = 0) & abs(away) > 0, NA, v)
    expect_equal(as.numeric(without_spikes(v, width = 5, limit = limit)), as.numeric(expected))
  }
  expect_true(is.na(without_spikes(v, width = 5)[5]))
  # Where more than half of a trace lies on its median, a step is no spike.
  steps <- rep(c(rep(1, 5), 1.1), 6)
  expect_false(anyNA(without_spikes(steps, width = 5, limit = 7)))
  steps[15] <- 9
  expect_identical(which(is.na(without_spikes(steps, width = 5))), 15L)
})

test_that("intervals of the three correlations are the formulas named, at any level", {
  for (level in c(0.9, 0.95)) {
    for (n in c(5, 25)) {
      x <- d$x[seq_len(n)]
      y <- d$y[seq_len(n)]
      got <- lapply(
        c(pearson = "pearson", spearman = "spearman", kendall = "kendall"),
        function(method) {
          nelvat:::correlation_interval(x, y, method, level)
        }
      )
      z <- qnorm(1 - (1 - level) / 2)
      rho <- cor(x, y, method = "spearman")
      tau <- cor(x, y, method = "kendall")
      expect_equal(
        c(got$pearson$lower, got$pearson$upper),
        cor.test(x, y, conf.level = level)$conf.int[1:2],
        tolerance = 1e-9
      )
      expect_equal(
        got$spearman$upper,
        tanh(atanh(rho) + z * sqrt((1 + rho^2 / 2) / (n - 3))),
        tolerance = 1e-9
      )
      expect_equal(
        got$spearman$lower,
        tanh(atanh(rho) - z * sqrt((1 + rho^2 / 2) / (n - 3))),
        tolerance = 1e-9
      )
      expect_equal(
        got$kendall$upper,
        tanh(atanh(tau) + z * sqrt(0.437 / (n - 4))),
        tolerance = 1e-9
      )
      expect_equal(
        got$kendall$lower,
        tanh(atanh(tau) - z * sqrt(0.437 / (n - 4))),
        tolerance = 1e-9
      )
    }
  }
  expect_true(is.na(nelvat:::correlation_interval(1:4, c(1, 3, 2, 4), "kendall")$lower))
  expect_true(is.na(nelvat:::correlation_interval(1:3, c(1, 3, 2))$lower))
  expect_identical(nelvat:::correlation_interval(c(1:9, NA), c(2, 1, 4:9, Inf, 3))$n, 8L)
})

test_that(
  "bins are as wide as a round number not above the rule's, steps of counts reach the most",
  {
    for (values in list(rnorm(500), rexp(80) * 1e3, runif(200) * 1e-6, c(rnorm(30), 400))) {
      breaks <- nelvat:::histogram_breaks(values, NULL, NULL, NULL)
      width <- unique(signif(diff(breaks), 9))
      expect_length(width, 1)
      head <- signif(width / 10^floor(log10(width) + 1e-9), 6)
      expect_true(head %in% c(1, 2, 2.5, 5, 10), label = paste("width", width))
      rule <- max(2 * IQR(values) / length(values)^(1 / 3), diff(range(values)) / 200)
      expect_true(width <= rule * (1 + 1e-9) && width > rule / 2.0001)
    }
    for (most in c(3, 12, 40, 900, 5e4, 3e9)) {
      for (steps in c(2, 4, 6)) {
        edges <- nelvat:::count_edges(c(1, most), steps)
        expect_identical(edges[1], 1)
        expect_gt(edges[length(edges)], most)
        expect_lte(edges[length(edges) - 1], most)
        expect_lte(length(edges) - 1, steps)
        expect_false(is.unsorted(edges, strictly = TRUE))
      }
    }
    expect_equal(nelvat:::count_edges(c(1, 1), 6), c(1, 2))
    # Every second power of ten, where each would be too many.
    expect_equal(nelvat:::count_edges(c(1, 9e5), 3), c(1, 100, 1e4, 1e6))
  }
)

test_that("points of a method comparison stand at their means and differences", {
  pair <- data.frame(a = c(10, 12, 15, 9), b = c(11, 12.5, 13, 10))
  points <- drawn_marks(panel(pair, ink_agreement(a, b)), "points")
  expect_equal(sort(points$x), sort((pair$a + pair$b) / 2), tolerance = 1e-9)
  expect_equal(
    points$y[order(points$x)],
    (pair$a - pair$b)[order(pair$a + pair$b)],
    tolerance = 1e-9
  )
})

test_that("a curve is one line where it has values, and as many as it has pieces", {
  block <- function(formula) {
    panel(data.frame(x = c(0, 10), y = c(-2, 2)), x = x, y = y, ink_points(), formula)
  }
  whole <- drawn_marks(block(ink_curve(y ~ sin(x))), "lines", "curve")
  expect_identical(length(unique(whole$line)), 1L)
  expect_equal(whole$y, sin(whole$x), tolerance = 1e-9)
  pieces <- drawn_marks(block(ink_curve(y ~ 1 / (x - 5))), "lines", "curve")
  expect_identical(length(unique(pieces$line)), 2L)
  expect_lt(max(pieces$x[pieces$line == min(pieces$line)]), 5)
  two <- as_scene(
    plate(
      facets(
        panel(
          data.frame(x = c(0, 10, 0, 10), y = c(-2, 2, -2, 2), g = c("p", "p", "q", "q")),
          x = x,
          y = y,
          ink_points(),
          ink_curve(y ~ sin(x))
        ),
        across = g
      ),
      width = 120,
      height = 60
    )
  )
  lines <- do.call(
    rbind,
    lapply(Filter(function(layer) layer$ink == "curve", two$marks), `[[`, "table")
  )
  expect_identical(nrow(unique(lines[c("panel", "line")])), 2L)
})
