test_that("bias, limits and their intervals are Bland and Altman's formulas, drawn and told", {
  set.seed(8)
  d <- data.frame(meter = rnorm(30, 4.2, 0.3))
  d$paper <- d$meter + rnorm(30, 0.06, 0.09)
  d$paper[3] <- NA
  fig <- plate(panel(d, ink_agreement(meter, paper)), width = 80, height = 60)
  got <- suppressWarnings(fits(fig))
  own <- with(d[-3, ], meter - paper)
  s <- sd(own)
  expect_identical(got$term, c("bias", "lower limit", "upper limit"))
  expect_equal(got$estimate, mean(own) + c(0, -1, 1) * stats::qnorm(0.975) * s)
  t <- stats::t.test(own)$conf.int
  expect_equal(c(got$low[1], got$high[1]), as.numeric(t))
  half <- stats::qt(0.975, 28) * s * sqrt(1 / 29 + stats::qnorm(0.975)^2 / (2 * 28))
  expect_equal(got$high[3] - got$estimate[3], half)
  scene <- suppressWarnings(as_scene(fig))
  ends <- scene$axes[[2]]$range
  points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
  expect_equal(sort(points$y * diff(ends) + ends[1]), sort(own))
  expect_identical(
    c(scene$axes[[1]]$title, scene$axes[[2]]$title),
    c("Mean of meter and paper", "Difference, meter \u2212 paper")
  )
  expect_match(suppressWarnings(legend_text(fig)), "dashed lines at the limits that hold 95 %")
  expect_error(
    panel(study("loaves"), ink_agreement(rise, firmness)),
    "one unit",
    class = "nelvat_error_unit"
  )
  expect_error(
    panel(d, x = meter, ink_agreement(meter, paper)),
    "brings both axes",
    class = "nelvat_error_argument"
  )
})

test_that("areas, their variance and average precision are the definitions, counted pair by pair", {
  set.seed(3)
  score <- round(rnorm(40), 1)
  positive <- runif(40) < 0.4
  got <- nelvat:::class_curve(score, positive, "roc")
  pairs <- outer(score[positive], score[!positive], function(a, b) (a > b) + 0.5 * (a == b))
  expect_equal(got$area$estimate, mean(pairs))
  expect_equal(
    got$area$estimate,
    unname(suppressWarnings(stats::wilcox.test(score[positive], score[!positive])$statistic)) /
      length(
        pairs
      )
  )
  expect_equal(
    got$area$se,
    sqrt(stats::var(rowMeans(pairs)) / nrow(pairs) + stats::var(colMeans(pairs)) / ncol(pairs))
  )
  half <- stats::qnorm(0.975) * got$area$se
  expect_equal(
    c(got$area$low, got$area$high),
    c(got$area$estimate - half, min(1, got$area$estimate + half))
  )
  trapezoids <- sum(diff(got$x) * (utils::head(got$y, -1) + got$y[-1]) / 2)
  expect_equal(trapezoids, got$area$estimate)
  by_hand <- nelvat:::class_curve(
    c(5, 4, 3, 2, 1),
    c(TRUE, FALSE, TRUE, TRUE, FALSE),
    "precision-recall"
  )
  expect_equal(by_hand$area$estimate, (1 + 2 / 3 + 3 / 4) / 3)
  expect_null(nelvat:::class_curve(1:3, rep(TRUE, 3), "roc"))
})

test_that("a truth of levels needs its positive one; the table and the words have the area", {
  tested <- data.frame(
    score = c(9, 8, 7, 6, 5, 4, 3, 2),
    sour = c("yes", "yes", "no", "yes", "yes", "no", "no", "no")
  )
  fig <- plate(panel(tested, ink_classes(score, sour, positive = "yes")), width = 70, height = 70)
  expect_equal(fits(fig)$estimate, 14 / 16)
  texts <- as_scene(fig)$texts
  expect_match(texts$string[texts$role == "equation"], "AUC = 0.88 (", fixed = TRUE)
  expect_error(panel(tested, ink_classes(score, sour)), "which level", class = "nelvat_error_level")
  expect_error(
    panel(tested, ink_classes(score, sour, positive = "maybe")),
    "which level",
    class = "nelvat_error_level"
  )
  expect_error(
    panel(tested, ink_classes(score, score)),
    "zeros and ones",
    class = "nelvat_error_argument"
  )
})

test_that("exact intervals of shares are those of binom.test(), none and all of them too", {
  loaves <- study("loaves")$data
  loaves$good <- as.numeric(loaves$rise > 50)
  got <- nelvat:::centre_error(
    loaves$good,
    match(loaves$flour, c("wheat", "rye")),
    2,
    "mean",
    "exact"
  )
  for (k in 1:2) {
    own <- loaves$good[loaves$flour == c("wheat", "rye")[k]]
    of <- stats::binom.test(sum(own), length(own))
    expect_equal(c(got$lower[k], got$upper[k]), as.numeric(of$conf.int))
  }
  fig <- plate(
    panel(loaves, x = flour, y = good, ink_bars(error = "exact")),
    width = 80,
    height = 60
  )
  expect_match(legend_text(fig), "exact 95 % interval of the share")
  expect_error(
    as_scene(plate(panel(loaves, x = flour, y = rise, ink_bars(error = "exact")))),
    "zeros and ones",
    class = "nelvat_error_argument"
  )
})

test_that("what cannot be computed in a panel is told", {
  half <- data.frame(s = 1:8, t = c(1, 0, 1, 0, 1, 1, 1, 1), g = rep(c("a", "b"), each = 4))
  expect_warning(
    as_scene(plate(facets(panel(half, ink_classes(s, t)), across = g), width = 120, height = 60)),
    "all of one class"
  )
  expect_warning(
    as_scene(plate(panel(data.frame(a = 1, b = 2), ink_agreement(a, b)), width = 80, height = 60)),
    "too few for an agreement"
  )
  equal <- data.frame(g = c("a", "a", "b", "b"), y = 1)
  fig <- plate(
    panel(equal, x = g, y = y, ink_dots(), ink_contrasts(between = "none", overall = "anova")),
    width = 80,
    height = 60
  )
  expect_match(legend_text(fig), "1 panel of too few or equal values not tested")
})
