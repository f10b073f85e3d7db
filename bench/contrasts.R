# The error rate of comparisons under no effect: 10,000 simulated tables of three groups of 8 values of one
# distribution, of which ink_contrasts() finds at least one difference at 0.05: Rscript bench/contrasts.R

suppressMessages(library(nelvat))
set.seed(2025)
tables <- 10000
pairs <- t(utils::combn(3, 2))
for (test in c("welch", "student", "rank sum", "tukey")) {
  any_found <- replicate(tables, {
    values <- list(rnorm(8), rnorm(8), rnorm(8))
    found <- nelvat:::contrast_table_of(values, pairs, test, "holm")
    any(found$adjusted < 0.05)
  })
  cat(sprintf("%-9s any of 3 found in %.2f %% of %d tables (stated: at most 5 %%)\n", test, 100 * mean(any_found), tables))
}
