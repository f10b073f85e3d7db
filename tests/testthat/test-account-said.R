# What stands beside the marks is what the marks are.
said <- function(panel, width = 120, height = 90) {
  suppressMessages(suppressWarnings(legend_text(plate(panel, width = width, height = height))))
}
loaves <- study("loaves")

test_that("an error that no bar, line or dot has is not spoken of", {
  single <- data.frame(x = factor(c("a", "b")), y = c(1, 2))
  for (ink in list(ink_bars(), ink_centre(), ink_bars(error = "ci"))) {
    text <- said(panel(single, x = x, y = y, ink))
    expect_no_match(text, "deviation|interval")
    expect_match(text, "n = 1")
  }
  expect_no_match(said(panel(single, x = y, y = y, ink_line(centre = "mean"))), "deviation")
  some <- data.frame(x = factor(c("a", "a", "b")), y = c(1, 2, 3))
  expect_match(
    said(panel(some, x = x, y = y, ink_bars())),
    "mean \u00b1 standard deviation"
  )
})

test_that("a band that is not drawn is not spoken of", {
  two <- data.frame(x = 1:2, y = c(1, 3))
  exact <- data.frame(x = 1:6, y = 2 * (1:6))
  noisy <- data.frame(x = 1:6, y = c(1, 3, 2, 5, 4, 6))
  expect_no_match(said(panel(two, x = x, y = y, ink_fit())), "band")
  expect_no_match(said(panel(exact, x = x, y = y, ink_fit())), "band")
  expect_match(said(panel(noisy, x = x, y = y, ink_fit())), "95 % confidence band")
})

test_that("n of comparisons is of the groups that are compared", {
  within <- panel(loaves, x = flour, y = rise, colour = hydration, ink_bars(), ink_contrasts())
  counts <- with(loaves$data, tapply(!is.na(rise), list(flour, hydration), sum))
  expect_true(all(counts == 12))
  expect_match(said(within, 178), "brackets, [^.]*, n = 12 loaves a group")
  tasters <- study("tasting")
  wide <- stats::reshape(
    tasters$data[c("taster", "day", "liking")],
    idvar = "taster",
    timevar = "day",
    direction = "wide"
  )
  values <- as.matrix(wide[-1])
  pairs <- utils::combn(ncol(values), 2)
  n <- apply(pairs, 2, function(k) sum(stats::complete.cases(values[, k])))
  paired <- panel(tasters, x = day, y = liking, ink_contrasts(test = "paired", subject = taster))
  expect_match(said(paired), paste0("n = ", min(n), " to ", max(n), " a pair of groups"))
  expect_setequal(contrast_table(plate(paired, width = 120, height = 90))$n_first, n)
})

test_that("p is adjusted over all comparisons of a panel", {
  fig <- plate(
    panel(loaves, x = flour, y = rise, colour = hydration, ink_box(), ink_contrasts()),
    width = 178,
    height = 120
  )
  found <- contrast_table(fig)
  expect_equal(nrow(found), 12)
  expect_equal(found$adjusted, stats::p.adjust(found$p, "holm"))
  expect_match(suppressMessages(legend_text(fig)), "Holm's method (12 comparisons)", fixed = TRUE)
  alone <- said(
    panel(data.frame(x = factor("a"), y = 1:4), x = x, y = y, ink_box(), ink_contrasts())
  )
  expect_match(alone, "no two groups to compare")
  expect_no_match(alone, "0 comparisons")
})

test_that("parts of a whole are not less than nothing, and of nothing there are no shares", {
  table <- data.frame(x = c("a", "a", "b", "b"), c = c("u", "v", "u", "v"), y = c(0, 0, 1, 3))
  shares <- panel(table, x = x, y = y, colour = c, ink_bars(centre = "sum", arrange = "share"))
  scene <- suppressMessages(as_scene(plate(shares, width = 80, height = 60)))
  drawn <- scene$marks[[1]]$table
  expect_equal(nrow(drawn), 2)
  expect_equal(sort(drawn$y1 - drawn$y0) / max(drawn$y1), c(0.25, 0.75), tolerance = 1e-9)
  expect_identical(sum(scene$accounts$used), 2L)
  expect_identical(sum(scene$accounts$missing), 2L)
  table$y[1] <- -1
  for (arrange in c("stack", "share")) {
    expect_error(
      as_scene(
        plate(
          panel(table, x = x, y = y, colour = c, ink_bars(centre = "sum", arrange = arrange)),
          width = 80,
          height = 60
        )
      ),
      "1 value below zero",
      class = "nelvat_error_argument"
    )
    expect_error(
      ink_bars(arrange = arrange, error = "se"),
      "no error bars",
      class = "nelvat_error_argument"
    )
  }
})

