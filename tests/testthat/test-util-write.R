# Two files that stand already, and what is in their folder after `code` has failed to replace
# them: the same two, whole.
expect_untouched <- function(code, pattern = "could not be written") {
  folder <- withr::local_tempdir()
  paths <- file.path(folder, c("a.txt", "b.txt"))
  for (path in paths) writeLines(paste("old", basename(path)), path)
  error <- tryCatch(code(paths), error = identity)
  expect_s3_class(error, "nelvat_error_file")
  expect_match(rlang::cnd_message(error), pattern)
  expect_identical(lapply(paths, readLines), list("old a.txt", "old b.txt"))
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), c("a.txt", "b.txt"))
}

both <- function(paths) nelvat:::write_together(paths, list(charToRaw("new a"), charToRaw("new b")))

test_that("several files are written together, with the rights of the old ones", {
  folder <- withr::local_tempdir()
  paths <- file.path(folder, c("a.txt", "b.txt"))
  writeLines("old", paths[1])
  Sys.chmod(paths[1], "640")
  expect_identical(both(paths), paths)
  expect_identical(lapply(paths, readLines, warn = FALSE), list("new a", "new b"))
  expect_identical(format(file.info(paths[1])$mode), "640")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), c("a.txt", "b.txt"))
})

test_that(
  "a writer that fails at any step leaves all files as they were, and nothing beside them",
  {
    fail <- function(...) stop("No space left on device")
    second <- function(good, bad) {
      calls <- 0
      function(...) {
        calls <<- calls + 1
        if (calls == 2) bad(...) else good(...)
      }
    }
    put <- nelvat:::put_bytes
    half <- function(path, bytes) put(path, bytes[1:2])
    none <- function(path, bytes) NULL
    other <- function(path, bytes) put(path, rev(bytes))
    for (bad in list(fail, half, none, other)) {
      with_replaced(expect_untouched(both), put_bytes = second(put, bad))
      with_replaced(expect_untouched(both), put_bytes = bad)
    }
    with_replaced(expect_untouched(both, "No space left"), put_bytes = fail)
    with_replaced(expect_untouched(both, "Only 2 of 5"), put_bytes = half)
    stuck <- function(from, to) FALSE
    move <- nelvat:::move_file
    with_replaced(expect_untouched(both), move_file = second(move, stuck))
    with_replaced(expect_untouched(both), move_file = stuck)
  }
)

test_that("a symbolic link stays, and the file that it leads to is replaced", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  dir.create(file.path(folder, "there"))
  target <- file.path(folder, "there", "t.txt")
  writeLines("old", target)
  link <- file.path(folder, "l.txt")
  file.symlink(file.path("there", "t.txt"), link)
  nelvat:::write_whole(link, charToRaw("new"))
  expect_identical(Sys.readlink(link), file.path("there", "t.txt"))
  expect_identical(readLines(target, warn = FALSE), "new")
  expect_identical(list.files(file.path(folder, "there"), all.files = TRUE, no.. = TRUE), "t.txt")
})

test_that("folders, pipes and devices are not written to", {
  folder <- withr::local_tempdir()
  dir.create(file.path(folder, "x.pdf"))
  expect_error(
    nelvat:::write_whole(file.path(folder, "x.pdf"), raw(1)),
    "folder, not a file",
    class = "nelvat_error_file"
  )
  skip_on_os("windows")
  expect_error(
    nelvat:::write_whole("/dev/null", raw(1)),
    "device, not a file",
    class = "nelvat_error_file"
  )
  system2("mkfifo", file.path(folder, "pipe"))
  expect_error(
    nelvat:::write_whole(file.path(folder, "pipe"), raw(1)),
    "named pipe",
    class = "nelvat_error_file"
  )
  expect_error(read_data(file.path(folder, "pipe")), "named pipe", class = "nelvat_error_file")
  expect_error(read_data(folder), "is a folder", class = "nelvat_error_file")
})

test_that("what a killed run left is removed by the next one, what a running one writes is not", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  path <- file.path(folder, "a.pdf")
  prefix <- nelvat:::aside_prefix(path)
  # The number of a process that has ended.
  ended <- as.integer(system2("sh", c("-c", shQuote("echo $$")), stdout = TRUE))
  running <- Sys.getpid()
  left <- file.path(folder, paste0(prefix, c(ended, running), "-abc"))
  file.create(left, file.path(folder, ".nelvat-other.pdf~1-abc"))
  nelvat:::write_whole(path, charToRaw("new"))
  expect_identical(file.exists(left), c(FALSE, TRUE))
  expect_true(file.exists(file.path(folder, ".nelvat-other.pdf~1-abc")))
})

