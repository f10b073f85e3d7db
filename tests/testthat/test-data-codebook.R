test_that("undeclared columns get their kind by the documented rule", {
  table <- data.frame(
    starter_age = 1:3,
    flour = c("b", "a", "b"),
    sold = c(TRUE, FALSE, NA),
    day = as.Date("2026-03-01") + 0:2
  )
  table$grade <- factor(c("hi", "lo", "hi"), levels = c("lo", "hi"), ordered = TRUE)
  book <- codebook(table)
  kinds <- vapply(book$columns, `[[`, "", "kind")
  expect_identical(
    kinds,
    c(
      starter_age = "quantity", flour = "category", sold = "category", day = "moment",
      grade = "ordinal"
    )
  )
  expect_identical(book$columns$starter_age$name, "Starter age")
  expect_identical(book$columns$flour$levels, c("b", "a"))
  expect_identical(book$columns$grade$levels, c("lo", "hi"))
})

test_that("codes take the names given to them, in the order given", {
  book <- codebook(
    data.frame(v = c(1, 0, 1)),
    v = category("Verdict", names = c("0" = "rejected", "1" = "sold"))
  )
  expect_identical(book$columns$v$level_names, c("rejected", "sold"))
})

test_that("what is wrong with a codebook is said in the user's terms", {
  table <- data.frame(rise = c("12", "x7"), verdict = c(0, 2))
  expect_snapshot(error = TRUE, codebook(table, rize = quantity()))
  expect_snapshot(error = TRUE, codebook(table, rise = quantity()))
  expect_snapshot(
    error = TRUE,
    codebook(table, verdict = category(names = c("0" = "no", "1" = "yes")))
  )
  expect_snapshot(error = TRUE, codebook(table, verdict = ordinal(order = 0)))
  expect_snapshot(error = TRUE, codebook(table, quantity()))
  expect_snapshot(error = TRUE, codebook(1:3))
  expect_error(codebook(table, rise = quantity()), class = "nelvat_error_kind")
  expect_error(codebook(table, rize = quantity()), class = "nelvat_error_column")
})

test_that("the study is whole: every table reads with its codebook and is as designed", {
  loaves <- study("loaves")
  expect_identical(loaves$columns$hydration$levels, c("60", "80", "100"))
  expect_identical(loaves$columns$verdict$level_names, c("rejected", "sold"))
  expect_s3_class(loaves$data$baked, "Date")
  expect_gt(sum(is.na(loaves$data$acidity)), 0)
  expect_identical(nrow(study("pores")$data), 60000L)
  expect_identical(nrow(study("probe")$data), 12960L)
  expect_identical(nrow(study("slice")$data) %% 3L, 0L)
  expect_setequal(unique(study("cultures")$data$microbe), study("cultures")$columns$microbe$levels)
  sizes <- file.size(list.files(system.file("study", package = "nelvat"), full.names = TRUE))
  expect_lt(sum(sizes), 3e6)
})

test_that("a codebook prints a row a variable", {
  expect_snapshot(study("loaves"))
})

test_that("a codebook's misspelt keys and levels of one name are errors, keys of others are not", {
  read <- function(field) {
    folder <- folder_with(
      list(
        "a.csv" = c("a,b", "x,1", "y,2"),
        "a.codebook.yaml" = paste0("fields: [{name: a, ", field, "}]")
      )
    )
    read_data(file.path(folder, "a.csv"), file.path(folder, "a.codebook.yaml"))
  }
  expect_error(read("titel: Flour"), "title", class = "nelvat_error_codebook")
  expect_error(
    read("type: string, categories: [{value: x, lable: Wheat}, y]"),
    "label",
    class = "nelvat_error_codebook"
  )
  expect_error(
    read("type: string, categories: [{value: x, label: Wheat}, {value: y, label: Wheat}]"),
    "both called \"Wheat\"",
    class = "nelvat_error_level"
  )
  expect_error(
    read("type: string, categories: [{value: x, label: [a, b]}, y]"),
    "must list values",
    class = "nelvat_error_codebook"
  )
  expect_s3_class(read("type: string, remark: ours"), "nelvat_codebook")
  # A slip is one letter, of long keys one in four or two exchanged; what is further off is theirs.
  for (slip in c("titl", "titlee", "tilte", "ttile", "missingValeus", "categoriesOrd")) {
    expect_error(read(paste0(slip, ": x")), "Did you mean", class = "nelvat_error_codebook")
  }
  for (theirs in c("tit", "titlees", "categories_in_order", "mis")) {
    expect_s3_class(read(paste0(theirs, ": x")), "nelvat_codebook")
  }
})

test_that("the level that is none is the first of those named so", {
  expect_error(
    panel(
      data.frame(a = c("x", "y"), b = 1:2),
      x = a,
      y = b,
      order = list(a = c("x", "first", "second")),
      ink_bars()
    ),
    "\"first\" is no level of column \"a\"",
    class = "nelvat_error_level"
  )
})

test_that("a codebook as JSON is laid out to be read, and reads as it was", {
  book <- codebook(data.frame(a = c("x", "y"), b = 1:2), b = quantity("Mass", unit = "g"))
  path <- withr::local_tempfile(fileext = ".json")
  write_codebook(book, path)
  lines <- readLines(path)
  expect_gt(length(lines), 10)
  said <- jsonlite::fromJSON(path, simplifyVector = FALSE)
  b <- Filter(function(field) field$name == "b", said$fields)[[1]]
  expect_identical(b[c("name", "title", "unit")], list(name = "b", title = "Mass", unit = "g"))
})

test_that("columns put into a codebook's table afterwards are what they look like", {
  book <- study("loaves")
  book$data$half <- rep(c("first", "second"), length.out = nrow(book$data))
  book$data$twice <- book$data$rise * 2
  scene <- as_scene(
    plate(
      facets(panel(book, x = twice, y = ph, ink_points()), across = half),
      width = 120,
      height = 60
    )
  )
  expect_identical(scene$panels$heading, c("first", "second"))
  expect_identical(unique(scene$panels$x_variable), "twice")
})
