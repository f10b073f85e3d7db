# Ends, opacities, sizes and pairs of marks that a small slip would change.

set.seed(12)
two <- data.frame(
  v = rnorm(60, 10, 2),
  w = rnorm(60, 10, 2),
  g = rep(c("p", "q"), each = 30),
  x = runif(60),
  y = runif(60)
)

test_that("each panel of an agreement has its own three lines, from edge to edge", {
  scene <- as_scene(
    plate(facets(panel(two, ink_agreement(v, w)), across = g), width = 150, height = 70)
  )
  lines <- Filter(function(layer) layer$primitive == "lines", scene$marks)
  lines <- do.call(rbind, lapply(lines, `[[`, "table"))
  axis <- Filter(function(axis) axis$direction == "y", scene$axes)[[1]]$range
  for (i in 1:2) {
    own <- lines[lines$panel == scene$panels$id[i], ]
    difference <- with(two[two$g == c("p", "q")[i], ], v - w)
    expect_equal(as.numeric(tapply(own$x, own$line, diff)), rep(1, 3))
    expect_equal(
      sort(unique(round(axis[1] + own$y * diff(axis), 6))),
      round(mean(difference) + c(-1, 0, 1) * qnorm(0.975) * sd(difference), 6)
    )
    expect_identical(sort(unique(own$dash)), c("4 2", "solid"))
  }
})

test_that("contours ring 50, 80 and 95 % where nothing else is said", {
  expect_match(
    paste(
      legend_text(plate(panel(two, x = v, y = w, ink_contours()), width = 80, height = 60)),
      collapse = " "
    ),
    "50, 80 and 95\u00a0?.?%"
  )
})

test_that("the whole of one share is a circle without a seam", {
  scene <- as_scene(
    plate(
      panel(data.frame(part = "all", amount = 3), y = amount, colour = part, ink_pie()),
      width = 80,
      height = 60
    )
  )
  rim <- Filter(function(layer) layer$primitive == "areas", scene$marks)[[1]]$table
  from_middle <- sqrt(((rim$x - 0.5) * scene$panels$w)^2 + ((rim$y - 0.5) * scene$panels$h)^2)
  expect_gt(nrow(rim), 100)
  expect_equal(min(from_middle), max(from_middle), tolerance = 1e-9)
  expect_true("all 100%" %in% scene$texts$string)
})

