loaves <- study("loaves")
scatter <- panel(loaves, x = rise, y = volume, colour = flour, ink_points())
scene_of <- function(...) suppressWarnings(as_scene(plate(...)))

test_that("built-in styles differ in type, lines and room, and lay out without faults", {
  for (name in c("plain", "compact", "projected")) {
    style <- house(name)
    expect_identical(style$name, name)
    scene <- scene_of(
      facets(scatter, across = hydration),
      width = style$page$width_mm[["double"]],
      house = name
    )
    expect_identical(max(scene$texts$size_pt[scene$texts$role == "tick"]), style$type_pt$base)
    expect_identical(
      scene_faults(scene, style$type_pt$least),
      NULL,
      label = paste("what is wrong with", name)
    )
    expect_equal(unique(scene$rules$weight_pt[scene$rules$role == "axis"]), style$weight_pt$axis)
  }
})

test_that("a file changes a style it names, down to single values", {
  folder <- folder_with(
    list(
      "journal.yaml" = c(
        "from: compact", "type_pt: {base: 6.5}", "numbers: {decimal_mark: ','}",
        "page: {width_mm: {single: 88}}"
      ),
      "later.yaml" = c("from: journal.yaml", "letters: {case: upper, bracket: round}")
    )
  )
  journal <- house(file.path(folder, "journal.yaml"))
  expect_identical(journal$type_pt$base, 6.5)
  expect_identical(journal$type_pt$heading, house("compact")$type_pt$heading)
  expect_identical(journal$name, "journal")
  expect_identical(journal$page$width_mm[["single"]], 88)
  expect_identical(journal$page$width_mm[["double"]], 178)
  later <- house(file.path(folder, "later.yaml"))
  expect_identical(later$type_pt$base, 6.5)
  letters <- function(scene) scene$texts$string[scene$texts$role == "letter"]
  expect_identical(
    letters(scene_of(beside(scatter, scatter), width = 120, height = 60, house = later)),
    c("(A)", "(B)")
  )
})

test_that("numbers are written as the house says, everywhere", {
  table <- data.frame(x = c(-0.5, 0.5, 1), y = c(12000, 15000, 18000))
  by <- function(...) {
    scene <- scene_of(
      panel(table, x = x, y = y, ink_points(), ink_fit(equation = TRUE)),
      width = 100,
      height = 70,
      house = house(numbers = list(...))
    )
    scene$texts$string
  }
  plain <- by()
  expect_true(any(grepl("^\u22120\\.[0-9]+$", plain)) && any(grepl("^1[0-9]\u2009000$", plain)))
  comma <- by(decimal_mark = ",", thin_space = FALSE, true_minus = FALSE)
  expect_true(any(grepl("^-0,[0-9]+$", comma)) && any(grepl("^1[0-9]000$", comma)))
  expect_false(any(grepl("[0-9]\\.[0-9]", comma)))
  expect_true(any(grepl("^\u2212\\.[0-9]+$", by(leading_zero = FALSE))))
})

test_that("ticks, axis lines, grid lines, colours, symbols and ramps are the house's", {
  own <- house(
    ticks = list(side = "in"),
    grid = "y",
    axis_lines = FALSE,
    palette = c("#112233", "#445566", "#778899", "#AABBCC"),
    symbols = c("square", "disc", "ring", "wedge"),
    ramps = list(sequential = c("#FFFFFF", "#000000"))
  )
  scene <- scene_of(
    panel(loaves, x = rise, y = volume, colour = flour, shape = flour, ink_points()),
    width = 100,
    height = 70,
    house = own
  )
  expect_setequal(scene$keys$colour, own$palette)
  expect_identical(scene$keys$shape, own$symbols)
  expect_false("axis" %in% scene$rules$role)
  tick <- scene$rules[scene$rules$role == "tick", ]
  expect_true(
    all(
      pmin(tick$y0, tick$y1) < max(scene$panels$y + scene$panels$h) + 1e-9 &
        pmax(tick$y0, tick$y1) < max(scene$panels$y + scene$panels$h) + 1e-9
    )
  )
  expect_true("grid" %in% vapply(scene$marks, `[[`, "", "ink"))
  ramp <- scene_of(
    panel(loaves, x = rise, y = volume, colour = moisture, ink_points()),
    width = 100,
    height = 70,
    house = own
  )
  points <- Find(function(layer) layer$primitive == "points", ramp$marks)$table
  grey <- grDevices::col2rgb(points$colour)
  expect_true(all(abs(grey[1, ] - grey[2, ]) <= 2))
})

