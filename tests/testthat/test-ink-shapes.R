# Marks of inks that have a shape or a text of their own, each worked out from the data by other
# means.

set.seed(3)
cloud <- data.frame(
  x = round(rnorm(300, 50, 8), 2),
  y = round(rnorm(300, 5, 1), 3),
  g = factor(rep(c("new", "old", "new"), 100))
)
series <- data.frame(
  x = rep(1:5, each = 6),
  y = round(rgamma(30, 4), 3),
  g = factor(rep(c("s", "t"), 15), c("s", "t"))
)
by_x <- function(values, how, of = series$x) as.numeric(tapply(values, of, how))

test_that("a mean line has each x's mean, its band that which it says", {
  limits <- list(
    sd = function(v) mean(v) + c(-1, 1) * sd(v),
    se = function(v) mean(v) + c(-1, 1) * sd(v) / sqrt(length(v)),
    ci = function(v) t.test(v)$conf.int[1:2],
    range = range
  )
  for (band in names(limits)) {
    block <- panel(series, x = x, y = y, ink_line(centre = "mean", band = band))
    expect_equal(drawn_marks(block, "lines")$y, by_x(series$y, mean), tolerance = 1e-9)
    edge <- drawn_marks(block, "areas")
    ends <- vapply(split(series$y, series$x), limits[[band]], c(0, 0))
    expect_equal(
      as.numeric(tapply(edge$y, round(edge$x), min)),
      unname(ends[1, ]),
      tolerance = 1e-9,
      info = band
    )
    expect_equal(
      as.numeric(tapply(edge$y, round(edge$x), max)),
      unname(ends[2, ]),
      tolerance = 1e-9,
      info = band
    )
  }
  middle <- panel(series, x = x, y = y, ink_line(centre = "median", band = "quartiles"))
  expect_equal(drawn_marks(middle, "lines")$y, by_x(series$y, median), tolerance = 1e-9)
  edge <- drawn_marks(middle, "areas")
  expect_equal(
    as.numeric(tapply(edge$y, round(edge$x), max)),
    by_x(series$y, function(v) quantile(v, 0.75, names = FALSE)),
    tolerance = 1e-9
  )
})

test_that("series of a line are told apart, and each stands so much above the one before", {
  plain <- drawn_marks(panel(series, x = x, y = y, colour = g, ink_line(centre = "mean")), "lines")
  raised <- drawn_marks(
    panel(series, x = x, y = y, colour = g, ink_line(centre = "mean", stagger = 20)),
    "lines"
  )
  means <- tapply(series$y, list(series$x, series$g), mean)
  for (lines in list(plain, raised)) {
    expect_identical(rle(lines$colour)$lengths, c(5L, 5L))
    expect_equal(lines$x, rep(1:5, 2), tolerance = 1e-9)
  }
  expect_equal(plain$y, as.numeric(means), tolerance = 1e-9)
  expect_equal(raised$y, as.numeric(means) + rep(c(0, 20), each = 5), tolerance = 1e-9)
})

test_that("steps hold a value until the next", {
  steps <- drawn_marks(
    panel(data.frame(x = c(1, 2, 4), y = c(5, 7, 6)), x = x, y = y, ink_step()),
    "lines"
  )
  expect_equal(steps$x, c(1, 2, 2, 4, 4), tolerance = 1e-9)
  expect_equal(steps$y, c(5, 5, 7, 7, 6), tolerance = 1e-9)
})

test_that("hexagons stand where points lie nearest, darker the more there are", {
  cells <- drawn_marks(panel(cloud, x = x, y = y, ink_hexagons(bins = 12)), "areas")
  mm <- attr(cells, "mm") / vapply(attr(cells, "range"), diff, 0)
  middle <- aggregate(cbind(x, y) ~ area, cells, mean)
  near <- apply(cbind(cloud$x, cloud$y), 1, function(point) {
    which.min(((middle$x - point[1]) * mm[["x"]])^2 + ((middle$y - point[2]) * mm[["y"]])^2)
  })
  n <- tabulate(near, nrow(middle))
  expect_true(all(n > 0))
  expect_equal(sum(n), 300)
  fill <- cells$fill[match(middle$area, cells$area)]
  light <- colMeans(grDevices::col2rgb(fill))
  expect_true(all(tapply(light, n, function(v) diff(range(v))) == 0))
  expect_false(is.unsorted(-as.numeric(tapply(light, n, mean))))
})

