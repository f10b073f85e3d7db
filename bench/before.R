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
case <- readLines("bench/before-case.R")
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
