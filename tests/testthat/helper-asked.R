# Tables, figures and expressions that are asked of databases and of rows in R.

readings <- function(n = 6000) {
  withr::local_seed(4)
  data <- data.frame(
    site = sample(c("north", "mill", "hill"), n, TRUE),
    year = sample(2021:2024, n, TRUE),
    temp = round(stats::rnorm(n, 1e6 + 20, 4), 3),
    load = stats::rexp(n),
    run = seq_len(n)
  )
  data$far <- c(stats::rnorm(n - 2), 1e5, -2e4)
  data$twice <- 2 * data$load + stats::rnorm(n)
  data$whole <- stats::rpois(n, 40)
  data$temp[sample(n, 30)] <- NA
  data$site[sample(n, 20)] <- NA
  data
}
# What the marks say, without the values themselves.
said_by <- function(block) {
  tables <- Filter(is.data.frame, source_data(plate(block, width = 176, height = 80)))
  lapply(tables, function(table) {
    table <- table[table$part != "values", ]
    table <- table[vapply(table, function(column) !all(is.na(column)), NA)]
    table <- as.data.frame(
      lapply(table, function(column) {
        if (is.numeric(column)) column else as.character(column)
      })
    )
    table[order(names(table))]
  })
}

exact_figures <- list(
  bins = function(t) panel(t, x = load, ink_histogram()),
  `bins that are asked for` = function(t) panel(t, x = temp, ink_histogram(width = 2)),
  `bins with values beyond` = function(t) {
    panel(t, x = load, ink_histogram(breaks = c(0.5, 1, 1.5, 2)))
  },
  `uneven bins` = function(t) panel(t, x = load, ink_histogram(breaks = c(0, 0.1, 1, 20))),
  `values on the edges of bins` = function(t) {
    panel(t, x = whole, ink_histogram(breaks = seq(20, 60, 4)))
  },
  `tenths on the edges of bins` = function(t) {
    panel(t, x = tenth, derive = list(tenth = whole / 10), ink_histogram(width = 0.1))
  },
  `bins of facets` = function(t) facets(panel(t, x = load, ink_histogram()), across = site),
  `bins by colour` = function(t) panel(t, x = load, colour = year, ink_histogram(bins = 20)),
  means = function(t) panel(t, x = site, y = temp, colour = year, ink_bars(error = "se")),
  centres = function(t) {
    facets(panel(t, x = year, y = load, ink_centre(error = "ci")), across = site)
  },
  `lying centres` = function(t) panel(t, y = site, x = load, ink_centre(error = "range")),
  counts = function(t) panel(t, x = site, colour = year, ink_bars()),
  lines = function(t) {
    panel(
      t,
      x = part,
      y = load,
      colour = site,
      ink_line(centre = "mean", band = "se"),
      derive = list(part = floor(run / 1000)),
      keep = year != 2022 & !is.na(site)
    )
  },
  `means compared` = function(t) {
    panel(t, x = site, y = load, ink_bars(error = "se"), ink_contrasts(overall = "anova"))
  },
  `means compared within levels` = function(t) {
    panel(
      t,
      x = site,
      y = load,
      colour = year,
      ink_centre(error = "sd"),
      ink_contrasts(test = "student", show = "stars"),
      keep = year > 2022
    )
  },
  `means of several columns` = function(t) {
    facets(panel(t, x = site, y = c(temp, load), ink_centre(error = "ci")))
  },
  `several columns by colour` = function(t) {
    panel(
      t,
      x = year,
      y = c(whole, twice),
      colour = measure(),
      ink_line(centre = "mean", band = "sd")
    )
  },
  `lines of several columns` = function(t) {
    facets(panel(t, x = run, y = c(temp, load), ink_fit(), keep = !is.na(site)), across = site)
  },
  `every pair` = function(t) {
    every_pair(t, c(temp, load), below = ink_fit(), diagonal = ink_histogram(), within = site)
  },
  `some pairs` = function(t) {
    every_pair(t, c(temp, run), rows = load, below = ink_fit(), missing = "complete")
  }
)

