# A curve fitted to one group, with its band and coefficients.
#
# Models: "line" and "polynomial" by least squares; "loess", local regression of degree 2
# over a span of 0.75 (Cleveland and Devlin 1988, JASA 83). The band is the confidence
# interval of the mean at each x: for least squares
#   y0 +- t(1 - (1 - level) / 2, n - k) s sqrt(x0' (X'X)^-1 x0),
# for loess its normal approximation with the model's equivalent degrees of freedom.
# R^2 = 1 - RSS / TSS; p is that of the F test of the model against a constant.
# Source: Draper and Smith (1998), "Applied Regression Analysis".

# Returns list(curve: x, y, lower, upper; coefficients: term, estimate, se; r2, p, n, s,
# residuals), or NULL where there are too few values.
fit_curve <- function(x, y, model = "line", degree = 2, level = 0.95, points = 80) {
  spot <- seq(min(x), max(x), length.out = points)
  if (length(unique(x)) < (switch(model, line = 2, polynomial = degree + 1, loess = 4))) return(NULL)
  if (model == "loess") fit_loess(x, y, spot, level) else fit_powers(
    x, y, if (model == "line") 1 else degree, spot, level
  )
}

fit_powers <- function(x, y, degree, at, level) {
  # Powers of x about its mean are well conditioned; coefficients are turned back to
  # powers of x itself.
  middle <- mean(x)
  powers <- function(v) outer(v - middle, 0:degree, "^")
  # Numbers whose powers no double holds have no fit.
  if (!all(is.finite(powers(x))) || !all(is.finite(y^2))) return(NULL)
  qr <- qr(powers(x), tol = 1e-12)
  n <- length(x)
  k <- degree + 1
  centred <- qr.coef(qr, y)
  residuals <- y - qr.fitted(qr, y)
  s <- if (n > k) sqrt(sum(residuals^2) / (n - k)) else NA_real_
  inverse <- chol2inv(qr.R(qr))[order(qr$pivot), order(qr$pivot), drop = FALSE]
  curve_y <- as.vector(powers(at) %*% centred)
  half <- stats::qt(1 - (1 - level) / 2, max(n - k, 1)) * s * sqrt(rowSums((powers(at) %*% inverse) * powers(at)))
  turn <- shift_matrix(degree, -middle)
  variance <- turn %*% inverse %*% t(turn) * s^2
  total <- sum((y - mean(y))^2)
  r2 <- if (total > 0) 1 - sum(residuals^2) / total else NA_real_
  f <- if (n > k) (total - sum(residuals^2)) / degree / s^2 else NA_real_
  list(
    curve = new_table(x = at, y = curve_y, lower = curve_y - half, upper = curve_y + half),
    coefficients = new_table(
      term = c("intercept", "x", if (degree > 1) paste0("x^", 2:degree, "^")), estimate = as.vector(turn %*% centred),
      se = sqrt(diag(variance))
    ),
    r2 = r2, p = if (is.na(f)) NA_real_ else stats::pf(f, degree, n - k, lower.tail = FALSE), n = n, s = s,
    residuals = residuals
  )
}

# Coefficients of powers of (x + by) turned to those of powers of x.
shift_matrix <- function(degree, by) {
  outer(0:degree, 0:degree, Vectorize(function(i, j) if (j >= i) choose(j, i) * by^(j - i) else 0))
}

fit_loess <- function(x, y, at, level) {
  model <- suppressWarnings(stats::loess(y ~ x, data.frame(x = x, y = y)))
  predicted <- suppressWarnings(stats::predict(model, data.frame(x = at), se = TRUE))
  half <- stats::qt(1 - (1 - level) / 2, predicted$df) * predicted$se.fit
  total <- sum((y - mean(y))^2)
  list(
    curve = new_table(
      x = at, y = as.vector(predicted$fit), lower = as.vector(predicted$fit - half),
      upper = as.vector(predicted$fit + half)
    ),
    coefficients = new_table(term = character(), estimate = numeric(), se = numeric(), .rows = 0L),
    r2 = 1 - sum(model$residuals^2) / total, p = NA_real_, n = length(x), s = model$s,
    residuals = as.vector(model$residuals)
  )
}
