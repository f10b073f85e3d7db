loaves <- study("loaves")
bars <- panel(loaves, x = flour, y = rise, ink_bars())
boxes <- panel(loaves, x = flour, y = volume, ink_box())
dots <- panel(loaves, x = hydration, y = ph, ink_dots())
scatter <- panel(loaves, x = rise, y = volume, colour = flour, ink_points())
scene_of <- function(...) suppressWarnings(as_scene(plate(...)))
of_block <- function(scene, i) {
  scene$panels[scene$panels$block == paste0("block", i) & scene$panels$role != "marginal", ]
}
ends <- function(panels) {
  c(
    left = min(panels$x),
    right = max(panels$x + panels$w),
    top = min(panels$y),
    bottom = max(panels$y + panels$h)
  )
}

test_that("plot areas of neighbours share their edges whatever stands around them", {
  scene <- scene_of(
    beside(
      bars,
      stacked(facets(scatter, across = hydration), joint(loaves, x = rise, y = firmness))
    ),
    width = 178,
    height = 120
  )
  a <- ends(of_block(scene, 1))
  b <- ends(of_block(scene, 2))
  c <- ends(of_block(scene, 3))
  expect_equal(a[["top"]], b[["top"]], tolerance = 1e-6)
  expect_equal(a[["bottom"]], c[["bottom"]], tolerance = 1e-6)
  expect_equal(b[["left"]], c[["left"]], tolerance = 1e-6)
  expect_equal(b[["right"]], c[["right"]], tolerance = 1e-6)
  expect_identical(scene_faults(scene), NULL)
})

test_that("cells of a table, merged, make the same figure as nested placements", {
  nested <- scene_of(beside(bars, stacked(boxes, dots), widths = c(2, 1)), width = 178, height = 90)
  table <- scene_of(
    at(bars, 1:2, 1),
    at(boxes, 1, 2),
    at(dots, 2, 2),
    widths = c(2, 1),
    width = 178,
    height = 90
  )
  expect_equal(
    table$panels[c("x", "y", "w", "h")],
    nested$panels[c("x", "y", "w", "h")],
    tolerance = 1e-9
  )
})

test_that("places that part at the same cut are aligned however they are nested", {
  scene <- scene_of(
    beside(stacked(bars, boxes), stacked(dots, bars, boxes, dots)),
    width = 178,
    height = 200
  )
  expect_equal(
    ends(of_block(scene, 1))[["bottom"]],
    ends(of_block(scene, 4))[["bottom"]],
    tolerance = 1e-6
  )
  expect_equal(
    ends(of_block(scene, 2))[["top"]],
    ends(of_block(scene, 5))[["top"]],
    tolerance = 1e-6
  )
})

test_that("weights, millimetres and natural sizes are kept", {
  scene <- scene_of(beside(bars, boxes, dots, widths = c(mm(40), 2, 1)), width = 178, height = 60)
  wide <- scene$panels$w
  expect_equal(wide[1], 40)
  expect_equal(wide[2] / wide[3], 2)
  heat <- panel(correlations(loaves), x = first, y = second, colour = r, ink_tiles())
  natural <- scene_of(beside(bars, heat, widths = c(1, natural())), width = 178, height = 80)
  expect_equal(natural$panels$w[2], 7 * 5)
  rows <- scene_of(stacked(bars, boxes, heights = c(1, mm(30))), width = 100, height = 110)
  expect_equal(rows$panels$h[2], 30)
})

# How far the name of each panel's axis stands off the tick text of that panel.
title_distances <- function(scene) {
  texts <- scene$texts
  unlist(
    lapply(unique(scene$panels$block), function(block) {
      ids <- scene$panels$id[scene$panels$block == block]
      own <- scene$panels[scene$panels$id %in% ids, ]
      ticks <- texts[texts$role == "tick" & texts$panel %in% ids, ]
      below <- ticks[ticks$y0 > max(own$y + own$h) - 0.01, ]
      inside <- function(title) {
        title$centre_x > min(own$x) & title$centre_x < max(own$x + own$w) &
          title$y0 > max(own$y + own$h) & title$y0 < max(own$y + own$h) + 40
      }
      titles <- texts[texts$role == "axis title" & texts$angle == 0, ]
      titles <- titles[vapply(seq_len(nrow(titles)), function(i) inside(titles[i, ]), NA), ]
      if (nrow(titles) && nrow(below)) min(titles$y0) - max(below$y1)
    })
  )
}

