#' A whole figure on a page of a given size
#'
#' @param ... Blocks, such as [facets()], or [panel()]s, or lists of them; or placements:
#'   [beside()], [stacked()], [at()]. Blocks without a placement are dealt out in rows,
#'   about as many across as down.
#' @param width Width of the page: a column of the house (`"single"` 86 mm,
#'   `"middle"` 120 mm, `"double"` 178 mm) or a number of millimetres.
#' @param height Height in mm. Without one, panels get about three quarters of
#'   their width.
#' @param widths,heights Sizes of the columns and rows of the plate's table: weights,
#'   [mm()] or [natural()].
#' @param wrap Blocks in a row, where they have no placement.
#' @return A plate. Printing it draws it at true size on the open device;
#'   [save_plate()] writes it, [as_scene()] gives all that was computed.
#' @section Errors:
#' `nelvat_error_space` (when it is resolved) where the page is too small for its
#' panels; the message says how many millimetres are missing.
#' @examples
#' plate(
#'   facets(
#'     panel(study("loaves"), x = flour, y = c(rise, volume, ph), colour = hydration, ink_bars()),
#'     wrap = 3
#'   ),
#'   width = "double", height = 70
#' )
#' @export
plate <- function(..., width = "double", height = NULL, widths = NULL, heights = NULL, wrap = NULL) {
  call <- rlang::current_env()
  check_named_blocks(...names(), function(i) ...elt(i), plate_settings, "plate", call)
  new_plate(list(...), list(width = width, height = height, widths = widths, heights = heights, wrap = wrap), call)
}

# Names in the dots are names of blocks; one on anything else is a misspelt argument.
check_named_blocks <- function(names, value, arguments, of, call) {
  for (i in which(!names %in% c("", NA))) {
    held <- tryCatch(value(i), error = function(error) {
      if (inherits(error, "nelvat_error") || is.null(nearest_name(names[i], arguments))) stop(error)
      NULL
    })
    if (!is.list(held)) check_stray(names[i], arguments, of, call)
  }
}

plate_settings <- c("width", "height", "widths", "heights", "wrap")

new_plate <- function(blocks, settings, call) {
  house <- house_plain()
  width_mm <- page_width(settings$width %||% "double", house, call)
  check_number(settings$height, "height", 10, 2000, unit = "mm", or_null = TRUE, call = call)
  check_number(settings$wrap, "wrap", 1, 200, whole = TRUE, or_null = TRUE, call = call)
  children <- placed_children(blocks, call)
  if (!length(children)) abort_nelvat("argument", c("A plate needs a block.", x = "Found none."), call)
  grid <- plate_grid(children, settings, settings$wrap, call)
  grid$blocks <- Map(function(block, i) settle_wrap(block, i, grid, width_mm, settings$height, house), grid$blocks, seq_along(grid$blocks))
  height_mm <- settings$height %||% natural_height(grid, width_mm, house)
  structure(list(
    blocks = grid$blocks, names = grid$names, grid = grid[c("columns", "rows", "places")], width_mm = as.numeric(width_mm), height_mm = as.numeric(height_mm),
    house = house
  ), class = "nelvat_plate")
}

# The share of the page that a block has across and down.
block_share <- function(grid, i, direction) {
  place <- grid$places[i, ]
  tracks <- if (direction == "x") grid$columns[place$x0:place$x1, ] else grid$rows[place$y0:place$y1, ]
  list(mm = sum(tracks$mm), share = sum(tracks$share))
}

settle_wrap <- function(block, i, grid, width_mm, height_mm, house) {
  if (!identical(block$wrap, "page")) return(block)
  own <- function(direction, total) if (!is.null(total)) {
    part <- block_share(grid, i, direction)
    part$mm + part$share * total
  }
  block$wrap <- page_wrap(block, own("x", width_mm), own("y", height_mm), house)
  block
}

# Panels in a row so that each comes nearest to three quarters as high as wide; without
# a height, about as many rows as columns.
page_wrap <- function(block, width_mm, height_mm, house) {
  block$wrap <- NULL
  n <- nrow(block_cells(block)$panels)
  # More columns than the least panels and their tick text leave room for are of no use.
  columns <- seq_len(min(n, max(1, floor(width_mm / (house$least_panel_mm$width + 7)))))
  rows <- ceiling(n / columns)
  shape <- if (is.null(height_mm)) rows / columns else pmax(height_mm / rows - 12, 2) / (width_mm / columns - 10) / 0.75
  # Of equally good shapes the one that leaves the fewest places empty.
  fitness <- abs(log(pmax(shape, 1e-3))) + 0.1 * (rows * columns - n) / n
  columns[which.min(fitness)]
}

around_mm <- 12 # about what tick text and titles take beside a plot area

# A height at which panels have the shape they look best at.
natural_height <- function(grid, width_mm, house) {
  across <- width_mm - sum(grid$columns$mm) - around_mm * nrow(grid$columns)
  wanted <- vapply(seq_along(grid$blocks), function(i) {
    block <- grid$blocks[[i]]
    panels <- block_cells(block)$panels
    own <- block_share(grid, i, "x")
    wide <- (own$mm + own$share * across - around_mm * (max(panels$column) - 1)) / max(panels$column)
    down <- block_share(grid, i, "y")
    high <- max(panels$row) * (max(wide, 8) * wished_shape(block) + 9) - 9
    if (down$share > 0) (high - down$mm) / down$share else 0
  }, 0)
  most <- house$page$height_most_mm
  round(min(most, max(30, max(wanted) + sum(grid$rows$mm) + (around_mm + 3) * nrow(grid$rows) + 12)))
}
