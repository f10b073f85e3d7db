test_that("words of before are errors that say the word of now, in calls and in files", {
  said <- function(code) rlang::cnd_message(tryCatch(code, nelvat_error = identity))
  loaves <- study("loaves")
  good <- panel(loaves, x = rise, y = volume, ink_points())
  expect_match(said(ink_points(alpha = 0.5)), "no argument \"alpha\".*called `opacity` now")
  expect_match(said(ink_box(coef = 2)), "called `whiskers` now")
  expect_match(said(facets(good, across = flour, wrap = 2)), "called `per_row` now")
  expect_match(said(facets(good, across = flour, share = "own")), "called `range_per` now")
  expect_match(said(marginals(good, x = ink_histogram(), size = 0.2)), "called `depth` now")
  expect_match(said(joint(loaves, x = rise, y = volume, margin_size = 0.2)), "called `depth` now")
  expect_match(said(house("slides")), "projected")
  expect_match(said(house("wall")), "times = 3.5")
  folder <- folder_with(
    list(
      f.yaml = c(
        "nelvat: 1", "data: {a: a.csv}",
        "blocks: {b: {facets: {panel: {data: a, x: f, y: v, ink: {points: {alpha: 0.4}}},",
        "    wrap: 2}}}",
        "plate: {place: b}"
      ),
      a.csv = c("f,v", "p,1", "q,2")
    )
  )
  error <- said(read_figure(file.path(folder, "f.yaml")))
  expect_match(error, "It is called `(opacity|per_row)` now")
})

test_that(
  "an argument that no function has is told with the nearest right one, never in R's words",
  {
    exported <- getNamespaceExports("nelvat")
    for (name in exported) {
      make <- get(name, asNamespace("nelvat"))
      if (!is.function(make) || !length(formals(make)) || name %in% c("mm", "study")) next
      # What methods are written for has the arguments that they have.
      if ("UseMethod" %in% all.names(body(make))) next
      expect_true("..." %in% names(formals(make)), label = name)
    }
    expect_error(
      ink_points(colur = "red"),
      "Did you mean \"colour\"",
      class = "nelvat_error_argument"
    )
    expect_error(
      ink_bars(centre = "mean", eror = "sd"),
      "Did you mean \"error\"",
      class = "nelvat_error_argument"
    )
    expect_error(text_panel("a", "b", "c"), "1 more", class = "nelvat_error_argument")
  }
)

test_that("whiskers end where they are told to", {
  values <- c(1:9, 30)
  box <- function(whiskers) {
    fig <- plate(
      panel(data.frame(f = "a", v = values), x = f, y = v, ink_box(whiskers = whiskers)),
      width = 60,
      height = 60
    )
    list(nelvat:::box_summary(values, rep(1L, 10), 1L, whiskers), legend_text(fig))
  }
  range <- box("range")
  expect_equal(c(range[[1]]$boxes$low, range[[1]]$boxes$high), c(1, 30))
  expect_identical(nrow(range[[1]]$outliers), 0L)
  expect_match(range[[2]], "the least and greatest value")
  tails <- box(c(0.05, 0.95))
  expect_equal(
    c(tails[[1]]$boxes$low, tails[[1]]$boxes$high),
    unname(quantile(values, c(0.05, 0.95)))
  )
  expect_match(tails[[2]], "the quantiles of 5 % and 95 %")
  expect_error(ink_box(whiskers = c(0.9, 0.1)), class = "nelvat_error_argument")
  expect_error(ink_box(whiskers = "all"), class = "nelvat_error_argument")
})

test_that("a house times a number has all type, weights and spaces that much larger", {
  plain <- house("plain")
  twice <- house("plain", times = 2)
  expect_equal(unlist(twice$type_pt), 2 * unlist(plain$type_pt), tolerance = 0.02)
  expect_equal(unlist(twice$space_mm), 2 * unlist(plain$space_mm), tolerance = 0.02)
  path <- withr::local_tempfile(fileext = ".yaml", lines = c("from: plain", "times: 2"))
  expect_equal(house(path)$type_pt, twice$type_pt)
  expect_error(house("plain", times = 0), class = "nelvat_error_argument")
})

