# Positions of breaks, in data units, and their tick text. `n` is the most that the
# axis has room for.

# axis: transform (its name), range (in transformed units), count, moment (zone and
# has_time, or NULL).
# Returns list(at, text, minor).
value_breaks <- function(axis, n) {
  transform <- axis_transform(axis$transform)
  ends <- sort(transform$backward(axis$range))
  if (!is.null(axis$moment)) return(time_breaks(ends, n, axis$moment$zone, axis$moment$has_time))
  breaks <- switch(base_transform(axis$transform),
    log10 = , ln = decade_breaks(ends, n),
    log2 = power_breaks(ends, n),
    asinh = signed_decade_breaks(ends, n),
    logit = share_breaks(ends, n),
    list(at = number_breaks(ends, n, whole = axis$count))
  )
  breaks$text <- breaks$text %||% number_text(breaks$at)
  breaks$minor <- breaks$minor %||% numeric()
  breaks
}

# Evenly spaced: the extended algorithm of Talbot, Lin and Hanrahan (2010), "An
# extension of Wilkinson's algorithm for positioning tick labels on axes", as the
# scales package has it. Counts break at whole numbers only.
number_breaks <- function(range, n, whole = FALSE) {
  # The algorithm treats n as a wish, and may put breaks beyond the range: asking for
  # fewer makes n a limit, and where too few are left, for more.
  for (wish in c(seq(n, 2), seq(n + 1, n + 8))) {
    breaks <- scales::breaks_extended(n = wish)(range)
    breaks <- breaks[breaks >= range[1] - 1e-9 * diff(range) & breaks <= range[2] + 1e-9 * diff(range)]
    if (whole && any(breaks != round(breaks))) next
    if (length(breaks) >= 2 && (length(breaks) <= max(n, 2) || wish > n)) return(thinned_to(breaks, max(n, 2)))
  }
  if (whole) seq(ceiling(range[1]), floor(range[2])) else breaks
}

# At most n breaks, as far apart as they must be, evenly.
thinned_to <- function(breaks, n) {
  if (length(breaks) <= n) return(breaks)
  breaks[seq(1, length(breaks), by = ceiling((length(breaks) - 1) / (n - 1)))]
}
