# Columns that are meant by what their names have in common, in matrices and correlations.

test_that("a matrix and correlations take columns by pattern", {
  folder <- folder_with(
    list(
      loaves.csv = readLines(study_file("loaves.csv")),
      fig.yaml = c(
        "nelvat: 1",
        "data:",
        "  l: {file: loaves.csv}",
        "  c: {correlations: {data: l, columns: {from: rise, to: moisture, except: [flour]}}}",
        "blocks:",
        "  b: {every_pair: {data: l, columns: {from: rise, to: ph}, above: value}}",
        "  h: {panel: {data: c, x: first, y: second, colour: r, ink: tiles}}",
        "plate: {place: {beside: [b, h]}, width: double, height: 90}",
        "save: fig.pdf"
      )
    )
  )
  scene <- suppressMessages(
    suppressWarnings(as_scene(read_figure(file.path(folder, "fig.yaml"))$plate))
  )
  names <- names(utils::read.csv(file.path(folder, "loaves.csv")))
  within <- names[match("rise", names):match("ph", names)]
  expect_setequal(scene$panels$x_variable[scene$panels$role == "diagonal"], within)
  wrong <- sub("from: rise, to: ph", "starts_with: zz", readLines(file.path(folder, "fig.yaml")))
  writeLines(wrong, file.path(folder, "bad.yaml"))
  expect_error(
    suppressMessages(read_figure(file.path(folder, "bad.yaml"))),
    "line 6.*No column",
    class = "nelvat_error_figure"
  )
})

test_that("what makes one table of another is checked in files as in calls", {
  folder <- folder_with(list(w.csv = c("s,a,b", "1,3,4", "2,85,6", "3,5,7")))
  read <- function(entry) {
    lines <- c(
      "nelvat: 1",
      "data:",
      "  w: {file: w.csv}",
      paste0("  v: ", entry),
      "blocks: {p: {panel: {data: v, x: s, y: value, ink: points}}}",
      "plate: {place: p, width: 60, height: 50, save: x.pdf}"
    )
    file <- file.path(folder, "f.yaml")
    writeLines(lines, file)
    expect_null(schema_faults(read_yaml_list(file), shipped_schema("figure")))
    suppressMessages(read_figure(file))
  }
  right <- read("{file: w.csv, fields: {a: {missingValues: 85}}, long: {columns: [a, b]}}")
  expect_setequal(stats::na.omit(source_data(right$plate)[[1]]$value), 3:7)
  wrong <- function(entry, message, refused = TRUE) {
    file <- file.path(folder, "f.yaml")
    writeLines(sub("^  v: .*", paste0("  v: ", entry), readLines(file)), file)
    expect_error(suppressMessages(read_figure(file)), message, class = "nelvat_error")
    faults <- schema_faults(read_yaml_list(file), shipped_schema("figure"))
    expect_identical(!is.null(faults), refused, label = entry)
  }
  wrong("{file: w.csv, long: {columns: [a, b], into: [day, mass]}}", "line 4.*Expected names")
  wrong("{file: w.csv, long: {columns: [a, b], into: {d: x, m: y}}}", "line 4.*Expected keys")
  wrong("{file: w.csv, long: {columns: [a, b], prefix: [x, y]}}", "line 4.*must be one string")
  wrong("{counts: {data: w, over: a, empty: 3}}", "line 4.*`empty` must be true or false")
  wrong("{counts: {data: w, over: []}}", "line 4.*needs columns", refused = FALSE)
  expect_error(measure(colours = c("rdd", "blue")), "must be colours", class = "nelvat_error_level")
})
