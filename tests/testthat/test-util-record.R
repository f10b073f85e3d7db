# Records are made whole and checked as they are made; nothing sets a field on one later.

loaves <- study("loaves")
bars <- plate(
  panel(loaves, x = flour, y = rise, colour = hydration, ink_bars()),
  width = 80,
  height = 60
)
resolved <- nelvat:::resolve_plate(bars)$blocks[[1]]
record_error <- function(code, message) expect_error(code, message, class = "nelvat_error_record")

test_that("a record's fields are known and checked", {
  fields <- list(id = rlang::is_string, n = is.numeric)
  expect_s3_class(nelvat:::check_record(list(id = "a", n = 1), "thing", fields), "nelvat_thing")
  record_error(nelvat:::check_record(list(id = 1, n = 1), "thing", fields), "field \"id\" holds 1")
  record_error(nelvat:::check_record(list(id = "a"), "thing", fields), "lacks \"n\"")
  record_error(
    nelvat:::check_record(list(id = "a", n = 1, m = 2), "thing", fields),
    "no field \"m\""
  )
})

test_that("no field of a record is set after it was made", {
  layer <- resolved$layers[[1]]
  record_error(layer$behind <- TRUE, "set after it was made")
  record_error(layer[["behind"]] <- TRUE, "Found \"behind\"")
  expect_true(nelvat:::changed(layer, behind = TRUE)$behind)
  expect_false(layer$behind)
  record_error(nelvat:::changed(layer, behind = "yes"), "field \"behind\" holds \"yes\"")
  record_error(nelvat:::changed(layer, besides = TRUE), "no field \"besides\"")
})

test_that("a variable of another kind, transform or form is not made", {
  kind <- quantity("Mass", unit = "g")
  mass <- nelvat:::new_variable("mass", kind, c(1, 2))
  expect_identical(mass$transform, "identity")
  record_error(nelvat:::new_variable("mass", "quantity", 1), "\"kind\"")
  record_error(nelvat:::new_variable("mass", kind, "1"), "\"values\"")
  record_error(nelvat:::new_variable("mass", kind, 1, transform = "cube"), "\"transform\"")
  record_error(nelvat:::new_variable(c("a", "b"), kind, 1), "\"id\"")
  record_error(nelvat:::changed(mass, n_missing = -1), "\"n_missing\"")
  record_error(nelvat:::changed(mass, note = list(what = "filled")), "\"note\"")
})

test_that("a layer has rows with panels, an ink and variables without values", {
  table <- data.frame(panel = 1L, x = 1, y = 2)
  x <- nelvat:::new_variable("x", quantity("x"), 1)
  layer <- nelvat:::new_layer(ink_points(), table, x, x)
  expect_null(layer$x$values)
  expect_setequal(names(attributes(layer$table)), c("names", "class", "row.names"))
  record_error(nelvat:::new_layer(list(), table, x, x), "\"ink\"")
  record_error(nelvat:::new_layer(ink_points(), table[1:2], x, x), "\"table\"")
  record_error(
    nelvat:::new_layer(ink_points(), data.frame(panel = NA, x = 1, y = 1), x, x),
    "\"table\""
  )
  record_error(nelvat:::new_layer(ink_points(), table, x, x, role = "frame"), "\"role\"")
  record_error(nelvat:::new_layer(ink_points(), table, x, x, side = "left"), "\"side\"")
  record_error(nelvat:::new_traits(mark = "blob"), "mark")
  record_error(nelvat:::new_traits(summarises = "everything"), "summarises")
})

test_that("what an ink computes is held to its form", {
  layer <- resolved$layers[[1]]
  good <- layer$trained
  expect_identical(nelvat:::check_trained(good, layer), good)
  record_error(
    nelvat:::check_trained(c(good[setdiff(names(good), "zero")], list(zero = "z")), layer),
    "ink_bars"
  )
  good$used <- TRUE
  record_error(nelvat:::check_trained(good, layer), "ink_bars")
})

test_that("a table of areas has one id each, known roles, places and hosts", {
  areas <- nelvat:::new_areas(row = c(1, 1), column = 1:2)
  expect_identical(areas$id, 1:2)
  record_error(nelvat:::new_areas(row = 1, column = 1, role = "frame"), "no role \"frame\"")
  record_error(nelvat:::new_areas(row = 0, column = 1), "no place")
  record_error(nelvat:::new_areas(row = 1, column = 1, role = "marginal"), "a host and a side")
  record_error(
    nelvat:::new_areas(row = 1, column = 1, role = "marginal", host = 7L, side = "x", tier = 1L),
    "host is not there"
  )
  record_error(nelvat:::check_areas(nelvat:::changed(areas, id = c(1L, 1L))), "one id")
  record_error(nelvat:::check_areas(nelvat:::changed(areas, x_shown = c(1L, NA))), "has none")
})

test_that("an axis has a direction, a finite range and known areas, as trained and as fitted", {
  axis <- resolved$axes[[1]]
  expect_s3_class(axis, "nelvat_trained_axis")
  record_error(nelvat:::changed(axis, range = c(0, Inf)), "\"range\"")
  record_error(nelvat:::changed(axis, range = c(1, 1)), "\"range\"")
  record_error(nelvat:::changed(axis, direction = "z"), "\"direction\"")
  laid <- nelvat:::lay_out(
    list(resolved),
    list(),
    bars,
    nelvat:::house_font(bars$house$families),
    NULL
  )
  fit <- laid$fits[[1]][[2]]
  expect_s3_class(fit, "nelvat_fitted_axis")
  record_error(nelvat:::changed(fit, unit = c(0, NA)), "\"unit\"")
})

test_that("accounts add up: rows given are those used, missing and out of range", {
  accounts <- as_scene(bars)$accounts
  expect_identical(nelvat:::new_accounts(accounts), accounts)
  record_error(
    nelvat:::new_accounts(nelvat:::changed(accounts, used = accounts$used + 1L)),
    "accounts is not right"
  )
  record_error(nelvat:::new_accounts(accounts[-1]), "accounts is not right")
})

test_that("a look has a colour for each of its levels", {
  record_error(
    nelvat:::new_look("a", "A", c("x", "y"), c("X", "Y"), colour = "#000000"),
    "\"colour\""
  )
  record_error(nelvat:::new_look("a", "A", c("x", "x"), c("X", "Y")), "\"levels\"")
})

test_that("every area of a plate is a row of one table, numbered through, each axis its own", {
  fig <- plate(
    slice = facets(panel(loaves, x = rise, y = firmness, ink_points()), across = flour),
    beside(joint(loaves, x = rise, y = volume), zoom(of = "slice", x = c(40, 60), panel = 2)),
    beside(every_pair(loaves, c(rise, volume)), text_panel("words")),
    per_row = 1,
    width = 178,
    height = 220
  )
  panels <- suppressWarnings(as_scene(fig))$panels
  expect_identical(panels$id, seq_len(nrow(panels)))
  expect_setequal(panels$role, c("panel", "marginal", "zoom", "diagonal", "words"))
  expect_identical(panels$host[panels$role == "zoom"], 2L)
  marginal <- panels[panels$role == "marginal", ]
  host <- panels[match(marginal$host, panels$id), ]
  expect_identical(marginal$x_axis[1], host$x_axis[1])
  expect_identical(marginal$y_axis[2], host$y_axis[2])
})
