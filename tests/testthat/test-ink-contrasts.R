loaves <- study("loaves")
compared <- function(..., width = 100, height = 110) {
  fig <- plate(..., width = width, height = height)
  list(scene = suppressWarnings(as_scene(fig)), table = contrast_table(fig), fig = fig)
}
held <- loaves$data[!is.na(loaves$data$rise), ]
by_flour <- split(held$rise, held$flour)

test_that("p, difference, interval and statistic of each pair are those of R's own tests", {
  for (test in c("welch", "student", "rank sum")) {
    drawn <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(test = test)))$table
    expect_identical(nrow(drawn), 6L)
    codes <- loaves$columns$flour$levels
    names <- plain_text(loaves$columns$flour$level_names)
    for (row in seq_len(6)) {
      a <- by_flour[[codes[match(drawn$first[row], names)]]]
      b <- by_flour[[codes[match(drawn$second[row], names)]]]
      own <- suppressWarnings(
        if (test == "rank sum") stats::wilcox.test(b, a, conf.int = TRUE) else stats::t.test(b, a, var.equal = test == "student")
      )
      expect_equal(drawn$p[row], own$p.value, tolerance = 1e-10)
      expect_equal(c(drawn$low[row], drawn$high[row]), as.numeric(own$conf.int), tolerance = 1e-10)
      expect_equal(drawn$statistic[row], unname(own$statistic))
      expect_identical(c(drawn$n_first[row], drawn$n_second[row]), c(length(a), length(b)))
    }
    expect_equal(drawn$adjusted, stats::p.adjust(drawn$p, "holm"))
  }
  pairwise <- stats::pairwise.t.test(held$rise, held$flour, p.adjust.method = "bonferroni", pool.sd = FALSE)$p.value
  drawn <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(adjust = "bonferroni")))$table
  expect_equal(sort(drawn$adjusted), sort(as.numeric(pairwise[!is.na(pairwise)])), tolerance = 1e-10)
  tukey <- stats::TukeyHSD(stats::aov(rise ~ factor(flour, loaves$columns$flour$levels), held))[[1]]
  drawn <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(test = "tukey")))$table
  expect_equal(sort(drawn$adjusted), sort(unname(tukey[, "p adj"])), tolerance = 1e-10)
  expect_equal(sort(drawn$difference), sort(unname(tukey[, "diff"])), tolerance = 1e-10)
  expect_equal(sort(drawn$low), sort(unname(tukey[, "lwr"])), tolerance = 1e-10)
})

test_that("pairs are all, neighbours, those against one level, or those listed; colours within each category", {
  pairs <- function(between, ...) compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(between = between)), ...)$table
  expect_identical(nrow(pairs("neighbours")), 3L)
  against <- pairs("rye")
  expect_identical(unique(against$first), "Rye")
  expect_identical(nrow(against), 3L)
  listed <- pairs(list(c("wheat", "rye"), c("spelt", "rye")))
  expect_identical(listed$first, c("Wheat", "Spelt"))
  expect_identical(listed$second, c("Rye", "Rye"))
  within <- compared(panel(loaves, x = hydration, y = rise, colour = flour, ink_bars(), ink_contrasts(between = "wheat")), width = 178)$table
  expect_identical(nrow(within), 9L)
  expect_identical(unique(within$first), "Wheat")
  one <- held[held$hydration == 60, ]
  expect_equal(
    within$p[within$within == "60" & within$second == "Rye"],
    stats::t.test(one$rise[one$flour == "wheat"], one$rise[one$flour == "rye"])$p.value, tolerance = 1e-10
  )
  # Each category is a family of its own.
  expect_equal(within$adjusted[within$within == "60"], stats::p.adjust(within$p[within$within == "60"], "holm"))
  expect_error(pairs("oats"), "does not exist.*oats", class = "nelvat_error_level")
  expect_error(ink_contrasts(between = c("a", "b")), class = "nelvat_error_argument")
  expect_error(ink_contrasts(between = "neighbours", show = "letters"), "all pairs", class = "nelvat_error_argument")
  expect_error(as_scene(plate(panel(loaves, x = rise, y = ph, ink_contrasts()))), class = "nelvat_error_kind")
})

