# Tests of all groups at once, and of all groups against one.
#
# Of means: Fisher's analysis of variance, and Welch (1951), "On the comparison of several mean
# values", Biometrika 38, as R's oneway.test() has them; of ranks R's kruskal.test(). Against one:
# Dunnett (1955), "A multiple comparison procedure for comparing several treatments with a control",
# Journal of the American Statistical Association 50, with the correlations of unequal n, integrated
# numerically.

overall_tests <- c(
  anova = "one-way ANOVA", `welch anova` = "Welch's ANOVA", kruskal = "Kruskal-Wallis test"
)

# groups: for tests of means a row of sums each, else a list of numbers. A row: statistic,
# df_groups, df, p, n; NULL where nothing can be tested.
overall_test <- function(groups, test) {
  if (test %in% tests_of_means) return(test_of_means(groups, test == "anova"))
  groups <- groups[lengths(groups) > 0]
  n <- lengths(groups)
  if (length(groups) < 2 || sum(n) <= length(groups)) return(NULL)
  found <- tryCatch(
    suppressWarnings(stats::kruskal.test(unlist(groups), factor(rep(seq_along(groups), n)))),
    error = function(error) NULL
  )
  if (is.null(found) || !is.finite(found$p.value)) return(NULL)
  data.frame(
    statistic = unname(found$statistic),
    df_groups = unname(found$parameter),
    df = NA_real_,
    p = found$p.value,
    n = sum(n)
  )
}

# Are all means alike? Weighted by n where variances are taken as equal, else each by the inverse of
# its own variance.
test_of_means <- function(sums, equal) {
  sums <- table_rows(sums, sums$n > 0)
  k <- nrow(sums)
  n <- sums$n
  if (k < 2 || any(n < 2) || !any(sums$spread > 0)) return(NULL)
  if (equal) {
    mean <- sum(n * sums$mean) / sum(n)
    df <- sum(n) - k
    statistic <- sum(n * (sums$mean - mean)^2) / (k - 1) / (sum(sums$spread^2) / df)
  } else {
    weight <- n * (n - 1) / sums$spread^2
    share <- weight / sum(weight)
    mean <- sum(share * sums$mean)
    unlike <- sum((1 - share)^2 / (n - 1)) / (k^2 - 1)
    statistic <- sum(weight * (sums$mean - mean)^2) / (k - 1) / (1 + 2 * (k - 2) * unlike)
    df <- 1 / (3 * unlike)
  }
  p <- stats::pf(statistic, k - 1, df, lower.tail = FALSE)
  if (!is.finite(p)) return(NULL)
  data.frame(statistic = statistic, df_groups = k - 1, df = df, p = p, n = sum(n))
}

# Each pair's second group against the first, which is the same in all: differences, simultaneous
# intervals, p.
dunnett_pairs <- function(sums, pairs, level) {
  none <- do.call(rbind, rep(list(no_test()), nrow(pairs)))
  sums <- table_rows(sums, c(pairs[1, 1], pairs[, 2]))
  n <- sums$n
  df <- sum(n) - nrow(sums)
  if (any(n < 2) || df < 1) return(none)
  s <- sqrt(sum(sums$spread^2) / df)
  if (s == 0) return(none)
  difference <- sums$mean[-1] - sums$mean[1]
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
# and the ratio s of the estimated spread to the true one, by Gauss and Legendre's rule in pieces no
# wider than what varies within them.
dunnett_within <- function(t, share, df) {
  rest <- sqrt(1 - share^2)
  z <- legendre_pieces(-8, 8, max(8, ceiling(4 / min(rest))))
  ends <- sqrt(stats::qchisq(c(1e-13, 1 - 1e-13), df) / df)
  s <- legendre_pieces(ends[1], ends[2], 4)
  inside <- stats::dnorm(z$at) * z$weight
  inside <- matrix(inside, length(z$at), length(s$at))
  for (k in unique(share)) {
    left <- sqrt(1 - k^2)
    of_one <- stats::pnorm(outer(k * z$at, t * s$at, `+`) / left) - stats::pnorm(
      outer(k * z$at, t * s$at, `-`) / left
    )
    inside <- inside * of_one^sum(share == k)
  }
  density <- exp(
    log(2) + df / 2 * log(df / 2) - lgamma(df / 2) + (df - 1) * log(s$at) - df * s$at^2 / 2
  )
  sum(colSums(inside) * density * s$weight)
}

# Where a function is taken, and with which weights, for its integral over even pieces. Golub and
# Welsch (1969), "Calculation of Gauss quadrature rules", Mathematics of Computation 23.
legendre_pieces <- function(from, to, pieces, nodes = 16) {
  k <- seq_len(nodes - 1)
  jacobi <- matrix(0, nodes, nodes)
  jacobi[cbind(k, k + 1)] <- jacobi[cbind(k + 1, k)] <- k / sqrt(4 * k^2 - 1)
  found <- eigen(jacobi, symmetric = TRUE)
  half <- (to - from) / pieces / 2
  middle <- from + half * (2 * seq_len(pieces) - 1)
  list(
    at = as.vector(outer(half * found$values, middle, `+`)),
    weight = rep(2 * half * found$vectors[1, ]^2, pieces)
  )
}
