house <- nelvat:::house_plain()
font <- nelvat:::house_font(house$families)
key <- function(n, id = "k", long = FALSE) {
  list(id = id, title = "Flour", labels = paste(if (long) "a rather long name of a level, number" else "level", seq_len(n)), glyph = "swatch",
       colour = rep("#000000", n), shape = rep("disc", n), dash = rep("solid", n), size_mm = rep(1.8, n))
}
boxes <- function(set) {
  do.call(rbind, lapply(Filter(function(item) !is.null(item$laid), set$items), function(item) {
    data.frame(x0 = item$x_mm, x1 = item$x_mm + item$glyph_mm * (item$entry != 0) + max(item$laid$widths_mm), y0 = item$y_mm,
               y1 = item$y_mm + nelvat:::text_height_mm(item$laid$n_lines, house$type_pt$key, font))
  }))
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
  rows <- function(set) length(unique(vapply(Filter(function(item) item$entry == 0, set$items), `[[`, 0, "y_mm")))
  expect_identical(rows(nelvat:::set_keys(list(key(2), key(2, "l")), 160, house, font)), 1L)
  expect_identical(rows(nelvat:::set_keys(list(key(6), key(6, "l")), 90, house, font)), 2L)
})

test_that("numbers of a ramp that would touch are left out, the first and last stay", {
  ramp <- list(id = "n", title = "Count", ramp = TRUE, glyph = "ramp", range = c(1, 1e6), at = 1:12, share = (0:11) / 11, text = format(10^(0:11), scientific = FALSE, trim = TRUE))
  set <- nelvat:::set_keys(list(ramp), 120, house, font)
  shown <- Filter(function(item) item$entry > 0, set$items)
  box <- boxes(list(items = shown))
  expect_identical(nrow(overlapping_boxes(box)), 0L)
  expect_identical(shown[[1]]$laid$runs$string, "1")
  expect_identical(shown[[length(shown)]]$laid$runs$string, "100000000000")
})

test_that("one variable on colour and shape has one key; a category that an axis names has none", {
  keys_of <- function(...) unique(suppressWarnings(as_scene(plate(panel(study("loaves"), ...), width = 120, height = 60)))$keys$key)
  expect_identical(keys_of(x = rise, y = ph, colour = flour, shape = flour, ink_points()), "flour")
  expect_identical(keys_of(x = rise, y = ph, colour = flour, shape = hydration, ink_points()), c("flour", "hydration"))
  expect_null(keys_of(x = flour, y = ph, colour = flour, ink_box()))
})

test_that("the ramp of a key is that of the marks", {
  scene <- suppressWarnings(as_scene(plate(panel(study("loaves"), x = rise, y = ph, colour = moisture, ink_points()), width = 120, height = 60)))
  bar <- scene$keys[is.na(scene$keys$label), ]
  moisture <- study("loaves")$data$moisture
  marks <- scene$marks[[1]]$table
  expect_identical(marks$colour[which.min(moisture)], bar$colour[1])
  expect_identical(marks$colour[which.max(moisture)], bar$colour[nrow(bar)])
})