test_that("a label far from its point is led to it, one beside it is not", {
  lone <- as_scene(
    plate(
      panel(
        data.frame(x = 1:2, y = 1:2, t = c("one", "two")),
        x = x,
        y = y,
        ink_points(),
        ink_labels(t)
      ),
      width = 80,
      height = 60
    )
  )
  leaders <- function(scene) {
    of <- Filter(
      function(layer) layer$ink == "labels" && layer$primitive == "segments" && nrow(layer$table),
      scene$marks
    )
    do.call(rbind, lapply(of, `[[`, "table"))
  }
  expect_null(leaders(lone))
  crowd <- data.frame(
    x = c(rep(5, 12) + (1:12) / 100, 0, 10),
    y = c(rep(5, 12) + (1:12) / 90, 0, 10),
    t = paste("label", 1:14)
  )
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(crowd, x = x, y = y, ink_points(), ink_labels(t, far = 20)),
        width = 90,
        height = 70
      )
    )
  )
  led <- leaders(scene)
  texts <- scene$texts[scene$texts$role == "point label", ]
  expect_identical(nrow(texts), 14L)
  expect_gt(nrow(led), 8)
  points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
  end_x <- scene$panels$x + led$x1 * scene$panels$w
  end_y <- scene$panels$y + (1 - led$y1) * scene$panels$h
  start_x <- scene$panels$x + led$x0 * scene$panels$w
  start_y <- scene$panels$y + (1 - led$y0) * scene$panels$h
  # How far a place is from the box of each label.
  away <- function(x, y) {
    sqrt(pmax(texts$x0 - x, x - texts$x1, 0)^2 + pmax(texts$y0 - y, y - texts$y1, 0)^2)
  }
  for (i in seq_len(nrow(led))) {
    # A leader starts at a point, ends just before its own label, and crosses none.
    expect_lt(min(abs(points$x - led$x0[i]) + abs(points$y - led$y0[i])), 1e-9)
    expect_lt(min(away(end_x[i], end_y[i])), 0.8)
    along <- vapply(
      seq(0, 1, length.out = 200),
      function(k) {
        min(
          away(start_x[i] + k * (end_x[i] - start_x[i]), start_y[i] + k * (end_y[i] - start_y[i]))
        )
      },
      0
    )
    expect_gt(min(along), 0)
  }
  # No two leaders cross beyond their symbols.
  side <- function(i, x, y) {
    (end_x[i] - start_x[i]) * (y - start_y[i]) - (end_y[i] - start_y[i]) * (x - start_x[i])
  }
  off <- function(i) {
    share <- 0.75 / sqrt((end_x[i] - start_x[i])^2 + (end_y[i] - start_y[i])^2)
    c(start_x[i] + share * (end_x[i] - start_x[i]), start_y[i] + share * (end_y[i] - start_y[i]))
  }
  crossed <- function(i, j) {
    side(i, off(j)[1], off(j)[2]) * side(i, end_x[j], end_y[j]) < 0 &&
      side(j, off(i)[1], off(i)[2]) * side(j, end_x[i], end_y[i]) < 0
  }
  pairs <- utils::combn(nrow(led), 2)
  expect_false(any(mapply(crossed, pairs[1, ], pairs[2, ])))
})

test_that("the line of no effect goes from edge to edge", {
  table <- data.frame(f = c("a", "b"), v = c(1, 2), l = c(0.5, 1.2), h = c(1.5, 3))
  scene <- as_scene(
    plate(panel(table, x = v, y = f, ink_estimate(l, h, line = 1)), width = 80, height = 50)
  )
  line <- Filter(function(layer) layer$primitive == "segments", scene$marks)[[1]]$table
  expect_equal(unlist(line[1, c("y0", "y1")], use.names = FALSE), c(0, 1))
  axis <- Filter(function(axis) axis$direction == "x", scene$axes)[[1]]$range
  expect_equal(axis[1] + line$x0[1] * diff(axis), 1)
})

test_that("a series is regular to a millionth of its step, and a gap in it is left open", {
  at <- cumsum(c(0, rep(1e6, 9), 3e6, rep(1e6, 6)) + rep_len(c(0.1, -0.1), 17))
  lines <- drawn_marks(
    panel(data.frame(x = at, y = seq_along(at)), x = x, y = y, ink_line()),
    "lines"
  )
  expect_identical(length(unique(lines$line)), 2L)
  expect_identical(as.integer(table(lines$line)), c(10L, 7L))
  even <- drawn_marks(panel(data.frame(x = at[1:10], y = 1:10), x = x, y = y, ink_line()), "lines")
  expect_identical(length(unique(even$line)), 1L)
})

test_that("a value alone between gaps is a dot of twice the line's width, 0.6 mm at least", {
  table <- data.frame(x = 1:5, y = c(1, 2, NA, 4, NA))
  for (weight in c(0.5, 3)) {
    dots <- suppressWarnings(
      drawn_marks(panel(table, x = x, y = y, missing = "gap", ink_line(weight = weight)), "points")
    )
    expect_equal(dots$x, 4, tolerance = 1e-9)
    expect_equal(dots$size_mm, max(0.6, 2 * weight * 25.4 / 72), tolerance = 1e-6)
  }
})

