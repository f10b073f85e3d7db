loaves <- study("loaves")
scatter <- panel(loaves, x = rise, y = moisture, ink_points())
scene_of <- function(block, width = 178, height = 120) {
  suppressWarnings(as_scene(plate(block, width = width, height = height)))
}

test_that("levels go across and down, each panel with its own rows and no others", {
  scene <- scene_of(facets(scatter, across = flour, down = hydration))
  expect_identical(c(max(scene$panels$row), max(scene$panels$column)), c(3L, 4L))
  n <- table(loaves$data$hydration, factor(loaves$data$flour, loaves$columns$flour$levels))
  expect_identical(scene$facts$n, as.integer(t(n)))
  expect_identical(scene$panels$heading[1:4], loaves$columns$flour$level_names)
  expect_true(all(is.na(scene$panels$heading[5:12])))
  rows <- scene$texts[scene$texts$role == "row heading", ]
  expect_identical(rows$string, c("60%", "80%", "100%"))
  expect_true(all(rows$x0 > max(scene$panels$x + scene$panels$w)))
  centre <- scene$panels$y[c(1, 5, 9)] + scene$panels$h[1] / 2
  expect_equal(rows$centre_y, centre, tolerance = 0.01)
  expect_length(scene$axes, 2)
  expect_identical(scene$axes[[1]]$drawn_at, 9:12)
  expect_identical(scene$axes[[2]]$drawn_at, c(1L, 5L, 9L))
})

test_that("nested levels have headings in two tiers, the outer over its columns", {
  scene <- scene_of(facets(scatter, across = c(hydration, bakery)))
  expect_identical(nrow(scene$panels), 9L)
  headings <- scene$texts[scene$texts$role == "heading", ]
  outer <- headings[headings$string %in% c("60%", "80%", "100%"), ]
  expect_equal(outer$x0, scene$panels$x[c(1, 4, 7)], tolerance = 0.01)
  expect_lt(max(outer$y1), min(headings$y0[headings$string == "Harbour"]))
  rules <- scene$rules[is.na(scene$rules$panel), ]
  expect_equal(rules$x0, scene$panels$x[c(1, 4, 7)])
  expect_equal(rules$x1, (scene$panels$x + scene$panels$w)[c(3, 6, 9)])
  first <- which(loaves$data$hydration == 60 & loaves$data$bakery == "mill")
  expect_identical(scene$facts$n[2], length(first))
  expect_identical(scene_faults(scene), NULL)
})

test_that("measures on unlike axes are each on their own, with their own numbers", {
  both <- facets(panel(loaves, x = flour, y = c(volume, log10(rise), rise), ink_box()))
  numbers <- source_data(plate(both, width = 150, height = 60))
  alone <- source_data(
    plate(panel(loaves, x = flour, y = log10(rise), ink_box()), width = 80, height = 60)
  )[[1]]
  second <- numbers[[2]]
  expect_equal(second$median[second$part == "box"], alone$median[alone$part == "box"])
  scene <- as_scene(plate(both, width = 150, height = 60))
  expect_length(unique(scene$panels$y_axis), 3)
  transforms <- vapply(scene$axes[scene$panels$y_axis], `[[`, "", "transform")
  expect_identical(transforms, c("identity", "log10", "identity"))
  expect_error(
    panel(loaves, x = flour, y = c(rise, log10(rise)), colour = measure(), ink_box()),
    "share its axis",
    class = "nelvat_error_kind"
  )
  # So are columns of a matrix.
  pairs <- as_scene(plate(every_pair(loaves, c(rise, log10(rise), volume)), width = 90))
  expect_length(unique(pairs$panels$x_axis), 3)
})

test_that("a pattern says name, level, unit and n", {
  scene <- scene_of(
    facets(
      scatter,
      across = hydration,
      down = bakery,
      heading = c(across = "{name}: {level}{unit} (n = {n})", down = "{level}, {n}")
    )
  )
  expect_identical(scene$panels$heading[1], "Starter hydration: 60% (n = 48)")
  expect_identical(
    scene$texts$string[scene$texts$role == "row heading"],
    c("Harbour, 48", "Old Mill, 47", "Station, 46")
  )
  expect_snapshot(error = TRUE, facets(scatter, across = hydration, heading = "{lvl}"))
  expect_snapshot(error = TRUE, facets(scatter, across = hydration, heading = c(up = "{level}")))
})

