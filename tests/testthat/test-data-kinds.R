test_that("quantities are shown in another unit, values and title alike", {
  table <- data.frame(g = c("a", "b"), rise = c(10, 25), heat = c(0, 100), rate = c(1, 2))
  book <- codebook(
    table,
    rise = quantity("Rise", "mm", show = "cm"),
    heat = quantity("Heat", "\u00b0C", show = "K"),
    rate = quantity("Rate", "umol m^-2^ s^-1^", show = "mmol m^-2^ h^-1^")
  )
  of <- function(y) {
    nelvat:::resolve_variable(rlang::sym(y) |> rlang::new_quosure(), book, "y", NULL)
  }
  expect_equal(of("rise")$values, c(1, 2.5))
  expect_equal(of("heat")$values, c(273.15, 373.15))
  expect_equal(of("rate")$values, c(3.6, 7.2))
  expect_identical(nelvat:::kind_title(book$columns$rise), "Rise (cm)")
})

test_that("units convert by hand-worked factors, and only where they measure the same", {
  factor <- function(from, to) nelvat:::unit_conversion(from, to)$factor
  expect_equal(factor("mL", "L"), 1e-3)
  expect_equal(factor("mmol/g", "mol kg^-1^"), 1)
  expect_equal(factor("CFU/g", "CFU/mg"), 1e-3)
  expect_equal(factor("mm^2^", "cm^2^"), 1e-2)
  expect_equal(factor("kPa", "bar"), 1e-2)
  expect_equal(factor("h", "min"), 60)
  expect_equal(factor("\u00b5m", "um"), 1)
  expect_equal(factor("g/mL", "kg m^-3^"), 1000)
  expect_equal(factor("N", "kg m s^-2^"), 1)
  expect_equal(factor("km h^-1^", "m/s"), 1 / 3.6)
  expect_snapshot(error = TRUE, quantity(unit = "mm", show = "g"))
  expect_snapshot(error = TRUE, quantity(unit = "xq", show = "m"))
  expect_snapshot(error = TRUE, quantity(show = "m"))
})

test_that("levels take the order asked: listed, by appearance, by number, by statistic", {
  table <- data.frame(h = c("10 h", "9 h", "2 h", "none"), v = c(1, 5, 3, NA))
  levels_of <- function(order) codebook(table, h = category(order = order))$columns$h$levels
  expect_identical(levels_of(by_appearance()), table$h)
  expect_identical(levels_of(by_number()), c("2 h", "9 h", "10 h", "none"))
  expect_identical(levels_of(by_statistic(v)), c("10 h", "2 h", "9 h", "none"))
  expect_identical(
    levels_of(by_statistic(v, "max", descending = TRUE)),
    c("9 h", "2 h", "10 h", "none")
  )
  watered <- panel(
    study("loaves"),
    x = hydration,
    y = rise,
    order = list(hydration = by_number()),
    ink_bars()
  )
  expect_identical(watered$variables$x$kind$levels, c("60", "80", "100"))
  medians <- tapply(study("loaves")$data$rise, study("loaves")$data$flour, median)
  ordered <- panel(
    study("loaves"),
    x = flour,
    y = rise,
    order = list(flour = by_statistic(rise, "median")),
    ink_bars()
  )
  expect_identical(ordered$variables$x$kind$levels, names(sort(medians)))
  expect_error(levels_of(by_statistic(w)), class = "nelvat_error_column")
  expect_error(by_statistic(v, "mode"), class = "nelvat_error_argument")
})

test_that("an order in one figure leaves each level its colour and its place", {
  fills <- function(...) {
    scene <- as_scene(
      plate(
        panel(
          study("loaves"),
          x = hydration,
          y = rise,
          colour = flour,
          ink_bars(error = "none"),
          ...
        ),
        width = 120,
        height = 60
      )
    )
    stats::setNames(scene$keys$colour, scene$keys$label)
  }
  plain <- fills()
  turned <- fills(order = list(flour = c("Rye", "wheat")))
  expect_identical(names(turned)[1:2], c("Rye", "Wheat"))
  expect_identical(turned[names(plain)], plain)
  expect_error(fills(order = list(flour = "barley")), class = "nelvat_error_level")
  expect_error(fills(order = list(rise = "1")), class = "nelvat_error_kind")
})

