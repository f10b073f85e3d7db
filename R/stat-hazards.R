# Hazards of groups compared, and shares with one of several kinds of event.
# Sources: Cox (1972), Journal of the Royal Statistical Society B 34, and Efron (1977), Journal of
# the American Statistical Association 72, for ties; Aalen and Johansen (1978), Scandinavian Journal
# of Statistics 5, for several kinds of event, with the variance of Marubini and Valsecchi (1995),
# "Analysing Survival Data from Clinical Trials and Observational Studies".

# Hazards of groups to that of the first, by Cox's model of the groups alone: a row a group but the
# first, of those that are there: group, estimate, low, high. Where a group has no event, or all are
# of one, its ratio has no estimate. NULL for fewer than two groups.
hazard_ratios <- function(time, event, group, level = 0.95) {
  codes <- sort(unique(group))
  k <- length(codes)
  times <- sort(unique(time[event]))
  if (k < 2 || !length(times)) return(NULL)
  of <- function(f) {
    matrix(vapply(codes, function(code) f(group == code), numeric(length(times))), length(times))
  }
  at_risk_of <- of(function(own) vapply(times, function(t) sum(time[own] >= t), 0))
  events_of <- of(function(own) tabulate(match(time[own & event], times), length(times)))
  found <- efron_fit(at_risk_of, events_of)
  known <- colSums(events_of) > 0
  finite <- known[-1] & known[1] & found$converged
  z <- stats::qnorm((1 + level) / 2)
  ends <- function(by) ifelse(finite, exp(found$beta + by * found$se), NA_real_)
  new_table(group = codes[-1], estimate = ends(0), low = ends(-z), high = ends(z), .rows = k - 1L)
}

# Newton's method for the partial likelihood: a row a time, a column a group.
efron_fit <- function(at_risk_of, events_of) {
  k <- ncol(at_risk_of)
  d <- rowSums(events_of)
  # Of d tied events each next one leaves a share of them fewer at risk.
  time <- rep(seq_along(d), d)
  share <- (sequence(d) - 1) / rep(d, d)
  left <- at_risk_of[time, , drop = FALSE] - share * events_of[time, , drop = FALSE]
  beta <- rep(0, k - 1)
  converged <- FALSE
  for (step in 1:50) {
    weight <- sweep(left, 2, exp(c(0, beta)), "*")
    p <- (weight / rowSums(weight))[, -1, drop = FALSE]
    score <- colSums(events_of)[-1] - colSums(p)
    information <- diag(colSums(p), k - 1) - crossprod(p)
    move <- tryCatch(solve(information, score), error = function(e) NULL)
    if (is.null(move) || any(!is.finite(move))) break
    beta <- beta + pmin(pmax(move, -2), 2)
    converged <- max(abs(move)) < 1e-10
    if (converged || max(abs(beta)) > 25) break
  }
  inverse <- tryCatch(solve(information), error = function(e) matrix(NA_real_, k - 1, k - 1))
  list(beta = beta, se = sqrt(diag(inverse)), converged = converged)
}

# The share with one kind of event, of which others take the chance. state: 0 where the time was cut
# off, 1 the event, 2 another one. As survival_table(), `share` in place of `survival`.
incidence_table <- function(time, state, level = 0.95) {
  times <- sort(unique(time))
  place <- match(time, times)
  n_of <- function(which) tabulate(place[which], length(times))
  d1 <- n_of(state == 1)
  d <- n_of(state > 0)
  n_all <- n_of(rep(TRUE, length(time)))
  n <- length(time) - c(0, cumsum(n_all)[-length(times)])
  left <- cumprod(1 - d / n)
  before <- c(1, left[-length(left)])
  share <- cumsum(before * d1 / n)
  variance <- vapply(
    seq_along(times),
    function(i) {
      upto <- seq_len(i)
      apart <- share[i] - share[upto]
      all_gone <- n[upto] == d[upto]
      first <- ifelse(all_gone, 0, apart^2 * d[upto] / (n[upto] * (n[upto] - d[upto])))
      second <- before[upto]^2 * (n[upto] - d1[upto]) * d1[upto] / n[upto]^3
      third <- 2 * apart * before[upto] * d1[upto] / n[upto]^2
      sum(first + second - third)
    },
    0
  )
  half <- stats::qnorm((1 + level) / 2) * sqrt(pmax(variance, 0))
  data.frame(
    time = times,
    n_risk = n,
    n_event = d1,
    n_other = d - d1,
    n_censored = n_all - d,
    share = share,
    lower = pmax(0, share - half),
    upper = pmin(1, share + half)
  )
}
