# Logistic regression.

# y: shares of successes among w trials; 0 or 1 without weights.
fit_binomial <- function(x, y, level, how) {
  if (any(y < 0 | y > 1)) abort_fit("a binomial fit needs y from 0 to 1")
  successes <- y * how$w
  if (any(abs(successes - round(successes)) > 1e-6)) {
    abort_fit(
      "a binomial fit needs y of 0 or 1, or shares with `weigh_by` the number of trials of each"
    )
  }
  if (length(unique(y)) < 2) return(NULL)
  said <- character()
  model <- withCallingHandlers(
    stats::glm(
      y ~ x,
      stats::binomial(),
      weights = how$w,
      control = list(epsilon = 1e-12, maxit = 100)
    ),
    warning = function(warning) {
      said <<- c(said, conditionMessage(warning))
      rlang::cnd_muffle(warning)
    }
  )
  if (length(said)) {
    abort_fit("a value of x parts the zeros from the ones, so that no curve is the best")
  }
  these_coefficients <- summary(model)$coefficients
  z <- stats::qnorm(1 - (1 - level) / 2)
  predicted <- stats::predict(model, data.frame(x = how$at), se.fit = TRUE)
  list(
    curve = new_table(
      x = how$at,
      y = stats::plogis(predicted$fit),
      lower = stats::plogis(predicted$fit - z * predicted$se.fit),
      upper = stats::plogis(predicted$fit + z * predicted$se.fit)
    ),
    coefficients = new_table(
      term = c("intercept", "x"),
      estimate = unname(these_coefficients[, 1]),
      se = unname(these_coefficients[, 2]),
      low = unname(these_coefficients[, 1] - z * these_coefficients[, 2]),
      high = unname(these_coefficients[, 1] + z * these_coefficients[, 2])
    ),
    r2 = NA_real_,
    p = stats::pchisq(model$null.deviance - model$deviance, 1, lower.tail = FALSE),
    n = length(x),
    s = NA_real_,
    residuals = unname(y - stats::fitted(model))
  )
}
