write_bytes <- function(text, name, envir = parent.frame()) {
  path <- file.path(withr::local_tempdir(.local_envir = envir), name)
  writeBin(if (is.raw(text)) text else charToRaw(text), path)
  path
}

test_that("gzipped and tab-separated tables read as plain ones do", {
  table <- data.frame(a = 1:3, b = c("x", "y, z", NA))
  folder <- withr::local_tempdir()
  utils::write.table(
    table,
    file.path(folder, "t.tsv"),
    sep = "\t",
    row.names = FALSE,
    quote = FALSE,
    na = ""
  )
  connection <- gzfile(file.path(folder, "t.csv.gz"), "w")
  utils::write.csv(table, connection, row.names = FALSE, na = "")
  close(connection)
  expect_equal(
    read_data(file.path(folder, "t.tsv"))$data,
    read_data(file.path(folder, "t.csv.gz"))$data
  )
  expect_identical(read_data(file.path(folder, "t.tsv"))$data$b[1:2], c("x", "y, z"))
})

test_that("spreadsheets read by sheet and range", {
  skip_if_not_installed("readxl")
  path <- readxl::readxl_example("datasets.xlsx")
  expect_identical(nrow(read_data(path, sheet = "mtcars")$data), nrow(datasets::mtcars))
  expect_identical(
    names(read_data(path, sheet = 1, range = "A1:B4")$data),
    names(readxl::read_excel(path, 1, "A1:B4"))
  )
  expect_error(
    read_data(path, sheet = "mtcar"),
    "Did you mean \"mtcars\"",
    class = "nelvat_error_file"
  )
  expect_error(read_data(study_file("loaves.csv"), sheet = 1), class = "nelvat_error_argument")
})

test_that("Parquet that was cut off or damaged is told, never read in part", {
  skip_if_not_installed("nanoparquet")
  path <- withr::local_tempfile(fileext = ".parquet")
  table <- data.frame(flour = rep(c("wheat", "rye"), 400), rise = sqrt(seq_len(800)))
  nanoparquet::write_parquet(table, path)
  whole <- readBin(path, "raw", file.size(path))
  read_bytes <- function(bytes) {
    writeBin(bytes, path)
    tryCatch(nrow(read_data(path)$data), error = identity)
  }
  for (eighth in 1:7) {
    error <- read_bytes(whole[seq_len(length(whole) * eighth / 8)])
    expect_s3_class(error, "nelvat_error_file")
    expect_false(grepl("[.]cpp", conditionMessage(error)))
  }
  # A byte that is another one in its middle leaves all rows, or none.
  for (at in round(length(whole) * (1:12) / 13)) {
    bytes <- whole
    bytes[at] <- xor(bytes[at], as.raw(255))
    found <- read_bytes(bytes)
    if (inherits(found, "error")) expect_s3_class(found, "nelvat_error_file")
    else expect_identical(found, nrow(table))
  }
})

test_that("Parquet reads as the table that was written", {
  skip_if_not_installed("nanoparquet")
  path <- withr::local_tempfile(fileext = ".parquet")
  table <- study("loaves")$data
  nanoparquet::write_parquet(table, path)
  expect_equal(read_data(path)$data, table, ignore_attr = TRUE)
})

test_that("dates and times are recognised, offsets honoured, bare times placed in their zone", {
  path <- write_bytes(
    "d,z,o,b\n2026-03-02,2026-03-02T10:00:00Z,2026-03-02T10:00:00+02:00,2026-03-02 10:00:00\n",
    "t.csv"
  )
  utc <- read_data(path)$data
  expect_identical(utc$d, as.Date("2026-03-02"))
  expect_equal(as.numeric(utc$z - utc$o, units = "hours"), 2)
  expect_equal(as.numeric(utc$b), as.numeric(utc$z))
  oslo <- read_data(path, zone = "Europe/Oslo")$data
  expect_equal(as.numeric(oslo$z), as.numeric(utc$z))
  expect_equal(as.numeric(utc$b) - as.numeric(oslo$b), 3600)
  expect_error(read_data(path, zone = "Europe/Olso"), class = "nelvat_error_argument")
})

test_that("declared forms of dates and times are read, and what does not read is an error", {
  table <- data.frame(
    day = c("02.03.2026", "03.03.2026"),
    at = c("2026-03-02 10:00", "2026-03-02T11:30+01:00")
  )
  book <- codebook(table, day = moment(format = "%d.%m.%Y"), at = moment(zone = "Europe/Oslo"))
  expect_identical(book$data$day, as.Date(c("2026-03-02", "2026-03-03")))
  expect_equal(as.numeric(diff(book$data$at), units = "mins"), 90)
  expect_snapshot(error = TRUE, codebook(table, day = moment()))
  expect_snapshot(error = TRUE, codebook(table, at = moment(format = "%d.%m.%Y")))
})