test_that("the line of quantiles goes through the quartiles, cut at the panel's edges", {
  skewed <- data.frame(v = rexp(80))
  line <- drawn_marks(panel(skewed, y = v, ink_quantiles()), "segments")
  at <- qnorm(c(0.25, 0.75))
  of <- quantile(skewed$v, c(0.25, 0.75), names = FALSE)
  slope <- diff(of) / diff(at)
  expect_equal(c(line$y0, line$y1), of[1] + slope * (c(line$x0, line$x1) - at[1]), tolerance = 1e-6)
  range <- attr(line, "range")
  # Each end is at an edge: the left or the lower, the right or the upper.
  expect_equal(min(line$x0 - range$x[1], line$y0 - range$y[1]), 0, tolerance = 1e-6)
  expect_equal(min(range$x[2] - line$x1, range$y[2] - line$y1), 0, tolerance = 1e-6)
  expect_gt(line$x1, line$x0)
  cut <- nelvat:::clipped_line(c(-1, 0.2, 2, 0.5), c(1, 0.4, -2, 0.5))
  expect_equal(cut$x0, c(0.5, 0, 0.25, 0))
  expect_equal(cut$x1, c(1, 1, 0.5, 1))
  expect_equal(cut$y0, c(0, 0.2, 1, 0.5))
  expect_equal(cut$y1, c(1, 0.4, 0, 0.5))
})

test_that("histograms over each other let each other through, one alone is solid", {
  over <- drawn_marks(panel(two, x = v, colour = g, ink_histogram(arrange = "overlay")), "rects")
  alone <- drawn_marks(panel(two, x = v, ink_histogram()), "rects")
  expect_lt(max(over$opacity), 0.7)
  expect_equal(unique(alone$opacity), 1)
})

test_that("neighbours are each level and the next, all are each pair once", {
  four <- data.frame(f = factor(rep(letters[1:4], each = 6)), v = rnorm(24))
  pairs <- function(between) {
    found <- contrast_table(
      plate(
        panel(four, x = f, y = v, ink_box(), ink_contrasts(between = between)),
        width = 90,
        height = 80
      )
    )
    sort(paste(found$first, found$second))
  }
  expect_identical(pairs("neighbours"), c("a b", "b c", "c d"))
  expect_identical(
    pairs("all"),
    sort(apply(utils::combn(letters[1:4], 2), 2, paste, collapse = " "))
  )
})

test_that(
  "an equation has as many figures as leave it within a hundredth of what the curve spans",
  {
    digits <- function(estimate) attr(nelvat:::told_coefficients(estimate, c(0, 50, 100)), "digits")
    expect_identical(digits(c(1000.9, 1)), 3L)
    expect_identical(digits(c(1001.1, 1)), 4L)
    # Nought but for rounding is nought.
    expect_identical(as.numeric(nelvat:::told_coefficients(c(1e-12, 2), c(0, 50, 100))), c(0, 2))
  }
)

test_that("places over a rectangle and along a line cover all of it evenly", {
  over <- nelvat:::over_rects(data.frame(x0 = c(0, 5), x1 = c(1, 6), y0 = c(2, 0), y1 = c(4, 1)))
  expect_identical(length(over$x), 50L)
  expect_equal(sort(unique(over$x)), c(0:4 / 4, 5 + 0:4 / 4))
  expect_equal(sort(unique(over$y[1:25])), 2 + 0:4 / 2)
  along <- nelvat:::between_points(c(0, 1, 1), c(0, 0, 0.5), c(1, 1, 1))
  first <- sort(along$x[along$y == 0])
  expect_equal(diff(first), rep(first[2] - first[1], length(first) - 1))
  expect_lte(first[2] - first[1], 0.02 + 1e-9)
  expect_equal(max(diff(sort(along$y[along$x == 1]))), 0.02, tolerance = 1e-6)
  # Not from one path to the next.
  expect_identical(length(nelvat:::between_points(c(0, 1), c(0, 1), c(1, 2))$x), 2L)
})

