# Random figures of nasty tables, any number of them: make fuzz N=10000 [SEED=1]. Prints each seed that ends
# otherwise than with a sound scene or an error of the package's own.
suppressMessages(library(nelvat))
library(testthat)
n <- as.integer(Sys.getenv("N", "1000"))
first <- as.integer(Sys.getenv("SEED", "1"))
for (file in c("helper-fuzz.R", "helper-random.R")) source(file.path("tests", "testthat", file))
found <- 0L
for (seed in seq(first, length.out = n)) {
  said <- fuzz_case(seed)
  if (is.null(said)) next
  found <- found + 1L
  cat("seed", seed, ":", said, "\n")
}
cat(n, "cases from seed", first, ":", found, "findings\n")
if (found) quit(status = 1)
