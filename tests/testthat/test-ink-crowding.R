loaves <- study("loaves")
layer_of <- function(fig, primitive) {
  Find(function(layer) layer$primitive == primitive, as_scene(fig)$marks)
}

test_that("symbols whose size shows a quantity cover at most about a fifth of their panel", {
  set.seed(8)
  for (n in c(30, 300, 3000)) {
    table <- data.frame(x = rnorm(n), y = rnorm(n), size = runif(n, 2, 9))
    scene <- as_scene(
      plate(panel(table, x = x, y = y, size = size, ink_points()), width = 86, height = 70)
    )
    marks <- Find(function(layer) layer$primitive == "points", scene$marks)$table
    share <- sum(pi / 4 * marks$size_mm^2) / (scene$panels$w * scene$panels$h)
    if (n < 1000) expect_lt(share, 0.25)
    # One area for one value: the ratio of areas is that of the values.
    expect_equal(sort(marks$size_mm^2 / max(marks$size_mm^2)), sort(table$size / max(table$size)))
    expect_lt(unique(marks$opacity), 1)
    shown <- as.numeric(scene$keys$label)
    expect_true(all(shown >= min(table$size) & shown <= max(table$size)))
    expect_gt(length(shown), 1)
    expect_lte(length(shown), 4)
  }
  forbidding <- house(limits = list(transparency = FALSE))
  solid <- layer_of(
    plate(panel(loaves, x = rise, y = volume, size = ph, ink_points()), house = forbidding),
    "points"
  )
  expect_identical(unique(solid$table$opacity), 1)
})

test_that(
  "opaque points that lie over each other have a hair edge of the paper's colour; others have none",
  {
    apart <- data.frame(x = 1:10, y = 1:10)
    over <- rbind(apart, apart + 0.01)
    edge <- function(table, ...) {
      layer_of(
        plate(panel(table, x = x, y = y, ink_points(...)), width = 86, height = 80),
        "points"
      )$table$edge
    }
    expect_null(edge(apart))
    expect_identical(unique(edge(over)), "#FFFFFF")
    expect_null(edge(over, opacity = 0.5))
    expect_null(edge(over, size = 0.4))
    svg <- withr::local_tempfile(fileext = ".svg")
    save_plate(plate(panel(over, x = x, y = y, ink_points()), width = 86, height = 80), svg)
    expect_gte(sum(grepl("<circle", readLines(svg))), 20)
  }
)

test_that("keys have symbols of the size and lines of the weight that are drawn", {
  sized <- function(fig) as_scene(fig)$keys
  many <- data.frame(x = rnorm(3000), y = rnorm(3000), g = rep(c("a", "b"), 1500))
  few <- many[1:10, ]
  of <- function(table) {
    sized(
      plate(panel(table, x = x, y = y, colour = g, ink_points()), width = 86, height = 80)
    )$size_mm[1]
  }
  expect_lt(of(many), of(few))
  lines <- sized(
    plate(panel(few, x = x, y = y, colour = g, ink_line(weight = 2)), width = 86, height = 80)
  )
  expect_identical(unique(lines$weight_pt), 2)
})

test_that("steps of counts are round numbers that reach the greatest, no more than are asked", {
  for (most in c(1, 4, 6, 7, 12, 29, 30, 31, 99, 100, 254, 2240, 99999, 1e6)) {
    for (steps in c(2, 4, 6, 12)) {
      edges <- nelvat:::count_edges(c(1, most), steps)
      expect_identical(edges[1], 1)
      expect_gt(edges[length(edges)], most)
      expect_lte(length(edges) - 1, steps)
      # 1, 2, 3 or 5 times a power of ten, or even steps of such.
      leading <- edges / 10^floor(log10(edges) + 1e-9)
      even <- length(unique(round(diff(edges[-1]), 6))) <= 1
      expect_true(
        even || all(round(leading, 6) %in% c(1, 2, 3, 5)),
        label = paste(edges, collapse = " ")
      )
    }
  }
})

test_that("blocks that count the same in like cells have one scale and one key, others their own", {
  set.seed(5)
  table <- data.frame(
    x = rnorm(900),
    y = rnorm(900),
    z = rexp(900),
    part = rep(c("few", "many", "many"), 300)
  )
  cells <- function(what, ...) {
    panel(table, x = x, y = y, keep = part == !!what, ink_hexagons(bins = 12))
  }
  scene <- as_scene(
    plate(cells("few"), cells("many"), panel(table, x = x, y = z, ink_bins(bins = 8)))
  )
  layers <- Filter(function(layer) layer$ink %in% c("hexagons", "bins"), scene$marks)
  hexagons <- Filter(function(layer) layer$ink == "hexagons", layers)
  # One scale: the greatest count of the fuller block is darker than any of the emptier one or the
  # same.
  expect_true(all(hexagons[[1]]$table$fill %in% hexagons[[2]]$table$fill))
  titles <- scene$texts[scene$texts$role == "key title", ]
  expect_identical(sum(titles$string == "Count"), 2L)
})

