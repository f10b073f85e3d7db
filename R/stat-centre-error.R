# The centre of each group with its error.
#
# Definitions. mean: arithmetic; sd, the sample standard deviation with denominator
# n - 1; se = sd / sqrt(n), the standard error of the mean; ci, the 95 % confidence
# interval of the mean by Student's t with n - 1 degrees of freedom. median: the middle
# value (mean of the two middle ones); quartiles: by linear interpolation (type 7 of
# Hyndman and Fan 1996). range: least to greatest. bootstrap: the 95 % percentile
# interval of the centre over 1,000 resamples from a fixed seed. exact: of a mean of zeros and ones.
# Errors but the range and the exact interval are missing for n < 2.
# Sources: Altman and Bland (2005), "Standard deviations and standard errors", BMJ 331;
# Hyndman and Fan (1996), "Sample quantiles in statistical packages", The American
# Statistician 50(4); Efron and Tibshirani (1993), "An Introduction to the Bootstrap".
#
# values: numbers; group: whole numbers 1..n_groups, NA for none; parts: see group_sums().
# Returns one row a group that has a value: group, n, centre, lower, upper.
centre_error <- function(
  values,
  group,
  n_groups = max(group, 0L, na.rm = TRUE),
  centre = "mean",
  error = "sd",
  seed = 1,
  parts = NULL
) {
  if (error == "exact") check_zeros_ones(values, group)
  moments <- group_sums(values, group, n_groups, parts)
  groups <- which(moments$n > 0)
  middle <- switch(
    centre,
    mean = moments$mean,
    sum = by_group(values * (parts$times %||% 1), group, n_groups, sum),
    median = quantile_by_group(values, group, n_groups, 0.5, parts)
  )
  ends <- if (centre != "mean" && error == "quartiles") {
    list(
      lower = quantile_by_group(values, group, n_groups, 0.25, parts),
      upper = quantile_by_group(values, group, n_groups, 0.75, parts)
    )
  } else {
    error_ends(error, centre, moments, values, group, n_groups, seed)
  }
  new_table(
    group = groups,
    n = moments$n[groups],
    centre = middle[groups],
    lower = ends$lower[groups],
    upper = ends$upper[groups],
    .rows = length(groups)
  )
}

# Squares of very small and very large values are no numbers any more; these are taken as parts of a
# power of two, which loses nothing.
scaled_moments <- function(values, group, n_groups) {
  ends <- number_range_cpp(as.numeric(values))
  most <- max(abs(ends[1:2]))
  if (!is.finite(most) || most == 0 || most > 1e-140 && most < 1e140) {
    return(group_moments_cpp(values, group, n_groups))
  }
  unit <- 2^floor(log2(most))
  moments <- group_moments_cpp(values / unit, group, n_groups)
  lengths <- c("mean", "sd", "least", "greatest")
  moments[lengths] <- lapply(moments[lengths], function(of) of * unit)
  moments
}

# Ends of the error about a centre: from sums where they tell it, else from the values.
error_ends <- function(error, centre, moments, values, group, n_groups, seed) {
  if (centre != "mean" && error == "none") {
    return(list(lower = rep(NA_real_, n_groups), upper = rep(NA_real_, n_groups)))
  }
  finished_ends(moments, error) %||% switch(
    error,
    bootstrap = bootstrap_ends(
      values,
      group,
      n_groups,
      if (centre == "mean") mean else stats::median,
      seed
    )
  )
}

check_zeros_ones <- function(values, group) {
  wrong <- finite_values(values[!is.na(group)])
  wrong <- wrong[wrong != 0 & wrong != 1]
  if (!length(wrong)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "An exact interval is of shares of ones among zeros and ones.",
      x = paste0("Found ", format(wrong[1], digits = 4), ".")
    ),
    call = NULL
  )
}

# parts: see group_sums().
quantile_by_group <- function(values, group, n_groups, share, parts = NULL) {
  if (is.null(parts)) {
    return(by_group(values, group, n_groups, stats::quantile, share, names = FALSE, type = 7))
  }
  of_rows <- function(rows) quantiles_of_counted(counted_values(values, parts, rows), share)
  by_group(replace(seq_along(values), is.na(values), NA), group, n_groups, of_rows)
}

by_group <- function(values, group, n_groups, f, ...) {
  is_known <- !is.na(values) & !is.na(group)
  out <- rep(NA_real_, n_groups)
  parts <- split(values[is_known], group[is_known])
  out[as.integer(names(parts))] <- vapply(parts, f, 0, ..., USE.NAMES = FALSE)
  out
}

bootstrap_ends <- function(values, group, n_groups, centre, seed, resamples = 1000) {
  with_seed(seed, {
    draws <- function(v) {
      if (length(v) < 2) {
        c(NA, NA)
      } else {
        stats::quantile(
          vapply(
            seq_len(resamples),
            function(i) centre(v[sample.int(length(v), replace = TRUE)]),
            0
          ),
          c(0.025, 0.975),
          names = FALSE
        )
      }
    }
    is_known <- !is.na(values) & !is.na(group)
    parts <- split(values[is_known], group[is_known])
    ends <- vapply(parts, draws, numeric(2))
  })
  out <- matrix(NA_real_, 2, n_groups)
  out[, as.integer(names(parts))] <- ends
  list(lower = out[1, ], upper = out[2, ])
}

# Runs code from a seed, leaving the session's own stream of random numbers as it was.
with_seed <- function(seed, code) {
  before <- get0(".Random.seed", globalenv(), inherits = FALSE)
  on.exit(
    if (is.null(before)) suppressWarnings(
      rm(".Random.seed", envir = globalenv())
    ) else assign(".Random.seed", before, globalenv())
  )
  set.seed(seed, kind = "Mersenne-Twister", normal.kind = "Inversion", sample.kind = "Rejection")
  force(code)
}

error_names <- c(
  sd = "standard deviation", se = "standard error of the mean", ci = "95 % confidence interval (t)",
  range = "range",
  quartiles = "quartiles", bootstrap = "95 % bootstrap interval",
  exact = "exact 95 % interval of the share"
)

# The errors that a centre can have.
errors_of <- function(centre) {
  switch(
    centre,
    mean = c("sd", "se", "ci", "range", "bootstrap", "exact", "none"),
    median = c("quartiles", "range", "bootstrap", "none"),
    "none"
  )
}

# What an error spans, NULL for none.
error_meaning <- function(error) if (error != "none") error_names[[error]]

# The words for a centre with its error, for the key, the legend and the facts.
centre_error_words <- function(centre, error) {
  if (error == "none") return(centre)
  paste0(centre, if (error %in% c("sd", "se")) " \u00b1 " else ", ", error_names[[error]])
}

# The error that some mark shows: none where no group has enough values for one.
error_that_exists <- function(error, lower) {
  if (error != "none" && !any(is.finite(lower))) "none" else error
}
