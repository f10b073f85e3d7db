# Random cases of five kinds: figures of nasty tables, figures with one of their files damaged,
# calls made from the table of words, of which everything that can be said is said; and runs of the
# command in which a system call fails (where strace is), or two at once while data change.
#   make fuzz N=10000 [SEED=1] [WORKERS=2]
# N is of all kinds together. Prints each seed that ends otherwise than with what is sound or an
# error of the package's own, within 10 s of processor time and 1 GB of vectors. What was tried is
# kept in .make: the same call again goes on where it was stopped.
suppressMessages(library(nelvat))
library(testthat)
n <- as.integer(Sys.getenv("N", "1000"))
first <- as.integer(Sys.getenv("SEED", "1"))
workers <- as.integer(Sys.getenv("WORKERS", parallel::detectCores()))
helpers <- c("fuzz", "fuzz-faults", "fuzz-words", "random", "words")
for (one in helpers) source(file.path("tests", "testthat", paste0("helper-", one, ".R")))
`%||%` <- rlang::`%||%`
invisible(mem.maxVSize(1024))
# So that 10,000 take less than an hour on two cores: a tree of words takes as long as ten figures.
shares <- c(figures = 0.516, files = 0.4, words = 0.08, faults = 0.002, twins = 0.002)
lot_size <- 50L

# Each worker damages files in a folder of its own; the seeds are dealt out in lots.
own_folder <- function() {
  folder <- tempfile()
  dir.create(folder)
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
  folder
}
cases <- list(
  figures = function(seeds) lapply(seeds, fuzz_case),
  files = function(seeds) {
    folder <- own_folder()
    on.exit(unlink(folder, recursive = TRUE))
    lapply(seeds, damage_case, folder = folder)
  },
  words = function(seeds) lapply(seeds, function(seed) tree_case(seed)$found),
  faults = function(seeds) lapply(seeds, function(seed) if (has_strace()) fault_case(seed)),
  twins = function(seeds) lapply(seeds, twin_case)
)

# A line a lot that was tried: kind, first seed, findings.
build <- utils::packageDescription("nelvat", fields = "Built")
dir.create(".make", showWarnings = FALSE)
record <- file.path(".make", paste0("fuzz-", first, "-", n, "-", make.names(build), ".txt"))
tried <- if (file.exists(record)) readLines(record) else character()
if (length(tried)) cat(length(tried), "lots were tried before\n")

try_lot <- function(what, lot) {
  found <- cases[[what]](lot)
  for (i in which(lengths(found) > 0)) cat(what, "seed", lot[i], ":", found[[i]], "\n")
  bad <- sum(lengths(found) > 0)
  cat(paste(what, lot[1], bad), "\n", file = record, append = TRUE, sep = "")
  bad
}
for (what in names(cases)) {
  seeds <- seq(first, length.out = round(n * shares[[what]]))
  # A run of the command takes as long as twenty figures.
  size <- if (what %in% c("faults", "twins")) 4L else lot_size
  lots <- unname(split(seeds, (seq_along(seeds) - 1) %/% size))
  is_tried <- function(lot) any(startsWith(tried, paste(what, lot[1], "")))
  lots <- Filter(Negate(is_tried), lots)
  of_lots <- parallel::mclapply(
    lots,
    function(lot) try_lot(what, lot),
    mc.cores = workers,
    mc.preschedule = FALSE
  )
  for (lot in lots[!vapply(of_lots, is.numeric, NA)]) {
    cat(what, "seeds", lot[1], "to", lot[length(lot)], ": R did not come back\n")
    cat(paste(what, lot[1], 1), "\n", file = record, append = TRUE, sep = "")
  }
}
findings <- sum(as.integer(sub(".* ", "", trimws(readLines(record)))))
cat(
  paste0(n, " cases from seed ", first, " (", paste(names(cases), collapse = ", "), "): "),
  findings,
  " findings\n",
  sep = ""
)
if (findings) quit(status = 1)
