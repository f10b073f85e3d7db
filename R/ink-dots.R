#' Dots over categories
#'
#' Every value as a dot above its category: `ink_dots()` in a line or jittered,
#' `ink_swarm()` side by side so that no two overlap at the printed size. Colours stand
#' side by side.
#'
#' @eval argument_lines("ink_dots", "ink_swarm")
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_swarm()),
#'   width = 120,
#'   height = 60
#' )
#' @export
ink_dots <- function(
  spread = "jitter",
  size = NULL,
  opacity = 0.8,
  seed = 1,
  colour = NULL,
  side = "both",
  ...
) {
  said_ink("dots", ...)
}

#' @export
word_rows.ink_dots <- function(word) {
  list(
    spread = a_choice(
      c("jitter", "line"),
      says = '`"jitter"`, each dot moved sideways at random (the same each time), or `"line"`.'
    ),
    size = mm_size(
      says = c(
        "Diameter in mm; `NULL` for the house's. In a swarm it shrinks, down to `least`,",
        "where a slot is too narrow."
      )
    ),
    opacity = a_number(0, 1, says = "Opacity, 0 to 1."),
    seed = a_number(whole = TRUE, says = "Seed of the jitter."),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    side = a_choice(
      names(slot_sides),
      says = c(
        'Take `"both"` halves of the slot; or one, `"before"` or `"after"` its middle,',
        "beside half a violin."
      )
    )
  )
}

#' @rdname ink_dots
#' @export
ink_swarm <- function(size = NULL, least = 0.5, opacity = 1, colour = NULL, ...) {
  ink <- said_ink("swarm", ...)
  class(ink) <- c("ink_swarm", "ink_dots", "nelvat_ink")
  ink
}

#' @export
word_rows.ink_swarm <- function(word) {
  list(
    size = mm_size(
      says = c(
        "Diameter in mm; `NULL` for the house's. In a swarm it shrinks, down to `least`,",
        "where a slot is too narrow."
      )
    ),
    least = mm_size(
      FALSE,
      says = c(
        "Least diameter of a swarm's dots in mm; under it, an error says how many",
        "millimetres the slot lacks."
      )
    ),
    opacity = a_number(0, 1, says = "Opacity, 0 to 1."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_dots <- function(ink, panel, call) check_category_quantity(panel, "Dots", call)

#' @export
beside_inks.ink_dots <- function(ink, others) changed(ink, over_bars = lies_over_bars(others))

#' @export
train_ink.ink_dots <- function(ink, layer) {
  slots <- slot_groups(layer, share = 0.86)
  rows_used <- which(!is.na(slots$at))
  dots <- table_rows(slots$rows, slots$at[rows_used])
  dots$group <- slots$at[rows_used]
  dots$y <- slots$table$y[rows_used]
  list(
    table = dots,
    lying = slots$lying,
    extent = exchange_axes(
      extent_by_panel(dots$panel, x0 = dots$x0, x1 = dots$x1, y0 = dots$y),
      slots$lying
    ),
    zero = character(),
    used = slots$complete,
    shows = "single values"
  )
}

#' @export
place_ink.ink_dots <- function(ink, trained, site) {
  dots <- trained$table
  unit_at <- lying_unit(site, trained$lying, dots$panel)
  # Strewn dots are no wider apart than the bar or box that they are of; a swarm takes what it
  # needs.
  strewn <- !inherits(ink, "ink_swarm") && !ink$side %in% c("before", "after")
  ends <- drawn_ends(dots, trained$lying, site, whole = strewn)
  x0 <- ends$x0
  x1 <- ends$x1
  half <- (x1 - x0) / 2
  if (identical(ink$side, "before")) x1 <- x1 - (1 + beside_middle) * half
  if (identical(ink$side, "after")) x0 <- x0 + (1 + beside_middle) * half
  middle <- (x0 + x1) / 2
  y <- unit_at(dots$y, "y")
  size <- ink$size %||% site$house$points$size_mm
  across_mm <- if (trained$lying) site$panel_h(dots$panel) else site$panel_w(dots$panel)
  along_mm <- if (trained$lying) site$panel_w(dots$panel) else site$panel_h(dots$panel)
  if (inherits(ink, "ink_swarm")) {
    placed <- swarm_dots(dots, y * along_mm, abs(x1 - x0) * across_mm, size, ink$least)
    middle <- middle + placed$offset_mm / across_mm
    size <- placed$size_mm
  } else if (ink$spread == "jitter") {
    middle <- middle + with_seed(ink$seed, stats::runif(nrow(dots), -0.5, 0.5)) * (x1 - x0) * 0.8
  }
  table <- new_table(
    panel = dots$panel,
    x = middle,
    y = y,
    colour = site$colour_of(if (all(is.na(dots$colour))) NULL else dots$colour, nrow(dots)),
    opacity = ink$opacity,
    shape = "disc",
    size_mm = size,
    .rows = nrow(dots)
  )
  if (isTRUE(ink$over_bars)) table$edge <- rep(site$house$colour$paper, nrow(table))
  list(new_marks("points", exchange_axes(table, trained$lying)))
}

# Offsets of dots that do not overlap, all of one size: the greatest, from `size` down,
# at which every slot is wide enough.
swarm_dots <- function(dots, y_mm, slot_mm, size, least) {
  parts <- split(seq_along(y_mm), dots$group)
  least <- min(size, least)
  sizes <- unique(c(seq(size, least, by = -0.1), least))
  for (diameter in sizes) {
    offset <- numeric(length(y_mm))
    lacking <- 0
    for (rows in parts) {
      rows <- rows[order(y_mm[rows])]
      offset[rows] <- swarm_offsets_cpp(y_mm[rows], diameter)
      lacking <- max(lacking, 2 * max(abs(offset[rows])) + diameter - slot_mm[rows[1]])
    }
    if (lacking <= 1e-9) return(list(offset_mm = offset, size_mm = diameter))
  }
  abort_nelvat(
    "space",
    c(
      paste0(
        "A swarm has no room in its slot: ",
        format(round(lacking, 1)),
        " mm are missing, with dots of ",
        format(least),
        " mm."
      ),
      i = paste0(
        "Make the plate wider, allow smaller dots with `least`, or draw `ink_dots()` or ",
        "`ink_violin()` in its place."
      )
    ),
    call = NULL
  )
}

#' @export
ink_traits.ink_dots <- function(ink) {
  new_traits("symbol", c("colour", "ramp"), side_by_side = TRUE)
}

#' @export
supplied_axis.ink_dots <- function(ink, direction, variables) lone_slot()

#' @export
supplied_axis.ink_swarm <- function(ink, direction, variables) lone_slot()

#' @export
marks_named.ink_dots <- function(ink) "dots"
