#' Heat tiles
#'
#' A tile for each pair of categories, numbers or moments, shaded by the quantity on `colour`, its
#' value written in black or white, whichever stands out.
#'
#' @eval argument_lines("ink_tiles")
#' @return An ink, for [panel()].
#' @details On a quantity or moment a tile reaches half way to its neighbours; where values are
#'   missing from an even series, it is as wide as the others, and the place stays empty. More
#'   values for one tile are an error: count or average them first.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(correlations(study("loaves"), c(rise, volume, ph, acidity, firmness, moisture)), x =
#'   first, y = second, colour = r, ink_tiles()),
#'   width = 110, height = 90
#' )
#' @export
ink_tiles <- function(values = TRUE, diverging = NULL, gap = NULL, ...) {
  said_ink("tiles", ...)
}

#' @export
word_rows.ink_tiles <- function(word) {
  list(
    values = a_flag(says = "Write the values?"),
    diverging = a_flag(
      or_null = TRUE,
      says = c(
        "A ramp to both sides of zero with limits the same way far? `NULL`: when there are",
        "values on both sides."
      )
    ),
    gap = a_number(
      0,
      0.9,
      or_null = TRUE,
      says = c(
        "Share of a tile's side left white between tiles; `NULL` for 0.03 on categories and",
        "none where x or y is a quantity or moment."
      )
    )
  )
}

#' @export
check_ink.ink_tiles <- function(ink, panel, call) {
  check_needs(panel, c("x", "y", "colour"), "A heat map", call)
  check_variable_kind(panel$variables$colour, "colour", "quantity", call)
}

#' @export
train_ink.ink_tiles <- function(ink, layer) {
  complete <- complete_rows(layer$table, c("x", "y", "colour"))
  tiles <- table_rows(layer$table, complete)
  twice <- vctrs::vec_duplicate_id(tiles[c("panel", "x", "y")]) != seq_len(nrow(tiles))
  if (any(twice)) {
    abort_nelvat(
      "data",
      c(
        "A heat map needs one value for each tile.",
        x = paste0(
          counted(sum(twice), "tile"),
          " ",
          if (sum(twice) == 1) "has" else "have",
          " more, such as that of ",
          tile_name(layer$x$kind, tiles$x[twice][1]),
          " and ",
          tile_name(layer$y$kind, tiles$y[twice][1]),
          "."
        ),
        i = "Keep fewer rows, split them over panels, or count them first with `counts()`."
      ),
      call = NULL
    )
  }
  on_numbers <- Filter(function(direction) !has_levels(layer[[direction]]$kind), c("x", "y"))
  for (direction in c("x", "y")) {
    ends <- if (direction %in% on_numbers) {
      tile_ends(tiles[[direction]], tiles$panel, axis_transform(layer[[direction]]$transform))
    } else {
      list(tiles[[direction]] - 0.5, tiles[[direction]] + 0.5)
    }
    tiles[paste0(direction, 0:1)] <- ends
    tiles[paste0(direction, c("_first", "_last"))] <- ends_of_groups(
      layer[[direction]]$kind,
      tiles[[direction]]
    )
  }
  list(
    table = tiles,
    extent = extent_by_panel(
      tiles$panel,
      x0 = tiles$x0,
      x1 = tiles$x1,
      y0 = tiles$y0,
      y1 = tiles$y1
    ),
    zero = character(),
    fills = on_numbers,
    on_numbers = on_numbers,
    gap = ink$gap %||% if (length(on_numbers)) 0 else 0.03,
    used = complete,
    shows = "values as shades"
  )
}

# Is each place the first, or the last, of a group that a tree was cut into, with another before or
# after it?
ends_of_groups <- function(kind, places) {
  groups <- kind$tree$groups
  if (!has_levels(kind) || is.null(groups)) {
    return(rep(list(rep(FALSE, length(places))), 2))
  }
  list(
    c(FALSE, diff(groups) != 0)[round(places)],
    c(diff(groups) != 0, FALSE)[round(places)]
  )
}

# Ends of cells, in units, drawn in where a group begins or ends; at most by a third of the cell.
apart_groups <- function(ends, first, last, panel_mm) {
  wide <- ends[[2]] - ends[[1]]
  by <- sign(wide) * pmin(group_gap_mm / 2 / panel_mm, abs(wide) / 3)
  list(ends[[1]] + ifelse(first, by, 0), ends[[2]] - ifelse(last, by, 0))
}
group_gap_mm <- 0.9

tile_name <- function(kind, value) {
  if (has_levels(kind)) kind$level_names[value] else said_value_text(kind, value)
}

