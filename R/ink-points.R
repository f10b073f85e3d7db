#' Points
#'
#' A symbol at each pair of values. On an axis of categories, points stand in the
#' middle of their slot.
#'
#' @eval argument_lines("ink_points")
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink or `size` shows values below zero.
#' @examples
#' plate(panel(study("loaves"), x = rise, y = firmness, colour = flour, ink_points(opacity = 0.7)),
#'   width = "single", height = 70
#' )
#' @export
ink_points <- function(size = NULL, opacity = NULL, shape = NULL, colour = NULL, ...) {
  said_ink("points", ...)
}

#' @export
word_rows.ink_points <- function(word) {
  list(
    size = a_channel(
      says = c(
        "Diameter of the symbols in mm, or a quantity that their area shows, none of it",
        "below zero; `NULL` for the panel's `size`, or the house's diameter, smaller where",
        "points crowd. What would be too small to see, zero too, is a dot of 0.25 mm."
      )
    ),
    opacity = a_number(
      0,
      1,
      or_null = TRUE,
      says = c(
        "Opacity, 0 to 1. `NULL`: see-through where size shows a quantity, as such symbols",
        "cover each other, unless the house forbids it; else 1."
      )
    ),
    shape = a_channel(
      says = c(
        'A symbol: `"disc"`, `"triangle"`, `"ring"`, `"square"`, `"wedge"`, `"diamond"`,',
        '`"open square"` or `"open triangle"`; or a category shown by symbol in this ink',
        "alone. `NULL`: the panel's `shape`; else a disc, or where three to eight categories",
        "have colours, a symbol each, so that grey print tells them apart."
      )
    ),
    colour = a_channel(says = "A colour, or a column shown by colour in this ink alone.")
  )
}

#' @export
check_ink.ink_points <- function(ink, panel, call) {
  absent <- setdiff(c("x", "y"), names(panel$variables))
  if (!length(absent)) return(invisible())
  abort_nelvat(
    "argument",
    c("Points need `x` and `y`.", x = paste0("`", absent[1], "` is not given.")),
    call
  )
}

#' @export
beside_inks.ink_points <- function(ink, others) parts_with(ink, others)

#' @export
train_ink.ink_points <- function(ink, layer) {
  complete <- complete_rows(layer$table, c("x", "y", "colour", "shape", "size"))
  points <- table_rows(layer$table, complete)
  points[c("aside_x", "aside_y")] <- aside_in_slots(ink, layer, points)
  check_none_below(points$size, layer$size)
  list(
    table = points,
    extent = extent_by_panel(points$panel, x0 = points$x, y0 = points$y),
    zero = character(),
    used = complete,
    shows = "single values"
  )
}

# No area shows what is below zero.
check_none_below <- function(values, variable) {
  below <- values[!is.na(values) & values < 0]
  if (!length(below)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`size` shows \"",
        kind_title(variable$kind),
        "\", of which ",
        counted(length(below), "value"),
        if (length(below) == 1) " is" else " are",
        " below zero (",
        paste(unique(number_text_each(range(below), 4)), collapse = " to "),
        ")."
      ),
      i = paste(
        paste0(
          "An area cannot be less than none. Show the quantity by `colour`, or its size without ",
          "sign by"
        ),
        "`size = abs(...)`."
      )
    ),
    NULL
  )
}

#' @export
place_ink.ink_points <- function(ink, trained, site) {
  points <- trained$table
  # Large symbols first, so that small ones are seen.
  if (!is.null(points$size)) points <- table_rows(points, order(-points$size))
  see_through <- !is.null(points$size) && isTRUE(site$house$limits$transparency)
  opacity <- ink$opacity %||% if (see_through) bubble_opacity else 1
  table <- new_table(
    panel = points$panel,
    x = aside_unit(points, site, "x"),
    y = aside_unit(points, site, "y"),
    colour = site$colour_of(points$colour, nrow(points)),
    opacity = opacity,
    shape = if (is.null(points$shape)) {
      ink$settings$shape %||% "disc"
    } else {
      site$shape_of(points$shape)
    },
    size_mm = if (is.null(points$size)) {
      ink$settings$size %||% crowded_size(points$panel, site)
    } else {
      site$size_of(points$size)
    },
    .rows = nrow(points)
  )
  if (isTRUE(ink$over_bars) || opacity >= 1 && any_overlap(table, site)) {
    table$edge <- rep(site$house$colour$paper, nrow(table))
  }
  list(new_marks("points", table))
}

bubble_opacity <- 0.75
least_told_mm <- 0.8 # smaller symbols are not told apart by their shape
least_edged_mm <- 0.6 # a hair edge would take much of a smaller symbol

# Do opaque symbols of a layer lie over each other? Then a hair edge in the colour of the paper
# tells them apart. Told by squares whose diagonal is the symbols' diameter.
any_overlap <- function(table, site) {
  if (nrow(table) < 2 || min(table$size_mm) < least_edged_mm) return(FALSE)
  side <- rep_len(table$size_mm, nrow(table)) / sqrt(2)
  cell <- function(unit, length_mm) floor(unit * length_mm / side)
  anyDuplicated(
    data.frame(
      table$panel,
      cell(table$x, site$panel_w(table$panel)),
      cell(table$y, site$panel_h(table$panel))
    )
  ) > 0
}

most_inked <- 0.3 # share of the fullest panel that points may take together
least_points <- 1 / 3 # of the house's diameter, for the smallest that crowding makes them

# Points are smaller where there are many: from the house's diameter down to a third of it, all of a
# layer alike.
crowded_size <- function(panel, site) {
  house_mm <- site$house$points$size_mm
  if (!length(panel)) return(house_mm)
  index <- panel_index(panel)
  area <- site$panel_w(index$panels) * site$panel_h(index$panels)
  fitting <- min(sqrt(most_inked * area * 4 / pi / tabulate(index$at, length(index$panels))))
  round(min(house_mm, max(house_mm * least_points, fitting)), 2)
}

#' @export
ink_traits.ink_points <- function(ink) {
  new_traits(
    "symbol",
    c("colour", "ramp", "shape", "size"),
    echoes = (ink$settings$size %||% 1) >= least_told_mm
  )
}

#' @export
marks_named.ink_points <- function(ink) "points"
