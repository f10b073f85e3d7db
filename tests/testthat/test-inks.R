loaves <- study("loaves")
scene_of <- function(..., width = 120, height = 70) {
  suppressWarnings(as_scene(plate(panel(...), width = width, height = height)))
}
marks_of <- function(scene, primitive) {
  Filter(function(layer) layer$primitive == primitive, scene$marks)[[1]]$table
}
data_y <- function(scene, unit) scene$axes[[2]]$range[1] + unit * diff(scene$axes[[2]]$range)

test_that("bars count where the panel has no quantity, from the table alone", {
  scene <- scene_of(loaves, x = flour, colour = grade, ink_bars(arrange = "stack"))
  bars <- marks_of(scene, "rects")
  n <- table(factor(loaves$data$flour, loaves$columns$flour$levels), loaves$data$grade)
  expect_equal(
    sort(round(data_y(scene, bars$y1) - data_y(scene, bars$y0))),
    sort(as.numeric(n[n > 0]))
  )
  expect_equal(unique(round(as.numeric(tapply(data_y(scene, bars$y1), bars$x0, max)))), 36)
  expect_identical(scene$axes[[2]]$title, "Count")
  shares <- scene_of(loaves, x = flour, colour = grade, ink_bars(arrange = "share"))
  tops <- tapply(data_y(shares, marks_of(shares, "rects")$y1), marks_of(shares, "rects")$x0, max)
  expect_equal(unname(tops), rep(100, 4), ignore_attr = TRUE)
})

test_that("medians and sums are drawn, and values written at bars touch nothing", {
  scene <- scene_of(loaves, x = flour, y = rise, ink_bars("median"))
  bars <- marks_of(scene, "rects")
  expect_equal(
    data_y(scene, bars$y1[order(bars$x0)]),
    as.numeric(
      tapply(loaves$data$rise, factor(loaves$data$flour, loaves$columns$flour$levels), median)
    )
  )
  expect_match(scene$facts$shows, "median, quartiles")
  written <- scene_of(loaves, x = flour, y = rise, colour = hydration, ink_bars(values = TRUE))
  expect_identical(sum(written$texts$role == "value"), 12L)
  expect_identical(nrow(nelvat:::touching_texts(written)), 0L)
})

test_that("a mean line's band is that of the values at each x", {
  cultures <- study("cultures")
  scene <- scene_of(
    cultures,
    x = hour,
    y = count,
    keep = microbe == "fsan",
    ink_line(centre = "mean", band = "se")
  )
  lines <- marks_of(scene, "lines")
  own <- cultures$data[cultures$data$microbe == "fsan", ]
  means <- tapply(own$count, own$hour, mean, na.rm = TRUE)
  expect_equal(data_y(scene, lines$y), as.numeric(means))
  expect_identical(
    nrow(
      marks_of(
        scene_of(
          cultures,
          x = hour,
          y = count,
          keep = microbe == "fsan",
          ink_line(centre = "mean", band = "none")
        ),
        "lines"
      )
    ),
    11L
  )
  expect_error(ink_line(band = "sd"), class = "nelvat_error_argument")
})

test_that("bands and shades lie under points and lines before them, but over what is filled", {
  order <- function(...) {
    scene <- scene_of(loaves, x = rise, y = firmness, ...)
    vapply(scene$marks, function(layer) paste(layer$ink, layer$primitive), "")
  }
  expect_identical(
    order(colour = flour, ink_points(), ink_fit()),
    c("fit areas", "points points", "fit lines")
  )
  expect_identical(
    order(ink_hexagons(), ink_points(), ink_fit())[1:2],
    c("hexagons areas", "fit areas")
  )
  expect_identical(order(ink_fit(), ink_points()), c("fit areas", "fit lines", "points points"))
  expect_identical(
    order(ink_points(), ink_shade(y = c(3, 5)), ink_fit()),
    c("shade rects", "fit areas", "points points", "fit lines")
  )
  expect_identical(order(ink_points(), ink_contours(filled = TRUE))[1], "contours areas")
  # Over what stands behind for comparison, though.
  faint <- facets(
    panel(loaves, x = rise, y = firmness, ink_points(), ink_fit()),
    across = flour,
    behind = TRUE
  )
  behind <- suppressWarnings(as_scene(plate(faint, width = 160, height = 60)))
  expect_identical(
    vapply(behind$marks, function(layer) paste(layer$ink, layer$primitive), ""),
    c("points points", "fit areas", "points points", "fit lines")
  )
  bars <- scene_of(loaves, x = rise, ink_histogram(), ink_shade(x = c(30, 40)))
  expect_identical(bars$marks[[1]]$ink, "histogram")
})

