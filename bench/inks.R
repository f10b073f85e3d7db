# Statistics of inks on 1 million rows, against one pass of range() + tabulate() over the
# same columns: seconds, their ratio, and R's peak memory against the columns read. A
# swarm is of 5,000 dots. Run with `make bench`; medians of `runs` runs.

library(nelvat)
internal <- function(name) getFromNamespace(name, "nelvat")

n <- as.integer(Sys.getenv("NELVAT_BENCH_ROWS", "1000000"))
runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
set.seed(1)
x <- rnorm(n)
y <- 0.4 * x + rnorm(n)
group <- sample.int(4L, n, TRUE)
ones <- rep(1L, n)

one_pass <- function(columns) for (column in columns) {
  ends <- range(column)
  tabulate(1 + as.integer(99 * (column - ends[1]) / diff(ends)), 100)
}
ways <- list(
  hexagons = list(columns = list(x, y), run = function() {
    internal("hexagon_counts_cpp")(x, y, 5, 5)
  }),
  `2-D density` = list(
    columns = list(x, y),
    run = function() internal("density_grid")(x, y, range(x), range(y))
  ),
  histogram = list(
    columns = list(x),
    run = function() internal("histogram_counts")(x, ones, 1L, internal("histogram_breaks")(x))
  ),
  `density curve` = list(columns = list(x), run = function() internal("density_curve")(x)),
  `group summaries` = list(
    columns = list(x, group),
    run = function() internal("centre_error")(x, group, 4L, error = "ci")
  )
)
peak_mb <- function(run) {
  gc(reset = TRUE)
  before <- sum(gc()[, 2])
  run()
  sum(gc()[, 6]) - before
}
result <- do.call(
  rbind,
  lapply(names(ways), function(name) {
    way <- ways[[name]]
    seconds <- replicate(
      runs,
      c(
        pass = system.time(one_pass(way$columns))[["elapsed"]],
        ink = system.time(way$run())[["elapsed"]]
      )
    )
    read_mb <- sum(vapply(way$columns, object.size, 0)) / 2^20
    data.frame(
      statistic = name,
      pass_s = median(seconds["pass", ]),
      ink_s = median(seconds["ink", ]),
      ratio = median(seconds["ink", ] / seconds["pass", ]),
      memory_ratio = peak_mb(way$run) / read_mb
    )
  })
)
swarm_y <- sort(rnorm(5000, 50, 15))
swarm_s <- median(
  replicate(runs, system.time(internal("swarm_offsets_cpp")(swarm_y, 0.5))[["elapsed"]])
)
cat(format(n, big.mark = ","), "rows; medians of", runs, "runs, elapsed seconds\n")
print(format(result, digits = 3), row.names = FALSE)
cat("swarm of 5,000 dots: ", format(swarm_s, digits = 3), " s\n", sep = "")
