fig <- plate(
  panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()),
  width = 80,
  height = 60.3
)

# The same page in another valid form, by qpdf.
rewritten <- function(path, ..., envir = parent.frame()) {
  needs_program("qpdf", "qpdf")
  to <- withr::local_tempfile(fileext = ".pdf", .local_envir = envir)
  system2("qpdf", c(..., shQuote(path), shQuote(to)))
  to
}

streamed <- c("--object-streams=generate", "--compress-streams=y", "--recompress-flate")

test_that("files of both forms are read into the same objects", {
  path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, path)
  other <- rewritten(path, streamed)
  expect_false(
    grepl("\nxref\n", nelvat:::ascii_bytes_cpp(nelvat:::file_bytes(other)), fixed = TRUE)
  )
  fonts <- function(file) {
    texts <- vapply(nelvat:::read_pdf(nelvat:::file_bytes(file))$objects, `[[`, "", "text")
    descriptors <- unname(grep("/Type\\s*/FontDescriptor\\b", texts, value = TRUE))
    sort(sub(".*/FontName\\s*/(\\S+).*", "\\1", descriptors))
  }
  expect_gt(length(fonts(path)), 0)
  expect_identical(fonts(other), fonts(path))
  # All streams of the second, undone, are among those of the first.
  contents <- function(file) {
    lapply(
      Filter(
        function(object) !is.null(object$stream) && !grepl("/(ObjStm|XRef)", object$text),
        nelvat:::read_pdf(nelvat:::file_bytes(file))$objects
      ),
      nelvat:::pdf_stream_bytes
    )
  }
  expect_true(all(contents(other) %in% contents(path)))
})

test_that("a page that cairo writes in either form becomes the same exact page", {
  needs_poppler()
  drawn <- nelvat:::cairo_pdf_bytes
  plain <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, plain)
  newer <- withr::local_tempfile(fileext = ".pdf")
  with_replaced(
    expect_no_warning(save_plate(fig, newer)),
    cairo_pdf_bytes = function(...) {
      path <- withr::local_tempfile(fileext = ".pdf")
      writeBin(drawn(...), path)
      nelvat:::file_bytes(rewritten(path, streamed))
    }
  )
  expect_equal(read_pdf_words(newer), read_pdf_words(plain))
  expect_equal(
    c(read_pdf_words(newer)$width_mm, read_pdf_words(newer)$height_mm),
    c(80, 60.3),
    tolerance = 1e-5
  )
  if (nzchar(Sys.which("qpdf"))) {
    expect_identical(system2("qpdf", c("--check", newer), stdout = FALSE, stderr = FALSE), 0L)
  }
})

test_that("a drawing that cannot be read is saved as it was drawn, with how far its size is off", {
  needs_poppler()
  path <- withr::local_tempfile(fileext = ".pdf")
  with_replaced(
    expect_warning(
      save_plate(fig, path),
      "hundredths of a millimetre too large",
      class = "nelvat_warning_device"
    ),
    read_pdf = function(bytes) nelvat:::abort_pdf("it is of tomorrow's form")
  )
  read <- read_pdf_words(path)
  expect_true("Wheat" %in% read$words$word)
  expect_equal(c(read$width_mm, read$height_mm), c(80, 60.3), tolerance = 0.01)
})

test_that("proof reads both forms, and says what a damaged file is", {
  path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, path)
  of <- function(file) {
    found <- as.data.frame(proof(fig, file))
    found[
      found$rule %in% c("page of the file", "fonts embedded", "bitmap fonts"),
      c("rule", "measured", "verdict")
    ]
  }
  plain <- of(path)
  expect_identical(plain$verdict, rep("good", 3))
  expect_identical(of(rewritten(path, streamed)), plain)
  writeBin(nelvat:::file_bytes(path)[1:2000], path)
  expect_identical(of(path)$verdict, "bad")
  expect_identical(of(path)$measured, "cannot be read")
})

test_that("no date, no time zone and no locale of making gets into a file", {
  script <- withr::local_tempfile(
    fileext = ".R",
    lines = c(
      "suppressMessages(library(nelvat))",
      "book <- codebook(data.frame(f = c('a', 'b'), v = 1:2),",
      "f = category('Bl\\u00e9'), v = quantity('Temp\\u00e9rature', '\\u00b5m'))",
      "options(OutDec = Sys.getenv('MARK'))",
      "fig <- plate(panel(book, x = f, y = v, ink_bars()), width = 60, height = 50.5)",
      "save_plate(fig, paste0(Sys.getenv('STEM'), c('.pdf', '.png', '.eps', '.tiff')), dpi = 150)",
      "report(fig, paste0(Sys.getenv('STEM'), '.html'))"
    )
  )
  folder <- withr::local_tempdir()
  run <- function(name, ...) {
    withr::with_envvar(
      c(STEM = file.path(folder, name), ...),
      system2(file.path(R.home("bin"), "Rscript"), script, stdout = FALSE, stderr = FALSE)
    )
    lapply(
      file.path(folder, paste0(name, c(".pdf", ".png", ".eps", ".tiff", ".html"))),
      nelvat:::file_bytes
    )
  }
  here <- run("a", LC_ALL = "C.UTF-8", TZ = "UTC", MARK = ".")
  expect_true(all(lengths(here) > 1000))
  expect_identical(run("b", LC_ALL = "C", TZ = "Asia/Kolkata", MARK = ","), here)
})
