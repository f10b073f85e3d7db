responses_file <- readLines(study_file("responses.yaml"))

study_folder_with <- function(lines, envir = parent.frame()) {
  folder <- folder_with(list(figure.yaml = lines), envir)
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  file.path(folder, "figure.yaml")
}

test_that("a figure file makes the same scene as the call", {
  path <- study_folder_with(responses_file)
  figure <- read_figure(path)
  expect_identical(as_scene(figure$plate), as_scene(responses()))
  expect_identical(basename(figure$save), c("responses.pdf", "responses.png"))
  expect_identical(dirname(figure$save[1]), dirname(path))
})

test_that("what is wrong in a file is said with its place, and nothing is written", {
  wrong <- list(
    c("x: flour", "x: flower"),
    c("colour: hydration", "color: hydration"),
    c("y: \\[rise", "y: [bakery"),
    c("loaves.csv", "loafs.csv"),
    c("centre: mean", "center: mean"),
    c("bars:", "barz:"),
    c("place: responses", "place: response"),
    c("data: loaves$", "data: loave"),
    c("per_row: 3", "per_row: many"),
    c("width: double", "width: dubble"),
    c("nelvat: 1", "nelvat: 2"),
    c("height: 120", "height: 30"),
    c("^plate:.*", ""),
    c("facets:", "facet:"),
    c("error: sd", "error: [sd, se]"),
    c("responses.png", "responses.gif"),
    c("^blocks:", "blocks: ["),
    c("loaves.codebook.yaml", "loaves.csv")
  )
  for (change in wrong) {
    path <- study_folder_with(sub(change[1], change[2], responses_file))
    before <- list.files(dirname(path))
    call <- run_nelvat("draw", path)
    expect_identical(call$status, 1L)
    expect_identical(call$said, character())
    expect_identical(list.files(dirname(path)), before)
    expect_snapshot(
      cat(change[2], "", gsub(dirname(path), "FOLDER", call$complained, fixed = TRUE), sep = "\n")
    )
  }
})

test_that("R's own tables go through a figure file each", {
  needs_poppler()
  folder <- folder_with(
    list(
      warp.yaml = c(
        "nelvat: 1", "data: {warp: warp.csv}", "blocks:", "  breaks:", "    facets:",
        "      panel: {data: warp, x: tension, y: breaks, ink: [{bars: {error: se}},",
        "          {points: {opacity: 0.5}}]}",
        "      across: wool",
        "plate: {width: single, height: 60, place: breaks}", "save: warp.pdf"
      ),
      esoph.yaml = c(
        "nelvat: 1", "data:", "  esoph: {file: esoph.csv}", "blocks:", "  cases:", "    facets:",
        "      panel: {data: esoph, x: agegp, y: [ncases, ncontrols], colour: alcgp, ink: bars}",
        "      per_row: 1",
        "plate: {width: double, height: 150, place: cases}", "save: [esoph.pdf]"
      )
    )
  )
  utils::write.csv(datasets::warpbreaks, file.path(folder, "warp.csv"), row.names = FALSE)
  utils::write.csv(datasets::esoph, file.path(folder, "esoph.csv"), row.names = FALSE)
  call <- run_nelvat("draw", file.path(folder, c("warp.yaml", "esoph.yaml")))
  expect_identical(call$status, 0L)
  expect_identical(basename(call$said), c("warp.pdf", "esoph.pdf"))
  for (path in call$said) {
    words <- read_pdf_words(path)$words
    expect_identical(nrow(overlapping_boxes(words, 0.05)), 0L)
  }
  warp <- as_scene(read_figure(file.path(folder, "warp.yaml"))$plate)
  top <- warp$axes[[warp$panels$y_axis[1]]]$range[2]
  bars <- warp$marks[[1]]$table
  means <- with(
    datasets::warpbreaks,
    tapply(breaks, list(factor(tension, c("L", "M", "H")), wool), mean)
  )
  expect_equal(bars$y1[order(bars$panel, bars$x0)] * top, as.numeric(means))
})

test_that(
  "numbers of files are what they say: no octal, none too large, no anchor that is not there",
  {
    folder <- folder_with(
      list(
        "a.csv" = c("id,v", "010,12345678901", "08,3"),
        "a.codebook.yaml" = c(
          "fields: [{name: id, type: string, categories: [010, 08]}, {name: v, type: number}]"
        ),
        "a.yaml" = c(
          "nelvat: 1", "data: {a: {file: a.csv, codebook: a.codebook.yaml}}", "blocks:",
          "  b: {panel: {data: a, x: id, y: v, y_axis: {range: [0, 20000000000]}, ink: [points]}}",
          "plate: {width: single}", "save: [a.pdf]"
        ),
        "b.yaml" = c("nelvat: 1", "data: *a")
      )
    )
    scene <- as_scene(read_figure(file.path(folder, "a.yaml"))$plate)
    y <- Filter(function(axis) !axis$slots, scene$axes)[[1]]
    expect_identical(y$range, c(0, 2e10))
    expect_true(all(c("010", "08") %in% scene$texts$string))
    expect_error(
      read_figure(file.path(folder, "b.yaml")),
      "Unknown anchor",
      class = "nelvat_error_figure"
    )
  }
)
