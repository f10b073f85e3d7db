# The same table in one PostgreSQL server and parted over two, each of one process a question as on
# a machine of its own, asked for the same figures: ROWS=5000000 Rscript bench/servers.R
suppressMessages(library(nelvat))
rows <- as.numeric(Sys.getenv("ROWS", "5e6"))
source("tests/testthat/helper-server.R")

filled <- function(connection, table, probes) {
  DBI::dbExecute(connection, "SELECT setseed(0.5)")
  DBI::dbExecute(
    connection,
    sprintf(
      paste(
        "CREATE TABLE %s AS SELECT chr(97 + %d + n %% %d) AS probe,",
        "24 + 4 * (random() + random() + random() - 1.5) AS temperature,",
        "-ln(1 - random()) AS moisture FROM generate_series(1, %d) AS n"
      ),
      table,
      min(probes),
      length(probes),
      as.integer(rows * length(probes) / 12)
    )
  )
  DBI::dbExecute(connection, paste("ANALYZE", table))
}

# A table whose probes a to f are in one server and g to l in another.
parted <- function(connection, folders) {
  DBI::dbExecute(connection, "CREATE EXTENSION postgres_fdw")
  DBI::dbExecute(
    connection,
    paste(
      "CREATE TABLE readings (probe text, temperature double precision,",
      "moisture double precision) PARTITION BY LIST (probe)"
    )
  )
  for (i in seq_along(folders)) {
    levels <- paste0("'", letters[(i - 1) * 6 + 1:6], "'", collapse = ", ")
    for (statement in c(
      paste0(
        "CREATE SERVER far%1$d FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host '%2$s', ",
        "dbname 'postgres', fdw_tuple_cost '1', async_capable 'true')"
      ),
      "CREATE USER MAPPING FOR CURRENT_USER SERVER far%1$d OPTIONS (user 'postgres')",
      paste(
        "CREATE FOREIGN TABLE part%1$d PARTITION OF readings FOR VALUES IN (%3$s)",
        "SERVER far%1$d OPTIONS (table_name 'readings')"
      ),
      "ALTER TABLE part%1$d ALTER COLUMN temperature SET (n_distinct = 200)",
      "ALTER TABLE part%1$d ALTER COLUMN moisture SET (n_distinct = 200)",
      "ANALYZE part%1$d"
    )) {
      DBI::dbExecute(connection, do.call(sprintf, list(statement, i, folders[i], levels)))
    }
  }
  DBI::dbExecute(connection, "ANALYZE readings")
}

figures <- list(
  `means of 12 levels` = function(t) panel(t, x = probe, y = moisture, ink_bars(error = "se")),
  `histograms of 12 facets` = function(t) {
    facets(panel(t, x = temperature, ink_histogram()), across = probe, per_row = 4)
  },
  `hexagons with marginals` = function(t) joint(t, x = temperature, y = moisture, ink_hexagons())
)
seconds <- function(code) system.time(code)[["elapsed"]]
on_servers <- function() {
  env <- rlang::current_env()
  lone <- connected_to(local_server(env), env)
  folders <- c(local_server(env), local_server(env))
  filled(lone, "readings", 0:11)
  filled(connected_to(folders[1], env), "readings", 0:5)
  filled(connected_to(folders[2], env), "readings", 6:11)
  asked <- connected_to(local_server(env), env)
  parted(asked, folders)
  tables <- list(
    one = function() table_in(lone, "readings"),
    two = function() table_in(asked, "readings", parted_by = "probe")
  )
  for (name in names(figures)) {
    taken <- vapply(
      rep(tables, 3),
      function(table) {
        seconds(
          suppressWarnings(
            save_plate(plate(figures[[name]](table()), width = 176), tempfile(fileext = ".pdf"))
          )
        )
      },
      0
    )
    one <- stats::median(taken[names(taken) == "one"])
    two <- stats::median(taken[names(taken) == "two"])
    cat(sprintf("%-24s one %5.1f s, two %5.1f s, %.2f times\n", name, one, two, two / one))
  }
}
# Each server works with one process, as on a machine of its own.
Sys.setenv(PGOPTIONS = "-c max_parallel_workers_per_gather=0")
on_servers()