test_that("empty combinations are drawn, dropped, or say so", {
  some <- panel(
    loaves,
    x = rise,
    y = moisture,
    keep = !(flour == "rye" & hydration == 60),
    ink_points()
  )
  with_empty <- function(empty) {
    scene_of(facets(some, across = flour, down = hydration, empty = empty))
  }
  expect_identical(nrow(with_empty("draw")$panels), 12L)
  said <- with_empty("say")
  expect_identical(said$texts$panel[said$texts$string == "no data"], 3L)
  dropped <- with_empty("drop")
  expect_identical(nrow(dropped$panels), 11L)
  expect_false(any(dropped$panels$row == 1 & dropped$panels$column == 3))
})

test_that("quantities are cut into intervals that their headings state", {
  cut <- cut_into(loaves$data$rise, 4)
  expect_true(all(abs(table(cut) - 36) <= 2))
  edges <- as.numeric(unique(unlist(strsplit(levels(cut), " to "))))
  expect_equal(range(edges), range(loaves$data$rise), tolerance = 0.02)
  even <- cut_into(c(0, 1, 5, 10), 2, by = "width")
  expect_identical(levels(even), c("0 to 5", "5 to 10"))
  expect_identical(as.integer(even), c(1L, 1L, 2L, 2L))
  scene <- scene_of(facets(scatter, across = cut_into(volume, 3)))
  expect_identical(scene$panels$heading, levels(cut_into(loaves$data$volume, 3)))
  expect_error(cut_into("a", 3), class = "nelvat_error_argument")
  expect_error(cut_into(c(1, 1), 3), class = "nelvat_error_data")
})

test_that("behind each panel stand the rows of all others, faintly, and count for nothing", {
  plain <- scene_of(facets(scatter, across = flour))
  behind <- scene_of(facets(scatter, across = flour, behind = TRUE))
  expect_identical(behind$facts[c("panel", "n")], plain$facts[c("panel", "n")])
  back <- behind$marks[[1]]$table
  expect_identical(as.integer(table(back$panel)), rep(108L, 4))
  expect_identical(unique(back$colour), nelvat:::behind_colour)
  expect_identical(behind$axes, plain$axes)
  lines <- scene_of(
    facets(
      panel(
        study("cultures"),
        x = hour,
        y = log10(count),
        ink_line(centre = "mean", band = "none")
      ),
      across = microbe,
      per_row = 4,
      behind = TRUE
    )
  )
  one <- lines$marks[[1]]$table
  expect_length(unique(one$line[one$panel == 1]), 7)
})

test_that("tick text can stand at every panel", {
  scene <- scene_of(facets(scatter, across = flour, show_axes = "all"))
  expect_identical(scene$axes[[2]]$drawn_at, 1:4)
  expect_identical(scene_faults(scene), NULL)
})

