# The colour and shape of each level's marks, from the marks alone: by the values of x.
looks_drawn <- function(scene, k) {
  panel <- scene$panels[k, ]
  points <- do.call(
    rbind,
    lapply(
      Filter(function(layer) layer$primitive == "points", scene$marks),
      function(layer) layer$table[layer$table$panel == panel$id, c("x", "colour", "shape")]
    )
  )
  axis <- scene$axes[[panel$x_axis]]
  value <- round(axis$range[1] + points$x * diff(axis$range))
  stats::setNames(paste(points$colour, points$shape), value)[order(value)]
}
in_key <- function(scene, level) with(scene$keys[scene$keys$label == level, ], paste(colour, shape))

mouse <- function(levels, order = levels, ...) {
  codebook(
    data.frame(x = match(levels, c("rat", "mouse", "vole")), y = 1, species = levels),
    species = category("Species", order = order, ...)
  )
}
dots <- function(book) panel(book, x = x, y = y, colour = species, shape = species, ink_points())

test_that("a level has one look on the plate, whatever its place in its own table", {
  first <- mouse(c("rat", "mouse", "vole"))
  for (second in list(
    mouse(c("rat", "mouse", "vole"), c("vole", "rat", "mouse")),
    mouse(c("vole", "mouse")),
    mouse("vole")
  )) {
    scene <- as_scene(plate(beside(dots(first), dots(second)), width = 160, height = 60))
    one <- looks_drawn(scene, 1)
    two <- looks_drawn(scene, 2)
    expect_identical(unname(two), unname(one[names(two)]))
    for (i in 1:3) {
      expect_identical(in_key(scene, c("rat", "mouse", "vole")[i]), one[[as.character(i)]])
    }
    expect_false(anyNA(scene$keys$label))
    expect_identical(nrow(scene$keys), 3L)
  }
})

test_that("colours that one codebook gives hold for all panels and stand in the key", {
  first <- mouse(c("rat", "mouse", "vole"))
  second <- mouse("mouse", colours = c(mouse = "#112233"))
  for (place in list(beside(dots(first), dots(second)), beside(dots(second), dots(first)))) {
    scene <- as_scene(plate(place, width = 160, height = 60))
    expect_match(in_key(scene, "mouse"), "#112233")
    drawn <- unlist(lapply(1:2, function(k) unname(looks_drawn(scene, k))))
    expect_setequal(
      drawn,
      vapply(c("rat", "mouse", "vole"), function(level) in_key(scene, level), "")
    )
    expect_length(unique(scene$keys$colour), 3)
  }
})

test_that("tables that contradict each other are an error that names both", {
  first <- mouse(c("rat", "mouse"), colours = c(rat = "#AA0000", mouse = "#0000AA"))
  second <- mouse(c("rat", "mouse"), colours = c(rat = "#00AA00", mouse = "#0000AA"))
  expect_error(
    as_scene(plate(dots(first), dots(second))),
    "colour of level \"rat\" is \"#AA0000\".*\"#00AA00\"",
    class = "nelvat_error_level"
  )
  named <- mouse(c("rat", "mouse"), names = c(rat = "Rattus", mouse = "Mus"))
  expect_error(
    as_scene(plate(dots(mouse(c("rat", "mouse"))), dots(named))),
    "name of level \"rat\"",
    class = "nelvat_error_level"
  )
})

test_that("columns of one name that are titled unlike have two keys", {
  treatment <- codebook(
    data.frame(x = 1:2, y = 1, species = c("control", "salt")),
    species = category("Treatment")
  )
  scene <- as_scene(
    plate(beside(dots(mouse(c("rat", "mouse"))), dots(treatment)), width = 170, height = 70)
  )
  expect_length(unique(scene$keys$key), 2)
  expect_setequal(scene$texts$string[scene$texts$role == "key title"], c("Species", "Treatment"))
  expect_setequal(scene$keys$label, c("rat", "mouse", "control", "salt"))
})

test_that("a key shows only what some mark shows", {
  loaves <- study("loaves")
  hexes <- as_scene(
    plate(
      panel(study("pores"), x = log10(area), y = roundness, ink_hexagons()),
      width = 90,
      height = 70
    )
  )
  expect_false(any(hexes$keys$key == "flour"))
  points <- suppressWarnings(
    as_scene(
      plate(
        panel(loaves, x = rise, y = volume, dash = flour, ink_points()),
        width = 90,
        height = 70
      )
    )
  )
  expect_false(any(points$keys$key == "flour"))
  lines <- suppressWarnings(
    as_scene(
      plate(
        panel(loaves, x = rise, y = volume, colour = flour, size = acidity, ink_line()),
        width = 90,
        height = 70
      )
    )
  )
  expect_setequal(unique(lines$keys$key), "flour")
})

