# Figures of a table that stays in its database, SQLite in a file and PostgreSQL in a server of its
# own, against the bare questions that they need, asked by hand in the same session:
# ROWS=20000000 ENGINES="sqlite postgres" Rscript bench/engine.R
suppressMessages(library(nelvat))
rows <- as.numeric(Sys.getenv("ROWS", "5e6"))
engines <- strsplit(Sys.getenv("ENGINES", "sqlite"), " ")[[1]]
source("tests/testthat/helper-server.R")

filled <- function(connection) {
  per_piece <- 1e6
  for (piece in seq_len(ceiling(rows / per_piece))) {
    set.seed(piece)
    n <- min(per_piece, rows - (piece - 1) * per_piece)
    temperature <- rnorm(n, 24, 4)
    DBI::dbWriteTable(
      connection,
      "readings",
      data.frame(
        probe = sample(letters[1:12], n, TRUE),
        temperature = temperature,
        moisture = rexp(n),
        acidity = 40 - temperature + rnorm(n)
      ),
      append = piece > 1
    )
  }
}

about <- function(...) {
  each <- paste0("COUNT(", c(...), "), MIN(", c(...), "), MAX(", c(...), ")", collapse = ", ")
  paste("SELECT", each, "FROM readings")
}
products <- function(...) {
  pairs <- utils::combn(c(...), 2)
  each <- paste0(
    "COUNT(",
    pairs[1, ],
    "), SUM(",
    pairs[1, ],
    " * ",
    pairs[2, ],
    "), SUM(",
    pairs[1, ],
    " * ",
    pairs[1, ],
    "), SUM(",
    pairs[2, ],
    " * ",
    pairs[2, ],
    ")",
    collapse = ", "
  )
  paste("SELECT", each, "FROM readings")
}
bare <- list(
  `means of 12 levels` = c(
    "SELECT AVG(moisture) FROM readings",
    paste(
      "SELECT probe, COUNT(moisture), SUM(moisture - 1), SUM((moisture - 1) * (moisture - 1)),",
      "MIN(moisture), MAX(moisture) FROM readings GROUP BY probe"
    )
  ),
  `histograms of 12 facets` = c(
    about("temperature"),
    "SELECT CAST(temperature * 30 AS INTEGER) k, COUNT(*) FROM readings GROUP BY k",
    "SELECT probe, CAST(temperature * 5 AS INTEGER) k, COUNT(*) FROM readings GROUP BY probe, k"
  ),
  `hexagons with marginals` = c(
    about("temperature", "moisture"),
    paste(
      "SELECT CAST(temperature * 10 AS INTEGER) i, CAST(moisture * 25 AS INTEGER) j, COUNT(*),",
      "AVG(temperature), AVG(moisture) FROM readings GROUP BY i, j"
    )
  ),
  `matrix of correlations` = products("temperature", "moisture", "acidity")
)
figures <- list(
  `means of 12 levels` = function(t) panel(t, x = probe, y = moisture, ink_bars(error = "se")),
  `histograms of 12 facets` = function(t) {
    facets(panel(t, x = temperature, ink_histogram()), across = probe, per_row = 4)
  },
  `hexagons with marginals` = function(t) joint(t, x = temperature, y = moisture, ink_hexagons()),
  `matrix of correlations` = function(t) {
    r <- correlations(t, c(temperature, moisture, acidity))
    panel(r, x = first, y = second, colour = r, ink_tiles())
  }
)
seconds <- function(code) system.time(code)[["elapsed"]]
# What is loaded when something is first drawn is not the table's.
first_plate <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 86)
invisible(save_plate(first_plate, tempfile(fileext = ".pdf")))

measured <- function(engine, open, make_table) {
  invisible(gc(reset = TRUE))
  before <- sum(gc()[, 2])
  for (name in names(figures)) {
    # The first question after others would read the file anew.
    DBI::dbGetQuery(open, "SELECT COUNT(*) FROM readings")
    alone <- seconds(for (question in bare[[name]]) DBI::dbGetQuery(open, question))
    whole <- seconds(
      suppressWarnings(
        suppressMessages(
          save_plate(
            plate(figures[[name]](make_table()), width = 176),
            tempfile(fileext = ".pdf")
          )
        )
      )
    )
    cat(
      sprintf(
        "%-9s %-24s SQL %6.1f s, figure %6.1f s, %.2f times\n",
        engine,
        name,
        alone,
        whole,
        whole / alone
      )
    )
  }
  cat(sprintf("%-9s memory above start: %.0f MB\n", engine, sum(gc()[, 6]) - before))
}
if ("sqlite" %in% engines) {
  path <- tempfile(fileext = ".sqlite")
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  filled(connection)
  DBI::dbDisconnect(connection)
  open <- DBI::dbConnect(RSQLite::SQLite(), path, flags = RSQLite::SQLITE_RO)
  measured("sqlite", open, function() table_in(path))
  DBI::dbDisconnect(open)
  unlink(path)
}
on_server <- function() {
  server <- local_server()
  open <- connected_to(server)
  filled(open)
  DBI::dbExecute(open, "ANALYZE readings")
  measured("postgres", open, function() table_in(open, "readings"))
}
if ("postgres" %in% engines) on_server()
