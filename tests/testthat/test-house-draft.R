test_that("answers become a house file that says what was answered, a comment a line", {
  path <- withr::local_tempfile(fileext = ".yaml")
  expect_message(
    draft_house(
      path,
      "Annals of Crumb, Letters",
      single = 84,
      double = 174,
      height = 234,
      type = 8,
      least = 6,
      fonts = c("Helvetica", "Arial"),
      line = 0.3,
      formats = c("pdf", "tiff"),
      dpi = 600,
      file_mb = 20,
      letters = "(A)",
      bold = FALSE,
      decimal = ",",
      legend = "n, error bars and tests"
    ),
    "n, error bars and tests"
  )
  style <- house(path)
  expect_identical(style$name, "Annals of Crumb, Letters")
  expect_equal(
    unlist(style$page$width_mm)[c("single", "middle", "double")],
    c(single = 84, middle = 84, double = 174)
  )
  expect_equal(style$page$height_most_mm, 234)
  expect_equal(style$type_pt$base, 8)
  expect_equal(style$type_pt$least, 6)
  expect_identical(style$families, c("Helvetica", "Arial"))
  expect_equal(style$limits$line_pt, 0.3)
  expect_identical(style$limits$formats, c("pdf", "tiff"))
  expect_equal(style$limits$image_dpi, 600)
  expect_equal(style$limits$file_mb, 20)
  expect_identical(style$letters, list(case = "upper", weight = "plain", bracket = "round"))
  expect_identical(style$numbers$decimal_mark, ",")
  lines <- readLines(path)
  expect_gte(sum(grepl("^ *#", lines)), 10)
  loaves <- study("loaves")
  fig <- plate(
    beside(panel(loaves, x = flour, y = rise, ink_box()), panel(loaves, x = rise, ink_histogram())),
    width = "double",
    height = 60,
    house = path
  )
  expect_true(all(c("(A)", "(B)") %in% as_scene(fig)$texts$string))
  expect_identical(as_scene(fig)$page$width_mm, 174)
  expect_error(draft_house(path), "is there already", class = "nelvat_error_file")
})

test_that("a house printed in black has greys, and one width is enough", {
  path <- withr::local_tempfile(fileext = ".yaml")
  suppressMessages(draft_house(path, single = 90, double = NULL, colour = FALSE))
  style <- house(path)
  shades <- grDevices::col2rgb(style$palette)
  expect_lt(max(abs(shades[1, ] - shades[3, ])), 40)
  expect_setequal(unlist(style$page$width_mm), 90)
})

test_that("answers that cannot be are told, and nothing is written", {
  path <- withr::local_tempfile(fileext = ".yaml")
  expect_error(draft_house(), "needs `path`", class = "nelvat_error_argument")
  expect_error(draft_house(path, single = 180, double = 90), "must get wider")
  expect_error(draft_house(path, least = 9), class = "nelvat_error_argument")
  expect_error(draft_house(path, formats = "docx"), class = "nelvat_error_argument")
  expect_error(draft_house(path, letters = "1"), class = "nelvat_error_argument")
  expect_error(draft_house(path, single = NULL, double = NULL), "needs a width")
  expect_error(draft_house("house.txt"), "ends in .yaml", class = "nelvat_error_file")
  expect_false(file.exists(path))
})

test_that("the command takes answers as options and from a file", {
  folder <- withr::local_tempdir()
  withr::local_dir(folder)
  writeLines(
    c("name: The Dough Quarterly", "single: 80", "double: 165", "formats: [eps, tiff]", "type: 9"),
    "artwork.yaml"
  )
  out <- capture.output(
    status <- suppressMessages(
      nelvat:::run_command(
        c("house", "--answers", "artwork.yaml", "--type", "7.5", "quarterly.yaml")
      )
    )
  )
  expect_identical(status, 0L)
  style <- house("quarterly.yaml")
  expect_equal(style$type_pt$base, 7.5)
  expect_identical(style$limits$formats, c("eps", "tiff"))
  writeLines("singel: 80", "artwork.yaml")
  heard <- capture.output(
    status <- nelvat:::run_command(c("house", "--answers", "artwork.yaml", "b.yaml")),
    type = "message"
  )
  expect_identical(status, 1L)
  expect_true(any(grepl("single", heard)))
  expect_false(file.exists("b.yaml"))
})
