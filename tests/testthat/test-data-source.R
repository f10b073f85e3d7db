# Tables that stay in their database: what is asked there gives the findings that rows give in R.

skip_if_not_installed("RSQLite")

in_file <- function(data, name = "readings", env = parent.frame()) {
  path <- withr::local_tempfile(fileext = ".sqlite", .local_envir = env)
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbWriteTable(connection, name, data)
  DBI::dbDisconnect(connection)
  path
}

large <- readings()
large_path <- in_file(large, env = teardown_env())
year_said <- list(type = "integer", categories = as.list(2021:2024))
# Few rows are too many here.
few_fetched <- function(code) with_replaced(code, most_fetched = 1000)
asked <- function(...) {
  table_in(
    large_path,
    fields = list(
      year = year_said,
      temp = list(title = "Temperature", unit = "K"),
      load = list(title = "Load", unit = "g", show = "mg")
    ),
    ...
  )
}
in_r <- function() {
  codebook(
    large,
    site = category(order = c("hill", "mill", "north")),
    year = category(),
    temp = quantity("Temperature", unit = "K"),
    load = quantity("Load", unit = "g", show = "mg")
  )
}

test_that("the same figure of rows and of a database says the same numbers and words", {
  few_fetched({
  both <- list(there = asked(), here = in_r())
  figures <- exact_figures
  for (name in names(figures)) {
    figure <- figures[[name]]
    got <- suppressWarnings(said_by(figure(both$there)))
    wanted <- suppressWarnings(said_by(figure(both$here)))
    expect_equal(unname(got), unname(wanted), tolerance = 1e-9, label = name)
    words_of <- function(table) {
      suppressWarnings(legend_text(plate(figure(table), width = 176, height = 80)))
    }
    expect_identical(words_of(both$there), words_of(both$here), label = name)
  }
  })
})

# Of what is counted in classes, numbers are right to a share of the range; n, and what lies beyond,
# are counts.
test_that("quantiles, boxes, densities and shares from counts are those of the rows", {
  figures <- list(
    boxes = function(t) panel(t, x = site, y = temp, ink_box()),
    `boxes on a logarithmic axis` = function(t) {
      panel(t, x = site, y = log10(load), colour = year, ink_box(whiskers = c(0.05, 0.95)))
    },
    `values far off` = function(t) panel(t, x = site, y = far, ink_box(whiskers = "range")),
    violins = function(t) panel(t, x = site, y = load, ink_violin()),
    densities = function(t) panel(t, x = temp, colour = site, ink_density()),
    `ridges on a logarithmic axis` = function(t) panel(t, x = log10(load), y = site, ink_ridges()),
    medians = function(t) {
      facets(panel(t, x = year, y = load, ink_centre("median", "quartiles")), across = site)
    },
    `bars of medians` = function(t) panel(t, x = site, y = load, ink_bars("median")),
    `bins on a logarithmic axis` = function(t) panel(t, x = log10(load), ink_histogram()),
    `boxes and means` = function(t) panel(t, x = site, y = load, ink_box(), ink_centre())
  )
  with_replaced(most_fetched = 5000, class_rows = 2500, code = {
    there <- asked()
    here <- in_r()
    for (name in names(figures)) {
      got <- suppressWarnings(said_by(figures[[name]](there)))
      wanted <- suppressWarnings(said_by(figures[[name]](here)))
      expect_length(got, length(wanted))
      for (i in seq_along(wanted)) {
        numbers <- names(wanted[[i]])[vapply(wanted[[i]], is.numeric, NA)]
        counts <- intersect(numbers, "n")
        expect_equal(got[[i]][counts], wanted[[i]][counts])
        values <- wanted[[i]][setdiff(numbers, c("n", "beyond", "density", "year"))]
        span <- diff(range(unlist(values), na.rm = TRUE))
        for (column in setdiff(numbers, c("n", "beyond"))) {
          off <- abs(got[[i]][[column]] - wanted[[i]][[column]])
          span_of <- if (column == "density") max(wanted[[i]]$density, na.rm = TRUE) else span
          # A class is a five hundredth of what lies about the quartiles.
          expect_lte(max(off, na.rm = TRUE) / span_of, 0.012, label = paste(name, column))
        }
      }
    }
    box <- function(t) {
      suppressWarnings(legend_text(plate(figures$boxes(t), width = 86, height = 60)))
    }
    expect_match(
      box(there),
      "[0-9]+ values beyond them not drawn.*counted first in [0-9]+ classes .*in each group"
    )
    shares <- Filter(
      is.data.frame,
      source_data(plate(panel(there, x = load, colour = site, ink_cumulative()), width = 86))
    )[[1]]
    for (site in unique(shares$site)) {
      of_site <- shares[shares$site == site, ]
      true <- stats::ecdf(1000 * large$load[which(large$site == site)])
      # Where a class ends the share is that of the rows.
      ends <- of_site[!duplicated(of_site$load, fromLast = TRUE), ]
      expect_equal(ends$share, true(ends$load + 1e-9))
    }
  })
})

