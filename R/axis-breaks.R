# Positions of breaks, in data units, and their tick text. `n` is the most that the
# axis has room for.

# axis: transform (its name), range (in transformed units), count, moment (zone and
# has_time, or NULL).
# Returns list(at, text, minor).
value_breaks <- function(axis, n) {
  transform <- axis_transform(axis$transform)
  ends <- sort(transform$backward(axis$range))
  # Shares on both sides of zero end at their whole; what stands beyond is not on the scale.
  if (isTRUE(axis$mirrored)) ends <- pmin(pmax(ends, -100), 100)
  if (!is.null(axis$moment)) return(time_breaks(ends, n, axis$moment))
  breaks <- switch(
    sub("/.*", "", axis$transform),
    log10 =,
    ln = decade_breaks(ends, n),
    log2 = power_breaks(ends, n),
    asinh = signed_decade_breaks(ends, n, transform_scale(axis$transform)),
    logit = share_breaks(ends, n),
    list(at = number_breaks(ends, n, whole = axis$count))
  )
  breaks$text <- breaks$text %||%
    number_text(if (isTRUE(axis$mirrored)) abs(breaks$at) else breaks$at)
  breaks$minor <- breaks$minor %||% numeric()
  breaks
}

# Evenly spaced: multiples of 1, 2, 2.5 or 5 times a power of ten, as many as there is room for; 2.5
# only where it adds no digit to the numbers. Counts break at whole numbers only.
number_breaks <- function(range, n, whole = FALSE) {
  span <- diff(range)
  if (!is.finite(span) || span <= 0) return(range[1])
  power <- floor(log10(span / max(n, 2)))
  steps <- as.vector(outer(c(1, 2, 2.5, 5), 10^((power - 1):(power + 2))))
  sharp <- rep(c(FALSE, FALSE, TRUE, FALSE), 4)
  steps <- sort(steps[!sharp | steps >= 25])
  if (whole) steps <- unique(c(1, steps[steps >= 1]))
  counted_in <- function(step) floor(range[2] / step + 1e-9) - ceiling(range[1] / step - 1e-9) + 1
  n_ticks <- vapply(steps, counted_in, 0)
  fitting <- which(n_ticks <= max(n, 2) & n_ticks >= 1)
  # Of steps that make as many ticks the longest, whose ticks stand furthest apart.
  step <- if (!length(fitting)) {
    steps[length(steps)]
  } else {
    steps[max(fitting[n_ticks[fitting] == n_ticks[fitting[1]]])]
  }
  # One more than fits evenly is better than hardly more than half.
  if (counted_in(step) < 0.65 * n && n >= 5) {
    more <- which(n_ticks > counted_in(step) & n_ticks <= n + 1)
    if (length(more)) step <- steps[max(more)]
  }
  # Two numbers at least, three where there is room for them: of steps too close, some ticks go
  # without text.
  if (counted_in(step) < min(3, n)) {
    more <- which(n_ticks >= min(3, n) & n_ticks <= n + 4)
    if (length(more)) step <- steps[max(more)]
  }
  if (counted_in(step) < 2) {
    more <- which(n_ticks >= 2)
    if (length(more)) step <- steps[max(more)]
  }
  ticks <- seq(ceiling(range[1] / step - 1e-9), floor(range[2] / step + 1e-9)) * step
  # A multiple as it is written: 0.3, not 0.30000000000000004.
  round(ticks, max(0, 2 - floor(log10(step))))
}