test_that("text from data says what it says, and names of a codebook may be marked up", {
  odd <- c("*1/*1", "HLA-A*02:01", "a^2^", "x~y~", "b\\c", "**d**")
  table <- data.frame(g = factor(odd, odd), `v^2^` = 1:6, check.names = FALSE)
  fig <- plate(
    panel(table, x = g, y = `v^2^`, colour = g, ink_points(), ink_labels(g)),
    width = 160,
    height = 80
  )
  scene <- suppressMessages(as_scene(fig))
  expect_true(all(odd %in% scene$texts$string[scene$texts$role == "tick"]))
  expect_true(all(odd %in% scene$texts$string[scene$texts$role == "point label"]))
  expect_true("v^2^" %in% scene$texts$string)
  expect_identical(unique(source_data(fig)[[1]]$g), odd)
  expect_identical(names(source_data(fig)[[1]])[3], "v^2^")
  named <- codebook(table, g = category("G", names = stats::setNames(c("*one*", odd[-1]), odd)))
  marked <- as_scene(plate(panel(named, x = g, y = `v^2^`, ink_points()), width = 160, height = 60))
  expect_true("one" %in% marked$texts$string)
  expect_true(any(marked$runs$italic & marked$runs$string == "one"))
  # Written and read back, they stay what they are.
  path <- withr::local_tempfile(fileext = ".yaml")
  write_codebook(codebook(table), path)
  expect_identical(nelvat:::read_codebook(path, NULL)$kinds$g$names, NULL)
})

test_that("values that are written are those of the table", {
  tiles <- data.frame(a = c("p", "q"), b = "r", v = c(0.123456, 123456))
  scene <- as_scene(
    plate(panel(tiles, x = a, y = b, colour = v, ink_tiles()), width = 80, height = 60)
  )
  expect_true(all(c("0.123", "123456") %in% scene$texts$string))
  bars <- data.frame(a = c("p", "q"), v = c(123456.7, 23.456))
  scene <- as_scene(
    plate(panel(bars, x = a, y = v, ink_bars(values = TRUE)), width = 80, height = 60)
  )
  expect_true(all(c("123457", "23.5") %in% scene$texts$string))
  numbers <- c(0, 1, -1234567.8, 0.00012345, 99.96, 1e12)
  expect_identical(
    nelvat:::number_text_each(numbers),
    c("0", "1", "\u22121234568", "0.000123", "100", "1000000000000")
  )
})

test_that("R\u00b2 reads the same on the figure and in the legend", {
  set.seed(3)
  table <- data.frame(x = 1:40, y = 3 * (1:40) + rnorm(40, 0, 0.5))
  fig <- plate(
    panel(table, x = x, y = y, ink_points(), ink_fit(equation = TRUE)),
    width = 90,
    height = 70
  )
  r2 <- summary(stats::lm(y ~ x, table))$r.squared
  expect_gt(r2, 0.995)
  expect_match(as_scene(fig)$texts$string, "R2 > 0.99", all = FALSE, fixed = TRUE)
  expect_match(legend_text(fig), "R\u00b2 > 0.99", fixed = TRUE)
})

