# Statistics of values of which each stands for many: `times` values that lie evenly between a least
# and a greatest, as a database counts them. Where each stands for equal values they are exact.

# A group's values in order: list(v, times, least, greatest). parts: see group_sums(), in the units
# of the values.
counted_values <- function(values, parts, rows = seq_along(values)) {
  rows <- rows[order(values[rows])]
  list(
    v = values[rows],
    times = parts$times[rows],
    least = (parts$least %||% values)[rows],
    greatest = (parts$greatest %||% values)[rows]
  )
}

# The values that stand at some ranks, from 0.
counted_at <- function(counted, ranks) {
  upto <- cumsum(counted$times)
  row <- findInterval(ranks, c(0, upto))
  inside <- ranks - c(0, upto)[row]
  share <- inside / pmax(counted$times[row] - 1, 1)
  ifelse(
    counted$times[row] > 1,
    counted$least[row] + share * (counted$greatest[row] - counted$least[row]),
    counted$v[row]
  )
}

# Quantiles of type 7 (Hyndman and Fan 1996).
quantiles_of_counted <- function(counted, shares) {
  place <- (sum(counted$times) - 1) * shares
  low <- counted_at(counted, floor(place))
  low + (place - floor(place)) * (counted_at(counted, ceiling(place)) - low)
}

# How many of the values lie below a limit, and how many not above it.
counted_below <- function(counted, limit, or_at = FALSE) {
  wide <- counted$greatest - counted$least
  share <- (limit - counted$least) / ifelse(wide > 0, wide, 1)
  even <- share * (counted$times - 1)
  inside <- if (or_at) floor(even + 1e-9) + 1 else ceiling(even - 1e-9)
  point <- if (or_at) counted$least <= limit else counted$least < limit
  sum(ifelse(wide > 0, pmin(pmax(inside, 0), counted$times), counted$times * point))
}

# As box_impl(), and how many values lie beyond the whiskers.
counted_box <- function(counted, whiskers) {
  n <- sum(counted$times)
  q <- quantiles_of_counted(counted, c(0.25, 0.5, 0.75))
  ends <- if (identical(whiskers, "range")) {
    c(min(counted$least), max(counted$greatest))
  } else if (length(whiskers) == 2) {
    quantiles_of_counted(counted, whiskers)
  } else {
    reach <- reach_of_whiskers(q, whiskers)
    ranks <- c(
      counted_below(counted, q[1] - reach),
      counted_below(counted, q[3] + reach, or_at = TRUE) - 1
    )
    counted_at(counted, pmin(pmax(ranks, 0), n - 1))
  }
  beyond <- counted_below(counted, ends[1]) + n - counted_below(counted, ends[2], or_at = TRUE)
  list(box = box_columns(q, ends, n), beyond = beyond)
}

counted_range <- function(values, parts, rows) {
  c(min((parts$least[rows] %||% values)), max((parts$greatest[rows] %||% values)))
}

# Mean and standard deviation, n and interquartile range: what a rule for a bandwidth asks.
counted_spread <- function(counted, spread = NULL) {
  n <- sum(counted$times)
  mean <- sum(counted$times * counted$v) / n
  inside <- if (is.null(spread)) 0 else sum(spread^2)
  list(
    n = n,
    sd = if (n > 1) sqrt((sum(counted$times * (counted$v - mean)^2) + inside) / (n - 1)) else 0,
    iqr = diff(quantiles_of_counted(counted, c(0.25, 0.75)))
  )
}
