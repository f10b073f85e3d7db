loaves <- study("loaves")
compared <- function(..., width = 100, height = 110) {
  fig <- plate(..., width = width, height = height)
  list(scene = suppressWarnings(as_scene(fig)), table = contrast_table(fig), fig = fig)
}
held <- loaves$data[!is.na(loaves$data$rise), ]
by_flour <- split(held$rise, held$flour)

test_that("p, difference, interval and statistic of each pair are those of R's own tests", {
  for (test in c("welch", "student", "rank sum")) {
    drawn <- compared(
      panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(test = test))
    )$table
    expect_identical(nrow(drawn), 6L)
    codes <- loaves$columns$flour$levels
    names <- plain_text(loaves$columns$flour$level_names)
    for (row in seq_len(6)) {
      a <- by_flour[[codes[match(drawn$first[row], names)]]]
      b <- by_flour[[codes[match(drawn$second[row], names)]]]
      own <- suppressWarnings(
        if (test == "rank sum") {
          stats::wilcox.test(b, a, conf.int = TRUE)
        } else {
          stats::t.test(b, a, var.equal = test == "student")
        }
      )
      expect_equal(drawn$p[row], own$p.value, tolerance = 1e-10)
      expect_equal(c(drawn$low[row], drawn$high[row]), as.numeric(own$conf.int), tolerance = 1e-10)
      expect_equal(drawn$statistic[row], unname(own$statistic))
      expect_identical(c(drawn$n_first[row], drawn$n_second[row]), c(length(a), length(b)))
    }
    expect_equal(drawn$adjusted, stats::p.adjust(drawn$p, "holm"))
  }
  pairwise <- stats::pairwise.t.test(
    held$rise,
    held$flour,
    p.adjust.method = "bonferroni",
    pool.sd = FALSE
  )$p.value
  drawn <- compared(
    panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(adjust = "bonferroni"))
  )$table
  expect_equal(
    sort(drawn$adjusted),
    sort(as.numeric(pairwise[!is.na(pairwise)])),
    tolerance = 1e-10
  )
  tukey <- stats::TukeyHSD(stats::aov(rise ~ factor(flour, loaves$columns$flour$levels), held))[[1]]
  drawn <- compared(
    panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(test = "tukey"))
  )$table
  expect_equal(sort(drawn$adjusted), sort(unname(tukey[, "p adj"])), tolerance = 1e-8)
  expect_equal(sort(drawn$difference), sort(unname(tukey[, "diff"])), tolerance = 1e-10)
  expect_equal(sort(drawn$low), sort(unname(tukey[, "lwr"])), tolerance = 1e-10)
})

test_that("pairs are all, neighbours, against one level, listed, or colours within each category", {
  pairs <- function(between, ...) {
    compared(
      panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(between = between)),
      ...
    )$table
  }
  expect_identical(nrow(pairs("neighbours")), 3L)
  against <- pairs("rye")
  expect_identical(unique(against$first), "Rye")
  expect_identical(nrow(against), 3L)
  listed <- pairs(list(c("wheat", "rye"), c("spelt", "rye")))
  expect_identical(listed$first, c("Wheat", "Spelt"))
  expect_identical(listed$second, c("Rye", "Rye"))
  within <- compared(
    panel(
      loaves,
      x = hydration,
      y = rise,
      colour = flour,
      ink_bars(),
      ink_contrasts(between = "wheat")
    ),
    width = 178
  )$table
  expect_identical(nrow(within), 9L)
  expect_identical(unique(within$first), "Wheat")
  one <- held[held$hydration == 60, ]
  expect_equal(
    within$p[within$within == "60" & within$second == "Rye"],
    stats::t.test(one$rise[one$flour == "wheat"], one$rise[one$flour == "rye"])$p.value,
    tolerance = 1e-10
  )
  # All of a panel are one family.
  expect_equal(within$adjusted, stats::p.adjust(within$p, "holm"))
  expect_error(pairs("oats"), "does not exist.*oats", class = "nelvat_error_level")
  expect_error(ink_contrasts(between = c("a", "b")), class = "nelvat_error_argument")
  expect_error(
    ink_contrasts(between = "neighbours", show = "letters"),
    "all pairs",
    class = "nelvat_error_argument"
  )
  expect_error(
    as_scene(plate(panel(loaves, x = rise, y = ph, ink_contrasts()))),
    class = "nelvat_error_kind"
  )
})