test_that("names of axes stand by their tick text, in line with neighbours where that is near", {
  scene <- scene_of(
    beside(bars, panel(loaves, x = bakery, y = acidity, ink_box())),
    width = 120,
    height = 70
  )
  expect_true(all(title_distances(scene) > 0.9 & title_distances(scene) < 1.4 + 1.6))
  near <- scene_of(
    beside(
      panel(loaves, x = rise, y = acidity, ink_points()),
      panel(loaves, x = volume, y = ph, ink_points())
    ),
    width = 120,
    height = 70
  )
  titles <- near$texts[near$texts$role == "axis title" & near$texts$angle == 0, ]
  expect_lt(diff(range(titles$y0)), 0.01)
  down <- scene_of(
    stacked(bars, panel(loaves, x = rise, y = verdict, ink_dots())),
    width = 86,
    height = 110
  )
  letters <- down$texts[down$texts$role == "letter", ]
  expect_identical(letters$string, c("a", "b"))
  expect_lt(diff(range(letters$x0)), 0.01)
  # A joint figure's neighbour begins at the top of the marginal.
  joined <- scene_of(
    beside(
      joint(loaves, x = rise, y = volume),
      panel(loaves, x = rise, y = firmness, ink_points())
    ),
    width = 178,
    height = 80
  )
  top <- joined$panels[joined$panels$side %in% "x", ]
  expect_lt(abs(joined$panels$y[joined$panels$block == "block2"] - top$y), 1.5)
  same <- scene_of(
    beside(
      joint(loaves, x = rise, y = volume),
      panel(loaves, x = firmness, y = volume, ink_points())
    ),
    width = 178,
    height = 80
  )
  host <- same$panels[same$panels$block == "block1" & same$panels$role == "panel", ]
  expect_equal(same$panels$y[same$panels$block == "block2"], host$y, tolerance = 1e-6)
})

test_that(
  "blocks of unlike margins keep their own where lining up would cost much, unless told otherwise",
  {
    long <- data.frame(
      f = c("a very long name of flour from far away", "another rather long name of a flour"),
      v = 1:2
    )
    design <- function(...) {
      plate(
        stacked(
          panel(long, y = f, x = v, ink_bars()),
          panel(loaves, x = rise, y = volume, ink_points())
        ),
        width = 86,
        height = 110,
        ...
      )
    }
    left <- function(fig) suppressWarnings(as_scene(fig))$panels$x
    expect_gt(diff(rev(left(design(align = "never")))), 5)
    expect_lt(abs(diff(left(design(align = "always")))), 0.01)
    expect_error(design(align = "sometimes"), class = "nelvat_error_argument")
  }
)

test_that("letters go by block, by panel, or as given, and stand clear of all else", {
  by <- function(letters) {
    scene <- scene_of(
      beside(facets(scatter, across = hydration), joint(loaves, x = rise, y = ph)),
      width = 178,
      height = 80,
      letters = letters
    )
    expect_identical(scene_faults(scene), NULL)
    scene$texts$string[scene$texts$role == "letter"]
  }
  expect_identical(by("block"), c("a", "b"))
  expect_identical(by("panel"), c("a", "b", "c", "d"))
  expect_identical(by(c("P", "Q")), c("P", "Q"))
  expect_identical(by("none"), character())
  expect_identical(scene_of(bars, width = 80, height = 60)$texts$role[1] == "letter", FALSE)
})

test_that("the letter of a headed block stands on the heading's line", {
  scene <- scene_of(
    facets(scatter, across = hydration),
    letters = "block",
    width = 178,
    height = 70
  )
  heading <- scene$texts[scene$texts$role == "heading", ][1, ]
  letter <- scene$texts[scene$texts$role == "letter", ]
  expect_equal(letter$y1, heading$y1, tolerance = 0.01)
  expect_lt(letter$x1, heading$x0)
})

