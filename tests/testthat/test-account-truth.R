scene_of <- function(...) suppressWarnings(as_scene(plate(..., width = 100, height = 80)))

test_that("a histogram counts every value, also at decimal edges", {
  counted <- function(values, ...) {
    scene <- scene_of(panel(data.frame(v = values), x = v, ink_histogram(...)))
    rects <- Find(function(layer) layer$primitive == "rects", scene$marks)$table
    axis <- scene$axes[[scene$panels$y_axis]]
    sum(round((rects$y1 - rects$y0) * diff(axis$range), 6))
  }
  expect_equal(counted(c(0.3, 0.4, 0.5, 0.6), width = 0.1), 4)
  expect_equal(counted(c(0.1, 0.2, 0.3, 0.7), width = 0.1), 4)
  set.seed(11)
  for (case in 1:400) {
    digits <- sample(0:4, 1)
    values <- round(
      rnorm(sample(2:60, 1), sample(c(0, 5, 1e3), 1), sample(c(0.1, 1, 30), 1)),
      digits
    )
    width <- sample(c(0.1, 0.2, 0.25, 0.5, 1, 5), 1)
    if (diff(range(values)) / width > 300) next
    breaks <- nelvat:::histogram_breaks(values, width = width)
    n <- sum(nelvat:::histogram_counts(values, rep(1L, length(values)), 1L, breaks))
    expect_identical(n, as.numeric(length(values)), label = paste("case", case))
    auto <- nelvat:::histogram_breaks(values)
    expect_identical(
      sum(nelvat:::histogram_counts(values, rep(1L, length(values)), 1L, auto)),
      as.numeric(length(values)),
      label = paste("case", case)
    )
  }
})

test_that("values beyond given breaks are counted in facts, legend and a warning", {
  fig <- plate(
    panel(data.frame(v = c(1:9, 50)), x = v, ink_histogram(breaks = 0:10)),
    width = 90,
    height = 60
  )
  nelvat:::forget_said()
  expect_warning(scene <- as_scene(fig), "1 value of .v. lies beyond the bins")
  expect_identical(scene$facts$n, 9L)
  expect_identical(scene$facts$dropped, 1L)
  expect_match(legend_text(fig), "n = 9")
  expect_match(legend_text(fig), "1 value of v lies beyond the bins")
})

test_that("a lone value between two blanks gets a dot", {
  table <- data.frame(x = 1:5, y = c(1, NA, 3, NA, 5))
  scene <- scene_of(panel(table, x = x, y = y, ink_line(), missing = "gap"))
  points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
  expect_identical(nrow(points), 3L)
  whole <- scene_of(panel(data.frame(x = 1:5, y = 1:5), x = x, y = y, ink_line()))
  expect_null(Find(function(layer) layer$primitive == "points", whole$marks))
})

test_that("reverse and a logarithm keep both, whichever stands first", {
  table <- data.frame(depth = 10^(0:3), y = 1:4)
  places <- function(...) {
    scene <- scene_of(panel(table, y = y, ..., ink_points()))
    list(scene$marks[[1]]$table$x, scene$axes[[scene$panels$x_axis]]$breaks)
  }
  plain <- places(x = log10(depth))
  for (turned in list(places(x = reverse(log10(depth))), places(x = log10(reverse(depth))))) {
    expect_equal(turned[[1]], 1 - plain[[1]])
    expect_setequal(turned[[2]], plain[[2]])
  }
  expect_error(
    panel(table, x = log10(sqrt(depth)), y = y, ink_points()),
    "one transform",
    class = "nelvat_error_expression"
  )
  expect_error(
    as_scene(plate(panel(table, x = reverse(log10(depth)), ink_bars()))),
    class = "nelvat_error"
  )
})

test_that("powers stay powers in words", {
  expect_identical(
    nelvat:::plain_text(c("10^9^/L", "CO~2~", "m s^\u22121^", "R^2^", "x^ab^")),
    c("10\u2079/L", "CO\u2082", "m s\u207b\u00b9", "R\u00b2", "x^ab")
  )
  book <- codebook(
    data.frame(f = c("a", "b"), v = c(4, 5)),
    v = quantity("Cells", unit = "10^9^/L")
  )
  fig <- plate(panel(book, x = f, y = v, ink_bars()), width = 60, height = 60)
  expect_match(legend_text(fig), "10\u2079/L")
  expect_match(alt_text(fig, "full"), "10\u2079/L")
})

