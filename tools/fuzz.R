# Random figures of nasty tables, and as many figures with one of their files damaged:
#   make fuzz N=10000 [SEED=1] [WORKERS=2]
# Prints each seed that ends otherwise than with a sound scene or an error of the package's own,
# within 10 s of processor time and 1 GB of vectors.
suppressMessages(library(nelvat))
library(testthat)
n <- as.integer(Sys.getenv("N", "1000"))
first <- as.integer(Sys.getenv("SEED", "1"))
workers <- as.integer(Sys.getenv("WORKERS", parallel::detectCores()))
for (file in c("helper-fuzz.R", "helper-random.R")) source(file.path("tests", "testthat", file))
invisible(mem.maxVSize(1024))

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
  }
)
seeds <- seq(first, length.out = n)
lots <- unname(split(seeds, (seq_along(seeds) - 1) %/% 100))
findings <- 0L
for (what in names(cases)) {
  of_lots <- parallel::mclapply(
    lots,
    function(lot) {
      found <- cases[[what]](lot)
      for (i in which(lengths(found) > 0)) cat(what, "seed", lot[i], ":", found[[i]], "\n")
      sum(lengths(found) > 0)
    },
    mc.cores = workers,
    mc.preschedule = FALSE
  )
  died <- !vapply(of_lots, is.numeric, NA)
  for (lot in lots[died]) {
    cat(what, "seeds", lot[1], "to", lot[length(lot)], ": R did not come back\n")
  }
  findings <- findings + sum(unlist(of_lots[!died])) + sum(died)
}
cat(n, "random figures and", n, "damaged files from seed", first, ":", findings, "findings\n")
if (findings) quit(status = 1)
