# Sums of parts of the data, added up, are the sums of the whole, and their finish is R's own.

test_that("sums of parts are those of the whole, whatever the parts", {
  set.seed(12)
  for (case in 1:60) {
    k <- sample(1:5, 1)
    n <- sample(c(0, 1, 2, 30, 200), 1)
    away <- sample(c(0, 1e6, -1e9), 1)
    values <- away + rnorm(n, 0, sample(c(1, 1e-3, 100), 1))
    values[runif(n) < 0.1] <- NA
    group <- sample(c(seq_len(k), NA), n, TRUE)
    part <- sample(1:3, n, TRUE)
    parts <- lapply(
      1:3,
      function(i) nelvat:::group_sums(values[part == i], group[part == i], k)
    )
    whole <- nelvat:::group_sums(values, group, k)
    added <- Reduce(nelvat:::added_sums, parts)
    filled <- whole$n > 0
    expect_equal(added$n, whole$n)
    expect_equal(added$mean[filled], whole$mean[filled], tolerance = 1e-12)
    lost <- 100 * .Machine$double.eps * abs(away)
    expect_true(all(abs(added$spread - whole$spread)[filled] <= lost + 1e-9 * whole$spread[filled]))
    expect_identical(added$least[filled], whole$least[filled])
    expect_identical(added$greatest[filled], whole$greatest[filled])
    for (error in c("sd", "se", "ci", "range")) {
      ends <- nelvat:::finished_ends(added, error)
      for (g in which(whole$n > 1)) {
        v <- values[group %in% g & !is.na(values)]
        half <- switch(
          error,
          sd = sd(v),
          se = sd(v) / sqrt(length(v)),
          ci = qt(0.975, length(v) - 1) * sd(v) / sqrt(length(v))
        )
        wanted <- if (error == "range") range(v) else mean(v) + c(-1, 1) * half
        expect_lte(
          max(abs(c(ends$lower[g], ends$upper[g]) - wanted)),
          1e-6 * max(1, sd(v)) + 100 * lost
        )
      }
    }
  }
})

test_that("the exact interval of ones comes from sums", {
  ones <- c(rep(1, 7), rep(0, 5))
  parts <- lapply(
    list(ones[1:4], ones[5:12]),
    function(v) nelvat:::group_sums(v, rep(1L, length(v)), 1L)
  )
  ends <- nelvat:::finished_ends(nelvat:::added_sums(parts[[1]], parts[[2]]), "exact")
  expect_equal(c(ends$lower, ends$upper), as.numeric(binom.test(7, 12)$conf.int))
})
