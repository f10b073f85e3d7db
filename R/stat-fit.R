# A curve fitted to one group, with its band and coefficients.
#
# Models: "line" and "polynomial" by least squares, "proportional" likewise, through the origin;
# "loess", local regression of degree 2 (Cleveland and Devlin 1988, JASA 83); those of
# stat-fit-curves.R. The band is the confidence interval of the mean at each x: for least squares
#   y0 +- t(1 - (1 - level) / 2, n - k) s sqrt(x0' (X'WX)^-1 x0),
# for loess its normal approximation with the model's equivalent degrees of freedom; as a prediction
# interval, of a further value, s^2 is added under the root. Intervals of coefficients are estimate
# +- t se. R^2 = 1 - RSS / TSS (through the origin TSS is the sum of squares of y itself); p is that
# of the F test of the model against a constant.
# Source: Draper and Smith (1998), "Applied Regression Analysis".

# how: w, weights of the values; span of a loess; interval, "confidence" or "prediction"; start and
# value(x, p) of a curve of the user's; parameters; at, where the curve is told; n, how many values
# there are, where they are not as many as x.
# Returns list(curve: x, y, lower, upper; coefficients: term, estimate, se, low, high; r2, p, n, s,
# residuals), or NULL where there are too few values.
fit_curve <- function(x, y, model = "line", degree = 2, level = 0.95, how = list()) {
  given <- list(
    w = rep(1, length(x)),
    at = if (length(x)) seq(min(x), max(x), length.out = curve_points),
    span = 0.75,
    interval = "confidence",
    degree = degree
  )
  how <- utils::modifyList(given, how)
  if (length(unique(x)) < least_values(model, how)) return(NULL)
  if (model %in% c("line", "polynomial", "proportional")) {
    return(fit_powers(x, y, model, level, how))
  }
  if (model == "loess") return(fit_loess(x, y, level, how))
  if (model == "robust") return(fit_huber(x, y, level, how))
  if (model == "binomial") return(fit_binomial(x, y, level, how))
  fit_nonlinear(x, y, curve_model(model, how), level, how)
}

curve_points <- 80

# So many different x there must be.
least_values <- function(model, how) {
  switch(
    model,
    line = 2,
    proportional = 1,
    polynomial = how$degree + 1,
    loess = 4,
    robust = 3,
    binomial = 3,
    length(curve_model(model, how)$terms) + 1
  )
}

# A table of coefficients with their intervals.
coefficient_table <- function(term, estimate, se, level, df) {
  half <- if (df > 0) stats::qt(1 - (1 - level) / 2, df) * se else NA_real_
  new_table(
    term = term,
    estimate = estimate,
    se = se,
    low = estimate - half,
    high = estimate + half
  )
}

# Half the width of a band: of the mean, or of a further value.
half_band <- function(se, s, df, level, interval) {
  if (!isTRUE(df > 0)) return(rep(NA_real_, length(se)))
  stats::qt(1 - (1 - level) / 2, df) * sqrt(se^2 + if (interval == "prediction") s^2 else 0)
}

