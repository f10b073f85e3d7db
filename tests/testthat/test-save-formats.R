loaves <- study("loaves")
fig <- plate(
  panel(loaves, x = flour, y = rise, colour = hydration, ink_bars()),
  width = 80,
  height = 60,
  title = "Rise of loaves"
)

bytes_of <- function(path) readBin(path, "raw", file.size(path))

test_that("all formats are written from one layout, at the exact size", {
  skip_if_not_installed("svglite")
  folder <- withr::local_tempdir()
  paths <- file.path(folder, paste0("f.", c("pdf", "svg", "eps", "tiff", "png")))
  expect_identical(save_plate(fig, paths, dpi = 300), paths)
  expect_true(all(file.size(paths) > 2000))
  svg <- readLines(paths[2])
  expect_match(svg, "width='80mm' height='60mm'", all = FALSE)
  # Text is text, not outlines.
  expect_match(svg, ">Wheat</text>", all = FALSE, fixed = TRUE)
  eps <- readLines(paths[3], n = 20, warn = FALSE)
  expect_match(eps[1], "EPSF")
  box <- as.numeric(
    strsplit(sub("%%BoundingBox: ", "", grep("^%%BoundingBox", eps, value = TRUE)[1]), " ")[[1]]
  )
  expect_lte(abs(box[3] - 80 / 25.4 * 72), 1.5)
  tiff <- bytes_of(paths[4])
  expect_identical(tiff[1:2], charToRaw("II"))
})

# Tags of a little-endian TIFF: number and value (or offset).
tiff_tags <- function(bytes) {
  int <- function(at, size) sum(as.integer(bytes[at + seq_len(size)]) * 256^(seq_len(size) - 1))
  start <- int(4, 4)
  n <- int(start, 2)
  data.frame(
    tag = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12, 2), 0),
    value = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12 + 8, 4), 0)
  )
}

test_that("TIFF says its size, resolution and compression in its tags", {
  path <- withr::local_tempfile(fileext = ".tiff")
  save_plate(fig, path, dpi = 300)
  bytes <- bytes_of(path)
  tags <- tiff_tags(bytes)
  value <- function(tag) tags$value[tags$tag == tag]
  expect_equal(value(256), 80 / 25.4 * 300, tolerance = 0.002)
  expect_identical(value(259), 5) # LZW
  at <- value(282)
  expect_equal(
    sum(as.integer(bytes[at + 1:4]) * 256^(0:3)) / sum(as.integer(bytes[at + 5:8]) * 256^(0:3)),
    300
  )
  # Cut anywhere before its end, it is not whole.
  whole <- nelvat:::is_whole_tiff
  expect_true(whole(bytes))
  for (n in c(8, floor(length(bytes) * c(0.3, 0.6, 0.9, 0.99)))) {
    expect_false(whole(bytes[seq_len(n)]))
  }
})

test_that("repeated runs give the same bytes", {
  for (format in c(
    "pdf",
    "png",
    "eps",
    "tiff",
    if (requireNamespace("svglite", quietly = TRUE)) "svg"
  )) {
    one <- withr::local_tempfile(fileext = paste0(".", format))
    two <- withr::local_tempfile(fileext = paste0(".", format))
    save_plate(fig, one, dpi = 100)
    Sys.sleep(1.1)
    save_plate(fig, two, dpi = 100)
    expect_identical(bytes_of(one), bytes_of(two), label = format)
  }
  withr::local_envvar(SOURCE_DATE_EPOCH = "1700000000")
  dated <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, dated)
  expect_true(
    grepl(
      "CreationDate (D:20231114221320Z)",
      nelvat:::ascii_bytes_cpp(bytes_of(dated)),
      fixed = TRUE
    )
  )
})

