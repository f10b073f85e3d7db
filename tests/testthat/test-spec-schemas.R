test_that("the shipped schemas accept all examples", {
  schema <- shipped_schema("figure")
  paper <- list.files(system.file("paper", package = "nelvat"), "[.]yaml$", full.names = TRUE)
  files <- c(
    paper,
    list.files(example_file(), "[.]yaml$", recursive = TRUE, full.names = TRUE),
    list.files(system.file("study", package = "nelvat"), "^responses.yaml$", full.names = TRUE)
  )
  figures <- Filter(function(file) any(grepl("^nelvat:", readLines(file))), files)
  expect_gt(length(figures), 5)
  for (file in figures) {
    expect_null(schema_faults(read_yaml_list(file), schema), label = basename(file))
  }
  for (file in Filter(function(file) grepl("nelvat.yaml$", file), files)) {
    expect_null(schema_faults(read_yaml_list(file), shipped_schema("house")), label = file)
  }
  books <- c(
    grep("codebook.yaml$", paper, value = TRUE),
    list.files(example_file(), "codebook.yaml$", recursive = TRUE, full.names = TRUE),
    list.files(system.file("study", package = "nelvat"), "codebook.yaml$", full.names = TRUE)
  )
  for (file in books) {
    expect_null(
      schema_faults(read_yaml_list(file), shipped_schema("codebook")),
      label = basename(file)
    )
  }
})

test_that("what the reader refuses, the schema refuses too", {
  schema <- shipped_schema("figure")
  good <- list(
    nelvat = 1,
    data = list(a = "a.csv"),
    blocks = list(b = list(panel = list(data = "a", x = "f", ink = "bars"))),
    plate = list(place = "b")
  )
  expect_null(schema_faults(good, schema))
  bad <- list(
    utils::modifyList(good, list(nelvat = 2)),
    utils::modifyList(good, list(plats = 1)),
    utils::modifyList(good, list(plate = list(widht = 3))),
    utils::modifyList(good, list(blocks = list(b = list(panel = list(ink = "bras"))))),
    good[c("nelvat", "data", "blocks")],
    utils::modifyList(good, list(plate = list(key = "lft")))
  )
  for (one in bad) expect_gt(length(schema_faults(one, schema)), 0)
  house <- shipped_schema("house")
  expect_null(schema_faults(list(from = "compact", type_pt = list(base = 7)), house))
  expect_gt(length(schema_faults(list(type_pt = list(bsae = 7)), house)), 0)
  expect_gt(length(schema_faults(list(ticks = list(side = "both")), house)), 0)
  expect_gt(
    length(schema_faults(list(fields = list(list(type = "string"))), shipped_schema("codebook"))),
    0
  )
})

test_that("the schemas are those that the package's words make", {
  shipped <- system.file("schema", package = "nelvat")
  work <- withr::local_tempdir()
  dir.create(file.path(work, "inst"))
  script <- file.path(shipped, "make-schemas.R")
  withr::with_dir(work, suppressMessages(source(script, local = new.env())))
  for (file in list.files(shipped, "json$")) {
    expect_identical(
      readLines(file.path(work, "inst", "schema", file)),
      readLines(file.path(shipped, file)),
      label = file
    )
  }
})

test_that("scenes of examples and of the paper are as their published schema says", {
  schema <- shipped_schema("scene")
  paper <- list.files(system.file("paper", package = "nelvat"), "^figure.*yaml$", full.names = TRUE)
  plates <- c(
    example_plates("plates"),
    lapply(paper, function(path) read_figure(path)[[1]]),
    list(plate(panel(study("loaves"), x = rise, ink_histogram()), width = 86, height = 60))
  )
  for (i in seq_along(plates)) {
    text <- suppressWarnings(suppressMessages(scene_json(plates[[i]])))
    scene <- jsonlite::fromJSON(text, simplifyVector = FALSE)
    expect_null(schema_faults(scene, schema), label = paste("scene", i))
    expect_true(all(vapply(scene$panels, is.list, NA)))
  }
  scene$axes[[1]]$direction <- "z"
  scene$panels$w <- NULL
  expect_match(schema_faults(scene, schema), "w|direction", all = FALSE)
})