test_that("brackets stand above all marks of their span, and the axis makes room at any height", {
  for (height in c(70, 110, 160)) {
    for (width in c(70, 178)) {
      drawn <- compared(
        panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
        width = width,
        height = height
      )
      scene <- drawn$scene
      expect_null(scene_faults(scene))
      texts <- scene$texts[scene$texts$role == "value", ]
      expect_identical(nrow(texts), 6L)
      expect_gte(min(texts$y0), scene$panels$y - 0.05)
      brackets <- Find(
        function(layer) layer$ink == "contrasts" && layer$primitive == "segments",
        scene$marks
      )$table
      bars <- brackets[brackets$y0 == brackets$y1, ]
      values <- Filter(function(layer) layer$ink == "box", scene$marks)
      highest <- max(unlist(lapply(values, function(layer) c(layer$table$y, layer$table$y1))))
      # All whole-span brackets are above the highest mark.
      expect_gt(max(bars$y0), highest)
      x <- (seq_len(4) - 0.5) / 4
      for (k in seq_len(nrow(bars))) {
        under <- unlist(
          lapply(values, function(layer) {
            at <- layer$table$x %||% layer$table$x0
            top <- layer$table$y1 %||% layer$table$y
            top[at >= bars$x0[k] - 1e-9 & at <= bars$x1[k] + 1e-9]
          })
        )
        expect_gt(bars$y0[k], max(c(0, under)))
      }
    }
  }
  # On axes that run the other way, too.
  for (fig in list(
    panel(
      loaves,
      x = flour,
      y = rise,
      y_axis = axis_of(reverse = TRUE),
      ink_points(),
      ink_contrasts()
    ),
    panel(loaves, x = flour, y = reverse(rise), ink_points(), ink_contrasts())
  )) {
    scene <- compared(fig)$scene
    points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
    bars <- Find(
      function(layer) layer$ink == "contrasts" && layer$primitive == "segments",
      scene$marks
    )$table
    for (k in which(bars$y0 == bars$y1)) {
      under <- points$y[points$x >= bars$x0[k] - 1e-9 & points$x <= bars$x1[k] + 1e-9]
      expect_gt(bars$y0[k], max(under))
    }
    expect_null(scene_faults(scene))
  }
  expect_error(
    as_scene(
      plate(
        panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
        width = 80,
        height = 32
      )
    ),
    "mm of height are missing",
    class = "nelvat_error_labels"
  )
  # Two blocks that share the axis keep one range.
  both <- compared(
    beside(
      panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
      panel(loaves, x = hydration, y = rise, ink_box())
    ),
    width = 178
  )
  ranges <- unique(
    lapply(Filter(function(axis) axis$direction == "y", both$scene$axes), `[[`, "range")
  )
  expect_length(ranges, 1)
})

