test_that("lines and polynomials are those of lm(): coefficients, errors, band, R2 and p", {
  cars <- datasets::cars
  for (degree in 1:4) {
    fit <- nelvat:::fit_curve(
      cars$speed,
      cars$dist,
      if (degree == 1) "line" else "polynomial",
      degree
    )
    model <- stats::lm(dist ~ poly(speed, degree, raw = TRUE), cars)
    of <- summary(model)
    expect_equal(fit$coefficients$estimate, unname(stats::coef(model)), tolerance = 1e-7)
    expect_equal(fit$coefficients$se, unname(of$coefficients[, 2]), tolerance = 1e-7)
    band <- stats::predict(model, data.frame(speed = fit$curve$x), interval = "confidence")
    expect_equal(
      unname(as.matrix(fit$curve[c("y", "lower", "upper")])),
      unname(band),
      tolerance = 1e-8
    )
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
  predicted <- stats::predict(
    stats::loess(dist ~ speed, cars),
    data.frame(speed = fit$curve$x),
    se = TRUE
  )
  expect_equal(fit$curve$y, unname(predicted$fit))
  expect_equal(
    fit$curve$upper,
    unname(predicted$fit + stats::qt(0.975, predicted$df) * predicted$se.fit)
  )
})

test_that("too few values give no fit; a perfect one has no error", {
  expect_null(nelvat:::fit_curve(1, 2))
  expect_null(nelvat:::fit_curve(c(1, 1), c(2, 3)))
  expect_null(nelvat:::fit_curve(1:2, 1:2, "polynomial", 2))
  expect_equal(nelvat:::fit_curve(1:5, 2 * (1:5))$s, 0, tolerance = 1e-12)
})

test_that("fits() holds one row a coefficient, by panel and group, equal to lm() on that group", {
  loaves <- study("loaves")$data
  table <- suppressWarnings(
    fits(
      plate(
        facets(
          panel(study("loaves"), x = rise, y = firmness, colour = flour, ink_fit(equation = TRUE)),
          across = hydration
        ),
        width = 178,
        height = 70
      )
    )
  )
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
    test <- suppressWarnings(
      stats::cor.test(loaves$data$rise, loaves$data$firmness, method = method, exact = FALSE)
    )
    expect_equal(got$r[1], unname(test$estimate))
    expect_equal(got$p[1], test$p.value)
    expect_identical(got$n[1], 140L)
  }
  expect_error(correlations(loaves, c(rise, flour)), class = "nelvat_error_kind")
  expect_error(correlations(loaves, rise), class = "nelvat_error_argument")
})

fitted_terms <- function(fit) stats::setNames(fit$coefficients$estimate, fit$coefficients$term)