test_that("missing values break a line, are bridged, or are dropped, as the policy says", {
  table <- data.frame(x = 1:6, y = c(1, 2, NA, 4, 5, NA))
  pieces <- function(...) {
    length(unique(marks_of(scene_of(table, x = x, y = y, ink_line(), ...), "lines")$line))
  }
  expect_identical(pieces(), 2L)
  expect_identical(pieces(missing = "bridge"), 1L)
  expect_identical(pieces(missing = fill_with(0)), 1L)
})

test_that("steps hold each value until the next, and staggered series say their offset", {
  table <- data.frame(x = c(1, 2, 4), y = c(3, 1, 2))
  steps <- marks_of(scene_of(table, x = x, y = y, ink_step()), "lines")
  expect_identical(nrow(steps), 5L)
  expect_equal(steps$y[1:2], rep(steps$y[1], 2))
  expect_equal(steps$x[2], steps$x[3])
  staggered <- scene_of(
    study("probe"),
    x = time,
    y = c(chamber, surface),
    colour = measure("Temperature"),
    ink_line(stagger = 10)
  )
  expect_match(staggered$facts$shows, "each series 10 above")
})

test_that("a setting colours the ink alone, a column of its own too, and other inks keep theirs", {
  scene <- scene_of(
    loaves,
    x = rise,
    y = firmness,
    ink_points(colour = moisture),
    ink_fit(colour = "#AA3333")
  )
  expect_gt(length(unique(marks_of(scene, "points")$colour)), 20)
  expect_identical(unique(marks_of(scene, "lines")$colour), "#AA3333")
  expect_identical(unique(scene$keys$key), "moisture")
  expect_error(ink_points(colour = "#12"), class = "nelvat_error_argument")
  expect_error(
    panel(loaves, x = rise, y = firmness, ink_points(colour = moistur)),
    class = "nelvat_error_column"
  )
})

test_that("bubbles have areas in proportion to their values", {
  scene <- scene_of(loaves, x = rise, y = ph, size = acidity, ink_points())
  points <- marks_of(scene, "points")
  held <- loaves$data[!is.na(loaves$data$acidity), ]
  expect_equal(
    sort(points$size_mm^2) / max(points$size_mm^2),
    sort(held$acidity) / max(held$acidity)
  )
  expect_identical(unique(scene$keys$glyph), "symbol")
})

test_that("histograms and densities stand on zero, count all, and lie down", {
  scene <- scene_of(loaves, x = rise, ink_histogram(width = 5))
  bars <- marks_of(scene, "rects")
  expect_equal(sum(data_y(scene, bars$y1)), 144)
  lying <- scene_of(loaves, y = rise, ink_histogram(width = 5))
  expect_equal(marks_of(lying, "rects")$x1, bars$y1)
  expect_identical(lying$axes[[1]]$title, "Count")
  dense <- scene_of(loaves, x = rise, ink_histogram(width = 5, scale = "density"))
  expect_equal(sum(data_y(dense, marks_of(dense, "rects")$y1)) * 5, 1)
  curve <- scene_of(loaves, x = rise, ink_density())
  expect_equal(curve$axes[[2]]$range[1], 0)
  expect_error(panel(loaves, x = rise, y = ph, ink_histogram()), class = "nelvat_error_argument")
  expect_error(ink_histogram(bins = 3, width = 2), class = "nelvat_error_argument")
})

test_that("hexagons are regular on paper whatever the panel's shape, and hold all points", {
  pores <- study("pores")
  for (size in list(c(120, 60), c(70, 110))) {
    scene <- scene_of(
      pores,
      x = log10(area),
      y = roundness,
      keep = flour == "rye",
      ink_hexagons(bins = 20),
      width = size[1],
      height = size[2]
    )
    areas <- marks_of(scene, "areas")
    x <- areas$x[1:6] * scene$panels$w
    y <- areas$y[1:6] * scene$panels$h
    sides <- sqrt(diff(c(x, x[1]))^2 + diff(c(y, y[1]))^2)
    expect_lt(diff(range(sides)), 1e-8)
  }
  expect_identical(scene$facts$n, sum(pores$data$flour == "rye"))
})

test_that("contours ring the groups that have points enough", {
  scene <- scene_of(loaves, x = rise, y = moisture, colour = flour, ink_contours(filled = TRUE))
  expect_identical(length(unique(marks_of(scene, "areas")$area)), 12L)
  few <- scene_of(data.frame(x = 1:3, y = 1:3), x = x, y = y, ink_contours(), ink_points())
  expect_identical(nrow(marks_of(few, "points")), 3L)
})