test_that("texts of narrow brackets stand clear of each other, letters within the panel", {
  five <- data.frame(
    f = factor(rep(letters[1:5], each = 6)),
    v = rnorm(30) + rep(0:4, each = 6) * 2
  )
  scene <- as_scene(
    plate(
      panel(five, x = f, y = v, ink_box(), ink_contrasts(between = "neighbours")),
      width = 60,
      height = 80
    )
  )
  expect_identical(scene_faults(scene), NULL)
  values <- scene$texts[grepl("p [<=]", gsub("*", "", scene$texts$string, fixed = TRUE)), ]
  expect_identical(nrow(values), 4L)
  lettered <- as_scene(
    plate(
      panel(five, x = f, y = v, ink_box(), ink_contrasts(show = "letters")),
      width = 60,
      height = 60
    )
  )
  expect_identical(scene_faults(lettered), NULL)
  above <- lettered$texts[
    lettered$texts$string %in% c("a", "b", "c", "d", "e", "ab", "bc", "cd", "de") &
      lettered$texts$y1 < lettered$panels$y + lettered$panels$h,
  ]
  expect_gte(nrow(above), 5)
  expect_gte(min(above$y0), lettered$panels$y - 0.01)
})

test_that("a median is twice as heavy as its box's whiskers", {
  lines <- Filter(
    function(layer) layer$primitive == "segments",
    as_scene(plate(panel(two, x = g, y = v, ink_box()), width = 70, height = 60))$marks
  )
  expect_equal(lines[[2]]$table$weight_pt, 2 * lines[[1]]$table$weight_pt[1:2])
})

test_that("ticks of the quantities of a view stand beside their edges, x right and y left", {
  scene <- as_scene(plate(panel(two, x = v, y = w, ink_depth(z = x)), width = 110, height = 90))
  edges <- Filter(function(layer) layer$primitive == "segments", scene$marks)
  ticks <- edges[[3]]$table
  texts <- scene$texts[scene$texts$role == "tick" & grepl("^[0-9.]+$", scene$texts$string), ]
  expect_identical(nrow(ticks), nrow(texts))
  ends <- data.frame(
    x = scene$panels$x + ticks$x1 * scene$panels$w,
    y = scene$panels$y + (1 - ticks$y1) * scene$panels$h
  )
  left <- ticks$x1 < ticks$x0
  # Each text begins or ends within a millimetre of its tick, on the tick's side.
  for (i in seq_len(nrow(ticks))) {
    near <- abs(if (left[i]) texts$x1 - ends$x[i] else texts$x0 - ends$x[i])
    down <- pmax(texts$y0 - ends$y[i], ends$y[i] - texts$y1, 0)
    expect_lt(min(near + down), 1.2)
  }
  long <- sqrt(
    ((ticks$x1 - ticks$x0) * scene$panels$w)^2 + ((ticks$y1 - ticks$y0) * scene$panels$h)^2
  )
  expect_equal(long, rep(1, length(long)), tolerance = 1e-6)
})

test_that("cells that count alike are shaded alike in both of two blocks", {
  table <- data.frame(x = rnorm(900), y = rnorm(900), part = rep(c("few", "many", "many"), 300))
  cells <- function(what) panel(table, x = x, y = y, keep = part == !!what, ink_hexagons(bins = 12))
  scene <- as_scene(plate(cells("few"), cells("many")))
  shades <- lapply(1:2, function(i) {
    own <- scene$panels[i, ]
    areas <- Filter(function(layer) layer$ink == "hexagons", scene$marks)[[i]]$table
    middle <- aggregate(cbind(x, y) ~ area, areas, mean)
    ranges <- lapply(Filter(function(axis) own$id %in% axis$panels, scene$axes), `[[`, "range")
    points <- table[table$part == c("few", "many")[i], ]
    at_x <- (points$x - ranges[[1]][1]) / diff(ranges[[1]])
    at_y <- (points$y - ranges[[2]][1]) / diff(ranges[[2]])
    near <- mapply(
      function(x, y) which.min(((middle$x - x) * own$w)^2 + ((middle$y - y) * own$h)^2),
      at_x,
      at_y
    )
    tapply(
      areas$fill[match(middle$area, areas$area)],
      tabulate(near, nrow(middle)),
      function(one) paste(unique(one), collapse = " ")
    )
  })
  common <- intersect(names(shades[[1]]), names(shades[[2]]))
  expect_gt(length(common), 3)
  expect_identical(as.character(shades[[1]][common]), as.character(shades[[2]][common]))
  expect_gt(length(unique(shades[[2]])), 2)
})

