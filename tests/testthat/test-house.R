test_that("any two colours of a set stay apart under four kinds of vision, by the figures given", {
  distance <- function(colours) {
    d <- nelvat:::vision_distances(colours)
    min(d[upper.tri(d)])
  }
  # Within 15 % of what a search without nesting reached: 53 for 3, 44 for 4, 24.8 for 6, 20 for 8.
  least <- vapply(2:10, function(n) distance(house_colours(n)), 0)
  expect_true(all(least >= c(55, 0.85 * 53, 0.85 * 44, 26, 0.85 * 24.8, 17, 0.85 * 20, 13, 12)))
  lightness <- farver::decode_colour(house_colours(6), to = "lab")[, 1]
  expect_gt(min(stats::dist(lightness)), 4)
  expect_true(all(nelvat:::white_contrast(house_colours(10)) >= 1.9))
})

test_that("each set is the beginning of the next, and more than there are is an error", {
  expect_identical(house_colours(3), house_colours(8)[1:3])
  expect_error(house_colours(11), class = "nelvat_error_argument")
})

test_that("colours given in a codebook are used, and must be given for all levels", {
  table <- data.frame(f = c("a", "b"), v = 1:2)
  scene_of <- function(colours) {
    book <- codebook(table, f = category(colours = colours))
    as_scene(plate(panel(book, x = v, y = v, colour = f, ink_points()), width = 80, height = 60))
  }
  expect_identical(scene_of(c(b = "#112233", a = "#445566"))$keys$colour, c("#445566", "#112233"))
  expect_error(scene_of(c(a = "#112233")), class = "nelvat_error_level")
})

test_that("the first installed family is used, and a substitute is told once", {
  expect_identical(nelvat:::house_font("DejaVu Sans")$family, "DejaVu Sans")
  nelvat:::forget_said()
  expect_message(font <- nelvat:::house_font(c("Nonesuch Grotesk", "DejaVu Sans")), "not installed")
  expect_identical(font$family, "DejaVu Sans")
  expect_no_message(nelvat:::house_font(c("Nonesuch Grotesk", "DejaVu Sans")))
})

test_that("error bars contrast with what they stand on", {
  expect_identical(nelvat:::contrasting(c("#101010", "#F0F0F0"), "#000000"), c("#FFFFFF", "#000000"))
})
