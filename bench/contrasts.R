# The error rate of comparisons under no effect: 10,000 simulated tables of three groups of 8 values
# of one distribution (for paired tests with a spread between subjects twice that within), of which
# ink_contrasts() finds at least one difference at 0.05: Rscript bench/contrasts.R [TABLES = 10000]

suppressMessages(library(nelvat))
set.seed(2025)
tables <- as.integer(c(commandArgs(trailingOnly = TRUE), "10000")[1])
pairs <- t(utils::combn(3, 2))
subjects <- rep(list(1:8), 3)
told <- function(name, found) {
  cat(
    sprintf(
      "%-12s found in %.2f %% of %d tables (stated: at most 5 %%)\n",
      name,
      100 * mean(found),
      length(found)
    )
  )
}

for (test in c("welch", "student", "rank sum", "paired", "signed rank", "tukey")) {
  told(
    test,
    replicate(tables, {
      own <- if (test %in% c("paired", "signed rank")) rnorm(8, 0, 2) else 0
      values <- list(own + rnorm(8), own + rnorm(8), own + rnorm(8))
      any(
        nelvat:::contrast_table_of(values, pairs, test, "holm", subjects = subjects)$adjusted < 0.05
      )
    })
  )
}
for (test in c("anova", "welch anova", "kruskal")) {
  told(
    test,
    replicate(tables, {
      nelvat:::overall_test(list(rnorm(8), rnorm(8), rnorm(8)), test)$p < 0.05
    })
  )
}
# Dunnett's p is below 0.05 where the greatest |t| is beyond this.
critical <- stats::uniroot(
  function(t) nelvat:::dunnett_within(t, rep(sqrt(0.5), 2), 21) - 0.95,
  c(1, 10)
)$root
told(
  "dunnett",
  replicate(tables, {
    values <- list(rnorm(8), rnorm(8), rnorm(8))
    s <- sqrt(sum(vapply(values, stats::var, 0)) / 3)
    max(abs(vapply(values[-1], mean, 0) - mean(values[[1]]))) / (s / 2) > critical
  })
)
