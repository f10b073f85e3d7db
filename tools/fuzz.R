# Random figures of nasty tables, and as many figures with one of their files damaged: make fuzz N=10000 [SEED=1].
# Prints each seed that ends otherwise than with a sound scene or an error of the package's own.
suppressMessages(library(nelvat))
library(testthat)
n <- as.integer(Sys.getenv("N", "1000"))
first <- as.integer(Sys.getenv("SEED", "1"))
for (file in c("helper-fuzz.R", "helper-random.R")) source(file.path("tests", "testthat", file))
folder <- tempfile()
dir.create(folder)
invisible(file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder))
cases <- list(figures = fuzz_case, files = function(seed) damage_case(seed, folder))
findings <- 0L
for (what in names(cases)) for (seed in seq(first, length.out = n)) {
  said <- cases[[what]](seed)
  if (is.null(said)) next
  findings <- findings + 1L
  cat(what, "seed", seed, ":", said, "\n")
}
cat(n, "random figures and", n, "damaged files from seed", first, ":", findings, "findings\n")
if (findings) quit(status = 1)
