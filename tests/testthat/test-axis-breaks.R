axis <- function(range, transform = "identity", count = FALSE) {
  list(
    transform = transform,
    range = nelvat:::axis_transform(transform)$forward(range),
    count = count,
    moment = NULL
  )
}
breaks <- function(..., n = 6) nelvat:::value_breaks(axis(...), n)

test_that("logarithmic axes break at decades, few decades also at 2 and 5, large ones as powers", {
  expect_equal(breaks(c(0.08, 1200), "log10")$at, c(0.1, 1, 10, 100, 1000))
  expect_identical(breaks(c(0.08, 1200), "log10")$text, c("0.1", "1", "10", "100", "1000"))
  expect_equal(breaks(c(0.9, 60), "log10")$at, c(1, 2, 5, 10, 20, 50))
  expect_identical(breaks(c(1e3, 1e9), "log10", n = 4)$text, c("10^4^", "10^6^", "10^8^"))
  minor <- breaks(c(0.8, 120), "log10", n = 3)
  expect_true(all(c(2, 30, 90) %in% round(minor$minor)))
  expect_false(any(minor$at %in% minor$minor))
  expect_equal(breaks(c(1, 70), "log2", n = 7)$at, 2^(0:6))
  # Under one and a half octaves there are too few powers of two.
  expect_equal(breaks(c(2, 6), "log2")$at, c(2, 4))
  expect_true(all(c(3, 4, 5) %in% breaks(c(2.1, 5.9), "log2")$at))
  expect_true(all(breaks(c(3, 7), "log10")$at > 0))
})

test_that("decades break at both ends of an asinh axis", {
  for (top in 10^(1:7)) {
    at <- breaks(c(-10, top), "asinh", n = 20)$at
    expect_identical(range(at), c(-10, top))
  }
})

test_that("shares break at their ends, too, tails before quarters, and need three", {
  expect_equal(breaks(c(0.1, 0.9), "logit")$at, c(0.1, 0.25, 0.5, 0.75, 0.9))
  expect_equal(breaks(c(0.01, 0.99), "logit", n = 5)$at, c(0.01, 0.1, 0.5, 0.9, 0.99))
  expect_true(all(c(0.42, 0.44) %in% round(breaks(c(0.41, 0.45), "logit")$at, 6)))
})

test_that("asinh, logit and square-root axes break at numbers a reader knows", {
  expect_equal(breaks(c(-150, 2000), "asinh", n = 9)$at, c(-100, -10, -1, 0, 1, 10, 100, 1000))
  expect_true(0 %in% breaks(c(-150, 2000), "asinh")$at)
  expect_identical(breaks(c(0.004, 0.996), "logit")$text, c("0.01", "0.1", "0.5", "0.9", "0.99"))
  expect_equal(breaks(c(0, 100), "sqrt")$at[1:2], c(0, 20))
})

test_that("one tick more than fits is better than half as many", {
  expect_equal(breaks(c(-2, 52), n = 5)$at, seq(0, 50, by = 10))
  for (n in 5:9) for (top in c(13, 27, 52, 88)) {
    at <- breaks(c(0, top), n = n)$at
    expect_lte(length(at), n + 1)
    expect_gte(length(at), 0.5 * n)
  }
})

test_that("axes of counts break at whole numbers only", {
  for (top in c(1, 2, 3, 5, 11, 240)) {
    at <- breaks(c(0, top), count = TRUE)$at
    expect_true(all(at == round(at)))
    expect_gte(length(at), 2)
  }
})

test_that("times break at whole steps of the calendar in their zone, as base R counts them", {
  at <- function(from, to, n, zone = "UTC", has_time = TRUE) {
    ends <- as.numeric(as.POSIXct(c(from, to), tz = zone))
    nelvat:::time_breaks(ends, n, list(zone = zone, has_time = has_time))
  }
  days <- at("2026-03-02", "2026-03-05", 7)
  expect_identical(
    days$text,
    c("00:00\n2 Mar", "12:00", "00:00\n3 Mar", "12:00", "00:00\n4 Mar", "12:00", "00:00\n5 Mar")
  )
  expect_equal(diff(days$at), rep(43200, 6))
  oslo <- at("2026-03-28", "2026-03-31", 5, "Europe/Oslo")
  expect_identical(oslo$text, c("28 Mar", "29 Mar", "30 Mar", "31 Mar"))
  expect_equal(diff(oslo$at) / 3600, c(24, 23, 24))
  expect_identical(
    at("2026-01-01", "2026-12-31", 5, has_time = FALSE)$text,
    c("Jan 2026", "Apr", "Jul", "Oct")
  )
  expect_identical(at("1998-06-01", "2026-01-01", 4)$text, c("2000", "2010", "2020"))
  expect_identical(
    at("2026-03-02 10:00:00", "2026-03-02 10:04:00", 5)$text,
    c("10:00\n2 Mar", "10:01", "10:02", "10:03", "10:04")
  )
  # Three ticks are better than the one that two would leave.
  for (n in 2:8) {
    expect_lte(length(at("2026-03-02 07:13:00", "2026-03-09 21:00:00", n)$at), max(n, 3))
  }
})