test_that("quartiles are those of the rows, in ever finer classes, of equal values, too", {
  withr::local_seed(9)
  n <- 6000
  data <- data.frame(
    even = stats::runif(n),
    far = c(stats::rnorm(n - 1), 1e9),
    often = ifelse(stats::runif(n) < 0.6, 3, stats::rnorm(n)),
    some = ifelse(stats::runif(n) < 0.2, NA, stats::rexp(n))
  )
  source <- table_in(in_file(data))
  with_replaced(most_distinct = 10, most_ranked = 20, {
    for (column in names(data)) {
      value <- sql_name(column, source)
      about <- asked_about(source, value, list(), rlang::current_env())
      known <- stats::na.omit(data[[column]])
      expect_equal(about$iqr, stats::IQR(known), label = column)
      expect_equal(about$range, range(known))
      kept <- list(where = paste(value, "< 2"))
      about <- asked_about(source, value, kept, rlang::current_env())
      expect_equal(about$iqr, stats::IQR(known[known < 2]), label = column)
    }
  })
})

test_that("moments keep their digits where the first rows lie far from the others", {
  withr::local_seed(8)
  data <- data.frame(
    g = rep(c("a", "b"), 3000),
    v = c(rep(0, 1200), 1e8 + stats::rnorm(4800)),
    w = stats::rnorm(6000)
  )
  near <- subset(data, v > 0)
  source <- table_in(in_file(data))
  few_fetched({
    drawn <- function(t) panel(t, x = g, y = v, keep = v >= 0, ink_centre(error = "sd"))
    got <- suppressWarnings(said_by(drawn(source)))[[1]]
    wanted <- suppressWarnings(said_by(drawn(codebook(data))))[[1]]
    expect_equal(got$lower, wanted$lower, tolerance = 1e-9)
    # All far from the first estimate, which is then made anew.
    moments <- nelvat:::asked_moments(
      source,
      "v",
      "v",
      list(where = "v > 0", parts = c(g = "g")),
      NULL,
      shift = 0
    )
    sd <- moments$sums$v$spread / sqrt(moments$times - 1)
    expect_equal(sd, as.vector(tapply(near$v, near$g, stats::sd)), tolerance = 1e-6)
  })
})

test_that("sums are begun anew where values lie far from the first estimate, however narrow", {
  far <- function(values) nelvat:::is_far(length(values), sum(values), sum(values^2))
  expect_true(far(c(1000, 1000.5, 1001)))
  expect_true(far(c(-1000, -1000.5, -1001)))
  expect_true(far(c(10, 10.01)))
  expect_false(far(c(10, 11, 12)))
  expect_false(far(c(5, 5, 5)))
  expect_false(far(numeric()))
})

test_that("where values are few, what is counted is exact", {
  few_fetched({
  figure <- function(t) panel(t, x = site, y = whole, ink_box(), ink_centre("median", "quartiles"))
  got <- suppressWarnings(said_by(figure(asked())))[[1]]
  wanted <- suppressWarnings(said_by(figure(in_r())))[[1]]
  numbers <- c("n", "q1", "median", "q3", "low", "high", "beyond", "centre", "lower", "upper")
  expect_equal(got[numbers], wanted[numbers], tolerance = 1e-12)
  })
})

