test_that("500 random figures of nasty tables are scenes that keep every invariant, or errors of our own", {
  for (seed in 1:500) expect_identical(fuzz_case(seed), NULL, label = paste("what came of case", seed))
})