test_that("the equation stands in the corner with least ink, off the points where that can be", {
  falling <- data.frame(x = 1:60, y = 60:1 + rep(c(-1, 1), 30))
  scene <- scene_of(falling, x = x, y = y, ink_points(), ink_fit(equation = TRUE))
  text <- scene$texts[scene$texts$role == "equation", ]
  expect_gt(text$centre_x, scene$panels$x + scene$panels$w / 2)
  points <- marks_of(scene, "points")
  inside <- scene$panels$x + points$x * scene$panels$w > text$x0 &
    scene$panels$x + points$x * scene$panels$w < text$x1 &
    scene$panels$y + (1 - points$y) * scene$panels$h > text$y0 &
    scene$panels$y + (1 - points$y) * scene$panels$h < text$y1
  expect_false(any(inside))
  expect_match(text$string, "y = 60.9 \u2212 0.998")
})

test_that("tiles write values that contrast, on a ramp the same way far to both sides of zero", {
  scene <- scene_of(
    correlations(loaves, c(rise, ph, firmness)),
    x = first,
    y = second,
    colour = r,
    ink_tiles()
  )
  expect_identical(nrow(marks_of(scene, "rects")), 9L)
  expect_identical(sum(scene$texts$role == "value"), 9L)
  contrast <- function(a, b) {
    l <- sort(nelvat:::relative_luminance(c(a, b)))
    (l[2] + 0.05) / (l[1] + 0.05)
  }
  value_ids <- scene$texts$id[scene$texts$role == "value"]
  inks <- scene$runs$colour[match(value_ids, scene$runs$text)]
  expect_true(all(mapply(contrast, inks, marks_of(scene, "rects")$fill) > 3))
  expect_error(
    suppressWarnings(
      as_scene(
        plate(
          panel(loaves, x = flour, y = grade, colour = rise, ink_tiles()),
          width = 80,
          height = 60
        )
      )
    ),
    class = "nelvat_error_data"
  )
})

test_that("marks stand where they are said, dates included, and are part of the range", {
  scene <- scene_of(
    loaves,
    x = rise,
    y = firmness,
    ink_points(),
    ink_rule(x = 120),
    ink_text("note", 60, 20)
  )
  x <- scene$axes[[1]]$range
  expect_gt(x[2], 120)
  expect_equal(x[1] + marks_of(scene, "segments")$x0 * diff(x), 120)
  expect_true("note" %in% scene$texts$string)
  dated <- scene_of(
    loaves,
    x = baked,
    y = rise,
    ink_points(),
    ink_shade(x = as.Date(c("2026-02-10", "2026-02-20")))
  )
  expect_identical(nrow(marks_of(dated, "rects")), 1L)
  sloped <- scene_of(
    data.frame(x = c(0, 10), y = c(0, 10)),
    x = x,
    y = y,
    ink_points(),
    ink_rule(slope = 1)
  )
  expect_equal(
    marks_of(sloped, "segments")[c("x0", "y0", "x1", "y1")],
    data.frame(x0 = 0, y0 = 0, x1 = 1, y1 = 1),
    ignore_attr = TRUE
  )
})

test_that("meshes keep lengths equal across and upwards", {
  scene <- scene_of(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())
  per_mm <- c(
    diff(scene$axes[[1]]$range) / scene$panels$w,
    diff(scene$axes[[2]]$range) / scene$panels$h
  )
  expect_equal(per_mm[1], per_mm[2], tolerance = 1e-3)
  expect_identical(length(unique(marks_of(scene, "areas")$area)), nrow(study("slice")$data) %/% 3L)
  expect_error(
    panel(study("slice")$data[1:4, ], x = x, y = y, group = triangle, ink_mesh()),
    class = "nelvat_error_data"
  )
})

test_that("a circle of shares is round, whole, and its labels do not touch", {
  scene <- scene_of(loaves, colour = grade, ink_pie(), width = 110, height = 60)
  sector <- marks_of(scene, "areas")
  rim <- sector[!(sector$x == 0.5 & sector$y == 0.5), ]
  radius <- sqrt(((rim$x - 0.5) * scene$panels$w)^2 + ((rim$y - 0.5) * scene$panels$h)^2)
  expect_lt(diff(range(radius)), 1e-8)
  expect_identical(nrow(scene$rules), 0L)
  table <- data.frame(part = c(letters[1:9]), amount = c(90, rep(1, 8)))
  many <- scene_of(table, y = amount, colour = part, ink_pie(), width = 110, height = 60)
  expect_identical(sum(many$texts$role == "share"), 9L)
  expect_identical(nrow(nelvat:::touching_texts(many)), 0L)
  expect_error(
    panel(data.frame(p = "a", v = -1), y = v, colour = p, ink_pie()),
    class = "nelvat_error_data"
  )
})

