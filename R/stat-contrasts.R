# Tests of the difference of two groups, adjusted for their number.
#
# Each is R's own: t.test(), wilcox.test(), TukeyHSD(), p.adjust(); for Dunnett's see
# stat-overall.R. Letters that groups share:
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

# values: a list of numbers, one a group; pairs: two columns, numbers of groups; subjects: for
# paired tests, whose each value is.
# Returns a row a pair: first, second, n_first, n_second, difference (second less first: of means,
# for ranks of locations), low, high (its interval), statistic, df, p, approximate (is p that of the
# normal approximation of ranks?), adjusted. What cannot be tested is NA.
contrast_table_of <- function(values, pairs, test, adjust, level = 0.95, subjects = NULL) {
  n <- lengths(values)
  n_pair <- cbind(n[pairs[, 1]], n[pairs[, 2]])
  found <- switch(
    test,
    tukey = tukey_pairs(values, pairs, level),
    dunnett = dunnett_pairs(values, pairs, level),
    do.call(
      rbind,
      lapply(seq_len(nrow(pairs)), function(k) {
        test_pair(values[[pairs[k, 1]]], values[[pairs[k, 2]]], test, level, subjects[pairs[k, ]])
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
        stats::t.test(b, a, paired = paired, var.equal = test == "student", conf.level = level)
      }
    ),
    error = function(error) NULL
  )
  if (is.null(found) || !is.finite(found$p.value)) return(no_test())
  data.frame(
    difference = if (by_rank) {
      unname(found$estimate)
    } else if (paired) {
      mean(b - a)
    } else {
      mean(b) - mean(a)
    },
    low = found$conf.int[1],
    high = found$conf.int[2],
    statistic = unname(found$statistic),
    df = if (is.null(found$parameter)) NA_real_ else unname(found$parameter),
    p = found$p.value,
    approximate = by_rank && !grepl("exact", found$method)
  )
}

# Of all groups at once; its p are adjusted for all pairs of them.
tukey_pairs <- function(values, pairs, level) {
  n <- lengths(values)
  group <- factor(rep(seq_along(values), n))
  all_values <- unlist(values)
  none <- do.call(rbind, rep(list(no_test()), nrow(pairs)))
  spread <- unlist(lapply(values, function(v) v - mean(v)))
  if (any(n < 1) || length(values) < 2 || sum(n) <= length(values) || all(spread == 0)) return(none)
  found <- stats::TukeyHSD(stats::aov(all_values ~ group), conf.level = level)$group
  row <- match(
    paste(pmax(pairs[, 1], pairs[, 2]), pmin(pairs[, 1], pairs[, 2]), sep = "-"),
    rownames(found)
  )
  up <- pairs[, 2] > pairs[, 1]
  sign <- ifelse(up, 1, -1)
  data.frame(
    difference = sign * found[row, "diff"],
    low = ifelse(up, found[row, "lwr"], -found[row, "upr"]),
    high = ifelse(up, found[row, "upr"], -found[row, "lwr"]),
    statistic = NA_real_,
    df = sum(n) - length(values),
    p = found[row, "p adj"],
    approximate = FALSE,
    row.names = NULL
  )
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
