project <- function(envir = parent.frame()) {
  folder <- normalizePath(withr::local_tempdir(.local_envir = envir), "/")
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
  folder
}

test_that("a figure comes back from its PDF, and is drawn with the same bytes", {
  folder <- project()
  figure <- file.path(folder, "figure-3.yaml")
  pdf <- file.path(folder, "archived.pdf")
  withr::local_options(warn = -1)
  expect_message(inside <- archive_figure(figure, pdf), "for everyone who has it")
  expect_true(all(c("figure-3.yaml", "nelvat.yaml", "nelvat-archive.json") %in% inside))
  first <- readBin(pdf, "raw", file.size(pdf))
  suppressMessages(archive_figure(figure, pdf))
  expect_identical(readBin(pdf, "raw", file.size(pdf)), first)
  # The page is that of the plain file, whose bytes stand before what was added.
  plain <- file.path(folder, "plain.pdf")
  save_plate(read_figure(figure)$plate, plain)
  expect_identical(first[seq_len(file.size(plain))], readBin(plain, "raw", file.size(plain)))
  to <- file.path(withr::local_tempdir(), "again")
  recovered <- recover_figure(pdf, to)
  expect_identical(basename(recovered), "figure-3.yaml")
  for (name in setdiff(inside, c("nelvat-archive.json", "nelvat-scene.json"))) {
    expect_identical(
      unname(tools::md5sum(file.path(to, name))),
      unname(tools::md5sum(file.path(folder, name)))
    )
  }
  again <- file.path(to, "plain.pdf")
  save_plate(read_figure(recovered)$plate, again)
  expect_identical(unname(tools::md5sum(again)), unname(tools::md5sum(plain)))
})

test_that("files beside each other in several folders keep their places", {
  root <- normalizePath(withr::local_tempdir(), "/")
  for (name in c("data", "figures")) dir.create(file.path(root, name))
  file.copy(study_file("loaves.csv"), file.path(root, "data"))
  figure <- file.path(root, "figures", "a.yaml")
  writeLines(
    c(
      "nelvat: 1",
      "data: {loaves: {file: ../data/loaves.csv}}",
      "blocks: {a: {panel: {data: loaves, x: flour, y: rise, ink: box}}}",
      "plate: {width: single, place: a}",
      "save: a.pdf"
    ),
    figure
  )
  pdf <- file.path(root, "a.pdf")
  suppressMessages(archive_figure(figure, pdf))
  to <- file.path(root, "back")
  recovered <- recover_figure(pdf, to)
  expect_true(file.exists(file.path(to, "data", "loaves.csv")))
  expect_s3_class(read_figure(recovered)$plate, "nelvat_plate")
  writeLines(sub("../data", file.path(root, "data"), readLines(figure), fixed = TRUE), figure)
  expect_error(
    archive_figure(figure, file.path(root, "b.pdf")),
    "absolute paths",
    class = "nelvat_error_figure"
  )
  expect_false(file.exists(file.path(root, "b.pdf")))
})

test_that("what would come back as another figure is not archived", {
  root <- normalizePath(withr::local_tempdir(), "/")
  figure <- file.path(root, "a.yaml")
  dir.create(file.path(root, "elsewhere"))
  file.copy(study_file("loaves.csv"), file.path(root, "elsewhere", "loaves.csv"))
  skip_on_os("windows")
  file.symlink(file.path(root, "elsewhere", "loaves.csv"), file.path(root, "linked.csv"))
  lines <- c(
    "nelvat: 1",
    "data: {loaves: {file: linked.csv}}",
    "blocks: {a: {panel: {data: loaves, x: flour, y: rise, ink: box}}}",
    "plate: {width: single, place: a}",
    "save: a.pdf"
  )
  writeLines(lines, figure)
  pdf <- file.path(root, "a.pdf")
  expect_error(archive_figure(figure, pdf), "would not come out", class = "nelvat_error_figure")
  # A house above the figure's folder, found by the root of its project.
  inner <- file.path(root, "inner")
  dir.create(inner)
  dir.create(file.path(root, ".git"))
  writeLines(c("from: plain", "type_pt: {base: 9}"), file.path(root, "nelvat.yaml"))
  writeLines(sub("linked.csv", "../elsewhere/loaves.csv", lines), file.path(inner, "a.yaml"))
  expect_error(
    archive_figure(file.path(inner, "a.yaml"), pdf),
    "Another house",
    class = "nelvat_error_figure"
  )
  expect_false(file.exists(pdf))
})

test_that("other programs read the files inside, and find the PDF sound", {
  folder <- project()
  pdf <- file.path(folder, "archived.pdf")
  suppressMessages(archive_figure(file.path(folder, "figure-3.yaml"), pdf))
  skip_if(!nzchar(Sys.which("pdfdetach")), "pdfdetach is not installed")
  listed <- system2("pdfdetach", c("-list", shQuote(pdf)), stdout = TRUE)
  expect_true(any(grepl("figure-3.yaml", listed, fixed = TRUE)))
  if (nzchar(Sys.which("qpdf"))) {
    checked <- suppressWarnings(
      system2("qpdf", c("--check", shQuote(pdf)), stdout = TRUE, stderr = TRUE)
    )
    expect_true(any(grepl("No syntax or stream encoding errors", checked)))
  }
})