test_that("neighbours that show one variable share its range and draw its tick text once", {
  down <- scene_of(
    stacked(scatter, panel(loaves, x = rise, y = ph, keep = rise > 50, ink_points())),
    width = 86,
    height = 110
  )
  x <- Filter(function(axis) axis$direction == "x", down$axes)
  expect_equal(x[[1]]$range, x[[2]]$range)
  expect_length(x[[1]]$drawn_at, 0)
  expect_identical(sum(down$texts$string == "Loaf rise (mm)"), 1L)
  apart <- scene_of(
    stacked(scatter, panel(loaves, x = rise, y = ph, keep = rise > 50, ink_points())),
    width = 86,
    height = 110,
    share = FALSE
  )
  x <- Filter(function(axis) axis$direction == "x", apart$axes)
  expect_false(isTRUE(all.equal(x[[1]]$range, x[[2]]$range)))
  expect_identical(sum(apart$texts$string == "Loaf rise (mm)"), 2L)
  # Not aligned, so not shared, unless it is asked for.
  unlike <- function(share) {
    scene <- scene_of(
      at(panel(loaves, x = rise, y = ph, keep = rise > 50, ink_points()), 1, 1:2),
      at(scatter, 2, 1),
      at(dots, 2, 2),
      width = 120,
      height = 110,
      share = share
    )
    lapply(Filter(function(axis) axis$variable == "rise", scene$axes), `[[`, "range")
  }
  expect_false(identical(unlike(TRUE)[[1]], unlike(TRUE)[[2]]))
  expect_equal(unlike(share_axis("rise"))[[1]], unlike(share_axis("rise"))[[2]])
})

test_that("values of a tenth of their shared range give a note", {
  nelvat:::forget_said()
  small <- data.frame(x = 1:5, y = 1:5 / 100)
  large <- data.frame(x = 1:5, y = 1:5)
  expect_warning(
    scene <- as_scene(
      plate(
        beside(panel(small, x = x, y = y, ink_points()), panel(large, x = x, y = y, ink_points())),
        width = 120,
        height = 50
      )
    ),
    "less than a tenth"
  )
  expect_length(scene$notes, 1)
})

test_that("keys stand where they are asked to, each once", {
  two <- beside(scatter, panel(loaves, x = verdict, y = ph, colour = hydration, ink_box()))
  where <- function(...) {
    scene <- scene_of(..., width = 178, height = 80)
    expect_identical(scene_faults(scene), NULL)
    expect_identical(sum(scene$texts$role == "key title"), 2L)
    scene
  }
  top <- where(two)
  expect_lt(max(top$keys$y), min(top$panels$y))
  bottom <- where(two, key = "bottom")
  expect_gt(min(bottom$keys$y), max(bottom$panels$y + bottom$panels$h))
  right <- where(two, key = "right")
  expect_gt(min(right$keys$x), max(right$panels$x + right$panels$w))
  own <- where(two, key = "block")
  starts <- vapply(split(own$keys$x, own$keys$key), min, 0)
  expect_gt(starts[["hydration"]], own$panels$x[2] - 0.01)
  cell <- where(
    scatter,
    panel(loaves, x = verdict, y = ph, colour = hydration, ink_box()),
    key_place(),
    per_row = 3
  )
  expect_gt(min(cell$keys$x), max(cell$panels$x + cell$panels$w))
  none <- scene_of(two, key = "none", width = 178, height = 80)
  expect_identical(none$keys, NULL)
  inside <- scene_of(scatter, key = "inside", width = 100, height = 80)
  expect_gt(min(inside$keys$x), inside$panels$x)
  points <- Find(function(layer) layer$primitive == "points", inside$marks)$table
  key_box <- with(inside$keys, c(min(x), max(x + w), min(y), max(y + h)))
  at_x <- inside$panels$x + points$x * inside$panels$w
  at_y <- inside$panels$y + (1 - points$y) * inside$panels$h
  expect_lt(sum(at_x > key_box[1] & at_x < key_box[2] & at_y > key_box[3] & at_y < key_box[4]), 3)
})

