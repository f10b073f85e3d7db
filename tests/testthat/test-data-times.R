ferment <- data.frame(
  at = as.POSIXct("2026-06-01 00:00", tz = "Europe/Oslo") + 0:8 * 3600,
  day = as.Date("2026-06-01") + 0:8,
  clock = as.POSIXct("1970-01-01 06:00", tz = "UTC") + 0:8 * 1800,
  rise = 1:9 * 10,
  flour = c("rye", "spelt", "wheat")
)
kept <- function(condition) {
  condition <- rlang::enexpr(condition)
  fig <- rlang::inject(plate(panel(ferment, x = at, y = rise, keep = !!condition, ink_points())))
  source_data(fig)[[1]]$rise
}

test_that("text and dates beside times are read in the zone of these, whatever the session's", {
  for (zone in c("UTC", "America/New_York", "Asia/Kolkata")) {
    withr::local_timezone(zone)
    expect_identical(kept(at > "2026-06-01 06:00"), c(80, 90))
    expect_identical(kept("2026-06-01T06:00" <= at), c(70, 80, 90))
    expect_identical(kept(at == "2026-06-01T02:00:00Z"), 50)
    expect_identical(kept(at %in% c("2026-06-01 01:00", "2026-06-01 03:00")), c(20, 40))
    expect_identical(kept(at >= "2026-06-01"), 1:9 * 10)
    expect_identical(kept(at >= as.Date("2026-06-01")), 1:9 * 10)
    expect_identical(kept(day > "2026-06-07"), c(80, 90))
    expect_identical(kept(clock < "07:00"), c(10, 20))
    expect_identical(kept(at > as_time("2026-06-01 06:00")), c(80, 90))
    expect_identical(
      kept(at > as.POSIXct("2026-06-01 06:00", tz = "Europe/Oslo")),
      c(80, 90)
    )
  }
  expect_error(kept(at > "1 June"), class = "nelvat_error_expression")
})

test_that("a file keeps the same rows in every zone", {
  folder <- withr::local_tempdir()
  write.csv(
    data.frame(at = format(ferment$at, "%Y-%m-%d %H:%M"), rise = ferment$rise),
    file.path(folder, "ferment.csv"),
    row.names = FALSE
  )
  writeLines(
    c(
      "nelvat: 1",
      "data: {ferment: {file: ferment.csv, zone: Europe/Oslo}}",
      "blocks:",
      "  rise:",
      "    panel:",
      "      data: ferment",
      "      x: at",
      "      y: rise",
      "      keep: at > \"2026-06-01 06:00\"",
      "      ink: [points, {rule: {x: \"2026-06-01 07:00\"}}]",
      "plate: {place: rise}"
    ),
    file.path(folder, "figure.yaml")
  )
  for (zone in c("UTC", "America/New_York")) {
    withr::local_timezone(zone)
    fig <- read_figure(file.path(folder, "figure.yaml"))$plate
    expect_identical(source_data(fig)[[1]]$rise, c(80, 90))
    expect_match(legend_text(fig), "line at at 2026-06-01 07:00")
  }
})

# Where marks stand, in the data's terms.
placed <- function(ink, ...) {
  fig <- plate(panel(ferment, ..., ink_points(), ink), width = 90, height = 60)
  scene <- as_scene(fig)
  primitive <- vapply(scene$marks, `[[`, "", "primitive")
  said <- which(primitive %in% c("segments", "lines", "rects"))
  table <- scene$marks[[said[length(said)]]]$table
  axis <- scene$axes[[1]]
  axis$range[1] + unlist(table[intersect(c("x0", "x1", "x"), names(table))]) * diff(axis$range)
}