test_that("PDFs of strangers, damaged and hostile ones are told, and nothing is written", {
  folder <- project()
  to <- file.path(folder, "back")
  plain <- file.path(folder, "plain.pdf")
  save_plate(read_figure(file.path(folder, "figure-3.yaml"))$plate, plain)
  expect_error(recover_figure(plain, to), "No files are in it", class = "nelvat_error_file")
  bytes <- readBin(plain, "raw", file.size(plain))
  written <- function(files) {
    path <- file.path(folder, "odd.pdf")
    writeBin(nelvat:::pdf_with_files(bytes, files), path)
    path
  }
  list_of <- function(names, contents, figure = names[1]) {
    charToRaw(
      as.character(
        jsonlite::toJSON(
          list(
            nelvat = 1,
            figure = figure,
            files = as.list(names),
            md5 = as.list(vapply(contents, nelvat:::md5_of, ""))
          ),
          auto_unbox = TRUE
        )
      )
    )
  }
  content <- charToRaw("nelvat: 1\n")
  for (name in c(
    "../out.yaml", "/tmp/out.yaml", "a/../../out.yaml", "a\\b.yaml", "a//b", "c:x", "a\nb"
  )) {
    files <- stats::setNames(list(content), name)
    files[["nelvat-archive.json"]] <- list_of(name, list(content))
    expect_error(recover_figure(written(files), to), class = "nelvat_error_place", label = name)
  }
  files <- list(
    a.yaml = charToRaw("other"),
    `nelvat-archive.json` = list_of("a.yaml", list(content))
  )
  expect_error(recover_figure(written(files), to), "was changed", class = "nelvat_error_file")
  files <- list(`nelvat-archive.json` = list_of("a.yaml", list(content)))
  expect_error(recover_figure(written(files), to), "is missing", class = "nelvat_error_file")
  files <- list(`nelvat-archive.json` = charToRaw("{"))
  expect_error(recover_figure(written(files), to), "cannot be read", class = "nelvat_error_file")
  expect_error(
    recover_figure(written(list(a.txt = content)), to),
    "no list",
    class = "nelvat_error_file"
  )
  pdf <- file.path(folder, "whole.pdf")
  suppressMessages(archive_figure(file.path(folder, "figure-3.yaml"), pdf))
  whole <- readBin(pdf, "raw", file.size(pdf))
  for (share in (1:7) / 8) {
    cut <- file.path(folder, "cut.pdf")
    writeBin(whole[seq_len(share * length(whole))], cut)
    expect_error(recover_figure(cut, to), class = "nelvat_error")
  }
  expect_false(file.exists(to))
  dir.create(to)
  writeLines("mine", file.path(to, "a.txt"))
  expect_error(recover_figure(pdf, to), "is not empty", class = "nelvat_error_file")
})

test_that("the command archives and recovers", {
  folder <- project()
  withr::local_dir(folder)
  heard <- capture.output(
    status <- suppressMessages(nelvat:::run_command(c("draw", "--archive", "figure-3.yaml")))
  )
  expect_identical(status, 0L)
  pdf <- grep("[.]pdf$", heard, value = TRUE)[1]
  out <- capture.output(status <- nelvat:::run_command(c("recover", "--to", "back", pdf)))
  expect_identical(status, 0L)
  expect_true(file.exists(out[1]))
})

test_that("a plate of a session is taken up again from its PDF, drawn to the same bytes", {
  folder <- withr::local_tempdir()
  pdf <- file.path(folder, "figure.pdf")
  fig <- plate(
    beside(
      facets(panel(study("loaves"), x = rise, y = firmness, ink_points()), across = flour),
      panel(study("loaves"), x = flour, y = ph, ink_box())
    ),
    width = 178,
    height = 70
  )
  told <- NULL
  withCallingHandlers(
    suppressWarnings(save_plate(fig, pdf, archive = TRUE)),
    message = function(message) {
      told <<- c(told, conditionMessage(message))
      invokeRestart("muffleMessage")
    }
  )
  expect_match(paste(told, collapse = "\n"), "for everyone who has it.*nelvat-scene.json")
  out <- file.path(folder, "out")
  scene_path <- recover_figure(pdf, out)
  expect_identical(basename(scene_path), "nelvat-scene.json")
  scene <- read_scene(scene_path)
  again <- file.path(folder, "again.pdf")
  plain <- file.path(folder, "plain.pdf")
  save_plate(scene, again)
  suppressWarnings(save_plate(fig, plain))
  expect_identical(nelvat:::file_bytes(again), nelvat:::file_bytes(plain))
  data <- list.files(file.path(out, "data"), full.names = TRUE)
  tables <- Filter(is.data.frame, suppressWarnings(source_data(fig)))
  expect_length(data, length(tables))
  rows <- vapply(data, function(path) nrow(utils::read.csv(path)), 0L)
  expect_setequal(unname(rows), vapply(tables, nrow, 0L, USE.NAMES = FALSE))
  expect_length(list.files(file.path(out, "columns")), 1)
  expect_error(
    save_plate(fig, file.path(folder, "a.png"), archive = TRUE),
    "for PDFs",
    class = "nelvat_error_argument"
  )
  expect_error(save_plate(scene, again, archive = TRUE), class = "nelvat_error_argument")
})