test_that("lines and correlations from sums are those of the rows", {
  few_fetched({
    there <- asked()
    here <- in_r()
    figures <- list(
      line = function(t) {
        facets(panel(t, x = load, y = twice, ink_fit(equation = TRUE)), across = site)
      },
      hexagons = function(t) {
        panel(t, x = load, y = twice, colour = site, ink_hexagons(), ink_fit())
      },
      prediction = function(t) panel(t, x = load, y = twice, ink_fit(interval = "prediction"))
    )
    for (name in names(figures)) {
      both <- lapply(
        list(there, here),
        function(t) plate(figures[[name]](t), width = 176, height = 80)
      )
      got <- suppressWarnings(lapply(both, fits))
      expect_equal(got[[1]], got[[2]], tolerance = 1e-8, label = name)
      curves <- suppressWarnings(
        lapply(both, function(fig) {
          tables <- Filter(is.data.frame, source_data(fig))
          lapply(tables, function(table) {
            table[table$part == "curve", intersect(c("lower", "upper", "n"), names(table))]
          })
        })
      )
      expect_equal(curves[[1]], curves[[2]], tolerance = 1e-8, ignore_attr = TRUE, label = name)
    }
    columns <- quote(c(temp, load, twice, far))
    of <- function(t) correlations(t, c(temp, load, twice, far))$data
    expect_equal(of(there), of(here), tolerance = 1e-8, ignore_attr = TRUE)
    expect_error(
      correlations(there, c(temp, load), method = "kendall"),
      "ranks",
      class = "nelvat_error_engine"
    )
    expect_error(
      panel(there, x = load, y = twice, ink_fit("loess")),
      class = "nelvat_error_engine"
    )
    expect_error(
      panel(there, x = log10(load), y = twice, ink_hexagons(), ink_fit()),
      "Derive a column",
      class = "nelvat_error_engine"
    )
  })
})

test_that("a correlation of three has its p and no interval, of two it has neither, as in R", {
  of <- function(x, y) {
    about <- function(a, b) sum((a - mean(a)) * (b - mean(b)))
    nelvat:::correlation_of_sums(length(x), about(x, x), about(y, y), about(x, y))
  }
  x <- c(1, 2, 4, 3)
  y <- c(2, 1, 5, 3)
  three <- stats::cor.test(x[1:3], y[1:3])
  expect_equal(of(x[1:3], y[1:3])$r, three$estimate[[1]])
  expect_equal(of(x[1:3], y[1:3])$p, three$p.value)
  expect_true(is.na(of(x[1:3], y[1:3])$lower))
  four <- stats::cor.test(x, y)
  expect_equal(unlist(of(x, y)[c("lower", "upper")], use.names = FALSE), c(four$conf.int))
  expect_true(is.na(of(x[1:2], y[1:2])$r))
  expect_true(is.na(of(x, rep(1, 4))$r))
})

test_that("correlations are of what is kept and derived, and never of text among numbers", {
  source <- asked()
  source <- nelvat:::with_derived(
    source,
    list(half = list(quo = rlang::quo(load / 2))),
    rlang::quo(year > 2022 & load < 2),
    NULL
  )
  rows <- subset(large, year > 2022 & load < 2)
  found <- correlations(source, c(half, twice), half = TRUE)$data
  expect_equal(found$r, stats::cor(rows$load, rows$twice), tolerance = 1e-9)
  expect_identical(found$n, as.numeric(nrow(rows)))
  path <- in_file(data.frame(v = c(1:2000, NA), w = c(rnorm(2000), NA)))
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbExecute(connection, "UPDATE readings SET v = 'n.d.' WHERE v = 1500")
  DBI::dbDisconnect(connection)
  expect_error(correlations(table_in(path), c(v, w)), "n.d.", class = "nelvat_error_kind")
})