test_that("brackets stand above all marks of their span, do not touch, and the axis makes room at any height", {
  for (height in c(70, 110, 160)) for (width in c(70, 178)) {
    drawn <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()), width = width, height = height)
    scene <- drawn$scene
    expect_null(scene_faults(scene))
    texts <- scene$texts[scene$texts$role == "value", ]
    expect_identical(nrow(texts), 6L)
    expect_gte(min(texts$y0), scene$panels$y - 0.05)
    brackets <- Find(function(layer) layer$ink == "contrasts" && layer$primitive == "segments", scene$marks)$table
    bars <- brackets[brackets$y0 == brackets$y1, ]
    values <- Filter(function(layer) layer$ink == "box", scene$marks)
    highest <- max(unlist(lapply(values, function(layer) c(layer$table$y, layer$table$y1))))
    # All whole-span brackets are above the highest mark.
    expect_gt(max(bars$y0), highest)
    x <- (seq_len(4) - 0.5) / 4
    for (k in seq_len(nrow(bars))) {
      under <- unlist(lapply(values, function(layer) {
        at <- layer$table$x %||% layer$table$x0
        top <- layer$table$y1 %||% layer$table$y
        top[at >= bars$x0[k] - 1e-9 & at <= bars$x1[k] + 1e-9]
      }))
      expect_gt(bars$y0[k], max(c(0, under)))
    }
  }
  # On axes that run the other way, too.
  for (fig in list(
    panel(loaves, x = flour, y = rise, y_axis = axis_of(reverse = TRUE), ink_points(), ink_contrasts()),
    panel(loaves, x = flour, y = reverse(rise), ink_points(), ink_contrasts())
  )) {
    scene <- compared(fig)$scene
    points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
    bars <- Find(function(layer) layer$ink == "contrasts" && layer$primitive == "segments", scene$marks)$table
    for (k in which(bars$y0 == bars$y1)) {
      under <- points$y[points$x >= bars$x0[k] - 1e-9 & points$x <= bars$x1[k] + 1e-9]
      expect_gt(bars$y0[k], max(under))
    }
    expect_null(scene_faults(scene))
  }
  expect_error(
    as_scene(plate(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()), width = 80, height = 32)),
    "mm of height are missing", class = "nelvat_error_labels"
  )
  # Two blocks that share the axis keep one range.
  both <- compared(beside(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()), panel(loaves, x = hydration, y = rise, ink_box())), width = 178)
  ranges <- unique(lapply(Filter(function(axis) axis$direction == "y", both$scene$axes), `[[`, "range"))
  expect_length(ranges, 1)
})

test_that("stars tell their thresholds, the legend its test, sides, adjustment and n; few and equal values are not tested", {
  stars <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(show = "stars")))
  expect_identical(stars$scene$texts$string[stars$scene$texts$role == "value"], rep("***", 6))
  said <- legend_text(stars$fig)
  expect_match(said, "Welch's t tests, two-sided, p adjusted by Holm's method (6 comparisons)", fixed = TRUE)
  expect_match(said, "* p < 0.05, ** p < 0.01, *** p < 0.001", fixed = TRUE)
  expect_match(said, "n = 36 a group", fixed = TRUE)
  expect_identical(nelvat:::star_text(c(0.0009, 0.001, 0.009, 0.01, 0.049, 0.05)), c("\\*\\*\\*", "\\*\\*", "\\*\\*", "\\*", "\\*", "ns"))
  few <- data.frame(g = c("a", "a", "b", "c", "c"), y = c(1, 2, 5, 7, 7.5))
  drawn <- compared(panel(few, x = g, y = y, ink_points(), ink_contrasts()))
  expect_identical(nrow(drawn$table), 1L)
  expect_match(legend_text(drawn$fig), "2 pairs of too few or equal values not tested", fixed = TRUE)
  equal <- data.frame(g = rep(c("a", "b"), each = 3), y = 4)
  expect_null(compared(panel(equal, x = g, y = y, ink_points(), ink_contrasts()))$table)
  logged <- compared(panel(loaves, x = flour, y = log10(volume), ink_box(), ink_contrasts()))
  wheat <- loaves$data$volume[loaves$data$flour == "wheat"]
  spelt <- loaves$data$volume[loaves$data$flour == "spelt"]
  expect_equal(logged$table$p[logged$table$first == "Wheat" & logged$table$second == "Spelt"], stats::t.test(log10(spelt), log10(wheat))$p.value)
  expect_match(legend_text(logged$fig), "values as the axis shows them", fixed = TRUE)
})

test_that("groups share a letter if and only if they do not differ", {
  set.seed(77)
  for (trial in 1:200) {
    n <- sample(2:7, 1)
    pairs <- t(utils::combn(n, 2))
    differs <- runif(nrow(pairs)) < runif(1)
    found <- strsplit(nelvat:::shared_letters(n, pairs, differs), "")
    expect_true(all(lengths(found) > 0))
    for (k in seq_len(nrow(pairs))) {
      share <- length(intersect(found[[pairs[k, 1]]], found[[pairs[k, 2]]])) > 0
      expect_identical(share, !differs[k])
    }
  }
})

test_that("a figure file compares groups by the same words", {
  folder <- withr::local_tempdir()
  utils::write.csv(data.frame(g = rep(c("a", "b", "c"), each = 5), y = c(1:5, 4:8, 9:13)), file.path(folder, "t.csv"), row.names = FALSE)
  writeLines(c(
    "nelvat: 1", "data: {t: t.csv}",
    "blocks: {a: {panel: {data: t, x: g, y: y, ink: [box, {contrasts: {between: [[a, b], [a, c]], test: student, adjust: none, show: stars}}]}}}",
    "plate: {place: a, width: 80, height: 80}"
  ), file.path(folder, "f.yaml"))
  table <- contrast_table(read_figure(file.path(folder, "f.yaml"))$plate)
  expect_identical(table$second, c("b", "c"))
  expect_equal(table$p[1], stats::t.test(4:8, 1:5, var.equal = TRUE)$p.value)
  expect_equal(table$adjusted, table$p)
})