test_that(
  "stars tell thresholds, the legend test, sides, adjustment, n; equal values are no test",
  {
    stars <- compared(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(show = "stars")))
    expect_identical(stars$scene$texts$string[stars$scene$texts$role == "value"], rep("***", 6))
    said <- legend_text(stars$fig)
    expect_match(
      said,
      "Welch's t tests, two-sided, p adjusted by Holm's method (6 comparisons)",
      fixed = TRUE
    )
    expect_match(said, "* p < 0.05, ** p < 0.01, *** p < 0.001", fixed = TRUE)
    expect_match(said, "n = 36 loaves a", fixed = TRUE)
    expect_identical(
      nelvat:::star_text(c(0.0009, 0.001, 0.009, 0.01, 0.049, 0.05)),
      c("\\*\\*\\*", "\\*\\*", "\\*\\*", "\\*", "\\*", "ns")
    )
    few <- data.frame(g = c("a", "a", "b", "c", "c"), y = c(1, 2, 5, 7, 7.5))
    drawn <- compared(panel(few, x = g, y = y, ink_points(), ink_contrasts()))
    expect_identical(nrow(drawn$table), 1L)
    expect_match(
      legend_text(drawn$fig),
      "2 pairs of too few or equal values not tested",
      fixed = TRUE
    )
    equal <- data.frame(g = rep(c("a", "b"), each = 3), y = 4)
    expect_null(compared(panel(equal, x = g, y = y, ink_points(), ink_contrasts()))$table)
    logged <- compared(panel(loaves, x = flour, y = log10(volume), ink_box(), ink_contrasts()))
    wheat <- loaves$data$volume[loaves$data$flour == "wheat"]
    spelt <- loaves$data$volume[loaves$data$flour == "spelt"]
    expect_equal(
      logged$table$p[logged$table$first == "Wheat" & logged$table$second == "Spelt"],
      stats::t.test(log10(spelt), log10(wheat))$p.value
    )
    expect_match(legend_text(logged$fig), "values as the axis shows them", fixed = TRUE)
  }
)

test_that("groups share a letter if and only if they do not differ", {
  set.seed(77)
  for (trial in 1:200) {
    n <- sample(2:7, 1)
    pairs <- t(utils::combn(n, 2))
    differs <- runif(nrow(pairs)) < runif(1)
    found <- strsplit(nelvat:::shared_letters(n, pairs, differs), "")
    expect_true(all(lengths(found) > 0))
    share <- apply(pairs, 1, function(of) length(intersect(found[[of[1]]], found[[of[2]]])) > 0)
    expect_identical(share, !differs)
  }
})

test_that("a figure file compares groups by the same words", {
  folder <- withr::local_tempdir()
  utils::write.csv(
    data.frame(g = rep(c("a", "b", "c"), each = 5), y = c(1:5, 4:8, 9:13)),
    file.path(folder, "t.csv"),
    row.names = FALSE
  )
  writeLines(
    c(
      "nelvat: 1", "data: {t: t.csv}",
      "blocks: {a: {panel: {data: t, x: g, y: y, ink: [box, {contrasts: {between: [[a, b], [a,",
      "    c]], test: student, adjust: none, show: stars}}]}}}",
      "plate: {place: a, width: 80, height: 80}"
    ),
    file.path(folder, "f.yaml")
  )
  table <- contrast_table(read_figure(file.path(folder, "f.yaml"))$plate)
  expect_identical(table$second, c("b", "c"))
  expect_equal(table$p[1], stats::t.test(4:8, 1:5, var.equal = TRUE)$p.value)
  expect_equal(table$adjusted, table$p)
})

days <- local({
  set.seed(5)
  own <- rnorm(14, 0, 6)
  table <- data.frame(
    baker = paste("b", rep(1:14, 3)),
    day = rep(c("one", "two", "three"), each = 14)
  )
  table$score <- 50 + rep(own, 3) + rep(c(0, 4, 6), each = 14) + rnorm(42, 0, 2.5)
  table[-c(3, 20), ]
})