test_that("inks on axes that do not suit their question are told in the user's terms", {
  few_fetched({
    wrong <- list(
      function(t) panel(t, x = site, y = load, ink_fit()),
      function(t) panel(t, x = site, y = year, ink_hexagons()),
      function(t) panel(t, x = site, ink_box()),
      function(t) panel(t, ink_density()),
      function(t) panel(t, x = site, y = year, ink_centre("median"))
    )
    for (make in wrong) {
      expect_error(make(asked()), "needs", class = "nelvat_error_kind")
    }
    expect_error(
      panel(asked(), x = load, y = twice, ink_rule(y = 3)),
      "notes alone",
      class = "nelvat_error_engine"
    )
    # A rule over counted cells cannot say how many rows lie beyond it.
    beyond <- function(...) {
      panel(asked(), x = load, y = twice, ink_hexagons(), ink_rule(y = 3, ...))
    }
    expect_error(beyond(count = TRUE), "ink_rule", class = "nelvat_error_engine")
    expect_s3_class(suppressWarnings(beyond()), "nelvat_panel")
    many <- function() panel(asked(), x = load, y = twice, ink_box())
    error <- expect_error(many(), "of \"load\"[.]", class = "nelvat_error_engine")
    expect_false(grepl("nelvat_", conditionMessage(error)))
  })
})

test_that("matrices of a database are of quantities, and say what they cannot be asked for", {
  few_fetched({
    refused <- list(
      "which has levels" = function(t) every_pair(t, c(temp, site)),
      "on two scales" = function(t) every_pair(t, c(load, log10(load))),
      "is computed" = function(t) every_pair(t, c(temp + load, run)),
      "`ink_points\\(\\)` in a matrix" = function(t) {
        every_pair(t, c(temp, load), below = ink_points())
      },
      "on a log10 axis" = function(t) every_pair(t, c(temp, log10(load)), below = ink_fit()),
      "`ink_points\\(\\)` cannot" = function(t) {
        every_pair(t, c(temp, load), below = ink_fit(), diagonal = ink_points())
      },
      "Counts of several columns" = function(t) panel(t, y = c(temp, load), ink_histogram())
    )
    for (why in names(refused)) {
      expect_error(refused[[why]](asked()), why, class = "nelvat_error_engine")
    }
  })
  # Hexagons hold every row that has both; of a transformed axis cells are even there.
  with_replaced(
    most_fetched = 5000,
    class_rows = 2500,
    grid_cells = 2500,
    code = {
      fig <- plate(
        every_pair(asked(), c(temp, log10(load)), below = ink_hexagons(), diagonal = ink_density()),
        width = 90
      )
      found <- suppressWarnings(source_data(fig))
      hexagons <- found[[grep("load by temp", names(found))]]
      expect_equal(sum(hexagons$n), sum(!is.na(large$temp)))
      told <- legend_text(suppressWarnings(as_scene(fig)))
      expect_match(told, "30 missing values of Temperature")
      left <- suppressWarnings(proof(fig))
      expect_match(left$measured[left$rule == "rows left out"], "^30 values, 2 things more to say")
    }
  )
})

test_that("hexagons of a database count every row, and say how", {
  few_fetched({
  fig <- plate(joint(asked(), x = temp, y = load, ink_hexagons()), width = 86)
  tables <- suppressWarnings(source_data(fig))
  hexagons <- Find(function(table) is.data.frame(table) && "hexagons" %in% table$part, tables)
  expect_identical(sum(hexagons$n), sum(!is.na(large$temp)))
  expect_match(suppressWarnings(legend_text(fig)), "counted first in .*; 30 missing values")
  })
})

test_that(
  "what a database cannot be asked for is refused with a way out, before anything is fetched",
  {
    few_fetched({
      refused <- function(code, pattern) {
        expect_error(code, pattern, class = "nelvat_error_engine")
      }
      refused(panel(asked(), x = temp, y = load, ink_points()), "sample_of")
      refused(panel(asked(), x = site, y = load, ink_dots()), "6,000 rows")
      refused(panel(asked(), x = asinh(load), ink_histogram()), "Derive a column")
      refused(panel(asked(), x = site, y = load, ink_bars("mean", "bootstrap")), "6,000")
      refused(
        panel(asked(), x = part, ink_histogram(), derive = list(part = running_mean(load, 5))),
        "running_mean"
      )
      refused(panel(asked(), x = run, y = load, ink_line(centre = "mean")), "1,000 groups")
      expect_error(panel(asked(), x = lod, ink_histogram()), "load", class = "nelvat_error_column")
      expect_error(
        panel(asked(), x = load, ink_histogram(), keep = load < -1),
        class = "nelvat_error_data"
      )
    })
  }
)

