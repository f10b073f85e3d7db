# What tools/sanitize.sh runs with the checked kernels: every kernel on the worst doubles and
# strings, the tests that call kernels, and random figures.
suppressMessages(library(nelvat))
suppressMessages(library(testthat))
worst <- c(
  0,
  -0,
  1e-310,
  -1e-310,
  5e-324,
  1.7e308,
  -1.7e308,
  Inf,
  -Inf,
  NaN,
  NA,
  1,
  1,
  2^31,
  -2^31,
  2^53,
  1e-8
)
kernels <- grep("_cpp$", ls(asNamespace("nelvat")), value = TRUE)
offered <- list(
  worst,
  numeric(),
  1,
  NA_real_,
  1:3,
  integer(),
  NA_integer_,
  rep(1L, length(worst)),
  0L,
  -1L,
  100000L,
  "",
  c("a,b", "\"", "\"\n", NA),
  character(),
  raw(),
  as.raw(0:255),
  TRUE,
  list(),
  1e-300,
  1e300
)
set.seed(1)
tried <- 0L
for (kernel in kernels) {
  for (i in 1:400) {
    call <- get(kernel, asNamespace("nelvat"))
    try(
      do.call(call, lapply(formals(call), function(argument) sample(offered, 1)[[1]])),
      silent = TRUE
    )
    tried <- tried + 1L
  }
}
cat(length(kernels), "kernels,", tried, "calls\n")
for (file in c("helper-fuzz.R", "helper-random.R")) source(file.path("tests", "testthat", file))
for (seed in seq_len(as.integer(Sys.getenv("N", "300")))) invisible(fuzz_case(seed))
files <- c(
  "data-describe", "save-formats", "stat-centre-error", "stat-distributions", "util-pdf",
  "util-places", "data-awkward"
)
for (file in files) {
  told <- as.data.frame(
    test_file(
      file.path("tests", "testthat", paste0("test-", file, ".R")),
      reporter = "silent",
      stop_on_failure = FALSE,
      package = "nelvat",
      load_package = "installed"
    )
  )
  cat(file, ": ", sum(told$nb), " expectations\n", sep = "")
}
cat("Nothing was found.\n")
