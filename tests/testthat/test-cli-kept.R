# What the commands print on the demonstration's folder, all of it: a change of any word or column
# stands in the difference of `_snaps/cli-kept.md`, to be looked at.

printed <- function(...) {
  run <- suppressMessages(run_nelvat(...))
  cat(gsub("nelvat [0-9.]+ in R [0-9.]+", "nelvat in R", run$said), sep = "\n")
  if (length(run$complained)) cat("-- told", run$complained, sep = "\n")
  cat("-- status", run$status, "\n")
}

test_that("the commands' help is what was kept", {
  expect_snapshot(printed("--help"))
  for (command in names(nelvat:::cli_commands())) {
    expect_snapshot(printed(command, "--help"))
  }
})

in_paper <- function(figures, envir = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = envir)
  paper <- system.file("paper", package = "nelvat")
  files <- c(figures, "nelvat.yaml", list.files(paper, "csv|codebook"))
  file.copy(file.path(paper, files), folder)
  withr::local_dir(folder, .local_envir = envir)
}

test_that("what is printed of a folder is what was kept", {
  in_paper(c("figure-1.yaml", "figure-5.yaml"))
  expect_snapshot(printed("list", "."))
  expect_snapshot(printed("keys", "."))
})

test_that("what is printed of figures is what was kept", {
  in_paper(c("figure-1.yaml", "figure-3.yaml", "figure-5.yaml"))
  expect_snapshot(printed("legend", "figure-1.yaml"))
  expect_snapshot(printed("legend", "--length", "checklist", "figure-5.yaml"))
  expect_snapshot(printed("alt", "figure-3.yaml"))
  expect_snapshot(printed("methods", "figure-5.yaml"))
})

test_that("what is printed of words and tables is what was kept", {
  in_paper(character())
  expect_snapshot(printed("words", "roc"))
  expect_snapshot(printed("words", "ink_bars"))
  expect_snapshot(printed("codebook", "loaves.csv"))
  expect_snapshot(printed("start", "loaves.csv", "--kind", "grid"))
})

test_that("a file whose name holds signs of patterns is named once in its error", {
  folder <- withr::local_tempdir()
  withr::local_dir(folder)
  writeLines("nelvat: 1\nblocks: {}", "a+(b).yaml")
  told <- run_nelvat("draw", "a+(b).yaml")$complained
  expect_length(gregexpr("a+(b).yaml", told[1], fixed = TRUE)[[1]], 1)
  expect_match(told[1], "a+(b).yaml", fixed = TRUE)
})

test_that("a picture of proof is of one figure", {
  in_paper("figure-1.yaml")
  both <- run_nelvat("proof", "--picture", "p.png", "figure-1.yaml", "figure-1.yaml")
  expect_identical(both$status, 2L)
  expect_match(both$complained, "--picture takes one figure file", fixed = TRUE, all = FALSE)
  expect_false(file.exists("p.png"))
  run_nelvat("proof", "--picture", "p.png", "figure-1.yaml")
  expect_identical(dim(png::readPNG("p.png"))[2] > 0, TRUE)
})

test_that("a lock is stale where its process is gone, or it is no lock and old", {
  folder <- withr::local_tempdir()
  lock <- function(pid, age_s = 0) {
    path <- tempfile("lock", folder)
    dir.create(path)
    if (length(pid)) writeLines(pid, file.path(path, "pid"))
    Sys.setFileTime(path, Sys.time() - age_s)
    path
  }
  stale <- nelvat:::is_stale
  old <- nelvat:::young_lock_s * 2
  expect_false(stale(lock(as.character(Sys.getpid()), old)))
  # The number of a process that has ended.
  gone <- system2(file.path(R.home("bin"), "Rscript"), "-e 'cat(Sys.getpid())'", stdout = TRUE)
  expect_true(stale(lock(gone)))
  for (odd in list("no number", "-3", "0", character())) {
    expect_false(stale(lock(odd)))
    expect_true(stale(lock(odd, old)))
  }
})

test_that("commands of one thing refuse two", {
  withr::local_dir(withr::local_tempdir())
  writeLines("%PDF-1.4", "a.pdf")
  two <- run_nelvat("recover", "a.pdf", "a.pdf")
  expect_identical(two$status, 2L)
  expect_match(two$complained, "recover", all = FALSE)
  expect_identical(list.files(), "a.pdf")
})