test_that("a sample is the same each time, all inks draw it, and it is told", {
  few_fetched({
  few <- function(seed = 1) {
    plate(
      panel(asked(sample = sample_of(500, seed)), x = temp, y = load, ink_points()),
      width = 86,
      height = 60
    )
  }
  scene <- function(...) suppressWarnings(scene_json(as_scene(few(...))))
  expect_identical(scene(), scene())
  expect_false(identical(scene(), scene(2)))
  expect_identical(sample_of(500), sample_of(500, seed = 1))
  expect_match(suppressWarnings(legend_text(few())), "5,500 rows .*are not in the sample")
  # Kept rows that are few are fetched.
  kept <- panel(asked(), x = temp, y = load, ink_points(), keep = run %% 100 == 0)
  expect_identical(kept$n, 60L)
  })
})

test_that("expressions mean in a database what they mean in R", {
  for (data in tried_numbers()) {
    source <- table_in(in_file(data))
    columns <- nelvat:::source_columns(source, NULL)
    answer <- function(quo) {
      scoped <- nelvat:::in_scope(quo, names(columns))
      sql <- nelvat:::sql_of(scoped, columns, source, NULL)
      question <- paste0("SELECT ", sql, " AS v FROM ", source$from, " ORDER BY rowid")
      nelvat:::engine_rows(source, question, NULL)$v
    }
    expect_meant_alike(answer, data)
  }
})

test_that("quartiles that are found by counting are those of R", {
  withr::local_seed(2)
  for (values in list(stats::rnorm(26000), stats::rexp(25001)^3, round(stats::rnorm(30000) * 3))) {
    source <- table_in(in_file(data.frame(v = values)))
    about <- nelvat:::asked_about(source, "`v`", list(), NULL)
    expect_equal(about$iqr, stats::IQR(values), tolerance = 1e-12)
    expect_identical(about$n, as.numeric(length(values)))
  }
})

test_that("names of any kind, views, closed connections and files that are none", {
  odd <- data.frame(`a "b" c` = c(1.5, 2.5, 4), `x;--` = c("p", "q", "p"), check.names = FALSE)
  path <- in_file(odd, "t'; DROP TABLE x")
  source <- table_in(path)
  expect_identical(source$from, "`t'; DROP TABLE x`")
  made <- panel(source, x = `x;--`, y = `a "b" c`, ink_points())
  expect_identical(made$variables$y[[1]]$values, c(1.5, 2.5, 4))
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbExecute(connection, "CREATE VIEW seen AS SELECT * FROM \"t'; DROP TABLE x\" LIMIT 2")
  expect_identical(panel(table_in(connection, "seen"), x = `x;--`, ink_bars())$n, 2L)
  expect_error(table_in(connection), class = "nelvat_error_argument")
  expect_error(table_in(connection, "sen"), "seen", class = "nelvat_error_column")
  kept <- table_in(connection, "seen")
  DBI::dbDisconnect(connection)
  expect_error(panel(kept, x = `x;--`, ink_bars()), "closed", class = "nelvat_error_engine")
  expect_error(table_in(3), class = "nelvat_error_argument")
  expect_error(table_in("nowhere.sqlite"), class = "nelvat_error_file")
  none <- withr::local_tempfile(lines = "no database", fileext = ".sqlite")
  expect_error(suppressWarnings(table_in(none)), class = "nelvat_error_engine")
  expect_error(sample_of(0), class = "nelvat_error_argument")
  # The file is opened for reading only.
  expect_error(DBI::dbExecute(source$connection, "CREATE TABLE no (a)"), "readonly")
})

test_that("a column without any value is told as such, whatever counts it", {
  path <- in_file(data.frame(a = rep(NA_real_, 1500), b = 1:1500))
  lone <- list(ink_histogram(), ink_histogram(breaks = 0:3), ink_density(), ink_cumulative())
  refused <- function(code) {
    told <- expect_error(as_scene(plate(code, width = 86)), class = "nelvat_error_data")
    expect_match(conditionMessage(told), "1,500 missing values left out")
  }
  for (few in c(1000, 2000)) {
    with_replaced(most_fetched = few, code = {
      for (ink in lone) refused(panel(table_in(path), x = a, ink))
      refused(panel(table_in(path), x = a, y = b, ink_hexagons()))
    })
  }
})