test_that("times in source data tell the hour that comes twice apart, dates have no time of day", {
  times <- as.POSIXct(c("2026-10-25 00:30", "2026-10-25 01:30"), tz = "UTC")
  attr(times, "tzone") <- "Europe/Berlin"
  table <- data.frame(t = times, v = 1:2, d = as.Date("2026-03-02") + 0:1)
  numbers <- function(panel) source_data(plate(panel, width = 80, height = 60))[[1]]
  found <- numbers(panel(table, x = t, y = v, ink_points()))$t
  expect_identical(found, c("2026-10-25T02:30:00+02:00", "2026-10-25T02:30:00+01:00"))
  expect_identical(
    numbers(panel(table, x = d, y = v, ink_points()))$d,
    c("2026-03-02", "2026-03-03")
  )
})

test_that("several inks of one word are replaced each by its own", {
  two <- panel(loaves, x = rise, y = volume, ink_fit(), ink_fit("loess"), ink_points())
  models <- function(panel) {
    vapply(Filter(function(ink) ink$ink == "fit", panel$inks), `[[`, "", "model")
  }
  expect_identical(
    models(change(two, ink = list(ink_fit("robust"), ink_fit("polynomial")))),
    c("robust", "polynomial")
  )
  expect_identical(models(change(two, ink = ink_fit("robust"))), c("robust", "loess"))
  three <- change(two, ink = list(ink_fit("robust"), ink_fit("polynomial"), ink_fit("line")))
  expect_identical(models(three), c("robust", "polynomial", "line"))
})

test_that("local regression of few and of many values is drawn, or an error of our own", {
  set.seed(1)
  for (n in 4:6) {
    table <- data.frame(x = rnorm(n), y = rnorm(n))
    fig <- plate(
      panel(table, x = x, y = y, ink_points(), ink_fit("loess")),
      width = 80,
      height = 60
    )
    expect_s3_class(suppressWarnings(as_scene(fig)), "nelvat_scene")
  }
  # The band of many values, taken from some of them, is that of all.
  n <- 6000
  x <- rnorm(n)
  y <- sin(x) + rnorm(n)
  how <- list(at = seq(-2, 2, length.out = 9), w = rep(1, n), span = 0.75, interval = "confidence")
  found <- nelvat:::fit_loess(x, y, 0.95, how)$curve
  whole <- stats::loess(y ~ x, control = stats::loess.control(trace.hat = "approximate"))
  wanted <- stats::predict(whole, data.frame(x = how$at), se = TRUE)
  expect_equal(found$y, as.vector(wanted$fit), tolerance = 1e-9)
  expect_equal(
    found$upper - found$y,
    as.vector(stats::qt(0.975, wanted$df) * wanted$se.fit),
    tolerance = 0.01
  )
})

test_that("a half matrix of two measures has its key, a region needs both its sides", {
  fig <- plate(
    every_pair(loaves, c(rise, volume), colour = flour, diagonal = NULL, above = NULL),
    width = 120,
    height = 90
  )
  expect_gt(nrow(as_scene(fig)$keys), 3)
  expect_error(ink_region(x = c(0, 1)), "Not given: \"y\"", class = "nelvat_error_argument")
})

test_that("what a range leaves out is said of the marks that it is left out of", {
  cut <- axis_of(range = c(20, 60))
  heights <- with(loaves$data, tapply(rise, flour, mean, na.rm = TRUE))
  bars <- said(panel(loaves, x = flour, y = rise, ink_bars(error = "none"), y_axis = cut))
  # All values are in the bars; all begin below 20, and are cut there.
  expect_no_match(bars, "beyond the range")
  expect_match(bars, paste(length(heights), "bars of Loaf rise are cut by the range of the y axis"))
  points <- said(panel(loaves, x = rise, y = volume, ink_points(), x_axis = cut))
  beyond <- with(loaves$data, sum(!is.na(rise) & !is.na(volume) & (rise < 20 | rise > 60)))
  expect_match(points, paste(beyond, "values of Loaf rise lie beyond the range of the x axis"))
  expect_no_match(said(panel(loaves, x = flour, y = rise, ink_bars())), "cut by")
})

test_that("a comparison with one group names it", {
  text <- said(panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(between = "wheat")))
  expect_match(text, "Welch's t tests against Wheat, two-sided")
  dunnett <- said(
    panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts(between = "rye", test = "dunnett"))
  )
  expect_match(dunnett, "against Rye")
})

