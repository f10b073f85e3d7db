# Tables of a PostgreSQL server, which the same questions are asked as of a file.

if (at_length()) {
  have_server <- !is.null(server_programs()) && requireNamespace("RPostgres", quietly = TRUE)
  served <- if (have_server) local_server(teardown_env())
  # What one of the packages that reach a server asks a system that has no clock service.
  withr::local_envvar(TZ = "UTC", .local_envir = teardown_env())
}
few_served <- function(code) with_replaced(code, most_fetched = 1000, class_rows = 900)

test_that("a server's table gives the findings that rows give in R", {
  skip_without_server()
  connection <- connected_to(served, bigint = "numeric")
  rows <- readings()
  DBI::dbWriteTable(connection, "readings", rows)
  DBI::dbExecute(connection, "UPDATE readings SET load = 'NaN' WHERE run <= 25")
  rows$load[1:25] <- NaN
  DBI::dbExecute(connection, "CREATE VIEW seen AS SELECT * FROM readings")
  DBI::dbExecute(connection, "CREATE MATERIALIZED VIEW kept AS SELECT * FROM readings")
  DBI::dbExecute(connection, "CREATE SCHEMA lab")
  DBI::dbExecute(connection, "CREATE TABLE lab.\"odd; --\" AS SELECT * FROM readings")
  asked <- function(table) {
    table_in(
      connection,
      table,
      fields = list(
        year = list(type = "integer", categories = as.list(2021:2024)),
        load = list(title = "Load", unit = "g", show = "mg")
      )
    )
  }
  here <- codebook(
    rows,
    site = category(order = c("hill", "mill", "north")),
    year = category(),
    load = quantity("Load", unit = "g", show = "mg")
  )
  few_served({
    tables <- c("readings", "seen", "kept", "lab.odd; --")
    for (i in seq_along(exact_figures)) {
      figure <- exact_figures[[i]]
      wanted <- suppressWarnings(said_by(figure(here)))
      got <- suppressWarnings(said_by(figure(asked(tables[1 + i %% 4]))))
      expect_equal(
        unname(got),
        unname(wanted),
        tolerance = 1e-9,
        label = names(exact_figures)[i]
      )
    }
    fitted <- function(t) {
      fig <- plate(panel(t, x = load, y = twice, colour = site, ink_fit()), width = 86, height = 60)
      found <- suppressWarnings(fits(fig))
      found[order(found$colour, found$term), setdiff(names(found), "group")]
    }
    expect_equal(fitted(asked("seen")), fitted(here), tolerance = 1e-8, ignore_attr = TRUE)
    of <- function(t) correlations(t, c(temp, load, twice))$data
    expect_equal(of(asked("kept")), of(here), tolerance = 1e-8, ignore_attr = TRUE)
    boxes <- function(t) said_by(panel(t, x = site, y = whole, ink_box()))
    expect_equal(
      suppressWarnings(boxes(asked("readings"))),
      suppressWarnings(boxes(here)),
      tolerance = 1e-12
    )
  })
  expect_error(asked("reading"), "readings", class = "nelvat_error_column")
  few <- table_in(connection, "seen", sample = sample_of(300))
  sampled <- function() panel(few, x = load, y = twice, ink_points())$variables$y[[1]]$values
  expect_identical(sampled(), sampled())
  expect_length(sampled(), 300)
})

test_that("a question that is stopped there is told as stopped", {
  skip_without_server()
  connection <- connected_to(served, bigint = "numeric")
  DBI::dbExecute(
    connection,
    "CREATE VIEW endless AS SELECT a.n, a.n % 3 AS g FROM generate_series(1, 30000) AS a(n),
      generate_series(1, 30000) AS b(n)"
  )
  source <- table_in(connection, "endless")
  DBI::dbExecute(connection, "SET statement_timeout = 200")
  expect_error(
    panel(source, x = g, y = n, ink_bars()),
    "was stopped",
    class = "nelvat_error_engine"
  )
})

