# Tests of the difference of two groups, adjusted for their number.
#
# Tests of means are of each group's n, mean and spread, which a table that stays where it is can
# be asked for: Student (1908), Biometrika 6; Welch (1947), Biometrika 34; Tukey and Kramer (1956),
# Biometrics 12. They agree with R's t.test() and TukeyHSD(). All others are R's own: wilcox.test(),
# t.test() of pairs, p.adjust(); for Dunnett's see stat-overall.R. Letters that groups share:
# Piepho (2004), "An algorithm for a letter-based representation of all-pairwise comparisons",
# Journal of Computational and Graphical Statistics 13(2), by insertion and absorption.

contrast_tests <- c(
  welch = "Welch's t tests", student = "Student's t tests",
  `rank sum` = "Wilcoxon's rank sum tests",
  paired = "paired t tests", `signed rank` = "Wilcoxon's signed rank tests",
  tukey = "Tukey's honest significant differences", dunnett = "Dunnett's tests"
)
paired_tests <- c("paired", "signed rank")
joint_tests <- c("tukey", "dunnett") # whose p are those of all pairs together
tests_of_means <- c("welch", "student", "tukey", "dunnett", "anova", "welch anova")

# groups: for tests of means a row of sums each (see group_sums()), else a list of numbers; pairs:
# two columns, numbers of groups; subjects: for paired tests, whose each value is.
# Returns a row a pair: first, second, n_first, n_second, difference (second less first: of means,
# for ranks of locations), low, high (its interval), statistic, df, p, approximate (is p that of the
# normal approximation of ranks?), adjusted. What cannot be tested is NA.
contrast_table_of <- function(groups, pairs, test, adjust, level = 0.95, subjects = NULL) {
  n <- if (test %in% tests_of_means) groups$n else lengths(groups)
  n_pair <- cbind(n[pairs[, 1]], n[pairs[, 2]])
  found <- switch(
    test,
    welch = t_pairs(groups, pairs, level, equal = FALSE),
    student = t_pairs(groups, pairs, level, equal = TRUE),
    tukey = tukey_pairs(groups, pairs, level),
    dunnett = dunnett_pairs(groups, pairs, level),
    do.call(
      rbind,
      lapply(seq_len(nrow(pairs)), function(k) {
        test_pair(groups[[pairs[k, 1]]], groups[[pairs[k, 2]]], test, level, subjects[pairs[k, ]])
      })
    )
  )
  if (test %in% paired_tests) {
    n_pair[] <- vapply(
      seq_len(nrow(pairs)),
      function(k) {
        length(intersect(subjects[[pairs[k, 1]]], subjects[[pairs[k, 2]]]))
      },
      0L
    )
  }
  data.frame(
    first = pairs[, 1],
    second = pairs[, 2],
    n_first = n_pair[, 1],
    n_second = n_pair[, 2],
    found,
    adjusted = if (test %in% joint_tests) found$p else stats::p.adjust(found$p, adjust),
    row.names = NULL
  )
}

no_test <- function() {
  data.frame(
    difference = NA_real_,
    low = NA_real_,
    high = NA_real_,
    statistic = NA_real_,
    df = NA_real_,
    p = NA_real_,
    approximate = FALSE
  )
}

# Two values a group are the least; where none differs from the others there is nothing to test.
# subjects: for a paired test whose the values of a and of b are; only those with both count.
test_pair <- function(a, b, test, level, subjects = NULL) {
  by_rank <- test %in% c("rank sum", "signed rank")
  paired <- test %in% paired_tests
  if (paired) {
    both <- intersect(subjects[[1]], subjects[[2]])
    a <- a[match(both, subjects[[1]])]
    b <- b[match(both, subjects[[2]])]
  }
  if (length(a) < 2 || length(b) < 2) return(no_test())
  found <- tryCatch(
    suppressWarnings(
      if (by_rank) {
        stats::wilcox.test(b, a, paired = paired, conf.int = TRUE, conf.level = level)
      } else {
        stats::t.test(b, a, paired = TRUE, conf.level = level)
      }
    ),
    error = function(error) NULL
  )
  if (is.null(found) || !is.finite(found$p.value)) return(no_test())
  data.frame(
    difference = if (by_rank) unname(found$estimate) else mean(b - a),
    low = found$conf.int[1],
    high = found$conf.int[2],
    statistic = unname(found$statistic),
    df = if (is.null(found$parameter)) NA_real_ else unname(found$parameter),
    p = found$p.value,
    approximate = by_rank && !grepl("exact", found$method)
  )
}

