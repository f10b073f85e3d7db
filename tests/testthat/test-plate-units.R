# One unit an axis variable; positions with their unit.

in_mm <- codebook(data.frame(x = 1:5, m = c(1, 5, 9, 20, 4)), m = quantity("Rise", unit = "mm"))
in_cm <- codebook(data.frame(x = 1:5, m = c(1, 2, 9, 3, 4) / 10), m = quantity("Rise", unit = "cm"))
dots <- function(book, ...) panel(book, x = x, y = m, ink_points(), ...)

test_that("a variable in two units is shown in the first block's, or refused", {
  fig <- plate(dots(in_mm), dots(in_cm), width = 140, height = 60)
  scene <- as_scene(fig)
  titles <- unlist(lapply(scene$axes, `[[`, "title"))
  expect_true(all(titles[grepl("Rise", titles)] == "Rise (mm)"))
  expect_equal(source_data(fig)[[2]]$m, c(1, 2, 9, 3, 4))
  # The marks of both stand on one range.
  y <- scene$axes[scene$panels$y_axis]
  expect_identical(y[[1]]$range, y[[2]]$range)
  heights <- lapply(scene$marks, function(one) y[[1]]$range[1] + one$table$y * diff(y[[1]]$range))
  expect_equal(heights[[2]], c(1, 2, 9, 3, 4))
  in_kg <- codebook(in_cm$data, m = quantity("Rise", unit = "kg"))
  expect_error(plate(dots(in_mm), dots(in_kg)), "cannot be converted", class = "nelvat_error_unit")
  # Another variable of the same column is another one, with a range of its own.
  other <- codebook(in_cm$data, m = quantity("Mass", unit = "kg"))
  scene <- as_scene(plate(dots(in_mm), dots(other), width = 140, height = 60))
  y <- scene$axes[scene$panels$y_axis]
  expect_false(identical(y[[1]]$range, y[[2]]$range))
  expect_identical(y[[2]]$title, "Mass (kg)")
})

test_that("positions with a unit are converted, bare ones in an unlike unit refused", {
  fig <- plate(
    host = dots(
      in_mm,
      ink_rule(y = "1 cm"),
      y_axis = axis_of(range = c("0 mm", "3 cm"), breaks = c("0 mm", "1 cm", "2 cm"))
    ),
    dots(in_cm, ink_rule(y = "0.2 cm")),
    zoom("host", y = c("0.3 cm", "1 cm")),
    width = 170,
    height = 60
  )
  scene <- as_scene(fig)
  y <- scene$axes[scene$panels$y_axis]
  expect_identical(y[[1]]$range, c(0, 30))
  expect_identical(y[[1]]$breaks, c(0, 10, 20))
  expect_identical(y[[3]]$range, c(3, 10))
  expect_match(legend_text(fig), "line at Rise 10\u00a0mm")
  expect_match(legend_text(fig), "line at Rise 2\u00a0mm")
  expect_error(
    plate(dots(in_mm), dots(in_cm, ink_rule(y = 0.2))),
    "\"0.2 cm\"",
    class = "nelvat_error_unit"
  )
  expect_error(dots(in_mm, ink_rule(y = "10 kg")), class = "nelvat_error_unit")
  expect_error(dots(in_mm, ink_rule(x = "10 mm")), "no unit", class = "nelvat_error_unit")
  expect_error(
    dots(in_mm, y_axis = axis_of(range = c("3 cm", "1 mm"))),
    "rise",
    class = "nelvat_error"
  )
})

test_that("another shown unit over bare positions is an error that gives them with theirs", {
  shown <- function(unit) list(m = quantity("Rise", unit = "mm", show = unit))
  bare <- dots(in_mm, ink_rule(y = 10))
  expect_error(change(bare, codebook = shown("cm")), "\"10 mm\"", class = "nelvat_error_unit")
  ranged <- dots(in_mm, y_axis = axis_of(range = c(0, 25)))
  expect_error(
    change(ranged, codebook = shown("cm")),
    "\"0 mm\" and \"25 mm\"",
    class = "nelvat_error_unit"
  )
  said <- change(dots(in_mm, ink_rule(y = "10 mm")), codebook = shown("cm"))
  expect_match(legend_text(plate(said, width = 80, height = 60)), "line at Rise 1\u00a0cm")
  expect_silent(change(bare, codebook = list(m = quantity("Rise of loaves", unit = "mm"))))
})

test_that("logarithmic units are no multiples of others", {
  expect_error(
    quantity("Power", unit = "dBm", show = "mW"),
    "logarithm",
    class = "nelvat_error_unit"
  )
  expect_error(quantity("Gain", unit = "dB", show = "1"), class = "nelvat_error_unit")
  expect_silent(quantity("Temperature", unit = "\u00b0C", show = "K"))
})

test_that("texts and rules stand at levels by code or shown name", {
  loaves <- study("loaves")
  at <- function(...) {
    scene <- as_scene(
      plate(panel(loaves, x = flour, y = rise, ink_dots(), ...), width = 90, height = 70)
    )
    scene$texts[scene$texts$string == "here", ]
  }
  by_name <- at(ink_text("here", "Spelt", 60, anchor = "middle"))
  expect_equal(by_name, at(ink_text("here", "spelt", 60, anchor = "middle")))
  expect_equal(by_name, at(ink_text("here", 2, 60, anchor = "middle")))
  said <- legend_text(
    plate(
      panel(loaves, x = flour, y = rise, ink_dots(), ink_rule(x = "Rye")),
      width = 90,
      height = 70
    )
  )
  expect_match(said, "line at flour Rye")
  expect_error(at(ink_text("here", "Spellt", 60)), "spelt", class = "nelvat_error_level")
  expect_error(
    at(ink_text("here", "Spelt", "Rye")),
    "is a quantity",
    class = "nelvat_error_argument"
  )
})

