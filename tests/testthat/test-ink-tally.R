loaves <- study("loaves")

test_that("rows of numbers are those of R, each at its tick", {
  summaries <- list(
    n = function(v) length(v),
    mean = mean,
    median = stats::median,
    sum = sum
  )
  codes <- c("wheat", "spelt", "rye", "emmer")
  for (of in names(summaries)) {
    scene <- as_scene(
      plate(panel(loaves, x = flour, y = rise, ink_box(), ink_tally(of)), width = 120)
    )
    under <- scene$texts[scene$texts$role == "under", ]
    wanted <- vapply(
      codes,
      function(code) summaries[[of]](loaves$data$rise[loaves$data$flour == code]),
      0
    )
    shown <- as.numeric(gsub(",", "", under$string[order(under$x0)]))
    expect_equal(shown, unname(wanted), tolerance = 5e-3)
    axis <- scene$axes[[scene$panels$x_axis[1]]]
    expect_equal(
      sort((under$x0 + under$x1) / 2),
      scene$panels$x + axis$unit * scene$panels$w,
      tolerance = 1e-6
    )
  }
})

test_that("colours have rows of their own, several inks stand under each other", {
  scene <- as_scene(
    plate(
      panel(
        loaves,
        x = flour,
        y = rise,
        colour = hydration,
        ink_bars(),
        ink_tally(),
        ink_tally("mean sd")
      ),
      width = 150,
      height = 90
    )
  )
  expect_null(scene_faults(scene))
  names <- scene$texts$string[scene$texts$role == "under name"]
  expect_identical(sum(names == "n"), 1L)
  expect_identical(length(names), 8L)
  expect_identical(sum(scene$texts$role == "under"), 24L)
  expect_error(panel(loaves, x = rise, y = volume, ink_tally()), class = "nelvat_error_kind")
  expect_error(panel(loaves, x = flour, ink_tally("mean")), class = "nelvat_error_argument")
})

test_that("numbers of a row have as many decimals, and become smaller before they touch", {
  tally <- panel(loaves, x = flour, y = rise, ink_box(), ink_tally("mean sd"))
  numbers <- function(width) {
    scene <- as_scene(plate(tally, width = width, height = 60))
    expect_null(scene_faults(scene))
    scene$texts[scene$texts$role == "under", ]
  }
  values <- split(loaves$data$rise, factor(loaves$data$flour, c("wheat", "spelt", "rye", "emmer")))
  wanted <- vapply(
    values,
    function(v) sprintf("%.1f \u00b1 %.1f", mean(v), stats::sd(v)),
    "",
    USE.NAMES = FALSE
  )
  expect_identical(numbers(110)$string, wanted)
  expect_identical(unique(numbers(110)$size_pt), 7)
  expect_true(all(numbers(60)$size_pt < 7 & numbers(60)$size_pt >= 5.5))
  found <- tryCatch(numbers(45), nelvat_error = function(error) rlang::cnd_message(error))
  expect_match(found, "no room beside each other.*the least is 5.5 pt")
  spread <- source_data(plate(tally, width = 110))$panel$spread
  expect_equal(spread[!is.na(spread)], unname(vapply(values, stats::sd, 0)))
  texts <- function(...) nelvat:::number_text_alike(...)
  expect_identical(texts(c(40.5, 41)), c("40.5", "41.0"))
  expect_identical(texts(c(1234, 1200)), c("1234", "1200"))
  expect_identical(texts(c(-0.5, 0.25)), c("\u22120.500", "0.250"))
  expect_identical(texts(c(-1e-17, 4.25)), c("0.00", "4.25"))
  expect_identical(texts(c(5.02, 5.1), 3, c(0.004, 0.01)), c("5.020", "5.100", "0.004", "0.010"))
})

