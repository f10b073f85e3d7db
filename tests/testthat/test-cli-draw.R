project <- function(envir = parent.frame()) {
  folder <- folder_with(
    list(
      "a.csv" = c("f,v,w", "p,1,2", "q,2,3", "p,3,5", "q,4,4"),
      "one.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {panel: {data: a, x: f, y: v, ink: dots}}}",
        "plate: {place: b, width: 80, height: 60}", "save: one.pdf"
      ),
      "two.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {panel: {data: a, x: v, y: w, ink: points}}}",
        "plate: {place: b, width: 80, height: 60}", "save: two.png"
      ),
      "other.yaml" = c("fields: []")
    ),
    envir
  )
  folder
}

test_that("a folder's figures are drawn, those unchanged left as they are", {
  folder <- project()
  first <- run_nelvat("draw", "--dpi", "100", folder)
  expect_identical(first$status, 0L)
  expect_setequal(basename(first$said), c("one.pdf", "two.png"))
  expect_match(first$complained, "2 figures: 2 drawn, 0 unchanged, 0 failed", all = FALSE)
  again <- run_nelvat("draw", "--dpi", "100", folder)
  expect_length(again$said, 0)
  expect_match(again$complained, "0 drawn, 2 unchanged", all = FALSE)
  # One of a figure's files is gone.
  both <- readLines(file.path(folder, "one.yaml"))
  writeLines(sub("^save: .*", "save: [one.pdf, one.png]", both), file.path(folder, "one.yaml"))
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 2)
  unlink(file.path(folder, "one.png"))
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 2)
  writeLines(both, file.path(folder, "one.yaml"))
  run_nelvat("draw", "--dpi", "100", folder)
  # A number changes in the data: both are drawn again; in one file: that alone.
  writeLines(
    sub("q,4,4", "q,4,9", readLines(file.path(folder, "a.csv"))),
    file.path(folder, "a.csv")
  )
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 2)
  writeLines(
    sub("width: 80", "width: 82", readLines(file.path(folder, "two.yaml"))),
    file.path(folder, "two.yaml")
  )
  expect_identical(basename(run_nelvat("draw", "--dpi", "100", folder)$said), "two.png")
  unlink(file.path(folder, "one.pdf"))
  expect_identical(basename(run_nelvat("draw", "--dpi", "100", folder)$said), "one.pdf")
  # Other dots, or a legend that was not written, count as a change; a folder is known by any name.
  expect_length(run_nelvat("draw", "--dpi", "120", folder)$said, 2)
  expect_length(run_nelvat("draw", "--dpi", "120", paste0(folder, "/."))$said, 0)
  expect_length(run_nelvat("draw", "--dpi", "120", folder, paste0(folder, "/"))$said, 0)
  expect_length(run_nelvat("draw", "--dpi", "120", "--legend", folder)$said, 4)
  withr::with_dir(
    folder,
    expect_length(run_nelvat("draw", "--dpi", "120", "--legend", ".")$said, 0)
  )
  expect_length(run_nelvat("draw", "--dpi", "100", "--force", folder)$said, 2)
  # A house that comes to stand beside them changes all, as does the one that it changes.
  writeLines("type_pt: {base: 7}", file.path(folder, "base.yaml"))
  writeLines("from: base.yaml", file.path(folder, "nelvat.yaml"))
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 2)
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 0)
  writeLines("type_pt: {base: 6.5}", file.path(folder, "base.yaml"))
  expect_length(run_nelvat("draw", "--dpi", "100", folder)$said, 2)
})

test_that("one figure that fails leaves the others drawn, and the status is 1", {
  folder <- project()
  writeLines(
    sub("y: w", "y: weight", readLines(file.path(folder, "two.yaml"))),
    file.path(folder, "two.yaml")
  )
  got <- run_nelvat("draw", folder)
  expect_identical(got$status, 1L)
  expect_identical(basename(got$said), "one.pdf")
  expect_match(got$complained, "1 drawn, 0 unchanged, 1 failed", all = FALSE)
  expect_match(got$complained, "two.yaml", all = FALSE)
})