test_that("encodings: UTF-8 with and without byte order mark, Latin-1 when declared", {
  text <- "name,v\nr\u00f8d,1\n"
  plain <- write_bytes(text, "u.csv")
  mark <- write_bytes(c(as.raw(c(0xef, 0xbb, 0xbf)), charToRaw(enc2utf8(text))), "b.csv")
  latin <- write_bytes(charToRaw(iconv(enc2utf8(text), "UTF-8", "latin1")), "l.csv")
  expect_identical(read_data(plain)$data, read_data(mark)$data)
  expect_identical(read_data(latin, encoding = "latin1")$data$name, "r\u00f8d")
  expect_error(read_data(latin), class = "nelvat_error_encoding")
})

test_that("malformed files are refused with the line or the name", {
  said <- function(text, name = "t.csv") {
    path <- write_bytes(text, name)
    error <- tryCatch(read_data(path), nelvat_error = identity)
    expect_s3_class(error, "nelvat_error")
    gsub(dirname(path), "FOLDER", rlang::cnd_message(error), fixed = TRUE)
  }
  expect_snapshot({
    cat(said("a,b\n1,2\n1,2,3\n4,5\n"))
    cat(said("a,b\n1,2\n1\n4,5\n"))
    cat(said("a,b\n1,2\n3\n"))
    cat(said("a,b,a\n1,2,3\n"))
    cat(said(""))
    cat(said("a,b\n1,2\n", "t.dat"))
  })
})

test_that("numbers stored as text are pointed out, and are an error in a declared quantity", {
  path <- write_bytes("rise,flour\n12.5,a\n13,b\nn.d.,c\n14,d\n", "t.csv")
  expect_warning(
    read_data(path),
    "likely missing values: \"n.d.\" \\(row 3\\); settled by `missingValues: \\[n.d.\\]`",
    class = "nelvat_warning_text"
  )
  folder <- dirname(path)
  writeLines(c("fields:", "  - {name: rise, type: number}"), file.path(folder, "c.yaml"))
  expect_error(
    read_data(path, file.path(folder, "c.yaml")),
    "\"n.d.\", in row 3",
    class = "nelvat_error_kind"
  )
  writeLines(
    c("missingValues: ['', n.d.]", "fields:", "  - {name: rise, type: number}"),
    file.path(folder, "c.yaml")
  )
  expect_identical(read_data(path, file.path(folder, "c.yaml"))$data$rise, c(12.5, 13, NA, 14))
})

test_that("joining adds columns, keeps rows, and refuses keys that do not tell rows apart", {
  ovens <- data.frame(bakery = c("harbour", "mill", "station"), oven = c("deck", "wood", "deck"))
  expect_warning(
    joined <- join_data(study("loaves"), codebook(ovens, oven = category("Oven"))),
    "3 rows",
    class = "nelvat_warning_join"
  )
  expect_identical(nrow(joined$data), 144L)
  expect_identical(joined$data$oven, ovens$oven[match(study("loaves")$data$bakery, ovens$bakery)])
  expect_identical(joined$columns$hydration$kind, "ordinal")
  expect_snapshot(error = TRUE, join_data(study("loaves"), data.frame(oven = 1)))
  expect_snapshot(error = TRUE, join_data(study("loaves"), rbind(ovens, ovens[1, ])))
  both <- suppressWarnings(join_data(study("loaves"), cbind(ovens, flour = "x"), by = "bakery"))
  expect_true(all(both$data$flour_the_table %in% c("x", NA)))
  expect_identical(both$data$flour, study("loaves")$data$flour)
})

test_that("counts are those of table(), with empty combinations kept or not", {
  loaves <- study("loaves")
  counted <- counts(loaves, flour, grade)
  wanted <- table(
    factor(loaves$data$flour, loaves$columns$flour$levels),
    factor(loaves$data$grade, 1:3)
  )
  expect_identical(counted$data$n, as.integer(wanted))
  expect_identical(sum(counts(loaves, flour, grade, empty = FALSE)$data$n == 0), 0L)
  expect_identical(counted$columns$grade$level_names, c("dense", "even", "open"))
  by_day <- counts(loaves, baked, bakery)
  expect_s3_class(by_day$data$baked, "Date")
  axis <- as_scene(
    plate(
      panel(counted, x = flour, y = n, colour = grade, ink_bars(error = "none")),
      width = 120,
      height = 50
    )
  )$axes[[2]]
  expect_true(all(axis$breaks == round(axis$breaks)))
  expect_error(counts(loaves, flour2), class = "nelvat_error_column")
})
