test_that("a record holds what was read, not what lies there afterwards", {
  folder <- folder_within(list(a.csv = plain_csv, one.yaml = figure_lines("save: one.pdf")))
  data <- file.path(folder, "a.csv")
  heard <- nelvat:::with_files_read(nelvat:::check_file(data, "data", NULL))
  expect_identical(names(heard$files), data)
  expect_identical(heard$files[[data]], unname(tools::md5sum(data)))
  # The table changes while its figure is being drawn.
  path <- file.path(folder, "one.yaml")
  with_replaced(
    suppressMessages(nelvat:::draw_figure_file(path, list(dpi = 72, json = TRUE))),
    check_apart = function(drawings, path) writeLines(c("f,v", "p,7", "q,8"), data)
  )
  expect_false(nelvat:::is_unchanged(path, list(dpi = 72)))
  done <- command_in(folder, "draw", "--dpi", "72", ".")
  expect_match(done$complained, "1 drawn, 0 unchanged")
  expect_match(command_in(folder, "draw", "--dpi", "72", ".")$complained, "0 drawn, 1 unchanged")
})

test_that("pictures that a file writes are no inputs, and it comes to rest", {
  folder <- folder_within(
    list(
      a.csv = plain_csv,
      plates.yaml = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {panel: {data: a, x: f, y: v, ink: bars}}}",
        "plates:",
        "  main: {place: b, width: 80, height: 60, save: main.png}",
        "  extra: {place: b, width: 60, height: 60, save: extra.png}"
      ),
      outputs.yaml = figure_lines(
        "outputs: {talk: {width: 100, height: 70, save: talk.png}}",
        "save: two.png"
      )
    )
  )
  expect_match(command_in(folder, "draw", "--dpi", "72", ".")$complained, "2 drawn, 0 unchanged")
  expect_match(command_in(folder, "draw", "--dpi", "72", ".")$complained, "0 drawn, 2 unchanged")
  read <- suppressMessages(read_figure(file.path(folder, "plates.yaml")))
  expect_identical(basename(read$inputs), "a.csv")
})

test_that("a file that comes under a pattern is seen", {
  folder <- folder_within(
    list(
      "p-1.csv" = plain_csv,
      one.yaml = figure_lines("save: one.pdf", data = "{a: {files: p-*.csv}}")
    )
  )
  expect_match(command_in(folder, "draw", ".")$complained, "1 drawn")
  expect_match(command_in(folder, "draw", ".")$complained, "1 unchanged")
  writeLines(c("f,v", "r,9"), file.path(folder, "p-2.csv"))
  expect_match(command_in(folder, "draw", ".")$complained, "1 drawn")
})

test_that("records of any form stop nothing", {
  folder <- folder_within(list(a.csv = plain_csv, one.yaml = figure_lines("save: one.pdf")))
  record <- file.path(folder, ".nelvat", "one.yaml.json")
  dir.create(dirname(record))
  for (text in c(
    "{\"hash\": [1, 2], \"inputs\": [[1]], \"written\": {\"a\": 1}}",
    "[]",
    "[1, [2]]",
    "null",
    "\"x\"",
    "{",
    "",
    "{\"with\": \"x\", \"read\": [\"a.csv\"], \"patterns\": 1, \"written\": [\"one.pdf\"]}",
    "{\"with\": {\"a\": []}, \"read\": {}, \"patterns\": {}, \"written\": []}",
    "{\"with\": \"x\", \"read\": {\"a\": {\"b\": 1}}, \"patterns\": [], \"written\": []}",
    strrep("[", 5000)
  )) {
    writeLines(text, record)
    done <- run_nelvat("draw", folder)
    expect_identical(done$status, 0L, label = text)
    expect_match(done$complained, "1 drawn", all = FALSE, label = text)
  }
  # A folder in its place can be written neither over nor into.
  unlink(record)
  dir.create(record)
  done <- command_in(folder, "draw", ".")
  expect_identical(done$status, 1L)
  expect_no_bare_error(done$complained)
})

test_that("a lock without a process that lives is taken over at once", {
  folder <- folder_within(list(a.csv = plain_csv, one.yaml = figure_lines("save: one.pdf")))
  lock <- file.path(folder, ".nelvat", "lock")
  for (pid in list(NULL, "not a number", "99999999", "", "-1", "0", "3.5e300")[tries(7, 3)]) {
    unlink(c(lock, file.path(folder, "one.pdf")), recursive = TRUE)
    dir.create(lock, recursive = TRUE)
    if (!is.null(pid)) writeLines(pid, file.path(lock, "pid"))
    done <- command_in(folder, "draw", "one.yaml", seconds = 30)
    expect_identical(done$status, 0L, label = deparse(pid))
    expect_lt(done$seconds, 15)
    expect_false(dir.exists(lock))
  }
  # A clock that was set back leaves no lock behind for good.
  dir.create(lock)
  Sys.setFileTime(lock, Sys.time() + 1e6)
  expect_identical(command_in(folder, "draw", "one.yaml", seconds = 30)$status, 0L)
})

test_that("what somebody changed in a project stays as it is when it is copied again", {
  folder <- withr::local_tempdir()
  writeLines("mine", file.path(folder, "README.md"))
  expect_message(
    copied <- nelvat:::files_to_copy(folder, system.file("paper", package = "nelvat")),
    "\"README.md\" differ from the project's, and stay"
  )
  expect_false("README.md" %in% copied)
  expect_true("figure-1.yaml" %in% copied)
})

test_that("drafts are not written over what is there", {
  folder <- folder_within(list(a.csv = plain_csv, a.yaml = "mine", "b.yaml" = "mine"))
  path <- file.path(folder, "a.csv")
  expect_match(run_nelvat("start", path)$complained, "is there already", all = FALSE)
  done <- run_nelvat("codebook", "--output", file.path(folder, "b.yaml"), path)
  expect_match(done$complained, "is there already", all = FALSE)
  expect_identical(readLines(file.path(folder, "a.yaml")), "mine")
  expect_identical(readLines(file.path(folder, "b.yaml")), "mine")
  expect_identical(run_nelvat("start", "-o", file.path(folder, "new.yaml"), path)$status, 0L)
})