test_that("times within a second have ticks, and are told and kept to what of it they have", {
  start <- as.POSIXct("2026-03-29 01:30:00", tz = "UTC")
  table <- data.frame(time = start + c(0.064, 0.2, 0.351), rise = 1:3)
  fig <- plate(
    panel(table, x = time, y = rise, ink_points(), ink_rule(x = start + 0.25)),
    width = 90,
    height = 60
  )
  x <- as_scene(fig)$axes[[1]]
  expect_identical(x$text[1:2], c("01:30:00.10\n29 Mar", "01:30:00.20"))
  expect_equal(x$breaks - as.numeric(start), seq(0.1, 0.35, by = 0.05), tolerance = 1e-6)
  expect_match(legend_text(fig), "line at time 2026-03-29 01:30:00.25", fixed = TRUE)
  expect_identical(
    source_data(fig)[[1]]$time,
    paste0("2026-03-29T01:30:00.", c("064", "200", "351"), "Z")
  )
})

test_that("a transform makes its axis, in the column's units; what it cannot show is counted", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(study("cultures"), x = hour, y = log10(count), ink_points()),
        width = 120,
        height = 60
      )
    )
  )
  cultures <- study("cultures")$data
  y <- scene$axes[[2]]
  expect_identical(y$transform, "log10")
  expect_identical(y$title, "Colonies (CFU/g)")
  shown <- cultures$count[!is.na(cultures$count) & cultures$count > 0]
  expect_equal(scene$marks[[1]]$table$y, (log10(shown) - y$range[1]) / diff(y$range))
  expect_identical(
    scene$columns$n,
    c(sum(is.na(cultures$count)), sum(cultures$count == 0, na.rm = TRUE))
  )
  turned <- as_scene(
    plate(
      panel(study("pores"), x = area, y = reverse(depth), keep = flour == "rye", ink_points()),
      width = 80,
      height = 60
    )
  )
  expect_true(all(diff(turned$axes[[2]]$unit) < 0))
  expect_snapshot(error = TRUE, panel(study("loaves"), x = flour, y = log10(rise), ink_bars()))
  expect_snapshot(error = TRUE, panel(study("loaves"), x = log10(flour), y = rise, ink_points()))
})

test_that("levels on a vertical axis read from the top down", {
  scene <- as_scene(
    plate(panel(study("loaves"), x = rise, y = flour, ink_bars()), width = 80, height = 60)
  )
  ticks <- scene$texts[scene$texts$role == "tick", ]
  expect_lt(ticks$y0[ticks$string == "Wheat"], ticks$y0[ticks$string == "Rye"])
})

test_that("axes of levels show the names that are asked for, some, every so many or none", {
  table <- expand.grid(line = sprintf("line %02d", 1:40), dish = c("p", "q"))
  table$mass <- seq_len(nrow(table))
  shown <- function(...) {
    design <- panel(
      table,
      x = dish,
      y = line,
      colour = mass,
      ink_tiles(FALSE),
      y_axis = axis_of(...)
    )
    scene <- as_scene(plate(design, width = 90, height = 150))
    grep("^line", scene$texts$string[scene$texts$role == "tick"], value = TRUE)
  }
  expect_length(shown(), 40)
  expect_identical(shown(breaks = character()), character())
  expect_setequal(shown(breaks = c("line 31", "line 04")), c("line 04", "line 31"))
  expect_setequal(shown(every = 10), sprintf("line %02d", c(1, 11, 21, 31)))
  expect_error(shown(breaks = "line 99"), "names a level that does not exist")
  expect_error(shown(every = 2.5), "`every` is for numbers and times")
  scene <- as_scene(
    plate(panel(table, x = mass, y = dish, ink_box(), x_axis = axis_of(breaks = numeric())))
  )
  expect_false(any(scene$texts$role == "tick" & grepl("^[0-9]", scene$texts$string)))
})

test_that("neighbours of unlike ticks each have their own", {
  table <- data.frame(f = c("a", "b"), v = c(10, 90))
  bars <- function(...) panel(table, x = f, y = v, ink_bars("sum"), y_axis = axis_of(...))
  ticks <- function(...) {
    scene <- as_scene(plate(..., width = 120, height = 50))
    grep("^[0-9]", scene$texts$string[scene$texts$role == "tick"], value = TRUE)
  }
  expect_identical(
    sort(ticks(bars(breaks = c(0, 50)), bars(breaks = c(0, 30)))),
    c("0", "0", "30", "50")
  )
  expect_identical(sort(ticks(bars(breaks = c(0, 50)), bars(breaks = c(0, 50)))), c("0", "50"))
})

test_that("decimals that are asked for never make a tick say another value than its own", {
  table <- data.frame(share = 0:8 / 8, rise = 0:8)
  at <- function(...) {
    fig <- plate(
      panel(table, x = share, y = rise, ink_points(), x_axis = axis_of(...)),
      width = 90,
      height = 60
    )
    as_scene(fig)$axes[[1]]$text
  }
  expect_identical(at(format = 0), c("0", "1"))
  expect_identical(at(format = 2, every = 0.25), c("0.00", "0.25", "0.50", "0.75", "1.00"))
  short <- function(...) expect_error(at(...), "too short", class = "nelvat_error_argument")
  short(format = 1, every = 0.25)
  short(format = 0, breaks = c(0.1, 0.2))
  # Breaks that are said themselves may be rounded.
  expect_identical(at(format = 1, breaks = c(0.33, 0.66)), c("0.3", "0.7"))
})