test_that("title, description and a hash of what is drawn are in the metadata", {
  png_path <- withr::local_tempfile(fileext = ".png")
  save_plate(fig, png_path, dpi = 100)
  text <- nelvat:::ascii_bytes_cpp(bytes_of(png_path))
  expect_match(text, "Rise of loaves", fixed = TRUE)
  expect_match(text, "1 panel", fixed = TRUE)
  # The file is still whole, its checksums right.
  expect_identical(dim(png::readPNG(png_path))[3], 3L)
  expect_identical(
    as.character(nelvat:::crc32_cpp(charToRaw("123456789"))),
    c("cb", "f4", "39", "26")
  )
  pdf_path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, pdf_path)
  needs_poppler()
  info <- system2("pdfinfo", shQuote(pdf_path), stdout = TRUE)
  expect_match(info, "Title: +Rise of loaves", all = FALSE)
  hash <- sub("Keywords: +", "", grep("Keywords", info, value = TRUE))
  other <- withr::local_tempfile(fileext = ".pdf")
  save_plate(change(fig, title = "Another"), other)
  expect_false(
    identical(
      hash,
      sub(
        "Keywords: +",
        "",
        grep("Keywords", system2("pdfinfo", shQuote(other), stdout = TRUE), value = TRUE)
      )
    )
  )
})

test_that("dense marks are thinned without the picture changing", {
  skip_if_not_installed("png")
  pores <- plate(
    panel(study("pores"), x = log10(area), y = roundness, ink_points(size = 1.2)),
    width = 60,
    height = 50
  )
  trace <- plate(
    panel(study("probe"), x = time, y = core, missing = "bridge", ink_line()),
    width = 60,
    height = 40
  )
  for (figure in list(pores, trace)) {
    again <- resize(figure, width = figure$width_mm, height = figure$height_mm)
    scene <- suppressWarnings(as_scene(figure))
    thin <- withr::local_tempfile(fileext = ".png")
    suppressWarnings(save_plate(figure, thin))
    marks <- sum(vapply(scene$marks, function(layer) nrow(layer$table), 0L))
    full <- withr::local_tempfile(fileext = ".png")
    with_replaced(
      {
        whole <- suppressWarnings(as_scene(again))
        suppressWarnings(save_plate(again, full))
      },
      thinned_marks = function(marks, panels) marks
    )
    expect_lt(marks, 0.9 * sum(vapply(whole$marks, function(layer) nrow(layer$table), 0L)))
    expect_lt(mean(abs(png::readPNG(thin) - png::readPNG(full))) * 255, 1)
  }
})

test_that("no peak of a trace is lost", {
  set.seed(3)
  y <- rnorm(20000)
  y[c(777, 15001)] <- c(40, -40)
  kept <- nelvat:::thin_lines_cpp(rep(1L, 20000), seq(0, 50, length.out = 20000), y, 0.05)
  expect_true(all(kept[c(1, 777, 15001, 20000)]))
  expect_lt(sum(kept), 5000)
  column <- floor(seq(0, 50, length.out = 20000) / 0.05)
  expect_equal(as.vector(tapply(y[kept], column[kept], max)), as.vector(tapply(y, column, max)))
  expect_equal(as.vector(tapply(y[kept], column[kept], min)), as.vector(tapply(y, column, min)))
  gaps <- nelvat:::thin_lines_cpp(rep(1L, 5), c(0, 0.01, NA, 0.02, 0.03), c(1, 2, NA, 1, 0), 1)
  expect_true(all(gaps))
})

test_that("panels of very many marks can be images in a vector page", {
  skip_if_not_installed("png")
  pores <- plate(
    panel(study("pores"), x = log10(area), y = roundness, ink_points(size = 0.4)),
    width = 60,
    height = 50
  )
  vector <- withr::local_tempfile(fileext = ".pdf")
  image <- withr::local_tempfile(fileext = ".pdf")
  suppressWarnings(save_plate(pores, vector))
  suppressWarnings(save_plate(pores, image, dense = "image", dpi = 300))
  expect_lt(file.size(image), file.size(vector) / 2)
  needs_poppler()
  expect_true("Roundness" %in% read_pdf_words(image)$words$word)
})

