# Density curves by a Gaussian kernel, on linearly binned data convolved by the fast
# Fourier transform; the grid and its reach are those of stats::density().
#
# Sources: Silverman (1982), "Algorithm AS 176", Applied Statistics 31(1); Jones and
# Lotwick (1984), Applied Statistics 33(1). Bandwidths: "silverman", Silverman's rule of thumb
# (1986, "Density Estimation", eq. 3.31), 0.9 min(sd, IQR / 1.34) n^(-1/5); "scott", Scott's
# (1992), with 1.06; "sheather-jones", Sheather and Jones (1991), JRSS B 53.

bandwidth_rules <- c(
  silverman = "Silverman's rule of thumb", scott = "Scott's rule",
  `sheather-jones` = "the Sheather-Jones rule"
)

# counted: of values that stand for many, their counted_spread().
density_bandwidth <- function(values, bandwidth = "silverman", counted = NULL) {
  if (is.numeric(bandwidth)) return(bandwidth)
  if (bandwidth == "sheather-jones") return(stats::bw.SJ(values))
  about <- counted %||% list(
    n = length(values),
    sd = if (length(values) > 1) stats::sd(values) else 0,
    iqr = diff(quantiles_cpp(values, c(0.25, 0.75)))
  )
  lower <- min(about$sd, about$iqr / 1.34)
  if (bandwidth == "scott") return(1.06 * lower * about$n^-0.2)
  if (!(lower > 0)) {
    lower <- if (about$sd > 0) about$sd else if (abs(values[1]) > 0) abs(values[1]) else 1
  }
  0.9 * lower * about$n^-0.2
}

# Returns a table x, density of `points` rows, from 3 bandwidths below the least value to
# 3 above the greatest. parts: see group_sums().
density_curve <- function(values, bandwidth = "silverman", points = 512, parts = NULL) {
  known <- which(is.finite(values))
  values <- values[known]
  times <- as.numeric(parts$times[known])
  ends <- if (is.null(parts)) number_range_cpp(values) else counted_range(values, parts, known)
  about <- if (!is.null(parts)) {
    counted_spread(counted_values(values, lapply(parts, `[`, known)), parts$spread[known])
  }
  h <- density_bandwidth(values, bandwidth, about)
  low <- ends[1] - 7 * h
  high <- ends[2] + 7 * h
  if (!is.finite(4 * (high - low))) {
    abort_nelvat(
      "kind",
      c(
        "A density curve needs values whose range can be computed.",
        x = paste0(
          "The values go from ",
          format(ends[1]),
          " to ",
          format(ends[2]),
          ", beyond what a number can hold."
        ),
        i = "Leave out the values that are none, or give the axis a transform such as \"log\"."
      )
    )
  }
  # From the least value on, as digits are lost far from zero.
  weight <- linear_bins_cpp(values - ends[1], times, -7 * h, ends[2] - ends[1] + 7 * h, points)
  distances <- seq(0, 2 * (high - low), length.out = 2 * points)
  distances[(points + 2):(2 * points)] <- -distances[points:2]
  kernel <- stats::dnorm(distances, sd = h)
  smooth <- pmax(
    Re(stats::fft(stats::fft(weight) * Conj(stats::fft(kernel)), inverse = TRUE))[
      seq_len(points)
    ] / (2 * points),
    0
  )
  span <- ends[2] - ends[1]
  x <- seq(-3 * h, span + 3 * h, length.out = points)
  density <- stats::approx(seq(-7 * h, span + 7 * h, length.out = points), smooth, x)$y
  new_table(x = x + ends[1], density = density, .rows = points)
}

# Two-dimensional density on a grid: bilinear bins, a separable Gaussian convolution.
# Bandwidth in each direction: Scott's (1992) rule for two dimensions, sd n^(-1/6).
# Returns list(x, y, z), z a matrix by x and y that integrates to one.
density_grid <- function(x, y, x_ends, y_ends, points = 100) {
  h <- c(plane_bandwidth(x), plane_bandwidth(y))
  step <- c(diff(x_ends), diff(y_ends)) / (points - 1)
  weight <- bilinear_bins_cpp(x, y, x_ends, y_ends, points, points)
  smooth <- convolve_columns_cpp(weight, half_kernel(h[1], step[1], points))
  smooth <- t(convolve_columns_cpp(t(smooth), half_kernel(h[2], step[2], points)))
  list(
    x = seq(x_ends[1], x_ends[2], length.out = points),
    y = seq(y_ends[1], y_ends[2], length.out = points),
    z = smooth / (sum(weight) * step[1] * step[2]),
    bandwidth = h
  )
}

plane_bandwidth <- function(values) {
  spread <- min(stats::sd(values), diff(quantiles_cpp(values, c(0.25, 0.75))) / 1.349)
  if (!(spread > 0)) spread <- max(stats::sd(values), 1e-8 * max(abs(values), 1))
  spread * length(values)^(-1 / 6)
}

# The right half of a Gaussian kernel on a grid, the middle first, adding up to one over
# both sides.
half_kernel <- function(h, step, points) {
  reach <- min(points - 1, max(1, ceiling(4 * h / step)))
  half <- stats::dnorm(seq(0, reach) * step, sd = h)
  half / (half[1] + 2 * sum(half[-1]))
}

# Heights of a gridded density at points within it, between the corners of their cells.
heights_at <- function(grid, x, y) {
  cell <- function(values, ends) {
    step <- (values - ends[1]) / (ends[length(ends)] - ends[1]) * (length(ends) - 1) + 1
    from <- pmin(pmax(floor(step), 1), length(ends) - 1)
    list(from = from, share = step - from)
  }
  i <- cell(x, grid$x)
  j <- cell(y, grid$y)
  corner <- function(right, up) grid$z[cbind(i$from + right, j$from + up)]
  low <- corner(0, 0) * (1 - i$share) + corner(1, 0) * i$share
  high <- corner(0, 1) * (1 - i$share) + corner(1, 1) * i$share
  low * (1 - j$share) + high * j$share
}

# Levels of a density such that a share of the points stands higher, half way to the next of them.
share_levels <- function(heights, shares) {
  heights <- sort(heights, decreasing = TRUE)
  n <- length(heights)
  within <- ceiling(shares * n - 1e-9)
  next_one <- ifelse(within < n, heights[pmin(within + 1, n)], 0.98 * heights[n])
  # Points as high as the last one within are inside, too.
  ifelse(next_one < heights[within], (heights[within] + next_one) / 2, heights[within] * (1 - 1e-9))
}
