# A project of eight figures, and what a reviewer asks for: each revision is made in one or two
# files, and every figure that it is about follows.

eight_figures <- function(envir = parent.frame()) {
  folder <- paper_folder(envir)
  write <- function(name, ...) writeLines(c(...), file.path(folder, name))
  write(
    "figure-7.yaml",
    "nelvat: 1",
    "data: {loaves: {file: loaves.csv, codebook: loaves.codebook.yaml}}",
    "blocks:",
    "  acid: {panel: {data: loaves, x: flour, y: acidity, ink: [{box: {}}, dots]}}",
    "  both: {panel: {data: loaves, x: acidity, y: ph, colour: flour, shape: flour, ink: points}}",
    "plate: {width: double, height: 70, place: {beside: [acid, both]}}",
    "save: figure-7.pdf"
  )
  write(
    "figure-8.yaml",
    "nelvat: 1",
    "data: {loaves: {file: loaves.csv, codebook: loaves.codebook.yaml}}",
    "blocks:",
    "  grades: {panel: {data: loaves, x: flour, colour: bakery, ink: {bars: {arrange: share}}}}",
    "plate: {width: single, height: 60, place: grades}",
    "save: figure-8.pdf"
  )
  folder
}
# The files that a revision touched, and the figures that come out otherwise.
project_state <- function(folder) {
  list(
    files = tools::md5sum(list.files(folder, full.names = TRUE)),
    figures = suppressWarnings(
      lapply(
        nelvat:::figure_files(folder, NULL),
        function(path) rlang::hash(as_scene(read_figure(path)$plate))
      )
    )
  )
}
revised <- function(folder, before, revise) {
  revise(function(name, from, to) {
    path <- file.path(folder, name)
    lines <- readLines(path)
    expect_true(any(grepl(from, lines)), label = paste(from, "in", name))
    writeLines(sub(from, to, lines), path)
  })
  after <- project_state(folder)
  same <- after$files[names(before$files)] == before$files
  touched <- sum(!same) + length(setdiff(names(after$files), names(before$files)))
  figures <- seq_along(before$figures)
  other <- which(!mapply(identical, before$figures, after$figures[figures]))
  list(touched = touched, figures = other, state = after)
}
of_loaves <- c(1, 2, 5, 7, 8)

test_that("ten revisions of a project of eight figures are each made in at most two files", {
  skip_if_not(at_length(), "runs with CI=true or ALL=1")
  folder <- eight_figures()
  revisions <- list(
    `all type larger` = list(
      function(edit) edit("nelvat.yaml", "base: 6.5", "base: 7"),
      1:8
    ),
    `capital letters` = list(
      function(edit) edit("nelvat.yaml", "case: lower", "case: upper"),
      c(2:7)
    ),
    `narrower columns` = list(
      function(edit) edit("nelvat.yaml", "double: 178", "double: 170"),
      1:7
    ),
    `a flour has another name` = list(
      function(edit) edit("loaves.codebook.yaml", "label: Spelt", "label: Spelt (stone-ground)"),
      of_loaves
    ),
    `a variable has another name` = list(
      function(edit) edit("loaves.codebook.yaml", "title: Crumb pH", "title: pH of the crumb"),
      c(1, 2, 7)
    ),
    `another unit` = list(
      function(edit) edit("loaves.codebook.yaml", "unit: mL", "unit: mL\n    show: L"),
      c(1, 2)
    ),
    `a value mended in the data` = list(
      function(edit) edit("loaves.csv", "^(([^,]*,){6})[0-9.]+", "\\160.5"),
      c(1, 2, 5)
    ),
    `other error bars` = list(
      function(edit) edit("figure-1.yaml", "error: sd", "error: se"),
      1
    ),
    `a panel less, and another order` = list(
      function(edit) {
        edit("figure-7.yaml", "beside: \\[acid, both\\]", "stacked: [both, acid]")
      },
      7
    ),
    `a variant for the supplement` = list(
      function(edit) {
        writeLines(
          c(
            "from: figure-1.yaml",
            "blocks: {responses: {facets: {panel: {ink: {box: {}}}}}}",
            "save: figure-9.pdf"
          ),
          file.path(folder, "figure-9.yaml")
        )
      },
      integer()
    )
  )
  state <- project_state(folder)
  for (name in names(revisions)) {
    found <- revised(folder, state, revisions[[name]][[1]])
    state <- found$state
    expect_lte(found$touched, 2, label = paste("files of", name))
    expect_identical(found$figures, as.integer(revisions[[name]][[2]]), label = name)
  }
  expect_length(state$figures, 9)
})
