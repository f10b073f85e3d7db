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