# Both ends of tiles on numbers, by panel: half way to the neighbours, but no further than half the
# commonest step where nearly all steps are that one.
tile_ends <- function(values, panel, transform) {
  ends <- lapply(split(seq_along(values), panel), function(rows) {
    spots <- transform$forward(values[rows])
    middles <- sort(unique(spots))
    step <- diff(middles)
    if (!length(step)) step <- lone_tile(middles)
    usual <- stats::median(step)
    if (mean(abs(step - usual) <= 0.01 * usual) >= 0.75) step <- pmin(step, usual)
    half <- c(step[1], step, step[length(step)])[seq_len(length(middles) + 1)] / 2
    middle_row <- match(spots, middles)
    list(rows = rows, from = spots - half[middle_row], to = spots + half[middle_row + 1])
  })
  rows <- as.integer(unlist(lapply(ends, `[[`, "rows")))
  placed <- function(name) {
    transform$backward(as.numeric(unlist(lapply(ends, `[[`, name))))[order(rows)]
  }
  list(placed("from"), placed("to"))
}

lone_tile <- function(value) max(1, abs(value) * 0.1)

#' @export
place_ink.ink_tiles <- function(ink, trained, site) {
  dense <- dense_panels(trained, site)
  images <- lapply(dense, function(panel) {
    of_panel <- table_rows(trained$table, trained$table$panel == panel)
    tile_images(of_panel, site$colour_of(of_panel$colour, nrow(of_panel)), site)
  })
  tiles <- table_rows(trained$table, !trained$table$panel %in% dense)
  images <- unlist(unname(images), recursive = FALSE)
  c(unname(images), if (nrow(tiles)) tile_marks(ink, tiles, trained$gap / 2, site))
}

# inset: what of a tile's side is left white on each side.
tile_marks <- function(ink, tiles, inset, site) {
  one_panel <- tiles$panel
  between <- function(direction) {
    ends <- lapply(
      paste0(direction, 0:1),
      function(end) site$unit(tiles[[end]], one_panel, direction)
    )
    # Tiles that meet reach a trace over each other, or their seams would show.
    reach <- (ends[[2]] - ends[[1]]) * if (inset > 0) -inset else seam_share
    apart_groups(
      list(ends[[1]] - reach, ends[[2]] + reach),
      tiles[[paste0(direction, "_first")]],
      tiles[[paste0(direction, "_last")]],
      if (direction == "x") site$panel_w(one_panel) else site$panel_h(one_panel)
    )
  }
  x <- between("x")
  y <- between("y")
  fill <- site$colour_of(tiles$colour, nrow(tiles))
  marks <- list(
    new_marks(
      "rects",
      new_table(
        panel = one_panel,
        x0 = x[[1]],
        x1 = x[[2]],
        y0 = y[[1]],
        y1 = y[[2]],
        fill = fill,
        opacity = 1,
        .rows = nrow(tiles)
      )
    )
  )
  if (!ink$values) return(marks)
  string <- tile_text(tiles$colour)
  size <- site$house$type_pt$least
  wide <- abs(marks[[1]]$table$x1 - marks[[1]]$table$x0) * site$panel_w(one_panel)
  high <- abs(marks[[1]]$table$y1 - marks[[1]]$table$y0) * site$panel_h(one_panel)
  # Values that do not fit their tile are left to the ramp, all alike.
  if (any(site$text_mm(string, size)$width > wide | size * mm_per_pt * 1.15 > high)) return(marks)
  c(
    marks,
    list(
      c(
        new_marks(
          "words",
          new_table(
            panel = one_panel,
            x = site$unit(tiles$x, one_panel, "x"),
            y = site$unit(tiles$y, one_panel, "y"),
            string = string,
            size_pt = size,
            across = 0.5,
            down = 0.5,
            colour = site$contrast(fill),
            .rows = nrow(tiles)
          )
        ),
        list(role = "value")
      )
    )
  )
}

seam_share <- 0.004

# Values of one heat map have the same decimals: two, or those that three figures take.
tile_text <- function(values) {
  decimals <- if (all(values == round(values))) {
    0
  } else {
    max(0, min(2, 2 - floor(log10(max(abs(values), 1e-9)))))
  }
  # Beside a large value a small one is not nothing.
  vanish <- decimals < 2 & values != 0 & abs(values) < 0.5 * 10^-decimals
  if (any(vanish)) number_text_each(values) else fixed_text(values, decimals)
}

#' @export
ink_traits.ink_tiles <- function(ink) {
  new_traits("swatch", c("colour", "ramp"), cells = TRUE, computed = TRUE, called = "cell")
}

#' @export
marks_named.ink_tiles <- function(ink) "tiles"