test_that("paired tests are R's on the subjects that have both values", {
  of <- function(day) days[days$day == day, ]
  both <- merge(of("one"), of("two"), by = "baker")
  for (test in c("paired", "signed rank")) {
    fig <- plate(
      panel(
        days,
        x = day,
        y = score,
        ink_dots(),
        ink_contrasts(test = test, subject = baker, adjust = "none")
      ),
      width = 90,
      height = 80
    )
    got <- contrast_table(fig)
    one <- got[got$first == "one" & got$second == "two", ]
    right <- if (test == "paired") {
      stats::t.test(both$score.y, both$score.x, paired = TRUE)
    } else {
      stats::wilcox.test(both$score.y, both$score.x, paired = TRUE, conf.int = TRUE)
    }
    expect_equal(one$p, right$p.value, tolerance = 1e-10)
    expect_equal(c(one$low, one$high), as.numeric(right$conf.int), tolerance = 1e-10)
    expect_identical(one$n_first, nrow(both))
    expect_match(legend_text(fig), if (test == "paired") "paired t tests" else "signed rank tests")
  }
  draw <- function(...) {
    as_scene(
      plate(
        panel(days, x = day, y = score, ink_dots(), ink_contrasts(...)),
        width = 90,
        height = 80
      )
    )
  }
  expect_error(draw(test = "paired"), "needs `subject`", class = "nelvat_error_argument")
  expect_error(draw(subject = baker), "paired tests", class = "nelvat_error_argument")
  expect_error(
    draw(test = "paired", subject = day),
    "several in one group",
    class = "nelvat_error_argument"
  )
})

test_that(
  "overall tests are oneway.test() and kruskal.test(), written above the brackets and told",
  {
    loaves <- study("loaves")
    for (overall in c("anova", "welch anova", "kruskal")) {
      fig <- plate(
        panel(
          loaves,
          x = flour,
          y = rise,
          ink_box(),
          ink_contrasts(between = "rye", overall = overall)
        ),
        width = 90,
        height = 80
      )
      got <- contrast_table(fig)
      one <- got[got$first == "all groups", ]
      right <- if (overall == "kruskal") {
        stats::kruskal.test(rise ~ flour, loaves$data)
      } else {
        stats::oneway.test(rise ~ flour, loaves$data, var.equal = overall == "anova")
      }
      expect_equal(
        c(one$statistic, one$df_groups, one$p),
        unname(c(right$statistic, right$parameter[1], right$p.value)),
        tolerance = 1e-10
      )
      expect_identical(nrow(got), 4L)
      texts <- as_scene(fig)$texts
      words <- texts[grepl("ANOVA|Kruskal", texts$string), ]
      expect_true(
        all(words$y1 <= min(texts$y0[texts$role == "value" & grepl("^p", texts$string)]) + 0.01)
      )
      expect_match(legend_text(fig), "of all groups: [FH]\\(3")
    }
    alone <- plate(
      panel(
        loaves,
        x = flour,
        y = rise,
        ink_box(),
        ink_contrasts(between = "none", overall = "anova")
      ),
      width = 90,
      height = 80
    )
    expect_identical(contrast_table(alone)$first, "all groups")
    expect_error(
      as_scene(
        plate(
          panel(
            loaves,
            x = flour,
            y = rise,
            colour = hydration,
            ink_box(),
            ink_contrasts(overall = "anova")
          )
        )
      ),
      "colours are compared",
      class = "nelvat_error_argument"
    )
  }
)

test_that("Dunnett's p are those of his tables, of t for one group, and of simulation", {
  within <- nelvat:::dunnett_within
  # Two-sided critical values at 5 % for equal n (Dunnett 1964, Biometrics 20).
  for (case in list(c(2, 10, 2.57), c(3, 20, 2.54), c(5, 30, 2.66))) {
    expect_equal(1 - within(case[3], rep(sqrt(0.5), case[1]), case[2]), 0.05, tolerance = 0.02)
  }
  expect_equal(1 - within(2.1, sqrt(0.3), 12), 2 * stats::pt(-2.1, 12), tolerance = 1e-7)
  set.seed(2)
  values <- list(rnorm(8), rnorm(12, 1), rnorm(6, 0.5))
  n <- lengths(values)
  sums <- nelvat:::group_sums(unlist(values), rep(1:3, n), 3)
  got <- nelvat:::dunnett_pairs(sums, cbind(1, 2:3), 0.95)
  s <- sqrt(sum(vapply(values, function(v) sum((v - mean(v))^2), 0)) / 23)
  expect_equal(
    got$statistic[1],
    (mean(values[[2]]) - mean(values[[1]])) / (s * sqrt(1 / 12 + 1 / 8))
  )
  drawn <- replicate(20000, {
    means <- rnorm(3) / sqrt(n)
    max(abs(means[-1] - means[1]) / (sqrt(stats::rchisq(1, 23) / 23) * sqrt(1 / n[-1] + 1 / n[1])))
  })
  expect_equal(got$p[1], mean(drawn > abs(got$statistic[1])), tolerance = 0.1)
  expect_equal(
    (got$high - got$low)[1] / 2 / (s * sqrt(1 / 12 + 1 / 8)),
    unname(stats::quantile(drawn, 0.95)),
    tolerance = 0.03
  )
  expect_error(ink_contrasts(test = "dunnett"), "no level", class = "nelvat_error_argument")
})