test_that("positions on times are times of the axis's zone, on levels levels; nothing else", {
  noon <- as.numeric(as.POSIXct("2026-06-01 04:00", tz = "Europe/Oslo"))
  same <- list(
    "2026-06-01 04:00",
    "2026-06-01T02:00Z",
    as.POSIXct("2026-06-01 02:00", tz = "UTC")
  )
  for (place in same) {
    expect_equal(placed(ink_rule(x = place), x = at, y = rise)[[1]], noon, tolerance = 1e-9)
  }
  expect_equal(placed(ink_rule(x = "08:30"), x = clock, y = rise)[[1]], 8.5 * 3600)
  # Two levels are covered whole; an arrow goes from middle to middle.
  expect_equal(unname(placed(ink_shade(x = c("rye", "spelt")), x = flour, y = rise)), c(0.5, 2.5))
  expect_equal(
    unname(placed(ink_region(x = c("wheat", "wheat"), y = c(10, 20)), x = flour, y = rise)),
    c(2.5, 3.5)
  )
  expect_error(
    placed(ink_arrow(from = list("barley", 20), to = list("rye", 30)), x = flour, y = rise),
    class = "nelvat_error_level"
  )
  wrong <- function(...) expect_error(placed(...), class = "nelvat_error_argument")
  wrong(ink_rule(x = 20), x = at, y = rise)
  wrong(ink_rule(y = as.Date("2026-06-01")), x = at, y = rise)
  wrong(ink_shade(y = as.Date("2026-06-01") + 0:1), x = at, y = rise)
  wrong(ink_text("a", x = 20, y = 30), x = day, y = rise)
  wrong(ink_region(x = c(20, 30), y = c(10, 20)), x = day, y = rise)
  wrong(ink_arrow(from = c(20, 30), to = c(10, 20)), x = at, y = rise)
  wrong(ink_rule(x = 12), x = flour, y = rise)
  axes <- function(...) placed(ink_rule(y = 20), x = rise, y = rise, x_axis = axis_of(...))
  expect_error(axes(range = as.Date("2026-06-01") + 0:1), class = "nelvat_error_argument")
  expect_error(axes(breaks = as.Date("2026-06-01")), class = "nelvat_error_argument")
  expect_error(axes(format = "%d"), "number of decimals", class = "nelvat_error_argument")
  of_times <- function(...) placed(ink_rule(y = 20), x = at, y = rise, x_axis = axis_of(...))
  expect_error(of_times(range = c(0, 5)), "date or a time", class = "nelvat_error_argument")
  expect_error(of_times(breaks = 5), "date or a time", class = "nelvat_error_argument")
  expect_error(of_times(format = 1), "pattern of time", class = "nelvat_error_argument")
  of_levels <- function(...) placed(ink_rule(y = 20), x = flour, y = rise, x_axis = axis_of(...))
  expect_error(of_levels(format = 1), "shows levels", class = "nelvat_error_argument")
  expect_error(of_levels(padding = 0.2), "shows levels", class = "nelvat_error_argument")
  part <- function(...) as_scene(plate(panel(ferment, x = at, y = rise, ink_line()), zoom(1, ...)))
  expect_error(part(x = c(2, 4)), "date or a time", class = "nelvat_error_argument")
  expect_s3_class(part(x = c("2026-06-01 02:00", "2026-06-01 04:00")), "nelvat_scene")
})

test_that("times of day are told without a day", {
  fig <- plate(panel(ferment, x = clock, y = rise, ink_line(), ink_rule(x = "08:30")))
  expect_match(legend_text(fig), "line at clock 08:30", fixed = TRUE)
  expect_identical(source_data(fig)[[1]]$clock[1:2], c("06:00:00", "06:30:00"))
})

test_that("times without seconds are times, in files as in texts, with an offset or none", {
  path <- withr::local_tempfile(fileext = ".csv")
  read <- function(at, ...) {
    writeLines(c("at,rise", paste0(at, ",", seq_along(at))), path)
    suppressMessages(read_data(path, ...))$data$at
  }
  instant <- as.POSIXct("2026-06-01 04:30", tz = "UTC")
  expect_equal(as.numeric(read("2026-06-01 04:30")), as.numeric(instant))
  expect_equal(as.numeric(read("2026-06-01T04:30Z")), as.numeric(instant))
  expect_equal(as.numeric(read("2026-06-01 06:30+02:00")), as.numeric(instant))
  expect_equal(as.numeric(read("2026-06-01 06:30", zone = "Europe/Oslo")), as.numeric(instant))
  # Clocks that do not exist leave text.
  expect_type(read(c("2026-06-01 04:30", "2026-06-01 25:30")), "character")
})

