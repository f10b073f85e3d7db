#' Heat tiles
#'
#' A tile for each pair of categories, shaded by the quantity on `colour`, its value
#' written in black or white, whichever stands out.
#'
#' @param values Write the values?
#' @param diverging A ramp to both sides of zero with limits the same way far? `NULL`:
#'   when there are values on both sides.
#' @param gap Share of a tile's side left white between tiles.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits; when the plate is
#' resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does not suit the ink.
#' @examples
#' plate(
#'   panel(correlations(study("loaves"), c(rise, volume, ph, acidity, firmness, moisture)), x =
#'   first, y = second, colour = r, ink_tiles()),
#'   width = 110, height = 90
#' )
#' @export
ink_tiles <- function(values = TRUE, diverging = NULL, gap = 0.03, ...) {
  check_rest(...)
  if (!is.null(diverging)) check_flag(diverging, "diverging")
  new_ink("tiles", values = check_flag(values, "values"), diverging = diverging, gap = check_number(gap, "gap", 0, 0.9))
}

#' @export
check_ink.ink_tiles <- function(ink, panel, call) {
  check_needs(panel, c("x", "y", "colour"), "A heat map", call)
  check_variable_kind(panel$variables$x, "x", c("category", "ordinal"), call)
  for (y in panel$variables$y) check_variable_kind(y, "y", c("category", "ordinal"), call)
  check_variable_kind(panel$variables$colour, "colour", "quantity", call)
}

#' @export
train_ink.ink_tiles <- function(ink, layer) {
  complete <- complete_rows(layer$table, c("x", "y", "colour"))
  tiles <- table_rows(layer$table, complete)
  twice <- duplicated(new_table(panel = tiles$panel, x = tiles$x, y = tiles$y))
  if (any(twice)) {
    abort_nelvat("data", c(
      "A heat map needs one value for each tile.",
      x = paste0(counted(sum(twice), "tile"), " ", if (sum(twice) == 1) "has" else "have", " more, such as that of ",
        layer$x$kind$level_names[tiles$x[twice][1]], " and ", layer$y$kind$level_names[tiles$y[twice][1]], "."),
      i = "Keep fewer rows, split them over panels, or count them first with `counts()`."
    ), call = NULL)
  }
  list(
    table = tiles, extent = extent_by_panel(tiles$panel, x0 = tiles$x, y0 = tiles$y), zero = character(),
    used = complete, shows = "values as shades"
  )
}

#' @export
place_ink.ink_tiles <- function(ink, trained, place) {
  tiles <- trained$table
  one_panel <- tiles$panel
  half <- (1 - ink$gap) / 2
  fill <- place$colour_of(tiles$colour, nrow(tiles))
  marks <- list(new_marks("rects", new_table(
    panel = one_panel, x0 = place$unit(tiles$x - half, one_panel, "x"), x1 = place$unit(tiles$x + half, one_panel, "x"),
    y0 = place$unit(tiles$y - half, one_panel, "y"),
    y1 = place$unit(tiles$y + half, one_panel, "y"), fill = fill, opacity = 1, .rows = nrow(tiles)
  )))
  if (!ink$values) return(marks)
  string <- tile_text(tiles$colour)
  size <- place$house$type_pt$least
  wide <- abs(marks[[1]]$table$x1 - marks[[1]]$table$x0) * place$panel_w(one_panel)
  high <- abs(marks[[1]]$table$y1 - marks[[1]]$table$y0) * place$panel_h(one_panel)
  # Values that do not fit their tile are left to the ramp, all alike.
  if (any(place$text_mm(string, size)$width > wide | size * mm_per_pt * 1.15 > high)) return(marks)
  c(marks, list(c(new_marks("words", new_table(
    panel = one_panel, x = place$unit(tiles$x, one_panel, "x"), y = place$unit(tiles$y, one_panel, "y"),
    string = string,
    size_pt = size, across = 0.5, down = 0.5,
    colour = place$contrast(fill), .rows = nrow(tiles)
  )), list(role = "value"))))
}

# Values of one heat map have the same decimals: two, or those that three figures take.
tile_text <- function(values) {
  decimals <- if (all(values == round(values))) 0 else max(0, min(2, 2 - floor(log10(max(abs(values), 1e-9)))))
  sub("-", "\u2212", formatC(values, digits = decimals, format = "f"))
}

#' @export
ink_traits.ink_tiles <- function(ink) {
  new_traits("swatch", c("colour", "ramp"), cells = TRUE, computed = TRUE, called = "cell")
}