test_that("points in depth lie within their box", {
  scene <- scene_of(loaves, x = rise, y = moisture, ink_depth(z = firmness))
  points <- marks_of(scene, "points")
  expect_identical(nrow(points), 140L)
  expect_true(all(points$x > 0 & points$x < 1 & points$y > 0 & points$y < 1))
  expect_true(all(c("Loaf rise (mm)", "Moisture (%)", "Firmness (N)") %in% scene$texts$string))
  expect_error(panel(loaves, x = rise, y = moisture, ink_depth()), class = "nelvat_error_argument")
})

test_that("polygons take the colour of their category or the mean of their values", {
  table <- data.frame(
    p = rep(c("a", "b"), c(3, 4)),
    x = c(0, 1, 0, 2, 3, 3, 2),
    y = c(0, 0, 1, 0, 0, 1, 1),
    v = c(1, 2, 3, 5, 5, 7, 7)
  )
  by_level <- scene_of(table, x = x, y = y, group = p, colour = p, ink_polygons())
  expect_identical(unique(marks_of(by_level, "areas")$fill), house_colours(2))
  by_value <- scene_of(table, x = x, y = y, group = p, colour = v, ink_polygons())
  expect_identical(
    unique(marks_of(by_value, "areas")$fill),
    nelvat:::ramp_colours(c(2, 6), c(1, 7))
  )
})

test_that("an image spans the places said, the right way up, its lengths equal", {
  skip_if_not_installed("png")
  path <- withr::local_tempfile(fileext = ".png")
  pixels <- array(1, c(20, 40, 3))
  pixels[1:10, 1:20, 2:3] <- 0
  png::writePNG(pixels, path)
  scene <- scene_of(
    data.frame(x = c(0, 8), y = c(0, 4)),
    x = x,
    y = y,
    ink_image(path, x = c(0, 8), y = c(0, 4)),
    width = 100,
    height = 90
  )
  per_mm <- c(
    diff(scene$axes[[1]]$range) / scene$panels$w,
    diff(scene$axes[[2]]$range) / scene$panels$h
  )
  expect_equal(per_mm[1], per_mm[2], tolerance = 1e-3)
  out <- withr::local_tempfile(fileext = ".png")
  save_plate(
    plate(
      panel(
        data.frame(x = c(0, 8), y = c(0, 4)),
        x = x,
        y = y,
        ink_image(path, x = c(0, 8), y = c(0, 4))
      ),
      width = 100,
      height = 90
    ),
    out,
    dpi = 72
  )
  drawn <- png::readPNG(out)
  at <- function(x, y) {
    unit <- c(
      (x - scene$axes[[1]]$range[1]) / diff(scene$axes[[1]]$range),
      (y - scene$axes[[2]]$range[1]) / diff(scene$axes[[2]]$range)
    )
    mm <- c(
      scene$panels$x + unit[1] * scene$panels$w,
      scene$panels$y + (1 - unit[2]) * scene$panels$h
    )
    round(drawn[round(mm[2] / 90 * dim(drawn)[1]), round(mm[1] / 100 * dim(drawn)[2]), 1:3])
  }
  expect_identical(at(2, 3), c(1, 0, 0))
  expect_identical(at(6, 1), c(1, 1, 1))
  expect_error(ink_image("nowhere.png"), class = "nelvat_error_file")
  # In a figure file the path is relative to the file.
  folder <- folder_with(
    list(
      t.csv = c("x,y", "0,0", "8,4"),
      figure.yaml = c(
        "nelvat: 1", "data: {t: t.csv}",
        "blocks: {a: {panel: {data: t, x: x, y: y, ink: [{image: {path: crumb.png, x: [0, 8],",
        "    y: [0, 4]}}]}}}",
        "plate: {place: a, width: 100, height: 90}"
      )
    )
  )
  file.copy(path, file.path(folder, "crumb.png"))
  expect_identical(as_scene(read_figure(file.path(folder, "figure.yaml"))$plate)$marks, scene$marks)
  expect_error(ink_image(study_file("loaves.csv")), class = "nelvat_error_file")
})

