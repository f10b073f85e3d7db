test_that("estimates are those of the model, by t or Wald, as they are or as ratios", {
  model <- stats::lm(mpg ~ wt + factor(cyl), mtcars)
  found <- estimates_of(model)$data
  ends <- stats::confint(model)
  known <- found$reference == "no"
  expect_equal(found$estimate[known], unname(stats::coef(model)[-1]))
  expect_equal(found$lower[known], unname(ends[-1, 1]))
  expect_equal(found$upper[known], unname(ends[-1, 2]))
  expect_equal(found$p[known], unname(summary(model)$coefficients[-1, 4]))
  expect_identical(sum(found$reference == "yes"), 1L)
  expect_equal(found$estimate[!known], 0)
  odds <- stats::glm(am ~ wt, stats::binomial, mtcars)
  ratio <- estimates_of(odds, level = 0.9, scale = "ratio", intercept = TRUE)$data
  expect_equal(ratio$estimate, unname(exp(stats::coef(odds))))
  expect_equal(ratio$lower, unname(exp(stats::confint.default(odds, level = 0.9)[, 1])))
  expect_equal(ratio$p, unname(summary(odds)$coefficients[, 4]))
})

test_that("estimates of times to an event are those of coxph", {
  skip_if_not_installed("survival")
  model <- survival::coxph(survival::Surv(time, status) ~ age + sex, survival::lung)
  found <- estimates_of(model, scale = "ratio")$data
  told <- summary(model)$conf.int
  expect_equal(found$estimate, unname(told[, 1]))
  expect_equal(found$lower, unname(told[, 3]))
  expect_equal(found$upper, unname(told[, 4]))
  # Rows, not events.
  expect_identical(unique(as.integer(found$n)), nrow(survival::lung))
})

test_that("levels that others are compared with are rows of their own, before them", {
  loaves <- study("loaves")$data
  found <- estimates_of(stats::lm(rise ~ flour * hydration, loaves))
  expect_identical(found$data$term[1], "Flour: emmer")
  expect_identical(found$data$reference[1:2], c("yes", "no"))
  # Each level once, by its name; what is neither a level nor the intercept as it is called.
  plain <- estimates_of(stats::lm(rise ~ flour + hydration + volume, loaves))$data
  expect_identical(
    as.character(plain$term[grepl("Flour", plain$term)]),
    paste("Flour:", sort(unique(as.character(loaves$flour))))
  )
  expect_true(all(c("Hydration", "Volume") %in% plain$term))
  # Other contrasts have no such level.
  sums <- stats::lm(rise ~ flour, loaves, contrasts = list(flour = "contr.sum"))
  expect_false(any(estimates_of(sums)$data$reference == "yes"))
  figure <- plate(
    panel(found, x = estimate, y = term, ink_estimate(lower, upper, line = 0)),
    width = 100,
    height = 70
  )
  expect_identical(scene_faults(suppressWarnings(as_scene(figure))), NULL)
})

test_that("what is no model is told", {
  expect_error(estimates_of(1:3), "fitted model", class = "nelvat_error_argument")
  expect_error(estimates_of(mtcars), "fitted model", class = "nelvat_error_argument")
  expect_error(
    estimates_of(stats::lm(mpg ~ wt, mtcars), scale = "odds"),
    class = "nelvat_error_argument"
  )
})