test_that("rectangles hold the points that lie in them, darker the more there are", {
  cells <- drawn_marks(panel(cloud, x = x, y = y, ink_bins(bins = c(9, 7))), "rects")
  n <- mapply(
    function(x0, x1, y0, y1) {
      sum(cloud$x >= x0 - 1e-9 & cloud$x < x1 - 1e-9 & cloud$y >= y0 - 1e-9 & cloud$y < y1 - 1e-9)
    },
    cells$x0,
    cells$x1,
    cells$y0,
    cells$y1
  )
  expect_equal(sum(n), 300)
  expect_true(all(n > 0))
  expect_equal(unique(round(9 * (cells$x1 - cells$x0) / diff(attr(cells, "range")$x), 6)), 1)
  expect_equal(unique(round(7 * (cells$y1 - cells$y0) / diff(attr(cells, "range")$y), 6)), 1)
  light <- colMeans(grDevices::col2rgb(cells$fill))
  expect_false(is.unsorted(-as.numeric(tapply(light, n, mean))))
})

test_that("contours ring about the share of the points that they say", {
  inside <- function(px, py, ring) {
    x <- ring$x
    y <- ring$y
    j <- c(length(x), seq_len(length(x) - 1))
    crossed <- (y > py) != (y[j] > py) & px < (x[j] - x) * (py - y) / (y[j] - y) + x
    sum(crossed) %% 2 == 1
  }
  for (share in c(0.5, 0.8)) {
    rings <- drawn_marks(panel(cloud, x = x, y = y, ink_contours(shares = share)), "lines")
    held <- mapply(
      function(px, py) {
        any(vapply(split(rings, rings$line), function(ring) inside(px, py, ring), NA))
      },
      cloud$x,
      cloud$y
    )
    expect_lte(abs(sum(held) - 300 * share), 2)
  }
})

test_that("whiskers reach as far as is said, what lies beyond are points, notches are McGill's", {
  v <- c(1:20, 60)
  table <- data.frame(f = "a", v = v)
  reach <- function(...) {
    lines <- drawn_marks(panel(table, x = f, y = v, ink_box(...)), "segments")
    upright <- lines[abs(lines$x0 - lines$x1) < 1e-9, ]
    range(upright$y0, upright$y1)
  }
  expect_equal(reach("range"), c(1, 60), tolerance = 1e-9)
  expect_equal(reach(c(0.05, 0.95)), quantile(v, c(0.05, 0.95), names = FALSE), tolerance = 1e-9)
  expect_equal(reach(1.5), c(1, 20), tolerance = 1e-9)
  expect_equal(reach(5), c(1, 60), tolerance = 1e-9)
  expect_equal(
    drawn_marks(panel(table, x = f, y = v, ink_box()), "points")$y,
    60,
    tolerance = 1e-9
  )
  notched <- drawn_marks(panel(table, x = f, y = v, ink_box(notch = TRUE)), "areas")
  half <- 1.58 * diff(quantile(v, c(0.25, 0.75), names = FALSE)) / sqrt(21)
  for (end in 11 + c(-1, 1) * half) expect_lt(min(abs(notched$y - end)), 1e-6)
  # Narrowest at the median.
  width <- tapply(notched$x, round(notched$y, 6), function(x) diff(range(x)))
  expect_equal(as.numeric(names(which.min(width))), 11)
})

test_that("a violin has a bar between its quartiles and a dot at its median", {
  block <- panel(series, x = g, y = y, ink_violin())
  quartile <- function(share) as.numeric(tapply(series$y, series$g, quantile, share, names = FALSE))
  bars <- drawn_marks(block, "segments")
  expect_equal(bars$y0[order(bars$x0)], quartile(0.25), tolerance = 1e-9)
  expect_equal(bars$y1[order(bars$x0)], quartile(0.75), tolerance = 1e-9)
  dots <- drawn_marks(block, "points")
  expect_equal(dots$y[order(dots$x)], quartile(0.5), tolerance = 1e-9)
  expect_equal(sort(dots$x), 1:2, tolerance = 1e-9)
})

