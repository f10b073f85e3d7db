loaves <- study("loaves")
scene_of <- function(...) suppressWarnings(as_scene(plate(...)))

test_that("an axis can be told how its tick text shall stand", {
  treated <- function(labels, width = 120) {
    scene <- scene_of(
      panel(
        study("cultures"),
        x = microbe,
        y = log10(count),
        x_axis = axis_of(labels = labels),
        ink_box()
      ),
      width = width,
      height = 90
    )
    axis <- Find(function(axis) axis$direction == "x", scene$axes)
    expect_identical(scene_faults(scene), NULL)
    axis$angle
  }
  expect_identical(treated("tilt"), 40)
  expect_identical(treated("upright"), 90)
  expect_identical(treated("wrap", 178), 0)
  expect_error(treated("as is"), "as `labels = \"as is\"` asks", class = "nelvat_error_labels")
})

test_that("the treatment of least cost is taken, its depth counted", {
  font <- nelvat:::house_font("Liberation Sans")
  fit <- function(texts, mm) {
    unit <- (seq_along(texts) - 0.5) / length(texts)
    found <- nelvat:::fit_tick_text(
      "x",
      unit * mm,
      mm,
      lapply(texts, nelvat:::measure_words, font),
      FALSE,
      nelvat:::allowed_treatments(),
      list(base = 7, least = 5.5, font = font)
    )
    nelvat:::tick_treatments[found$treatment]
  }
  # One long name of short words is set in more lines at its full size, not tilted to its depth.
  expect_identical(
    fit(c("Wheat", "Spelt", "Rye", "Stone-ground emmer and einkorn blend"), 36),
    "more lines"
  )
  expect_identical(fit(c("January", "February", "March", "April", "May", "June"), 45), "tilted")
  costs <- nelvat:::treatment_costs
  expect_false(is.unsorted(costs))
})

test_that("names stand at the ends of lines in place of a key, pushed apart", {
  scene <- scene_of(
    panel(
      study("probe"),
      x = time,
      y = c(chamber, surface, core),
      colour = measure("Temperature"),
      ink_line()
    ),
    width = 120,
    height = 60,
    key = "direct"
  )
  direct <- scene$texts[scene$texts$role == "direct label", ]
  expect_setequal(direct$string, c("Chamber", "Dough surface", "Dough core"))
  expect_identical(scene$keys, NULL)
  expect_identical(scene_faults(scene), NULL)
  expect_true(all(direct$x0 > scene$panels$x + scene$panels$w))
  # Each name is nearest to the end of its own line, but for what it was pushed.
  expect_identical(order(nelvat:::pushed_apart(c(3, 1, 2), 2)), c(2L, 3L, 1L))
  expect_equal(nelvat:::pushed_apart(c(5, 5), c(2, 4)), c(3.5, 6.5))
})

test_that(
  "labels of points touch neither each other nor points, and those without room are counted",
  {
    few <- loaves$data[1:40, ]
    scene <- scene_of(
      panel(few, x = rise, y = volume, ink_points(), ink_labels(loaf)),
      width = 100,
      height = 80
    )
    labels <- scene$texts[scene$texts$role == "point label", ]
    expect_gt(nrow(labels), 30)
    expect_identical(scene_faults(scene), NULL)
    points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
    x <- scene$panels$x + points$x * scene$panels$w
    y <- scene$panels$y + (1 - points$y) * scene$panels$h
    covered <- vapply(
      seq_len(nrow(labels)),
      function(i) any(x > labels$x0[i] & x < labels$x1[i] & y > labels$y0[i] & y < labels$y1[i]),
      NA
    )
    expect_false(any(covered))
    crowded <- data.frame(x = rep(1, 60), y = rep(1, 60), name = paste("a long name", 1:60))
    tight <- scene_of(
      panel(crowded, x = x, y = y, ink_points(), ink_labels(name)),
      width = 60,
      height = 50
    )
    unplaced <- tight$columns$n[tight$columns$what == "labels that found no place"]
    expect_identical(unplaced, 60L - sum(tight$texts$role == "point label"))
    expect_error(ink_labels(), class = "nelvat_error_argument")
  }
)

test_that("text in a level's colour is dark enough to read", {
  ratio <- nelvat:::white_contrast(nelvat:::legible(house_colours(10)))
  expect_true(all(ratio >= 4.5))
  expect_identical(nelvat:::legible("#001E8A"), "#001E8A")
})

test_that("markup stands in every text, wrapped, and a backslash takes its meaning away", {
  book <- codebook(
    data.frame(m = c("a", "b"), v = 1:2),
    m = category(
      "*Species*",
      names = c(a = "*Candida milleri* in a very long-lived culture", b = "CO~2~ \\*starred\\*")
    ),
    v = quantity("Mass^2^", unit = "g")
  )
  scene <- scene_of(
    panel(book, x = m, y = v, ink_bars()),
    width = 60,
    height = 60,
    title = "**Bold** and *italic*"
  )
  runs <- scene$runs
  expect_true(all(runs$italic[runs$string %in% c("Candida milleri", "Species")]))
  expect_true(any(runs$bold & grepl("Bold", runs$string)))
  expect_true(any(grepl("*starred*", runs$string, fixed = TRUE)))
  expect_lt(runs$size_pt[runs$string == "2"][1], 7)
})

