test_that("lines and polynomials are those of lm(): coefficients, errors, band, R2 and p", {
  cars <- datasets::cars
  for (degree in 1:4) {
    fit <- nelvat:::fit_curve(cars$speed, cars$dist, if (degree == 1) "line" else "polynomial", degree)
    model <- stats::lm(dist ~ poly(speed, degree, raw = TRUE), cars)
    of <- summary(model)
    expect_equal(fit$coefficients$estimate, unname(stats::coef(model)), tolerance = 1e-7)
    expect_equal(fit$coefficients$se, unname(of$coefficients[, 2]), tolerance = 1e-7)
    band <- stats::predict(model, data.frame(speed = fit$curve$x), interval = "confidence")
    expect_equal(unname(as.matrix(fit$curve[c("y", "lower", "upper")])), unname(band), tolerance = 1e-8)
    expect_equal(fit$r2, of$r.squared)
    f <- of$fstatistic
    expect_equal(fit$p, unname(stats::pf(f[1], f[2], f[3], lower.tail = FALSE)), tolerance = 1e-8)
    expect_equal(fit$residuals, unname(stats::residuals(model)), tolerance = 1e-8)
  }
})

test_that("values far from zero are fitted as well", {
  x <- 1e6 + 1:20
  y <- 3 + 2 * (x - 1e6) + sin(1:20)
  fit <- nelvat:::fit_curve(x, y)
  centred <- stats::lm(y ~ I(x - 1e6))
  expect_equal(fit$coefficients$estimate[2], unname(stats::coef(centred)[2]), tolerance = 1e-8)
})

test_that("a loess and its band are those of stats::loess()", {
  cars <- datasets::cars
  fit <- nelvat:::fit_curve(cars$speed, cars$dist, "loess")
  predicted <- stats::predict(stats::loess(dist ~ speed, cars), data.frame(speed = fit$curve$x), se = TRUE)
  expect_equal(fit$curve$y, unname(predicted$fit))
  expect_equal(fit$curve$upper, unname(predicted$fit + stats::qt(0.975, predicted$df) * predicted$se.fit))
})

test_that("too few values give no fit; a perfect one has no error", {
  expect_null(nelvat:::fit_curve(1, 2))
  expect_null(nelvat:::fit_curve(c(1, 1), c(2, 3)))
  expect_null(nelvat:::fit_curve(1:2, 1:2, "polynomial", 2))
  expect_equal(nelvat:::fit_curve(1:5, 2 * (1:5))$s, 0, tolerance = 1e-12)
})

test_that("fits() holds one row a coefficient, by panel and group, equal to lm() on that group", {
  loaves <- study("loaves")$data
  table <- suppressWarnings(fits(plate(facets(panel(study("loaves"), x = rise, y = firmness, colour = flour, ink_fit(equation = TRUE)), across = hydration), width = 178, height = 70)))
  expect_identical(nrow(table), 24L)
  own <- table[table$heading == "80%" & table$colour == "Rye", ]
  model <- stats::lm(firmness ~ rise, loaves, subset = hydration == 80 & flour == "rye")
  expect_equal(own$estimate, unname(stats::coef(model)))
  expect_equal(own$n[1], length(stats::residuals(model)))
})

test_that("correlations are those of cor.test()", {
  loaves <- study("loaves")
  for (method in c("pearson", "spearman", "kendall")) {
    got <- correlations(loaves, c(rise, firmness, ph), method = method, half = TRUE)$data
    expect_identical(got$first, c("rise", "rise", "firmness"))
    test <- suppressWarnings(stats::cor.test(loaves$data$rise, loaves$data$firmness, method = method, exact = FALSE))
    expect_equal(got$r[1], unname(test$estimate))
    expect_equal(got$p[1], test$p.value)
    expect_identical(got$n[1], 140L)
  }
  expect_error(correlations(loaves, c(rise, flour)), class = "nelvat_error_kind")
  expect_error(correlations(loaves, rise), class = "nelvat_error_argument")
})