fit_powers <- function(x, y, model, level, how) {
  from <- if (model == "proportional") 1 else 0
  degree <- if (model == "polynomial") how$degree else 1
  # Powers of x about its mean are well conditioned; coefficients are turned back to
  # powers of x itself.
  middle <- if (from == 0) mean(x) else 0
  powers <- function(v) outer(v - middle, from:degree, "^")
  root <- sqrt(how$w)
  # Numbers whose powers no double holds have no fit.
  if (!all(is.finite(powers(x))) || !all(is.finite(y^2))) return(NULL)
  qr <- qr(powers(x) * root, tol = 1e-12)
  k <- degree + 1 - from
  if (qr$rank < k) return(NULL)
  n <- how$n %||% sum(how$w > 0)
  centred <- qr.coef(qr, y * root)
  residuals <- y - as.vector(powers(x) %*% centred)
  rss <- sum(how$w * residuals^2)
  s <- if (n > k) sqrt(rss / (n - k)) else NA_real_
  inverse <- chol2inv(qr.R(qr))[order(qr$pivot), order(qr$pivot), drop = FALSE]
  curve_y <- as.vector(powers(how$at) %*% centred)
  se <- s * sqrt(rowSums((powers(how$at) %*% inverse) * powers(how$at)))
  half <- half_band(se, s, n - k, level, how$interval)
  turn <- if (from == 0) shift_matrix(degree, -middle) else diag(1)
  total <- sum(how$w * (y - if (from == 0) stats::weighted.mean(y, how$w) else 0)^2)
  f <- if (n > k) (total - rss) / (k - 1 + from) / s^2 else NA_real_
  term <- c(if (from == 0) "intercept", "x", if (degree > 1) paste0("x^", 2:degree, "^"))
  list(
    curve = new_table(x = how$at, y = curve_y, lower = curve_y - half, upper = curve_y + half),
    coefficients = coefficient_table(
      term,
      as.vector(turn %*% centred),
      sqrt(diag(turn %*% inverse %*% t(turn) * s^2)),
      level,
      n - k
    ),
    r2 = if (total > 0) 1 - rss / total else NA_real_,
    p = if (is.na(f)) NA_real_ else stats::pf(f, k - 1 + from, n - k, lower.tail = FALSE),
    n = n,
    s = s,
    residuals = residuals
  )
}

# Coefficients of powers of (x + by) turned to those of powers of x.
shift_matrix <- function(degree, by) {
  outer(0:degree, 0:degree, Vectorize(function(i, j) if (j >= i) choose(j, i) * by^(j - i) else 0))
}

# Of many values the trace of its operator is approximated (Cleveland, Grosse and Shyu 1992): the
# exact one takes a time that grows with their square.
loess_of <- function(x, y, w, span) {
  trace <- if (length(x) > many_for_loess) "approximate" else "exact"
  control <- stats::loess.control(trace.hat = trace)
  data <- data.frame(x = x, y = y, w = w)
  suppressWarnings(stats::loess(y ~ x, data, weights = w, span = span, control = control))
}
many_for_loess <- 1000
most_for_loess_band <- 4000

# Its values and their standard errors. Those of very many values are taken from as many of them as
# lie evenly among all: the sum of squares of the weights behind a value is in proportion to 1 / n.
loess_values <- function(model, x, y, how) {
  new <- data.frame(x = how$at)
  n <- length(x)
  if (n <= most_for_loess_band) return(suppressWarnings(stats::predict(model, new, se = TRUE)))
  some <- order(x)[round(seq(1, n, length.out = most_for_loess_band))]
  of_some <- loess_of(x[some], y[some], how$w[some], how$span)
  found <- suppressWarnings(stats::predict(of_some, new, se = TRUE))
  list(
    fit = stats::predict(model, new),
    se.fit = found$se.fit / of_some$s * model$s * sqrt(length(some) / n),
    df = n - model$trace.hat
  )
}

fit_loess <- function(x, y, level, how) {
  model <- loess_of(x, y, how$w, how$span)
  predicted <- loess_values(model, x, y, how)
  half <- half_band(predicted$se.fit, model$s, predicted$df, level, how$interval)
  total <- sum(how$w * (y - stats::weighted.mean(y, how$w))^2)
  list(
    curve = new_table(
      x = how$at,
      y = as.vector(predicted$fit),
      lower = as.vector(predicted$fit - half),
      upper = as.vector(predicted$fit + half)
    ),
    coefficients = no_coefficients(),
    r2 = 1 - sum(how$w * model$residuals^2) / total,
    p = NA_real_,
    n = length(x),
    s = model$s,
    residuals = as.vector(model$residuals)
  )
}

no_coefficients <- function() {
  none <- numeric()
  new_table(term = character(), estimate = none, se = none, low = none, high = none, .rows = 0L)
}
