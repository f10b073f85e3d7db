# Summaries in two steps: a table that can be added up, a row a group, and a finish that makes the
# centre and its error from it. Of parts of the data, each summed where it stands, the sum of their
# tables is the table of the whole.
#
# Method of adding: Chan, Golub and LeVeque (1983), "Algorithms for computing the sample variance",
# The American Statistician 37(3): a spread is the
# root of the sum of squared deviations from the group's own mean, which no double loses.

# values: numbers; group: whole numbers 1..n_groups, NA for none; parts: NULL, or of values that are
# means of many list(times, spread, least, greatest), spread and ends NULL where all are alike.
# Returns a row a group: n, mean, spread, least, greatest.
group_sums <- function(values, group, n_groups, parts = NULL) {
  if (!is.null(parts)) return(sums_of_parts(values, group, n_groups, parts))
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

# Of values that each stand for many: the sums of all of a group.
sums_of_parts <- function(values, group, n_groups, parts) {
  known <- which(!is.na(values) & !is.na(group))
  of_group <- factor(group[known], seq_len(n_groups))
  of <- function(numbers, f) as.vector(tapply(numbers, of_group, f))
  times <- parts$times[known]
  v <- values[known]
  n <- of(times, sum)
  n[is.na(n)] <- 0
  mean <- of(times * v, sum) / n
  spread <- (parts$spread %||% rep(0, length(values)))[known]
  apart <- v - mean[as.integer(of_group)]
  # As near the mean as it can be: once more, of the rest.
  mean <- mean + ifelse(n > 0, of(times * apart, sum) / n, 0)
  apart <- v - mean[as.integer(of_group)]
  new_table(
    n = n,
    mean = mean,
    spread = sqrt(of(spread^2 + times * apart^2, sum)),
    least = of((parts$least %||% values)[known], min),
    greatest = of((parts$greatest %||% values)[known], max),
    .rows = n_groups
  )
}

# The parts that a layer's table has for its values; NULL where each row is one.
# forward: the transform that its values are taken through; of its values no spread is known.
parts_of <- function(table, forward = identity) {
  if (is.null(table$times)) return(NULL)
  parts <- as.list(table)[intersect(names(table), sum_columns)]
  if (identical(forward, identity)) return(parts)
  parts$spread <- NULL
  ends <- intersect(names(parts), c("least", "greatest"))
  parts[ends] <- lapply(parts[ends], forward)
  parts
}
sum_columns <- c("times", "spread", "least", "greatest")

# How many rows of the data some rows of a layer are.
rows_behind <- function(table, held = rep(TRUE, nrow(table))) {
  if (is.null(table$times)) sum(held) else sum(table$times[held])
}

# As tabulate(), of rows that each stand for many.
tabulate_rows <- function(at, k, times = NULL) {
  if (is.null(times)) return(tabulate(at, k))
  sums <- as.vector(tapply(times, factor(at, seq_len(k)), sum))
  ifelse(is.na(sums), 0, sums)
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

# Sums of two quantities over rows of which each stands for many: list(n, x, y: means; xx, yy, xy:
# sums of squares and products about them; x_least, x_greatest).
pair_sums <- function(table) {
  n <- sum(table$times)
  x <- sum(table$times * table$x) / n
  y <- sum(table$times * table$y) / n
  dx <- table$x - x
  dy <- table$y - y
  list(
    n = n,
    x = x,
    y = y,
    xx = sum(table$x_spread^2 + table$times * dx^2),
    yy = sum(table$y_spread^2 + table$times * dy^2),
    xy = sum(table$products + table$times * dx * dy),
    x_least = min(table$x_least),
    x_greatest = max(table$x_greatest)
  )
}

# Three points that have the means and, as n / 3 rows each, the sums of squares and products of all.
points_of_sums <- function(sums) {
  x <- sqrt(sums$xx / sums$n)
  along <- if (x > 0) sums$xy / sums$n / x else 0
  off <- sqrt(max(sums$yy / sums$n - along^2, 0))
  u <- sqrt(2) * c(1, -1 / 2, -1 / 2)
  v <- sqrt(2) * c(0, sqrt(3) / 2, -sqrt(3) / 2)
  list(x = sums$x + x * u, y = sums$y + along * u + off * v)
}
