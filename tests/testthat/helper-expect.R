# Expectations of what is as it should be, at once: testthat makes a session ready to tell a
# difference before it has looked for one, which takes longer than most of what is tested here. What
# differs is left to testthat, under the words that stand in the test.

as_it_should <- function(holds, otherwise) {
  if (holds) invisible(expect(TRUE, "")) else otherwise
}
words_of <- function(code) rlang::as_label(code)

expect_identical <- function(
  object,
  expected,
  ...,
  label = words_of(substitute(object)),
  expected.label = words_of(substitute(expected))
) {
  as_it_should(
    identical(object, expected),
    testthat::expect_identical(
      object,
      expected,
      ...,
      label = label,
      expected.label = expected.label
    )
  )
}

expect_equal <- function(
  object,
  expected,
  ...,
  label = words_of(substitute(object)),
  expected.label = words_of(substitute(expected))
) {
  as_it_should(
    identical(object, expected),
    testthat::expect_equal(object, expected, ..., label = label, expected.label = expected.label)
  )
}

expect_true <- function(object, ..., label = words_of(substitute(object))) {
  as_it_should(isTRUE(object), testthat::expect_true(object, ..., label = label))
}

expect_false <- function(object, ..., label = words_of(substitute(object))) {
  as_it_should(isFALSE(object), testthat::expect_false(object, ..., label = label))
}