test_that(
  "heat tiles stand on numbers and moments: half way to their neighbours, a missing one left empty",
  {
    grid <- expand.grid(day = as.Date("2025-03-01") + 0:20, hour = 0:23)
    grid$mass <- grid$hour + as.numeric(grid$day - grid$day[1])
    grid <- grid[grid$day != as.Date("2025-03-09"), ]
    scene <- as_scene(
      plate(panel(grid, x = day, y = hour, colour = mass, ink_tiles()), width = 86, height = 70)
    )
    tiles <- Find(function(layer) layer$primitive == "rects", scene$marks)$table
    expect_identical(nrow(tiles), nrow(grid))
    # 21 days fill the panel from end to end, so a tile is a 21st of it.
    expect_equal(unique(round(tiles$x1 - tiles$x0, 3)), round(1.008 / 21, 3))
    expect_equal(range(c(tiles$x0, tiles$x1)), c(0, 1), tolerance = 1e-3)
    middle <- 8.5 / 21
    expect_false(any(tiles$x0 < middle - 0.001 & tiles$x1 > middle + 0.001))
    doses <- expand.grid(dose = c(0.1, 1, 10, 100), flour = c("Wheat", "Rye"))
    doses$rise <- 1:8
    logged <- Find(
      function(layer) layer$primitive == "rects",
      as_scene(
        plate(
          panel(doses, x = log10(dose), y = flour, colour = rise, ink_tiles()),
          width = 86,
          height = 60
        )
      )$marks
    )$table
    expect_equal(unique(round(logged$x1 - logged$x0, 6)), round(0.25 * 1.008, 6))
    expect_error(
      as_scene(plate(panel(rbind(grid, grid[1, ]), x = day, y = hour, colour = mass, ink_tiles()))),
      "2025-03-01 and 0",
      class = "nelvat_error_data"
    )
  }
)

test_that("boxes are filled with the paper's colour or a pale one of their own", {
  fills <- function(...) {
    unique(
      layer_of(
        plate(panel(loaves, x = flour, y = rise, colour = flour, ink_box(...))),
        "areas"
      )$table$fill
    )
  }
  expect_identical(fills(), "#FFFFFF")
  light <- fills(fill = "light")
  expect_length(light, 4)
  expect_true(all(farver::decode_colour(light, to = "oklch")[, "l"] > 0.8))
  expect_error(
    ink_box(fill = "heavy"),
    "\"paper\" or \"light\"|paper.*light",
    class = "nelvat_error_argument"
  )
})

test_that("what is below zero is no area, and zero is seen", {
  table <- data.frame(a = 1:4, b = 1:4, z = c(-2, 0, 0.5, 8))
  expect_error(
    as_scene(plate(panel(table, x = a, y = b, size = z, ink_points()))),
    "1 value is below zero (\u22122)",
    class = "nelvat_error_argument",
    fixed = TRUE
  )
  table$z[1] <- 2
  drawn <- as_scene(plate(panel(table, x = a, y = b, size = z, ink_points())))$marks[[1]]$table
  diameters <- drawn$size_mm[order(drawn$x)]
  expect_equal(diameters[c(1, 3)] / diameters[4], sqrt(c(2, 0.5) / 8))
  expect_equal(diameters[2], 0.25)
})

test_that("labels that may not move stand beside their points, all of them", {
  table <- data.frame(
    x = c(1, 1, 1.01, 5),
    y = c(1, 1.001, 1, 2),
    id = c("p", "q", "r", "at the end")
  )
  scene <- as_scene(
    plate(
      panel(table, x = x, y = y, ink_points(), ink_labels(id, move = FALSE)),
      width = 86,
      height = 60
    )
  )
  texts <- scene$texts[match(table$id, scene$texts$string), ]
  points <- Find(function(one) one$primitive == "points", scene$marks)$table
  x_mm <- scene$panels$x + points$x * scene$panels$w
  expect_equal(texts$x0[1:3] - x_mm[1:3], rep(1.1, 3), tolerance = 1e-3)
  expect_lt(texts$x1[4], x_mm[4])
  expect_identical(sum(scene$texts$role == "point label"), 4L)
})

test_that("labels go to the first by rank, or to those of a condition", {
  aromas <- study("aromas")
  of <- function(...) {
    scene <- as_scene(
      plate(
        panel(aromas, x = change, y = -log10(p), ink_points(), ink_labels(compound, ...)),
        width = 120,
        height = 100
      )
    )
    scene$texts$string[scene$texts$role == "point label"]
  }
  data <- aromas$data
  first <- data$compound[order(-abs(data$change))][1:7]
  expect_setequal(of(rank = abs(change), most = 7), first)
  strong <- data$compound[data$p < 1e-6]
  expect_setequal(of(where = p < 1e-6), strong)
  expect_error(
    panel(aromas, x = change, y = p, ink_labels(compound, most = 3)),
    "needs `rank`",
    class = "nelvat_error_argument"
  )
})

test_that("counts in corners that have no room are not written, and nothing else is", {
  d <- data.frame(a = 1:20, b = c(1:19, 200))
  # A rule at the edge of the axis leaves no room beyond it.
  scene <- as_scene(
    plate(
      panel(
        d,
        x = a,
        y = b,
        y_axis = axis_of(range = c(0, 199.9)),
        ink_points(),
        ink_rule(y = 199.8, count = TRUE)
      ),
      width = 60,
      height = 50
    )
  )
  expect_false(any(scene$texts$role == "value"))
})