test_that("source data and legend are written beside the figure where asked", {
  folder <- project()
  got <- run_nelvat("draw", "--source-data", "--legend", file.path(folder, "one.yaml"))
  expect_setequal(
    basename(got$said),
    c("one.pdf", grep("one-source", basename(got$said), value = TRUE), "one-legend.md")
  )
  source <- grep("one-source", got$said, value = TRUE)
  table <- if (grepl("csv$", source)) utils::read.csv(source) else readxl::read_excel(source)
  expect_identical(nrow(table), 4L)
  expect_match(readLines(file.path(folder, "one-legend.md")), "V by f", all = FALSE)
})

test_that("watching draws what changed", {
  folder <- project()
  path <- file.path(folder, "one.yaml")
  run_nelvat("draw", path)
  before <- file.mtime(file.path(folder, "one.pdf"))
  state <- nelvat:::watched_state(folder)
  expect_length(state[[path]][[1]], 2)
  Sys.sleep(1.1)
  with_replaced(
    said <- utils::capture.output(
      suppressMessages(nelvat:::watch_figures(path, list(dpi = 100), rounds = 2))
    ),
    watched_state = local({
      calls <- 0
      function(paths) {
        calls <<- calls + 1
        if (calls == 2) Sys.setFileTime(file.path(folder, "a.csv"), Sys.time() + 5)
        lapply(
          stats::setNames(nm = path),
          function(one) file.mtime(c(path, file.path(folder, "a.csv")))
        )
      }
    })
  )
  expect_gt(as.numeric(file.mtime(file.path(folder, "one.pdf"))), as.numeric(before))
})

test_that("a figure file started from a table draws at once, whatever its columns", {
  tables <- list(
    times = c("day,mass", "2026-01-01,1", "2026-01-02,3", "2026-01-03,2"),
    groups = c("f,g,v,w", "a,x,1,4", "b,y,2,5", "a,y,3,6", "b,x,4,9"),
    pairs = c("v,w", "1.5,2", "2.5,4", "3.1,5", "4.9,4"),
    lone = c("v", "1.5", "2.5", "3.5", "4.1"),
    counted = c("f", "a", "b", "a")
  )
  for (name in names(tables)) {
    folder <- folder_with(stats::setNames(tables[name], paste0(name, ".csv")))
    started <- run_nelvat("start", file.path(folder, paste0(name, ".csv")))
    expect_identical(basename(started$said), paste0(name, ".yaml"))
    path <- file.path(folder, paste0(name, ".yaml"))
    expect_gt(sum(grepl("#", readLines(path))), 2)
    drawn <- run_nelvat("draw", "--dpi", "100", path)
    expect_identical(drawn$status, 0L, label = paste(name, paste(drawn$complained, collapse = " ")))
    expect_identical(run_nelvat("start", file.path(folder, paste0(name, ".csv")))$status, 1L)
  }
  expect_error(
    start_figure(withr::local_tempfile(lines = c("note", paste0("text", 1:30)), fileext = ".csv")),
    class = "nelvat_error_data"
  )
})

test_that("reports are written beside their figure files", {
  folder <- project()
  got <- run_nelvat("report", file.path(folder, "one.yaml"))
  expect_identical(basename(got$said), "one.html")
  expect_match(
    paste(readLines(file.path(folder, "one.html")), collapse = ""),
    "nelvat draw one.yaml",
    fixed = TRUE
  )
  expect_identical(run_nelvat("report", "--output", "x.html", "a.yaml", "b.yaml")$status, 2L)
})

test_that("an output in a subfolder is known; one that was removed is drawn again by watching", {
  folder <- project()
  dir.create(file.path(folder, "out"))
  one <- file.path(folder, "one.yaml")
  writeLines(sub("save: one.pdf", "save: out/one.pdf", readLines(one)), one)
  unlink(file.path(folder, "two.yaml"))
  run_nelvat("draw", folder)
  expect_length(run_nelvat("draw", folder)$said, 0)
  before <- nelvat:::watched_state(folder)
  expect_identical(nelvat:::watched_state(folder), before)
  unlink(file.path(folder, "out", "one.pdf"))
  expect_false(identical(nelvat:::watched_state(folder), before))
  expect_identical(basename(run_nelvat("draw", folder)$said), "one.pdf")
})