test_that("text is read piece by piece, and a piece of another sort is told with its line", {
  by_pieces <- function(path) with_replaced(table_in(path), piece_lines = 1000)
  path <- withr::local_tempfile(fileext = ".csv")
  columns <- c("site", "year", "temp", "load", "run")
  utils::write.csv(large[seq_len(3500), columns], path, row.names = FALSE, na = "")
  source <- by_pieces(path)
  made <- panel(source, x = temp, y = load, ink_points())
  expect_equal(made$variables$y[[1]]$values, large$load[seq_len(3500)])
  lines <- readLines(path)
  lines[2500] <- sub(",[0-9.]+,([0-9]+)$", ",much,\\1", lines[2500])
  writeLines(lines, path)
  expect_error(by_pieces(path), "\"load\".*line 2,002", class = "nelvat_error_file")
})

test_that("text among numbers, and what stands for no value, is never taken for a number", {
  path <- in_file(data.frame(site = rep(c("a", "b"), 1500), v = rep(c(1.5, 2), 1500), u = 1:3000))
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbExecute(connection, "UPDATE readings SET v = 'n.d.' WHERE rowid = 2500")
  DBI::dbExecute(connection, "UPDATE readings SET u = -9999 WHERE rowid = 2000")
  DBI::dbDisconnect(connection)
  drawn_of <- function(source) panel(source, x = site, y = v, ink_centre())
  expect_error(drawn_of(table_in(path)), "1 value of it .*n.d.", class = "nelvat_error_kind")
  few_fetched(expect_error(drawn_of(table_in(path)), "n.d.", class = "nelvat_error_kind"))
  correlated <- function() correlations(table_in(path), c(v, u))
  expect_error(correlated(), "1 value of it .*n.d.", class = "nelvat_error_kind")
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbExecute(connection, "UPDATE readings SET u = x'6e6f' WHERE rowid = 2001")
  expect_error(
    panel(table_in(path), x = site, y = u, ink_centre()),
    "1 value of it",
    class = "nelvat_error_kind"
  )
  DBI::dbExecute(connection, "UPDATE readings SET u = 2001 WHERE rowid = 2001")
  DBI::dbDisconnect(connection)
  said <- table_in(
    path,
    fields = list(v = list(missingValues = "n.d."), u = list(missingValues = -9999))
  )
  expect_identical(sum(is.na(drawn_of(said)$variables$y[[1]]$values)), 1L)
  expect_gt(min(panel(said, x = u, y = u, ink_points())$variables$x$values, na.rm = TRUE), 0)
  few_fetched({
    expect_identical(sum(drawn_of(said)$variables$y[[1]]$times), 3000)
    expect_identical(drawn_of(said)$variables$y[[1]]$n_missing, 1L)
  })
  expect_error(
    table_in(path, fields = list(v = list(type = "number", groupChar = ","))),
    "for files that are read",
    class = "nelvat_error_argument"
  )
})

test_that("what needs all rows never takes the first ones for them", {
  whole <- list(
    function(t) counts(t, site),
    function(t) long_data(t, c(temp, load)),
    function(t) table_panel(t, site),
    function(t) join_data(t, t, "site")
  )
  for (make in whole) {
    expect_error(make(asked()), "stays in its database", class = "nelvat_error_engine")
  }
  few_fetched({
    means <- panel(asked(), x = site, y = load, ink_centre())
    expect_error(
      as_scene(plate(marginals(means, y = ink_histogram()), width = 86, height = 60)),
      "in the margin",
      class = "nelvat_error_engine"
    )
    joined <- function(...) {
      marginal <- ink_density(...)
      as_scene(plate(joint(asked(), x = temp, y = load, ink_hexagons(), marginal = marginal)))
    }
    expect_error(joined(bandwidth = "sheather-jones"), class = "nelvat_error_engine")
    expect_s3_class(suppressWarnings(joined()), "nelvat_scene")
    expect_error(
      panel(asked(), x = load, ink_histogram(bins = 5), ink_histogram(bins = 9)),
      "unlike bins",
      class = "nelvat_error_engine"
    )
    expect_error(
      panel(asked(), x = site, y = load, ink_centre(), order = list(site = by_statistic(load))),
      "order by statistic",
      class = "nelvat_error_engine"
    )
    expect_error(
      panel(asked(), x = site, y = load, ink_centre(), missing = fill_with(0)),
      "fill_with",
      class = "nelvat_error_engine"
    )
    # Marks of no data stand beside; levels are ordered by name, also those of facets.
    ruled <- panel(asked(), x = site, y = load, ink_bars(), ink_rule(y = 1000))
    expect_s3_class(as_scene(plate(ruled, width = 86, height = 60)), "nelvat_scene")
    ordered <- facets(
      panel(asked(), x = year, y = load, ink_centre(), order = list(site = c("north", "mill"))),
      across = site,
      order = c("mill", "north")
    )
    expect_identical(ordered$across[[1]]$kind$levels[1:2], c("mill", "north"))
  })
})