test_that("a difference is shown with its interval, to the figures that it bears", {
  fig <- plate(
    panel(
      study("loaves"),
      x = flour,
      y = rise,
      ink_box(),
      ink_contrasts(between = list(c("wheat", "rye")), show = "difference")
    ),
    width = 90,
    height = 80
  )
  got <- contrast_table(fig)
  shown <- paste0(
    round(got$difference, 1),
    " (",
    sprintf("%.1f", got$low),
    " to ",
    sprintf("%.1f", got$high),
    ")"
  )
  expect_true(gsub("-", "\u2212", shown) %in% as_scene(fig)$texts$string)
  expect_match(legend_text(fig), "difference of means of the right group to the left one")
})

test_that("a difference is the right group less the left one, whichever is named first", {
  text <- function(between) {
    scene <- as_scene(
      plate(
        panel(
          study("loaves"),
          x = flour,
          y = rise,
          ink_box(),
          ink_contrasts(between = between, show = "difference")
        ),
        width = 90,
        height = 80
      )
    )
    scene$texts$string[scene$texts$role == "value"]
  }
  expect_identical(text(list(c("wheat", "rye"))), text(list(c("rye", "wheat"))))
  expect_match(text("rye")[1], "^\u2212|^[0-9]")
  # Rye, third from the left, rises least: what stands left of it is higher, what stands right too.
  signs <- text("rye")
  expect_identical(sum(startsWith(signs, "\u2212")), 2L)
})

test_that("ranks whose p is approximated are told", {
  tied <- data.frame(g = rep(c("a", "b"), each = 5), y = c(1, 1, 2, 3, 4, 2, 2, 3, 5, 6))
  apart <- transform(tied, y = c(1:5, 11:15))
  words <- function(table) {
    legend_text(
      plate(
        panel(table, x = g, y = y, ink_dots(), ink_contrasts(test = "rank sum")),
        width = 80,
        height = 70
      )
    )
  }
  expect_match(words(tied), "p by the normal approximation")
  expect_no_match(words(apart), "approximation")
})

test_that(
  "letters and brackets stand over the marks that are shown, not over values that are not",
  {
    loaves <- study("loaves")
    # How far a letter stands over its mean, in data units.
    over <- function(...) {
      scene <- as_scene(
        plate(panel(loaves, x = flour, y = rise, ..., ink_contrasts(show = "letters")), width = 80)
      )
      axis <- Find(function(axis) axis$direction == "y", scene$axes)
      area <- scene$panels[1, ]
      texts <- scene$texts[scene$texts$string %in% c("a", "b", "c", "d"), ]
      foot <- 1 - (pmax(texts$y0, texts$y1) - area$y) / area$h
      sort(axis$range[1] + foot * diff(axis$range))
    }
    rise <- split(loaves$data$rise, loaves$data$flour)
    upper <- function(f) sort(vapply(rise, f, 0))
    se <- function(v) mean(v) + stats::sd(v) / sqrt(length(v))
    for (inks in list(
      list(ink_bars(error = "se")),
      list(ink_centre(error = "se"), ink_rule(y = 40))
    )) {
      gap <- do.call(over, inks) - upper(se)
      expect_true(all(gap > 0 & gap < 4), label = paste(round(gap, 2), collapse = " "))
    }
    shown <- over(ink_bars(error = "se"), ink_dots()) - upper(max)
    expect_true(all(shown > 0 & shown < 6), label = paste(round(shown, 2), collapse = " "))
    # Bars downwards end at zero.
    below <- data.frame(g = rep(c("a", "b"), each = 6), v = -c(1:6, 11:16))
    scene <- as_scene(
      plate(
        panel(codebook(below), x = g, y = v, ink_bars(error = "se"), ink_contrasts()),
        width = 80
      )
    )
    bracket <- Find(
      function(layer) layer$primitive == "segments" && layer$ink == "contrasts",
      scene$marks
    )
    bars <- Find(function(layer) layer$primitive == "rects", scene$marks)
    expect_gt(min(bracket$table$y0), max(bars$table$y0, bars$table$y1) - 1e-9)
  }
)

