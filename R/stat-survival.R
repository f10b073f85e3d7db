# Times to an event, of which some are not seen to their end.
# Sources: Kaplan and Meier (1958), Journal of the American Statistical Association 53; Greenwood
# (1926), Reports on Public Health 33, for its variance; the interval on the scale of the logarithm;
# Mantel (1966), Cancer Chemotherapy Reports 50, and Mantel and Haenszel (1959), for the test.

# time, event (TRUE where it happened, FALSE where the time was cut off): of one group.
# Returns a row for each distinct time: time, n_risk, n_event, n_censored, survival, lower, upper.
survival_table <- function(time, event, level = 0.95) {
  times <- sort(unique(time))
  place <- match(time, times)
  n_event <- tabulate(place[event], length(times))
  n_all <- tabulate(place, length(times))
  n_risk <- length(time) - c(0, cumsum(n_all)[-length(times)])
  survival <- cumprod(1 - n_event / n_risk)
  # Where all that are left have the event, nothing is known of the variance.
  steps <- n_event / (n_risk * (n_risk - n_event))
  error <- sqrt(cumsum(ifelse(n_event == n_risk, Inf, steps)))
  z <- stats::qnorm((1 + level) / 2)
  known <- is.finite(error) & survival > 0
  data.frame(
    time = times,
    n_risk = n_risk,
    n_event = n_event,
    n_censored = n_all - n_event,
    survival = survival,
    lower = ifelse(known, survival * exp(-z * error), NA),
    upper = ifelse(known, pmin(1, survival * exp(z * error)), NA)
  )
}

# The first time at which no more than half are left; NA where more are left at the end. Where just
# half are left over a stretch, its middle.
survival_median <- function(table) {
  below <- which(table$survival <= 0.5 + 1e-9)
  if (!length(below)) return(NA_real_)
  first <- below[1]
  just_half <- abs(table$survival[first] - 0.5) < 1e-9
  after <- which(table$survival < 0.5 - 1e-9)
  if (just_half && length(after)) return(mean(table$time[c(first, after[1])]))
  table$time[first]
}

# The log-rank test of several groups: list(statistic, df, p), NULL where there is nothing to test.
log_rank <- function(time, event, group) {
  codes <- sort(unique(group))
  k <- length(codes)
  times <- sort(unique(time[event]))
  if (k < 2 || !length(times)) return(NULL)
  n_at <- function(of, when) vapply(when, function(t) sum(time[of] >= t), 0)
  d_at <- function(of, when) vapply(when, function(t) sum(time[of] == t & event[of]), 0)
  all_rows <- seq_along(time)
  n <- n_at(all_rows, times)
  d <- d_at(all_rows, times)
  n_of <- vapply(codes, function(code) n_at(which(group == code), times), numeric(length(times)))
  d_of <- vapply(codes, function(code) d_at(which(group == code), times), numeric(length(times)))
  n_of <- matrix(n_of, length(times))
  d_of <- matrix(d_of, length(times))
  excess <- colSums(d_of - d * n_of / n)
  weight <- ifelse(n > 1, d * (n - d) / (n - 1), 0)
  share <- n_of / n
  variance <- diag(colSums(weight * share), k) - crossprod(share, weight * share)
  # One group's excess follows from the others'.
  some <- seq_len(k - 1)
  solved <- tryCatch(solve(variance[some, some], excess[some]), error = function(e) NULL)
  if (is.null(solved)) return(NULL)
  statistic <- sum(excess[some] * solved)
  list(
    statistic = statistic,
    df = k - 1,
    p = stats::pchisq(statistic, k - 1, lower.tail = FALSE)
  )
}

# How many are under observation just before each time.
at_risk <- function(time, when) vapply(when, function(t) sum(time >= t), 0)