test_that("a codebook written is read back the same, and unknown properties are kept", {
  folder <- withr::local_tempdir()
  file.copy(study_file("loaves.csv"), folder)
  document <- yaml::read_yaml(study_file("loaves.codebook.yaml"))
  document$licence <- "none"
  document$fields[[7]]$constraints <- list(minimum = 0L)
  writeLines(jsonlite::toJSON(document, auto_unbox = TRUE), file.path(folder, "in.json"))
  book <- read_data(file.path(folder, "loaves.csv"), file.path(folder, "in.json"))
  expect_identical(book$columns, study("loaves")$columns)
  for (name in c("out.yaml", "out.json")) {
    write_codebook(book, file.path(folder, name))
    again <- read_data(file.path(folder, "loaves.csv"), file.path(folder, name))
    settled <- function(kind) kind[setdiff(names(kind), "order")]
    expect_identical(lapply(again$columns, settled), lapply(book$columns, settled))
    expect_identical(again$document$licence, "none")
    expect_identical(again$document$fields[[7]]$constraints$minimum, 0L)
  }
})

test_that("what cannot be told by a codebook file is said with its place", {
  said <- function(...) {
    path <- withr::local_tempfile(fileext = ".yaml")
    writeLines(c(...), path)
    said <- rlang::cnd_message(
      tryCatch(read_data(study_file("loaves.csv"), path), nelvat_error = identity)
    )
    gsub(
      dirname(study_file("loaves.csv")),
      "STUDY",
      gsub(path, "FILE", said, fixed = TRUE),
      fixed = TRUE
    )
  }
  expect_snapshot({
    cat(said("title: no fields"))
    cat(said("fields: [{type: number}]"))
    cat(said("fields: [{name: rise, type: numer}]"))
    cat(said("fields: [{name: rize, type: number}]"))
    cat(said("fields: [{name: rise}, {name: rise}]"))
    cat(said("fields: [{name: flour, categories: [wheat, rye]}]"))
    cat(said("fields: [{name: flour, order: {by: rise}}]"))
    cat(said("fields: [{name: flour"))
  })
})

test_that(
  "a draft names kinds with reasons, levels with counts, and what to look at; and it reads",
  {
    folder <- withr::local_tempdir()
    table <- data.frame(
      id = sprintf("S%02d", 1:30),
      grade = rep(1:3, 10),
      v = c("n.a", seq(1, 15, 0.5)),
      site = "x",
      day = as.Date("2026-01-01") + 0:29,
      sold = rep(c(TRUE, FALSE), 15)
    )
    utils::write.csv(table, file.path(folder, "t.csv"), row.names = FALSE)
    draft <- draft_codebook(file.path(folder, "t.csv"))
    expect_snapshot(cat(draft, sep = "\n"))
    call <- run_nelvat("codebook", file.path(folder, "t.csv"))
    expect_identical(call$said, draft)
    out <- file.path(folder, "c.yaml")
    expect_identical(run_nelvat("codebook", "--output", out, file.path(folder, "t.csv"))$said, out)
    writeLines(sub("missingValues:.*", "missingValues: ['', n.a]", readLines(out)), out)
    expect_identical(
      read_data(file.path(folder, "t.csv"), out)$columns$grade$levels,
      c("1", "2", "3")
    )
  }
)

test_that(
  "running windows are those of stats::runmed and of plain means, missing values passed over",
  {
    x <- c(5, 6, 30, 5, NA, 7, 6, 5, 8)
    held <- !is.na(x)
    for (width in c(3, 5, 7)) {
      got <- running_median(x, width)
      expect_identical(
        as.numeric(got[held]),
        as.numeric(stats::runmed(x[held], width, endrule = "median"))
      )
      expect_true(is.na(got[5]))
    }
    expect_equal(as.numeric(running_mean(1:5, 3)), c(1.5, 2, 3, 4, 4.5))
    probe <- study("probe")$data$core
    spikeless <- without_spikes(probe, 7)
    expect_null(attributes(spikeless))
    expect_lt(max(spikeless, na.rm = TRUE), 40)
    n_spikes <- sum(is.na(spikeless) & !is.na(probe))
    expect_gte(n_spikes, 28)
    expect_lt(n_spikes, 200)
    expect_error(running_median(x, 4), class = "nelvat_error_argument")
  }
)

test_that("rows are kept and columns derived before statistics, and it is in the facts", {
  scene <- as_scene(
    plate(
      panel(
        study("probe"),
        x = time,
        y = clean,
        keep = time < as.POSIXct("2026-03-03", tz = "UTC"),
        derive = list(
          clean = derived(without_spikes(core, 7), quantity("Dough core", unit = "\u00b0C"))
        ),
        ink_points()
      ),
      width = 120,
      height = 50
    )
  )
  expect_identical(scene$axes[[2]]$title, "Dough core (\u00b0C)")
  expect_true("spikes removed" %in% scene$columns$what)
  expect_identical(scene$facts$n + scene$facts$dropped, 4320L)
  expect_error(
    panel(study("loaves"), x = rise, y = ph, keep = rise > 1000, ink_points()),
    class = "nelvat_error_data"
  )
  expect_error(
    panel(study("loaves"), x = rise, y = ph, keep = rise, ink_points()),
    class = "nelvat_error_expression"
  )
  expect_error(panel(study("loaves"), x = rise, y = ph, derive = list(rise * 2), ink_points()))
})