test_that("an axis of thousands of levels is refused at once", {
  table <- data.frame(a = paste("name", 1:5000), b = 1)
  expect_error(
    as_scene(plate(panel(table, x = a, y = b, ink_points()))),
    "5,000 levels",
    class = "nelvat_error_labels"
  )
})

test_that(
  "an equation that finds no place free of marks stands above them, and the axis makes room",
  {
    set.seed(1)
    full <- data.frame(x = runif(400), y = runif(400))
    fig <- function(...) {
      as_scene(
        plate(
          panel(full, x = x, y = y, ink_points(), ink_fit(equation = TRUE), ...),
          width = 86,
          height = 60
        )
      )
    }
    scene <- fig()
    box <- scene$texts[scene$texts$role == "equation", ]
    one <- scene$panels
    points <- Filter(function(layer) layer$primitive == "points", scene$marks)[[1]]$table
    highest <- one$y + (1 - max(points$y)) * one$h
    expect_lt(box$y1, highest)
    expect_gt(scene$axes[[2]]$range[2], 1.08)
    # An axis that was asked to have its range keeps it.
    held <- fig(y_axis = axis_of(range = c(0, 1)))
    expect_identical(held$axes[[2]]$range, c(0, 1))
  }
)

test_that("numbers that lose tick text keep a round step, three ticks stand where there is room", {
  table <- data.frame(a = c(6.2, 18), b = c(417, 1130), z = 1:2)
  axis_for <- function(x, width) {
    scene <- as_scene(
      plate(
        do.call(panel, list(table, x = as.name(x), y = quote(z), ink_points())),
        width = width,
        height = 40
      )
    )
    c(scene$axes[[1]][c("text", "breaks", "treatment")], list(mm = scene$panels$w[1]))
  }
  narrow <- axis_for("a", 28)
  expect_gte(narrow$mm, 15)
  shown <- as.numeric(narrow$text[nzchar(narrow$text)])
  expect_identical(shown %% 4, rep(0, length(shown)))
  expect_gte(length(narrow$breaks), 3)
  expect_identical(axis_for("b", 32)$text, c("500", "750", "1000"))
  for (span in c(1, 1.3, 2.2, 3.7, 5.9, 8.4)) {
    for (from in c(0, 0.37, 1.9, -4.4)) {
      found <- nelvat:::number_breaks(from + c(0, span), 3)
      expect_true(length(found) >= 3 && length(found) <= 7)
      expect_equal(found / diff(found)[1], round(found / diff(found)[1]))
    }
  }
})

test_that("chosen names that crowd stand apart, each led to its own tick", {
  set.seed(12)
  cells <- expand.grid(gene = sprintf("g%03d", 1:120), sample = c("a", "b", "c"))
  cells$z <- stats::rnorm(nrow(cells))
  chosen <- c("g003", "g004", "g006", "g050", "g051", "g052", "g119", "g120")
  for (direction in c("x", "y")) {
    upright <- direction == "y"
    named <- list(axis_of(breaks = chosen))
    heat <- do.call(
      panel,
      c(
        list(cells, x = as.name(if (upright) "sample" else "gene")),
        list(y = as.name(if (upright) "gene" else "sample"), colour = quote(z)),
        list(ink_tiles(values = FALSE)),
        stats::setNames(named, paste0(direction, "_axis"))
      )
    )
    scene <- as_scene(plate(heat, width = 100, height = 90))
    expect_identical(scene_faults(scene), NULL)
    names <- scene$texts[scene$texts$role == "tick" & scene$texts$string %in% chosen, ]
    leaders <- scene$rules[scene$rules$role == "leader", ]
    ticks <- scene$rules[scene$rules$role == "tick", ]
    expect_setequal(names$string, chosen)
    expect_identical(nrow(leaders), length(chosen))
    along <- if (direction == "y") c("y0", "y1", "centre_y") else c("x0", "x1", "centre_x")
    # Each begins at a tick and ends at its name; none crosses another.
    ends <- leaders[order(leaders[[along[1]]]), ]
    expect_true(
      all(
        vapply(ends[[along[1]]], function(at) min(abs(ticks[[along[1]]] - at)) < 1e-6, NA)
      )
    )
    expect_equal(ends[[along[2]]], sort(names[[along[3]]]), tolerance = 1e-6)
    expect_identical(order(ends[[along[2]]]), seq_along(chosen))
    # Names that have room where they belong have no leaders.
    axis <- axis_of(breaks = c("g010", "g100"))
    few <- if (direction == "y") change(heat, y_axis = axis) else change(heat, x_axis = axis)
    lone <- as_scene(plate(few, width = 100, height = 90))
    expect_false("leader" %in% lone$rules$role)
  }
})

