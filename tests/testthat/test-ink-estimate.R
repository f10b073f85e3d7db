effects <- data.frame(
  bakery = c("North", "South", "Harbour", "All"),
  ratio = c(1.2, 0.9, 1.5, 1.19),
  lower = c(0.9, 0.7, 1.1, 1.02),
  upper = c(1.6, 1.16, 2.05, 1.39),
  loaves = c(40, 52, 31, 123)
)

test_that("an estimate's symbol, interval and diamond stand where the table says, on a log axis", {
  fig <- plate(
    panel(
      effects,
      x = log10(ratio),
      y = bakery,
      ink_estimate(lower, upper, "95 % confidence interval", pooled = "All", line = 1)
    ),
    width = 90,
    height = 60
  )
  scene <- as_scene(fig)
  range <- scene$axes[[which(!vapply(scene$axes, `[[`, NA, "slots"))]]$range
  unit <- function(value) (log10(value) - range[1]) / diff(range)
  of <- function(primitive) Filter(function(layer) layer$primitive == primitive, scene$marks)
  points <- of("points")[[1]]$table
  expect_equal(sort(points$x), sort(unit(effects$ratio[1:3])))
  lines <- of("segments")
  expect_equal(lines[[1]]$table$x0, unit(1))
  expect_equal(sort(lines[[2]]$table$x0), sort(unit(effects$lower[1:3])))
  expect_equal(sort(lines[[2]]$table$x1), sort(unit(effects$upper[1:3])))
  expect_equal(range(of("areas")[[1]]$table$x), unit(c(1.02, 1.39)))
  # From the top down, in the order of the table.
  expect_identical(order(-points$y), 1:3)
  expect_match(
    legend_text(fig),
    "estimates with 95 % confidence interval, diamonds: All, line at 1"
  )
})

test_that(
  "what an estimate cannot be is an error: ends exchanged, two at a place, a level that is none",
  {
    draw <- function(table, ...) {
      as_scene(
        plate(panel(table, x = ratio, y = bakery, ink_estimate(...)), width = 90, height = 60)
      )
    }
    expect_error(
      draw(effects, upper, lower),
      "4 intervals do not hold",
      class = "nelvat_error_argument"
    )
    expect_error(
      draw(rbind(effects, effects[1, ]), lower, upper),
      "1 estimate stands where another",
      class = "nelvat_error_argument"
    )
    expect_error(
      draw(effects, lower, upper, pooled = "Nort"),
      "North",
      class = "nelvat_error_level"
    )
    expect_error(
      draw(effects, lower, bakery),
      "`high` must be a quantity",
      class = "nelvat_error_kind"
    )
    expect_error(ink_estimate(lower), "low", class = "nelvat_error_argument")
    bare <- effects
    bare$upper[1] <- NA
    scene <- suppressWarnings(draw(bare, lower, upper))
    expect_identical(scene$columns$n[scene$columns$what == "values without an interval"], 1L)
  }
)

test_that("colours stand side by side, sizes leave the diamond out, and keys show the square", {
  two <- rbind(cbind(effects, year = "one"), cbind(effects, year = "two"))
  scene <- as_scene(
    plate(
      panel(two, x = bakery, y = ratio, colour = year, ink_estimate(lower, upper)),
      width = 120,
      height = 60
    )
  )
  points <- scene$marks[[2]]$table
  expect_identical(anyDuplicated(round(points$x, 6)), 0L)
  expect_identical(unique(scene$keys$shape), "square")
  sized <- as_scene(
    plate(
      panel(
        effects,
        x = ratio,
        y = bakery,
        ink_estimate(lower, upper, pooled = "All", size = loaves)
      ),
      width = 120,
      height = 60
    )
  )
  drawn <- Filter(function(layer) layer$primitive == "points", sized$marks)[[1]]$table
  expect_equal((drawn$size_mm / max(drawn$size_mm))^2, effects$loaves[1:3] / 52)
  expect_lte(max(as.numeric(sized$keys$label)), 52)
})

