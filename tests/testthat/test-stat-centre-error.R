# The reference in plain R of the kernel group_moments_cpp().
reference_moments <- function(values, group, n_groups) {
  of <- lapply(seq_len(n_groups), function(g) values[!is.na(group) & group == g & !is.na(values)])
  one <- function(f) vapply(of, function(v) if (length(v)) f(v) else NA_real_, 0)
  list(n = lengths(of) + 0, mean = one(mean), sd = one(function(v) if (length(v) > 1) stats::sd(v) else NA), least = one(min), greatest = one(max))
}

test_that("the kernel agrees with R's own functions, missing values and empty groups included", {
  set.seed(3)
  values <- c(rnorm(500, 1e6, 2), NA, NA)
  group <- c(sample(c(1:6, NA), 500, TRUE), 1L, 8L)
  kernel <- nelvat:::group_moments_cpp(values, group, 8L)
  expect_equal(kernel, reference_moments(values, group, 8L), tolerance = 1e-10)
})

test_that("means and errors are those of mean() and sd(), on R's own data", {
  breaks <- datasets::warpbreaks
  group <- as.integer(breaks$tension)
  got <- nelvat:::centre_error(breaks$breaks, group, error = "sd")
  se <- nelvat:::centre_error(breaks$breaks, group, error = "se")
  means <- as.numeric(tapply(breaks$breaks, breaks$tension, mean))
  sds <- as.numeric(tapply(breaks$breaks, breaks$tension, sd))
  expect_equal(got$centre, means)
  expect_equal(got$upper - got$lower, 2 * sds)
  expect_equal(se$upper, means + sds / sqrt(18))
  expect_equal(got$n, rep(18, 3))
})

test_that("one value has a mean and no error", {
  got <- nelvat:::centre_error(5, 1L)
  expect_identical(c(got$n, got$centre), c(1, 5))
  expect_true(is.na(got$lower))
})