test_that("an axis has the range, steps, title and turn asked of it; what it hides is counted", {
  scene <- scene_of(
    panel(
      loaves,
      x = rise,
      y = moisture,
      x_axis = axis_of(range = c(0, 60), every = 20, minor = 5, title = "Rise of the loaf (mm)"),
      y_axis = axis_of(reverse = TRUE, breaks = c(35, 40, 45)),
      ink_points()
    ),
    120,
    70
  )
  x <- scene$axes[[1]]
  expect_equal(x$range, c(0, 60))
  expect_identical(x$text, c("0", "20", "40", "60"))
  expect_equal(x$minor * 60, setdiff(seq(0, 60, 5), c(0, 20, 40, 60)))
  expect_true("Rise of the loaf (mm)" %in% scene$texts$string)
  expect_true(all(diff(scene$axes[[2]]$unit) < 0))
  hidden <- scene$columns[grepl("beyond", scene$columns$what), ]
  expect_identical(hidden$n, sum(loaves$data$rise > 60))
  half <- scene_of(
    panel(loaves, x = rise, y = moisture, y_axis = axis_of(range = c(0, NA)), ink_points()),
    120,
    70
  )
  expect_identical(half$axes[[2]]$range[1], 0)
  timed <- scene_of(
    panel(
      study("probe"),
      x = time,
      y = gas,
      x_axis = axis_of(every = "1 day", minor = "6 hours", format = "%d.%m."),
      ink_line()
    ),
    120,
    60
  )
  expect_identical(timed$axes[[1]]$text, c("02.03.", "03.03.", "04.03.", "05.03."))
  expect_equal(
    unique(round(diff(sort(c(timed$axes[[1]]$unit, timed$axes[[1]]$minor))), 6)),
    round(timed$axes[[1]]$minor[1] - timed$axes[[1]]$unit[1], 6)
  )
})

test_that("wrong axes are refused in the user's terms", {
  expect_snapshot(error = TRUE, axis_of(range = c(5, 1)))
  expect_snapshot(error = TRUE, axis_of(every = "6 ours"))
  expect_snapshot(error = TRUE, axis_of(every = -1))
  expect_snapshot(error = TRUE, axis_of(format = "wide"))
  expect_snapshot(error = TRUE, panel(loaves, x = rise, y = ph, x_axis = c(0, 1), ink_points()))
})

test_that("facets and axes are said in a file as in the call", {
  folder <- folder_with(
    list(
      figure.yaml = c(
        "nelvat: 1", "data:", "  loaves: {file: loaves.csv, codebook: loaves.codebook.yaml}",
        "blocks:", "  a:", "    facets:",
        "      panel: {data: loaves, x: rise, y: moisture, ink: points, x_axis: {range: [0, 90],",
        "          every: 30}}",
        "      across: [hydration, bakery]",
        "      down: cut_into(volume, 2)", "      heading: {across: '{level}', down: '{n}'}",
        "      behind: true", "      empty: say",
        "plate: {place: a, width: 178, height: 90}", "save: a.pdf"
      )
    )
  )
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  by_call <- facets(
    panel(
      loaves,
      x = rise,
      y = moisture,
      ink_points(),
      x_axis = axis_of(range = c(0, 90), every = 30)
    ),
    across = c(hydration, bakery),
    down = cut_into(volume, 2),
    heading = c(across = "{level}", down = "{n}"),
    behind = TRUE,
    empty = "say"
  )
  by_file <- suppressWarnings(as_scene(read_figure(file.path(folder, "figure.yaml"))$plate))
  expect_identical(by_file, scene_of(by_call, 178, 90))
})

test_that("24 long-named levels fit a page, and their PDF reads back", {
  needs_poppler()
  set.seed(5)
  table <- data.frame(
    x = rnorm(480),
    y = rnorm(480),
    f = rep(
      paste(
        "Sourdough of the",
        c("northern", "southern", "eastern", "western"),
        rep(c("valley", "harbour", "hills", "lakes", "forest", "plain"), each = 4)
      ),
      20
    )
  )
  fig <- plate(
    facets(panel(table, x = x, y = y, ink_points(size = 0.8)), across = f, per_row = 6),
    width = "double",
    height = 150
  )
  scene <- as_scene(fig)
  expect_identical(scene_faults(scene), NULL)
  expect_lt(diff(range(scene$panels$w)), 0.01)
  path <- withr::local_tempfile(fileext = ".pdf")
  save_plate(fig, path)
  expect_identical(nrow(overlapping_boxes(read_pdf_words(path)$words, 0.05)), 0L)
})