test_that("odd panels are drawn sensibly or refused clearly", {
  kinds <- list(
    ink_points(),
    ink_line(),
    ink_fit(),
    ink_contours(),
    ink_hexagons(),
    ink_bins(),
    ink_residuals()
  )
  tables <- list(
    one = data.frame(x = 1, y = 2),
    equal = data.frame(x = rep(3, 5), y = rep(4, 5)),
    huge = data.frame(x = c(1, 1e300), y = c(-1e300, 2)),
    infinite = data.frame(x = c(1, 2, Inf), y = c(1, -Inf, 3)),
    missing = data.frame(x = c(1, NA), y = c(NA, 2))
  )
  for (name in names(tables)) {
    for (ink in kinds) {
      got <- tryCatch(scene_of(tables[[name]], x = x, y = y, ink), nelvat_error = identity)
      expect_true(inherits(got, c("nelvat_scene", "nelvat_error")), label = paste(name, ink$ink))
      if (inherits(got, "nelvat_scene")) {
        expect_false(anyNA(unlist(lapply(got$axes, `[[`, "range"))))
      }
    }
    for (ink in list(ink_histogram(), ink_density(), ink_rug())) {
      got <- tryCatch(scene_of(tables[[name]], x = x, ink), nelvat_error = identity)
      expect_true(inherits(got, c("nelvat_scene", "nelvat_error")), label = paste(name, ink$ink))
    }
  }
  expect_error(scene_of(tables$missing, x = x, y = y, ink_points()), class = "nelvat_error_data")
  few <- data.frame(f = "a", v = 1)
  many <- data.frame(f = rep(sprintf("level %02d", 1:40), 3), v = 1:120)
  for (ink in list(ink_bars(), ink_box(), ink_violin(), ink_dots(), ink_swarm())) {
    expect_s3_class(scene_of(few, x = f, y = v, ink), "nelvat_scene")
    expect_s3_class(scene_of(many, y = f, x = v, ink, width = 178, height = 220), "nelvat_scene")
  }
})

test_that("wrong settings of inks are refused in the user's terms", {
  expect_snapshot(error = TRUE, ink_bars(centre = "median", error = "sd"))
  expect_snapshot(error = TRUE, ink_rule())
  expect_snapshot(error = TRUE, ink_shade(x = 1:2, y = 1:2))
  expect_snapshot(error = TRUE, ink_contours(shares = 2))
  expect_snapshot(error = TRUE, panel(loaves, x = rise, y = ph, ink_text("a", "here", 1)))
  expect_snapshot(error = TRUE, ink_fit("spline"))
  expect_snapshot(error = TRUE, panel(loaves, x = rise, y = firmness, ink_box()))
  expect_snapshot(error = TRUE, panel(loaves, x = flour, y = firmness, ink_hexagons()))
  expect_snapshot(
    error = TRUE,
    as_scene(
      plate(panel(study("pores"), x = flour, y = depth, ink_swarm()), width = 80, height = 60)
    )
  )
})

# A figure file with one of its blocks, whose tables alone are read.
only_block <- function(lines, name) {
  from <- which(lines == "blocks:")
  to <- min(grep("^[a-z]", lines)[grep("^[a-z]", lines) > from])
  inside <- seq(from + 1, to - 1)
  block <- cumsum(grepl("^  [^ #]", lines[inside]))
  wanted <- block[grep(paste0("^  ", name, ":"), lines[inside])]
  lines[-inside[block != wanted]]
}

test_that("every ink of the example file draws, and as its call does", {
  lines <- readLines(example_file("inks.yaml"))
  folder <- withr::local_tempdir()
  lines <- gsub("../study", system.file("study", package = "nelvat"), lines, fixed = TRUE)
  code <- parse(example_file("inks.R"))
  environment <- new.env()
  for (expression in code) {
    if (
      is.call(expression) && !identical(expression[[1]], as.name("for")) &&
        !grepl("dir.create|folder", deparse(expression)[1])
    ) {
      suppressWarnings(eval(expression, environment))
    }
  }
  names <- names(environment$panels)
  for (name in names) {
    path <- file.path(folder, "inks.yaml")
    writeLines(sub("place: hexagons", paste0("place: ", name), only_block(lines, name)), path)
    from_file <- suppressWarnings(as_scene(read_figure(path)$plate))
    from_call <- suppressWarnings(
      as_scene(plate(environment$panels[[name]], width = "single", height = 65))
    )
    expect_identical(from_file, from_call, label = name)
    expect_identical(
      nrow(nelvat:::touching_texts(from_file)),
      0L,
      label = paste("texts that touch in", name)
    )
  }
  inks <- unique(
    unlist(
      lapply(environment$panels, function(block) {
        in_margins <- unlist(block$marginals$inks, recursive = FALSE)
        inks <- c(block$inks, block$panel$inks, in_margins)
        vapply(inks, `[[`, "", "ink")
      })
    )
  )
  expect_setequal(setdiff(nelvat:::ink_words(), inks), c("image", "labels", "value"))
})