test_that("crowded points cover three tenths of their panel, or are a third of their size", {
  for (n in c(1500, 4000, 60000)) {
    many <- data.frame(x = runif(n), y = runif(n))
    scene <- suppressMessages(
      suppressWarnings(
        as_scene(plate(panel(many, x = x, y = y, ink_points()), width = 80, height = 60))
      )
    )
    size <- unique(
      Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table$size_mm
    )
    fitting <- sqrt(0.3 * scene$panels$w * scene$panels$h * 4 / pi / n)
    expect_equal(size, min(1.5, max(0.5, fitting)), tolerance = 0.011)
  }
})

test_that("rules count what lies beyond them, and write it where no mark stands", {
  aromas <- study("aromas")$data
  fig <- plate(
    panel(
      study("aromas"),
      x = change,
      y = -log10(p),
      ink_points(),
      ink_rule(x = c(-1, 1), y = 1.3, count = TRUE)
    ),
    width = 86,
    height = 70
  )
  beyond <- c(
    sum(aromas$change < -1 & -log10(aromas$p) > 1.3, na.rm = TRUE),
    sum(aromas$change > 1 & -log10(aromas$p) > 1.3, na.rm = TRUE)
  )
  scene <- as_scene(fig)
  written <- scene$texts[scene$texts$role == "value", ]
  expect_setequal(written$string, as.character(beyond))
  rows <- source_data(fig)[[1]]
  rows <- rows[rows$part == "rule", ]
  expect_identical(as.integer(rows$n), as.integer(beyond))
  expect_identical(rows$to[1], -1)
  expect_identical(rows$from[2], 1)
  expect_identical(nrow(nelvat:::touching_texts(scene)), 0L)
  found <- proof(fig)
  expect_identical(found$verdict[found$rule == "texts over data"], "good")
  expect_match(legend_text(scene), "how many values lie beyond them")
  # In facets, on axes that run the other way, and on one axis only.
  loaves <- study("loaves")
  each <- plate(
    facets(
      panel(loaves, x = reverse(rise), y = firmness, ink_points(), ink_rule(x = 55, count = TRUE)),
      across = flour
    ),
    width = 176,
    height = 60
  )
  tables <- Filter(is.data.frame, suppressWarnings(source_data(each)))
  for (flour in unique(as.character(loaves$data$flour))) {
    name <- loaves$columns$flour$level_names[match(flour, loaves$columns$flour$levels)]
    rows <- tables[[grep(name, names(tables), fixed = TRUE)]]
    rows <- rows[rows$part == "rule", ]
    own <- loaves$data[loaves$data$flour == flour & !is.na(loaves$data$firmness), ]
    expect_identical(
      as.integer(rows$n),
      c(sum(own$rise < 55, na.rm = TRUE), sum(own$rise > 55, na.rm = TRUE))
    )
  }
  # A row that lacks one of its places is not drawn, and not counted.
  lacking <- data.frame(x = c(1, 2, NA, 3), y = c(1, 5, 6, NA))
  one <- plate(
    panel(lacking, x = x, y = y, ink_points(), ink_rule(y = 3, count = TRUE)),
    width = 60
  )
  rows <- suppressWarnings(source_data(one))[[1]]
  expect_identical(rows$n[rows$part == "rule"], 1L)
  expect_error(
    panel(loaves, x = rise, y = firmness, ink_rule(slope = 1, count = TRUE)),
    "slope only",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(loaves, x = flour, y = firmness, ink_box(), ink_rule(x = "rye", count = TRUE)),
    class = "nelvat_error_kind"
  )
})

