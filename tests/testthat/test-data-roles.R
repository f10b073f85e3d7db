# What a column is for, by its name and values: worked by hand for each rule, on both sides of each
# of its limits.

roles_of <- function(...) {
  data <- data.frame(..., check.names = FALSE, stringsAsFactors = FALSE)
  vapply(nelvat:::column_roles(data), `[[`, "", "role")
}
role_of <- function(name, values, ...) {
  data <- data.frame(values, ..., check.names = FALSE, stringsAsFactors = FALSE)
  names(data)[1] <- name
  unname(vapply(nelvat:::column_roles(data), `[[`, "", "role")[1])
}
texts <- function(n) sprintf("kind %s", strrep("x", seq_len(n)))
# As the second column of a table.
role_second <- function(name, values) {
  data <- data.frame(first = rep(c(0.5, 1.7), length.out = length(values)), values)
  names(data)[2] <- name
  unname(vapply(nelvat:::column_roles(data), `[[`, "", "role")[2])
}

test_that("text is of groups up to twelve values, of names beyond", {
  expect_identical(role_of("kind", rep(texts(12), 3)), "group")
  expect_identical(role_of("kind", rep(texts(13), 3)), "name")
  expect_identical(role_of("kind", rep(c(TRUE, FALSE), 4)), "group")
  # Each once: names of things from thirteen on, before that only where the column is called so.
  expect_identical(role_of("kind", texts(12)), "group")
  expect_identical(role_of("kind", texts(13)), "identifier")
  expect_identical(role_of("sample", texts(3)), "identifier")
  expect_identical(role_of("sample", texts(2)), "group")
  expect_identical(role_second("sample", texts(3)), "identifier")
  expect_identical(role_second("animal", texts(4)), "identifier")
})

test_that("whole numbers that count up number the rows", {
  expect_identical(role_second("nr", 1:11), "identifier")
  expect_identical(role_second("nr", c(1:10, 12L)), "measured")
  expect_identical(role_second("nr", 1:10), "measured")
  expect_identical(role_of("nr", c(3, 1, 2, 7, 9)), "identifier")
  expect_identical(role_of("x", 1:11), "identifier")
  expect_identical(role_second("x", 1:11), "measured")
  expect_identical(role_of("x", 1:10), "measured")
  expect_identical(role_second("rise", 1:11), "measured")
  expect_identical(role_second("nr (mm)", 1:11), "measured")
  expect_identical(role_second("nr", 1:11 + 0.5), "measured")
})

test_that("few whole numbers are codes", {
  uneven <- function(values, n) c(values, rep(values[1], n - length(values)))
  expect_identical(role_of("kind", uneven(1:5, 15)), "code")
  expect_identical(role_of("kind", uneven(1:5, 14)), "measured")
  expect_identical(role_of("kind", uneven(1:6, 18)), "measured")
  expect_identical(role_of("kind", uneven(c(1, 99), 12)), "code")
  expect_identical(role_of("kind", uneven(c(1, 100), 12)), "measured")
  expect_identical(role_of("kind", uneven(c(-99, 1), 12)), "code")
  expect_identical(role_of("kind", uneven(c(-100, 1), 12)), "measured")
  expect_identical(role_of("kind", uneven(c(1, 2.5), 12)), "measured")
  expect_identical(role_of("kind (mm)", uneven(c(1, 2), 12)), "measured")
})

test_that("few values, each as often, were set by whoever made the experiment", {
  expect_identical(role_of("sugar", rep(seq(0.5, 4, 0.5), 2)), "dose")
  expect_identical(role_of("sugar", rep(seq(0.5, 4.5, 0.5), 2)), "measured")
  expect_identical(role_of("sugar", rep(c(0, 5, 10), 3)), "dose")
  expect_identical(role_of("sugar", rep(c(-10, 0, 5), 3)), "dose")
  expect_identical(role_of("sugar", rep(c(0, 5, 9), 3)), "code")
  expect_identical(role_of("sugar (g)", rep(c(0, 5, 9), 3)), "dose")
  expect_identical(role_of("sugar", rep(c(0.5, 1), 6)), "measured")
  # As often: at most three times as often as the least, which is there twice.
  expect_identical(role_of("sugar", rep(c(0.5, 1, 2), c(2, 6, 2))), "dose")
  expect_identical(role_of("sugar", rep(c(0.5, 1, 2), c(2, 7, 2))), "measured")
  expect_identical(role_of("sugar", rep(c(0.5, 1, 2), c(1, 3, 2))), "measured")
  # By name up to 24 values, where they cannot be numbers of treatments.
  expect_identical(role_of("dose", rep(seq_len(24) / 2, 2)), "dose")
  expect_identical(role_of("dose", rep(seq_len(25) / 2, 2)), "measured")
  expect_identical(role_of("dose", rep(c(1:8, 11), 2)), "dose")
  expect_identical(role_of("dose", rep(c(1:8, 10), 2)), "measured")
  expect_identical(role_of("dose (mg)", rep(c(1:8, 10), 2)), "dose")
})

