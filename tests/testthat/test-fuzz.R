test_that("random figures of nasty tables keep every invariant, or are errors of our own", {
  for (seed in 1:200) {
    expect_identical(fuzz_case(seed), NULL, label = paste("what came of case", seed))
  }
})

test_that("damaged figures, codebooks and houses draw soundly, or are errors of our own", {
  folder <- paper_folder()
  for (seed in 1:100) {
    expect_identical(damage_case(seed, folder), NULL, label = paste("what came of damage", seed))
  }
})
