test_that("levels, counts and missing values are those of table(), whatever the number of levels", {
  set.seed(2)
  for (n_levels in c(1, 3, 40, 5000)) {
    values <- sample(c(NA, paste0("level ", seq_len(n_levels))), 20000, TRUE)
    found <- nelvat:::text_levels_cpp(values)
    expect_identical(found$levels, unique(values[!is.na(values)]))
    expect_equal(found$n, as.numeric(table(factor(values, found$levels))))
    expect_equal(found$missing, sum(is.na(values)))
  }
  expect_identical(nelvat:::text_levels_cpp(character())$levels, character())
})

test_that("ranges are those of range(), for integers and doubles, missing values counted", {
  set.seed(4)
  for (n in c(1, 3, 4, 5, 1001)) {
    x <- rnorm(n, 50, 30)
    x[sample(n, n %/% 4)] <- NA
    whole <- as.integer(x)
    if (n > 4) x[2] <- NaN
    expect_equal(nelvat:::number_range_cpp(x), c(range(x, na.rm = TRUE), sum(is.na(x))))
    expect_equal(nelvat:::number_range_cpp(whole), c(range(whole, na.rm = TRUE), sum(is.na(whole))))
  }
})