test_that("a time is called so, and goes on", {
  expect_identical(role_of("time", c(1, 3, 4, 9)), "time")
  expect_identical(role_of("elapsed", c(1, 3, 4, 9)), "time")
  expect_identical(role_of("reading (min)", c(1.5, 3, 4, 9)), "time")
  expect_identical(role_of("reading (mm)", c(1.5, 3, 4, 9)), "measured")
  expect_identical(role_of("time", c(9, 4, 3, 1)), "measured")
  # Eight of ten steps go on, seven do not.
  expect_identical(role_of("time", c(1, 3, 2, 4, 3.5, 5, 6, 7, 8, 9, 10)), "time")
  expect_identical(role_of("time", c(1, 3, 2, 4, 3.5, 5, 6, 7, 6.5, 9, 10)), "measured")
  expect_identical(role_of("time", rep(c(3, 1, 2.5), 4)), "time")
  expect_identical(role_of("time", c(1.5, 2, 1.5, 2, 2)), "measured")
  expect_identical(role_of("age", c(1, 3, 4, 9)), "measured")
  expect_identical(role_of("age", rep(c(1, 2, 4), 3)), "time")
  expect_identical(role_of("time", c("early", "late", "later")), "group")
  expect_identical(role_of("day", as.Date("2026-06-01") + 0:3), "moment")
})

test_that("events, answers, replicates, places and what says nothing are told", {
  expect_identical(role_of("status", rep(0:1, 5)), "event")
  expect_identical(role_of("status", rep(1:2, 5)), "event")
  expect_identical(role_of("dead", rep(c(TRUE, FALSE), 5)), "event")
  expect_identical(role_of("status", rep(c(0, 3), 5)), "code")
  expect_identical(role_of("status", rep(0:2, 5)), "code")
  expect_identical(role_of("rise", rep(0:1, 5)), "code")
  answers <- list(c(1, 2, 4, 5, 5), c(2, 2, 3, 4, 1), c(7, 0, 1, 2, 3))
  expect_identical(
    unname(roles_of(a = answers[[1]], b = answers[[2]], c = answers[[3]])),
    rep("answer", 3)
  )
  expect_false("answer" %in% roles_of(a = answers[[1]], b = answers[[2]]))
  expect_false("answer" %in% roles_of(a = answers[[1]], b = answers[[2]], c = c(8, 0, 1, 2, 3)))
  expect_false("answer" %in% roles_of(a = 1:4, b = c(2, 4, 1, 3), c = c(4, 3, 2, 1)))
  three <- c(1, 2, 3, 3, 3)
  expect_false("answer" %in% roles_of(a = three, b = rev(three), c = three[c(3, 1, 2, 4, 5)]))
  expect_identical(role_of("rep", rep(1:3, 4)), "replicate")
  expect_identical(role_of("batch", rep(c("m", "n"), 4)), "replicate")
  expect_identical(role_of("kind", rep(c("Rep 1", "rep_2"), 4)), "replicate")
  expect_identical(role_of("kind", rep(c("Rep 1", "other"), 4)), "group")
  expect_identical(role_of("rep", rep(1:24, 2)), "replicate")
  expect_identical(role_of("rep", rep(1:25, 2)), "measured")
  expect_identical(role_of("rep", rep(1:3 + 0.5, 4)), "dose")
  places <- roles_of(lon = c(11.2, 12.1, 13.4), lat = c(48.1, 49.3, 51))
  expect_identical(unname(places), c("place", "place"))
  expect_identical(
    unname(roles_of(lon = c(11.2, 12.1, 13.4), rise = c(48.1, 49.3, 51)))[1],
    "measured"
  )
  expect_identical(unname(roles_of(a = c(1.5, 2, 3), b = c(1.5, 2, 3)))[2], "repeated")
  expect_identical(unname(roles_of(a = 1.5, b = 1.5)), c("constant", "constant"))
  expect_identical(role_of("a", c(4, 4, 4)), "constant")
  expect_identical(role_of("a", c(NA, NA)), "empty")
})

test_that("subjects are there several times, or once at each time", {
  expect_identical(role_of("animal", rep(texts(3), 2)), "subject")
  expect_identical(role_of("animal", c(texts(3), texts(2))), "group")
  expect_identical(role_of("animal", rep(texts(2), 4)), "group")
  expect_identical(role_of("mouse_id", rep(11:13, 2)), "subject")
  expect_identical(role_of("sample", rep(11:13, 2)), "subject")
  expect_identical(role_of("sample", rep(texts(3), 2)), "group")
  followed <- function(k, times) {
    unname(roles_of(kind = rep(texts(k), each = times), hour = rep(seq_len(times), k))[1])
  }
  expect_identical(followed(7, 3), "subject")
  expect_identical(followed(6, 3), "group")
  expect_identical(followed(7, 2), "group")
  # Twice at one time they are groups.
  twice <- roles_of(kind = rep(texts(7), each = 3), hour = rep(c(1, 2, 2), 7))
  expect_identical(unname(twice[1]), "group")
})
