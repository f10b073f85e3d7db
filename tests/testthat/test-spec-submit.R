project <- function(envir = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = envir)
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
  folder
}

test_that("a submission has figures, legends, numbers, methods, checklist and checksums", {
  folder <- project()
  to <- file.path(folder, "out")
  paths <- suppressMessages(
    suppressWarnings(
      submit_figures(file.path(folder, c("figure-1.yaml", "figure-2.yaml")), to, "pdf")
    )
  )
  expect_setequal(basename(paths), list.files(to))
  expect_true(
    all(
      c(
        "Figure1.pdf", "Figure2.pdf", "legends.md", "legends.html", "methods.md", "checklist.md",
        "checksums.txt"
      ) %in% list.files(to)
    )
  )
  # Outputs of a file are versions of one figure.
  expect_false("Figure3.pdf" %in% list.files(to))
  sums <- utils::read.table(file.path(to, "checksums.txt"), col.names = c("sum", "file", "bytes"))
  expect_identical(unname(tools::md5sum(file.path(to, sums$file))), sums$sum)
  expect_match(paste(readLines(file.path(to, "legends.md")), collapse = " "), "## Figure2")
  checklist <- readLines(file.path(to, "checklist.md"))
  expect_match(checklist, "^\\| page width: .* \\| [0-9.]+ mm \\| good \\| plate \\|$", all = FALSE)
  expect_no_match(checklist, "| NA |", fixed = TRUE)
  if (requireNamespace("writexl", quietly = TRUE) && requireNamespace("readxl", quietly = TRUE)) {
    sheets <- readxl::excel_sheets(file.path(to, "source-data.xlsx"))
    expect_identical(sheets[1], "About")
    about <- readxl::read_excel(file.path(to, "source-data.xlsx"), "About")
    expect_identical(about$sheet, sheets[-1])
  }
  if (nzchar(Sys.which("pandoc"))) {
    document <- file.path(to, "legends.docx")
    expect_true(document %in% paths)
    words <- system2("pandoc", c("--to", "plain", "--wrap=none", shQuote(document)), stdout = TRUE)
    expect_match(paste(words, collapse = "\n"), "Figure legends\n\nFigure1\n\n")
    again <- file.path(folder, "again")
    suppressMessages(
      suppressWarnings(submit_figures(file.path(folder, "figure-1.yaml"), again, "pdf"))
    )
    expect_match(readLines(file.path(again, "checksums.txt")), "legends.docx", all = FALSE)
  }
  # Never into what is there.
  expect_error(submit_figures(folder, to), "not empty", class = "nelvat_error_file")
})

test_that("nothing is written where proof finds anything bad, and what it is is said", {
  folder <- project()
  lines <- readLines(file.path(folder, "figure-1.yaml"))
  writeLines(c(lines, "# wide"), file.path(folder, "figure-1.yaml"))
  house <- file.path(folder, "nelvat.yaml")
  writeLines(c(readLines(house), "type_pt: {least: 9}"), house)
  to <- file.path(folder, "out")
  result <- tryCatch(
    suppressMessages(
      suppressWarnings(submit_figures(file.path(folder, "figure-1.yaml"), to, "pdf"))
    ),
    nelvat_error = identity
  )
  expect_s3_class(result, "nelvat_error")
  expect_false(dir.exists(to))
  expect_error(submit_figures(folder, to, "docx"), class = "nelvat_error_argument")
  expect_error(submit_figures(folder, to, names = "Fig"), class = "nelvat_error_argument")
  expect_error(submit_figures(file.path(folder, "nowhere"), to), class = "nelvat_error_file")
})