test_that("JPEG and TIFF are read by what they hold; texts longer than scale bars stay inside", {
  skip_if_not_installed("jpeg")
  skip_if_not_installed("tiff")
  pixels <- matrix(seq(0, 1, length.out = 1200), 30)
  write <- list(
    png = png::writePNG,
    jpeg = function(image, path) jpeg::writeJPEG(image, path, quality = 1),
    tiff = tiff::writeTIFF
  )
  read <- lapply(names(write), function(format) {
    path <- withr::local_tempfile(fileext = ".img")
    write[[format]](pixels, path)
    grDevices::col2rgb(ink_image(path)$pixels)
  })
  expect_lt(max(abs(read[[1]] - read[[2]])), 12)
  expect_lt(max(abs(read[[1]] - read[[3]])), 2)
  pages <- withr::local_tempfile(fileext = ".tif")
  tiff::writeTIFF(list(pixels, 1 - pixels), pages)
  expect_message(two <- ink_image(pages), "2 pages; the first")
  expect_identical(two$pixels, ink_image(pages)$pixels)
  words <- withr::local_tempfile(fileext = ".png", lines = "not an image")
  expect_error(ink_image(words), "first bytes", class = "nelvat_error_file")
  short <- image_panel(
    study_file("crumb.png"),
    scale_bar(length = 0.1, unit = "mm", per_pixel = 0.05)
  )
  scene <- as_scene(plate(short, width = 60, height = 50, letters = "none"))
  text <- scene$texts[grepl("mm", scene$texts$string), ]
  expect_lte(text$x1, scene$panels$x + scene$panels$w)
  expect_gte(text$x0, scene$panels$x)
})

test_that(
  "bars stand on moments and, of a width, on quantities, at their values, as wide as said",
  {
    table <- data.frame(day = as.Date("2025-03-01") + c(0:5, 8, 9), n = c(3, 5, 2, 8, 4, 6, 7, 1))
    scene <- as_scene(
      plate(
        panel(table, x = day, y = n, ink_bars(centre = "sum", width = "1 day")),
        width = 86,
        height = 60
      )
    )
    bars <- scene$marks[[1]]$table
    x <- scene$axes[[which(vapply(scene$axes, `[[`, "", "direction") == "x")]]
    unit <- function(value) (value - x$range[1]) / diff(x$range)
    seconds <- as.numeric(as.POSIXct(table$day, tz = "UTC"))
    expect_equal(bars$x0, unit(seconds - 43200))
    expect_equal(bars$x1, unit(seconds + 43200))
    y <- scene$axes[[which(vapply(scene$axes, `[[`, "", "direction") == "y")]]
    expect_equal(bars$y1, table$n / y$range[2])
    expect_equal(bars$y0, rep(0, 8))
    doses <- expand.grid(dose = c(1, 2, 4, 8), part = c("a", "b"), again = 1:3)
    doses$r <- doses$dose + doses$again
    beside <- as_scene(
      plate(
        panel(doses, x = dose, y = r, colour = part, ink_bars(width = 0.8)),
        width = 86,
        height = 60
      )
    )$marks[[1]]$table
    expect_identical(nrow(beside), 8L)
    expect_error(
      as_scene(plate(panel(doses, x = dose, y = r, ink_bars()))),
      "need a `width`",
      class = "nelvat_error_kind"
    )
    expect_error(
      as_scene(plate(panel(doses, x = dose, y = r, ink_bars(width = 2)))),
      "over each other",
      class = "nelvat_error_argument"
    )
    expect_error(
      as_scene(plate(panel(study("loaves"), x = flour, y = rise, ink_bars(width = "1 day")))),
      "millimetres",
      class = "nelvat_error_argument"
    )
    wide <- as_scene(
      plate(
        panel(study("loaves"), x = flour, y = rise, ink_bars(width = 4)),
        width = 86,
        height = 60
      )
    )
    expect_equal(
      unique(round((wide$marks[[1]]$table$x1 - wide$marks[[1]]$table$x0) * wide$panels$w, 6)),
      4
    )
    boxed <- as_scene(
      plate(
        panel(study("loaves"), x = flour, y = rise, ink_box(width = 3)),
        width = 86,
        height = 60
      )
    )
    outline <- Find(function(layer) layer$primitive == "areas", boxed$marks)$table
    expect_equal(
      unique(
        round(tapply(outline$x, outline$area, function(x) diff(range(x))) * boxed$panels$w, 6)
      ),
      3,
      ignore_attr = TRUE
    )
  }
)

