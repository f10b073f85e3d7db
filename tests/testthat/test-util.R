test_that("the nearest name is a likely slip, or none is offered", {
  near <- function(name, candidates) nelvat:::nearest_name(name, candidates)
  expect_identical(near("flower", c("flour", "rise", "volume")), "flour")
  expect_identical(near("hyd", c("hydration", "height")), "hydration")
  expect_identical(near("COLOUR", c("colour", "shape")), "colour")
  expect_null(near("zzzz", c("flour", "rise")))
  expect_null(near("x", character()))
})

test_that("an offer names the nearest, or lists what there is", {
  offer <- function(...) unname(nelvat:::offer(...))
  expect_identical(offer("ries", c("rise", "volume")), "Did you mean \"rise\"?")
  expect_identical(offer("zzzzzz", c("rise", "volume")), "There are \"rise\", \"volume\".")
  expect_identical(offer("zzzzzz", "rise"), "There is \"rise\".")
  expect_match(offer("a", character(), "column"), "no column")
})

test_that("long lists of words are cut short and the rest counted", {
  expect_identical(nelvat:::quoted(letters[1:3]), "\"a\", \"b\", \"c\"")
  expect_match(nelvat:::quoted(letters), "and 14 more$")
  expect_identical(nelvat:::counted(1, "row"), "1 row")
  expect_identical(nelvat:::counted(12000, "row"), "12,000 rows")
  expect_identical(nelvat:::counted(2, "axis", "axes"), "2 axes")
  expect_identical(nelvat:::listed(c("a", "b", "c")), "a, b and c")
  expect_identical(nelvat:::listed("a"), "a")
})

test_that("tables made and stacked fast are plain data frames", {
  made <- nelvat:::new_table(a = 1:3, b = "x")
  expect_identical(made, data.frame(a = 1:3, b = "x"))
  stacked <- nelvat:::stack_tables(list(made, NULL, made[0, ], made))
  expect_equal(stacked, rbind(made, made))
  expect_null(nelvat:::stack_tables(list(NULL)))
  expect_equal(nelvat:::table_rows(made, c(3, 1)), made[c(3, 1), ], ignore_attr = TRUE)
  expect_identical(nrow(nelvat:::table_rows(made, c(TRUE, FALSE, TRUE))), 2L)
})

test_that("rows are numbered by their combination, incomplete ones by none", {
  key <- data.frame(p = c(1, 1, 2, 1, NA), g = c("a", "b", "a", "a", "a"))
  got <- nelvat:::match_rows(key, c(TRUE, TRUE, TRUE, TRUE, FALSE))
  expect_identical(got$at, c(1L, 2L, 3L, 1L, NA))
  expect_equal(got$rows, key[1:3, ], ignore_attr = TRUE)
})

test_that("what is found is described in words", {
  describe <- nelvat:::describe_value
  expect_identical(describe("a"), "\"a\"")
  expect_identical(describe(3), "3")
  expect_identical(describe(NULL), "nothing (NULL)")
  expect_identical(describe(1:3), "an integer vector of length 3")
  expect_identical(describe(c(1, 2)), "a double vector of length 2")
  expect_identical(describe(mean), "a function")
  expect_identical(describe(data.frame(a = 1)), "a data frame of 1 row")
})

test_that("errors of figure files have their place put before them", {
  error <- tryCatch(
    nelvat:::with_place("here", nelvat:::abort_nelvat("test", "Something is wrong.")),
    error = identity
  )
  expect_s3_class(error, "nelvat_error_test")
  expect_identical(conditionMessage(error), "In here: Something is wrong.")
})

test_that(
  "positions pushed apart stay in order, apart, within their bounds, and move only where they must",
  {
    pushed <- nelvat:::pushed_apart
    expect_identical(pushed(c(1, 5, 9), 2, 10), c(1, 5, 9))
    for (at in list(c(5, 5, 5, 5), c(9.9, 9.8, 9.7), c(0.1, 0.2, 9))) {
      got <- pushed(at, 1, 10)
      expect_true(all(diff(sort(got)) >= 1 - 1e-9))
      expect_lte(max(got), 9.5 + 1e-9)
      expect_identical(order(got), order(at))
    }
  }
)

test_that("ramps are monotone in lightness, diverging ones to both sides", {
  lightness <- function(colours) farver::decode_colour(colours, to = "lab")[, 1]
  expect_true(all(diff(lightness(nelvat:::ramp_sequential(50))) < 0))
  diverging <- lightness(nelvat:::ramp_diverging(51))
  expect_true(all(diff(diverging[1:26]) > 0) && all(diff(diverging[26:51]) < 0))
  expect_identical(
    nelvat:::ramp_colours(c(0, 10), c(0, 10)),
    nelvat:::ramp_sequential(256)[c(1, 256)]
  )
  expect_identical(nelvat:::ramp_colours(5, c(5, 5)), nelvat:::ramp_colours(0.5, c(0, 1)))
})

test_that("values of bars and tiles are written with the figures they need", {
  expect_identical(
    nelvat:::number_text_each(c(12.345, -0.5, 1000, 0)),
    c("12.3", "\u22120.5", "1000", "0")
  )
  expect_identical(nelvat:::tile_text(c(1, 20, 3)), c("1", "20", "3"))
  expect_identical(nelvat:::tile_text(c(0.5, -0.25)), c("0.50", "\u22120.25"))
  expect_identical(nelvat:::tile_text(c(-0.001, 0.5, -0.005001)), c("0.00", "0.50", "\u22120.01"))
  expect_identical(nelvat:::number_text_at(c(-0.04, -0.06, 12), 1), c("0.0", "\u22120.1", "12.0"))
  withr::with_options(
    list(OutDec = ","),
    expect_identical(nelvat:::fixed_text(c(-1.25, -1e-9), 1), c("\u22121.2", "0.0"))
  )
  expect_identical(nelvat:::p_text(0.0004), "*p* < 0.001")
  expect_identical(nelvat:::p_text(0.0432), "*p* = 0.043")
  expect_null(nelvat:::p_text(NA_real_))
})

test_that("equations say signs and powers", {
  expect_identical(nelvat:::polynomial_text(c(1, -2), "*x*", 0:10), "1 \u2212 2\u2009*x*")
  expect_identical(
    nelvat:::polynomial_text(c(-1.5, 2, 0.25), "*x*", 0:10),
    "\u22121.5 + 2\u2009*x* + 0.25\u2009*x*^2^"
  )
})
