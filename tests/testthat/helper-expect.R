# Expectations of what is as it should be, at once: testthat makes a session ready to tell a
# difference before it has looked for one, which takes longer than most of what is tested here. What
# differs is left to testthat, under the words that stand in the test.

words_of <- function(code) rlang::as_label(code)

of_two <- function(told) {
  function(
    object,
    expected,
    ...,
    label = words_of(substitute(object)),
    expected.label = words_of(substitute(expected))
  ) {
    if (identical(object, expected)) return(invisible(expect(TRUE, "")))
    told(object, expected, ..., label = label, expected.label = expected.label)
  }
}
expect_identical <- of_two(testthat::expect_identical)
expect_equal <- of_two(testthat::expect_equal)

of_one <- function(told, holds) {
  function(object, ..., label = words_of(substitute(object))) {
    if (holds(object)) return(invisible(expect(TRUE, "")))
    told(object, ..., label = label)
  }
}
expect_true <- of_one(testthat::expect_true, isTRUE)
expect_false <- of_one(testthat::expect_false, isFALSE)