test_that("ramps of one variable have the same limits on a plate", {
  half <- function(keep) {
    rlang::inject(
      panel(loaves, x = rise, y = volume, colour = moisture, keep = !!keep, ink_points())
    )
  }
  scene <- scene_of(
    beside(half(quote(moisture < 38)), half(quote(moisture >= 38))),
    width = 178,
    height = 70
  )
  alone <- scene_of(half(quote(moisture < 38)), width = 100, height = 70)
  colours <- function(scene) Find(function(layer) layer$ink == "points", scene$marks)$table$colour
  expect_false(setequal(colours(scene), colours(alone)))
  expect_identical(sum(scene$texts$role == "key title"), 1L)
})

test_that("title and note wrap to the page, over and under all", {
  scene <- scene_of(
    beside(bars, boxes),
    title = paste(rep("A long title of many words", 8), collapse = " "),
    note = "A *note*.",
    width = 120,
    height = 80
  )
  title <- scene$texts[scene$texts$role == "plate title", ]
  note <- scene$texts[scene$texts$role == "plate note", ]
  expect_gt(title$lines, 1)
  expect_lt(title$y1, min(scene$panels$y))
  expect_gt(note$y0, max(scene$panels$y + scene$panels$h))
  expect_identical(scene_faults(scene), NULL)
})

test_that("a list of panels makes the plate that is written by hand", {
  columns <- c("rise", "volume", "ph")
  by_program <- scene_of(
    lapply(columns, function(column) panel(loaves, x = flour, y = .data[[column]], ink_bars())),
    per_row = 3,
    width = 178,
    height = 60
  )
  by_hand <- scene_of(
    panel(loaves, x = flour, y = rise, ink_bars()),
    panel(loaves, x = flour, y = volume, ink_bars()),
    panel(loaves, x = flour, y = ph, ink_bars()),
    per_row = 3,
    width = 178,
    height = 60
  )
  expect_identical(by_program, by_hand)
})

test_that("a block can stand on two plates, and a copy be changed without it", {
  ring <- change(scatter, ink = ink_points(shape = "ring"), y = firmness)
  expect_identical(ring$variables$y[[1]]$id, "firmness")
  expect_identical(scatter$variables$y[[1]]$id, "volume")
  expect_identical(ring$inks[[1]]$settings$shape, "ring")
  expect_length(change(scatter, ink = ink_fit())$inks, 2)
  grid <- facets(scatter, across = hydration)
  other <- change(grid, across = flour, x = acidity, y = ph)
  expect_identical(other$panel$variables$x$id, "acidity")
  expect_identical(other$across[[1]]$id, "flour")
  expect_identical(other$panel$variables$y[[1]]$id, "ph")
  wider <- change(plate(bars, width = "single"), width = "double", title = "Rise")
  expect_identical(wider$width_mm, 178)
  expect_identical(wider$title, "Rise")
  expect_snapshot(change(scatter, colur = hydration), error = TRUE)
  expect_snapshot(change(loaves), error = TRUE)
})

test_that("the same figure at another size is laid out again with the same type", {
  wide <- plate(beside(bars, boxes), width = "double", height = 70)
  small <- resize(wide, width = "single", height = 60)
  expect_identical(small$width_mm, 86)
  sizes <- function(fig) sort(unique(as_scene(fig)$texts$size_pt))
  expect_identical(max(sizes(small)), max(sizes(wide)))
  expect_identical(scene_faults(as_scene(small)), NULL)
  expect_error(
    as_scene(
      resize(
        plate(
          beside(a = bars, b = boxes, c = dots, d = bars, e = boxes, f = dots),
          width = "double",
          height = 60
        ),
        width = 80
      )
    ),
    class = "nelvat_error"
  )
  expect_error(
    as_scene(
      resize(
        plate(beside(scatter, scatter, scatter, scatter), width = "double", height = 60),
        width = 60
      )
    ),
    "mm of width are missing",
    class = "nelvat_error_space"
  )
})