test_that("curves are those of nls(): estimates, errors, intervals, band by the delta method", {
  skip_if_not_installed("MASS")
  d <- datasets::Puromycin[datasets::Puromycin$state == "treated", ]
  fit <- nelvat:::fit_curve(d$conc, d$rate, "michaelis-menten")
  model <- stats::nls(
    rate ~ Vm * conc / (K + conc),
    d,
    start = list(Vm = 200, K = 0.05),
    control = stats::nls.control(tol = 1e-8, scaleOffset = 1)
  )
  of <- summary(model)$coefficients
  expect_equal(unname(fitted_terms(fit)), unname(of[, 1]), tolerance = 1e-7)
  expect_equal(fit$coefficients$se, unname(of[, 2]), tolerance = 1e-6)
  expect_equal(
    fit$coefficients$high,
    unname(of[, 1] + stats::qt(0.975, nrow(d) - 2) * of[, 2]),
    tolerance = 1e-6
  )
  x <- fit$curve$x
  slope <- cbind(x / (of[2] + x), -of[1] * x / (of[2] + x)^2)
  se <- sqrt(rowSums((slope %*% stats::vcov(model)) * slope))
  expect_equal(fit$curve$upper - fit$curve$y, stats::qt(0.975, nrow(d) - 2) * se, tolerance = 1e-5)
  wider <- nelvat:::fit_curve(
    d$conc,
    d$rate,
    "michaelis-menten",
    how = list(interval = "prediction")
  )
  expect_equal(
    wider$curve$upper - wider$curve$y,
    stats::qt(0.975, nrow(d) - 2) * sqrt(se^2 + fit$s^2),
    tolerance = 1e-5
  )
  tree <- datasets::Orange[datasets::Orange$Tree == 3, ]
  growth <- fitted_terms(nelvat:::fit_curve(tree$age, tree$circumference, "logistic"))
  of <- stats::coef(
    stats::nls(
      circumference ~ A / (1 + exp((x - age) / s)),
      tree,
      start = list(A = 159, x = 735, s = 400),
      control = stats::nls.control(tol = 1e-8, scaleOffset = 1)
    )
  )
  expect_equal(unname(growth), unname(c(of["A"], 1 / of["s"], of["x"])), tolerance = 1e-6)
  power <- fitted_terms(nelvat:::fit_curve(cars$speed, cars$dist, "power"))
  of <- stats::coef(
    stats::nls(
      dist ~ a * speed^b,
      cars,
      start = list(a = 0.6, b = 1.5),
      control = stats::nls.control(tol = 1e-8, scaleOffset = 1)
    )
  )
  expect_equal(unname(power), unname(of), tolerance = 1e-6)
  own <- nelvat:::fit_curve(
    cars$speed,
    cars$dist,
    "formula",
    how = list(value = function(x, p) p[["a"]] + p[["b"]] * x^2, start = list(a = 1, b = 1))
  )
  expect_equal(
    unname(fitted_terms(own)),
    unname(stats::coef(stats::lm(dist ~ I(speed^2), cars))),
    tolerance = 1e-6
  )
  robust <- nelvat:::fit_curve(cars$speed, cars$dist, "robust")
  of <- summary(MASS::rlm(dist ~ speed, cars, maxit = 500, acc = 1e-14))$coefficients
  expect_equal(
    cbind(robust$coefficients$estimate, robust$coefficients$se),
    unname(of[, 1:2]),
    tolerance = 1e-8
  )
})

test_that("a dose-response curve finds what made it, and EC50's interval is of its logarithm", {
  dose <- rep(c(0, 0.1, 0.3, 1, 3, 10, 30, 100), each = 3)
  set.seed(4)
  for (slope in c(1.3, -1.3)) {
    y <- 5 + 90 / (1 + (4 / dose)^slope)
    exact <- fitted_terms(nelvat:::fit_curve(dose, y, "dose-response"))
    expect_equal(exact, c(bottom = 5, top = 95, slope = slope, EC50 = 4), tolerance = 1e-6)
    noisy <- nelvat:::fit_curve(dose, y + rnorm(24, 0, 3), "dose-response")$coefficients[4, ]
    expect_equal(sqrt(noisy$low * noisy$high), noisy$estimate, tolerance = 1e-8)
    expect_equal(
      log(noisy$high / noisy$estimate),
      stats::qt(0.975, 20) * noisy$se / noisy$estimate,
      tolerance = 1e-6
    )
  }
  three <- fitted_terms(
    nelvat:::fit_curve(dose, 80 / (1 + (4 / dose)^2), "dose-response", how = list(parameters = 3))
  )
  expect_equal(three, c(top = 80, slope = 2, EC50 = 4), tolerance = 1e-6)
})

