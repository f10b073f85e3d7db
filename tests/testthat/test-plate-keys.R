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
    "1 value of count not above zero is left out, as a logarithmic scale cannot show it"
  )
  # Where nothing can be shown, that is told.
  grid$count <- 0
  expect_match(
    legend_text(plate(panel(grid, x = hour, y = pot, colour = log10(count), ink_points()))),
    "Nothing is drawn"
  )
})

cloud_rows <- function(n) {
  set.seed(4)
  data.frame(
    x = stats::rnorm(n),
    y = stats::rnorm(n),
    g = rep(c("rye", "wheat", "spelt"), length.out = n)
  )
}

# How many symbols, and texts that are not of the key, lie over the box of a scene's key.
over_key <- function(scene) {
  boxes <- rbind(
    with(scene$keys, data.frame(x0 = x, x1 = x + w, y0 = y, y1 = y + h)),
    scene$texts[scene$texts$role %in% c("key", "key title"), c("x0", "x1", "y0", "y1")]
  )
  key_box <- with(boxes, list(x0 = min(x0), x1 = max(x1), y0 = min(y0), y1 = max(y1)))
  over <- function(x, y, half_mm = 0) {
    sum(
      x + half_mm > key_box$x0 & x - half_mm < key_box$x1 & y + half_mm > key_box$y0 &
        y - half_mm < key_box$y1
    )
  }
  panels <- scene$panels
  symbols <- Filter(function(layer) layer$primitive == "points", scene$marks)
  at_panel <- lapply(symbols, function(layer) match(layer$table$panel, panels$id))
  others <- scene$texts[!scene$texts$role %in% c("key", "key title"), ]
  list(
    symbols = sum(
      unlist(
        Map(
          function(layer, k) {
            over(
              panels$x[k] + layer$table$x * panels$w[k],
              panels$y[k] + (1 - layer$table$y) * panels$h[k],
              layer$table$size_mm / 2
            )
          },
          symbols,
          at_panel
        )
      )
    ),
    texts = sum(
      others$x1 > key_box$x0 & others$x0 < key_box$x1 & others$y1 > key_box$y0 &
        others$y0 < key_box$y1
    ),
    host = which(
      key_box$x0 > panels$x & key_box$x1 < panels$x + panels$w & key_box$y0 > panels$y &
        key_box$y1 < panels$y + panels$h
    )
  )
}

test_that("a key of sizes stands in the panel that alone shows them, where a corner is free", {
  loaves <- study("loaves")
  sized <- panel(loaves, x = ph, y = rise, size = volume, ink_points(), ink_fit(equation = TRUE))
  scene <- suppressWarnings(as_scene(plate(sized, width = 86, height = 70)))
  at_top <- suppressWarnings(as_scene(plate(sized, width = 86, height = 70, key = "top")))
  expect_identical(over_key(scene), list(symbols = 0L, texts = 0L, host = 1L))
  expect_length(over_key(at_top)$host, 0)
  # A frame tells its discs from those of the data, of which none is in it.
  frame <- scene$rules[scene$rules$role == "key frame", ]
  expect_identical(nrow(frame), 4L)
  expect_false("key frame" %in% at_top$rules$role)
  discs <- Find(function(layer) layer$primitive == "points", scene$marks)$table
  x <- scene$panels$x + discs$x * scene$panels$w
  y <- scene$panels$y + (1 - discs$y) * scene$panels$h
  in_frame <- function(x, y) {
    x > min(frame$x0) & x < max(frame$x1) & y > min(frame$y0) & y < max(frame$y1)
  }
  expect_false(any(in_frame(x, y)))
  expect_true(all(in_frame(scene$keys$x + scene$keys$w / 2, scene$keys$y + scene$keys$h / 2)))
  expect_gt(scene$panels$h, at_top$panels$h + 3)
  # Of another panel's own variable, and beside a key of colours that stays where it was.
  other <- panel(loaves, x = ph, y = volume, colour = flour, ink_points())
  both <- suppressWarnings(as_scene(plate(beside(other, sized), width = 178, height = 80)))
  of_sizes <- both
  of_sizes$keys <- both$keys[both$keys$key == "volume", ]
  of_sizes$texts <- both$texts[
    !both$texts$role %in% c("key", "key title") | both$texts$x0 > both$panels$x[2],
  ]
  expect_identical(over_key(of_sizes)$host, 2L)
  expect_lt(max(both$keys$y[both$keys$key == "flour"]), min(both$panels$y))
  expect_identical(nrow(overlapping_boxes(both$texts)), 0L)
})

test_that("a key of sizes goes to the top where its panel has no free corner", {
  full <- expand.grid(x = 1:14, y = 1:10)
  full$n <- full$x * full$y
  bubbles <- panel(full, x = x, y = y, size = n, ink_points())
  scene <- as_scene(plate(bubbles, width = 86, height = 70))
  expect_lt(max(scene$keys$y + scene$keys$h), scene$panels$y)
  expect_identical(
    scene$keys,
    as_scene(plate(bubbles, width = 86, height = 70, key = "top"))$keys
  )
  # Sizes that several panels show stand over all of them.
  split <- facets(panel(study("loaves"), x = ph, y = rise, size = volume, ink_points()), flour)
  scene <- suppressWarnings(as_scene(plate(split, width = 178, height = 60)))
  expect_lt(max(scene$keys$y), min(scene$panels$y))
})

test_that("keys that are asked into a panel touch no text there", {
  for (n in c(50, 5000)) {
    cloud <- cloud_rows(n)
    fits <- panel(cloud, x = x, y = y, colour = g, ink_points(), ink_fit(equation = TRUE))
    scene <- as_scene(plate(fits, width = 100, height = 90, key = "inside"))
    expect_identical(over_key(scene)$texts, 0L)
    expect_identical(over_key(scene)$host, 1L)
  }
})