test_that(
  "bars stand side by side in the order of levels, as shares of one hundred, or over each other",
  {
    of <- function(arrange) {
      drawn_marks(panel(series, x = factor(x), colour = g, ink_bars(arrange = arrange)), "rects")
    }
    counts <- table(series$g, series$x)
    beside <- of("side")
    beside <- beside[order(beside$x0), ]
    expect_equal(beside$y1, as.numeric(counts))
    expect_identical(beside$fill, rep(beside$fill[1:2], 5))
    expect_true(all(diff(beside$x0) > 0) && all(beside$x1[-10] <= beside$x0[-1] + 1e-9))
    shares <- of("share")
    for (i in 1:5) {
      own <- shares[round((shares$x0 + shares$x1) / 2) == i, ]
      expect_equal(max(own$y1) - min(own$y0), if (max(own$y1) > 2) 100 else 1, tolerance = 1e-9)
      whole <- max(own$y1)
      expect_equal(
        sort((own$y1 - own$y0) / whole),
        sort(as.numeric(counts[, i] / sum(counts[, i]))),
        tolerance = 1e-9
      )
    }
    over <- of("overlay")
    expect_equal(unique(over$y0), 0)
    expect_equal(sort(over$y1), sort(as.numeric(counts)))
  }
)

test_that("what a bar or a tile says is its value, at its end or in its middle", {
  table <- data.frame(f = c("a", "b", "c"), v = c(3, 12, 7.5))
  block <- panel(table, x = f, y = v, ink_bars(centre = "mean", values = TRUE))
  bars <- drawn_marks(block, "rects")
  scene <- attr(bars, "scene")
  texts <- scene$texts[scene$texts$role == "value", ]
  texts <- texts[order(texts$x0), ]
  expect_identical(texts$string, c("3", "12", "7.5"))
  top_mm <- scene$panels$y +
    (1 - bars$y1[order(bars$x0)] / attr(bars, "range")$y[2]) * scene$panels$h
  expect_true(all(texts$y1 <= top_mm + 0.01 & texts$y1 > top_mm - 3))
  cells <- expand.grid(a = factor(c("p", "q")), b = factor(c("u", "v", "w")))
  cells$v <- c(1, 4, 9, 16, 25, 36)
  tiles <- drawn_marks(panel(cells, x = a, y = b, colour = v, ink_tiles()), "rects")
  scene <- attr(tiles, "scene")
  texts <- scene$texts[scene$texts$role == "value", ]
  column <- round(((texts$x0 + texts$x1) / 2 - scene$panels$x) / scene$panels$w * 2 + 0.5)
  row <- round(((texts$y0 + texts$y1) / 2 - scene$panels$y) / scene$panels$h * 3 + 0.5)
  expect_equal(
    as.numeric(texts$string),
    cells$v[match(paste(column, row), paste(as.integer(cells$a), as.integer(cells$b)))]
  )
  light <- colMeans(grDevices::col2rgb(tiles$fill))
  at <- paste(round((tiles$x0 + tiles$x1) / 2), abs(round((tiles$y0 + tiles$y1) / 2)))
  values <- cells$v[match(at, paste(as.integer(cells$a), as.integer(cells$b)))]
  expect_equal(abs(cor(light, values, method = "spearman")), 1)
})

