test_that("random plates say and show what their tables hold", {
  for (seed in seq_len(150)) {
    made <- tryCatch(suppressMessages(suppressWarnings(truth_plate(seed))), nelvat_error = identity)
    found <- if (inherits(made, "nelvat_error")) {
      rlang::cnd_message(made)
    } else {
      tryCatch(
        suppressMessages(untruths(made)),
        nelvat_error_space = function(error) NULL,
        nelvat_error_labels = function(error) NULL,
        nelvat_error_data = function(error) NULL
      )
    }
    expect_identical(found, NULL, label = paste("what is untrue of plate", seed))
  }
})

test_that("untruths that are put into a plate are found", {
  made <- NULL
  for (seed in 1:60) {
    made <- suppressMessages(suppressWarnings(truth_plate(seed)))
    if (made$parts[[1]]$ink %in% c("points", "bars") && !is.null(made$parts[[1]]$colour)) break
  }
  expect_null(suppressMessages(untruths(made)))
  lying <- made
  # Other rows than the plate was made of.
  lying$parts[[1]]$table <- lying$parts[[1]]$table[-match(FALSE, is.na(lying$parts[[1]]$table$g)), ]
  expect_false(is.null(suppressMessages(untruths(lying))))
  swapped <- made
  levels <- sort(unique(na.omit(made$parts[[1]]$table$g)))
  swapped$parts[[1]]$table$g <- rev(levels)[match(made$parts[[1]]$table$g, levels)]
  expect_match(suppressMessages(untruths(swapped)), "colour|lengths|says", all = FALSE)
})
