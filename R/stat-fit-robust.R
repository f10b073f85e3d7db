# Huber's line.

huber_k <- 1.345

fit_huber <- function(x, y, level, how) {
  middle <- mean(x)
  # In units of its spread, x of any size makes a sound system.
  unit <- max(abs(x - middle))
  if (!isTRUE(unit > 0 && is.finite(unit))) return(NULL)
  design <- cbind(1, (x - middle) / unit)
  root <- sqrt(how$w)
  residuals <- root * (y - design %*% qr.coef(qr(design * root), y * root))
  n <- length(x)
  if (n < 3 || !all(is.finite(residuals))) return(NULL)
  weight_of <- function(scaled) pmin(1, huber_k / pmax(abs(scaled), 1e-300))
  scale <- 0
  for (step in 1:500) {
    scale <- stats::median(abs(residuals)) / 0.6745
    # More than half of the values lie on the line.
    if (scale < 1e-12 * max(abs(y), 1e-300)) break
    weight <- weight_of(residuals / scale)
    turned <- sqrt(as.vector(weight)) * root
    estimate <- qr.coef(qr(design * turned), y * turned)
    before <- residuals
    residuals <- root * (y - design %*% estimate)
    if (sum((residuals - before)^2) <= 1e-24 * max(sum(before^2), 1e-300)) break
  }
  if (step == 1) estimate <- qr.coef(qr(design * root), y * root)
  scale <- max(scale, 1e-300)
  influence <- weight_of(residuals / scale)
  inside <- as.numeric(abs(residuals / scale) <= huber_k)
  kappa <- 1 + 2 * stats::var(inside) / (n * mean(inside)^2)
  s <- sqrt(sum((residuals * influence)^2) / (n - 2)) * kappa / mean(inside)
  inverse <- solve(crossprod(design * root))
  turn <- shift_matrix(1, -middle) %*% diag(c(1, 1 / unit))
  told <- cbind(1, (how$at - middle) / unit)
  curve_y <- as.vector(told %*% estimate)
  half <- half_band(s * sqrt(rowSums((told %*% inverse) * told)), s, n - 2, level, how$interval)
  table <- coefficient_table(
    c("intercept", "x"),
    as.vector(turn %*% estimate),
    sqrt(diag(turn %*% inverse %*% t(turn))) * s,
    level,
    n - 2
  )
  list(
    curve = new_table(x = how$at, y = curve_y, lower = curve_y - half, upper = curve_y + half),
    coefficients = table,
    r2 = NA_real_,
    p = 2 * stats::pt(-abs(table$estimate[2] / table$se[2]), n - 2),
    n = n,
    s = s,
    residuals = y - as.vector(design %*% estimate)
  )
}
