asked <- data.frame(
  q = rep(c("crisp", "moist"), c(10, 5)),
  a = factor(
    c(rep("no", 2), rep("partly", 4), rep("yes", 4), "no", "partly", "yes", "yes", "yes"),
    c("no", "partly", "yes"),
    ordered = TRUE
  )
)

test_that("answers are shares of their question, parted at the middle of the scale", {
  found <- source_data(plate(panel(asked, y = q, colour = a, ink_answers()), width = 86))[[1]]
  found <- found[found$part == "answers", ]
  of <- function(q, a) found[found$q == q & found$a == a, ]
  expect_equal(
    of("crisp", "no")[c("from", "to", "share")],
    data.frame(from = -40, to = -20, share = 20),
    ignore_attr = TRUE
  )
  expect_equal(
    of("crisp", "partly")[c("from", "to")],
    data.frame(from = -20, to = 20),
    ignore_attr = TRUE
  )
  expect_equal(of("moist", "yes")$to, 70)
  scene <- as_scene(plate(panel(asked, y = q, colour = a, ink_answers()), width = 86))
  axis <- scene$axes[[scene$panels$x_axis[1]]]
  expect_false(any(grepl("\u2212|-", axis$text)))
  expect_true(all(c("20", "40") %in% scene$texts$string[scene$texts$role == "value"]))
})

test_that("a middle answer can stand aside, off the scale", {
  scene <- as_scene(plate(panel(asked, y = q, colour = a, ink_answers("aside")), width = 86))
  expect_lte(max(scene$axes[[scene$panels$x_axis[1]]]$breaks), 100)
  expect_error(panel(asked, y = q, ink_answers()), class = "nelvat_error_argument")
})
