#' A whole figure on a page of a given size
#'
#' @param ... A block, such as [facets()], or a [panel()].
#' @param width Width of the page: a column of the house (`"single"` 86 mm,
#'   `"middle"` 120 mm, `"double"` 178 mm) or a number of millimetres.
#' @param height Height in mm. Without one, panels get about three quarters of
#'   their width.
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
plate <- function(..., width = "double", height = NULL) {
  call <- rlang::current_env()
  check_stray(...names(), c("width", "height"), "plate", call)
  new_plate(list(...), width, height, call)
}

new_plate <- function(blocks, width, height, call) {
  if (length(blocks) != 1) {
    abort_nelvat("argument", c("A plate takes one block.", x = paste0("Found ", counted(length(blocks), "block"), ".")), call)
  }
  house <- house_plain()
  block <- as_block(blocks[[1]], call)
  width_mm <- page_width(width, house, call)
  if (identical(block$wrap, "page")) block$wrap <- page_wrap(block, width_mm, height, house)
  check_number(height, "height", 10, 2000, unit = "mm", or_null = TRUE, call = call)
  height_mm <- height %||% natural_height(block, width_mm, house)
  structure(list(blocks = list(block), width_mm = as.numeric(width_mm), height_mm = as.numeric(height_mm), house = house), class = "nelvat_plate")
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

# A height at which panels are about three quarters as high as they are wide.
natural_height <- function(block, width_mm, house) {
  panels <- block_cells(block)$panels
  columns <- max(panels$column)
  panel_mm <- (width_mm - 12 * columns) / columns
  round(min(house$page$height_most_mm, max(panels$row) * (panel_mm * 0.75 + 9) + 18))
}