test_that("a house is set for a session, a folder of figure files, a plate, a panel", {
  withr::defer(set_house(NULL))
  before <- set_house("compact")
  expect_identical(before$name, "plain")
  expect_identical(plate(scatter)$house$name, "compact")
  expect_identical(plate(scatter, house = "projected")$house$name, "projected")
  set_house(NULL)
  expect_identical(plate(scatter)$house$name, "plain")
  folder <- folder_with(
    list(
      "nelvat.yaml" = c("from: compact", "name: ours"),
      "a.csv" = c("f,v", "p,1", "q,2"),
      "fig.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {panel: {data: a, x: f, y: v, ink: bars}}}",
        "plate: {place: b, width: 80, height: 60}", "save: fig.pdf"
      ),
      "own.yaml" = c(
        "nelvat: 1", "data: {a: a.csv}",
        "blocks: {b: {panel: {data: a, x: f, y: v, ink: points, house: {}}}}",
        "plate: {place: b, width: 80, height: 60, house: {type_pt: {base: 9}}}", "save: own.pdf"
      )
    )
  )
  expect_identical(read_figure(file.path(folder, "fig.yaml"))$plate$house$name, "ours")
  writeLines(
    sub(", house: \\{\\}\\}", "}", readLines(file.path(folder, "own.yaml"))),
    file.path(folder, "own.yaml")
  )
  own <- read_figure(file.path(folder, "own.yaml"))$plate$house
  expect_identical(c(own$name, own$type_pt$base), c("ours", "9"))
  thick <- panel(
    loaves,
    x = rise,
    y = volume,
    house = house(points = list(size_mm = 1.8)),
    ink_points()
  )
  sizes <- vapply(
    Filter(
      function(layer) layer$primitive == "points",
      scene_of(beside(thick, scatter), width = 120, height = 60)$marks
    ),
    function(layer) layer$table$size_mm[1],
    0
  )
  expect_identical(sizes, c(1.8, 1.5))
})

test_that("what a house cannot be is an error that says what it can", {
  expect_snapshot(house("compat"), error = TRUE)
  expect_snapshot(house(type_pt = list(bsae = 8)), error = TRUE)
  expect_snapshot(house(type_pt = list(base = "large")), error = TRUE)
  expect_snapshot(house(ticks = list(side = "both")), error = TRUE)
  expect_snapshot(house(palette = c("#12", "red")), error = TRUE)
  expect_snapshot(house(axis_lines = "no"), error = TRUE)
  expect_snapshot(print(house()))
})

test_that("levels look the same in all figures of a project, also those of a subset", {
  folder <- folder_with(
    list(
      "a.csv" = c("f,v", "p,1", "q,2", "r,3"),
      "a.codebook.yaml" = c(
        "fields:", "  - {name: f, type: string, categories: [p, q, r]}",
        "  - {name: v, type: number}"
      ),
      "one.yaml" = c(
        "nelvat: 1", "data: {a: {file: a.csv, codebook: a.codebook.yaml}}",
        "blocks: {b: {panel: {data: a, x: v, y: v, colour: f, shape: f, ink: points}}}",
        "plate: {place: b, width: 80, height: 60}"
      ),
      "two.yaml" = c(
        "nelvat: 1", "data: {a: {file: a.csv, codebook: a.codebook.yaml}}",
        "blocks: {b: {panel: {data: a, x: v, y: v, colour: f, shape: f, keep: f != 'p',",
        "    ink: points}}}",
        "plate: {place: b, width: 80, height: 60}"
      )
    )
  )
  found <- keys(folder)
  expect_identical(found$level, c("p", "q", "r", "q", "r"))
  expect_true(all(found$same))
  expect_identical(found$colour[found$level == "r"][1], house_colours(3)[3])
  expect_error(keys(file.path(folder, "nowhere")), class = "nelvat_error_file")
})