test_that("weights, a line through the origin and logistic regression are R's", {
  w <- seq(0.5, 3, length.out = nrow(cars))
  fit <- nelvat:::fit_curve(cars$speed, cars$dist, how = list(w = w))
  of <- summary(stats::lm(dist ~ speed, cars, weights = w))
  expect_equal(
    cbind(fit$coefficients$estimate, fit$coefficients$se),
    unname(of$coefficients[, 1:2]),
    tolerance = 1e-8
  )
  expect_equal(fit$r2, of$r.squared)
  origin <- nelvat:::fit_curve(cars$speed, cars$dist, "proportional")
  of <- summary(stats::lm(dist ~ 0 + speed, cars))
  expect_equal(
    c(origin$coefficients$estimate, origin$coefficients$se, origin$r2),
    c(of$coefficients[1:2], of$r.squared)
  )
  band <- stats::predict(
    stats::lm(dist ~ 0 + speed, cars),
    data.frame(speed = origin$curve$x),
    interval = "confidence"
  )
  expect_equal(origin$curve$upper, unname(band[, "upr"]))
  logit <- nelvat:::fit_curve(mtcars$wt, mtcars$am, "binomial")
  model <- stats::glm(am ~ wt, stats::binomial(), mtcars, control = list(epsilon = 1e-12))
  expect_equal(logit$coefficients$se, unname(summary(model)$coefficients[, 2]), tolerance = 1e-6)
  expect_equal(logit$p, stats::anova(model, test = "Chisq")[2, 5], tolerance = 1e-8)
  expect_error(
    nelvat:::fit_curve(1:10, rep(0:1, each = 5), "binomial"),
    "parts the zeros",
    class = "nelvat_error_fit"
  )
  expect_error(
    nelvat:::fit_curve(1:4, c(0, 0.5, 0.3, 1), "binomial"),
    "weigh_by",
    class = "nelvat_error_fit"
  )
  prediction <- nelvat:::fit_curve(cars$speed, cars$dist, how = list(interval = "prediction"))
  of <- stats::predict(
    stats::lm(dist ~ speed, cars),
    data.frame(speed = prediction$curve$x),
    interval = "prediction"
  )
  expect_equal(prediction$curve$lower, unname(of[, "lwr"]))
  span <- nelvat:::fit_curve(cars$speed, cars$dist, "loess", how = list(span = 0.5))
  expect_equal(
    span$curve$y,
    unname(
      stats::predict(stats::loess(dist ~ speed, cars, span = 0.5), data.frame(speed = span$curve$x))
    )
  )
})

test_that("a curve that does not converge names its panel and group; formulas are checked before", {
  wild <- data.frame(g = rep(c("a", "b"), each = 8), x = 1:8, y = c(2 * (1:8) / (3 + 1:8), 8:1))
  fig <- function(...) {
    as_scene(
      plate(facets(panel(wild, x = x, y = y, ink_fit(...)), across = g), width = 120, height = 60)
    )
  }
  expect_error(fig("michaelis-menten"), "In the panel \"b\"", class = "nelvat_error_fit")
  expect_error(
    as_scene(
      plate(
        panel(wild, x = x, y = y, colour = g, ink_fit("michaelis-menten")),
        width = 80,
        height = 60
      )
    ),
    "to the group \"b\"",
    class = "nelvat_error_fit"
  )
  expect_error(
    ink_fit(y ~ a * x, start = list(b = 1)),
    "lacks a number for \"a\"",
    class = "nelvat_error_argument"
  )
  expect_error(
    ink_fit(y ~ a * system(x), start = list(a = 1)),
    "not allowed",
    class = "nelvat_error_expression"
  )
  expect_error(ink_fit(z ~ a * x, start = list(a = 1)), "y ~ a", class = "nelvat_error_argument")
  expect_error(
    ink_fit("line", start = list(a = 1)),
    "for a formula",
    class = "nelvat_error_argument"
  )
  words <- as_scene(
    plate(
      panel(wild, x = x, y = y, keep = g == "a", ink_fit("michaelis-menten", equation = TRUE)),
      width = 80,
      height = 60
    )
  )$texts
  expect_match(words$string[words$role == "equation"], "Vmax = 2; Km = 3", fixed = TRUE)
})