test_that("source data hold the values and the statistics drawn", {
  two <- plate(
    beside(
      panel(loaves, x = flour, y = rise, ink_bars(error = "sd")),
      panel(loaves, x = rise, y = firmness, colour = flour, ink_points())
    ),
    width = "double",
    height = 60
  )
  found <- suppressWarnings(source_data(two))
  expect_named(found, c("a", "b"))
  values <- found$a[found$a$part == "values", ]
  expect_identical(nrow(values), 144L)
  bars <- found$a[found$a$part == "bars", ]
  means <- tapply(loaves$data$rise, factor(loaves$data$flour, loaves$columns$flour$levels), mean)
  expect_true(
    all(
      vapply(
        means,
        function(mean) {
          any(
            vapply(
              bars,
              function(column) is.numeric(column) && any(abs(column - mean) < 1e-9, na.rm = TRUE),
              NA
            )
          )
        },
        NA
      )
    )
  )
  expect_setequal(names(found$b), c("part", "rise", "firmness", "flour"))
  folder <- withr::local_tempdir()
  csv <- suppressWarnings(save_source_data(two, file.path(folder, "numbers.csv")))
  expect_identical(csv, file.path(folder, "numbers", c("a.csv", "b.csv")))
  expect_equal(utils::read.csv(csv[2])$rise, found$b$rise)
  skip_if_not_installed("writexl")
  book <- suppressWarnings(save_source_data(two, file.path(folder, "numbers.xlsx")))
  expect_identical(readxl::excel_sheets(book), c("a", "b"))
  expect_error(save_source_data(two, file.path(folder, "numbers.doc")), class = "nelvat_error_file")
})

test_that(
  "the legend says what each letter shows, centre, error, n by group, fits, and what was left out",
  {
    two <- plate(
      beside(
        panel(loaves, x = flour, y = log10(firmness), colour = hydration, ink_box()),
        panel(loaves, x = rise, y = volume, ink_points(), ink_fit())
      ),
      width = "double",
      height = 60
    )
    text <- legend_text(two, "markdown")
    expect_match(text, "**a**, firmness (N) on a logarithmic axis by flour", fixed = TRUE)
    expect_match(text, "whiskers to 1.5 interquartile ranges", fixed = TRUE)
    expect_match(legend_text(fig), "standard deviation", fixed = TRUE)
    expect_match(text, "values beyond, of the logarithms", fixed = TRUE)
    expect_match(text, "Fits: *R\u00b2* = 0.8", fixed = TRUE)
    expect_match(text, "4 missing values of firmness are left out (a)", fixed = TRUE)
    alt <- alt_text(two)
    expect_match(alt, "2 panels", fixed = TRUE)
    expect_match(alt, "rising, rank correlation 0.92", fixed = TRUE)
  }
)

test_that("the report is one page that holds all, and asks for nothing else", {
  path <- withr::local_tempfile(fileext = ".html")
  suppressWarnings(report(fig, path))
  page <- paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
  found <- function(pattern) regmatches(page, gregexpr(pattern, page, perl = TRUE))[[1]]
  expect_identical(
    found("(?<=>)[^<]+(?=</h2>)"),
    c(
      "The figure", "Proof", "Legend text", "Facts", "Source data", "Codebook",
      "How to make it again"
    )
  )
  links <- c(found("(?<=src=\")[^\"]{1,60}"), found("(?<=href=\")[^\"]{1,60}"))
  expect_true(length(links) > 8 && all(grepl("^(data:|#)", links)))
  # Each place in the page that is linked to is there; images have their words.
  targets <- sub("#", "", grep("^#", links, value = TRUE))
  expect_true(all(targets %in% found("(?<= id=\")[^\"]+")))
  expect_identical(length(found("<img ")), length(found("<img [^>]*alt=")))
  expect_match(page, "<html lang=\"en\">", fixed = TRUE)
  # Every element that is opened is closed.
  for (element in c("section", "table", "details", "figure", "ul", "main")) {
    expect_identical(
      length(found(paste0("<", element, "[ >]"))),
      length(found(paste0("</", element, ">"))),
      label = element
    )
  }
  expect_error(report(fig, tempfile(fileext = ".pdf")), class = "nelvat_error_file")
})

