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
  # Each limit says where: the plate, or what of it.
  first <- checklist[seq_len(grep("^## Figure2", checklist))]
  rows <- grep("^\\| .* \\| (good|look|bad) \\| ", first, value = TRUE)
  shown <- trimws(sub("^.*\\| ([^|]*) \\|$", "\\1", rows))
  proved <- suppressWarnings(proof(read_figure(file.path(folder, "figure-1.yaml"))$plate))
  expect_identical(
    shown,
    ifelse(is.na(proved$where), "", gsub("|", "\\|", proved$where, fixed = TRUE))
  )
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
    expect_identical(words[c(1, 3)], c("Figure legends", "Figure1"))
    # What a legend holds stands in it as it is, dollars and at signs, too.
    plain <- function(text) gsub("[*_]", "", text)
    whole <- legend_text(read_figure(file.path(folder, "figure-1.yaml"))$plate)
    expect_true(plain(whole) %in% plain(words))
    figure <- list(
      name = "Figure1",
      scene = as_scene(
        plate(
          panel(
            data.frame(`cost $a$` = 1:3, `@x` = 4:6, check.names = FALSE),
            x = `@x`,
            y = `cost $a$`,
            ink_points()
          ),
          width = 60
        )
      )
    )
    bytes <- nelvat:::with_word_document(list(figure), folder)
    expect_identical(nelvat:::with_word_document(list(figure), folder), bytes)
    odd <- file.path(folder, "odd.docx")
    writeBin(bytes[[1]], odd)
    words <- system2("pandoc", c("--to", "plain", "--wrap=none", shQuote(odd)), stdout = TRUE)
    expect_true(plain(legend_text(figure$scene)) %in% plain(words))
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