test_that("histograms count each group, one on the other or over it, as counts or densities", {
  width <- 4
  of <- function(...) {
    drawn_marks(panel(cloud, x = x, colour = g, ink_histogram(width = width, ...)), "rects")
  }
  parts <- split(cloud$x, cloud$g)
  over <- of(arrange = "overlay")
  expect_equal(unique(over$y0), 0)
  stacked <- of(arrange = "stack")
  expect_equal(sum(stacked$y1 - stacked$y0), 300)
  highest <- tapply(stacked$y1, round(stacked$x0, 6), max)
  edges <- sort(unique(round(c(stacked$x0, stacked$x1), 6)))
  expect_equal(
    as.numeric(highest),
    as.numeric(hist(cloud$x, edges, plot = FALSE)$counts[match(as.numeric(names(highest)), edges)])
  )
  dense <- of(arrange = "overlay", scale = "density")
  for (fill in unique(dense$fill)) {
    expect_equal(sum((dense$y1 * (dense$x1 - dense$x0))[dense$fill == fill]), 1, tolerance = 1e-9)
  }
  for (i in 1:2) {
    own <- over[over$fill == unique(over$fill)[i], ]
    expect_equal(sum(own$y1), length(parts[[i]]))
  }
  # An outline goes from the ground up, along its bins, and down again.
  lines <- drawn_marks(
    panel(cloud, x = x, colour = g, ink_histogram(width = width, arrange = "outline")),
    "lines"
  )
  for (i in unique(lines$line)) {
    own <- lines[lines$line == i, ]
    edges <- unique(round(own$x, 6))
    counts <- hist(parts[[i]], edges, plot = FALSE)$counts
    expect_equal(own$y, c(0, rep(counts, each = 2), 0), tolerance = 1e-9)
    expect_equal(own$x, rep(edges, each = 2), tolerance = 1e-6)
  }
  curve <- drawn_marks(panel(cloud, x = x, ink_histogram(width = width, curve = TRUE)), "lines")
  by_r <- density(cloud$x)
  expect_equal(max(curve$y), max(by_r$y) * 300 * width, tolerance = 0.02)
})

test_that(
  "a note, an arrow, a region, a line and a shade stand at the places said, on a log axis too",
  {
    table <- data.frame(x = c(1, 1000), y = c(0, 10))
    of <- function(ink, primitive) {
      drawn_marks(panel(table, x = log10(x), y = y, ink_points(), ink), primitive, ink$ink)
    }
    arrow <- of(ink_arrow(from = c(10, 2), to = c(100, 8)), "segments")
    expect_equal(c(arrow$x0, arrow$y0), c(1, 2), tolerance = 1e-9)
    head <- of(ink_arrow(from = c(10, 2), to = c(100, 8)), "areas")
    # Its tip is the middle corner, the others lie behind it, as far from it each.
    expect_equal(c(head$x[2], head$y[2]), c(2, 8), tolerance = 1e-9)
    mm <- attr(head, "mm") / vapply(attr(head, "range"), diff, 0)
    wings <- sqrt(((head$x - 2) * mm[["x"]])^2 + ((head$y - 8) * mm[["y"]])^2)[c(1, 3)]
    expect_equal(wings[1], wings[2], tolerance = 1e-9)
    expect_lt(max(head$x[c(1, 3)]), 2)
    expect_equal(
      c(arrow$x1, arrow$y1),
      c(mean(head$x[c(1, 3)]), mean(head$y[c(1, 3)])),
      tolerance = 1e-9
    )
    region <- of(ink_region(x = c(10, 100), y = c(3, 6)), "rects")
    expect_equal(
      unlist(region[c("x0", "x1", "y0", "y1")], use.names = FALSE),
      c(1, 2, 3, 6),
      tolerance = 1e-9
    )
    shade <- of(ink_shade(x = c(10, 100)), "rects")
    expect_equal(c(shade$x0, shade$x1), c(1, 2), tolerance = 1e-9)
    expect_equal(c(shade$y0, shade$y1), attr(shade, "range")$y, tolerance = 1e-9)
    rule <- of(ink_rule(x = 10), "segments")
    expect_equal(c(rule$x0, rule$x1), c(1, 1), tolerance = 1e-9)
    expect_equal(sort(c(rule$y0, rule$y1)), attr(rule, "range")$y, tolerance = 1e-9)
  }
)