test_that("a file says a formula, its start and weights as R does", {
  folder <- folder_with(
    list(
      "a.csv" = c(
        "x,y,v",
        paste(1:12, round(3 * exp(-0.2 * (1:12)) + 0.1 * sin(1:12), 3), 1:12, sep = ",")
      ),
      "a.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks:",
        "  b: {panel: {data: a, x: x, y: y, ink: [{fit: {model: 'y ~ a * exp(-k * x)',",
        "      start: {a: 1, k: 0.1}, weigh_by: v}}]}}",
        "plate: {width: single, height: 60}", "save: [a.pdf]"
      )
    )
  )
  found <- fits(read_figure(file.path(folder, "a.yaml"))$plate)
  table <- utils::read.csv(file.path(folder, "a.csv"))
  of <- stats::coef(
    stats::nls(y ~ a * exp(-k * x), table, start = list(a = 3, k = 0.2), weights = table$v)
  )
  expect_equal(found$estimate, unname(of), tolerance = 1e-5)
  expect_identical(found$model[1], "y = a * exp(-k * x)")
})

test_that(
  "a curve that is said stands where its formula says, on a log axis, and ends at the panel",
  {
    d <- data.frame(x = c(1, 10, 100), y = c(1, 5, 10))
    scene <- as_scene(
      plate(
        panel(d, x = log10(x), y = y, ink_points(), ink_curve(y ~ 4 * log10(x) + 1, name = "rise")),
        width = 80,
        height = 60
      )
    )
    line <- Filter(function(layer) layer$primitive == "lines", scene$marks)[[1]]$table
    of <- function(axis, unit) axis$range[1] + unit * diff(axis$range)
    expect_equal(of(scene$axes[[2]], line$y), 4 * of(scene$axes[[1]], line$x) + 1)
    expect_true(all(line$y >= 0 & line$y <= 1))
    expect_true("rise" %in% scene$texts$string)
    expect_error(ink_curve(y ~ system("ls")), "not allowed", class = "nelvat_error_expression")
    expect_error(ink_curve(y ~ a * x), "\"a\"", class = "nelvat_error_expression")
    expect_error(ink_curve("2 * x"), "y ~", class = "nelvat_error_argument")
  }
)

test_that("a curve that is nowhere in its panel is told", {
  nelvat:::forget_said()
  fig <- plate(
    panel(data.frame(x = 1:3, y = 1:3), x = x, y = y, ink_points(), ink_curve(y ~ log(x - 100))),
    width = 80,
    height = 60
  )
  expect_message(expect_no_warning(as_scene(fig)), "nowhere in its panel")
})

test_that(
  "a matrix fits with weights, refuses curves of transformed values, drops weightless rows",
  {
    loaves <- study("loaves")
    found <- as_scene(
      plate(every_pair(loaves, c(rise, moisture), above = ink_fit(weigh_by = volume)), width = 90)
    )$fits
    of <- stats::coef(stats::lm(rise ~ moisture, loaves$data, weights = loaves$data$volume))
    expect_equal(found$estimate, unname(of), tolerance = 1e-8)
    expect_error(
      as_scene(
        plate(
          every_pair(loaves, c(log10(rise), moisture), above = ink_fit("exponential")),
          width = 90
        )
      ),
      "as they are",
      class = "nelvat_error_argument"
    )
    weighed <- transform(loaves$data, w = ifelse(flour == "rye", 0, 1))
    fig <- plate(
      panel(weighed, x = rise, y = moisture, ink_fit(weigh_by = w)),
      width = 80,
      height = 60
    )
    expect_identical(fits(fig)$n[1], 108L)
    expect_match(suppressWarnings(legend_text(fig)), "n = 108")
  }
)

test_that("values too few for a fit or a ridge are told", {
  few <- data.frame(x = c(1:6, 1, 2), y = c(2, 4, 5, 4, 5, 7, 1, 2), g = rep(c("a", "b"), c(6, 2)))
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(few, x = x, y = y, colour = g, ink_points(), ink_fit("exponential")),
        width = 80,
        height = 60
      )
    )
  )
  expect_identical(scene$columns$n[scene$columns$what == "values too few for a fit"], 2L)
  expect_warning(
    as_scene(plate(panel(few[1:7, ], x = x, y = g, ink_ridges()), width = 80, height = 60)),
    "too few for a ridge"
  )
})