test_that(
  "more rows of panels than a page holds go over pages, axes shared over all, and it is said",
  {
    needs_poppler()
    set.seed(3)
    table <- data.frame(
      f = rep(sprintf("site %03d", 1:200), each = 6),
      x = rnorm(1200),
      y = rnorm(1200)
    )
    fig <- plate(
      facets(panel(table, x = x, y = y, ink_points(size = 0.6)), across = f, per_row = 8),
      width = 178,
      house = low_house(220)
    )
    folder <- withr::local_tempdir()
    expect_message(paths <- save_plate(fig, file.path(folder, "sites.pdf")), "3 pages")
    expect_identical(basename(paths), paste0("sites-", 1:3, ".pdf"))
    words <- lapply(paths, function(path) read_pdf_words(path)$words$word)
    expect_setequal(
      as.integer(
        unlist(lapply(words, function(page) page[nchar(page) == 3 & grepl("^[0-9]+$", page)]))
      ),
      1:200
    )
    scenes <- nelvat:::page_scenes(fig, NULL)
    expect_identical(scenes[[1]]$axes[[1]]$range, scenes[[3]]$axes[[1]]$range)
    expect_equal(scenes[[3]]$panels$h[1], scenes[[1]]$panels$h[1], tolerance = 0.02)
    for (scene in scenes) expect_identical(scene_faults(scene), NULL)
    grid <- plate(
      facets(
        panel(
          table,
          x = x,
          y = y,
          keep = f < "site 061",
          derive = list(side = derived(ifelse(x > 0, "right", "left"))),
          ink_points()
        ),
        across = side,
        down = f
      ),
      width = 100,
      house = low_house(200)
    )
    pages <- nelvat:::page_scenes(grid, NULL)
    expect_gt(length(pages), 1)
    expect_setequal(pages[[2]]$panels$heading[1:2], c("right", "left"))
    expect_identical(sum(vapply(pages, function(page) nrow(page$panels), 0L)), 120L)
  }
)

test_that("a figure of several pages is described, proved and has its numbers as one", {
  table <- data.frame(x = rep(1:3, 40), y = 1:120, f = rep(sprintf("site %02d", 1:40), each = 3))
  fig <- plate(
    facets(panel(table, x = x, y = y, ink_points()), across = f, per_row = 2),
    width = 90,
    house = low_house(120)
  )
  pages <- nelvat:::page_scenes(fig, NULL)
  expect_gt(length(pages), 2)
  expect_lt(diff(range(unlist(lapply(pages, function(page) page$panels$h)))), 0.15)
  expect_match(legend_text(fig), "n = 3 a panel")
  expect_length(source_data(fig), 40)
  expect_s3_class(proof(fig), "nelvat_proof")
  expect_match(alt_text(fig), "40 panels")
})

test_that("the page's shape says how many panels stand in a row", {
  columns <- function(n, width, height) {
    table <- data.frame(f = sprintf("%02d", seq_len(n)), x = seq_len(n), y = seq_len(n))
    max(
      as_scene(
        plate(
          facets(panel(table, x = x, y = y, ink_points()), across = f, per_row = "page"),
          width = width,
          height = height
        )
      )$panels$column
    )
  }
  expect_identical(columns(12, 178, 120), 4L)
  expect_gt(columns(12, 178, 60), columns(12, 100, 200))
})

test_that("the example grids are drawn from the file as from the calls, their PDFs sound", {
  needs_poppler()
  folder <- withr::local_tempdir()
  lines <- gsub(
    "../study",
    system.file("study", package = "nelvat"),
    readLines(example_file("facets.yaml")),
    fixed = TRUE
  )
  environment <- new.env()
  for (expression in as.list(parse(example_file("facets.R")))) {
    if (!identical(expression[[1]], as.name("for")) && !grepl("folder", deparse(expression)[1])) {
      suppressWarnings(eval(expression, environment))
    }
  }
  for (name in names(environment$plates)) {
    by_call <- environment$plates[[name]]
    path <- file.path(folder, "facets.yaml")
    writeLines(
      sub(
        "place: measures",
        paste0("place: ", name),
        sub("height: 120", paste0("height: ", by_call$height_mm), lines)
      ),
      path
    )
    scene <- suppressWarnings(as_scene(by_call))
    expect_identical(suppressWarnings(as_scene(read_figure(path)$plate)), scene, label = name)
    expect_identical(scene_faults(scene), NULL, label = paste("what is wrong with", name))
    grid <- scene$panels[scene$panels$role == "panel", ]
    expect_lt(diff(range(grid$w)), 0.01)
    expect_lt(diff(range(grid$h)), 0.01)
    expect_lte(scene$layout$rounds, 4)
    out <- file.path(folder, paste0(name, ".pdf"))
    suppressWarnings(save_plate(by_call, out))
    upright <- all(scene$texts$angle %in% c(0, 90))
    if (upright) {
      expect_identical(
        nrow(overlapping_boxes(read_pdf_words(out)$words, 0.1)),
        0L,
        label = paste("words that touch in", name)
      )
    }
  }
})

