# What is said beside the marks is what they are: findings, and what is read from them.

set.seed(4)
loaves <- data.frame(
  f = rep(c("b", "a", "c"), each = 20),
  g = rep(c("p", "q"), 30),
  v = round(rnorm(60, 20, 4), 1),
  w = round(rexp(60, 0.1) + 1, 1),
  id = rep(1:20, 3),
  ones = rep(0:1, 30)
)
small <- function(...) plate(..., width = 100, height = 80)
legend_of <- function(...) suppressWarnings(legend_text(small(...)))
statistics <- function(...) {
  table <- suppressWarnings(source_data(small(...)))[[1]]
  table[table$part != "values", ]
}

test_that("findings that cannot be are refused", {
  layer <- list(ink = ink_density(), table = data.frame(panel = c(1L, 1L)))
  check <- function(...) {
    findings <- nelvat:::new_findings(data.frame(panel = 1L), "density", ...)
    nelvat:::check_findings(list(findings = findings, used = c(TRUE, TRUE)), layer)
  }
  expect_silent(check(2L))
  expect_error(check(3L), "of 3 rows, it used 2", class = "nelvat_error_record")
  expect_error(check(0L), "no rows", class = "nelvat_error_record")
  expect_error(check(2L, centre = Inf), "infinite", class = "nelvat_error_record")
  expect_error(check(2L, hight = 3), "hight", class = "nelvat_error_record")
  # A mark that is not drawn is of none of the rows used.
  expect_error(check(2L, why = "one value"), "used 2", class = "nelvat_error_record")
})

test_that("distributions of one or of equal values are not drawn, not counted, and told", {
  table <- data.frame(f = c("a", "b", "b", "c", "c"), v = c(1, 2, 5, 3, 3))
  for (ink in list(ink_density(), ink_ridges())) {
    fig <- if (ink$ink == "density") {
      small(panel(table, x = v, colour = f, ink))
    } else {
      small(panel(table, x = v, y = f, ink))
    }
    legend <- suppressWarnings(legend_text(fig))
    expect_match(legend, "n = 2\\b")
    expect_match(legend, "3 values of v are too few for")
    told <- suppressWarnings(source_data(fig))[[1]]
    expect_identical(sum(told$part == "values"), 2L)
    undrawn <- told[!is.na(told[["not drawn"]]), ]
    expect_setequal(undrawn[["not drawn"]], c("one value", "all values equal"))
    expect_setequal(undrawn$f, c("a", "c"))
  }
  alone <- legend_of(panel(table, x = f, y = v, ink_violin(quartiles = FALSE)))
  expect_match(alone, "n = 2 a shape")
  with_quartiles <- statistics(panel(table, x = f, y = v, ink_violin()))
  expect_identical(with_quartiles$n[match(c("a", "b", "c"), with_quartiles$f)], c(1L, 2L, 2L))
})

test_that("a column that is called as a number of ours keeps its place beside it", {
  table <- data.frame(
    n = c(1.5, 2, 4, 3),
    part = c("k", "k", "l", "l"),
    p = 1:4,
    width = c(2, 4, 3, 1)
  )
  bars <- suppressWarnings(source_data(small(panel(table, x = part, y = n, ink_bars()))))[[1]]
  expect_identical(bars[["n (column)"]][1:4], table$n)
  expect_identical(bars$n[5:6], c(2L, 2L))
  expect_identical(bars[["part (column)"]], c(table$part, "k", "l"))
  points <- source_data(small(panel(table, x = n, y = width, ink_points())))[[1]]
  expect_named(points, c("part", "n", "width"))
})

