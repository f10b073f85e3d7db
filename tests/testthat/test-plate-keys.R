house <- nelvat:::house_plain()
font <- nelvat:::house_font(house$families)
key <- function(n, id = "k", long = FALSE) {
  list(
    id = id,
    title = "Flour",
    labels = paste(if (long) "a rather long name of a level, number" else "level", seq_len(n)),
    glyph = "swatch",
    colour = rep("#000000", n),
    shape = rep("disc", n),
    dash = rep("solid", n),
    size_mm = rep(1.8, n)
  )
}
boxes <- function(set) {
  do.call(
    rbind,
    lapply(Filter(function(item) !is.null(item$laid), set$items), function(item) {
      data.frame(
        x0 = item$x_mm,
        x1 = item$x_mm + item$glyph_mm * (item$entry != 0) + max(item$laid$widths_mm),
        y0 = item$y_mm,
        y1 = item$y_mm + nelvat:::text_height_mm(item$laid$n_lines, house$type_pt$key, font)
      )
    })
  )
}

test_that("entries go on in new rows where the width is used up, and touch nothing", {
  for (n in c(1, 3, 9)) {
    for (width in c(40, 80, 160)) {
      set <- nelvat:::set_keys(list(key(n), key(2, "l", long = TRUE)), width, house, font)
      box <- boxes(set)
      expect_true(all(box$x1 <= width + 0.01))
      expect_identical(nrow(overlapping_boxes(box, 0.02)), 0L)
      expect_gte(set$height_mm + 0.01, max(box$y1))
    }
  }
})

test_that("short keys stand beside each other, long ones under each other", {
  rows <- function(set) {
    length(unique(vapply(Filter(function(item) item$entry == 0, set$items), `[[`, 0, "y_mm")))
  }
  expect_identical(rows(nelvat:::set_keys(list(key(2), key(2, "l")), 160, house, font)), 1L)
  expect_identical(rows(nelvat:::set_keys(list(key(6), key(6, "l")), 90, house, font)), 2L)
})

test_that("numbers of a ramp that would touch are left out, the first and last stay", {
  ramp <- list(
    id = "n",
    title = "Count",
    ramp = TRUE,
    glyph = "ramp",
    range = c(1, 1e6),
    at = 1:12,
    share = (0:11) / 11,
    text = format(10^(0:11), scientific = FALSE, trim = TRUE)
  )
  set <- nelvat:::set_keys(list(ramp), 120, house, font)
  shown <- Filter(function(item) item$entry > 0, set$items)
  box <- boxes(list(items = shown))
  expect_identical(nrow(overlapping_boxes(box)), 0L)
  expect_identical(shown[[1]]$laid$runs$string, "1")
  expect_identical(shown[[length(shown)]]$laid$runs$string, "100000000000")
})

test_that("one variable on colour and shape has one key; a category that an axis names has none", {
  keys_of <- function(...) {
    unique(
      suppressWarnings(
        as_scene(plate(panel(study("loaves"), ...), width = 120, height = 60))
      )$keys$key
    )
  }
  expect_identical(keys_of(x = rise, y = ph, colour = flour, shape = flour, ink_points()), "flour")
  expect_identical(
    keys_of(x = rise, y = ph, colour = flour, shape = hydration, ink_points()),
    c("flour", "hydration")
  )
  expect_null(keys_of(x = flour, y = ph, colour = flour, ink_box()))
})

test_that("the ramp of a key is that of the marks", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(study("loaves"), x = rise, y = ph, colour = moisture, ink_points()),
        width = 120,
        height = 60
      )
    )
  )
  bar <- scene$keys[is.na(scene$keys$label), ]
  moisture <- study("loaves")$data$moisture
  marks <- scene$marks[[1]]$table
  expect_identical(marks$colour[which.min(moisture)], bar$colour[1])
  expect_identical(marks$colour[which.max(moisture)], bar$colour[nrow(bar)])
})

test_that("keys can stand at the left, clear of the blocks", {
  scene <- as_scene(
    plate(
      panel(study("loaves"), x = rise, y = volume, colour = flour, ink_points()),
      width = 120,
      height = 60,
      key = "left"
    )
  )
  texts <- scene$texts[scene$texts$role %in% c("key", "key title"), ]
  others <- scene$texts[!scene$texts$role %in% c("key", "key title"), ]
  expect_lt(max(texts$x1), min(others$x0))
  expect_null(scene_faults(scene))
})

test_that("points shrink where they crowd, and histograms of three groups are outlines", {
  set.seed(2)
  size <- function(n, ...) {
    table <- data.frame(x = rnorm(n), y = rnorm(n))
    as_scene(plate(panel(table, x = x, y = y, ink_points(...)), width = 86, height = 70))$marks[[
      1
    ]]$table$size_mm[1]
  }
  sizes <- c(size(50), size(500), size(2000), size(20000))
  expect_identical(sizes[1], house()$points$size_mm)
  expect_true(all(diff(sizes) <= 0) && sizes[2] > sizes[3])
  expect_gte(sizes[4], house()$points$size_mm / 3 - 0.01)
  expect_identical(size(20000, size = 1.2), 1.2)
  primitive <- function(levels) {
    table <- data.frame(v = rnorm(60), g = rep(letters[seq_len(levels)], length.out = 60))
    vapply(
      as_scene(
        plate(panel(table, x = v, colour = g, ink_histogram()), width = 86, height = 60)
      )$marks,
      `[[`,
      "",
      "primitive"
    )
  }
  expect_identical(primitive(2), "rects")
  expect_identical(primitive(3), "lines")
})

