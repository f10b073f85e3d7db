# Words are found by the terms of the trade, and told with what they take.

test_that("each term of the trade finds its word", {
  wanted <- c(
    ROC = "ink_classes", `Q-Q` = "ink_quantiles", `Bland-Altman` = "ink_agreement",
    ECDF = "ink_cumulative", raincloud = "ink_violin", correlation = "ink_value",
    `error bar` = "ink_bars", `small multiples` = "facets", heatmap = "ink_tiles",
    `forest plot` = "ink_estimate", caption = "legend_text", boxplot = "ink_box",
    `read csv` = "read_data", resize = "resize", `shared axis` = "share_axis", theme = "set_house",
    # By the name of an argument, or of what a house sets.
    cut_off = "ink_survival", least_panel_mm = "house", diagonal = "ink_rule"
  )
  for (term in names(wanted)) {
    expect_true(wanted[[term]] %in% words(term)$word[1:4], label = term)
  }
  expect_identical(words("ink_box")$word[1], "ink_box")
  expect_identical(words("box")$word[1], "ink_box")
  expect_error(words("qxz"), "Near it", class = "nelvat_error_argument")
  expect_error(words(""), class = "nelvat_error_argument")
  expect_error(words(3), class = "nelvat_error_argument")
})

test_that("every ink and block has terms, and every word has a help page", {
  exported <- getNamespaceExports("nelvat")
  inks <- grep("^ink_", exported, value = TRUE)
  expect_identical(
    setdiff(c(inks, "facets", "every_pair", "joint", "zoom"), words()$word),
    character()
  )
  expect_setequal(words()$word, exported)
  expect_identical(utils::capture.output(print(words()[0, ])), character())
  expect_true(all(nzchar(words()$title)))
})

test_that("a word is told with its arguments, types, and an example in R and in a file", {
  for (word in grep("^ink_", getNamespaceExports("nelvat"), value = TRUE)) {
    lines <- nelvat:::lines_of_word(word)
    text <- paste(lines, collapse = "\n")
    for (argument in setdiff(names(formals(word)), "...")) {
      expect_match(text, paste0("\n  ", argument, "( =| \\(needed\\)|:)"), label = word)
    }
    expect_match(text, "\nin R:\n", label = word)
    yaml_text <- nelvat:::yaml_example(word)
    if (!is.null(yaml_text)) {
      expect_match(yaml_text, sub("^ink_", "", word), fixed = TRUE, label = word)
      expect_no_match(yaml_text, "TRUE", label = word)
      entry <- yaml::yaml.load(yaml_text)
      expect_length(entry, 1)
    }
  }
  expect_match(
    paste(nelvat:::lines_of_word("ink_box"), collapse = "\n"),
    "notch = FALSE: true or false"
  )
})

test_that("the command prints them, one a line without a term", {
  said <- run_nelvat("words", "roc")
  expect_identical(said$status, 0L)
  expect_match(said$said, "^ink_classes\\(\\)", all = FALSE)
  all_words <- run_nelvat("words")
  expect_length(all_words$said, nrow(words()))
  expect_identical(run_nelvat("words", "qxz")$status, 1L)
})
