test_that("text files are UTF-8 in any locale, and others are refused with their line", {
  folder <- withr::local_tempdir()
  write <- function(name, ...) writeBin(c(...), file.path(folder, name))
  utf8 <- function(text) charToRaw(enc2utf8(text))
  write("t.csv", utf8("f,v\nBl\u00e9,1\nSeigle,2\n"))
  fields <- paste0(
    "fields:\n- {name: f, title: Farine de bl\u00e9}\n",
    "- {name: v, type: number, unit: \u00b5m, title: Temp\u00e9rature}\n"
  )
  write("u.yaml", utf8(fields))
  write("mark.yaml", as.raw(c(0xef, 0xbb, 0xbf)), utf8(fields))
  write("latin.yaml", charToRaw(iconv(fields, "UTF-8", "latin1")))
  table <- file.path(folder, "t.csv")
  names_of <- function(book) {
    vapply(read_data(table, file.path(folder, book))$kinds, `[[`, "", "name")
  }
  expect_identical(names_of("u.yaml"), c(f = "Farine de bl\u00e9", v = "Temp\u00e9rature"))
  withr::with_locale(
    c(LC_CTYPE = "C"),
    expect_identical(names_of("u.yaml"), c(f = "Farine de bl\u00e9", v = "Temp\u00e9rature"))
  )
  expect_identical(names_of("mark.yaml"), names_of("u.yaml"))
  error <- tryCatch(names_of("latin.yaml"), error = identity)
  expect_s3_class(error, "nelvat_error_encoding")
  expect_match(rlang::cnd_message(error), "latin.yaml\" is not in UTF-8.*Line 2.*bl\u00e9")
  # The same of figure files and houses.
  write("f.yaml", charToRaw(iconv("nelvat: 1\n# bl\u00e9\n", "UTF-8", "latin1")))
  expect_error(read_figure(file.path(folder, "f.yaml")), "Line 2", class = "nelvat_error_encoding")
  write("h.yaml", as.raw(c(0xff, 0xfe, 0x61, 0x00)))
  expect_error(house(file.path(folder, "h.yaml")), "UTF-16", class = "nelvat_error_encoding")
})

test_that("uneven rows are found in any language of messages", {
  script <- withr::local_tempfile(
    fileext = ".R",
    lines = c(
      "suppressMessages(library(nelvat))",
      "for (text in c('a,b\\n1,2\\n1,2,3\\n', 'a,b\\n1,2\\n3\\n4,5\\n',",
      "'a,b\\n1,2\\n3\\n', 'a,b\\n\"x\\ny\",1\\n2,3,4\\n')) {",
      "  path <- tempfile(fileext = '.csv'); cat(text, file = path)",
      "  cat(tryCatch({read_data(path); 'read'}, nelvat_error = function(e) paste(class(e)[1],",
      "    regmatches(m <- rlang::cnd_message(e), regexpr('Line .*?[.]', m)))), '\\n')",
      "}"
    )
  )
  wanted <- paste(
    "nelvat_error_file",
    c("Line 3 has 3", "Line 3 has 1", "Line 3 has 1", "Line 4 has 3"),
    "where the header, line 1, has 2."
  )
  for (language in c("en", "es", "pt_BR")) {
    said <- withr::with_envvar(
      c(LANGUAGE = language, LC_ALL = "C.UTF-8"),
      system2(file.path(R.home("bin"), "Rscript"), script, stdout = TRUE, stderr = FALSE)
    )
    expect_identical(trimws(said), wanted, label = language)
  }
})

test_that("fields are counted as RFC 4180 has them", {
  counted <- function(text, separator = ",") {
    as.data.frame(nelvat:::count_fields_cpp(charToRaw(text), separator)[c("line", "fields")])
  }
  expect_identical(counted("a,b\n1,2\n"), data.frame(line = 1, fields = 2))
  expect_identical(
    counted("a,b\r\n\"1,\"\"x\"\"\",2\r\n\n3\n\n"),
    data.frame(line = c(1, 3, 4), fields = c(2, 0, 1))
  )
  expect_identical(counted("a;b\n1,2;3", ";"), data.frame(line = 1, fields = 2))
  expect_identical(nrow(counted("")), 0L)
})

test_that("without a font, or with one that cannot be read, nothing is written", {
  skip_on_os(c("windows", "mac"))
  folder <- withr::local_tempdir()
  fonts <- file.path(folder, "fonts")
  dir.create(fonts)
  writeLines(
    c(
      "<?xml version=\"1.0\"?><!DOCTYPE fontconfig SYSTEM \"fonts.dtd\">",
      sprintf(
        "<fontconfig><dir>%s</dir><cachedir>%s</cachedir></fontconfig>",
        fonts,
        file.path(folder, "cache")
      )
    ),
    file.path(folder, "fonts.conf")
  )
  pdf <- file.path(folder, "f.pdf")
  writeLines("old", pdf)
  script <- withr::local_tempfile(
    fileext = ".R",
    lines = c(
      "suppressMessages(library(nelvat))",
      "design <- panel(study('loaves'), x = flour, y = rise, ink_bars())",
      "fig <- plate(design, width = 80, height = 60)",
      sprintf(
        paste(
          "cat(tryCatch(save_plate(fig, '%s'), error = function(e) {",
          "c(class(e)[1], rlang::cnd_message(e))}), sep = '\\n')"
        ),
        pdf
      )
    )
  )
  said <- function() {
    withr::with_envvar(
      c(FONTCONFIG_FILE = file.path(folder, "fonts.conf")),
      system2(file.path(R.home("bin"), "Rscript"), script, stdout = TRUE, stderr = FALSE)
    )
  }
  none <- said()
  expect_identical(none[1], "nelvat_error_font")
  expect_match(none, "fonts-liberation", all = FALSE)
  writeBin(as.raw(1:200), file.path(fonts, "LiberationSans-Regular.ttf"))
  expect_identical(said()[1], "nelvat_error_font")
  expect_identical(readLines(pdf), "old")
})

test_that("a font that only the measuring finds does not leave a page without words", {
  fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
  drawn <- nelvat:::read_pdf
  without_fonts <- function(bytes) {
    file <- drawn(bytes)
    file$objects <- Filter(function(object) !grepl("/Type\\s*/Font\\b", object$text), file$objects)
    file
  }
  path <- withr::local_tempfile(fileext = ".pdf")
  with_replaced(
    expect_error(save_plate(fig, path), "without words", class = "nelvat_error_font"),
    read_pdf = without_fonts
  )
  expect_false(file.exists(path))
})

test_that("numbers in texts do not follow the session's options", {
  said <- function() {
    fig <- plate(
      panel(
        study("loaves"),
        x = rise,
        y = moisture,
        ink_points(),
        ink_fit(equation = TRUE),
        keep = rise > 30.5
      ),
      width = 80,
      height = 60
    )
    nelvat:::forget_said()
    list(
      legend_text(fig),
      alt_text(fig),
      as_scene(fig)$texts$string,
      as.data.frame(proof(fig)),
      format(study("loaves")),
      draft_codebook(study_file("loaves.csv")),
      levels(cut_into(c(0.5, 1.25, 7), 2)),
      source_data(fig)
    )
  }
  usual <- suppressWarnings(said())
  withr::local_options(OutDec = ",", digits = 3, scipen = -10)
  expect_identical(suppressWarnings(said()), usual)
})
