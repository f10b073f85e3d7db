fig <- responses()
scene <- as_scene(fig)

test_that(
  "the demo figure is six panels in two rows of three, each with its own y range from zero",
  {
    expect_identical(nrow(scene$panels), 6L)
    expect_identical(scene$panels$row, c(1L, 1L, 1L, 2L, 2L, 2L))
    expect_identical(
      scene$panels$heading,
      c(
        "Loaf rise (mm)", "Volume (mL)", "Crumb pH", "Acidity (mmol/g)", "Firmness (N)",
        "Moisture (%)"
      )
    )
    y <- Filter(function(axis) axis$direction == "y", scene$axes)
    expect_length(y, 6)
    expect_true(all(vapply(y, function(axis) axis$range[1] == 0, NA)))
    x <- Filter(function(axis) axis$direction == "x", scene$axes)
    expect_length(x, 1)
    expect_identical(x[[1]]$drawn_at, 4:6)
    expect_match(x[[1]]$text[4], "\n")
  }
)

test_that("bars are the means and error bars the sd of R's own functions", {
  bars <- scene$marks[[1]]$table
  loaves <- study("loaves")$data
  loaves$flour <- factor(loaves$flour, c("wheat", "spelt", "rye", "emmer"))
  for (panel in 1:6) {
    column <- c("rise", "volume", "ph", "acidity", "firmness", "moisture")[panel]
    top <- scene$axes[[scene$panels$y_axis[panel]]]$range[2]
    means <- tapply(loaves[[column]], loaves[c("hydration", "flour")], mean, na.rm = TRUE)
    own <- bars[bars$panel == panel, ]
    expect_equal(own$y1[order(own$x0)] * top, as.numeric(means))
    sds <- tapply(loaves[[column]], loaves[c("hydration", "flour")], sd, na.rm = TRUE)
    errors <- scene$marks[[2]]$table
    errors <- errors[errors$panel == panel, ]
    spans <- tapply(errors$y1, errors$x0, max) - tapply(errors$y0, errors$x0, min)
    expect_equal(as.numeric(spans) * top, 2 * as.numeric(sds))
  }
})

test_that("bars stand side by side within their slot, in codebook order, and none cover another", {
  bars <- scene$marks[[1]]$table
  one <- bars[bars$panel == 1, ]
  one <- one[order(one$x0), ]
  expect_true(all(one$x1[-nrow(one)] <= one$x0[-1] + 1e-12))
  expect_identical(one$fill[1:3], nelvat:::ordinal_colours(3))
})

test_that("plot areas of a row and of a column stand in line, and all are of one size", {
  panels <- scene$panels
  expect_lt(max(tapply(panels$y, panels$row, function(y) diff(range(y)))), 0.01)
  expect_lt(max(tapply(panels$x, panels$column, function(x) diff(range(x)))), 0.01)
  expect_lt(diff(range(panels$w)), 0.01)
  expect_lt(diff(range(panels$h)), 0.01)
})

test_that("one key stands above the panels, its entries in codebook order", {
  expect_identical(scene$keys$label, c("60", "80", "100"))
  expect_true(all(scene$keys$y + scene$keys$h < min(scene$panels$y)))
  expect_identical(scene$keys$colour, nelvat:::ordinal_colours(3))
})

test_that(
  "no two texts touch, none leaves the page or enters a plot area, none is under the least size",
  {
    for (width in c(178, 150, 120, 100)) {
      one <- as_scene(responses(width = width))
      texts <- one$texts
      expect_identical(nrow(nelvat:::touching_texts(one)), 0L)
      expect_true(all(texts$x0 >= 0 & texts$y0 >= 0 & texts$x1 <= width & texts$y1 <= 120))
      expect_true(all(one$runs$size_pt >= 5.5 * 0.7))
      expect_true(all(texts$size_pt >= 5.5))
      areas <- data.frame(
        x0 = one$panels$x,
        y0 = one$panels$y,
        x1 = one$panels$x + one$panels$w,
        y1 = one$panels$y + one$panels$h
      )
      entering <- vapply(
        seq_len(nrow(areas)),
        function(i) {
          area <- areas[i, ]
          any(
            texts$x0 < area$x1 - 0.01 & texts$x1 > area$x0 + 0.01 & texts$y0 < area$y1 - 0.01 &
              texts$y1 > area$y0 + 0.01
          )
        },
        NA
      )
      expect_false(any(entering))
      expect_lte(one$layout$rounds, 6)
    }
  }
)

test_that("turned texts are known apart though their upright boxes overlap, and known touching", {
  of <- function(centre_x, angle) {
    turn <- angle * pi / 180
    half_x <- (10 * abs(cos(turn)) + 2 * abs(sin(turn))) / 2
    half_y <- (10 * abs(sin(turn)) + 2 * abs(cos(turn))) / 2
    list(
      texts = data.frame(
        id = seq_along(centre_x),
        centre_x = centre_x,
        centre_y = 5,
        width_mm = 10,
        height_mm = 2,
        angle = angle,
        x0 = centre_x - half_x,
        x1 = centre_x + half_x,
        y0 = 5 - half_y,
        y1 = 5 + half_y
      )
    )
  }
  expect_identical(nrow(nelvat:::touching_texts(of(c(0, 4), 45))), 0L)
  expect_equal(nelvat:::touching_texts(of(c(0, 2), 45))$depth_mm, 2 - sqrt(2))
  expect_equal(nelvat:::touching_texts(of(c(0, 9), 0))$depth_mm, 1)
  expect_identical(nrow(nelvat:::touching_texts(of(c(0, 11), 0))), 0L)
})