test_that("lying groups are compared as upright ones, with brackets and letters at the right", {
  loaves <- study("loaves")
  compared <- function(upright, lying) {
    expect_equal(
      contrast_table(plate(upright, width = 120, height = 120)),
      contrast_table(plate(lying, width = 120, height = 120))
    )
  }
  for (show in c("p", "stars", "difference", "letters")) {
    compared(
      panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(show = show)),
      panel(loaves, x = rise, y = flour, ink_box(), ink_contrasts(show = show))
    )
  }
  compared(
    panel(loaves, x = flour, y = rise, colour = hydration, ink_bars(), ink_contrasts()),
    panel(loaves, x = rise, y = flour, colour = hydration, ink_bars(), ink_contrasts())
  )
  lying <- function(...) {
    as_scene(
      plate(
        panel(loaves, x = rise, y = flour, ink_box(), ink_contrasts(...)),
        width = 120,
        height = 90
      )
    )
  }
  # Brackets stand beyond all boxes and points of their span, within the panel.
  scene <- lying()
  brackets <- Find(
    function(layer) layer$primitive == "segments" && layer$ink == "contrasts",
    scene$marks
  )
  rest <- Filter(function(layer) layer$ink != "contrasts", scene$marks)
  reach <- max(
    unlist(lapply(rest, function(layer) layer$table[intersect(names(layer$table), c("x", "x1"))]))
  )
  expect_gt(max(brackets$table$x1), reach)
  expect_lte(max(brackets$table$x1), 1)
  area <- scene$panels[1, ]
  texts <- scene$texts[grepl("p|<", scene$texts$string) & scene$texts$role == "value", ]
  expect_true(all(texts$x1 <= area$x + area$w + 1e-6))
  # The first letter is at the top.
  scene <- lying(show = "letters")
  letters_shown <- scene$texts[scene$texts$role == "value", ]
  top <- letters_shown[which.min(letters_shown$y0), ]
  expect_identical(top$string, "a")
  expect_match(legend_text(lying(show = "difference")), "of the lower group to the upper one")
  told <- lying(overall = "anova")
  expect_match(legend_text(told), "one-way ANOVA")
  expect_false(any(grepl("ANOVA", told$texts$string)))
  # Sign: the lower one less the upper one.
  texts <- lying(show = "difference", between = list(c("wheat", "rye")))$texts
  means <- tapply(loaves$data$rise, loaves$data$flour, mean)
  difference <- means[["rye"]] - means[["wheat"]]
  expect_true(any(startsWith(texts$string, sub("-", "\u2212", sprintf("%.1f", difference)))))
  # No room is an error in terms of the width; a range that was asked stays.
  expect_error(
    as_scene(
      plate(
        panel(
          loaves,
          x = rise,
          y = flour,
          x_axis = axis_of(range = c(20, 90)),
          ink_box(),
          ink_contrasts()
        ),
        width = 80
      )
    ),
    "mm of width",
    class = "nelvat_error_labels"
  )
  expect_error(
    panel(loaves, x = rise, y = flour, colour = hydration, ink_contrasts(overall = "anova")),
    "categories on y",
    class = "nelvat_error_argument"
  )
})
