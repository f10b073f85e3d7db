# Bins of a histogram and their counts.
#
# Without bins, width or breaks, the width is that of Freedman and Diaconis (1981), "On
# the histogram as a density estimator", Zeitschrift fuer Wahrscheinlichkeitstheorie
# 57: 2 IQR / n^(1/3), made round; where the IQR is zero, Sturges' (1926) number of bins.

# unit: what a width is a round number of, such as a day.
# times: how many rows each value stands for; NULL: one.
histogram_breaks <- function(
  values,
  bins = NULL,
  width = NULL,
  breaks = NULL,
  unit = NULL,
  times = NULL
) {
  if (!is.null(breaks)) return(sort(breaks))
  if (!is.null(times)) return(bins_of(about_counted(values, times), bins, width))
  values <- finite_values(values)
  range <- if (length(values)) number_range_cpp(values)[1:2] else c(0, 0)
  wished <- if (diff(range) > 0) freedman_diaconis(values)
  bins_by_rule(range, wished, values, bins, width, unit)
}

# Of a table that was only asked about: range, n and iqr of its values, and values, all distinct
# ones, where they are few.
bins_of <- function(about, bins = NULL, width = NULL, breaks = NULL) {
  if (!is.null(breaks)) return(sort(breaks))
  wished <- width_by_rule(about$iqr, about$n, diff(about$range))
  bins_by_rule(about$range, wished, about$values %||% (about$range + c(0, 0.1)), bins, width)
}

about_counted <- function(values, times) {
  order <- order(values)
  quartiles <- counted_quantiles(values[order], times[order], c(0.25, 0.75))
  list(range = range(values), n = sum(times), iqr = diff(quartiles), values = values)
}

# wished: the width that the rule gives.
bins_by_rule <- function(range, wished, values, bins = NULL, width = NULL, unit = NULL) {
  if (diff(range) == 0) return(range[1] + c(-0.5, 0.5) * (width %||% max(1, abs(range[1]) * 0.1)))
  if (!is.null(bins)) return(seq(range[1], range[2], length.out = bins + 1))
  whole <- if (is.null(unit)) whole_step(values, range)
  if (!is.null(whole)) {
    found <- width %||% (whole * max(1, floor(round_width(wished / whole, range / whole))))
    # A width that was asked for is counted from zero, unless it holds one number.
    if (is.null(width) || abs(width - whole) < 1e-9 * whole) {
      return(covering_edges(range, found, range[1] - whole / 2))
    }
  }
  unit <- if (is.null(unit)) 1 else max(unit[unit <= wished], unit[1])
  round_one <- round_width(max(wished / unit, if (unit > 1) 1), range / unit)
  width <- width %||% (unit * if (unit > 1) floor(round_one) else round_one)
  bins <- diff(range) / width
  if (!is.finite(bins) || bins > most_bins) abort_bins(width, ceiling(bins), range)
  covering_edges(range, width)
}

most_whole <- 60 # steps of a range whose bins are centred on whole numbers

# Of whole numbers over few steps, the step: their greatest common divisor, counted from the least.
# NULL for other values.
whole_step <- function(values, range) {
  if (diff(range) <= 0 || diff(range) > 1e6 || any(values != round(values))) return(NULL)
  step <- 0
  for (off in unique(values - range[1])) {
    while (off > 0) {
      rest <- step %% off
      step <- off
      off <- rest
    }
  }
  if (diff(range) / step <= most_whole) step
}

# Edges of bins of a width, counted from `origin`, that hold all of a range. An end within some ulps
# of an edge stands on it, as it does where values are counted (bin_counts_cpp): one that is further
# off has its bin.
covering_edges <- function(range, width, origin = 0) {
  slack <- 4 * .Machine$double.eps * max(abs(range), abs(origin))
  first <- floor((range[1] - origin) / width)
  last <- ceiling((range[2] - origin) / width)
  if (origin + (first + 1) * width - range[1] <= slack) first <- first + 1
  if (range[2] - origin - (last - 1) * width <= slack) last <- last - 1
  origin + width * seq(first, max(last, first + 1))
}

# More bins than this show nothing on any page, and may not fit in memory.
most_bins <- 10000

abort_bins <- function(width, bins, range, call = rlang::caller_env(2)) {
  abort_nelvat(
    "argument",
    c(
      paste0("A histogram may have at most ", format(most_bins, big.mark = ","), " bins."),
      x = paste0(
        "A `width` of ",
        format(width),
        " over values from ",
        format(range[1]),
        " to ",
        format(range[2]),
        " asks for ",
        format(bins, digits = 3),
        "."
      )
    ),
    call
  )
}

# The values that are finite; no copy where all are.
finite_values <- function(values) {
  ends <- number_range_cpp(values)
  if (ends[3] == 0 && all(is.finite(ends))) values else values[is.finite(values)]
}

freedman_diaconis <- function(values) {
  iqr <- diff(quantiles_cpp(values, c(0.25, 0.75)))
  width_by_rule(iqr, length(values), diff(number_range_cpp(values)[1:2]))
}

width_by_rule <- function(iqr, n, range) {
  width <- 2 * iqr / n^(1 / 3)
  if (width > 0) width else range / (ceiling(log2(n)) + 1)
}

# The round number (1, 2, 2.5 or 5 times a power of ten) at or below a width, so that
# bins line up with an axis's breaks; no more than 200 bins.
round_width <- function(width, range) {
  width <- max(width, diff(range) / 200)
  power <- 10^floor(log10(width))
  steps <- c(1, 2, 2.5, 5, 10) * power
  max(steps[steps <= width * (1 + 1e-9)])
}

# Counts by bin (rows) and group (columns).
histogram_counts <- function(values, group, n_groups, breaks, times = NULL) {
  if (is.null(times)) return(bin_counts_cpp(values, group, n_groups, breaks))
  # As the kernel counts: closed on the right, to some ulps.
  slack <- 16 * .Machine$double.eps * max(abs(range(breaks)))
  bins <- length(breaks) - 1
  bin <- findInterval(values, c(breaks[1] - 2 * slack, breaks[-1] + slack), left.open = TRUE)
  bin[!within_breaks(values, breaks) | is.na(group)] <- NA
  matrix(tabulate_rows(bin + (group - 1) * bins, bins * n_groups, times), bins)
}

# Which values stand in a bin, to some ulps as they are counted.
within_breaks <- function(values, breaks) {
  slack <- 16 * .Machine$double.eps * max(abs(range(breaks)))
  !is.na(values) & values >= min(breaks) - slack & values <= max(breaks) + slack
}
