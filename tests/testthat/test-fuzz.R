test_that("random figures of nasty tables keep every invariant, or are errors of our own", {
  # After them such as once broke: layers of which no row is left, times within a second.
  for (seed in c(tries(200, 120), 811585, 815673, 817121, 817613, 818637)) {
    expect_identical(fuzz_case(seed), NULL, label = paste("what came of case", seed))
  }
})

test_that("damaged figures, codebooks and houses draw soundly, or are errors of our own", {
  folder <- paper_folder()
  for (seed in tries(100, 50)) {
    expect_identical(damage_case(seed, folder), NULL, label = paste("what came of damage", seed))
  }
})

test_that("whatever is said in the words of the table is drawn and told, or refused by an error", {
  for (seed in c(tries(60, 15), 950499)) {
    case <- tree_case(seed)
    expect_identical(case$found, NULL, label = paste("what came of tree", seed))
  }
})