test_that(
  "sectors of a circle go clockwise from the top in the order of levels, each with its share",
  {
    table <- data.frame(part = factor(c("p", "q", "r"), c("p", "q", "r")), amount = c(5, 3, 2))
    scene <- as_scene(
      plate(panel(table, y = amount, colour = part, ink_pie()), width = 100, height = 60)
    )
    sector <- Filter(function(layer) layer$primitive == "areas", scene$marks)[[1]]$table
    mm <- data.frame(
      area = sector$area,
      x = (sector$x - 0.5) * scene$panels$w,
      y = (sector$y - 0.5) * scene$panels$h
    )
    rim <- mm[mm$x^2 + mm$y^2 > 1, ]
    # Degrees clockwise from the top.
    turn <- round((90 - atan2(rim$y, rim$x) * 180 / pi) %% 360, 6)
    ends <- lapply(split(turn, rim$area), range)
    expect_equal(ends[["1"]], c(0, 180))
    expect_equal(ends[["2"]], c(180, 288))
    expect_equal(min(turn[rim$area == 3 & turn > 0]), 288)
    labels <- scene$texts[scene$texts$role == "share", ]
    expect_setequal(labels$string, c("p 50%", "q 30%", "r 20%"))
    spot <- function(name) labels[startsWith(labels$string, name), ]
    centre <- scene$panels$x + scene$panels$w / 2
    expect_gt(spot("p")$x0, centre)
    expect_lt(spot("q")$x1, centre)
    expect_lt(spot("r")$y0, spot("q")$y0)
  }
)

test_that("points in depth are a parallel projection, the nearer the larger", {
  table <- expand.grid(x = 0:3, y = c(10, 20, 30), z = c(100, 300, 700))
  unit <- function(v) (v - mean(range(v))) / diff(range(v))
  a <- 30 * pi / 180
  e <- 20 * pi / 180
  away <- unit(table$x) * sin(a) + unit(table$y) * cos(a)
  across <- unit(table$x) * cos(a) - unit(table$y) * sin(a)
  up <- unit(table$z) * cos(e) + away * sin(e)
  limited <- c()
  for (size in list(c(70, 110), c(150, 60))) {
    scene <- as_scene(
      plate(
        panel(table, x = x, y = y, ink_depth(z = z, angle = 30, rise = 20)),
        width = size[1],
        height = size[2]
      )
    )
    points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
    mm <- cbind(points$x * scene$panels$w, points$y * scene$panels$h)
    expect_equal(length(unique(round(mm[, 1], 4))), length(unique(round(across, 4))))
    expect_equal(length(unique(round(mm[, 2], 4))), length(unique(round(up, 4))))
    # The box is as large as its panel allows, with room for ticks and names: 9 mm beside, 9 below
    # and 6 above.
    edges <- Filter(function(layer) layer$primitive == "segments", scene$marks)[1:2]
    x_mm <- unlist(lapply(edges, function(layer) layer$table[c("x0", "x1")])) * scene$panels$w
    y_mm <- unlist(lapply(edges, function(layer) layer$table[c("y0", "y1")])) * scene$panels$h
    free <- c(scene$panels$w - 18 - diff(range(x_mm)), scene$panels$h - 15 - diff(range(y_mm)))
    expect_equal(min(free), 0, tolerance = 1e-6)
    limited <- c(limited, which.min(free))
    expect_equal(min(y_mm), 9, tolerance = 1e-6)
    expect_equal(mean(range(x_mm)), scene$panels$w / 2, tolerance = 1e-6)
    # The floor is turned and looked down on by the angles said.
    expect_equal(
      diff(range(x_mm)) / diff(range(y_mm)),
      (cos(a) + sin(a)) / (cos(e) + (cos(a) + sin(a)) * sin(e)),
      tolerance = 1e-6
    )
    lower <- points$size_mm[which.min(mm[, 2])]
    expect_gt(lower, min(points$size_mm))
  }
  # One is held by its width, the other by its height.
  expect_equal(limited, 1:2)
})

test_that("the value of a pair is R's, rounded to two places, with its interval", {
  for (method in c("pearson", "spearman", "kendall")) {
    scene <- as_scene(
      plate(
        panel(cloud, x = x, y = y, ink_value(method = method, interval = NULL)),
        width = 60,
        height = 50
      )
    )
    said <- scene$texts$string[scene$texts$role == "value"][1]
    number <- as.numeric(sub("\u2212", "-", sub(".*= ", "", said)))
    expect_equal(number, round(cor(cloud$x, cloud$y, method = method), 2), info = said)
  }
  scene <- as_scene(
    plate(panel(cloud, x = x, y = y, ink_value(interval = 0.9, n = TRUE)), width = 80, height = 60)
  )
  said <- gsub("\u2212", "-", paste(scene$texts$string, collapse = " "))
  limits <- sprintf("%.2f", cor.test(cloud$x, cloud$y, conf.level = 0.9)$conf.int)
  for (one in sub("^-0.00$", "0.00", limits)) expect_match(said, one, fixed = TRUE)
  expect_match(said, "300")
})

