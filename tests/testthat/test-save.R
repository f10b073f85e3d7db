test_that("the PDF page is exactly the size asked", {
  needs_poppler()
  for (size in list(c(178, 120), c(86, 61.3), c(120, 90.7))) {
    path <- withr::local_tempfile(fileext = ".pdf")
    fig <- plate(
      panel(study("loaves"), x = flour, y = rise, ink_bars()),
      width = size[1],
      height = size[2]
    )
    expect_identical(save_plate(fig, path), path)
    read <- read_pdf_words(path)
    expect_equal(c(read$width_mm, read$height_mm), size, tolerance = 1e-5)
  }
})

# A piece of text as the words pdftotext will find in it.
scene_words <- function(scene) {
  runs <- scene$runs[scene$runs$angle == 0, ]
  runs <- runs[!grepl(" ", runs$string), ]
  data.frame(
    word = runs$string,
    x0 = runs$x,
    x1 = runs$x + runs$width_mm,
    y0 = runs$y - scene$font$ascent * runs$size_pt * 25.4 / 72,
    y1 = runs$y + scene$font$descent * runs$size_pt * 25.4 / 72
  )
}

test_that(
  "every word stands in the PDF where the scene says, to 0.3 mm, and none touch or leave the page",
  {
    needs_poppler()
    for (width in c(178, 168)) {
      path <- withr::local_tempfile(fileext = ".pdf")
      fig <- responses(width = width)
      scene <- as_scene(fig)
      save_plate(fig, path)
      read <- read_pdf_words(path)
      words <- read$words
      expect_identical(nrow(overlapping_boxes(words, 0.05)), 0L)
      expect_true(
        all(words$x0 >= 0 & words$x1 <= read$width_mm & words$y0 >= 0 & words$y1 <= read$height_mm)
      )
      wanted <- scene_words(scene)
      expect_gt(nrow(wanted), 30)
      # Each single word's box has its like in the PDF.
      for (i in seq_len(nrow(wanted))) {
        same <- words[words$word == wanted$word[i], ]
        off <- apply(
          abs(
            as.matrix(same[-1]) - rep(
              as.numeric(wanted[i, c("x0", "y0", "x1", "y1")]),
              each = nrow(same)
            )
          ),
          1,
          max
        )
        expect_lt(min(off), 0.3)
      }
      # And each text's whole box holds its words.
      all_words <- unlist(strsplit(scene$texts$string, "[ \n]"))
      expect_setequal(words$word, all_words)
    }
  }
)

test_that("all fonts of the PDF are embedded", {
  needs_poppler()
  path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(responses(), path)
  fonts <- utils::tail(system2("pdffonts", shQuote(path), stdout = TRUE), -2)
  expect_gt(length(fonts), 0)
  expect_true(all(grepl(" yes yes yes ", fonts)))
  expect_true(any(grepl(gsub(" ", "", as_scene(responses())$font$family), fonts)))
})

png_header <- function(path) {
  bytes <- readBin(path, "raw", 200)
  number <- function(at) sum(as.integer(bytes[at + 0:3]) * 256^(3:0))
  marker <- grepRaw("pHYs", bytes)
  list(width = number(17), height = number(21), dpi = number(marker + 4) * 0.0254)
}

test_that("the PNG is of the dpi asked, 600 unless told", {
  path <- withr::local_tempfile(fileext = ".png")
  fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 50.8, height = 38.1)
  save_plate(fig, path)
  expect_equal(png_header(path), list(width = 1200, height = 900, dpi = 600), tolerance = 1e-3)
  save_plate(fig, path, dpi = 150)
  expect_equal(png_header(path), list(width = 300, height = 225, dpi = 150), tolerance = 1e-3)
})

test_that("a plate prints on the open device, and its grob is of its size", {
  path <- withr::local_tempfile(fileext = ".pdf")
  grDevices::pdf(path, 8, 8)
  print(responses())
  grDevices::dev.off()
  expect_gt(file.size(path), 4000)
  grob <- as_grob(responses())
  expect_equal(as.numeric(grob$vp$width), 178)
  expect_equal(as.numeric(grob$vp$height), 120)
})

test_that("drawing adds nothing: rectangles of the PDF stand where the scene says", {
  path <- withr::local_tempfile(fileext = ".svg")
  scene <- as_scene(
    plate(
      panel(study("loaves"), x = flour, y = rise, ink_bars(error = "none")),
      width = 80,
      height = 60
    )
  )
  grDevices::svg(path, 80 / 25.4, 60 / 25.4)
  grid::grid.newpage()
  grid::grid.draw(as_grob(scene))
  grDevices::dev.off()
  svg <- readLines(path)
  panel <- scene$panels
  bars <- scene$marks[[1]]$table
  pt <- 72 / 25.4
  corners <- regmatches(svg, regexpr('(?<= d="M )[0-9.]+ [0-9.]+', svg, perl = TRUE))
  found <- do.call(rbind, lapply(strsplit(corners, " "), as.numeric))
  # R's svg device cuts its page to whole points, and the plate stands in the middle.
  shift <- (floor(80 * pt) - 80 * pt) / 2
  for (x in (panel$x + bars$x0 * panel$w) * pt + shift) expect_lt(min(abs(found[, 1] - x)), 0.05)
})

test_that("every point is drawn, each symbol in its own form, without a warning", {
  table <- data.frame(x = 1:40, y = 40:1, f = rep(letters[1:8], 5))
  path <- withr::local_tempfile(fileext = ".svg")
  grob <- expect_no_warning(
    as_grob(plate(panel(table, x = x, y = y, shape = f, ink_points()), width = 80, height = 60))
  )
  grDevices::svg(path, 80 / 25.4, 60 / 25.4)
  grid::grid.draw(grob)
  grDevices::dev.off()
  svg <- readLines(path)
  # Three of the eight symbols are open: outlines of the panel's own colour.
  own <- grepl("rgb(35.68", svg, fixed = TRUE) & grepl("^<path", svg)
  open <- grepl("fill:none", svg, fixed = TRUE)
  filled <- sum(own & !open)
  outlined <- sum(own & open)
  expect_identical(c(filled, outlined), c(25L, 15L) + c(5L, 3L))
})

test_that("R's plain device of PDFs writes numbers below zero", {
  needs_poppler()
  d <- data.frame(a = -5:5, b = (-5:5)^3)
  path <- withr::local_tempfile(fileext = ".pdf")
  grDevices::pdf(path, 4, 3)
  expect_no_warning(
    print(plate(panel(d, x = a, y = b, ink_points()), width = 86, height = 60))
  )
  grDevices::dev.off()
  words <- system2("pdftotext", c(path, "-"), stdout = TRUE)
  expect_true("\u221250" %in% trimws(words))
})