test_that(
  "blocks without a place are dealt out in a good shape, without an empty place where that can be",
  {
    bars <- panel(study("loaves"), x = flour, y = rise, ink_bars())
    columns <- function(n, ...) max(do.call(plate, c(rep(list(bars), n), list(...)))$grid$places$x1)
    expect_identical(columns(3, width = "double"), 3L)
    expect_identical(columns(3, width = "single"), 1L)
    expect_identical(columns(4, width = "double"), 2L)
    expect_identical(columns(6, width = "double"), 3L)
    expect_identical(columns(5, width = "double", per_row = 5), 5L)
  }
)

test_that("what one block of several shows alone has its key near it, unless a place is said", {
  table <- data.frame(x = 1:4, y = 1:4, g = c("a", "b"), h = c("p", "q"))
  of <- function(...) {
    as_scene(
      plate(
        panel(table, x = x, y = y, colour = g, ink_points()),
        panel(table, x = x, y = y, colour = h, ink_points()),
        width = 160,
        height = 60,
        ...
      )
    )
  }
  near <- of()
  expect_true(all(near$keys$x[near$keys$key == "h"] >= near$panels$x[2]))
  expect_true(all(near$keys$x[near$keys$key == "g"] < near$panels$x[2]))
  expect_true(all(of(key = "top")$keys$x < near$panels$x[2]))
  # One line for both.
  expect_length(unique(round(near$keys$y, 6)), 1)
})

test_that("entries of a key stand in columns beside their title, no row over 120 mm", {
  table <- data.frame(
    x = 1:9,
    y = 1:9,
    g = paste("A rather long name of microbe", letters[1:9]),
    h = rep(c("p", "q", "r"), 3)
  )
  scene <- as_scene(
    plate(
      panel(table, x = x, y = y, colour = g, ink_line()),
      panel(table, x = x, y = y, colour = h, ink_points()),
      width = "double",
      height = 90,
      key = "top"
    )
  )
  keys <- scene$keys
  long <- keys[keys$key == "g", ]
  # As many columns as distinct places; each row begins at the same place.
  columns <- sort(unique(round(long$x, 3)))
  expect_gt(length(columns), 1)
  expect_lte(length(columns), ceiling(9 / length(unique(round(long$y, 3)))))
  labels <- scene$texts[scene$texts$role == "key", ]
  titles <- scene$texts[scene$texts$role == "key title", ]
  first <- vapply(c("g", "h"), function(id) min(keys$x[keys$key == id]), 0)
  expect_lt(max(first - titles$x1), 4)
  expect_lt(max(labels$x1) - min(titles$x0), 120.5)
})

test_that("a logarithm on colour is a ramp of it, with ticks in the column's unit", {
  grid <- expand.grid(hour = 0:6, pot = 1:3)
  grid$count <- 10^grid$hour
  grid$ratio <- 2^(grid$hour - 2)
  ramp_of <- function(...) as_scene(plate(panel(grid, x = hour, y = pot, ...), width = 100))
  scene <- ramp_of(colour = log10(count), ink_tiles())
  expect_match(legend_text(scene), "Count on a logarithmic scale")
  texts <- scene$texts[scene$texts$role == "key", ]
  # As plain text: ten to the second, fourth and sixth.
  expect_identical(texts$string, c("100", "102", "104", "106"))
  # Even steps of the logarithm are even steps of the ramp: its middle is the middle shade.
  bar <- scene$keys[is.na(scene$keys$label), ]
  tiles <- scene$marks[[1]]$table
  middle <- unique(tiles$fill[grid$hour == 3])
  expect_identical(length(middle), 1L)
  lightness <- function(colour) farver::decode_colour(colour, to = "oklab")[, 1]
  expect_lt(abs(lightness(middle) - lightness(bar$colour[nrow(bar) / 2])), 0.02)
  expect_identical(
    range(
      source_data(
        plate(
          panel(grid, x = hour, y = pot, colour = log10(count), ink_tiles()),
          width = 100
        )
      )[[1]]$count
    ),
    c(1, 1e6)
  )
  # To both sides of one, the same way far.
  both <- ramp_of(colour = log2(ratio), ink_tiles(diverging = TRUE))
  expect_equal(c(both$ramps$low, both$ramps$high), c(1 / 16, 16))
  grid$count[4] <- 0
  expect_match(
    legend_text(plate(panel(grid, x = hour, y = pot, colour = log10(count), ink_points()))),
    "1 value of count not above zero, which a logarithmic scale cannot show"
  )
  # Where nothing can be shown, that is told.
  grid$count <- 0
  expect_match(
    legend_text(plate(panel(grid, x = hour, y = pot, colour = log10(count), ink_points()))),
    "Nothing is drawn"
  )
})