test_that("what stands on a converted axis goes with it, and bare lengths on it are refused", {
  held <- data.frame(g = letters[1:3], m = 1:3, lo = 1:3 - 0.5, hi = 1:3 + 0.5)
  of_cm <- codebook(
    held,
    m = quantity("Rise", unit = "cm"),
    lo = quantity("Low", unit = "cm"),
    hi = quantity("High", unit = "cm")
  )
  of_mm <- codebook(
    data.frame(g = letters[1:3], m = c(10, 20, 30)),
    m = quantity("Rise", unit = "mm")
  )
  first <- panel(of_mm, x = m, y = g, ink_points())
  fig <- plate(first, panel(of_cm, x = m, y = g, ink_estimate(lo, hi)), width = 170, height = 60)
  scene <- as_scene(fig)
  range <- scene$axes[[scene$panels$x_axis[2]]]$range
  ends <- Find(function(one) one$primitive == "segments", scene$marks)$table
  expect_equal(range[1] + ends$x0 * diff(range), 10 * held$lo)
  expect_equal(range[1] + ends$x1 * diff(range), 10 * held$hi)
  refused <- function(...) {
    expect_error(
      plate(first, panel(of_cm, x = m, ...)),
      "show = \"mm\"",
      class = "nelvat_error_unit"
    )
  }
  refused(ink_histogram(width = 1))
  refused(ink_histogram(breaks = 0:4))
  refused(ink_density(bandwidth = 0.5))
  refused(y = g, ink_estimate(lo, hi, line = 2))
  refused(y = hi, ink_points(), ink_curve(y ~ 2 * x))
  # A note in a corner stands on no axis.
  noted <- panel(of_cm, x = m, y = g, ink_points(), ink_text("A", 0.1, 0.9, at = "panel"))
  expect_s3_class(plate(first, noted, width = 170, height = 60), "nelvat_plate")
})

test_that("a changed unit leaves lengths without a meaning, unless they are said anew", {
  shown <- list(m = quantity("Rise", unit = "mm", show = "cm"))
  bins <- panel(in_mm, x = m, ink_histogram(width = 5))
  expect_error(change(bins, codebook = shown), "`width`", class = "nelvat_error_unit")
  anew <- change(bins, codebook = shown, ink = ink_histogram(width = 0.5))
  expect_match(legend_text(plate(anew, width = 80, height = 60)), "bins of 0.5")
  expect_match(legend_text(plate(change(bins, x = x), width = 80, height = 60)), "bins of 5")
  edged <- joint(in_mm, x = m, y = x, marginal = ink_histogram(width = 5))
  expect_error(change(edged, codebook = shown), "`width`", class = "nelvat_error_unit")
})

test_that("positions with a unit are of one unit, and a level is a level whatever its name", {
  loaves <- study("loaves")
  expect_error(
    panel(
      loaves,
      x = flour,
      y = c(rise, volume),
      y_axis = axis_of(range = c("0 cm", "9 cm")),
      ink_dots()
    ),
    "several units",
    class = "nelvat_error_unit"
  )
  table <- data.frame(f = rep(c("2 h", "10 min"), 5), v = 1:10)
  at <- function(...) {
    legend_text(plate(panel(table, x = f, y = v, ink_dots(), ...), width = 80, height = 60))
  }
  expect_match(at(ink_rule(x = "2 h")), "line at f 2 h")
  # Beside the levels there is nothing to name.
  expect_no_match(at(ink_rule(x = 2.6), ink_rule(x = 0.5)), "line at")
  expect_match(at(ink_shade(x = 1:2)), "shaded from f 2 h to 10 min")
  some <- facets(
    panel(table, x = v, y = v, ink_points(), ink_rule(y = 3, where = f == "2 h")),
    across = f
  )
  expect_match(legend_text(plate(some, width = 120, height = 60)), "line at v 3 where f == \"2 h\"")
})

test_that(
  "units that fields use are converted, what counts only to itself, misspelt ones are named",
  {
    factor <- function(from, to) nelvat:::unit_conversion(from, to, NULL)$factor
    known <- list(
      list("kb", "bp", 1e3),
      list("bp", "kbp", 1e-3),
      list("U/L", "mU/mL", 1),
      list("kIU", "IU", 1e3),
      list("gal", "L", 3.785411784),
      list("mpg", "km/L", 1.609344 / 3.785411784),
      list("M", "mM", 1e3),
      list("CFU/mL", "CFU/L", 1e3),
      list("copies/mL", "copies/\u00b5L", 1e-3),
      list("bpm", "Hz", 1 / 60),
      list("mAh", "C", 3.6)
    )
    for (one in known) {
      expect_equal(
        factor(one[[1]], one[[2]]),
        one[[3]],
        tolerance = 1e-9,
        label = paste(one[[1]], one[[2]])
      )
    }
    for (unlike in list(c("U", "IU"), c("bp", "CFU"), c("U/L", "mol/L"))) {
      expect_error(factor(unlike[1], unlike[2]), class = "nelvat_error_unit")
    }
    expect_error(factor("yearz", "d"), "did you mean \"year\"", class = "nelvat_error_unit")
  }
)
