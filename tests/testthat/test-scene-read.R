test_that("a scene goes to JSON and back, and is drawn the same", {
  skip_if_not_installed("svglite")
  figures <- list(
    plate(
      panel(
        study("loaves"),
        x = flour,
        y = rise,
        colour = hydration,
        ink_bars(),
        ink_rule(y = 50)
      ),
      width = 86,
      height = 60,
      title = "Rise"
    ),
    plate(
      beside(
        joint(study("pores"), x = log10(area), y = roundness, ink_hexagons()),
        every_pair(study("loaves"), c(rise, volume, ph), colour = flour, above = ink_value())
      ),
      width = 178,
      height = 90
    )
  )
  drawing <- function(scene) {
    path <- withr::local_tempfile(fileext = ".svg")
    svglite::svglite(path, width = 8, height = 5)
    grid::grid.draw(as_grob(scene))
    grDevices::dev.off()
    readLines(path)
  }
  for (figure in figures) {
    scene <- as_scene(figure)
    json <- scene_json(scene)
    back <- read_scene(json)
    expect_s3_class(back, "nelvat_scene")
    expect_identical(scene_json(back), json)
    expect_identical(names(back), names(scene))
    for (name in c("panels", "rules", "texts", "runs", "accounts")) {
      known <- Filter(function(column) !all(is.na(column)), as.list(scene[[name]]))
      expect_equal(as.list(back[[name]])[names(known)], known, tolerance = 1e-8, label = name)
    }
    expect_identical(drawing(back), drawing(scene))
  }
  later <- sub("\"nelvat_scene\":1,", "\"nelvat_scene\":2,", scene_json(figures[[1]]), fixed = TRUE)
  expect_error(read_scene(later), "version 2", class = "nelvat_error_file")
  path <- withr::local_tempfile(fileext = ".json")
  scene_json(figures[[1]], path)
  expect_identical(scene_json(read_scene(path)), scene_json(figures[[1]]))
})

test_that("a scene holds nothing that JSON does not, whatever stands on the plate", {
  loaves <- study("loaves")
  scatter <- ggplot2::ggplot(loaves$data, ggplot2::aes(rise, volume)) + ggplot2::geom_point()
  scene <- as_scene(
    plate(beside(scatter, panel(loaves, x = flour, y = rise, ink_bars())), width = 160)
  )
  plain <- function(part) {
    is.null(part) || is.atomic(part) && !is.object(part) ||
      is.list(part) && all(vapply(part, plain, NA))
  }
  for (name in names(scene)) expect_true(plain(unclass(scene[[name]])), label = name)
  expect_identical(names(attributes(scene)), c("names", "class"))
  expect_identical(scene$pictures$block, "block1")
})

test_that("what is no scene is refused, with what lacks", {
  expect_error(read_scene("none.json"), "does not exist", class = "nelvat_error_file")
  expect_error(read_scene("{\"page\": 1"), "no JSON", class = "nelvat_error_file")
  expect_error(read_scene("{\"page\": {}}"), "\"panels\"", class = "nelvat_error_file")
})
