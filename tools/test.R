# Runs all tests on the installed package, or those files that NELVAT_TESTS, a pattern, names. The
# last line is the count.

Sys.setenv(TESTTHAT_MAX_FAILS = "Inf", NOT_CRAN = "true")
results <- as.data.frame(
  testthat::test_dir(
    "tests/testthat",
    filter = if (nzchar(Sys.getenv("NELVAT_TESTS"))) Sys.getenv("NELVAT_TESTS"),
    package = "nelvat",
    load_package = "installed",
    stop_on_failure = FALSE,
    reporter = testthat::SummaryReporter$new(show_praise = FALSE)
  )
)
skipped <- sum(results$skipped)
failed <- sum(results$failed) + sum(results$error)
passed <- sum(results$nb) - sum(results$failed) - skipped
if (skipped > 0) cat(skipped, "skipped; the messages above say why\n")
cat(passed, " passed, ", failed, " failed\n", sep = "")
quit(save = "no", status = if (failed > 0 || passed == 0) 1 else 0)
