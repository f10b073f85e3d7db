# Figures in one file: numbered, with legends, a list, bookmarks and references.

loaves <- study("loaves")
figures <- list(
  responses = plate(
    panel(loaves, x = flour, y = rise, ink_bars()),
    width = 86,
    height = 60,
    title = "Rise of all flours"
  ),
  pairs = plate(panel(loaves, x = rise, y = volume, ink_points()), width = 176, height = 70)
)

test_that("a book is one PDF of pages whose texts are those of figures, legends and list", {
  path <- withr::local_tempfile(fileext = ".pdf")
  expect_identical(
    save_book(
      figures,
      path,
      prefix = "Figure S",
      legends = c(responses = "As in {figure:pairs}: 5 * 3 ~ 15."),
      title = "Supplement"
    ),
    path
  )
  bytes <- readBin(path, "raw", 1e7)
  objects <- nelvat:::read_pdf(bytes)$objects
  texts <- vapply(objects, `[[`, "", "text")
  expect_identical(sum(grepl("/Type /Page\\b", texts)), 3L)
  expect_identical(sum(grepl("/Dest \\[ [0-9]+ 0 R /Fit \\]", texts)), 2L)
  # Every reference is to an object that is there.
  named <- unlist(regmatches(texts, gregexpr("[0-9]+(?= 0 R)", texts, perl = TRUE)))
  expect_true(all(named %in% names(objects)))
  again <- withr::local_tempfile(fileext = ".pdf")
  save_book(
    figures,
    again,
    prefix = "Figure S",
    legends = c(responses = "As in {figure:pairs}: 5 * 3 ~ 15."),
    title = "Supplement"
  )
  expect_identical(readBin(again, "raw", 1e7), bytes)
  skip_if(!nzchar(Sys.which("pdftotext")))
  shown <- gsub(
    "\\s+",
    " ",
    paste(system2("pdftotext", c(path, "-"), stdout = TRUE), collapse = " ")
  )
  expect_match(shown, "Supplement Figure S1 Rise of all flours, page 2 Figure S2 pairs, page 3")
  expect_match(shown, "Figure S1. Rise of all flours. As in Figure S2: 5 * 3 ~ 15.", fixed = TRUE)
  expect_match(shown, "Figure S2. Volume (mL) against Loaf rise (mm)", fixed = TRUE)
})

test_that("what is drawn says the numbers of figures, too", {
  skip_if(!nzchar(Sys.which("pdftotext")))
  noted <- list(
    one = plate(
      panel(loaves, x = rise, ink_histogram()),
      width = 86,
      height = 60,
      note = "See {figure:two}."
    ),
    two = plate(
      panel(loaves, x = volume, ink_histogram()),
      width = 86,
      height = 60,
      title = "As {figure:one}"
    )
  )
  path <- withr::local_tempfile(fileext = ".pdf")
  save_book(noted, path)
  shown <- paste(system2("pdftotext", c(path, "-"), stdout = TRUE), collapse = " ")
  expect_match(shown, "See Figure 2.", fixed = TRUE)
  expect_no_match(shown, "{figure:", fixed = TRUE)
  noted$two$note <- "{figure:three}"
  expect_error(save_book(noted, path), "no figure \"three\"", class = "nelvat_error_argument")
})

test_that("figures stand in a book at their size, those larger than a page on a larger one", {
  wide <- list(wide = plate(panel(loaves, x = rise, ink_histogram()), width = 240, height = 60))
  path <- withr::local_tempfile(fileext = ".pdf")
  save_book(wide, path, legends = FALSE)
  texts <- vapply(nelvat:::read_pdf(readBin(path, "raw", 1e7))$objects, `[[`, "", "text")
  boxes <- regmatches(texts, regexpr("(?<=/MediaBox \\[ 0 0 )[0-9. ]+", texts, perl = TRUE))
  sizes <- lapply(strsplit(trimws(boxes), " "), function(two) as.numeric(two) * 25.4 / 72)
  expect_equal(sizes[[1]], c(210, 297), tolerance = 1e-4)
  expect_equal(sizes[[2]], c(280, 297), tolerance = 1e-4)
  # As high as the figure, its legend and what stands around them.
  tall <- list(tall = plate(panel(loaves, x = rise, ink_histogram()), width = 100, height = 290))
  save_book(tall, path)
  texts_tall <- vapply(nelvat:::read_pdf(readBin(path, "raw", 1e7))$objects, `[[`, "", "text")
  high <- regmatches(
    texts_tall,
    regexpr("(?<=/MediaBox \\[ 0 0 )[0-9. ]+", texts_tall, perl = TRUE)
  )
  high <- max(as.numeric(sub("^\\S+ ", "", trimws(high)))) * 25.4 / 72
  words <- read_pdf_words(path)$words
  expect_gt(high, 290 + 2 * nelvat:::book_margin_mm + nelvat:::legend_gap_mm + 2)
  expect_lt(max(words$y1), high - nelvat:::book_margin_mm + 1)
  forms <- texts[grepl("/Subtype /Form /BBox", texts)]
  expect_true(any(grepl(nelvat:::format_pt(c(240, 60) * 72 / 25.4), forms, fixed = TRUE)))
})

test_that("a book as a page has its figures, legends and links", {
  path <- withr::local_tempfile(fileext = ".html")
  save_book(figures, path)
  page <- paste(readLines(path), collapse = "\n")
  expect_match(page, "<a href=\"#pairs\">Figure 2  pairs</a>", fixed = TRUE)
  expect_match(page, "<figure id=\"responses\">", fixed = TRUE)
  expect_match(
    page,
    "<strong>Figure 1.</strong> <strong>Rise of all flours.</strong>",
    fixed = TRUE
  )
  expect_match(page, "width:176mm", fixed = TRUE)
  expect_match(page, "alt=\"[^\"]{20,}")
})

test_that("wrong books are refused before anything is written", {
  path <- withr::local_tempfile(fileext = ".pdf")
  refused <- function(code, pattern) {
    expect_error(code, pattern, class = "nelvat_error")
    expect_false(file.exists(path))
  }
  refused(save_book(unname(figures), path), "a name of its own")
  refused(save_book(list(), path), "list of plates")
  refused(save_book(figures, sub("pdf$", "docx", path)), "must end in .pdf or .html")
  refused(save_book(figures, path, legends = c(pair = "x")), "pairs")
  refused(save_book(figures, path, legends = c(pairs = "see {figure:response}")), "responses")
  refused(save_book(figures, path, title = "{figure:none}"), "no figure \"none\"")
  refused(save_book(figures, file.path(dirname(path), "no", "b.pdf")), "folder")
})

test_that("the command writes a folder's figures in one file, the first output of each", {
  folder <- withr::local_tempdir()
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
  unlink(file.path(folder, sprintf("figure-%d.yaml", 3:6)))
  to <- file.path(folder, "supplement.pdf")
  got <- run_nelvat("book", "--to", to, "--prefix", "Figure S", folder)
  expect_identical(got$said, to)
  texts <- vapply(nelvat:::read_pdf(readBin(to, "raw", 1e7))$objects, `[[`, "", "text")
  expect_identical(sum(grepl("/Type /Page\\b", texts)), 3L)
  expect_identical(run_nelvat("book", folder)$status, 2L)
  expect_identical(run_nelvat("book", "--to", to, file.path(folder, "none.yaml"))$status, 1L)
})