test_that("a file of a folder that is no YAML is reported, and the others are drawn", {
  folder <- project()
  writeLines(c("nelvat: 1", "data: {a: [a.csv"), file.path(folder, "broken.yaml"))
  got <- run_nelvat("draw", "--dpi", "100", folder)
  expect_identical(got$status, 1L)
  expect_length(got$said, 2)
  expect_match(got$complained, "broken.yaml\" cannot be read as YAML", all = FALSE)
})

test_that("warnings name their figure, for each figure anew, in their own words only", {
  folder <- project()
  writeLines(c("f,v,w", "p,1,2", "q,,3", "p,3,5", "q,4,4"), file.path(folder, "a.csv"))
  got <- run_nelvat("draw", "--dpi", "100", folder)
  expect_match(got$complained, "one.yaml: Not every value", all = FALSE)
  expect_match(got$complained, "two.yaml: Not every value", all = FALSE)
  expect_false(any(grepl("once per session", got$complained)))
})

test_that("all that a figure writes changes together, or nothing does", {
  folder <- project()
  one <- file.path(folder, "one.yaml")
  writeLines(sub("save: one.pdf", "save: [one.pdf, out/one.png]", readLines(one)), one)
  writeLines("old", file.path(folder, "one.pdf"))
  got <- run_nelvat("draw", one)
  expect_identical(got$status, 1L)
  expect_identical(readLines(file.path(folder, "one.pdf")), "old")
})

test_that("runs at once on one folder take turns: files whole, nothing left, nothing drawn again", {
  skip_on_os("windows")
  folder <- project()
  for (i in 1:4) {
    writeLines(
      sub("one.pdf", paste0("more", i, ".pdf"), readLines(file.path(folder, "one.yaml"))),
      file.path(folder, paste0("more", i, ".yaml"))
    )
  }
  runs <- parallel::mclapply(
    1:3,
    function(i) run_nelvat("draw", "--force", "--dpi", "100", folder),
    mc.cores = 3,
    mc.preschedule = FALSE
  )
  expect_identical(vapply(runs, `[[`, 0L, "status"), rep(0L, 3))
  for (name in c("one.pdf", paste0("more", 1:4, ".pdf"))) {
    bytes <- readBin(file.path(folder, name), "raw", 1e6)
    expect_identical(rawToChar(utils::tail(bytes, 6)), "%%EOF\n", info = name)
  }
  expect_false(dir.exists(file.path(folder, ".nelvat", "lock")))
  left <- list.files(folder, all.files = TRUE, no.. = TRUE)
  expect_setequal(
    left,
    c(
      ".nelvat",
      "a.csv",
      "one.yaml",
      "two.yaml",
      "other.yaml",
      paste0("more", 1:4, ".yaml"),
      "one.pdf",
      "two.png",
      paste0("more", 1:4, ".pdf")
    )
  )
  expect_match(
    run_nelvat("draw", "--dpi", "100", folder)$complained,
    "0 drawn, 6 unchanged",
    all = FALSE
  )
})

test_that("many figures in one call take no more memory than few", {
  folder <- project()
  lines <- readLines(file.path(folder, "one.yaml"))
  for (i in 1:40) {
    writeLines(
      sub("one.pdf", paste0("n", i, ".pdf"), lines),
      file.path(folder, paste0("n", i, ".yaml"))
    )
  }
  few <- file.path(folder, paste0("n", 1:10, ".yaml"))
  held <- function() sum(gc()[, 2])
  run_nelvat("draw", few)
  before <- held()
  expect_identical(run_nelvat("draw", folder)$status, 0L)
  expect_lt(held() - before, 5)
})
