# change() reaches every argument of every word: what it makes is what the word itself makes.

loaves <- study("loaves")
# Of each word a call, and for each of its arguments another value.
words <- list(
  panel = list(
    call = quote(panel(loaves, x = rise, y = volume, colour = flour, ink_points(), ink_fit())),
    values = list(
      data = quote(loaves$data[1:60, ]),
      x = quote(ph),
      y = quote(firmness),
      colour = quote(bakery),
      shape = quote(bakery),
      dash = quote(flour),
      size = quote(ph),
      group = quote(bakery),
      derive = quote(list(twice = rise * 2)),
      keep = quote(rise > 45),
      order = quote(list(flour = c("rye", "wheat"))),
      missing = quote(list(colour = "own")),
      x_axis = quote(axis_of(reverse = TRUE)),
      y_axis = quote(axis_of(title = "Size")),
      house = quote("projected"),
      heading = "Loaves"
    )
  ),
  facets = list(
    call = quote(facets(panel(loaves, x = rise, y = volume, ink_points()), across = flour)),
    values = list(
      across = quote(bakery),
      down = quote(bakery),
      per_row = 2,
      order = quote(by_number()),
      missing = "own",
      empty = "drop",
      heading = "{level}!",
      behind = TRUE,
      range_per = quote(c(x = "panel", y = "block")),
      show_axes = "all",
      room = quote("data"),
      aspect = 1,
      alone = quote(c(y = "rye"))
    )
  ),
  joint = list(
    call = quote(joint(loaves, x = rise, y = volume, ink_points())),
    values = list(
      x = quote(ph),
      y = quote(firmness),
      colour = quote(flour),
      shape = quote(flour),
      dash = quote(flour),
      size = quote(ph),
      group = quote(bakery),
      marginal = quote(ink_density()),
      depth = 9,
      gap = 3,
      marginal_axis = TRUE,
      aspect = 0.8,
      derive = quote(list(twice = rise * 2)),
      keep = quote(rise > 45),
      order = quote(list(flour = c("rye", "wheat"))),
      missing = "bridge",
      x_axis = quote(axis_of(reverse = TRUE)),
      y_axis = quote(axis_of(title = "Size")),
      heading = "Loaves"
    )
  ),
  every_pair = list(
    call = quote(every_pair(loaves, c(rise, volume, ph))),
    values = list(
      columns = quote(c(rise, firmness)),
      colour = quote(flour),
      shape = quote(flour),
      above = quote(ink_value()),
      diagonal = quote(ink_density()),
      below = quote(ink_hexagons()),
      rows = quote(c(firmness)),
      within = quote(bakery),
      per_row = 1,
      mixed = quote(ink_dots()),
      names = "diagonal",
      missing = "complete",
      derive = quote(list(twice = rise * 2)),
      keep = quote(rise > 45),
      order = quote(list(flour = c("rye", "wheat"))),
      aspect = 1,
      heading = "Loaves"
    )
  ),
  marginals = list(
    call = quote(marginals(panel(loaves, x = rise, y = volume, ink_points()), x = ink_histogram())),
    part = "marginals",
    values = list(
      x = quote(ink_density()),
      y = quote(ink_rug()),
      depth = 9,
      gap = 3,
      axis = TRUE,
      outside = TRUE
    )
  ),
  text_panel = list(
    call = quote(text_panel(text = "Flour.", heading = "Words")),
    values = list(text = "Water.", heading = "Other")
  )
)

scene_of <- function(block) {
  tryCatch(
    suppressMessages(suppressWarnings(as_scene(plate(block, width = 170, height = 150)))),
    nelvat_error = function(error) rlang::cnd_message(error)
  )
}
comparable <- function(scene) {
  if (is.character(scene)) return(scene)
  unclass(scene)[c("panels", "axes", "marks", "texts", "keys", "kept")]
}

for (word in names(words)) {
  test_that(paste0("every argument of ", word, "() can be changed"), {
    one <- words[[word]]
    known <- setdiff(names(formals(word)), c("...", "panel", if (word != "panel") "data"))
    # An argument that is new has its value here, too.
    expect_setequal(names(one$values), known)
    before <- eval(one$call)
    for (name in known) {
      asked <- one$call
      if (name == "data") asked[[2]] <- one$values$data else asked[[name]] <- one$values[[name]]
      direct <- tryCatch(eval(asked), nelvat_error = function(error) rlang::cnd_message(error))
      changing <- as.call(
        c(
          list(quote(change), quote(before)),
          stats::setNames(one$values[name], name),
          if (!is.null(one$part)) list(block = one$part)
        )
      )
      now <- tryCatch(eval(changing), nelvat_error = function(error) rlang::cnd_message(error))
      if (is.character(direct)) {
        expect_identical(now, direct, label = paste(word, name))
      } else if (name != "data") {
        expect_equal(
          comparable(scene_of(now)),
          comparable(scene_of(direct)),
          label = paste(word, name)
        )
      }
      # On a plate by the block's name, too.
      on_plate <- plate(a = before, width = 170, height = 150)
      path <- c("a", one$part)
      changing[[2]] <- quote(on_plate)
      changing$block <- path
      again <- tryCatch(eval(changing), nelvat_error = function(error) rlang::cnd_message(error))
      if (is.character(direct)) {
        expect_identical(again, direct, label = paste(word, name, "on a plate"))
      } else {
        expect_s3_class(again, "nelvat_plate")
      }
    }
  })
}

test_that("facets and panels that have an argument of one name are told apart by a path", {
  grid <- facets(
    panel(loaves, x = flour, y = volume, colour = flour, ink_bars()),
    across = bakery
  )
  turned <- list(flour = c("rye", "spelt", "emmer", "wheat"))
  by_panel <- change(grid, block = "panel", order = turned, heading = NULL)
  x <- as_scene(plate(by_panel, width = 170))$axes[[1]]
  expect_identical(x$text[1:2], c("Rye", "Spelt"))
  fig <- plate(responses = grid, width = 170)
  x <- as_scene(change(fig, block = c("responses", "panel"), order = turned))$axes[[1]]
  expect_identical(x$text[1:2], c("Rye", "Spelt"))
  expect_error(
    change(fig, block = c("responses", "pannel"), order = turned),
    class = "nelvat_error_argument"
  )
})

test_that("zooms and all plate settings can be changed, and what no block takes is refused", {
  host <- panel(loaves, x = rise, y = volume, ink_points())
  fig <- plate(host = host, closer = zoom("host", x = c(40, 60)), width = 170, height = 60)
  wider <- change(fig, block = "closer", x = c(30, 70))
  scene <- as_scene(wider)
  expect_equal(scene$axes[[scene$panels$x_axis[2]]]$range, c(30, 70))
  expect_identical(change(fig, width = 120)$width_mm, 120)
  expect_error(change(fig, depth = 4), "depth", class = "nelvat_error_argument")
  matrix <- plate(every_pair(loaves, c(rise, volume)), host, width = 170, height = 90)
  fewer <- change(matrix, columns = c(rise, ph), y = firmness)
  expect_true("ph" %in% as_scene(fewer)$panels$x_variable)
  expect_true("firmness" %in% as_scene(fewer)$panels$y_variable)
})