# Numbers of both signs, zero, missing, huge and whole ones, and odd texts.
tried_numbers <- function() {
  values <- c(-7.5, -7, -3, -1, -0.5, 0, 0.5, 1, 2, 3, 7, 7.5, 1e15, -1e15, NA)
  pairs <- expand.grid(a = values, b = c(-2.5, -2, -1, 1, 2, 2.5, 3, NA))
  pairs$g <- rep(c("it's", "\"q\"", "x;--", NA), length.out = nrow(pairs))
  whole <- pairs
  whole$a <- as.integer(pmin(pmax(trunc(whole$a), -1e6), 1e6))
  whole$b <- as.integer(trunc(whole$b))
  whole$b[which(whole$b == 0)] <- 5L
  list(pairs, whole)
}
limit <- 2
tried_expressions <- rlang::quos(
  a + b,
  a - b,
  -a,
  a * b,
  a / b,
  a %% b,
  a %/% b,
  abs(a),
  floor(a),
  ceiling(a),
  ifelse(a > b, a, b),
  ifelse(is.na(a), 0, a),
  a^2,
  abs(a)^0.5,
  (a + b) * 2,
  a - limit,
  sqrt(abs(a)),
  log(abs(a) + 1),
  log2(abs(a) + 1),
  log10(abs(a) + 1),
  exp(-abs(b))
)
tried_conditions <- rlang::quos(
  a > b,
  a >= b,
  a < b,
  a <= b,
  a == b,
  a != b,
  a > 0 & b > 0,
  a > 0 | b > 0,
  !(a > 0),
  is.na(a),
  !is.na(a),
  a %in% c(1, 2, 7.5),
  g == "it's",
  g %in% c("\"q\"", "x;--"),
  g != "x;--",
  !(a > 0 & b > limit)
)

# answer: of a quosure, what the database says.
expect_meant_alike <- function(answer, data) {
  for (quo in tried_expressions) {
    wanted <- as.numeric(rlang::eval_tidy(quo, data))
    expect_equal(as.numeric(answer(quo)), wanted, label = rlang::as_label(quo))
  }
  for (quo in tried_conditions) {
    wanted <- rlang::eval_tidy(quo, data)
    expect_identical(as.logical(answer(quo)), wanted, label = rlang::as_label(quo))
  }
}

# Readings over a month, with their time, day and depth.
timed_rows <- function() {
  set.seed(3)
  rows <- data.frame(
    time = as.POSIXct("2026-02-20", tz = "UTC") + round(stats::runif(3000, 0, 30 * 86400)),
    depth = stats::runif(3000, -20, 80),
    load = stats::rexp(3000)
  )
  rows$day <- as.Date(rows$time)
  rows
}

# A server's table of times with their zone, and a view of it without.
with_time_tables <- function(connection, rows, names) {
  DBI::dbWriteTable(connection, names[1], rows, field.types = c(time = "timestamptz"))
  DBI::dbExecute(
    connection,
    paste(
      "CREATE VIEW",
      names[2],
      "AS SELECT depth, load, day, time AT TIME ZONE 'UTC' AS time FROM",
      names[1]
    )
  )
}

# Of each condition on times the rows that a database keeps are those that R keeps.
expect_kept_alike <- function(connection, table, rows) {
  half <- rows$time[order(rows$time)[1500]]
  conditions <- rlang::exprs(
    time > !!format(half, "%Y-%m-%d %H:%M:%S"),
    time >= !!format(half, "%Y-%m-%dT%H:%M:%SZ"),
    time == !!format(half, "%Y-%m-%d %H:%M:%S"),
    !!format(half, "%Y-%m-%d %H:%M") <= time,
    time != "2026-03-01 06:00",
    time < "2026-03-01",
    time %in% !!format(half + 0:1, "%Y-%m-%d %H:%M:%S"),
    time > !!half & time <= as.POSIXct("2026-03-10", tz = "UTC"),
    time > as.Date("2026-03-01"),
    day > "2026-03-01"
  )
  n <- function(data, condition) {
    design <- panel(data, x = depth, keep = !!condition, ink_histogram(breaks = c(-20, 30, 80)))
    bars <- source_data(plate(design, width = 86))[[1]]
    sum(bars$n, na.rm = TRUE)
  }
  for (condition in conditions) {
    expect_equal(
      n(table_in(connection, table), condition),
      n(codebook(rows), condition),
      label = paste(table, rlang::as_label(condition))
    )
  }
  expect_error(n(table_in(connection, table), quote(time > "noon")), class = "nelvat_error")
}
