# Figures of a table that stays in an SQLite file, against the bare questions that they need, asked
# by hand in the same session: ROWS=5000000 Rscript bench/engine.R
suppressMessages(library(nelvat))
rows <- as.numeric(Sys.getenv("ROWS", "5e6"))
path <- tempfile(fileext = ".sqlite")
connection <- DBI::dbConnect(RSQLite::SQLite(), path)
per_piece <- 1e6
for (piece in seq_len(ceiling(rows / per_piece))) {
  set.seed(piece)
  n <- min(per_piece, rows - (piece - 1) * per_piece)
  DBI::dbWriteTable(
    connection,
    "readings",
    data.frame(
      probe = sample(letters[1:12], n, TRUE),
      temperature = rnorm(n, 24, 4),
      moisture = rexp(n)
    ),
    append = piece > 1
  )
}
DBI::dbDisconnect(connection)
invisible(gc(reset = TRUE))
before <- sum(gc()[, 2])

ask <- function(...) for (question in c(...)) DBI::dbGetQuery(open, question)
open <- DBI::dbConnect(RSQLite::SQLite(), path, flags = RSQLite::SQLITE_RO)
ends <- "SELECT COUNT(*), MIN(%1), MAX(%1) FROM readings WHERE %1 IS NOT NULL"
about <- function(column) gsub("%1", column, ends)
quartiles <- function(column) {
  sub("%1", column, "SELECT CAST(%1 * 30 AS INTEGER) k, COUNT(*) FROM readings GROUP BY k")
}
bare <- list(
  `means of 12 levels` = function() {
    ask(
      "SELECT AVG(moisture) FROM readings",
      paste(
        "SELECT probe, COUNT(moisture), SUM(moisture - 1), SUM((moisture - 1) * (moisture - 1)),",
        "MIN(moisture), MAX(moisture) FROM readings GROUP BY probe"
      )
    )
  },
  `histograms of 12 facets` = function() {
    ask(
      about("temperature"),
      quartiles("temperature"),
      "SELECT probe, CAST(temperature * 5 AS INTEGER) k, COUNT(*) FROM readings GROUP BY probe, k"
    )
  },
  `hexagons with marginals` = function() {
    ask(
      about("temperature"),
      about("moisture"),
      paste(
        "SELECT CAST(temperature * 10 AS INTEGER) i, CAST(moisture * 25 AS INTEGER) j, COUNT(*),",
        "AVG(temperature), AVG(moisture) FROM readings GROUP BY i, j"
      )
    )
  }
)
figures <- list(
  `means of 12 levels` = function(t) panel(t, x = probe, y = moisture, ink_bars(error = "se")),
  `histograms of 12 facets` = function(t) {
    facets(panel(t, x = temperature, ink_histogram()), across = probe, per_row = 4)
  },
  `hexagons with marginals` = function(t) joint(t, x = temperature, y = moisture, ink_hexagons())
)
seconds <- function(code) system.time(code)[["elapsed"]]
for (name in names(figures)) {
  alone <- seconds(bare[[name]]())
  whole <- seconds(
    suppressWarnings(
      suppressMessages(
        save_plate(
          plate(figures[[name]](table_in(path)), width = 176),
          tempfile(fileext = ".pdf")
        )
      )
    )
  )
  cat(sprintf("%-26s SQL %6.1f s, figure %6.1f s, %.2f times\n", name, alone, whole, whole / alone))
}
cat(sprintf("memory above start: %.0f MB\n", sum(gc()[, 6]) - before))
unlink(path)