test_that("a change of the table is seen, whoever makes it", {
  path <- in_file(data.frame(site = rep(c("a", "b"), 1500), v = rep(1, 3000)))
  source <- table_in(path)
  mean_of <- function() {
    few_fetched(panel(source, x = site, y = v, ink_centre())$variables$y[[1]]$values)
  }
  expect_identical(mean_of(), c(1, 1))
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  DBI::dbExecute(connection, "UPDATE readings SET v = 3 WHERE site = 'b'")
  DBI::dbDisconnect(connection)
  expect_identical(mean_of(), c(1, 3))
})

test_that("times are times in rows and groups, and no sum is made of them", {
  timed <- data.frame(
    time = format(
      as.POSIXct("2026-03-01", tz = "UTC") + 3600 * (1:3000 %/% 10),
      "%Y-%m-%dT%H:%M:%SZ"
    ),
    load = stats::rexp(3000)
  )
  path <- in_file(timed)
  rows <- panel(table_in(path), x = time, y = load, ink_points())
  expect_identical(rows$variables$x$kind$kind, "moment")
  few_fetched({
    means <- panel(table_in(path), x = time, y = load, ink_line(centre = "mean"))
    expect_identical(means$n, 301L)
    expect_identical(means$variables$x$kind$kind, "moment")
    expect_error(
      panel(table_in(path), x = time, ink_histogram()),
      "a time",
      class = "nelvat_error_engine"
    )
  })
})

test_that("a figure file names a table that stays in its database", {
  few_fetched({
    folder <- folder_with(
      list(
        "one.yaml" = c(
          "nelvat: 1", "data:", "  readings:", "    database: sqlite", "    file: readings.sqlite",
          "    table: readings", "    fields:", "      load: {title: Load, unit: g, show: mg}",
          "    derive: {part: floor(run / 1000)}", "    keep: year != 2022",
          "blocks:", "  lines: {panel: {data: readings, x: part, y: load, colour: site,",
          "    ink: {line: {centre: mean, band: se}}}}",
          "plate: {place: lines, width: 86, height: 60}", "save: one.pdf"
        )
      )
    )
    file.copy(large_path, file.path(folder, "readings.sqlite"))
    fig <- read_figure(file.path(folder, "one.yaml"))[[1]]
    expect_match(
      suppressWarnings(legend_text(fig)),
      "Shown are rows where year \u2260 2022 (4,",
      fixed = TRUE
    )
    lines <- readLines(file.path(folder, "one.yaml"))
    writeLines(sub("table: readings", "table: reading", lines), file.path(folder, "one.yaml"))
    expect_error(
      read_figure(file.path(folder, "one.yaml")),
      "line 3.*readings",
      class = "nelvat_error"
    )
  })
})

test_that("questions that take long are told on the terminal, and wiped away", {
  told <- character()
  source <- asked()
  slow <- function(code) {
    with_replaced(
      is_watched = function() TRUE,
      quick_answers = -1,
      pause_between_figures = 60,
      code = few_fetched(code)
    )
  }
  path <- withr::local_tempfile()
  sink_to <- file(path, "w")
  sink(sink_to, type = "message")
  withr::defer({
    sink(type = "message")
    close(sink_to)
  })
  slow(panel(source, x = site, y = load, ink_bars()))
  flush(sink_to)
  told <- paste(readLines(path, warn = FALSE), collapse = "\r")
  for (what in c("asking for the ranges", "summing up by group")) expect_match(told, what)
  last <- strsplit(told, "\r")[[1]]
  expect_identical(trimws(utils::tail(last, 1)), "")
})
