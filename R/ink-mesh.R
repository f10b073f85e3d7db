#' Triangle meshes and polygons
#'
#' `ink_mesh()`: triangles, three rows each, named by the panel's `group`; their colour is
#' the mean of a quantity at the corners. `ink_polygons()`: polygons, the rows of each
#' `group` in order; their colour is a category's or the mean of a quantity. Both keep
#' lengths equal across and upwards.
#'
#' @eval argument_lines("ink_mesh", "ink_polygons")
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh()),
#'   width = 100,
#'   height = 80
#' )
#' @export
ink_mesh <- function(edges = TRUE, equal = TRUE, opacity = 1, ...) {
  said_ink("mesh", ...)
}

#' @export
word_rows.ink_mesh <- function(word) {
  list(
    edges = a_flag(says = "Draw the edges?"),
    equal = a_flag(says = "Is a unit as long upwards as across?"),
    opacity = a_number(0, 1, says = "Opacity of the fill.")
  )
}

#' @rdname ink_mesh
#' @export
ink_polygons <- function(edges = TRUE, equal = TRUE, opacity = 1, ...) {
  ink <- said_ink("polygons", ...)
  class(ink) <- c("ink_polygons", "ink_mesh", "nelvat_ink")
  ink
}

#' @export
word_rows.ink_polygons <- function(word) word_arguments("ink_mesh")

#' @export
check_ink.ink_mesh <- function(ink, panel, call) {
  what <- if (inherits(ink, "ink_polygons")) "A polygon" else "A mesh"
  check_needs(panel, c("x", "y", "group"), what, call)
  check_two_quantities(panel, what, call)
  if (inherits(ink, "ink_polygons")) return(invisible())
  corners <- tabulate(match(panel$variables$group$values, unique(panel$variables$group$values)))
  if (any(corners != 3)) {
    abort_nelvat(
      "data",
      c(
        "Each triangle of a mesh needs three rows.",
        x = paste0(
          counted(sum(corners != 3), "triangle"),
          " ",
          if (sum(corners != 3) == 1) "has" else "have",
          " another number, such as ",
          corners[corners != 3][1],
          "."
        )
      ),
      call
    )
  }
}

#' @export
train_ink.ink_mesh <- function(ink, layer) {
  complete <- complete_rows(layer$table, c("x", "y", "group"))
  points <- table_rows(layer$table, complete)
  shape <- match_rows(points[c("panel", "group")], rep(TRUE, nrow(points)))$at
  points$shape <- shape
  points <- table_rows(points, order(shape))
  ramp <- is_ramp(layer$colour)
  several <- ramp && any(
    vapply(split(points$colour, points$shape), function(v) length(unique(v)) > 1, NA)
  )
  if (!is.null(points$colour)) {
    points$colour <- if (ramp) {
      group_means(points$colour, points$shape)
    } else {
      points$colour[match(points$shape, points$shape)]
    }
  }
  list(
    table = points,
    extent = extent_by_panel(points$panel, x0 = points$x, y0 = points$y),
    zero = character(),
    used = complete,
    shows = if (ramp) {
      paste0(
        said_name(layer$colour),
        " as shades",
        if (several) ", of each the mean of its corners"
      )
    } else {
      "each a group of corners"
    }
  )
}

# The mean of the values that there are in each value's group; groups are numbered from 1.
group_means <- function(values, group) {
  is_known <- !is.na(values)
  sums <- rowsum(ifelse(is_known, values, 0), group, reorder = TRUE)
  (sums / rowsum(as.numeric(is_known), group, reorder = TRUE))[match(group, sort(unique(group)))]
}

#' @export
place_ink.ink_mesh <- function(ink, trained, site) {
  points <- trained$table
  fill <- if (is.null(points$colour)) "#FFFFFF" else site$colour_of(points$colour)
  edge <- if (!ink$edges) {
    fill
  } else if (is.null(points$colour)) {
    site$house$colour$lone
  } else {
    "#FFFFFF"
  }
  list(
    new_marks(
      "areas",
      new_table(
        panel = points$panel,
        area = points$shape,
        x = site$unit(points$x, points$panel, "x"),
        y = site$unit(points$y, points$panel, "y"),
        fill = fill,
        opacity = ink$opacity,
        colour = edge,
        weight_pt = if (ink$edges) site$house$weight_pt$outline * 0.6 else 0.1,
        .rows = nrow(points)
      )
    )
  )
}

#' @export
ink_traits.ink_mesh <- function(ink) new_traits("swatch", c("colour", "ramp"), called = "patch")

#' @export
marks_named.ink_mesh <- function(ink) "triangles"

#' @export
marks_named.ink_polygons <- function(ink) "areas"