test_that(
  "own category axes leave out levels a panel lacks, slots or panels as wide as these ask",
  {
    table <- data.frame(
      f = c("a", "b", "c", "d", "b", "d"),
      v = 1:6,
      s = c(rep("one", 4), rep("two", 2))
    )
    design <- panel(table, x = f, y = v, ink_bars())
    even <- scene_of(facets(design, across = s, range_per = c(x = "panel")))
    expect_identical(even$axes[[2]]$text, c("b", "d"))
    bars <- even$marks[[1]]$table
    widths <- (bars$x1 - bars$x0) * even$panels$w[bars$panel]
    expect_lt(diff(range(widths)), 0.01)
    second <- bars[bars$panel == 2, ]
    expect_equal((second$x0 + second$x1) / 2, even$axes[[2]]$unit)
    by_levels <- scene_of(facets(design, across = s, range_per = c(x = "panel"), room = "levels"))
    expect_equal(by_levels$panels$w[1] / by_levels$panels$w[2], 2, tolerance = 1e-6)
    expect_identical(scene_of(facets(design, across = s))$axes[[1]]$text, c("a", "b", "c", "d"))
  }
)

test_that("grid lines stand at the breaks, under the ink", {
  scene <- scene_of(
    panel(loaves, x = rise, y = moisture, ink_points(), y_axis = axis_of(grid = TRUE)),
    120,
    70
  )
  expect_identical(scene$marks[[1]]$ink, "grid")
  expect_equal(scene$marks[[1]]$table$y0, scene$axes[[2]]$unit)
})

test_that("within days the reader sees the hours, and each date once", {
  scene <- scene_of(
    panel(study("probe"), x = time, y = chamber, x_axis = axis_of(every = "6 hours"), ink_line()),
    178,
    60
  )
  text <- scene$axes[[1]]$text
  expect_identical(sum(grepl("Mar", text)), 4L)
  expect_identical(text[1:3], c("00:00\n2 Mar", "06:00", "12:00"))
  ticks <- scene$texts[scene$texts$role == "tick" & scene$texts$string %in% text, ]
  expect_lt(diff(range(ticks$y0)), 0.01)
})

test_that("each level's rows are counted by panel", {
  scene <- scene_of(
    facets(panel(loaves, x = rise, y = firmness, colour = flour, ink_points()), across = hydration)
  )
  middle <- scene$panels$id[scene$panels$heading == "80%"]
  own <- scene$accounts[scene$accounts$area == middle & scene$accounts$colour == "Rye", ]
  expect_identical(
    own$used,
    sum(loaves$data$hydration == 80 & loaves$data$flour == "rye" & !is.na(loaves$data$firmness))
  )
  expect_identical(sum(scene$accounts$used), sum(scene$facts$n))
})

test_that("padding is a share of the range of the data", {
  table <- data.frame(x = c(0, 10), y = c(5, 15))
  range_of <- function(padding) {
    scene_of(
      panel(table, x = x, y = y, ink_points(), y_axis = axis_of(padding = padding)),
      120,
      70
    )$axes[[2]]$range
  }
  expect_equal(range_of(0), c(5, 15))
  expect_equal(range_of(0.5), c(0, 20))
  bars <- scene_of(
    panel(
      data.frame(f = c("a", "b"), v = c(4, 10)),
      x = f,
      y = v,
      ink_bars(error = "none"),
      y_axis = axis_of(padding = 0.2)
    ),
    120,
    70
  )
  expect_equal(bars$axes[[2]]$range, c(0, 12))
})