test_that("lines and points stand where marks of their colour stand in the slot", {
  loaves <- study("loaves")
  marks_of <- function(..., width = 150) {
    as_scene(
      plate(panel(loaves, ..., x = flour, y = rise, colour = hydration), width = width)
    )$marks
  }
  middle <- function(bars) (bars$x0 + bars$x1) / 2
  of <- function(marks, type) Find(function(layer) layer$primitive == type, marks)$table
  marks <- marks_of(ink_bars(), ink_points())
  bars <- of(marks, "rects")
  points <- of(marks, "points")
  expect_setequal(round(points$x, 9), round(middle(bars), 9))
  # Each in the bar of its own colour.
  own <- vapply(
    seq_len(nrow(points)),
    function(i) bars$fill[which.min(abs(middle(bars) - points$x[i]))] == points$colour[i],
    NA
  )
  expect_true(all(own))
  marks <- marks_of(ink_line(centre = "mean", band = "none"), ink_centre())
  expect_setequal(round(of(marks, "lines")$x, 9), round(of(marks, "points")$x, 9))
  # Without marks side by side all stand at the tick.
  alone <- of(marks_of(ink_line(centre = "mean", band = "none")), "lines")
  expect_identical(length(unique(round(alone$x, 9))), 4L)
  lying <- as_scene(
    plate(
      panel(loaves, x = rise, y = flour, colour = hydration, ink_points(), ink_box()),
      width = 150
    )
  )$marks
  expect_identical(length(unique(round(of(lying, "points")$y, 9))), 12L)
  # Labels stay at their points.
  named <- ink_labels(loaf, rank = rise, most = 4, move = FALSE)
  scene <- as_scene(
    plate(
      panel(loaves, x = flour, y = rise, colour = hydration, ink_points(), ink_box(), named),
      width = 150
    )
  )
  words <- scene$texts[scene$texts$role == "point label", ]
  expect_gte(nrow(words), 4)
  at <- scene$panels$x + of(scene$marks, "points")$x * scene$panels$w
  off <- vapply(
    seq_len(nrow(words)),
    function(i) min(abs(c(outer(at, c(words$x0[i], words$x1[i]), `-`)))),
    0
  )
  expect_lt(max(off), 2)
  median_line <- plate(panel(loaves, x = flour, y = rise, ink_line(centre = "median")), width = 86)
  expect_match(legend_text(median_line), "a median")
})

test_that("dots and lines of single values are seen on bars of their colour", {
  loaves <- study("loaves")
  drawn <- function(...) {
    figure <- plate(panel(loaves, x = flour, y = rise, group = bakery, ...), width = 100)
    suppressWarnings(as_scene(figure))$marks
  }
  of <- function(marks, type) Find(function(layer) layer$primitive == type, marks)$table
  dots <- drawn(ink_bars(), ink_dots())
  expect_identical(unique(of(dots, "points")$edge), "#FFFFFF")
  expect_null(of(drawn(ink_box(), ink_dots()), "points")$edge)
  lines <- of(drawn(ink_bars(), ink_line(centre = "mean", band = "none")), "lines")
  bars <- of(dots, "rects")
  expect_false(any(lines$colour %in% bars$fill))
  # Dots are strewn no wider than their bar.
  middle <- (bars$x0 + bars$x1) / 2
  off <- vapply(of(dots, "points")$x, function(x) min(abs(x - middle)), 0)
  expect_lte(max(off), max(bars$x1 - bars$x0) / 2 + 1e-9)
})