test_that("missing values follow their policy, and are counted by column", {
  scene_of <- function(...) {
    suppressWarnings(as_scene(plate(panel(study("loaves"), ...), width = 120, height = 60)))
  }
  plain <- scene_of(x = flour, y = firmness, ink_bars())
  expect_identical(
    plain$columns,
    data.frame(column = "firmness", what = "missing values left out", n = 4L, out = TRUE)
  )
  filled <- scene_of(x = flour, y = firmness, missing = fill_with("median"), ink_bars())
  expect_identical(filled$facts$n, 144L)
  expect_match(filled$columns$what, "filled with the median")
  expect_false(filled$columns$out)
  own <- scene_of(x = flour, y = rise, colour = bakery, missing = list(colour = "own"), ink_bars())
  expect_identical(own$keys$label, c("Harbour", "Old Mill", "Station", "not recorded"))
  dropped <- scene_of(x = flour, y = rise, colour = bakery, ink_bars())
  expect_identical(dropped$facts$n, 141L)
  split <- suppressWarnings(
    as_scene(
      plate(
        facets(
          panel(study("loaves"), x = flour, y = rise, ink_bars()),
          across = bakery,
          missing = "own"
        ),
        width = 178,
        height = 60
      )
    )
  )
  expect_identical(split$panels$heading, c("Harbour", "Old Mill", "Station", "not recorded"))
  expect_snapshot(
    error = TRUE,
    panel(study("loaves"), x = flour, y = rise, missing = "gaps", ink_bars())
  )
  expect_snapshot(
    error = TRUE,
    panel(study("loaves"), x = flour, y = rise, missing = list(hue = "own"), ink_bars())
  )
  expect_snapshot(error = TRUE, fill_with("mode"))
})

test_that("what is left out is said once for a figure", {
  nelvat:::forget_said()
  table <- study("loaves")$data
  table$starter_age[1] <- NA
  fig <- plate(panel(table, x = starter_age, y = rise, ink_points()), width = 80, height = 60)
  expect_warning(
    as_scene(fig),
    "1 of [0-9]+ values of \"starter_age\" is missing and not drawn",
    class = "nelvat_warning_rows"
  )
  expect_no_warning(as_scene(fig))
})

test_that("several measures in one panel are series of their own colour on one axis", {
  fig <- plate(
    panel(
      study("probe"),
      x = time,
      y = c(chamber, surface, core),
      colour = measure("Temperature"),
      ink_points(size = 0.3)
    ),
    width = 120,
    height = 60
  )
  scene <- suppressWarnings(as_scene(fig))
  expect_identical(nrow(scene$panels), 1L)
  expect_identical(scene$keys$label, c("Chamber", "Dough surface", "Dough core"))
  expect_true("Temperature (\u00b0C)" %in% scene$texts$string)
  probe <- study("probe")$data
  expect_identical(scene$facts$n, sum(!is.na(probe[c("chamber", "surface", "core")])))
  expect_snapshot(
    error = TRUE,
    panel(study("probe"), x = time, y = c(core, gas), colour = measure(), ink_points())
  )
  expect_snapshot(
    error = TRUE,
    panel(study("probe"), x = time, y = core, colour = measure(), ink_points())
  )
})

test_that("of several blocks, what is left out is told with the block", {
  loaves <- study("loaves")
  firm <- panel(loaves, x = rise, y = firmness, ink_points())
  sour <- panel(loaves, x = rise, y = acidity, ink_points())
  fig <- plate(firm, second = sour, third = sour, width = 170, height = 60)
  said <- rlang::catch_cnd(as_scene(fig), "nelvat_warning_rows")
  expect_match(
    conditionMessage(said),
    "4 of 144 values of \"firmness\" are missing and not drawn in block 1",
    fixed = TRUE
  )
  expect_match(
    conditionMessage(said),
    "\"acidity\" are missing and not drawn in block \"second\" and block \"third\"",
    fixed = TRUE
  )
  expect_identical(suppressWarnings(as_scene(fig))$columns$column, c("firmness", "acidity"))
})