test_that("dashes are lengths of strokes and gaps", {
  expect_true(all(nelvat:::is_dash(nelvat:::dash_patterns)))
  expect_identical(
    nelvat:::is_dash(c("4 2", "solid", "42", "4", "4 0", "16 2")),
    c(TRUE, TRUE, FALSE, FALSE, FALSE, FALSE)
  )
  expect_error(house(dashes = c("solid", "dotted")), "4 2", class = "nelvat_error_house")
  expect_identical(nelvat:::line_type(c("solid", "12 3 1 2")), c("solid", "C312"))
})

test_that("words of the trade are answered with the word here, in calls and files", {
  loaves <- study("loaves")
  design <- panel(loaves, x = flour, y = rise, ink_box())
  expect_error(plate(design, legend = "top"), "It is called `key` here")
  expect_error(axis_of(limits = c(0, 10)), "It is called `range` here")
  expect_error(facets(design, columns = grade), "It is called `across` or `per_row` here")
  expect_error(panel(loaves, x = flour, y = rise, ink_box(), title = "A"), "called `heading` here")
  expect_error(category(levels = c("a", "b")), "It is called `order` here")
  expect_error(ink_fit(method = "line"), "It is called `model` here")
  expect_error(panel(loaves, flour, rise, ink_box()), "`x =`", class = "nelvat_error_argument")
  # Each guess leads to a word that there is.
  known <- unique(
    unlist(lapply(words_with_rows(), function(word) names(nelvat:::word_arguments(word))))
  )
  known <- c(known, names(formals(category)), names(formals(quantity)))
  expect_identical(setdiff(unlist(nelvat:::guessed_names), known), character())
  # All arguments are told, not the first dozen.
  expect_no_match(
    tryCatch(plate(design, zzzzzzzzzz = 1), error = conditionMessage),
    "and [0-9]+ more"
  )
})

test_that("sizes stand in lists, too, and meanings change in every table that has the column", {
  loaves <- study("loaves")
  first <- panel(loaves, x = flour, y = rise, ink_box())
  table <- data.frame(flour = c("wheat", "rye"), taste = 1:2)
  second <- panel(table, x = flour, y = taste, ink_bars("sum"))
  fig <- plate(first, second, widths = list(1, mm(30)))
  expect_identical(plate(first, second, widths = c(1, mm(30)))$grid, fig$grid)
  both <- change(fig, codebook = list(flour = category("Grain")))
  titles <- vapply(suppressWarnings(as_scene(both))$axes, function(axis) axis$title, "")
  expect_identical(sum(titles == "Grain"), 2L)
  one <- change(fig, codebook = list(taste = quantity("Taste", unit = "points")))
  expect_s3_class(one, "nelvat_plate")
  expect_error(change(fig, codebook = list(tast = quantity("T"))), "no table.*taste")
})

test_that("what is not given, no column, and text of no encoding are errors of our own", {
  loaves <- study("loaves")
  broken <- "a\xff"
  expect_error(facets(), "`facets\\(\\)` needs `panel`", class = "nelvat_error_argument")
  expect_error(panel(), "`panel\\(\\)` needs `data`", class = "nelvat_error_argument")
  expect_error(every_pair(), "needs `data`", class = "nelvat_error_argument")
  expect_error(join_data(loaves), "needs `", class = "nelvat_error_argument")
  expect_error(panel(loaves, x = flour, y = c(), ink_box()), "`y` must be a column")
  design <- function(...) panel(loaves, x = flour, y = rise, ink_box(), ...)
  expect_error(text_panel(broken), "`text` is not in UTF-8", class = "nelvat_error_encoding")
  expect_error(design(heading = broken), "`heading` is not in UTF-8")
  expect_error(plate(design(), title = broken), "`title` is not in UTF-8")
  expect_error(codebook(stats::setNames(data.frame(1:2), broken)), "names of data")
  expect_error(read_data(broken), "UTF-8", class = "nelvat_error")
})

test_that("every exported function that needs something says so", {
  for (name in getNamespaceExports("nelvat")) {
    f <- get(name, asNamespace("nelvat"))
    if (!is.function(f) || inherits(f, "S4") || "UseMethod" %in% all.names(body(f))) next
    error <- tryCatch(suppressMessages(f()), error = identity)
    if (!inherits(error, "error")) next
    expect_s3_class(error, "nelvat_error")
  }
})
