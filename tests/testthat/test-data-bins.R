# Bins of numbers and of time.

test_that("bins of time are those that the calendar has", {
  set.seed(21)
  for (zone in c("UTC", "Europe/Berlin", "America/St_Johns")) {
    x <- as.POSIXct("2026-01-01", tz = zone) + sort(stats::runif(2000, 0, 400 * 86400))
    x[5] <- NA
    for (step in c("6 hours", "1 day", "1 week", "1 month", "3 months", "1 year")) {
      found <- in_bins(x, step)
      expect_identical(attr(found, "tzone"), zone)
      clock <- as.POSIXlt(x)
      bin <- switch(
        step,
        `6 hours` = paste(format(x, "%Y-%m-%d"), clock$hour %/% 6),
        `1 day` = format(x, "%Y-%m-%d"),
        `1 week` = format(x, "%G-%V"),
        `1 month` = format(x, "%Y-%m"),
        `3 months` = paste(format(x, "%Y"), quarters(x)),
        `1 year` = format(x, "%Y")
      )
      bin[is.na(x)] <- NA
      # Values of one bin, and of no other, have one middle, which lies between them or near.
      expect_identical(
        match(found, unique(found)),
        match(bin, unique(bin)),
        label = paste(zone, step)
      )
      if (step == "1 month") {
        begins <- as.POSIXct(trunc(x, "months"))
        ends <- as.POSIXct(trunc(begins + 40 * 86400, "months"))
        expect_equal(as.numeric(found), (as.numeric(begins) + as.numeric(ends)) / 2)
      }
      if (step == "1 day") {
        begins <- as.POSIXct(trunc(x, "days"))
        ends <- as.POSIXct(trunc(begins + 30 * 3600, "days"))
        expect_equal(as.numeric(found), (as.numeric(begins) + as.numeric(ends)) / 2)
      }
    }
    expect_equal(as.numeric(in_bins(x, "15 min")), floor(as.numeric(x) / 900) * 900 + 450)
  }
  # The hour that comes twice is two.
  twice <- as.POSIXct("2026-10-25 00:10", tz = "UTC") + 3600 * 0:3
  attr(twice, "tzone") <- "Europe/Berlin"
  expect_length(unique(in_bins(twice, "1 hour")), 4)
  expect_length(unique(in_bins(twice, "1 day")), 1)
})

test_that("bins of numbers and dates are those that were asked for", {
  expect_identical(in_bins(c(0, 9.99, 10, -0.1, NA), 10), c(5, 5, 15, -5, NA))
  # 0.3 / 0.1 is a little under 3.
  expect_equal(in_bins(c(0.3, 0.7, 0.29), 0.1), c(0.35, 0.75, 0.25))
  days <- as.Date("2026-02-23") + 0:13
  expect_identical(unique(in_bins(days, "1 week")), as.Date(c("2026-02-26", "2026-03-05")))
  expect_identical(in_bins(as.Date("2026-02-03"), "1 month"), as.Date("2026-02-14"))
  expect_identical(in_bins(as.Date(c("1970-01-01", NA)), "2 days"), as.Date(c("1970-01-01", NA)))
  wrong <- function(...) expect_error(in_bins(...), class = "nelvat_error_argument")
  wrong(1:3, "6 hours")
  wrong(1:3, 0)
  wrong(1:3, -1)
  wrong(1:3)
  wrong(Sys.time(), 3600)
  wrong(Sys.Date(), "6 hours")
  wrong(letters, 3)
  wrong(Sys.time(), "6 fortnights")
  wrong(Sys.time(), "0 hours")
  wrong(Sys.Date(), "0 weeks")
  wrong(Sys.time(), NA)
  expect_error(axis_of(every = "0 days"), class = "nelvat_error_argument")
  none <- as.POSIXct(character(), tz = "UTC")
  for (step in c("1 hour", "1 day", "1 month")) {
    expect_length(in_bins(none, step), 0)
    expect_identical(is.na(in_bins(none[c(1, 1)], step)), c(TRUE, TRUE))
  }
  expect_identical(
    in_bins(as.POSIXlt("2026-03-01 07:00", tz = "UTC"), "1 day"),
    as.POSIXct("2026-03-01 12:00", tz = "UTC")
  )
})