# Every writer of the package, each given a path in a folder.
writers <- function() {
  fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
  plates <- c(
    "f.pdf",
    "f.eps",
    "f.png",
    "f.tiff",
    if (requireNamespace("svglite", quietly = TRUE)) "f.svg"
  )
  save <- lapply(
    stats::setNames(nm = plates),
    function(name) function(path) save_plate(fig, path, dpi = 150)
  )
  c(
    save,
    list(
      "s.csv" = function(path) save_source_data(fig, path),
      "c.yaml" = function(path) write_codebook(study("loaves"), path),
      "c.json" = function(path) write_codebook(study("loaves"), path),
      "scene.json" = function(path) scene_json(fig, path),
      "r.html" = function(path) report(fig, path),
      "d.yaml" = function(path) draft_codebook(study_file("loaves.csv"), path),
      "p.png" = function(path) proof_picture(fig, path, dpi = 60)
    ),
    if (requireNamespace("writexl", quietly = TRUE)) {
      list("s.xlsx" = function(path) save_source_data(fig, path))
    }
  )
}

test_that("on a full disk every writer says so, and the old file is whole", {
  disk <- withr::local_tempdir()
  mounted <- suppressWarnings(
    system2(
      "mount",
      c("-t", "tmpfs", "-o", "size=20k", "tmpfs", disk),
      stdout = FALSE,
      stderr = FALSE
    )
  )
  skip_if(mounted != 0, "no small disk can be mounted here")
  withr::defer(system2("umount", disk), priority = "first")
  for (name in names(writers())) {
    path <- file.path(disk, name)
    writeLines("old", path)
    suppressWarnings(writeBin(raw(15000), file.path(disk, "ballast")))
    error <- tryCatch(suppressWarnings(writers()[[name]](path)), error = identity)
    expect_s3_class(error, "nelvat_error_file")
    expect_match(rlang::cnd_message(error), name, fixed = TRUE, label = name)
    expect_identical(readLines(path, warn = FALSE), "old", label = name)
    expect_setequal(list.files(disk, all.files = TRUE, no.. = TRUE), c(name, "ballast"))
    unlink(c(path, file.path(disk, "ballast")))
  }
})

test_that("a full folder for temporary files gives a classed error, not a cut figure", {
  disk <- withr::local_tempdir()
  mounted <- suppressWarnings(
    system2(
      "mount",
      c("-t", "tmpfs", "-o", "size=64k", "tmpfs", disk),
      stdout = FALSE,
      stderr = FALSE
    )
  )
  skip_if(mounted != 0, "no small disk can be mounted here")
  withr::defer(system2("umount", disk), priority = "first")
  out <- withr::local_tempdir()
  code <- sprintf(
    "library(nelvat); bars <- panel(study('loaves'), x = flour, y = rise, ink_bars());
     fig <- plate(bars, width = 80, height = 60);
     suppressWarnings(writeBin(raw(63000), file.path(tempdir(), 'ballast')));
     for (ending in c('pdf', 'eps', 'png', 'tiff')) {
     path <- file.path('%s', paste0('f.', ending)); writeLines('old', path);
     e <- tryCatch(save_plate(fig, path), error = identity);
     cat(class(e)[1], readLines(path, warn = FALSE), '\n') }",
    out
  )
  script <- withr::local_tempfile(fileext = ".R", lines = code)
  said <- withr::with_envvar(
    c(TMPDIR = disk),
    system2(
      file.path(R.home("bin"), "Rscript"),
      script,
      stdout = TRUE,
      stderr = FALSE,
      timeout = 60
    )
  )
  expect_identical(trimws(said), rep("nelvat_error_device old", 4))
})

test_that("a limit on file size gives status 1 and keeps the old file", {
  skip_on_os("windows")
  folder <- folder_with(
    list(
      "a.csv" = c("f,v", "p,1", "q,2"),
      "one.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {panel: {data: a, x: f, y: v, ink: bars}}}",
        "plate: {place: b, width: 80, height: 60}", "save: [one.png, one.tiff]"
      ),
      "one.png" = "old",
      "one.tiff" = "old"
    )
  )
  command <- paste(
    "ulimit -f 8; exec",
    shQuote(system.file("bin", "nelvat", package = "nelvat")),
    "draw",
    shQuote(file.path(folder, "one.yaml"))
  )
  said <- suppressWarnings(system2("sh", c("-c", shQuote(command)), stdout = TRUE, stderr = TRUE))
  expect_identical(attr(said, "status"), 1L)
  expect_match(said, "could not be", all = FALSE)
  expect_identical(readLines(file.path(folder, "one.png"), warn = FALSE), "old")
  expect_identical(readLines(file.path(folder, "one.tiff"), warn = FALSE), "old")
})

test_that("a folder that cannot be written to gives the classed error", {
  disk <- withr::local_tempdir()
  mounted <- suppressWarnings(
    system2(
      "mount",
      c("-t", "tmpfs", "-o", "size=64k", "tmpfs", disk),
      stdout = FALSE,
      stderr = FALSE
    )
  )
  skip_if(mounted != 0, "no disk can be mounted here")
  withr::defer(system2("umount", disk), priority = "first")
  writeLines("old", file.path(disk, "a.txt"))
  system2("mount", c("-o", "remount,ro", disk))
  expect_error(
    nelvat:::write_whole(file.path(disk, "a.txt"), charToRaw("new")),
    "could not be written; it is as it was",
    class = "nelvat_error_file"
  )
  expect_error(
    nelvat:::write_whole(file.path(disk, "b.txt"), charToRaw("new")),
    "could not be written\\.",
    class = "nelvat_error_file"
  )
})
