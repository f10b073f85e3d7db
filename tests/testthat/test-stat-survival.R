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

test_that("hazard ratios are those of Cox's model, ties by Efron", {
  skip_if_not_installed("survival")
  set.seed(5)
  for (case in 1:25) {
    n <- sample(12:90, 1)
    k <- sample(2:4, 1)
    table <- data.frame(
      time = round(stats::rexp(n), sample(0:3, 1)) + 0.1,
      event = stats::runif(n) < 0.7,
      group = sample(k, n, TRUE)
    )
    events <- tapply(table$event, factor(table$group, seq_len(k)), sum)
    if (anyNA(events) || any(events == 0)) next
    known <- summary(survival::coxph(survival::Surv(time, event) ~ factor(group), table))
    found <- nelvat:::hazard_ratios(table$time, table$event, table$group)
    expect_equal(found$estimate, unname(known$conf.int[, 1]), tolerance = 1e-7)
    expect_equal(found$low, unname(known$conf.int[, 3]), tolerance = 1e-6)
    expect_equal(found$high, unname(known$conf.int[, 4]), tolerance = 1e-6)
  }
  # A group without an event has no ratio.
  none <- nelvat:::hazard_ratios(1:6, c(TRUE, TRUE, TRUE, FALSE, FALSE, FALSE), rep(1:2, each = 3))
  expect_true(is.na(none$estimate))
  expect_null(nelvat:::hazard_ratios(1:3, rep(TRUE, 3), rep(1, 3)))
})

test_that("shares with one of several events are those of Aalen and Johansen", {
  # By hand: of four, the event, another, a cut off, the event.
  found <- nelvat:::incidence_table(1:4, c(1, 2, 0, 1))
  expect_equal(found$share, c(1 / 4, 1 / 4, 1 / 4, 1 / 4 + 1 / 2))
  # Without other events it is what is not left, and its variance Greenwood's.
  set.seed(2)
  time <- round(stats::rexp(40), 1) + 0.1
  state <- as.numeric(stats::runif(40) < 0.6)
  alone <- nelvat:::incidence_table(time, state)
  plain <- nelvat:::survival_table(time, state == 1)
  expect_equal(alone$share, 1 - plain$survival)
  left <- plain$n_risk > plain$n_event
  greenwood <- cumsum(plain$n_event / (plain$n_risk * (plain$n_risk - plain$n_event)))
  half <- qnorm(0.975) * plain$survival * sqrt(greenwood)
  expect_equal(alone$upper[left], pmin(1, alone$share + half)[left])
  skip_if_not_installed("survival")
  for (case in 1:20) {
    n <- sample(10:80, 1)
    time <- round(stats::rexp(n), 2) + 0.1
    state <- sample(0:2, n, TRUE, c(0.3, 0.4, 0.3))
    known <- survival::survfit(survival::Surv(time, factor(state, 0:2)) ~ 1)
    mine <- nelvat:::incidence_table(time, state)
    expect_equal(mine$share, unname(known$pstate[, 2]), tolerance = 1e-8)
    expect_equal(mine$n_risk, unname(known$n.risk[, 1]))
  }
})

test_that("ratios and competing events are drawn, said, and refused where they cannot be", {
  kept <- data.frame(
    days = c(3, 5, 5, 6, 8, 9, 4, 7, 9, 9, 11, 12),
    end = c("stale", "mould", "kept", "stale", "stale", "kept", rep(c("mould", "stale"), 3)),
    stale = c(1, 1, 0, 1, 1, 0, 1, 1, 0, 1, 0, 0),
    flour = rep(c("wheat", "rye"), each = 6)
  )
  fig <- function(...) {
    plate(panel(kept, x = days, colour = flour, ink_survival(...)), width = 86, height = 70)
  }
  compared <- fig(stale, ratio = TRUE, test = TRUE)
  ratio <- nelvat:::hazard_ratios(kept$days, kept$stale == 1, match(kept$flour, c("wheat", "rye")))
  scene <- as_scene(compared)
  written <- scene$texts$string[scene$texts$role == "equation"]
  number <- formatC(ratio$estimate, format = "f", digits = 2)
  expect_true(any(grepl(number, gsub("\\s", " ", written), fixed = TRUE)))
  expect_match(alt_text(compared), "edian days: .*rye.*wheat|edian days: .*wheat.*rye")
  expect_match(legend_text(scene), paste0("Cox's model.*of rye to wheat ", number))
  # What is written stands off the curves.
  found <- proof(plate(change(compared$blocks[[1]]), width = 58, height = 60))
  expect_identical(found$verdict[found$rule == "texts over data"], "good")
  rows <- source_data(compared)[[1]]
  expect_equal(stats::na.omit(rows$estimate)[1], ratio$estimate, ignore_attr = TRUE)
  shares <- as_scene(fig(end, event = "stale", competing = "mould"))
  expect_match(legend_text(shares), "share with the event.* 4 other events in its place")
  lines <- Filter(function(layer) layer$primitive == "lines", shares$marks)[[1]]$table
  expect_true(all(diff(lines$y[lines$line == 1]) >= 0))
  refused <- function(pattern, class, ...) {
    expect_error(as_scene(fig(...)), pattern, class = paste0("nelvat_error_", class))
  }
  refused("other events", "argument", end, event = "stale")
  expect_error(
    panel(kept, x = days, ink_survival(stale, ratio = TRUE)),
    "compares groups",
    class = "nelvat_error_argument"
  )
  refused("mould", "level", end, event = "stale", competing = "mold")
  refused("one of them", "argument", end, event = "stale", competing = "stale")
  refused("one kind", "argument", end, event = "stale", competing = "mould", test = TRUE)
  refused("category\\(stale\\)", "argument", stale, competing = "mould")
})