test_that("means of bins of time are said as such, in calls and files", {
  probe <- study("probe")
  fig <- plate(
    panel(probe, x = in_bins(time, "2 hours"), y = core, ink_line(centre = "mean", band = "sd")),
    width = 86
  )
  expect_match(suppressWarnings(legend_text(fig)), "in bins of 2 hours", fixed = TRUE)
  found <- suppressWarnings(source_data(fig))[[1]]
  found <- found[found$part == "line", ]
  bin <- format(probe$data$time, "%Y-%m-%d")
  bin <- paste(bin, as.POSIXlt(probe$data$time)$hour %/% 2)
  wanted <- tapply(probe$data$core, factor(bin, unique(bin)), mean, na.rm = TRUE)
  expect_equal(found$centre, as.numeric(wanted))
  folder <- folder_with(
    list(
      one.yaml = c(
        "nelvat: 1",
        paste0("data: {probe: {file: ", study_file("probe.csv.gz"), ", codebook: "),
        paste0("  ", study_file("probe.codebook.yaml"), "}}"),
        "blocks:",
        "  core:",
        "    panel:",
        "      data: probe",
        "      x: in_bins(time, \"2 hours\")",
        "      y: core",
        "      ink: {line: {centre: mean, band: sd}}",
        "plate: {place: core, width: 86}",
        "save: one.pdf"
      )
    )
  )
  of_file <- read_figure(file.path(folder, "one.yaml"))$plate
  expect_identical(suppressWarnings(legend_text(of_file)), suppressWarnings(legend_text(fig)))
})

test_that("a database's bins are those of the rows", {
  skip_if_not_installed("RSQLite")
  rows <- timed_rows()
  path <- withr::local_tempfile(fileext = ".sqlite")
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  withr::defer(DBI::dbDisconnect(connection))
  text <- rows
  text$time <- format(rows$time, "%Y-%m-%d %H:%M:%S")
  text$day <- format(rows$day)
  DBI::dbWriteTable(connection, "readings", text)
  numbers <- function(data, ...) {
    fig <- plate(panel(data, ..., y = load, ink_line(centre = "mean", band = "se")), width = 86)
    found <- source_data(fig)[[1]]
    found <- found[found$part == "line", setdiff(names(found), "load")]
    found[order(found[[2]]), -1]
  }
  with_replaced(most_fetched = 1000, class_rows = 900, {
    asked <- table_in(connection, "readings")
    for (step in c("6 hours", "1 day", "90 min", "1 week", "2 days")) {
      expect_equal(
        numbers(asked, x = in_bins(time, !!step)),
        numbers(codebook(rows), x = in_bins(time, !!step)),
        tolerance = 1e-9,
        ignore_attr = TRUE,
        label = step
      )
    }
    expect_equal(
      numbers(asked, x = in_bins(depth, 7.5)),
      numbers(codebook(rows), x = in_bins(depth, 7.5)),
      ignore_attr = TRUE
    )
    for (step in c("1 week", "2 days", "3 days")) {
      expect_equal(
        numbers(asked, x = in_bins(day, !!step)),
        numbers(codebook(rows), x = in_bins(day, !!step)),
        ignore_attr = TRUE,
        label = step
      )
    }
    said <- function(data) {
      legend_text(
        plate(panel(data, x = in_bins(time, "1 day"), y = load, ink_centre()), width = 86)
      )
    }
    expect_identical(said(asked), said(codebook(rows)))
    wrong <- function(x, class) {
      expect_error(panel(asked, x = !!rlang::enexpr(x), y = load, ink_centre()), class = class)
    }
    wrong(in_bins(time, "1 month"), "nelvat_error_engine")
    wrong(in_bins(load, "1 day"), "nelvat_error_argument")
    wrong(in_bins(time, 3), "nelvat_error_argument")
    wrong(in_bins(tine, "1 day"), "nelvat_error_column")
    wrong(in_bins(time), "nelvat_error_argument")
  })
})

test_that("times in a file's table are compared with text as R compares them", {
  skip_if_not_installed("RSQLite")
  rows <- timed_rows()
  connection <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  withr::defer(DBI::dbDisconnect(connection))
  forms <- c(spaced = "%Y-%m-%d %H:%M:%S", iso = "%Y-%m-%dT%H:%M:%SZ")
  for (form in names(forms)) {
    said <- rows
    said$time <- format(rows$time, forms[[form]])
    said$day <- format(rows$day)
    DBI::dbWriteTable(connection, form, said)
    expect_kept_alike(connection, form, rows)
  }
})
