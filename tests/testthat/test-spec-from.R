# Figure files that are another one with something different.
project <- function(env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  writeLines(
    c(
      "nelvat: 1",
      "data: {l: {file: loaves.csv, codebook: loaves.codebook.yaml}}",
      "blocks:",
      "  scatter: {panel: {data: l, x: rise, y: volume, colour: flour, ink: [points, fit]}}",
      "plate: {width: single, height: 60}",
      "save: [figure-1.pdf, figure-1.png]"
    ),
    file.path(folder, "figure-1.yaml")
  )
  folder
}
variant <- function(folder, ..., name = "variant.yaml", from = "figure-1.yaml") {
  path <- file.path(folder, name)
  dir.create(dirname(path), showWarnings = FALSE)
  writeLines(c("nelvat: 1", paste("from:", from), ...), path)
  path
}

test_that("a variant is the other figure with what it says, saved under its own name", {
  folder <- project()
  path <- variant(
    folder,
    "blocks: {scatter: {panel: {y: firmness, colour: null, ink: points}}}",
    "plate: {height: 70}"
  )
  read <- read_figure(path)
  expect_identical(basename(read$save), c("variant.pdf", "variant.png"))
  book <- read_data(file.path(folder, "loaves.csv"), file.path(folder, "loaves.codebook.yaml"))
  direct <- plate(
    scatter = panel(book, x = rise, y = firmness, ink_points()),
    width = "single",
    height = 70
  )
  of_call <- suppressWarnings(as_scene(direct))
  of_file <- suppressWarnings(as_scene(read$plate))
  expect_equal(lapply(of_file$marks, `[[`, "table"), lapply(of_call$marks, `[[`, "table"))
  expect_true(file.path(folder, "figure-1.yaml") %in% read$inputs)
  expect_null(schema_faults(read_yaml_list(path), shipped_schema("figure")))
})

test_that(
  "paths stay those of the other file, a variant of a variant works, and a block can be another",
  {
    folder <- project()
    near <- variant(folder, "plate: {note: near}")
    far <- variant(
      folder,
      "blocks: {scatter: {text_panel: Words}}",
      "save: far.svg",
      name = "deep/far.yaml",
      from = "../variant.yaml"
    )
    read <- read_figure(far)
    expect_identical(basename(read$save), "far.svg")
    expect_identical(basename(dirname(read$save)), "deep")
    expect_identical(read$plate$note, "near")
    expect_s3_class(read$plate$blocks[[1]], "nelvat_words")
    expect_identical(basename(read_figure(near)$save), c("variant.pdf", "variant.png"))
  }
)

test_that("an error names the file and line that it stands in", {
  folder <- project()
  message_of <- function(path) rlang::cnd_message(tryCatch(read_figure(path), error = identity))
  path <- variant(folder, "blocks: {scatter: {panel: {y: firmess}}}")
  expect_match(message_of(path), "variant.yaml\", line 3: .*\"firmess\"")
  writeLines(
    sub("ink: .points", "ink: [pints", readLines(file.path(folder, "figure-1.yaml"))),
    file.path(folder, "broken.yaml")
  )
  expect_match(message_of(variant(folder, from = "broken.yaml")), "broken.yaml\", line 4: .*pints")
  expect_match(message_of(variant(folder, from = "variant.yaml")), "cannot be from itself")
  expect_match(message_of(variant(folder, from = "figure-2.yaml")), "line 2: .*no such file")
})

test_that("a variant of several figures saves each under a name of its own", {
  folder <- project()
  writeLines(
    c(
      "nelvat: 1",
      "data: {l: {file: loaves.csv, codebook: loaves.codebook.yaml}}",
      "for_each: {response: [rise, volume]}",
      "blocks: {b: {panel: {data: l, x: flour, y: '{response}', ink: box}}}",
      "plate: {width: single, height: 60}",
      "save: each-{response}.pdf"
    ),
    file.path(folder, "each.yaml")
  )
  read <- read_figure(variant(folder, "plate: {note: again}", from = "each.yaml"))
  saved <- basename(unlist(lapply(read$drawings, `[[`, "save")))
  expect_identical(saved, c("variant-rise.pdf", "variant-volume.pdf"))
})

test_that("a folder's figures hold variants that do not say `nelvat` again, and no house", {
  folder <- project()
  writeLines(c("from: figure-1.yaml", "plate: {height: 70}"), file.path(folder, "variant.yaml"))
  writeLines(c("from: plain", "type_pt: {base: 7}"), file.path(folder, "nelvat.yaml"))
  expect_setequal(
    basename(nelvat:::figure_files(folder, NULL)),
    c("figure-1.yaml", "variant.yaml")
  )
})
