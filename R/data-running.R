#' Cleaning a trace
#'
#' Expressions for [derived()]. `running_median()` replaces each value by the median
#' of those about it, as [stats::runmed()] does (Turlach's algorithm; Tukey's rule at
#' the ends). `running_mean()` is the mean of the values in the window. In
#' `without_spikes()`, values farther than `limit` robust standard deviations from the
#' running median become missing. Missing values stay missing and are passed over:
#' the window is of values that are there. In `derive =` the window stays within a series: the
#' rows of one level of what the panel shows by colour, shape, dash and group, and of its facets.
#'
#' @param x Numbers in the order of the trace.
#' @param width Odd number of values in the window.
#' @param limit Distance in robust standard deviations (1.4826 times the median
#'   absolute deviation from the running median; Hampel 1974; where more than half of the values lie
#'   on it, 1.2533 times the mean absolute deviation; Iglewicz and Hoaglin 1993).
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return Numbers, as many as `x`. In `derive =`, how many changed is kept for the figure's facts,
#'   wherever in the expression the call stands.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits.
#' @examples
#' panel(
#'   study("probe"),
#'   x = time,
#'   y = clean,
#'   derive = list(
#'     clean = derived(without_spikes(core, width = 7), quantity("Dough core", unit = "\u00b0C"))
#'   ),
#'   ink_points(size = 0.4)
#' )
#' @name running
NULL

#' @rdname running
#' @export
running_median <- function(x, width = 3, ...) {
  check_rest(...)
  run_over(
    x,
    width,
    function(held) as.numeric(stats::runmed(held, width, endrule = "median")),
    "values changed by a running median"
  )
}

#' @rdname running
#' @export
running_mean <- function(x, width = 3, ...) {
  check_rest(...)
  run_over(
    x,
    width,
    function(held) {
      n <- length(held)
      half <- (width - 1) / 2
      # Each window is added up by itself: an infinity is in its own windows only, and nothing is
      # lost far from zero.
      centre <- mean(held[is.finite(held)])
      if (!is.finite(centre)) centre <- 0
      means <- as.numeric(stats::filter(held - centre, rep(1 / width, width))) + centre
      ends <- setdiff(seq_len(n), seq_len(n - 2 * half) + half)
      means[ends] <- vapply(ends, function(i) mean(held[max(1, i - half):min(n, i + half)]), 0)
      means
    },
    "values changed by a running mean"
  )
}

#' @rdname running
#' @export
without_spikes <- function(x, width = 7, limit = 6, ...) {
  check_rest(...)
  check_number(limit, "limit", 0)
  run_over(
    x,
    width,
    function(held) {
      away <- held - as.numeric(stats::runmed(held, width, endrule = "median"))
      spread <- stats::mad(away, center = 0)
      # A trace of few steps mostly lies on its median: then by the mean deviation, else each step
      # were a spike.
      if (!isTRUE(spread > 0)) spread <- sqrt(pi / 2) * mean(abs(away))
      ifelse(abs(away) > limit * spread & abs(away) > 0, NA, held)
    },
    "spikes removed"
  )
}

# The running functions as `derive` finds them: each series by itself.
within_series <- function(series) {
  if (length(unique(series)) < 2) return(list())
  each <- function(of) {
    function(x, ...) {
      # A short vector is not a column; the function itself tells what is wrong.
      if (length(x) != length(series)) return(of(x, ...))
      rows <- split(seq_along(x), series)
      out <- as.numeric(x)
      for (held in rows) out[held] <- of(x[held], ...)
      out
    }
  }
  list(
    running_median = each(running_median),
    running_mean = each(running_mean),
    without_spikes = each(without_spikes)
  )
}

run_over <- function(x, width, smooth, what, call = rlang::caller_env()) {
  if (!is.numeric(x)) {
    abort_nelvat(
      "argument",
      c("A running window is over numbers.", x = paste0("Found ", describe_value(x), ".")),
      call
    )
  }
  check_number(width, "width", 1, whole = TRUE, call = call)
  known <- which(!is.na(x))
  if (width %% 2 == 0 || width > max(length(known), 1)) {
    abort_nelvat(
      "argument",
      c(
        "`width` must be odd and no more than the number of values.",
        x = paste0("Found ", width, " for ", counted(length(known), "value"), ".")
      ),
      call
    )
  }
  out <- as.numeric(x)
  out[known] <- smooth(out[known])
  # Whoever makes a column of it hears of it.
  announce(
    "nelvat_values_changed",
    what = what,
    n = sum(is.na(out[known]) | out[known] != x[known])
  )
  out
}