test_that("marks at infinity, words for letters and correlations near one are not what they seem", {
  expect_error(ink_rule(y = Inf), class = "nelvat_error_argument")
  expect_error(ink_shade(x = c(-Inf, 2)), class = "nelvat_error_argument")
  expect_error(
    plate(panel(study("loaves"), x = rise, y = volume, ink_points()), letters = "upper"),
    "house",
    class = "nelvat_error_argument"
  )
  expect_identical(
    nelvat:::value_strings(
      data.frame(r = c(0.996, -0.999, 1, 0.8), lower = NA_real_, upper = NA_real_, n = 5),
      "pearson",
      c(interval = FALSE, n = FALSE),
      FALSE
    ),
    c("*r* > 0.99", "*r* < \u22120.99", "*r* = 1.00", "*r* = 0.80")
  )
})

test_that("parts of a proof print", {
  found <- proof(
    plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = "single", height = 60)
  )
  expect_output(print(found[1:2, ]), "good")
  expect_output(print(found[found$verdict == "good", c("rule", "verdict")]), "rule")
})

test_that("every subject's trace stands with the mean of all and its band", {
  set.seed(3)
  table <- expand.grid(day = 1:5, subject = letters[1:6])
  table$v <- rnorm(30) + table$day
  fig <- plate(
    panel(
      table,
      x = day,
      y = v,
      group = subject,
      ink_line(colour = "#AAAAAA", weight = 0.5),
      ink_line(centre = "mean", band = "ci"),
      ink_fit()
    ),
    width = 90,
    height = 70
  )
  scene <- suppressWarnings(as_scene(fig))
  lines <- Filter(function(layer) layer$primitive == "lines", scene$marks)
  expect_identical(
    vapply(lines, function(layer) length(unique(layer$table$line)), 0L),
    c(6L, 1L, 1L)
  )
  # The mean of each day, from the data by R's own mean.
  axis <- scene$axes[[scene$panels$y_axis]]
  mean_line <- lines[[2]]$table
  expect_equal(
    axis$range[1] + mean_line$y * diff(axis$range),
    unname(tapply(table$v, table$day, mean)[]),
    ignore_attr = TRUE
  )
  band <- Find(function(layer) layer$primitive == "areas", scene$marks)$table
  high <- max(axis$range[1] + band$y[abs(band$x - max(band$x)) < 1e-9] * diff(axis$range))
  last <- table$v[table$day == 5]
  expect_equal(high, mean(last) + qt(0.975, 5) * sd(last) / sqrt(6))
  expect_identical(nrow(fits(fig)), 2L)
  # A statistic of each group, where the ink says so.
  each <- suppressWarnings(
    as_scene(plate(panel(table, x = day, y = v, ink_fit(group = subject)), width = 90, height = 70))
  )
  expect_identical(nrow(each$fits), 12L)
})

test_that("texts that a spreadsheet would compute are written as text", {
  table <- data.frame(f = c("=1+1", "-ctrl", "+salt", "@home", "plain"), v = c(-1, 2, 3, 4, 5))
  folder <- withr::local_tempdir()
  paths <- save_source_data(
    plate(panel(table, x = f, y = v, ink_points()), width = 90, height = 60),
    file.path(folder, "s.csv")
  )
  written <- utils::read.csv(paths, check.names = FALSE)
  expect_identical(written$f, c("'=1+1", "'-ctrl", "'+salt", "'@home", "plain"))
  expect_identical(written$v, c(-1L, 2L, 3L, 4L, 5L))
})

