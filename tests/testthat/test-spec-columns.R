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