test_that("one column on size and colour has one key that shows both", {
  scene <- suppressWarnings(
    as_scene(
      plate(
        panel(
          study("loaves"),
          x = rise,
          y = volume,
          colour = acidity,
          size = acidity,
          ink_points()
        ),
        width = 90,
        height = 80
      )
    )
  )
  expect_length(unique(scene$keys$key), 1)
  expect_length(unique(scene$keys$colour), nrow(scene$keys))
  expect_false(is.unsorted(scene$keys$size_mm))
})

test_that("looks with wrong fields are not made", {
  good <- list(id = "f", title = "F", levels = c("a", "b"), labels = c("A", "B"))
  expect_s3_class(do.call(nelvat:::new_look, good), "nelvat_look")
  expect_error(
    do.call(nelvat:::new_look, c(good, list(colour = "#000000"))),
    "colour",
    class = "nelvat_error_record"
  )
  expect_error(
    do.call(nelvat:::new_look, utils::modifyList(good, list(levels = c("a", "a")))),
    "levels",
    class = "nelvat_error_record"
  )
})

test_that("two categories take unlike colours while the set has room; equal levels take the same", {
  loaves <- study("loaves")
  colours_of <- function(...) {
    keys <- as_scene(plate(..., width = "double", height = 60))$keys
    split(keys$colour, keys$key)
  }
  by <- function(colour) {
    rlang::inject(
      panel(loaves, x = rise, y = volume, colour = !!rlang::ensym(colour), ink_points())
    )
  }
  both <- suppressWarnings(colours_of(by(flour), by(bakery)))
  expect_length(intersect(both$flour, both$bakery), 0)
  expect_identical(both$flour, colours_of(by(flour))$flour)
  renamed <- codebook(
    data.frame(grain = loaves$data$flour, rise = loaves$data$rise, volume = loaves$data$volume)
  )
  renamed <- codebook(renamed, grain = category(order = loaves$columns$flour$levels))
  alike <- colours_of(
    by(flour),
    panel(renamed, x = rise, y = volume, colour = grain, ink_points())
  )
  expect_identical(unname(alike$grain), unname(alike$flour))
  many <- data.frame(x = 1:8, y = 1:8, a = letters[1:8], b = LETTERS[1:8])
  crowded <- colours_of(
    panel(many, x = x, y = y, colour = a, ink_points()),
    panel(many, x = x, y = y, colour = b, ink_points())
  )
  expect_identical(unname(crowded$a), unname(crowded$b))
})

test_that(
  "three or more colours of points are repeated by shape, where nothing else is said of shapes",
  {
    loaves <- study("loaves")
    shapes <- function(...) {
      scene <- suppressWarnings(
        as_scene(plate(panel(loaves, x = rise, y = volume, ...), width = 86, height = 70))
      )
      points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
      list(marks = unique(points$shape), keys = unique(scene$keys$shape))
    }
    echoed <- shapes(colour = flour, ink_points())
    expect_length(echoed$marks, 4)
    expect_setequal(echoed$keys, echoed$marks)
    expect_identical(shapes(colour = flour, ink_points(shape = "disc"))$marks, "disc")
    expect_identical(shapes(colour = verdict, ink_points())$marks, "disc")
    expect_identical(shapes(colour = hydration, ink_points())$marks, "disc")
    expect_identical(shapes(colour = flour, ink_points(size = 0.5))$marks, "disc")
    expect_length(shapes(colour = flour, shape = hydration, ink_points())$marks, 3)
  }
)

test_that(
  "a key shows the symbols that tell levels apart, though some mark of theirs is a filled shape",
  {
    three <- data.frame(x = 1:9, y = c(2, 4, 3, 6, 5, 8, 7, 9, 8), f = rep(c("p", "q", "r"), 3))
    keys <- as_scene(
      plate(
        joint(three, x = x, y = y, colour = f, marginal = ink_box(), ink_points()),
        width = 90,
        height = 90
      )
    )$keys
    expect_false(any(grepl("swatch", keys$glyph)))
    expect_true(all(grepl("symbol", keys$glyph)))
    expect_identical(anyDuplicated(keys$shape), 0L)
    # Where no symbol differs, a swatch is enough.
    plain <- as_scene(
      plate(
        panel(three, x = x, colour = f, ink_histogram(arrange = "stack")),
        width = 120,
        height = 60
      )
    )$keys
    expect_identical(unique(plain$glyph), "swatch")
  }
)

test_that("coloured words alone have a key, and none of their own beside marks", {
  set.seed(2)
  two <- data.frame(x = rnorm(20), y = rnorm(20), f = rep(c("p", "q"), 10), t = letters[1:20])
  glyphs <- function(...) {
    unique(
      suppressWarnings(
        as_scene(plate(panel(two, x = x, y = y, colour = f, ...), width = 90, height = 80))
      )$keys$glyph
    )
  }
  expect_identical(glyphs(ink_value()), "swatch")
  expect_identical(glyphs(ink_labels(t)), "swatch")
  expect_identical(glyphs(ink_points(), ink_labels(t)), "symbol")
  expect_identical(glyphs(ink_value(), ink_points()), "symbol")
})
