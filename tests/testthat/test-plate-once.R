# A plate is resolved, laid and assembled once, whatever is asked of it.

test_that("all outputs of a figure take one scene, and each panel is made once", {
  loaves <- study("loaves")
  counted <- c(new_panel = 0, block_cells = 0, resolved_plate = 0, lay_out = 0, assemble_scene = 0)
  count <- function(name) {
    original <- get(name, asNamespace("nelvat"))
    function(...) {
      counted[[name]] <<- counted[[name]] + 1
      original(...)
    }
  }
  folder <- withr::local_tempdir()
  with_replaced(
    {
      fig <- plate(
        facets(panel(loaves, x = rise, y = ph, ink_points()), across = flour),
        panel(loaves, x = rise, y = ph, ink_points()),
        width = 170,
        height = 120
      )
      as_scene(fig)
      source_data(fig)
      legend_text(fig)
      alt_text(fig)
      fits(fig)
      proof(fig)
      save_plate(fig, file.path(folder, c("a.pdf", "a.png", "a.eps")))
    },
    new_panel = count("new_panel"),
    block_cells = count("block_cells"),
    resolved_plate = count("resolved_plate"),
    lay_out = count("lay_out"),
    assemble_scene = count("assemble_scene")
  )
  expect_identical(
    counted,
    c(new_panel = 2, block_cells = 2, resolved_plate = 1, lay_out = 1, assemble_scene = 1)
  )
})

test_that("cells are worked out at most twice a block, wrapped, over pages and enlarged, too", {
  loaves <- study("loaves")
  one <- panel(loaves, x = rise, y = ph, ink_points())
  many <- facets(one, across = c(flour, bakery), per_row = "page")
  folder <- withr::local_tempdir()
  plates <- list(
    wrapped = function() plate(many, one, width = 86),
    lines = function() plate(facets(one, across = bakery, down = flour), width = 86),
    pages = function() plate(facets(one, down = flour), facets(one, down = bakery), width = 86),
    enlarged = function() plate(m = one, zoom("m", x = c(30, 40)), width = 86),
    matrix = function() plate(every_pair(loaves, columns = c(rise, ph, firmness)), one, width = 170)
  )
  for (name in names(plates)) {
    n <- 0
    cells <- nelvat:::block_cells
    with_replaced(
      suppressMessages(
        suppressWarnings({
          fig <- plates[[name]]()
          blocks <- length(fig$blocks)
          as_scene(fig)
          save_plate(fig, file.path(folder, "a.pdf"))
          legend_text(fig)
        })
      ),
      block_cells = function(block) {
        n <<- n + 1
        cells(block)
      }
    )
    expect_lte(n, 2 * blocks, label = paste("cells of", name))
  }
})

test_that("a changed plate shows its own scene, and what was left out is told again", {
  loaves <- study("loaves")
  fig <- plate(panel(loaves, x = rise, y = firmness, ink_points()), width = 90, height = 70)
  before <- suppressWarnings(as_scene(fig))
  wider <- suppressWarnings(as_scene(resize(fig, width = 120, height = 70)))
  expect_identical(wider$page$width_mm, 120)
  other <- suppressWarnings(as_scene(change(fig, y = ph)))
  expect_identical(other$panels$y_variable, "ph")
  expect_identical(suppressWarnings(as_scene(fig)), before)
  nelvat:::forget_said()
  expect_warning(as_scene(fig), "missing")
})
