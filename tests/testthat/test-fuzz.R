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

test_that(
  "where a system call fails or the process is killed, files are whole and the next run mends",
  {
    skip_if_not(at_length(), "runs of the command under a fault take long")
    skip_if_not(has_strace(), "there is no strace")
    for (seed in 1:4) expect_identical(fault_case(seed), NULL, label = paste("what came of", seed))
    # The check itself sees a file that is cut.
    folder <- fault_folder(fault_versions[[1]])
    withr::defer(unlink(folder, recursive = TRUE))
    writeBin(utils::head(fault_expected()[[1]][[1]], -1), file.path(folder, "one.pdf"))
    expect_match(fault_left(folder, 1:3), "one.pdf is none of what could be written")
  }
)

test_that("two runs at once, while data change, leave whole files and come to rest", {
  skip_if_not(at_length(), "runs of the command take long")
  skip_if_not_installed("callr")
  expect_identical(twin_case(1), NULL)
})