test_that(
  "notes stay in their panel, off each other; equations stand where no marks or notes are",
  {
    set.seed(12)
    table <- data.frame(x = rnorm(300), y = rnorm(300))
    texts_of <- function(...) {
      scene <- as_scene(plate(panel(table, x = x, y = y, ...), width = 86, height = 70))
      expect_identical(nrow(nelvat:::touching_texts(scene)), 0L)
      list(
        panel = scene$panels,
        notes = scene$texts[scene$texts$role %in% c("note", "equation"), ],
        scene = scene
      )
    }
    inside <- function(drawn) {
      all(
        drawn$notes$x0 >= drawn$panel$x - 0.05,
        drawn$notes$x1 <= drawn$panel$x + drawn$panel$w + 0.05,
        drawn$notes$y0 >= drawn$panel$y - 0.05,
        drawn$notes$y1 <= drawn$panel$y + drawn$panel$h + 0.05
      )
    }
    for (x in c(0, 0.5, 0.98)) {
      for (y in c(0.02, 0.5, 1)) {
        expect_true(
          inside(
            texts_of(ink_points(), ink_text("A note of several words", at = "panel", x = x, y = y))
          )
        )
      }
    }
    expect_true(
      inside(
        texts_of(
          ink_text("first", x = 0, y = 0),
          ink_text("second", x = 0, y = 0),
          ink_text("third", x = 0.05, y = 0)
        )
      )
    )
    with_fit <- texts_of(
      ink_points(opacity = 0.2),
      ink_fit(equation = TRUE),
      ink_text("Here", at = "panel", x = 0.9, y = 0.95)
    )
    expect_true(inside(with_fit))
    # No more of the points lie under the equation than under the emptiest of the four corners.
    box <- with_fit$notes[with_fit$notes$role == "equation", ]
    points <- Find(function(layer) layer$primitive == "points", with_fit$scene$marks)$table
    at <- function(box) {
      sum(
        with_fit$panel$x + points$x * with_fit$panel$w > box$x0 &
          with_fit$panel$x + points$x * with_fit$panel$w < box$x1 &
          with_fit$panel$y + (1 - points$y) * with_fit$panel$h > box$y0 &
          with_fit$panel$y + (1 - points$y) * with_fit$panel$h < box$y1
      )
    }
    expect_lte(at(box), 2)
    expect_error(
      texts_of(ink_points(), ink_text(paste(rep("very", 300), collapse = " "), x = 0, y = 0)),
      "has no room in its panel",
      class = "nelvat_error_labels"
    )
  }
)

test_that("a note stands to the side of its place that is said, or over it", {
  table <- data.frame(x = c(0, 10), y = c(0, 10))
  at <- function(anchor) {
    scene <- as_scene(
      plate(
        panel(table, x = x, y = y, ink_points(), ink_text("note", x = 5, y = 5, anchor = anchor)),
        width = 86,
        height = 80
      )
    )
    box <- scene$texts[scene$texts$role == "note", ]
    c(
      left = scene$panels$x + scene$panels$w / 2 - box$x0,
      right = box$x1 - scene$panels$x - scene$panels$w / 2,
      above = scene$panels$y + scene$panels$h / 2 - box$y0,
      below = box$y1 - scene$panels$y - scene$panels$h / 2
    )
  }
  # Beyond its place by the gap, and not on the other side of it.
  expect_equal(at("right")[["left"]], -1, tolerance = 0.01)
  expect_equal(at("left")[["right"]], -1, tolerance = 0.01)
  expect_equal(at("above")[["below"]], -1, tolerance = 0.01)
  expect_equal(at("below")[["above"]], -1, tolerance = 0.01)
  expect_equal(at("middle")[["left"]], at("middle")[["right"]], tolerance = 0.01)
  for (anchor in c("right", "left")) {
    expect_equal(at(anchor)[["above"]], at(anchor)[["below"]], tolerance = 0.01)
  }
  for (anchor in c("above", "below")) {
    expect_equal(at(anchor)[["left"]], at(anchor)[["right"]], tolerance = 0.01)
  }
})

test_that("residuals all lie in their panel, zero too", {
  scene <- as_scene(
    plate(panel(study("loaves"), x = rise, y = volume, ink_residuals()), width = 86, height = 70)
  )
  points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
  expect_true(all(points$y > 0 & points$y < 1))
  y <- scene$axes[[which(vapply(scene$axes, `[[`, "", "direction") == "y")]]
  own <- stats::residuals(stats::lm(volume ~ rise, study("loaves")$data))
  expect_true(y$range[1] < min(own) && y$range[2] > max(own))
  expect_equal(sort(points$y), sort(unname(own) - y$range[1]) / diff(y$range), tolerance = 1e-6)
})

test_that(
  "an error bar has one colour over its bar and one over the paper, upwards and downwards",
  {
    colours <- list(over_bar = "in", over_paper = "out")
    up <- nelvat:::error_segments(1L, 0.5, 0.2, 0.9, 0, 0.6, colours, 1)
    expect_equal(
      up[c("y0", "y1", "colour")],
      data.frame(y0 = c(0.2, 0.6), y1 = c(0.6, 0.9), colour = c("in", "out")),
      ignore_attr = TRUE
    )
    down <- nelvat:::error_segments(1L, 0.5, -0.9, -0.2, 0, -0.6, colours, 1)
    expect_equal(
      down[c("y0", "y1", "colour")],
      data.frame(y0 = c(-0.9, -0.6), y1 = c(-0.6, -0.2), colour = c("out", "in")),
      ignore_attr = TRUE
    )
    beyond <- nelvat:::error_segments(1L, 0.5, -0.1, 0.9, 0, 0.6, colours, 1)
    expect_identical(beyond$colour, c("out", "in", "out"))
  }
)