test_that("what cannot be placed is an error with the numbers", {
  expect_snapshot(plate(at(bars, 1, 1:2), at(boxes, 1:2, 2), at(dots, 2, 1)), error = TRUE)
  expect_snapshot(plate(at(bars, 1, 1), at(boxes, 2, 2)), error = TRUE)
  expect_snapshot(plate(at(bars, 1, 1), boxes), error = TRUE)
  expect_snapshot(beside(bars, at(boxes, 1, 1)), error = TRUE)
  expect_snapshot(beside(bars, boxes, widths = c(1, 2, 3)), error = TRUE)
  expect_snapshot(plate(beside(bars, boxes), widht = 100), error = TRUE)
  expect_snapshot(plate(blank()), error = TRUE)
  expect_snapshot(mm(0), error = TRUE)
  expect_snapshot(plate(bars, key = "lef"), error = TRUE)
})

test_that("empty places stay empty", {
  scene <- scene_of(
    at(bars, 1, 1),
    at(blank(), 1, 2),
    at(boxes, 2, 1),
    at(dots, 2, 2),
    width = 120,
    height = 100
  )
  expect_identical(nrow(scene$panels), 3L)
  expect_identical(scene_faults(scene), NULL)
})

test_that("blocks and placements say what they are", {
  expect_snapshot({
    facets(scatter, across = hydration)
    joint(loaves, x = rise, y = ph)
    every_pair(loaves, c(rise, ph))
    zoom(of = "a", x = c(1, 2))
    beside(a = bars, stacked(boxes, blank()))
    at(bars, 1:2, 1)
  })
})

test_that("no panel vanishes, however placements are nested", {
  book <- function(name) {
    panel(
      stats::setNames(data.frame(1:3, 3:1), c(name, "y")),
      x = .data[[name]],
      y = y,
      ink_points()
    )
  }
  p <- lapply(stats::setNames(nm = letters[1:6]), book)
  shown <- function(fig) sort(unique(suppressWarnings(as_scene(fig))$panels$x_variable))
  expect_identical(shown(plate(p$a, beside(p$b, p$c))), c("a", "b", "c"))
  expect_identical(shown(plate(at(beside(p$b, p$c), 1, 1))), c("b", "c"))
  expect_identical(
    shown(plate(at(p$a, 1, 1), at(stacked(p$b, beside(p$c, p$d)), 1, 2))),
    letters[1:4]
  )
  expect_identical(
    shown(plate(stacked(p$a, beside(p$b, stacked(p$c, p$d))), beside(p$e, p$f))),
    letters[1:6]
  )
  expect_identical(
    shown(
      plate(beside(stacked(p$a, p$b), stacked(p$c, beside(p$d, p$e))), width = 178, height = 150)
    ),
    letters[1:5]
  )
  expect_error(at(at(p$a, 1, 1), 1, 1), "one place", class = "nelvat_error_argument")
  # Nested names reach zooms.
  named <- plate(first = p$a, beside(second = p$b, zoom(of = "second", x = c(1, 2), y = c(1, 2))))
  expect_identical(nrow(as_scene(named)$panels), 3L)
  # In files as well, at random.
  set.seed(5)
  for (case in 1:20) {
    left <- letters[1:6]
    place <- function(depth) {
      if (depth == 0 || runif(1) < 0.3 || length(left) < 3) {
        one <- left[1]
        left <<- left[-1]
        return(one)
      }
      word <- sample(c("beside", "stacked"), 1)
      parts <- Filter(Negate(is.na), c(place(depth - 1), if (length(left)) place(depth - 1)))
      paste0("{", word, ": [", paste(parts, collapse = ", "), "]}")
    }
    text <- place(3)
    wanted <- setdiff(letters[1:6], left)
    folder <- folder_with(
      list(
        a.csv = c("a,b,c,d,e,f,y", "1,1,1,1,1,1,1", "2,2,2,2,2,2,2"),
        f.yaml = c(
          "nelvat: 1",
          "data: {t: a.csv}",
          "blocks:",
          sprintf("  %s: {panel: {data: t, x: %s, y: y, ink: points}}", letters[1:6], letters[1:6]),
          paste0("plate: {width: 178, height: 220, place: [", text, "]}")
        )
      )
    )
    expect_identical(
      shown(read_figure(file.path(folder, "f.yaml"))$plate),
      sort(wanted),
      label = text
    )
  }
})