test_that("facts say what was used, what was dropped and what error bars mean", {
  loaves <- study("loaves")$data
  expect_identical(scene$facts$dropped[4], sum(is.na(loaves$acidity)))
  expect_identical(scene$facts$n + scene$facts$dropped, rep(144L, 6))
  expect_identical(unique(scene$facts$shows), "mean \u00b1 standard deviation")
  expect_match(
    legend_text(fig),
    "n = 11 to 12 loaves a bar\\). Bars, mean \u00b1 standard deviation"
  )
})

test_that("a scene is plain data, the same each time, and turns into JSON and back", {
  expect_identical(as_scene(responses()), scene)
  plain <- function(x) {
    !is.function(x) && !inherits(x, c("grob", "unit", "environment")) && (
      !is.list(x) || all(vapply(x, plain, NA))
    )
  }
  expect_true(plain(unclass(scene)))
  back <- jsonlite::fromJSON(scene_json(scene), simplifyVector = TRUE)
  expect_equal(unlist(back$panels$x), scene$panels$x, tolerance = 1e-6)
  path <- withr::local_tempfile(fileext = ".json")
  scene_json(fig, path)
  expect_identical(paste(readLines(path), collapse = ""), scene_json(scene))
})

test_that("computing a scene opens no device", {
  before <- grDevices::dev.list()
  as_scene(fig)
  expect_identical(grDevices::dev.list(), before)
})

test_that("bars lie down when the category stands on y", {
  # Narrow enough that no bar is held to its greatest width.
  lying <- as_scene(
    plate(panel(study("loaves"), x = rise, y = flour, ink_bars()), width = 80, height = 45)
  )
  upright <- as_scene(
    plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 52, height = 60)
  )
  expect_equal(lying$marks[[1]]$table$x1, upright$marks[[1]]$table$y1)
  # Levels on y are read from the top down.
  expect_equal(1 - lying$marks[[1]]$table$y0, upright$marks[[1]]$table$x0)
})

test_that("points stand where their values are, and levels split them over panels", {
  split <- as_scene(
    plate(
      facets(
        panel(
          study("loaves"),
          x = rise,
          y = firmness,
          colour = flour,
          shape = flour,
          ink_points(opacity = 0.6, size = 1.2)
        ),
        across = hydration
      ),
      width = "double",
      height = 60
    )
  )
  loaves <- study("loaves")$data
  marks <- split$marks[[1]]$table
  range <- split$axes[[1]]$range
  own <- loaves[loaves$hydration == 80 & !is.na(loaves$firmness), ]
  expect_equal(marks$x[marks$panel == 2], (own$rise - range[1]) / diff(range))
  expect_identical(split$panels$heading, c("60%", "80%", "100%"))
  expect_length(split$axes, 2)
  expect_identical(length(unique(marks$shape)), 4L)
  expect_identical(split$keys$glyph, rep("symbol", 4))
  expect_identical(unique(marks$size_mm), 1.2)
})

test_that("measures go down where levels go across", {
  both <- as_scene(
    plate(
      facets(
        panel(study("loaves"), x = hydration, y = c(rise, volume), ink_bars()),
        across = bakery
      ),
      width = "double",
      height = 100
    )
  )
  expect_identical(max(both$panels$row), 2L)
  expect_identical(both$panels$heading[1:3], c("Harbour", "Old Mill", "Station"))
  expect_true(all(c("Loaf rise (mm)", "Volume (mL)") %in% both$texts$string))
  expect_identical(nrow(nelvat:::touching_texts(both)), 0L)
})

test_that("columns are found bare, through .data, by expression and outside the table", {
  x_of <- function(...) {
    as_scene(plate(panel(study("loaves"), ..., ink_points()), width = 80, height = 60))$marks[[
      1
    ]]$table$x
  }
  name <- "rise"
  bare <- x_of(x = rise, y = volume)
  expect_identical(x_of(x = .data[["rise"]], y = volume), bare)
  expect_identical(x_of(x = .data[[name]], y = volume), bare)
  expect_identical(x_of(x = .data$rise, y = volume), bare)
  expect_equal(x_of(x = rise * 10, y = volume), bare)
  outside <- study("loaves")$data$rise
  expect_identical(x_of(x = outside, y = volume), bare)
})

test_that("bars and boxes are at most 9 mm wide, about the middle of their slot", {
  table <- data.frame(f = rep(c("a", "b"), each = 6), v = 1:12)
  for (ink in list(ink_bars(), ink_box())) {
    scene <- as_scene(plate(panel(table, x = f, y = v, ink), width = 178, height = 60))
    wide <- scene$panels$w
    marks <- Find(function(layer) layer$primitive %in% c("rects", "areas"), scene$marks)$table
    x <- if (is.null(marks$x0)) split(marks$x, marks$area) else Map(c, marks$x0, marks$x1)
    widths <- vapply(x, function(one) diff(range(one)) * wide, 0)
    expect_lte(max(widths), 9 + 1e-6)
    expect_equal(unname(sort(vapply(x, function(one) mean(range(one)), 0))), c(0.25, 0.75))
  }
})
