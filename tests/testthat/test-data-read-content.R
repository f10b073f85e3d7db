test_that("a gzipped file that is cut short is an error at every eighth of its length", {
  whole <- study_file("pores.csv.gz")
  bytes <- readBin(whole, "raw", file.size(whole))
  folder <- withr::local_tempdir()
  path <- file.path(folder, "cut.csv.gz")
  for (eighth in 1:7) {
    writeBin(bytes[seq_len((length(bytes) * eighth) %/% 8)], path)
    error <- expect_error(read_data(path), class = "nelvat_error_file")
    expect_match(conditionMessage(error), "not whole")
  }
  damaged <- bytes
  damaged[length(bytes) %/% 2] <- xor(damaged[length(bytes) %/% 2], as.raw(0xff))
  writeBin(damaged, path)
  expect_error(read_data(path), class = "nelvat_error_file")
  writeBin(bytes, path)
  expect_identical(nrow(read_data(path)$data), 60000L)
  # Two members after each other are whole.
  table <- data.frame(a = 1:3)
  one <- memCompress(charToRaw("a\n1\n"), "gzip")
  parts <- lapply(list("a\n1\n", "2\n3\n"), function(text) {
    part <- file.path(folder, "part.gz")
    to <- gzfile(part, "wb")
    writeBin(charToRaw(text), to)
    close(to)
    readBin(part, "raw", file.size(part))
  })
  writeBin(unlist(parts), path)
  expect_identical(read_data(path)$data$a, 1:3)
})

test_that("what is no table says what it is", {
  folder <- withr::local_tempdir()
  said <- function(bytes, name = "table.csv") {
    path <- file.path(folder, name)
    writeBin(bytes, path)
    conditionMessage(expect_error(read_data(path), class = "nelvat_error_file"))
  }
  expect_match(said(charToRaw("%PDF-1.7\n1 0 obj")), "a PDF")
  expect_match(said(charToRaw("<!DOCTYPE html><html><body>Sign in</body></html>")), "a web page")
  expect_match(said(readBin(study_file("crumb.png"), "raw", 500)), "a PNG image")
  expect_match(said(as.raw(c(0x50, 0x4b, 3, 4, 20, 0))), "workbook")
  expect_match(said(as.raw(c(0xff, 0xd8, 0xff, 0xe0))), "a JPEG image")
})

test_that("half a JPEG, and an image that claims more pixels than memory holds, are refused", {
  skip_if_not_installed("jpeg")
  folder <- withr::local_tempdir()
  path <- file.path(folder, "a.jpg")
  jpeg::writeJPEG(matrix(stats::runif(40000), 200), path)
  expect_s3_class(ink_image(path), "nelvat_ink")
  bytes <- readBin(path, "raw", file.size(path))
  writeBin(bytes[seq_len(length(bytes) %/% 2)], path)
  expect_error(ink_image(path), "cut short", class = "nelvat_error_file")
  bomb <- file.path(folder, "bomb.png")
  head <- as.raw(c(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13))
  writeBin(c(head, charToRaw("IHDR"), as.raw(c(0, 1, 0, 0, 0, 1, 0, 0, 8, 2, 0, 0, 0))), bomb)
  expect_error(ink_image(bomb), "too many pixels", class = "nelvat_error_file")
})

test_that("every form of file, cut at each eighth of its length, is an error of our own", {
  skip_if_not_installed("nanoparquet")
  skip_if_not_installed("readxl")
  skip_if_not_installed("writexl")
  folder <- withr::local_tempdir()
  within <- function(name) file.path(folder, name)
  table <- study("loaves")$data[rep(1:144, 3), ]
  utils::write.csv(table, within("a.csv"), row.names = FALSE)
  packed <- gzfile(within("b.csv.gz"), "w")
  utils::write.csv(table, packed, row.names = FALSE)
  close(packed)
  writexl::write_xlsx(table, within("c.xlsx"))
  nanoparquet::write_parquet(table, within("d.parquet"))
  image <- matrix(stats::runif(6400), 80)
  png::writePNG(image, within("e.png"))
  jpeg::writeJPEG(image, within("f.jpg"))
  tiff::writeTIFF(image, within("g.tiff"))
  for (whole in list.files(folder)) {
    bytes <- readBin(within(whole), "raw", 1e7)
    for (eighths in 0:7) {
      cut <- within(paste0("cut-", whole))
      writeBin(bytes[seq_len(length(bytes) * eighths %/% 8)], cut)
      got <- tryCatch(
        suppressMessages(
          if (grepl("png|jpg|tiff", whole)) image_panel(cut) else read_data(cut)
        ),
        error = identity
      )
      expect_s3_class(got, "nelvat_error")
      expect_match(conditionMessage(got), "cut-", label = paste(whole, eighths))
    }
  }
})

test_that("bytes that are no UTF-8 are told with their line wherever they stand", {
  for (row in c(1, 21, 22, 30, 399, 401, 4000)) {
    lines <- c("a,b", rep("x,1", 5000))
    lines[row + 1] <- "caf\xe9,2"
    path <- withr::local_tempfile(fileext = ".csv")
    writeLines(lines, path, useBytes = TRUE)
    expect_error(read_data(path), "caf\u00e9", class = "nelvat_error_encoding")
    expect_identical(nrow(read_data(path, encoding = "latin1")$data), 5000L)
  }
})