test_that("a summary on a transformed axis is of the axis's values, or of the data where asked", {
  table <- data.frame(g = factor(rep("a", 6)), v = c(1, 2, 5, 20, 90, 400))
  numbers <- function(ink, ...) {
    fig <- plate(panel(table, x = g, ..., ink), width = 80, height = 60)
    found <- source_data(fig)[[1]]
    list(row = found[found$part != "values", ][1, ], says = suppressMessages(legend_text(fig)))
  }
  quartiles <- 10^stats::quantile(log10(table$v), c(0.25, 0.75), names = FALSE)
  box <- numbers(ink_box(), y = log10(v))
  expect_equal(unlist(box$row[c("q1", "q3")], use.names = FALSE), quartiles)
  whiskers <- 10^range(grDevices::boxplot.stats(log10(table$v))$stats[c(1, 5)])
  expect_equal(unlist(box$row[c("low", "high")], use.names = FALSE), whiskers)
  expect_match(box$says, "of the logarithms")
  as_data <- numbers(ink_box(on = "data"), y = log10(v))
  expect_equal(as_data$row$q3, stats::quantile(table$v, 0.75, names = FALSE))
  expect_no_match(as_data$says, "logarithms")
  # Values beyond the whiskers of the data are none of those of the logarithms.
  scene <- as_scene(plate(panel(table, x = g, y = log10(v), ink_box()), width = 80, height = 60))
  expect_false(any(vapply(scene$marks, function(layer) layer$primitive == "points", NA)))
  geometric <- exp(mean(log(table$v)))
  for (ink in list(ink_centre(), ink_centre(error = "se"))) {
    expect_equal(numbers(ink, y = log10(v))$row$centre, geometric)
  }
  expect_equal(numbers(ink_centre(on = "data"), y = log10(v))$row$centre, mean(table$v))
  expect_match(
    numbers(ink_centre(), y = log10(v))$says,
    "mean \u00b1 standard deviation of the logarithms"
  )
  expect_match(numbers(ink_centre(error = "none"), y = log10(v))$says, "geometric mean")
  expect_equal(numbers(ink_bars(), y = sqrt(v))$row$centre, mean(sqrt(table$v))^2)
  expect_equal(numbers(ink_bars(centre = "sum"), y = sqrt(v))$row$centre, sum(table$v))
  table$h <- 1
  line <- source_data(
    plate(panel(table, x = h, y = log10(v), ink_line(centre = "mean")), width = 80, height = 60)
  )[[1]]
  drawn <- line[line$part != "values", ]
  expect_equal(drawn$centre[1], geometric)
  expect_equal(drawn$lower[1], exp(mean(log(table$v)) - stats::sd(log(table$v))))
  expect_error(ink_box(on = "log"), class = "nelvat_error_argument")
})

test_that("statistics in source data have their level and the n of their group", {
  of <- function(panel) {
    found <- suppressMessages(source_data(plate(panel, width = 120, height = 80)))[[1]]
    found[found$part != "values", ]
  }
  counts <- with(loaves$data, tapply(!is.na(firmness), flour, sum))
  names(counts) <- loaves$columns$flour$level_names[
    match(names(counts), loaves$columns$flour$levels)
  ]
  for (found in list(
    of(panel(loaves, x = flour, y = firmness, ink_violin())),
    of(panel(loaves, x = firmness, y = flour, ink_ridges())),
    of(panel(loaves, x = flour, y = firmness, ink_centre())),
    of(panel(loaves, x = flour, y = firmness, ink_box()))
  )) {
    n <- tapply(found$n, found$flour, unique)
    expect_equal(as.vector(n[names(counts)]), as.vector(counts))
  }
})

