test_that("a column's own name is shown as it is, plain words beginning large", {
  shown <- c(
    pH = "pH",
    mRNA_kDa = "mRNA kDa",
    pO2 = "pO2",
    qPCR.runs = "qPCR runs",
    o2 = "o2",
    wt.loss = "Wt loss",
    `half-life` = "half-life",
    rise = "Rise",
    `factor(Month)` = "Month",
    `as.factor(dose)` = "Dose",
    Kjeldahl_N = "Kjeldahl N"
  )
  table <- stats::setNames(as.data.frame(lapply(shown, function(...) 1:3)), names(shown))
  for (column in names(shown)) {
    titles <- vapply(
      as_scene(plate(panel(table, x = .data[[column]], ink_histogram()), width = 86))$axes,
      `[[`,
      "",
      "title"
    )
    expect_identical(titles[1], shown[[column]])
  }
})

test_that("names are as they were given in the middle of a sentence, too", {
  table <- data.frame(
    pH = 1:4,
    rise = c(2, 1, 4, 3),
    `factor(Month)` = letters[1:4],
    check.names = FALSE
  )
  of <- function(...) legend_text(plate(panel(..., ink_points()), width = 86))
  expect_match(of(table, x = pH, y = rise), "^Rise against pH ")
  expect_match(of(table, x = rise, y = pH), "^pH against rise ")
  expect_match(of(table, x = `factor(Month)`, y = pH), "by Month")
  named <- codebook(table, rise = quantity("Shannon rise", unit = "mm"))
  expect_match(of(named, x = rise, y = pH), "against Shannon rise \\(mm\\)")
})

test_that("logarithmic axes show 2 and 5 over two decades, else every decade with room", {
  ticks <- function(values, height) {
    scene <- as_scene(
      plate(
        panel(data.frame(x = seq_along(values), v = values), x = x, y = log10(v), ink_points()),
        width = 86,
        height = height
      )
    )
    Find(function(axis) axis$direction == "y", scene$axes)$breaks
  }
  expect_true(all(c(2, 5, 10, 20, 50) %in% ticks(c(2, 10, 80), 60)))
  expect_true(all(c(0.5, 1, 2) %in% ticks(c(0.4, 1, 2.6), 30)))
  expect_equal(ticks(10^(0:6), 60), 10^(0:6))
})

test_that("the negative logarithm of a column is printed as one", {
  tested <- data.frame(change = 1:9, p = 10^-(1:9 / 2))
  scene <- as_scene(plate(panel(tested, x = change, y = -log10(p), ink_points()), width = 60))
  axis <- scene$axes[[scene$panels$y_axis]]
  expect_identical(axis$title, "\u2212log\u2081\u2080(p)")
  expect_match(legend_text(scene), "^\u2212log\u2081\u2080\\(p\\) against change")
  named <- codebook(tested, p = quantity("*P* value"))
  axis <- as_scene(plate(panel(named, x = change, y = -log(p), ink_points()), width = 60))$axes[[2]]
  expect_identical(axis$title, "\u2212ln(P value)")
})

