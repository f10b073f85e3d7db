# Summaries in two steps: a table that can be added up, a row a group, and a finish that makes the
# centre and its error from it. Of parts of the data, each summed where it stands, the sum of their
# tables is the table of the whole.
#
# Method of adding: Chan, Golub and LeVeque (1983), "Algorithms for computing the sample variance",
# The American Statistician 37(3): a spread is the
# root of the sum of squared deviations from the group's own mean, which no double loses.

# values: numbers; group: whole numbers 1..n_groups, NA for none.
# Returns a row a group: n, mean, spread, least, greatest.
group_sums <- function(values, group, n_groups) {
  found <- scaled_moments(values, group, n_groups)
  new_table(
    n = found$n,
    mean = found$mean,
    spread = ifelse(found$n > 1, found$sd * sqrt(pmax(found$n - 1, 0)), 0),
    least = found$least,
    greatest = found$greatest,
    .rows = n_groups
  )
}

# The table of both parts together, of tables of the same groups.
added_sums <- function(a, b) {
  n <- a$n + b$n
  share <- ifelse(n > 0, b$n / n, 0)
  of <- function(column, none = 0) {
    list(a = ifelse(a$n > 0, a[[column]], none), b = ifelse(b$n > 0, b[[column]], none))
  }
  mean <- of("mean")
  spread <- of("spread")
  apart <- mean$b - mean$a
  both <- a$n > 0 & b$n > 0
  new_table(
    n = n,
    mean = ifelse(both, mean$a + apart * share, ifelse(a$n > 0, mean$a, mean$b)),
    spread = root_of_squares(
      spread$a,
      spread$b,
      ifelse(both, abs(apart) * sqrt(a$n * share), 0)
    ),
    least = do.call(pmin, unname(of("least", Inf))),
    greatest = do.call(pmax, unname(of("greatest", -Inf))),
    .rows = nrow(a)
  )
}

# sqrt(a^2 + b^2 + c^2) where squares would be lost.
root_of_squares <- function(a, b, c) {
  largest <- pmax(a, b, c)
  unit <- ifelse(largest > 0, largest, 1)
  unit * sqrt((a / unit)^2 + (b / unit)^2 + (c / unit)^2)
}

# Ends of the error about the mean of each row; NULL for errors that sums do not tell.
finished_ends <- function(sums, error) {
  n <- sums$n
  sd <- ifelse(n > 1, sums$spread / sqrt(pmax(n - 1, 1)), NA_real_)
  half <- switch(
    error,
    sd = sd,
    se = sd / sqrt(n),
    ci = ifelse(n > 1, stats::qt(0.975, pmax(n - 1, 1)), NA) * sd / sqrt(n),
    none = rep(NA_real_, length(n))
  )
  if (!is.null(half)) return(list(lower = sums$mean - half, upper = sums$mean + half))
  switch(
    error,
    range = list(lower = sums$least, upper = sums$greatest),
    # Of shares of ones: Clopper and Pearson (1934), Biometrika 26, as binom.test() has it.
    exact = {
      ones <- round(n * sums$mean)
      list(
        lower = ifelse(ones == 0, 0, stats::qbeta(0.025, ones, n - ones + 1)),
        upper = ifelse(ones == n, 1, stats::qbeta(0.975, ones + 1, n - ones))
      )
    }
  )
}