test_that("on an axis of square roots what would lie below zero is none, and is told", {
  table <- data.frame(f = rep(c("a", "b"), each = 2), h = c(1, 1, 2, 2), m = c(95, 283, 100, 20)^2)
  roots <- sqrt(table$m[1:2])
  low <- mean(roots) - qt(0.975, 1) * sd(roots) / sqrt(2)
  expect_lt(low, 0)
  for (design in list(
    panel(table, x = f, y = sqrt(m), ink_centre(error = "ci")),
    panel(table, x = f, y = sqrt(m), ink_bars(error = "ci")),
    panel(table, x = h, y = sqrt(m), ink_line(centre = "mean", band = "ci"))
  )) {
    told <- suppressWarnings(as_scene(plate(design)))$columns
    expect_identical(told$n[grepl("below what the axis can show", told$what)], 2L)
    found <- source_data(plate(design))$panel
    found <- found[found$part != "values", ]
    expect_identical(found$lower, c(NA_real_, NA_real_))
    expect_equal(found$centre[1], mean(roots)^2)
  }
  falling <- data.frame(x = 1:20, m = pmax(0, 20 - 1.3 * (1:20))^2)
  scene <- suppressWarnings(
    as_scene(plate(panel(falling, x = x, y = sqrt(m), ink_points(), ink_fit())))
  )
  line <- Find(function(one) one$primitive == "lines", scene$marks)$table
  # A straight line on the axis, down to its end and not up again.
  expect_true(all(diff(line$y) < 0))
  shape <- as_scene(plate(panel(falling, x = sqrt(m), ink_density())))
  line <- Find(function(one) one$primitive == "lines", shape$marks)$table
  expect_true(all(diff(line$x) > 0))
})

test_that("zero has its place on an axis of square roots: tick, tile, bin and curve", {
  table <- expand.grid(m = c(0, 1, 4, 9), f = c("a", "b"))
  table$v <- seq_len(nrow(table))
  ticks <- function(...) {
    scene <- as_scene(plate(panel(table, x = v, y = sqrt(m), ink_points(), y_axis = axis_of(...))))
    number <- scene$texts$role == "tick" & scene$texts$x1 < scene$panels$x[1]
    scene$texts$string[number]
  }
  expect_true("0" %in% ticks())
  expect_setequal(ticks(breaks = c(0, 9)), c("0", "9"))
  tiles <- as_scene(plate(panel(table, x = sqrt(m), y = f, colour = v, ink_tiles(FALSE))))$marks
  wide <- tiles[[1]]$table$x1 - tiles[[1]]$table$x0
  expect_true(all(wide > 0.1))
  joined <- joint(table, x = sqrt(m), y = v, ink_points(), marginal = ink_histogram())
  edge <- source_data(plate(joined))[["margin of x"]]
  expect_true(all(edge$from < edge$to))
  expect_identical(sum(edge$n), nrow(table))
  scene <- as_scene(plate(panel(table, x = sqrt(m), y = v, ink_points(), ink_curve(y ~ 1 + x / 3))))
  line <- Find(function(one) one$primitive == "lines", scene$marks)$table
  expect_true(all(diff(line$y) > 0))
})

test_that("missing values of a colour or symbol are left out only where an ink leaves rows out", {
  table <- data.frame(
    f = rep(c("a", "b", "c"), each = 6),
    v = c(3.1, 4, 5, 2, 6, 7, 8, 9, 10, 8, 7, 9, 1, 2, 3, 2, 1, 2.5),
    w = rep(c(1.5, NA, 3, 3.5, 10, NA), 3),
    h = rep(c("p", NA, "q"), 6)
  )
  said <- function(block) suppressWarnings(legend_text(plate(block, width = 120, height = 80)))
  grey <- "#555555"
  left_out <- "6 missing values of [hw] are left out"
  none <- list(
    panel(table, x = f, y = v, colour = w, ink_box(colour = grey)),
    panel(table, x = f, y = v, colour = h, ink_points(colour = grey)),
    panel(table, x = f, y = v, dash = h, ink_points())
  )
  for (block in none) expect_no_match(said(block), "left out")
  some <- list(
    panel(table, x = f, y = v, colour = w, ink_box(colour = grey), ink_points()),
    panel(table, x = f, y = v, colour = h, ink_box()),
    panel(table, x = f, y = v, shape = h, ink_points())
  )
  for (block in some) expect_match(said(block), left_out)
  # What a column lacks as the axis is told, whether it is the colour, too, or not.
  on_axis <- panel(table, x = w, y = v, colour = w, ink_points(colour = grey))
  expect_match(said(on_axis), "6 missing values of w are left out")
})
