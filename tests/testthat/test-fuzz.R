test_that(
  "500 random figures of nasty tables are scenes that keep every invariant, or errors of our own",
  {
    for (seed in 1:500) {
      expect_identical(fuzz_case(seed), NULL, label = paste("what came of case", seed))
    }
  }
)

test_that("300 damaged figures, codebooks and houses draw soundly, or are errors of our own", {
  folder <- paper_folder()
  for (seed in 1:300) {
    expect_identical(damage_case(seed, folder), NULL, label = paste("what came of damage", seed))
  }
})