test_that("expressions mean on a server what they mean in R, and none ends the question", {
  skip_without_server()
  connection <- connected_to(served)
  for (data in tried_numbers()) {
    DBI::dbWriteTable(connection, "tried", cbind(data, row = seq_len(nrow(data))), overwrite = TRUE)
    source <- table_in(connection, "tried")
    columns <- nelvat:::source_columns(source, NULL)
    answer <- function(quo) {
      sql <- nelvat:::sql_of(nelvat:::in_scope(quo, names(columns)), columns, source, NULL)
      question <- paste0("SELECT ", sql, " AS v FROM tried ORDER BY row")
      nelvat:::engine_rows(source, question, NULL)$v
    }
    expect_meant_alike(answer, data)
    # Where R has no number, or none that is finite, none is there.
    for (quo in rlang::quos(a / 0, sqrt(a), log10(a), log(a), a^0.5, 0^a, exp(a), a %% 0)) {
      wanted <- suppressWarnings(as.numeric(rlang::eval_tidy(quo, data)))
      expect_equal(
        answer(quo),
        ifelse(is.finite(wanted), wanted, NA_real_),
        tolerance = 1e-9,
        label = rlang::as_label(quo)
      )
    }
  }
})

test_that("bins of time and of numbers are those of the rows", {
  skip_without_server()
  connection <- connected_to(served, bigint = "numeric")
  rows <- timed_rows()
  with_time_tables(connection, rows, c("timed", "plain"))
  numbers <- function(data, x) {
    drawn <- panel(data, x = !!x, y = load, ink_line(centre = "mean", band = "se"))
    found <- source_data(plate(drawn, width = 86))[[1]]
    found <- found[found$part == "line", setdiff(names(found), "load")]
    found[order(found[[2]]), -1]
  }
  asked_for <- rlang::exprs(
    in_bins(time, "6 hours"),
    in_bins(time, "1 day"),
    in_bins(time, "2 days"),
    in_bins(time, "1 week"),
    in_bins(depth, 7.5),
    in_bins(day, "1 week"),
    in_bins(day, "2 days")
  )
  few_served({
    for (x in asked_for) {
      wanted <- numbers(codebook(rows), x)
      for (table in c("timed", if (identical(x[[2]], quote(time))) "plain")) {
        expect_equal(
          numbers(table_in(connection, table), x),
          wanted,
          tolerance = 1e-9,
          ignore_attr = TRUE,
          label = paste(table, rlang::as_label(x))
        )
      }
    }
  })
})

test_that("a figure file names a service, and nothing is written there", {
  skip_without_server()
  connection <- connected_to(served)
  DBI::dbWriteTable(connection, "loaves", study("loaves")$data, overwrite = TRUE)
  folder <- withr::local_tempdir()
  writeLines(
    c("[lab]", paste0("host=", served), "user=postgres", "dbname=postgres"),
    file.path(folder, "services")
  )
  withr::local_envvar(PGSERVICEFILE = file.path(folder, "services"))
  path <- file.path(folder, "figure.yaml")
  figure <- function(service) {
    writeLines(
      c(
        "nelvat: 1",
        "data:",
        paste0("  loaves: {database: postgres, service: ", service, ", table: loaves}"),
        "blocks:",
        "  rise: {panel: {data: loaves, x: flour, y: rise, ink: box}}",
        "plate: {place: rise, width: 86, height: 60}",
        "save: one.pdf"
      ),
      path
    )
    read_figure(path)
  }
  read <- figure("lab")
  expect_match(legend_text(read[[1]]), "rise by flour", ignore.case = TRUE)
  # What the server holds now is not seen in files, so the figure is drawn each time.
  for (time in 1:2) {
    complained <- command_in(folder, "draw", ".")$complained
    expect_match(complained, "1 drawn, 0 unchanged", all = FALSE, label = paste("time", time))
  }
  expect_error(figure("labb"), "labb", class = "nelvat_error_engine")
  source <- nelvat:::table_of_service("lab", "loaves")
  expect_error(DBI::dbExecute(source$connection, "CREATE TABLE no (a int)"), "read-only")
  # A connection that is lost is told of.
  DBI::dbExecute(
    connection,
    paste0(
      "SELECT pg_terminate_backend(pid) FROM pg_stat_activity ",
      "WHERE pid <> pg_backend_pid() AND backend_type = 'client backend'"
    )
  )
  expect_error(panel(source, x = flour, ink_bars()), class = "nelvat_error_engine")
})

