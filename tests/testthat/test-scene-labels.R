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