test_that("labels bear the text of their row beside its point", {
  table <- data.frame(x = c(1, 5, 9), y = c(2, 8, 3), name = c("one", "two", "three"))
  points <- drawn_marks(panel(table, x = x, y = y, ink_points(), ink_labels(name)), "points")
  scene <- attr(points, "scene")
  for (i in 1:3) {
    text <- scene$texts[scene$texts$string == table$name[i], ]
    expect_identical(nrow(text), 1L)
    range <- attr(points, "range")
    at <- c(
      scene$panels$x + (table$x[i] - range$x[1]) / diff(range$x) * scene$panels$w,
      scene$panels$y + (1 - (table$y[i] - range$y[1]) / diff(range$y)) * scene$panels$h
    )
    away <- c(max(text$x0 - at[1], at[1] - text$x1, 0), max(text$y0 - at[2], at[2] - text$y1, 0))
    expect_lt(sqrt(sum(away^2)), 3)
    expect_gt(sqrt(sum(away^2)), 0.1)
  }
})

test_that("meshes and polygons take the mean of their corners, in shades by value", {
  corners <- data.frame(
    t = rep(1:3, each = 3),
    x = c(0, 1, 0, 1, 1, 0, 1, 2, 1),
    y = c(0, 0, 1, 0, 1, 1, 0, 0, 1),
    v = c(1, 1, 1, 4, 5, 6, 9, 9, 9)
  )
  areas <- drawn_marks(panel(corners, x = x, y = y, group = t, colour = v, ink_mesh()), "areas")
  fill <- areas$fill[!duplicated(areas$area)]
  expect_identical(fill, nelvat:::ramp_colours(c(1, 5, 9), c(1, 9)))
})

test_that("marginals count the values of their side, towards their panel", {
  scene <- as_scene(
    plate(
      joint(cloud, x = x, y = y, marginal = ink_histogram(bins = 9), ink_points()),
      width = 90,
      height = 90
    )
  )
  strips <- Filter(
    function(layer) layer$primitive == "rects" && layer$ink == "histogram",
    scene$marks
  )
  n <- vapply(strips, function(strip) nrow(strip$table), 0L)
  expect_true(all(n > 3))
  for (strip in strips) {
    bars <- strip$table
    lying <- length(unique(round(bars$x0, 9))) == 1
    lengths <- if (lying) bars$x1 - bars$x0 else bars$y1 - bars$y0
    # The bars' lengths are in proportion to the counts of their bins.
    range <- scene$axes[[if (lying) 2 else 1]]$range
    from <- range[1] + (if (lying) bars$y0 else bars$x0) * diff(range)
    to <- range[1] + (if (lying) bars$y1 else bars$x1) * diff(range)
    values <- if (lying) cloud$y else cloud$x
    # The greatest value is in the last bin.
    counts <- mapply(
      function(a, b) sum(values >= a - 1e-9 & (values < b - 1e-9 | b == max(to))),
      from,
      to
    )
    expect_equal(lengths / sum(lengths), counts / 300, tolerance = 1e-9)
  }
})