test_that("one panel's axis can be its own among shared ones, by level or by number", {
  loaves <- study("loaves")
  axes <- function(...) {
    suppressWarnings(
      as_scene(
        plate(
          facets(panel(loaves, x = rise, y = volume, ink_points()), across = flour, ...),
          width = 178,
          height = 60
        )
      )
    )$panels$y_axis
  }
  shared <- axes()
  expect_length(unique(shared), 1)
  alone <- axes(alone = list(y = "spelt"))
  expect_identical(alone, axes(alone = list(y = 2)))
  expect_identical(alone == alone[2], c(FALSE, TRUE, FALSE, FALSE))
  expect_identical(length(unique(alone[-2])), 1L)
  expect_error(
    facets(
      panel(loaves, x = rise, y = volume, ink_points()),
      across = flour,
      alone = list(y = "splet")
    ),
    "Did you mean",
    class = "nelvat_error_argument"
  )
})

test_that("marks can stand in some panels only, keys have titles of the plate or are left out", {
  loaves <- study("loaves")
  design <- panel(
    loaves,
    x = rise,
    y = volume,
    colour = bakery,
    shape = flour,
    ink_points(),
    ink_text("here", x = 0.1, y = 0.9, at = "panel", where = flour == "rye"),
    ink_rule(y = 600, where = flour != "rye")
  )
  scene <- suppressWarnings(
    as_scene(
      plate(
        facets(design, across = flour),
        width = 178,
        height = 60,
        key_titles = c(bakery = "Baked at", flour = "none")
      )
    )
  )
  rye <- scene$panels$id[scene$panels$heading == "Rye"]
  expect_identical(scene$texts$panel[scene$texts$role == "note"], rye)
  rule <- Find(function(layer) layer$ink == "rule", scene$marks)$table
  expect_setequal(rule$panel, setdiff(scene$panels$id, rye))
  expect_identical(scene$texts$string[scene$texts$role == "key title"], "Baked at")
  expect_identical(unique(scene$keys$key), "bakery")
  right <- as_scene(
    plate(
      panel(loaves, x = rise, y = volume, colour = flour, ink_points()),
      width = 120,
      height = 60,
      house = house(key = "right")
    )
  )
  expect_gt(min(right$keys$x), right$panels$x + right$panels$w)
})

test_that("nested levels that have no room in one row wrap by the outer one, over pages too", {
  figure <- plate(facets(scatter, across = c(hydration, bakery)), width = "single")
  scene <- as_scene(figure)
  expect_lte(max(scene$panels$column), 3)
  expect_identical(scene$panels$row, rep(1:3, each = 3))
  headings <- scene$texts[scene$texts$role == "heading", ]
  outer <- headings[headings$string %in% c("60%", "80%", "100%"), ]
  inner <- headings[headings$string == "Harbour", ]
  expect_equal(outer$x0, scene$panels$x[c(1, 4, 7)], tolerance = 0.01)
  expect_true(all(outer$y1 < inner$y0) && all(diff(outer$y0) > 10))
  expect_null(scene_faults(scene))
  rows <- function(block, ...) as_scene(plate(block, ...))$panels$row
  # Two outer levels in a row where there is room for no more, and never a part of one.
  expect_identical(
    rows(facets(scatter, across = c(hydration, bakery), per_row = 7), width = "double"),
    rep(c(1L, 1L, 2L), each = 3)
  )
  # A row too short for an outer level: panels follow each other, and each says both levels.
  short <- as_scene(
    plate(facets(scatter, across = c(hydration, bakery), per_row = 2), width = "single")
  )
  expect_match(short$panels$heading[1], "60%, ")
  pages <- nelvat:::page_scenes(change(figure, house = low_house(70)), NULL)
  expect_gt(length(pages), 1)
  said <- lapply(unname(pages), function(page) page$texts$string[page$texts$role == "heading"])
  expect_identical(
    unlist(lapply(said, intersect, c("60%", "80%", "100%"))),
    c("60%", "80%", "100%")
  )
  many <- data.frame(a = rep(letters[1:20], each = 3), x = 1:60, y = 1:60)
  expect_gt(
    max(rows(facets(panel(many, x = x, y = y, ink_points()), across = a), width = "single")),
    3
  )
})

