test_that("any two colours of a set stay apart under four kinds of vision, by the figures given", {
  distance <- function(colours) {
    d <- nelvat:::vision_distances(colours)
    min(d[upper.tri(d)])
  }
  least <- vapply(2:10, function(n) distance(house_colours(n)), 0)
  expect_true(all(least >= c(38, 30, 24, 18, 14.5, 11.5, 10, 9, 8)))
  # Each stands out from paper, by WCAG 2.2, 1.4.11.
  expect_true(all(nelvat:::white_contrast(house_colours(10)) >= 3))
  lch <- farver::decode_colour(house_colours(10), to = "oklch")
  expect_true(all(lch[, 1] > 0.355 & lch[, 1] < 0.685 & lch[, 2] > 0.065 & lch[, 2] < 0.175))
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
  expect_identical(
    nelvat:::contrasting(c("#101010", "#F0F0F0"), "#000000"),
    c("#FFFFFF", "#000000")
  )
})

test_that("an ordinal takes a ramp of its own, each level the same in a figure that lacks others", {
  for (n in 2:8) {
    colours <- nelvat:::ordinal_colours(n)
    expect_true(all(diff(farver::decode_colour(colours, to = "oklab")[, 1]) > 0))
  }
  expect_gt(min(stats::dist(farver::decode_colour(nelvat:::ordinal_colours(3), to = "lab"))), 15)
  loaves <- study("loaves")
  keys <- function(...) {
    found <- suppressWarnings(
      as_scene(
        plate(
          panel(loaves, x = rise, y = volume, colour = hydration, ..., ink_points()),
          width = 120,
          height = 60
        )
      )
    )$keys
    stats::setNames(found$colour, found$label)
  }
  all <- keys()
  expect_identical(unname(all), nelvat:::ordinal_colours(3))
  expect_identical(keys(keep = hydration > 60), all[2:3])
})

test_that("ramps have no corner in lightness, chroma or hue, and fall or rise evenly", {
  lab <- function(ramp) farver::decode_colour(ramp, to = "oklab")
  bend <- function(values) max(abs(diff(diff(values))))
  ramp <- lab(nelvat:::house_ramp(33, FALSE))
  two <- lab(nelvat:::house_ramp(33, TRUE))
  for (channel in 1:3) {
    expect_lt(bend(ramp[, channel]), 0.006)
    expect_lt(bend(two[, channel]), 0.016)
  }
  expect_true(all(diff(ramp[, 1]) < 0))
  expect_true(all(diff(two[1:17, 1]) > 0) && all(diff(two[17:33, 1]) < 0))
  # Where there is chroma enough to see it, each half of the diverging ramp is of one hue.
  hue <- farver::decode_colour(nelvat:::house_ramp(33, TRUE), to = "oklch")
  for (half in list(1:12, 22:33)) expect_lt(diff(range(hue[half, 3])), 6)
  turned <- farver::decode_colour(nelvat:::house_ramp(33, FALSE), to = "oklch")[, 3]
  expect_lt(bend(turned), 5)
})
