probe <- study("probe")
loaves <- study("loaves")

test_that("a second scale stands where the first has the same value", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(
          loaves,
          x = rise,
          y = volume,
          x_axis = axis_of(also = "inch"),
          y_axis = axis_of(also = "L"),
          ink_points()
        ),
        width = 100,
        height = 80
      )
    )
  )
  expect_null(scene_faults(scene))
  area <- scene$panels[1, ]
  texts <- scene$texts[scene$texts$role == "tick", ]
  right <- texts[texts$x0 > area$x + area$w, ]
  axis <- scene$axes[[area$y_axis]]
  wanted <- area$y +
    (1 - (1000 * as.numeric(right$string) - axis$range[1]) / diff(axis$range)) * area$h
  expect_equal((right$y0 + right$y1) / 2, wanted, tolerance = 1e-6)
  top <- texts[texts$y1 < area$y, ]
  axis <- scene$axes[[area$x_axis]]
  wanted <- area$x + (25.4 * as.numeric(top$string) - axis$range[1]) / diff(axis$range) * area$w
  expect_equal((top$x0 + top$x1) / 2, wanted, tolerance = 1e-6)
  expect_true(all(c("Volume (L)", "Loaf rise (inch)") %in% scene$texts$string))
})

test_that(
  "units with an offset and logarithms are converted, unlike ones refused with the way out",
  {
    scene <- suppressWarnings(
      as_scene(
        plate(
          panel(probe, x = time, y = core, y_axis = axis_of(also = "\u00b0F"), ink_line()),
          width = 100
        )
      )
    )
    area <- scene$panels[1, ]
    right <- scene$texts[scene$texts$role == "tick" & scene$texts$x0 > area$x + area$w, ]
    axis <- scene$axes[[area$y_axis]]
    celsius <- (as.numeric(right$string) - 32) / 1.8
    wanted <- area$y + (1 - (celsius - axis$range[1]) / diff(axis$range)) * area$h
    expect_equal((right$y0 + right$y1) / 2, wanted, tolerance = 1e-6)
    of <- function(...) as_scene(plate(panel(loaves, ..., ink_points()), width = 86))
    error <- expect_error(
      of(x = rise, y = volume, y_axis = axis_of(also = "kg")),
      class = "nelvat_error_unit"
    )
    expect_match(conditionMessage(error), "stacked")
    expect_error(
      of(x = flour, y = rise, x_axis = axis_of(also = "kg")),
      class = "nelvat_error_argument"
    )
    expect_error(
      of(x = rise, y = ph, y_axis = axis_of(also = "kg")),
      "no unit",
      class = "nelvat_error_argument"
    )
    expect_error(
      suppressWarnings(
        as_scene(
          plate(joint(loaves, x = rise, y = volume, y_axis = axis_of(also = "L")), width = 86)
        )
      ),
      class = "nelvat_error"
    )
  }
)

test_that("lines are joined along x, along y or as the rows stand, with a head at their end", {
  loop <- data.frame(a = c(0, 2, 1, 0.5), b = c(0, 1, 2, 1))
  path <- function(...) {
    scene <- as_scene(plate(panel(loop, x = a, y = b, ink_line(...)), width = 86, height = 60))
    axis <- scene$axes[[scene$panels$x_axis[1]]]
    lines <- Find(function(one) one$primitive == "lines", scene$marks)$table
    list(
      x = axis$range[1] + lines$x * diff(axis$range),
      marks = vapply(scene$marks, `[[`, "", "primitive")
    )
  }
  expect_equal(path()$x, sort(loop$a))
  expect_equal(path(along = "rows")$x, loop$a)
  expect_equal(path(along = "y")$x, loop$a[order(loop$b)])
  expect_true("areas" %in% path(along = "rows", arrow = TRUE)$marks)
  expect_error(ink_line(centre = "mean", along = "y"), class = "nelvat_error_argument")
  expect_match(
    legend_text(plate(panel(loop, x = a, y = b, ink_line(along = "rows")), width = 86)),
    "joined in the order of the rows"
  )
})

test_that("a scale that follows by an expression stands where its values are", {
  table <- data.frame(wave = seq(300, 1200, 5), counts = sin(seq(300, 1200, 5) / 90))
  of <- function(also, ...) {
    as_scene(
      plate(
        panel(table, x = wave, y = counts, x_axis = axis_of(also = also, ...), ink_line()),
        width = 100,
        height = 70
      )
    )
  }
  scene <- of("Energy (eV) = 1240 / wave")
  expect_null(scene_faults(scene))
  expect_true("Energy (eV)" %in% scene$texts$string)
  area <- scene$panels[1, ]
  axis <- scene$axes[[area$x_axis]]
  top <- scene$texts[scene$texts$role == "tick" & scene$texts$y1 < area$y, ]
  expect_gt(nrow(top), 3)
  wave <- 1240 / as.numeric(top$string)
  wanted <- area$x + (wave - axis$range[1]) / diff(axis$range) * area$w
  expect_equal((top$x0 + top$x1) / 2, wanted, tolerance = 1e-6)
  # On a logarithmic axis, and by the name that any axis has.
  logged <- as_scene(
    plate(
      panel(
        table,
        x = log10(wave),
        y = counts,
        x_axis = axis_of(also = "Half = value / 2"),
        ink_line()
      ),
      width = 100,
      height = 70
    )
  )
  area <- logged$panels[1, ]
  axis <- logged$axes[[area$x_axis]]
  top <- logged$texts[logged$texts$role == "tick" & logged$texts$y1 < area$y, ]
  at <- (log10(2 * as.numeric(top$string)) - axis$range[1]) / diff(axis$range)
  expect_equal((top$x0 + top$x1) / 2, area$x + at * area$w, tolerance = 1e-6)
  refused <- function(also, pattern) {
    expect_error(of(also), pattern, class = "nelvat_error_expression")
  }
  refused("Squared = (wave - 700)^2", "must have another one")
  refused("Other = 1 / counts", "wave")
  refused("Mean = mean(wave)", "no number for each")
  refused("Called = system('ls')", "not allowed")
  refused("None = ", "One expression")
})

test_that("panels with ranges of their own have second scales of their own", {
  for (also in c("L", "Litres = volume / 1000")) {
    fig <- plate(
      facets(
        panel(loaves, x = rise, y = volume, ink_points(), y_axis = axis_of(also = also)),
        down = hydration,
        range_per = c(y = "panel")
      ),
      width = 100,
      height = 140
    )
    scene <- suppressWarnings(as_scene(fig))
    expect_null(scene_faults(scene))
    expect_gt(length(unique(scene$panels$y_axis)), 1)
    for (area in split(scene$panels, scene$panels$id)) {
      range <- scene$axes[[area$y_axis]]$range
      right <- scene$texts$role == "tick" & scene$texts$panel %in% area$id &
        scene$texts$x0 > area$x + area$w
      ticks <- scene$texts[right, ]
      expect_gt(nrow(ticks), 1)
      at <- (1000 * as.numeric(ticks$string) - range[1]) / diff(range)
      expect_equal((ticks$y0 + ticks$y1) / 2, area$y + (1 - at) * area$h, tolerance = 1e-6)
    }
  }
})