test_that("a column of text stands at its neighbour's rows, without an axis or a letter", {
  fig <- plate(
    beside(
      panel(effects, x = ratio, y = bakery, ink_estimate(lower, upper)),
      panel(
        effects,
        y = bakery,
        ink_column(loaves, side = "right", bold = "All"),
        heading = "Loaves"
      ),
      widths = c(4, 1)
    ),
    width = 120,
    height = 60,
    letters = "block"
  )
  scene <- as_scene(fig)
  written <- scene$texts[scene$texts$panel == 2 & scene$texts$role == "value", ]
  ticks <- scene$texts[scene$texts$string %in% effects$bakery, ]
  middle <- function(texts) (texts$y0 + texts$y1) / 2
  expect_equal(
    middle(written)[match(effects$loaves, gsub("[*]", "", written$string))],
    middle(ticks)[match(effects$bakery, ticks$string)],
    tolerance = 1e-6
  )
  expect_equal(written$x1, rep(sum(scene$panels[2, c("x", "w")]), 4))
  expect_identical(scene$letters, "a")
  expect_false(grepl("column", legend_text(fig), ignore.case = TRUE))
  expect_error(
    as_scene(
      plate(
        beside(
          panel(effects, x = ratio, y = bakery, ink_estimate(lower, upper)),
          panel(effects, y = bakery, ink_column(paste(bakery, "is a long name of a bakery"))),
          widths = c(1, 1)
        ),
        width = 90,
        height = 60
      )
    ),
    "too narrow",
    class = "nelvat_error_labels"
  )
})

test_that(
  "an interval beyond a logarithmic axis is told; texts of intervals are alike everywhere",
  {
    beyond <- transform(effects, lower = c(-0.1, lower[-1]))
    expect_warning(
      as_scene(
        plate(
          panel(beyond, x = log10(ratio), y = bakery, ink_estimate(lower, upper)),
          width = 90,
          height = 60
        )
      ),
      "beyond what the axis can show"
    )
    withr::local_options(OutDec = ",")
    expect_identical(
      interval_text(c(1.2, -0.001), c(-0.9, -1), c(1.6, NA), digits = 2),
      c("1.20 (\u22120.90 to 1.60)", NA)
    )
    expect_identical(interval_text(-0.001, -1, 1), "0.00 (\u22121.00 to 1.00)")
  }
)

test_that(
  "a column's rows are those of the panel beside it, or an error; without one they are named",
  {
    beside_column <- function(other) {
      as_scene(
        plate(
          beside(
            panel(effects, x = ratio, y = bakery, ink_estimate(lower, upper)),
            panel(other, y = bakery, ink_column(loaves))
          ),
          width = 120,
          height = 60
        )
      )
    }
    expect_error(beside_column(effects[4:1, ]), "another order", class = "nelvat_error_level")
    expect_error(beside_column(effects[c(1, 3), ]), "other rows", class = "nelvat_error_level")
    scene <- beside_column(effects)
    expect_identical(sum(scene$texts$string == "North"), 1L)
    alone <- as_scene(
      plate(panel(effects, y = bakery, ink_column(loaves)), width = 60, height = 50)
    )
    written <- alone$texts[alone$texts$role == "value", ]
    named <- alone$texts[alone$texts$string %in% effects$bakery, ]
    expect_identical(named$string[order(named$y0)], effects$bakery)
    expect_identical(written$string[order(written$y0)], as.character(effects$loaves))
  }
)

test_that("of a model it is said which interval, and rows without one are told once", {
  model <- estimates_of(stats::lm(rise ~ flour + verdict, study("loaves")$data))
  fig <- plate(
    panel(model, x = estimate, y = term, ink_estimate(lower, upper, line = 0)),
    width = 86
  )
  told <- paste(testthat::capture_warnings(as_scene(fig)), collapse = " ")
  expect_no_match(told, "missing")
  text <- suppressWarnings(legend_text(fig))
  expect_match(text, "estimates with 95 % confidence interval, line at 0")
  expect_match(text, "1 value of estimate has no interval")
  expect_identical(as_scene(fig)$columns$n, 1L)
})
