# Correlations with their intervals.
#
# Pearson's r, Spearman's rho and Kendall's tau are those of stats::cor(); intervals are
# normal on Fisher's z = atanh(r), with standard errors 1 / sqrt(n - 3) for r (Fisher
# 1921, "On the 'probable error' of a coefficient of correlation", Metron 1), as
# stats::cor.test() has it; sqrt((1 + rho^2 / 2) / (n - 3)) for rho (Bonett and Wright 2000,
# "Sample size requirements for estimating Pearson, Kendall and Spearman correlations",
# Psychometrika 65) and sqrt(0.437 / (n - 4)) for tau (Fieller, Hartley and Pearson 1957,
# "Tests for rank correlation coefficients", Biometrika 44).

correlation_methods <- c(pearson = "*r*", spearman = "*\u03c1*", kendall = "*\u03c4*")

# Returns list(r, lower, upper, n); NA where there are too few pairs or one is constant.
correlation_interval <- function(x, y, method = "pearson", level = 0.95) {
  is_known <- is.finite(x) & is.finite(y)
  x <- x[is_known]
  y <- y[is_known]
  n <- length(x)
  none <- list(r = NA_real_, lower = NA_real_, upper = NA_real_, n = n)
  if (n < 3 || all(x == x[1]) || all(y == y[1])) return(none)
  r <- stats::cor(x, y, method = method)
  room <- n - if (method == "kendall") 4 else 3
  if (room < 1) return(changed(none, r = r))
  se <- switch(
    method,
    pearson = 1 / sqrt(room),
    spearman = sqrt((1 + r^2 / 2) / room),
    kendall = sqrt(0.437 / room)
  )
  z <- atanh(r) + c(-1, 1) * stats::qnorm((1 + level) / 2) * se
  list(r = r, lower = tanh(z[1]), upper = tanh(z[2]), n = n)
}