test_that("times of R without a zone are shown as R prints them", {
  withr::local_timezone("America/New_York")
  table <- data.frame(at = as.POSIXct("2026-06-01 06:00") + 0:3 * 3600, rise = 1:4)
  fig <- plate(panel(table, x = at, y = rise, keep = at > "2026-06-01 07:30", ink_line()))
  expect_identical(as_scene(fig)$axes[[1]]$text[1], "08:00\n1 Jun")
  expect_identical(source_data(fig)[[1]]$at[1], "2026-06-01T08:00:00-04:00")
})

test_that("clocks of one digit, and times that name UTC, are times", {
  path <- withr::local_tempfile(fileext = ".csv")
  read <- function(at) {
    writeLines(c("at,rise", paste0(at, ",", seq_along(at))), path)
    as.numeric(suppressMessages(read_data(path))$data$at)
  }
  instant <- as.numeric(as.POSIXct("2026-11-03 06:00", tz = "UTC"))
  expect_equal(read(c("2026-11-03 6:00", "2026-11-03 10:00")), instant + c(0, 4 * 3600))
  expect_equal(read(c("2026-11-03 06:00:00 UTC", "2026-11-03 6:00 UTC")), rep(instant, 2))
})

test_that("a codebook's zone is that of axis, text, bins and rows kept", {
  utc <- data.frame(at = as.POSIXct("2026-06-01", tz = "UTC") + 0:8 * 3600, rise = 1:9)
  book <- codebook(utc, at = moment(zone = "Europe/Oslo"))
  fig <- plate(panel(book, x = at, y = rise, keep = at >= "2026-06-01 04:00", ink_points()))
  expect_identical(source_data(fig)[[1]]$rise, as.numeric(3:9))
  expect_match(legend_text(fig), "2026-06-01 04:00 (7 of 9)", fixed = TRUE)
  days <- panel(book, x = in_bins(at, "1 day"), y = rise, ink_line(centre = "mean"))
  expect_match(source_data(plate(days))[[1]][[2]][1], "T12:00:00+02:00", fixed = TRUE)
})

test_that("dates are compared with times as their midnight", {
  dates <- ferment[c("day", "rise")]
  noon <- as.POSIXct("2026-06-03 12:00", tz = "UTC")
  fig <- plate(panel(dates, x = day, y = rise, keep = day > noon, ink_points()))
  expect_identical(source_data(fig)[[1]]$rise, 4:9 * 10)
})

test_that("levels that are numbers are said by them, and a zoom is not along levels", {
  table <- data.frame(hydration = rep(c(60, 80, 100), each = 2), rise = 1:6)
  of_levels <- function(ink) {
    scene <- as_scene(
      plate(
        panel(table, x = ordinal(hydration), y = rise, ink_dots(), ink),
        width = 90,
        height = 60
      )
    )
    primitive <- vapply(scene$marks, `[[`, "", "primitive")
    marks <- scene$marks[[which(primitive %in% c("segments", "rects"))]]$table
    0.5 + 3 * unlist(marks[c("x0", "x1")])
  }
  expect_equal(unname(of_levels(ink_rule(x = 80))), c(2, 2))
  expect_equal(unname(of_levels(ink_rule(x = 1.5))), c(1.5, 1.5))
  expect_equal(unname(of_levels(ink_shade(x = c(60, 80)))), c(0.5, 2.5))
  expect_error(of_levels(ink_rule(x = 2)), "\"100\"", class = "nelvat_error_level")
  whole <- panel(ferment, x = flour, y = rise, ink_points())
  expect_error(
    plate(whole, zoom(1, x = c("rye", "spelt"))),
    "numbers or times",
    class = "nelvat_error_argument"
  )
})

test_that("axes that an ink brings are of numbers", {
  counted <- function(...) panel(ferment, x = flour, ink_bars(), y_axis = axis_of(...))
  expect_error(counted(format = "%d"), "number of decimals", class = "nelvat_error_argument")
  expect_error(counted(every = "1 day"), "must be a number", class = "nelvat_error_argument")
  expect_error(counted(heads = "rye"), "shows no column", class = "nelvat_error_argument")
  expect_error(counted(counts = TRUE), "shows no column", class = "nelvat_error_argument")
})