test_that("a column whose levels are made where it is used is the column still", {
  rows <- data.frame(
    hour = rep(c(1, 12, 3), 4),
    strain = rep(c("A", "B", "C"), each = 4),
    rise = c(5, 4, 6, 5, 9, 8, 9, 8, 1, 2, 1, 2)
  )
  book <- codebook(
    rows,
    hour = quantity("Time", unit = "h"),
    strain = category(
      "Strain of yeast",
      names = c(A = "alpha", B = "beta", C = "gamma"),
      colours = c(A = "#AA0000", B = "#00AA00", C = "#0000AA")
    )
  )
  texts <- function(...) {
    scene <- as_scene(plate(panel(book, ...), width = 86))
    axes <- Filter(function(axis) axis$slots, scene$axes)
    list(title = axes[[1]]$title, text = axes[[1]]$text, keys = scene$keys)
  }
  for (made in list(
    texts(x = factor(hour), y = rise, ink_bars()),
    texts(x = as.factor(as.character(hour)), y = rise, ink_bars()),
    texts(x = droplevels(factor(.data[["hour"]])), y = rise, ink_bars())
  )) {
    expect_identical(made$title, "Time (h)")
    expect_setequal(made$text, c("1", "3", "12"))
  }
  expect_identical(texts(x = factor(hour), y = rise, ink_bars())$text, c("1", "3", "12"))
  # Names and colours of the codebook, in the order that is made.
  ranked <- texts(x = reorder(strain, rise), y = rise, colour = strain, ink_bars())
  expect_identical(
    ranked[c("title", "text")],
    list(title = "Strain of yeast", text = c("gamma", "alpha", "beta"))
  )
  turned <- texts(x = hour, y = factor(strain, levels = c("C", "A", "B")), ink_points())
  expect_identical(turned$text, c("gamma", "alpha", "beta"))
  coloured <- as_scene(
    plate(
      panel(book, x = rise, colour = factor(strain, levels = c("B", "A", "C")), ink_histogram()),
      width = 86
    )
  )$keys
  expect_identical(coloured$label, c("beta", "alpha", "gamma"))
  expect_identical(coloured$colour, c("#00AA00", "#AA0000", "#0000AA"))
  # Other labels are no levels of the codebook; an expression of a column is none.
  relabelled <- texts(x = factor(strain, labels = c("x", "y", "z")), y = rise, ink_bars())
  expect_identical(
    relabelled[c("title", "text")],
    list(title = "Strain of yeast", text = c("x", "y", "z"))
  )
  expect_identical(texts(x = factor(rise > 4), y = hour, ink_bars())$title, "rise > 4")
  expect_identical(texts(x = cut(hour, c(0, 2, 20)), y = rise, ink_bars())$title, "Time (h)")
  expect_identical(
    texts(x = interaction(strain, hour), y = rise, ink_bars())$title,
    "Strain of yeast, Time"
  )
  # Classes and new labels are variables of their own: each keeps its levels and its key, also where
  # labels change places.
  cuts <- as_scene(
    plate(
      stacked(
        panel(book, x = cut(hour, c(0, 2, 20)), y = rise, ink_bars()),
        panel(book, x = cut(hour, c(0, 5, 10, 20)), y = rise, ink_bars())
      ),
      width = 86
    )
  )
  of_levels <- Filter(function(axis) axis$slots, cuts$axes)
  expect_identical(lengths(lapply(of_levels, `[[`, "text")), c(2L, 2L))
  expect_length(unique(vapply(of_levels, `[[`, "", "variable")), 2)
  swapped <- as_scene(
    plate(
      panel(
        book,
        x = factor(strain, levels = c("A", "B", "C"), labels = c("B", "A", "C")),
        y = rise,
        colour = strain,
        ink_points()
      ),
      width = 86
    )
  )
  expect_identical(swapped$keys$label, c("alpha", "beta", "gamma"))
  expect_identical(Find(function(axis) axis$slots, swapped$axes)$text, c("B", "A", "C"))
  # Long expressions are told apart, however they are shortened on an axis.
  pieces <- function(cut) {
    rlang::inject(
      panel(
        book,
        x = factor(
          ifelse(rise > !!cut, "a loaf that rose well in the night", "a loaf that lay flat")
        ),
        y = hour,
        ink_points()
      )
    )
  }
  scene <- as_scene(plate(stacked(pieces(4), pieces(8)), width = 86))
  expect_length(unique(vapply(scene$axes, `[[`, "", "variable")), 3)
  # A colour of the quantity itself still has its key.
  ramp <- as_scene(
    plate(panel(book, x = factor(hour), y = rise, colour = hour, ink_points()), width = 86)
  )
  expect_identical(unique(ramp$keys$key), "hour")
  expect_match(
    legend_text(plate(panel(book, x = factor(hour), y = rise, ink_bars()), width = 86)),
    "by Time [(]h[)]"
  )
})