test_that("source data names the panels of a grid, and has margins and cells", {
  grid <- facets(panel(loaves, x = v, y = w, ink_points()), across = f, down = g)
  expect_setequal(
    names(source_data(plate(grid))),
    paste(rep(c("b", "a", "c"), 2), rep(c("p", "q"), each = 3))
  )
  edges <- plate(joint(loaves, x = v, y = w, ink_hexagons(bins = 6), marginal = ink_histogram()))
  tables <- source_data(edges)
  expect_named(tables, c("panel", "margin of x", "margin of y"))
  expect_identical(sum(tables[["margin of x"]]$n), 60L)
  cells <- tables$panel[tables$panel$part == "hexagons", ]
  expect_identical(sum(cells$n), 60L)
  expect_true(all(cells$v > min(loaves$v) - 5 & cells$v < max(loaves$v) + 5))
  rectangles <- statistics(panel(loaves, x = v, y = w, ink_bins(bins = 5)))
  expect_identical(sum(rectangles$n), 60L)
})

test_that("the legend says what ramps, sizes, slices, classes, lines and shades show", {
  expect_match(
    legend_of(panel(loaves, x = v, y = w, colour = id, ink_points())),
    "W against v"
  )
  sizes <- legend_of(panel(loaves, x = v, y = w, size = id, ink_points()))
  expect_match(sizes, "W against v \\(n = 60\\)")
  expect_match(legend_of(panel(loaves, colour = f, ink_pie())), "shares of f in counts")
  expect_match(legend_of(panel(loaves, ink_classes(v, g, positive = "q"))), "positive where g is q")
  said <- legend_of(
    panel(
      loaves,
      x = v,
      y = w,
      ink_points(),
      ink_rule(y = 20),
      ink_shade(x = c(18, 22)),
      ink_rule(slope = 1)
    )
  )
  expect_match(said, "line at w 20")
  expect_match(said, "shaded from v 18 to 22")
  expect_match(said, "slope 1 and intercept 0")
  pairs <- plate(every_pair(loaves, c(log10(v), w)), width = 120, height = 120)
  expect_match(legend_text(pairs), "v on a logarithmic axis")
})

test_that("a condition of one panel is said of that panel, and by proof", {
  fig <- plate(
    panel(loaves, x = f, y = w, keep = v > 18, ink_box()),
    panel(loaves, x = f, y = v, ink_box()),
    width = 160,
    height = 70
  )
  kept <- sum(loaves$v > 18)
  expect_match(
    legend_text(fig),
    paste0("Shown in a are rows where v > 18 (", kept, " of 60)"),
    fixed = TRUE
  )
  found <- proof(fig)
  expect_match(found$where[found$rule == "rows left out"], paste(kept, "of 60 rows"))
})

test_that("values beyond the whiskers are not drawn twice", {
  table <- data.frame(f = "a", v = c(1:9, 40))
  rings <- function(...) {
    scene <- as_scene(small(panel(table, x = f, y = v, ...)))
    sum(unlist(lapply(scene$marks, function(one) one$table$shape == "ring")))
  }
  expect_identical(rings(ink_box()), 1L)
  expect_identical(rings(ink_box(), ink_dots()), 0L)
  expect_identical(rings(ink_box(outliers = TRUE), ink_dots()), 1L)
  expect_no_match(legend_of(panel(table, x = f, y = v, ink_box(), ink_dots())), "values beyond")
})

test_that("a limit that the axis cannot show is told, not drawn to its foot", {
  table <- data.frame(
    x = rep(1:3, each = 4),
    f = rep(letters[1:3], each = 4),
    y = c(1, 50, 2, 1, 4:7, 1, 90, 1, 1)
  )
  for (fig in list(
    small(panel(table, x = f, y = log10(y), ink_centre(on = "data", error = "sd"))),
    small(panel(table, x = x, y = log10(y), ink_line(centre = "mean", band = "sd", on = "data")))
  )) {
    expect_match(
      suppressWarnings(legend_text(fig)),
      "2 values of y of an error below what the axis can show are not drawn"
    )
    scene <- suppressWarnings(as_scene(fig))
    heights <- unlist(
      lapply(scene$marks, function(one) one$table[[if (one$primitive == "segments") "y0" else "y"]])
    )
    expect_gt(min(heights), 0.001)
  }
})