test_that("whiskers and medians stand in the middle of their boxes", {
  for (lying in c(FALSE, TRUE)) {
    scene <- if (lying) {
      scene_of(loaves, x = rise, y = flour, ink_box())
    } else {
      scene_of(loaves, x = flour, y = rise, ink_box())
    }
    marks <- Filter(function(layer) layer$primitive %in% c("areas", "segments"), scene$marks)
    across <- if (lying) "y" else "x"
    box <- Filter(function(layer) layer$primitive == "areas", marks)[[1]]$table
    middle <- as.numeric(tapply(box[[across]], box$area, function(v) mean(range(v))))
    whiskers <- marks[[1]]$table
    expect_equal(whiskers[[paste0(across, "0")]], rep(middle, 2))
    median <- Filter(function(layer) layer$primitive == "segments", marks)[[2]]$table
    expect_equal((median[[paste0(across, "0")]] + median[[paste0(across, "1")]]) / 2, middle)
  }
})

test_that("a centre is the mean with its error, on a log axis of the logarithms, side by side", {
  scene <- scene_of(
    loaves,
    x = flour,
    y = log10(rise),
    colour = hydration,
    ink_centre(error = "ci")
  )
  points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
  lines <- Filter(function(layer) layer$primitive == "segments", scene$marks)[[1]]$table
  ends <- Filter(function(axis) !axis$slots, scene$axes)[[1]]$range
  parts <- split(
    log10(loaves$data$rise),
    list(loaves$data$hydration, factor(loaves$data$flour, c("wheat", "spelt", "rye", "emmer")))
  )
  at <- order(points$x)
  expect_equal(points$y[at] * diff(ends) + ends[1], unname(vapply(parts, mean, 0)))
  expect_equal(
    lines$y1[order(lines$x0)] * diff(ends) + ends[1],
    unname(vapply(parts, function(v) stats::t.test(v)$conf.int[2], 0))
  )
  expect_identical(anyDuplicated(round(points$x, 6)), 0L)
  lying <- scene_of(loaves, x = rise, y = flour, ink_centre("median"))
  mid <- Filter(function(layer) layer$primitive == "points", lying$marks)[[1]]$table
  ends <- Filter(function(axis) !axis$slots, lying$axes)[[1]]$range
  expect_equal(
    sort(mid$x * diff(ends) + ends[1]),
    sort(unname(as.numeric(tapply(loaves$data$rise, loaves$data$flour, stats::median))))
  )
  expect_error(ink_centre("sum"), "mean", class = "nelvat_error_argument")
})

test_that("a quantity as colour is drawn or refused alike, whether panel or ink says it", {
  table <- data.frame(
    f = rep(c("a", "b", "c"), each = 6),
    v = c(3.1, 4, 5, 2, 6, 7, 8, 9, 10, 8, 7, 9, 1, 2, 3, 2, 1, 2.5),
    w = rep(c(1.5, 2.5, NA, 3.5, 1e12, 4), 3)
  )
  drawn_of <- function(block) {
    tryCatch(
      suppressMessages(
        suppressWarnings({
          legend_text(as_scene(plate(block, width = 90, height = 70)))
          "drawn"
        })
      ),
      nelvat_error = function(error) rlang::cnd_message(error)
    )
  }
  by_levels <- list(ink_box, ink_violin, ink_dots, ink_swarm, ink_centre, ink_bars, ink_contrasts)
  for (make in by_levels) {
    label <- class(make())[1]
    refused <- "must be a category or an ordinal"
    expect_match(drawn_of(panel(table, x = f, y = v, colour = w, make())), refused, label = label)
    expect_match(drawn_of(panel(table, x = f, y = v, make(colour = w))), refused, label = label)
    # One colour of its own lets it stand among marks that are coloured by a quantity.
    beside_points <- panel(table, x = f, y = v, colour = w, make(colour = "#555555"), ink_points())
    expect_identical(drawn_of(beside_points), "drawn", label = label)
  }
  for (make in list(ink_histogram, ink_density, ink_cumulative)) {
    label <- class(make())[1]
    expect_match(drawn_of(panel(table, x = v, colour = w, make())), refused, label = label)
    expect_match(drawn_of(panel(table, x = v, make(colour = w))), refused, label = label)
  }
})
