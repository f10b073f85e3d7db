# The reference in plain R of the kernel group_moments_cpp().
reference_moments <- function(values, group, n_groups) {
  of <- lapply(seq_len(n_groups), function(g) values[!is.na(group) & group == g & !is.na(values)])
  one <- function(f) vapply(of, function(v) if (length(v)) f(v) else NA_real_, 0)
  list(
    n = lengths(of) + 0,
    mean = one(mean),
    sd = one(function(v) if (length(v) > 1) stats::sd(v) else NA),
    least = one(min),
    greatest = one(max)
  )
}

test_that("the kernel agrees with R's own functions, missing values and empty groups included", {
  set.seed(3)
  values <- c(rnorm(500, 1e6, 2), NA, NA)
  group <- c(sample(c(1:6, NA), 500, TRUE), 1L, 8L)
  kernel <- nelvat:::group_moments_cpp(values, group, 8L)
  expect_equal(kernel, reference_moments(values, group, 8L), tolerance = 1e-10)
})

test_that("centres and errors are those of R's own functions, on R's own data", {
  breaks <- datasets::warpbreaks$breaks
  group <- as.integer(datasets::warpbreaks$tension)
  of <- function(f, ...) as.numeric(tapply(breaks, group, f, ...))
  ends <- function(...) nelvat:::centre_error(breaks, group, 3L, ...)
  sd <- ends(error = "sd")
  expect_equal(sd$centre, of(mean))
  expect_equal(sd$upper - sd$lower, 2 * of(stats::sd))
  expect_equal(ends(error = "se")$upper, of(mean) + of(stats::sd) / sqrt(18))
  ci <- ends(error = "ci")
  wanted <- vapply(split(breaks, group), function(v) stats::t.test(v)$conf.int, numeric(2))
  expect_equal(rbind(ci$lower, ci$upper), unname(wanted), ignore_attr = TRUE)
  quartiles <- ends(centre = "median", error = "quartiles")
  expect_equal(quartiles$centre, of(stats::median))
  expect_equal(quartiles$lower, of(stats::quantile, 0.25))
  expect_equal(ends(error = "range")$upper, of(max))
  expect_equal(ends(centre = "sum", error = "none")$centre, of(sum))
})

test_that("the bootstrap interval repeats, is near the t interval, leaves random numbers alone", {
  set.seed(9)
  values <- rnorm(200, 10, 2)
  state <- .Random.seed
  a <- nelvat:::centre_error(values, rep(1L, 200), 1L, error = "bootstrap")
  expect_identical(.Random.seed, state)
  expect_identical(nelvat:::centre_error(values, rep(1L, 200), 1L, error = "bootstrap"), a)
  expect_equal(c(a$lower, a$upper), as.numeric(stats::t.test(values)$conf.int), tolerance = 0.02)
  expect_false(
    identical(
      nelvat:::centre_error(values, rep(1L, 200), 1L, error = "bootstrap", seed = 2)$lower,
      a$lower
    )
  )
})

test_that("one value has a centre and no error; a group without values is left out", {
  got <- nelvat:::centre_error(c(5, NA), c(1L, 2L), 2L)
  expect_identical(c(got$group, got$n, got$centre), c(1, 1, 5))
  expect_true(is.na(got$lower))
})