# Each two groups by themselves, with equal or unequal variances; where neither varies there is
# nothing to test.
t_pairs <- function(sums, pairs, level, equal) {
  a <- table_rows(sums, pairs[, 1])
  b <- table_rows(sums, pairs[, 2])
  free <- list(a$n - 1, b$n - 1)
  if (equal) {
    df <- free[[1]] + free[[2]]
    se <- sqrt((a$spread^2 + b$spread^2) / df * (1 / a$n + 1 / b$n))
  } else {
    squares <- list(a$spread^2 / free[[1]] / a$n, b$spread^2 / free[[2]] / b$n)
    se <- sqrt(squares[[1]] + squares[[2]])
    df <- se^4 / (squares[[1]]^2 / free[[1]] + squares[[2]]^2 / free[[2]])
  }
  difference <- b$mean - a$mean
  smallest <- 10 * .Machine$double.eps * pmax(abs(a$mean), abs(b$mean))
  known <- a$n > 1 & b$n > 1 & is.finite(se) & se > smallest
  df <- ifelse(known, df, NA)
  tested_means(difference, se, df, stats::qt((1 + level) / 2, df), known, function(t) {
    2 * stats::pt(-t, df)
  })
}

# A row a pair, from its difference of means; missing where that is not known to be testable.
tested_means <- function(difference, se, df, quantile, known, p_of) {
  none <- ifelse(known, 0, NA_real_)
  data.frame(
    difference = difference + none,
    low = difference - quantile * se + none,
    high = difference + quantile * se + none,
    statistic = difference / se + none,
    df = df + none,
    p = p_of(abs(difference) / se) + none,
    approximate = FALSE,
    row.names = NULL
  )
}

# Of all groups at once; its p are adjusted for all pairs of them.
tukey_pairs <- function(sums, pairs, level) {
  k <- nrow(sums)
  df <- sum(sums$n) - k
  a <- table_rows(sums, pairs[, 1])
  b <- table_rows(sums, pairs[, 2])
  se <- sqrt(sum(sums$spread^2) / df / 2 * (1 / a$n + 1 / b$n))
  known <- all(sums$n > 0) && k > 1 && df > 0 && any(sums$spread > 0)
  width <- if (known) stats::qtukey(level, k, df) else NA_real_
  found <- tested_means(b$mean - a$mean, se, df, width, rep(known, nrow(pairs)), function(t) {
    if (known) stats::ptukey(t, k, df, lower.tail = FALSE) else NA_real_
  })
  changed(found, statistic = NA_real_)
}

# Letters for each of n groups: two that differ share none. differs: logical, a row a pair.
shared_letters <- function(n, pairs, differs) {
  columns <- matrix(TRUE, n, 1)
  for (k in which(differs)) {
    both <- which(columns[pairs[k, 1], ] & columns[pairs[k, 2], ])
    for (j in both) {
      without_second <- columns[, j]
      without_second[pairs[k, 2]] <- FALSE
      columns[pairs[k, 1], j] <- FALSE
      columns <- cbind(columns, without_second)
    }
    columns <- absorbed(columns)
  }
  columns <- columns[, order(apply(columns, 2, function(held) match(TRUE, held))), drop = FALSE]
  apply(columns, 1, function(held) paste(letters[which(held)], collapse = ""))
}

# Columns that another one holds are left out.
absorbed <- function(columns) {
  kept <- seq_len(ncol(columns))
  for (j in seq_len(ncol(columns))) {
    others <- setdiff(kept, j)
    if (any(vapply(others, function(k) all(columns[columns[, j], k]), NA))) kept <- others
  }
  columns[, kept, drop = FALSE]
}
