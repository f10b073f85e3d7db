# The package as it is now against an earlier commit of it, both installed in libraries of their
# own, each figure made in a new process, the two in turn: Rscript bench/before.R COMMIT
# Ratios are now / before; times are medians in seconds.

commit <- commandArgs(trailingOnly = TRUE)[1]
if (is.na(commit)) stop("Say a commit: Rscript bench/before.R COMMIT")
rounds <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "5"))
work <- tempfile("before")
dir.create(work)
install <- function(source, name) {
  library_path <- file.path(work, name)
  dir.create(library_path)
  system2(
    file.path(R.home("bin"), "R"),
    c("CMD", "INSTALL", "--no-docs", "--no-test-load", "-l", library_path, source),
    stdout = FALSE,
    stderr = FALSE
  )
  library_path
}
system2(
  "git",
  c("worktree", "add", "--detach", file.path(work, "tree"), commit),
  stdout = FALSE,
  stderr = FALSE
)
libraries <- c(before = install(file.path(work, "tree"), "before"), now = install(".", "now"))
system2("git", c("worktree", "remove", "--force", file.path(work, "tree")))

# Words that were called something else before are said by whichever the library knows.
case <- '
suppressMessages(library(nelvat)); options(warn = -1)
word <- function(f, now, before) if (now %in% names(formals(f))) now else before
set.seed(1)
n <- 1000
measures <- replicate(6, rnorm(n))
pairs <- expand.grid(i = 1:6, j = 1:6)
grid36 <- data.frame(
  pair = rep(sprintf("%d %d", pairs$i, pairs$j), each = n), x = as.vector(measures[, pairs$i]),
  y = as.vector(measures[, pairs$j])
)
grid100 <- data.frame(pair = rep(sprintf("p%03d", 1:100), each = 500), x = rnorm(5e4), y = rnorm(5e4))
loaves <- study("loaves"); probe <- study("probe")
per_row <- function(panel, ..., k) {
  do.call(facets, c(list(panel, ...), stats::setNames(list(k), word(facets, "per_row", "wrap"))))
}
of36 <- function() {
  plate(per_row(panel(grid36, x = x, y = y, ink_points()), across = quote(pair), k = 6), width = 178, height = 170)
}
of100 <- function() {
  plate(per_row(panel(grid100, x = x, y = y, ink_points()), across = quote(pair), k = 10), width = 178, height = 225)
}
of8 <- function() {
  slice <- panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
  six <- per_row(panel(loaves, x = flour, y = c(rise, volume, ph, acidity, firmness, moisture), ink_bars()), k = 3)
  plate(stacked(six, beside(every_pair(loaves, c(rise, volume, ph, acidity)), joint(loaves, x = rise, y = firmness)),
    beside(
      slice = slice, zoom(of = "slice", x = c(30, 50), y = c(22, 37)),
      zoom(of = "slice", x = c(50, 70), y = c(22, 37))
    ),
    beside(
      panel(probe, x = time, y = core, ink_line()),
      panel(correlations(loaves, c(rise, volume, ph)), x = first, y = second, colour = r, ink_tiles())
    )),
    width = 178, height = 340)
}
small <- function() plate(panel(loaves, x = flour, y = rise, ink_bars()), width = 80, height = 60)
path <- tempfile(fileext = ".pdf")
time <- function(code) system.time(code)[["elapsed"]]
invisible(save_plate(small(), path))
cat(
  time(as_scene(of8())), time(save_plate(of8(), path)), time(save_plate(of36(), path)),
  time(save_plate(of100(), path)), time(save_plate(small(), path))
)
'
script <- file.path(work, "case.R")
writeLines(case, script)
run <- function(library_path) {
  Sys.setenv(R_LIBS = library_path)
  as.numeric(
    strsplit(
      utils::tail(
        system2(file.path(R.home("bin"), "Rscript"), script, stdout = TRUE, stderr = FALSE),
        1
      ),
      " "
    )[[1]]
  )
}
# A small figure by the command from a cold start, against starting R and loading ggplot2.
cold_start <- function() {
  Sys.setenv(R_LIBS = libraries[["now"]])
  folder <- file.path(work, "cold")
  unlink(folder, recursive = TRUE)
  dir.create(folder)
  table <- system.file("study", "loaves.csv", package = "nelvat", lib.loc = libraries[["now"]])
  figure <- file.path(folder, "small.yaml")
  writeLines(
    c(
      "nelvat: 1",
      paste0("data: {loaves: {file: ", table, "}}"),
      "blocks: {a: {panel: {data: loaves, x: flour, y: rise, ink: bars}}}",
      "plate: {width: 80, height: 60, place: a}",
      "save: small.pdf"
    ),
    figure
  )
  command <- system.file("bin", "nelvat", package = "nelvat", lib.loc = libraries[["now"]])
  seconds <- function(...) system.time(system2(..., stdout = FALSE, stderr = FALSE))[["elapsed"]]
  drawn <- seconds(command, c("draw", figure))
  stopifnot(file.exists(file.path(folder, "small.pdf")))
  c(
    command = drawn,
    ggplot2 = seconds(file.path(R.home("bin"), "Rscript"), c("-e", shQuote("library(ggplot2)")))
  )
}
cold <- replicate(2 * rounds, cold_start())
times <- replicate(rounds, vapply(libraries, run, numeric(5)))
names <- c(
  "8 blocks, scene", "8 blocks, to PDF", "36 panels, to PDF", "100 panels, to PDF",
  "one panel, to PDF"
)
ratios <- apply(times[, "now", ] / times[, "before", ], 1, stats::median)
print(
  data.frame(
    case = names,
    before = apply(times[, "before", ], 1, stats::median),
    now = apply(times[, "now", ], 1, stats::median),
    ratio = round(ratios, 2)
  ),
  row.names = FALSE
)
cat(
  "a small figure by the command from a cold start: ",
  stats::median(cold["command", ]),
  " s, ",
  round(stats::median(cold["command", ] / cold["ggplot2", ]), 2),
  " times starting R and loading ggplot2\n",
  sep = ""
)