test_that("a table over two servers is summed up by both, and no rows are fetched for it", {
  skip_without_server()
  other <- local_server()
  rows <- readings()
  rows <- rows[!is.na(rows$site), ]
  here <- connected_to(served, bigint = "numeric")
  there <- connected_to(other)
  DBI::dbWriteTable(there, "parts", rows[rows$site != "north", ])
  columns <- paste(
    "(site text, year int, temp double precision, load double precision, run int,",
    "far double precision, twice double precision, whole int)"
  )
  for (statement in c(
    paste("CREATE TABLE whole", columns, "PARTITION BY LIST (site)"),
    "CREATE TABLE whole_north PARTITION OF whole FOR VALUES IN ('north')",
    "CREATE EXTENSION postgres_fdw",
    paste0(
      "CREATE SERVER other FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host '",
      other,
      # Each row that is sent costs, as it does over a network.
      "', dbname 'postgres', fdw_tuple_cost '1')"
    ),
    "CREATE USER MAPPING FOR CURRENT_USER SERVER other OPTIONS (user 'postgres')",
    paste(
      "CREATE FOREIGN TABLE whole_other PARTITION OF whole FOR VALUES IN ('hill', 'mill')",
      "SERVER other OPTIONS (table_name 'parts')"
    )
  )) {
    DBI::dbExecute(here, statement)
  }
  DBI::dbAppendTable(here, "whole_north", rows[rows$site == "north", ])
  # How many groups there will be, a planner guesses from how many values there are.
  for (column in c("load", "temp", "twice", "whole")) {
    DBI::dbExecute(
      here,
      paste("ALTER TABLE whole_other ALTER COLUMN", column, "SET (n_distinct = 20)")
    )
  }
  for (table in c("whole_north", "whole_other", "whole")) {
    DBI::dbExecute(here, paste("ANALYZE", table))
  }
  source <- table_in(here, "whole", parted_by = "site")
  book <- codebook(rows, site = category(order = c("hill", "mill", "north")))
  asked <- character()
  real <- nelvat:::engine_rows
  listening <- function(source, question, ...) {
    asked <<- c(asked, question)
    real(source, question, ...)
  }
  figures <- list(
    function(t) panel(t, x = load, ink_histogram()),
    function(t) facets(panel(t, x = load, ink_histogram()), across = site),
    function(t) panel(t, x = site, y = temp, ink_bars(error = "se")),
    function(t) panel(t, x = load, y = twice, ink_hexagons(), ink_fit()),
    function(t) panel(t, x = site, y = whole, ink_box())
  )
  with_replaced(
    engine_rows = listening,
    most_fetched = 1000,
    class_rows = 900,
    most_ranked = 500,
    code = {
      for (i in seq_along(figures)) {
        got <- suppressWarnings(said_by(figures[[i]](source)))
        wanted <- suppressWarnings(said_by(figures[[i]](book)))
        # Hexagons are counted on a grid first.
        if (i != 4) expect_equal(unname(got), unname(wanted), tolerance = 1e-9, label = i)
      }
    }
  )
  questions <- grep("GROUP BY", unique(asked), value = TRUE)
  expect_gt(length(questions), 8)
  for (question in questions) {
    plan <- DBI::dbGetQuery(here, paste("EXPLAIN (VERBOSE)", question))[[1]]
    remote <- grep("Remote SQL", plan, value = TRUE)
    expect_gt(length(remote), 0)
    expect_true(
      all(grepl("GROUP BY|count\\(|sum\\(|min\\(", remote)),
      label = substr(question, 1, 400)
    )
  }
  # Where all values differ no server sends them all to have them counted.
  for (question in unique(asked)) {
    plan <- DBI::dbGetQuery(here, paste("EXPLAIN (ANALYZE)", question))[[1]]
    sent <- grep("Foreign Scan.*actual", plan, value = TRUE)
    sent <- as.numeric(sub(".*actual[^)]*rows=([0-9]+).*", "\\1", sent))
    expect_lte(sum(sent), 2500, label = substr(question, 1, 400))
  }
})

test_that("times of a server are compared with text as R compares them, in any zone of its", {
  skip_without_server()
  connection <- connected_to(served, bigint = "numeric")
  rows <- timed_rows()
  with_time_tables(connection, rows, c("clocked", "clocked_plain"))
  for (zone in c("UTC", "America/New_York")) {
    DBI::dbExecute(connection, paste0("SET TIME ZONE '", zone, "'"))
    for (table in c("clocked", "clocked_plain")) expect_kept_alike(connection, table, rows)
  }
})