test_that("columns of nested levels go on in further lines, each begun by an outer level", {
  two <- panel(loaves, x = rise, y = c(ph, volume), ink_points())
  figure <- plate(facets(two, across = c(bakery, flour)), width = "single")
  scene <- suppressWarnings(as_scene(figure))
  expect_identical(nrow(scene$panels), 24L)
  expect_lte(max(scene$panels$column), 4)
  expect_null(scene_faults(scene))
  headings <- scene$texts[scene$texts$role == "heading", ]
  for (outer in c("Harbour", "Old Mill", "Station")) {
    over <- headings[headings$string == outer, ]
    expect_identical(nrow(over), 1L)
    inner <- headings[
      headings$string == "Wheat" & headings$y0 > over$y1 & headings$y0 < over$y1 + 25,
    ]
    expect_identical(nrow(inner), 1L)
    line <- scene$panels[scene$panels$y > inner$y1 & scene$panels$y < inner$y1 + 60, ]
    expect_equal(over$x0, min(line$x), tolerance = 0.01)
  }
  # On several pages each begins with what heads its columns.
  pages <- unname(
    suppressWarnings(nelvat:::page_scenes(change(figure, house = low_house(110)), NULL))
  )
  expect_gt(length(pages), 1)
  expect_identical(sum(vapply(pages, function(page) nrow(page$panels), 0L)), 24L)
  for (page in pages) {
    said <- page$texts$string[page$texts$role == "heading"]
    expect_true(any(c("Harbour", "Old Mill", "Station") %in% said) && "Wheat" %in% said)
    expect_null(scene_faults(page))
  }
  down <- suppressWarnings(
    as_scene(
      plate(facets(scatter, across = c(bakery, flour), down = hydration), width = "single")
    )
  )
  expect_identical(nrow(down$panels), 36L)
  expect_identical(sum(down$texts$role == "row heading"), 9L)
  expect_null(scene_faults(down))
})

test_that("matrices of each level go over lines where they have no room beside each other", {
  for (width in c("single", "double")) {
    scene <- suppressWarnings(
      as_scene(
        plate(
          every_pair(study("loaves"), c(rise, volume, ph, acidity), within = flour),
          width = width
        )
      )
    )
    expect_identical(nrow(scene$panels), 40L)
    expect_null(scene_faults(scene))
    said <- scene$texts$string[scene$texts$role == "heading"]
    expect_true(all(c("Wheat", "Spelt", "Rye") %in% said))
  }
  # What has room is not parted.
  wide <- suppressWarnings(
    as_scene(
      plate(every_pair(study("loaves"), c(rise, volume), within = hydration), width = "double")
    )
  )
  expect_identical(max(wide$panels$row), 2L)
})

test_that("a page without a height holds all rows, one that was given a height is held to it", {
  many <- data.frame(a = rep(letters, each = 3), x = 1:78, y = 78:1)
  tall <- facets(panel(many, x = x, y = y, ink_points()), down = a)
  expect_identical(nrow(as_scene(plate(tall, width = "single"))$panels), 26L)
  expect_error(
    as_scene(plate(tall, width = "single", height = 100)),
    class = "nelvat_error_space"
  )
  expect_gt(length(nelvat:::page_scenes(plate(tall, width = "single"), NULL)), 1)
  found <- proof(plate(tall, width = "single"))
  expect_identical(found$verdict[found$rule == "page height"], "good")
  high <- proof(plate(tall, width = "single", height = 600))
  expect_identical(high$verdict[high$rule == "page height"], "bad")
})