test_that("a line of a slope meets the values that it says, a note its place", {
  block <- panel(
    data.frame(x = c(0, 10), y = c(0, 30)),
    x = x,
    y = y,
    ink_points(),
    ink_rule(slope = 2, intercept = 5)
  )
  rule <- drawn_marks(block, "segments", "rule")
  expect_equal(c(rule$y0, rule$y1), 5 + 2 * c(rule$x0, rule$x1), tolerance = 1e-9)
  expect_equal(c(rule$x0, rule$x1), attr(rule, "range")$x, tolerance = 1e-9)
  for (side in c("left", "right")) {
    scene <- as_scene(
      plate(
        panel(
          data.frame(x = c(0, 10), y = c(0, 30)),
          x = x,
          y = y,
          ink_points(),
          ink_text("here", x = 4, y = 12, anchor = side)
        ),
        width = 90,
        height = 70
      )
    )
    text <- scene$texts[scene$texts$string == "here", ]
    axis <- scene$axes[[1]]$range
    at <- scene$panels$x + (4 - axis[1]) / diff(axis) * scene$panels$w
    gap <- if (side == "right") text$x0 - at else at - text$x1
    expect_true(gap > 0 && gap < 3)
    up <- scene$axes[[2]]$range
    middle <- scene$panels$y + (1 - (12 - up[1]) / diff(up)) * scene$panels$h
    expect_equal((text$y0 + text$y1) / 2, middle, tolerance = 0.02)
  }
})

test_that("on numbers there is a centre for each place, groups beside each other", {
  cultures <- study("cultures")
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(
          cultures,
          x = hour,
          y = log10(count),
          colour = microbe,
          keep = microbe == "fsan" | microbe == "khum",
          ink_centre(error = "se")
        ),
        width = 120,
        height = 70
      )
    )
  )
  points <- Find(function(one) one$primitive == "points", scene$marks)$table
  rows <- cultures$data[
    cultures$data$microbe %in% c("fsan", "khum") & cultures$data$count > 0 &
      !is.na(cultures$data$count),
  ]
  means <- tapply(log10(rows$count), rows[c("hour", "microbe")], mean)
  range <- scene$axes[[scene$panels$y_axis]]$range
  expect_equal(sort(range[1] + points$y * diff(range)), sort(as.numeric(means)))
  expect_match(legend_text(scene), "groups of one place beside each other")
  # The two of a place stand as far left as right of it, at most 1.3 mm apart.
  x <- scene$axes[[scene$panels$x_axis]]$range
  at <- sort((unique(rows$hour) - x[1]) / diff(x))
  pairs <- matrix(sort(points$x), 2)
  expect_equal(colMeans(pairs), at)
  expect_true(all(diff(pairs) * scene$panels$w <= 1.3 + 1e-9))
  lone <- data.frame(x = 1:4, y = 1:4)
  expect_error(
    panel(lone, x = x, y = y, ink_centre()),
    "is of one row",
    class = "nelvat_error_argument"
  )
})

test_that("images of many pixels are drawn as means of squares, at their own places", {
  skip_if_not_installed("png")
  withr::local_seed(3)
  whole <- array(round(stats::runif(7 * 9 * 4) * 255) / 255, c(7, 9, 4))
  path <- withr::local_tempfile(fileext = ".png")
  png::writePNG(whole, path)
  as_it_is <- ink_image(path)
  expect_identical(
    as.vector(as_it_is$pixels),
    grDevices::rgb(whole[, , 1], whole[, , 2], whole[, , 3], whole[, , 4])
  )
  fewer <- with_replaced(ink_image(path), most_side = 5)
  expect_identical(dim(fewer$pixels), c(4L, 5L))
  expect_identical(fewer$x, c(0, 9))
  bytes <- round(whole * 255)
  square <- apply(bytes[1:2, 3:4, ], 3, mean)
  found <- grDevices::col2rgb(fewer$pixels[1, 2], alpha = TRUE)
  expect_lte(max(abs(found - square)), 0.5)
  last <- grDevices::col2rgb(fewer$pixels[4, 5], alpha = TRUE)
  expect_equal(as.vector(last), bytes[7, 9, ])
  # Greys, and images without opacity.
  grey <- withr::local_tempfile(fileext = ".png")
  png::writePNG(matrix(c(0, 1, 0.5, 0.25), 2), grey)
  expect_identical(as.vector(ink_image(grey)$pixels), c("#000000", "#FFFFFF", "#808080", "#404040"))
})

test_that("a plate of an image alone says so", {
  skip_if_not_installed("png")
  path <- withr::local_tempfile(fileext = ".png")
  png::writePNG(matrix(0.5, 20, 30), path)
  expect_match(legend_text(plate(image_panel(path), width = 60)), "image")
})