test_that("the page of an EPS file is exact, and its letters stand off the whole points", {
  needs_program("gs", "ghostscript")
  needs_poppler()
  folder <- withr::local_tempdir()
  odd <- resize(fig, width = 80.3, height = 60.7)
  paths <- file.path(folder, c("f.eps", "f.pdf"))
  save_plate(odd, paths)
  converted <- file.path(folder, "g.pdf")
  system2(
    "gs",
    c(
      "-q",
      "-dBATCH",
      "-dNOPAUSE",
      "-dEPSCrop",
      "-sDEVICE=pdfwrite",
      paste0("-sOutputFile=", converted),
      paths[1]
    )
  )
  from_eps <- read_pdf_words(converted)
  from_pdf <- read_pdf_words(paths[2])
  expect_equal(c(from_eps$width_mm, from_eps$height_mm), c(80.3, 60.7), tolerance = 1e-4)
  expect_identical(from_eps$words$word, from_pdf$words$word)
  # Upright words only: the two writers give their fonts unlike heights.
  level <- from_pdf$words$y1 - from_pdf$words$y0 < from_pdf$words$x1 - from_pdf$words$x0 + 2 &
    !from_pdf$words$word %in% c("Loaf", "rise", "(mm)")
  expect_gt(sum(level), 10)
  expect_lt(max(abs(from_eps$words$x0 - from_pdf$words$x0)[level]), 0.06)
})

test_that("proof measures EPS pages, and is bad where a house forbids what EPS cannot show", {
  path <- withr::local_tempfile(fileext = ".eps")
  save_plate(fig, path)
  page <- function(plate, file) {
    found <- as.data.frame(proof(plate, file))
    found[found$rule == "page of the file", c("measured", "verdict")]
  }
  expect_identical(page(fig, path)$verdict, "good")
  expect_identical(page(resize(fig, width = 90), path)$verdict, "bad")
  pale <- plate(
    panel(loaves, x = rise, y = volume, ink_points(opacity = 0.5)),
    width = 80,
    height = 60
  )
  solid <- plate(panel(loaves, x = rise, y = volume, ink_points()), width = 80, height = 60)
  strict <- house("plain", limits = list(transparency = FALSE))
  verdict <- function(plate, ...) {
    found <- as.data.frame(proof(plate, ...))
    found$verdict[found$rule == "transparency"]
  }
  expect_identical(verdict(change(pale, house = strict)), "bad")
  expect_identical(verdict(change(solid, house = strict)), "good")
  save_plate(pale, path)
  expect_identical(verdict(change(pale, house = strict), path), "bad")
  expect_identical(verdict(pale, path), "look")
  expect_identical(verdict(pale), "good")
})

test_that("dots of a PNG are round and smooth: their rims have many shades", {
  skip_if_not_installed("png")
  path <- withr::local_tempfile(fileext = ".png")
  one <- data.frame(x = 1:2, y = 1:2)
  save_plate(
    plate(
      panel(one, x = x, y = y, ink_points(size = 4, colour = "#000000")),
      width = 60,
      height = 50
    ),
    path,
    dpi = 300
  )
  pixels <- png::readPNG(path)[, , 1]
  expect_gt(length(unique(round(pixels[pixels > 0.02 & pixels < 0.98], 2))), 40)
})

test_that("points by the edge of a plot area are drawn whole, those of a zoom that go on are cut", {
  skip_if_not_installed("png")
  table <- data.frame(x = 1:9, y = c(1, 5, 5, 5, 5, 5, 5, 5, 9))
  lone <- panel(
    table,
    x = x,
    y = y,
    ink_points(size = 2),
    x_axis = axis_of(range = c(0, 10)),
    y_axis = axis_of(range = c(1, 9))
  )
  dark_above <- function(figure, id) {
    path <- file.path(withr::local_tempdir(), "a.png")
    suppressWarnings(save_plate(figure, path, dpi = 600))
    area <- as_scene(figure)$panels[id, ]
    pixels <- png::readPNG(path)[, , 1]
    rows <- round((area$y - c(0.7, 0.25)) / 25.4 * 600)
    columns <- round((area$x + c(0, area$w)) / 25.4 * 600)
    mean(pixels[rows[1]:rows[2], columns[1]:columns[2]] < 0.6) > 0
  }
  expect_true(dark_above(plate(lone, width = 60, height = 40), 1))
  zoomed <- plate(
    beside(a = lone, zoom(of = "a", x = c(4, 6), y = c(4.5, 5.02))),
    width = 120,
    height = 40
  )
  expect_false(dark_above(zoomed, 2))
})