test_that("numbers stand over a panel, and beside a category on y in columns with their names", {
  over <- as_scene(
    plate(panel(loaves, x = flour, y = rise, ink_box(), ink_tally(side = "over"), heading = "All"))
  )
  numbers <- over$texts[over$texts$role == "under", ]
  heading <- over$texts[over$texts$role == "heading", ]
  expect_lt(max(numbers$y1), over$panels$y)
  expect_gt(min(numbers$y0), heading$y1)
  beside <- plate(
    marginals(
      panel(
        loaves,
        x = rise,
        y = flour,
        colour = hydration,
        ink_box(),
        ink_tally(),
        ink_tally("most", name = "Highest")
      ),
      y = ink_bars()
    ),
    width = 178,
    height = 80
  )
  scene <- as_scene(beside)
  expect_null(scene_faults(scene))
  names <- scene$texts[scene$texts$role == "under name", ]
  expect_identical(names$string, c("n", "60", "80", "100", "Highest", "60", "80", "100"))
  numbers <- scene$texts[scene$texts$role == "under", ]
  main <- scene$panels[scene$panels$role == "panel", ]
  strip <- scene$panels[scene$panels$role == "marginal", ]
  expect_gt(min(numbers$x0), strip$x + strip$w)
  axis <- scene$axes[[main$y_axis]]
  ticks <- main$y + (1 - axis$unit) * main$h
  expect_lt(max(vapply((numbers$y0 + numbers$y1) / 2, function(y) min(abs(y - ticks)), 0)), 0.01)
  # Digits of a column end on one line, under its name.
  right <- split(numbers$x1, round(numbers$x1, 3))
  expect_identical(length(right), 6L)
  expect_equal(
    sort(names$x1[!names$string %in% c("n", "Highest")]),
    as.numeric(names(right)),
    tolerance = 1e-3
  )
  highest <- tapply(loaves$data$rise, loaves$data[c("hydration", "flour")], max)
  shown <- as.numeric(numbers$string[numbers$x0 > names$x0[names$string == "Highest"] - 0.1])
  expect_setequal(shown, round(as.vector(highest), 1))
})

test_that("a column is written where it says one thing, with the house's decimal sign", {
  told <- data.frame(
    flour = rep(c("rye", "spelt"), each = 3),
    rise = c(1, 2, 4, 3, 5, 9),
    dose = rep(c(0.25, 1.5), each = 3),
    lot = 1:6
  )
  scene_of_text <- function(ink, ...) {
    as_scene(
      plate(panel(told, x = flour, y = rise, ink_points(), ink), width = 86, height = 60, ...)
    )
  }
  texts <- function(scene) scene$texts$string[scene$texts$role == "under"]
  expect_identical(texts(scene_of_text(ink_tally(text = dose))), c("0.25", "1.5"))
  comma <- house(numbers = list(decimal_mark = ","))
  expect_identical(texts(scene_of_text(ink_tally(text = dose), house = comma)), c("0,25", "1,5"))
  expect_identical(
    texts(scene_of_text(ink_tally("median quartiles", digits = 2))),
    c("2.0 (1.5 to 3.0)", "5.0 (4.0 to 7.0)")
  )
  expect_error(
    scene_of_text(ink_tally(text = lot)),
    "\"rye\".*1.*2.*3",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(told, x = rise, y = lot, ink_tally(side = "beside")),
    class = "nelvat_error_kind"
  )
})

test_that("numbers are those of their levels where panels have some levels only", {
  few <- data.frame(
    group = c("p", "p", "p", "q", "q", "q", "q"),
    kind = c("a", "b", "b", "b", "c", "c", "c"),
    value = c(1, 2, 3, 4, 10, 11, 12)
  )
  numbers <- function(design, ...) {
    scene <- as_scene(plate(facets(design, across = group, range_per = c(...)), width = 120))
    scene$texts$string[scene$texts$role == "under"]
  }
  upright <- panel(few, x = kind, y = value, ink_points(), ink_tally())
  expect_identical(numbers(upright, x = "panel"), c("1", "2", "1", "3"))
  lying <- panel(few, x = value, y = kind, ink_points(), ink_tally("mean", digits = 2))
  expect_setequal(numbers(lying, y = "panel"), c("1.0", "2.5", "4.0", "11.0"))
})

test_that("a standard deviation that does not exist is neither written nor counted", {
  alone <- data.frame(flour = c("rye", "rye", "spelt"), rise = c(1, 3, 5))
  spreads <- plate(panel(alone, x = flour, y = rise, ink_points(), ink_tally("sd")), width = 86)
  scene <- as_scene(spreads)
  expect_identical(scene$texts$string[scene$texts$role == "under"], c("1.41", "\u2013"))
  expect_match(legend_text(spreads), "standard deviation, n = 2 a number")
  expect_identical(stats::na.omit(source_data(spreads)$panel[["not drawn"]])[[1]], "one value")
})
