# Freireich and others' times to relapse as in textbooks are real; here a table is worked by hand.
hand <- data.frame(time = c(1, 2, 2, 3, 5, 6), event = c(TRUE, TRUE, FALSE, TRUE, FALSE, TRUE))

test_that("shares without the event are those worked by hand", {
  found <- nelvat:::survival_table(hand$time, hand$event)
  expect_equal(found$n_risk, c(6, 5, 3, 2, 1))
  expect_equal(found$survival, c(5 / 6, 5 / 6 * 4 / 5, 4 / 9, 4 / 9, 0))
  # Greenwood: the sum of d / (n (n - d)).
  greenwood <- sqrt(1 / (6 * 5) + 1 / (5 * 4))
  expect_equal(found$lower[2], 2 / 3 * exp(-qnorm(0.975) * greenwood))
  expect_equal(nelvat:::survival_median(found), 3)
  expect_equal(nelvat:::at_risk(hand$time, c(0, 2, 2.5, 7)), c(6, 5, 3, 0))
})

test_that("curves, bands, medians and the log-rank test are those of the package survival", {
  skip_if_not_installed("survival")
  set.seed(11)
  for (case in 1:30) {
    n <- sample(8:80, 1)
    table <- data.frame(
      time = round(stats::rexp(n), sample(1:3, 1)) + 0.1,
      event = stats::runif(n) < 0.7,
      group = sample(letters[1:3], n, TRUE)
    )
    known <- survival::survfit(survival::Surv(time, event) ~ 1, table, conf.type = "log")
    found <- nelvat:::survival_table(table$time, table$event)
    expect_equal(found$survival, known$surv, tolerance = 1e-8)
    expect_equal(found$n_risk, known$n.risk)
    ends <- !is.na(found$lower)
    expect_equal(found$lower[ends], known$lower[ends], tolerance = 1e-8)
    expect_equal(found$upper[ends], known$upper[ends], tolerance = 1e-8)
    expect_equal(
      nelvat:::survival_median(found),
      unname(stats::quantile(known, 0.5)$quantile),
      tolerance = 1e-8
    )
    test <- survival::survdiff(survival::Surv(time, event) ~ group, table)
    mine <- nelvat:::log_rank(table$time, table$event, match(table$group, letters))
    expect_equal(mine$statistic, test$chisq, tolerance = 1e-8)
    expect_identical(mine$df, length(test$n) - 1)
  }
})