test_that("names move as little as they must", {
  # Three within a millimetre, two apart each: one to each side of the middle one.
  expect_equal(nelvat:::spread_apart(c(10, 10.5, 11), 2, 50), c(8.5, 10.5, 12.5))
  expect_equal(nelvat:::spread_apart(c(11, 10, 10.5), 2, 50), c(12.5, 8.5, 10.5))
  expect_equal(nelvat:::spread_apart(c(10, 20, 30), 2, 50), c(10, 20, 30))
  # At an end they reach half of a name beyond it.
  expect_equal(nelvat:::spread_apart(c(0, 0.2), 2, 50), c(0, 2))
  expect_null(nelvat:::spread_apart(1:10, 6, 50))
  # Asked for, where nothing crowds: no lines, no room for them, and numbers stand where they
  # belong.
  plain <- panel(loaves, x = grade, y = rise, ink_box(), x_axis = axis_of(labels = "leaders"))
  expect_false("leader" %in% as_scene(plate(plain, width = 120, height = 60))$rules$role)
  # No other places that keep apart are nearer, by squares.
  set.seed(5)
  for (trial in 1:20) {
    at <- sort(stats::runif(6, 0, 40))
    best <- nelvat:::spread_apart(at, 3, 40)
    expect_true(all(diff(best) >= 3 - 1e-9))
    other <- pmin(pmax(sort(best + stats::rnorm(6, 0, 0.3)), 0), 40)
    if (all(diff(other) >= 3)) expect_gte(sum((other - at)^2), sum((best - at)^2) - 1e-9)
  }
})

test_that("levels that head others are bold, those headed are set in, all begin on one line", {
  rows <- c("Bakery", "North", "South of the river and the old harbour", "Flour", "Rye", "Spelt")
  effects <- codebook(
    data.frame(
      row = rows,
      ratio = c(NA, 1.2, 0.9, NA, 1.4, 0.8),
      lower = c(NA, 0.9, 0.7, NA, 1.1, 0.5),
      upper = c(NA, 1.6, 1.2, NA, 1.8, 1.3)
    ),
    row = ordinal(order = rows, name = "Group")
  )
  forest <- function(...) {
    panel(effects, x = ratio, y = row, ink_estimate(lower, upper, line = 1), y_axis = axis_of(...))
  }
  scene <- as_scene(plate(forest(heads = c("Bakery", "Flour")), width = 80, height = 60))
  expect_null(scene_faults(scene))
  axis <- scene$axes[[scene$panels$y_axis]]
  names <- scene$texts[scene$texts$role == "tick" & scene$texts$x1 < scene$panels$x, ]
  expect_identical(nrow(names), 6L)
  head <- names$string %in% c("Bakery", "Flour")
  expect_equal(diff(range(names$x0)), 0, tolerance = 1e-6)
  # Heads have no tick, and nothing is missing at them.
  expect_identical(sum(scene$rules$role == "tick" & scene$rules$x1 == scene$panels$x), 4L)
  figure <- plate(forest(heads = c("Bakery", "Flour")), width = 80, height = 60)
  expect_no_match(legend_text(figure), "missing")
  expect_match(legend_text(plate(forest(), width = 80, height = 60)), "2 missing values")
  needs_poppler()
  path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(figure, path)
  words <- read_pdf_words(path)$words
  begin <- function(word) words$x0[words$word == word]
  expect_equal(begin("Bakery"), begin("Flour"), tolerance = 0.1)
  expect_equal(begin("North"), begin("Spelt"), tolerance = 0.1)
  expect_gt(begin("North") - begin("Bakery"), 1)
  # A head that bears rows has its number.
  loaves <- study("loaves")
  counted <- function(table, ...) {
    scene <- as_scene(
      plate(panel(table, ..., ink_tally(), y_axis = axis_of(heads = "rye")), width = 100)
    )
    scene$texts$string[scene$texts$role == "under"]
  }
  expect_identical(counted(loaves, x = rise, y = flour, ink_box()), rep("36", 4))
  bare <- data.frame(row = c("rye", "north", "south"), value = c(NA, 1, 2))
  expect_identical(counted(bare, x = value, y = row, ink_points()), c("1", "1"))
  # A long name goes over lines that all begin where the others do.
  narrow <- as_scene(plate(forest(heads = c("Bakery", "Flour")), width = 60, height = 60))
  expect_null(scene_faults(narrow))
  expect_error(forest(heads = "Bakry"), "Bakery", class = "nelvat_error_level")
  expect_error(
    panel(effects, x = row, y = ratio, ink_points(), x_axis = axis_of(heads = "Flour")),
    class = "nelvat_error_argument"
  )
})

test_that("names beside an axis that touch in lone lines are not tried in more", {
  many <- data.frame(level = sprintf("a name of two words %03d", 1:600), v = 1:600)
  with_replaced(narrowest_lines = function(...) stop("tried"), {
    expect_error(
      as_scene(plate(panel(many, x = v, y = level, ink_points()), width = 86, height = 60)),
      class = "nelvat_error_labels"
    )
  })
})