test_that("colours by name, alone or with an opacity, are colours; hexagons refuse one", {
  scene <- as_scene(small(panel(loaves, x = v, y = w, ink_rug(colour = "navy"), ink_points())))
  expect_match(scene$marks[[1]]$table$colour[1], "^#0000(80|7F)80$")
  expect_error(
    panel(loaves, x = v, y = w, colour = g, ink_hexagons()),
    "shaded by how many",
    class = "nelvat_error_argument"
  )
  expect_error(
    house(ramps = list(sequential = "#AA0000")),
    "two colours",
    class = "nelvat_error_house"
  )
})

test_that("bins are told in their unit, and unlike ones as such", {
  days <- data.frame(d = as.Date("2025-01-01") + c(0:9, 3, 5, 5, 20))
  expect_match(legend_of(panel(days, x = d, ink_histogram())), "bins of [0-9]+ days?\\.")
  unlike <- legend_of(panel(loaves, x = w, ink_histogram(breaks = c(0, 5, 100))))
  expect_match(unlike, "bins of unlike width")
  share <- as_scene(small(panel(loaves, x = f, y = w, colour = g, ink_bars(arrange = "share"))))
  expect_identical(share$axes[[share$panels$y_axis]]$title, "Share of w (%)")
})

test_that("a key shows the symbol that every mark of its level has", {
  many <- data.frame(x = rnorm(400), y = rnorm(400), k = rep(letters[1:4], 100))
  few <- many[1:40, ]
  fig <- plate(
    panel(few, x = x, y = y, colour = k, ink_points()),
    panel(many, x = x, y = y, colour = k, ink_points()),
    width = 170,
    height = 70
  )
  scene <- as_scene(fig)
  key <- scene$keys[scene$keys$key == "k", ]
  for (marks in scene$marks) {
    looks <- unique(as.data.frame(marks$table)[c("colour", "shape")])
    expect_identical(looks$shape, key$shape[match(looks$colour, key$colour)])
  }
  alone <- as_scene(small(panel(few, x = x, y = y, colour = k, ink_points())))
  expect_identical(length(unique(alone$keys$shape)), 4L)
})

test_that("derived columns are given as a list, or combined", {
  one <- panel(loaves, x = v, y = twice, derive = c(twice = w * 2), ink_points())
  other <- panel(loaves, x = v, y = twice, derive = list(twice = w * 2), ink_points())
  expect_identical(source_data(plate(one)), source_data(plate(other)))
})

test_that("an order may name levels that a condition takes away", {
  design <- panel(
    loaves,
    x = f,
    y = v,
    keep = f != "a",
    order = list(f = c("c", "a", "b")),
    ink_bars()
  )
  expect_identical(as_scene(small(design))$axes[[1]]$text, c("c", "b"))
  expect_error(
    panel(loaves, x = f, y = v, order = list(f = c("c", "zz")), ink_bars()),
    class = "nelvat_error"
  )
})

test_that("edges of bins are in data units: dates as dates, logarithms as the values", {
  days <- data.frame(d = as.Date("2025-01-01") + c(0:9, 3, 5, 5, 20))
  bins <- statistics(panel(days, x = d, ink_histogram()))
  expect_true(all(grepl("^202[45]-", c(bins$from, bins$to))))
  counted <- mapply(
    function(from, to) sum(days$d > as.Date(from) & days$d <= as.Date(to)),
    bins$from,
    bins$to
  )
  expect_identical(as.integer(counted), bins$n)
  matrix <- source_data(plate(every_pair(loaves, c(log10(w), v)), width = 120, height = 120))[[1]]
  edges <- matrix[matrix$part == "histogram", ]
  expect_true(all(edges$from >= min(loaves$w) / 2 & edges$to <= max(loaves$w) * 2))
  within <- function(from, to) sum(loaves$w > from & loaves$w <= to)
  expect_identical(as.integer(mapply(within, edges$from, edges$to)), edges$n)
})

test_that("marks are told in the order of their levels", {
  book <- codebook(loaves, f = category("Flour", order = c("c", "a", "b")))
  expect_identical(statistics(panel(book, x = f, y = v, ink_box()))$f, c("c", "a", "b"))
})
