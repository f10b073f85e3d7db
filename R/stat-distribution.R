# What a sample says of its distribution: cumulative shares with their band, quantiles against
# quantiles.

# The empirical distribution function as the path of its steps: x, y, lower, upper (see
# ink_cumulative() for the band).
# parts: see group_sums(); values that stand for many are reached at the greatest of them.
cumulative_shares <- function(values, level, parts = NULL) {
  known <- which(is.finite(values))
  ends <- (parts$greatest %||% values)[known]
  times <- (parts$times %||% rep(1, length(values)))[known]
  x <- sort(unique(ends))
  n <- sum(times)
  share <- cumsum(tabulate_rows(match(ends, x), length(x), times)) / n
  steps <- rep(seq_along(x), each = 2)
  y <- c(0, share[rep(seq_along(x), each = 2)])[seq_along(steps)]
  half <- if (is.null(level)) NA_real_ else sqrt(log(2 / (1 - level)) / (2 * n))
  new_table(
    x = x[steps],
    y = y,
    lower = pmax(0, y - half),
    upper = pmin(1, y + half),
    .rows = length(steps)
  )
}

# list(x, y, slope, intercept): sorted values against a distribution's quantiles, and the line
# through the quartiles of both; NULL for fewer than two values.
distribution_quantiles <- function(values, quantile) {
  values <- sort(finite_values(values))
  if (length(values) < 2) return(NULL)
  quartiles <- stats::quantile(values, c(0.25, 0.75), names = FALSE)
  quartiles_of_theory <- quantile(c(0.25, 0.75))
  slope <- diff(quartiles) / diff(quartiles_of_theory)
  list(
    x = quantile(stats::ppoints(length(values))),
    y = values,
    slope = slope,
    intercept = quartiles[1] - slope * quartiles_of_theory[1]
  )
}

# Those of two samples, the longer one interpolated; the line is that of equal quantiles.
sample_quantiles <- function(values, other) {
  values <- sort(finite_values(values))
  other <- sort(other)
  n <- min(length(values), length(other))
  if (n < 2) return(NULL)
  thinned <- function(sorted) {
    if (length(sorted) == n) sorted else stats::approx(seq_along(sorted), sorted, n = n)$y
  }
  list(x = thinned(other), y = thinned(values), slope = 1, intercept = 0)
}