test_that("an equation can be used: its numbers give the curve within the data", {
  equation_of <- function(x, y, ...) {
    scene <- suppressWarnings(
      as_scene(
        plate(
          panel(
            data.frame(x = x, y = y),
            x = x,
            y = y,
            ink_points(),
            ink_fit(equation = TRUE, ...)
          ),
          width = 120,
          height = 80
        )
      )
    )
    scene$texts$string[scene$texts$role == "equation"]
  }
  by_hand <- function(text, x) {
    text <- sub(";.*$", "", gsub("\u2009", "", gsub("\u2212", "-", text)))
    text <- sub("\\(.*$", "", sub("^y = ", "", text))
    eval(parse(text = gsub("([0-9.]) *x", "\\1 * x", text)), list(x = x))
  }
  far <- 2000:2020
  expect_lt(max(abs(by_hand(equation_of(far, 3 * far - 5990.25), far) - (3 * far - 5990.25))), 0.7)
  expect_match(equation_of(1:9, 2 * (1:9)), "^y = 2.x;")
  days <- as.Date("2026-01-01") + 0:9
  said <- equation_of(days, 2 * (0:9) + 1)
  expect_match(said, "x in days since 1970")
  expect_lt(max(abs(by_hand(said, as.numeric(days)) - (2 * (0:9) + 1))), 0.5)
  found <- fits(
    plate(
      panel(data.frame(x = days, y = 2 * (0:9)), x = x, y = y, ink_fit()),
      width = 90,
      height = 60
    )
  )
  expect_equal(found$estimate[2], 2)
  expect_identical(found$x_unit[1], "days since 1970")
})

test_that("zooms outside the panel, ranges of levels and residuals in matrices are refused", {
  loaves <- study("loaves")
  dots <- panel(loaves, x = rise, y = volume, ink_points())
  expect_error(
    as_scene(
      plate(
        beside(a = dots, zoom(of = "a", x = c(500, 600), y = c(400, 600))),
        width = 170,
        height = 70
      )
    ),
    "shows nothing",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(loaves, x = flour, y = volume, x_axis = axis_of(range = c(1, 2)), ink_box()),
    "shows levels",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(loaves, x = flour, y = volume, x_axis = axis_of(every = 2.5), ink_box()),
    "shows levels",
    class = "nelvat_error_argument"
  )
  expect_error(
    every_pair(loaves, c(rise, volume), above = ink_residuals()),
    "no axis in common",
    class = "nelvat_error_argument"
  )
})

test_that("ticks that differ never print alike", {
  for (values in list(
    1e9 + (1:3) * 1e-3,
    c(3, 3.0001, 3.0002),
    1 + (1:4) * 1e-9,
    c(123456.1, 123456.2)
  )) {
    scene <- scene_of(
      panel(data.frame(x = values, y = seq_along(values)), x = x, y = y, ink_points())
    )
    text <- scene$axes[[scene$panels$x_axis]]$text
    expect_gt(length(text), 1)
    expect_identical(anyDuplicated(text), 0L)
  }
})

test_that("a histogram's x can be each panel's own", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        facets(
          panel(study("loaves"), x = rise, ink_histogram()),
          across = flour,
          range_per = c(x = "panel")
        ),
        width = 178,
        height = 60
      )
    )
  )
  ranges <- lapply(scene$axes[scene$panels$x_axis], `[[`, "range")
  expect_length(unique(ranges), 4)
})

test_that("the numbers of an equation have the same number of figures", {
  set.seed(5)
  x <- 1:40
  scene <- as_scene(
    plate(
      panel(
        data.frame(x = x, y = 100 + 0.25 * x + rnorm(40)),
        x = x,
        y = y,
        ink_fit(equation = TRUE)
      ),
      width = 120,
      height = 80
    )
  )
  said <- scene$texts$string[scene$texts$role == "equation"]
  numbers <- regmatches(sub(";.*", "", said), gregexpr("[0-9.]+", sub(";.*", "", said)))[[1]]
  figures <- nchar(gsub("^0+", "", gsub("[.]", "", numbers)))
  expect_length(unique(figures), 1)
})

test_that("a report writes small p values as they are read", {
  path <- withr::local_tempfile(fileext = ".html")
  x <- 1:60
  report(
    plate(
      panel(data.frame(x = x, y = x + sin(x)), x = x, y = y, ink_fit()),
      width = 90,
      height = 60
    ),
    path
  )
  text <- paste(readLines(path), collapse = "\n")
  expect_no_match(text, "0\\.000000000")
  expect_match(text, "&lt; 0.001", fixed = TRUE)
})

test_that("a subject's line over levels is one series", {
  fig <- plate(
    panel(study("tasting"), x = day, y = liking, ink_line(group = taster)),
    width = 90,
    height = 60
  )
  expect_match(suppressWarnings(legend_text(fig)), "n = 46, in 16 series", fixed = TRUE)
})
