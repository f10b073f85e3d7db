# Tests of all groups at once, and of all groups against one.
#
# oneway.test(), kruskal.test() of R. Against one: Dunnett (1955), "A multiple comparison procedure
# for comparing several treatments with a control", Journal of the American Statistical Association
# 50, with the correlations of unequal n, integrated numerically.

overall_tests <- c(
  anova = "one-way ANOVA", `welch anova` = "Welch's ANOVA", kruskal = "Kruskal-Wallis test"
)

# values: a list of numbers, one a group. A row: statistic, df_groups, df, p, n; NULL where nothing
# can be tested.
overall_test <- function(values, test) {
  values <- values[lengths(values) > 0]
  n <- lengths(values)
  least <- if (test == "kruskal") 1 else 2
  if (length(values) < 2 || any(n < least) || sum(n) <= length(values)) return(NULL)
  all_values <- unlist(values)
  group <- factor(rep(seq_along(values), n))
  found <- tryCatch(
    suppressWarnings(
      if (test == "kruskal") {
        stats::kruskal.test(all_values, group)
      } else {
        stats::oneway.test(all_values ~ group, var.equal = test == "anova")
      }
    ),
    error = function(error) NULL
  )
  if (is.null(found) || !is.finite(found$p.value)) return(NULL)
  data.frame(
    statistic = unname(found$statistic),
    df_groups = unname(found$parameter[1]),
    df = if (test == "kruskal") NA_real_ else unname(found$parameter[2]),
    p = found$p.value,
    n = sum(n)
  )
}

# Each pair's second group against the first, which is the same in all: differences, simultaneous
# intervals, p.
dunnett_pairs <- function(values, pairs, level) {
  none <- do.call(rbind, rep(list(no_test()), nrow(pairs)))
  groups <- c(pairs[1, 1], pairs[, 2])
  n <- lengths(values)[groups]
  df <- sum(n) - length(groups)
  if (any(n < 2) || df < 1) return(none)
  s <- sqrt(sum(vapply(values[groups], function(v) sum((v - mean(v))^2), 0)) / df)
  if (s == 0) return(none)
  difference <- vapply(values[pairs[, 2]], mean, 0) - mean(values[[pairs[1, 1]]])
  se <- s * sqrt(1 / n[-1] + 1 / n[1])
  share <- sqrt(n[-1] / (n[-1] + n[1]))
  statistic <- difference / se
  p <- vapply(abs(statistic), function(t) 1 - dunnett_within(t, share, df), 0)
  quantile <- stats::uniroot(
    function(t) dunnett_within(t, share, df) - level,
    c(1, 50),
    tol = 1e-9
  )$root
  data.frame(
    difference = difference,
    low = difference - quantile * se,
    high = difference + quantile * se,
    statistic = statistic,
    df = df,
    p = pmin(1, pmax(0, p)),
    approximate = FALSE,
    row.names = NULL
  )
}

# The probability that no |t| of groups against one is beyond `t`: over the common group's error z
# and the ratio s of the estimated spread to the true one.
dunnett_within <- function(t, share, df) {
  rest <- sqrt(1 - share^2)
  given_s <- function(s) {
    vapply(
      s,
      function(one) {
        stats::integrate(
          function(z) {
            inside <- rep(1, length(z))
            for (k in seq_along(share)) {
              inside <- inside * (
                stats::pnorm((share[k] * z + t * one) / rest[k]) - stats::pnorm(
                  (share[k] * z - t * one) / rest[k]
                )
              )
            }
            inside * stats::dnorm(z)
          },
          -8,
          8,
          rel.tol = 1e-9
        )$value
      },
      0
    )
  }
  density <- function(s) {
    exp(log(2) + df / 2 * log(df / 2) - lgamma(df / 2) + (df - 1) * log(s) - df * s^2 / 2)
  }
  ends <- sqrt(stats::qchisq(c(1e-13, 1 - 1e-13), df) / df)
  stats::integrate(function(s) given_s(s) * density(s), ends[1], ends[2], rel.tol = 1e-8)$value
}