test_that(
  "each panel says its outer level where no heading can stand over all of that level's columns",
  {
    table <- data.frame(
      a = rep(c("A", "B"), each = 36),
      b = rep(letters[1:12], 6),
      x = 1:72,
      y = rep(1:3, 24),
      z = 72:1
    )
    scene <- as_scene(
      plate(
        facets(panel(table, x = x, y = c(y, z), ink_points()), across = c(a, b)),
        width = "single"
      )
    )
    said <- scene$texts$string[scene$texts$role == "heading"]
    expect_setequal(said, paste0(rep(c("A", "B"), each = 12), ", ", letters[1:12]))
    expect_null(scene_faults(scene))
  }
)

test_that(
  "a title over nested levels stands on every page, columns without first panel are headed",
  {
    titled <- plate(
      facets(scatter, across = c(hydration, bakery), heading = "A title"),
      width = "single",
      house = low_house(70)
    )
    pages <- unname(suppressWarnings(nelvat:::page_scenes(titled, NULL)))
    expect_gt(length(pages), 1)
    for (page in pages) {
      headings <- page$texts[page$texts$role == "heading", ]
      expect_identical(sum(headings$string == "A title"), 1L)
      expect_lt(
        max(headings$y1[headings$string == "A title"]),
        min(headings$y0[grepl("%", headings$string)])
      )
      expect_null(scene_faults(page))
    }
    table <- expand.grid(a = c("A", "B"), b = c("u", "v"), c = c("p", "q"), i = 1:4)
    table <- transform(table[!(table$a == "A" & table$c == "p"), ], x = i, y = i)
    for (empty in c("draw", "drop", "say")) {
      scene <- as_scene(
        plate(
          facets(
            panel(table, x = x, y = y, ink_points()),
            across = c(a, b),
            down = c,
            empty = empty
          ),
          width = 170,
          height = 90
        )
      )
      headings <- scene$texts[scene$texts$role == "heading", ]
      expect_identical(sort(headings$string), c("A", "B", "u", "u", "v", "v"))
      # The outer levels on one line, above all others.
      expect_equal(diff(headings$y0[headings$string %in% c("A", "B")]), 0, tolerance = 1e-6)
      expect_lt(
        max(headings$y1[headings$string %in% c("A", "B")]),
        min(headings$y0[headings$string %in% c("u", "v")])
      )
      for (one in unique(scene$panels$column)) {
        expect_true(
          any(
            abs(headings$x0 - min(scene$panels$x[scene$panels$column == one])) < 0.5 &
              headings$string %in% c("u", "v")
          )
        )
      }
    }
  }
)

test_that("what cannot stand behind others is refused, and so are counts of no levels", {
  table <- data.frame(rise = 1:6, flour = c("rye", "spelt"), verdict = c("no", "yes", "yes"))
  expect_error(
    facets(panel(table, colour = verdict, ink_pie()), across = flour, behind = TRUE),
    "nothing to draw faintly",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(table, x = rise, ink_violin(), y_axis = axis_of(counts = TRUE)),
    "shows no column",
    class = "nelvat_error_argument"
  )
})

test_that("a column splits one way only", {
  table <- data.frame(rise = 1:6, flour = c("rye", "spelt"))
  expect_error(
    facets(panel(table, x = rise, ink_histogram()), across = flour, down = flour),
    "unlike columns",
    class = "nelvat_error_argument"
  )
})

test_that("facets of a column without any value are refused by its name", {
  table <- data.frame(x = 1:4, y = 4:1, g = NA_character_, h = c("a", NA, "b", NA))
  book <- codebook(table, g = category())
  drawn <- function(...) facets(panel(book, x = x, y = y, ink_points(), ...), across = h)
  one <- panel(book, x = x, y = y, ink_points())
  said <- "`across` has nothing to tell apart.*\"g\""
  expect_error(facets(one, across = g), said, class = "nelvat_error_data")
  expect_error(facets(one, across = h, down = g), "`down`", class = "nelvat_error_data")
  expect_error(drawn(keep = is.na(h)), "\"h\"", class = "nelvat_error_data")
  expect_s3_class(facets(one, across = g, missing = "own"), "nelvat_block")
})
