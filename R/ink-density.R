#' Density curves and rugs
#'
#' `ink_density()`: a smooth curve of how values of one quantity are spread, a curve for
#' each colour, each of area one. `ink_rug()`: a short stroke at the axis for each value.
#'
#' @eval argument_lines("ink_density", "ink_rug")
#' @return An ink, for [panel()].
#' @details A Gaussian kernel on a grid of 512, as [stats::density()] has it. Sources:
#'   Silverman (1986), "Density Estimation for Statistics and Data Analysis"; Sheather and
#'   Jones (1991), Journal of the Royal Statistical Society B 53.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = rise, colour = flour, ink_density(), ink_rug()),
#'   width = 100,
#'   height = 60
#' )
#' @export
ink_density <- function(bandwidth = "silverman", fill = TRUE, weight = NULL, colour = NULL, ...) {
  said_ink("density", ...)
}

#' @export
word_rows.ink_density <- function(word) {
  list(
    bandwidth = bandwidth_type(
      says = c(
        "`\"silverman\"` (Silverman's rule of thumb), `\"scott\"` (Scott's),",
        "`\"sheather-jones\"` (Sheather and Jones's), or a number in the axis's",
        "(transformed) units."
      )
    ),
    fill = a_flag(says = "Fill the area under the curve?"),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_density <- function(ink, panel, call) {
  check_one_quantity(panel, "A density curve", call)
}

#' @export
supplied_axis.ink_density <- function(ink, direction, variables) {
  new_kind("quantity", name = "Density")
}

#' @export
said_on_axis.ink_density <- function(ink, direction) ink["bandwidth"]

#' @export
train_ink.ink_density <- function(ink, layer) {
  one <- one_quantity(layer)
  complete <- complete_rows(one$table, c("x", if (!is.null(layer$colour)) "colour"))
  group <- layer_groups(one, complete, ink)
  values <- one$transform$forward(one$table$x)
  parts <- parts_of(one$table, one$transform$forward)
  shapely <- shape_counts(values, group$at, nrow(group$rows), parts)
  made <- which(is.na(shapely$why))
  curves <- stack_tables(
    lapply(made, function(g) {
      rows <- which(group$at == g)
      own_parts <- if (!is.null(parts)) lapply(parts, `[`, rows)
      curve <- density_curve(values[rows], ink$bandwidth, parts = own_parts)
      curve <- shown_curve(curve, one$transform)
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = one$transform$backward(curve$x),
        y = curve$density,
        .rows = nrow(curve)
      )
    })
  )
  rule <- if (is.numeric(ink$bandwidth)) format(ink$bandwidth) else bandwidth_rules[[ink$bandwidth]]
  list(
    table = curves,
    series = group$rows,
    findings = new_findings(group$rows, "density", shapely$n, why = shapely$why),
    traces = if (!is.null(curves)) {
      exchange_axes(
        new_table(finding = curves$series, x = curves$x, density = curves$y),
        one$lying
      )
    },
    lying = one$lying,
    extent = if (!is.null(curves)) {
      exchange_axes(
        extent_by_panel(curves$panel, x0 = curves$x, y0 = 0, y1 = curves$y),
        one$lying
      )
    },
    zero = if (one$lying) "x" else "y",
    used = complete & group$at %in% made,
    notes = few_note(
      if (one$lying) layer$y else layer$x,
      complete & !group$at %in% made,
      "a density",
      one$table$times
    ),
    shows = paste0("density by a Gaussian kernel, bandwidth by ", rule)
  )
}

#' @export
place_ink.ink_density <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  unit_at <- lying_unit(site, trained$lying, curves$panel)
  colour <- series_looks(trained$series, site)$colour[curves$series]
  x <- unit_at(curves$x, "x")
  y <- unit_at(curves$y, "y")
  line <- new_marks(
    "lines",
    exchange_axes(
      new_table(
        panel = curves$panel,
        line = curves$series,
        x = x,
        y = y,
        colour = colour,
        weight_pt = ink$weight %||% site$house$weight_pt$line,
        dash = "solid",
        opacity = 1,
        .rows = nrow(curves)
      ),
      trained$lying
    )
  )
  if (!ink$fill) return(list(line))
  ground <- unit_at(rep(0, nrow(curves)), "y")
  around <- unlist(
    lapply(split(seq_len(nrow(curves)), curves$series), function(rows) c(rows, -rev(range(rows))))
  )
  row <- abs(around)
  area <- new_table(
    panel = curves$panel[row],
    area = curves$series[row],
    x = x[row],
    y = ifelse(around > 0, y[row], ground[row]),
    fill = colour[row],
    opacity = band_opacity,
    colour = NA_character_,
    weight_pt = 0,
    .rows = length(row)
  )
  list(new_marks("areas", exchange_axes(area, trained$lying)), line)
}

#' @export
question_of.ink_density <- function(ink) question_of_density(ink)
# The rule of Sheather and Jones asks for the values themselves.
question_of_density <- function(ink) {
  if (identical(ink$bandwidth, "sheather-jones")) "rows" else "classes"
}

#' @export
ink_traits.ink_density <- function(ink) new_traits("line", "colour", "spread")

#' @rdname ink_density
#' @export
ink_rug <- function(length = 1.5, opacity = 0.5, colour = NULL, ...) {
  said_ink("rug", ...)
}

#' @export
word_rows.ink_rug <- function(word) {
  list(
    length = a_number(0.1, 20, unit = "mm", says = "Length of strokes in mm."),
    opacity = a_number(0, 1, says = "Opacity of strokes."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_rug <- function(ink, panel, call) {
  if (!is.null(panel$variables$x) || !is.null(panel$variables$y)) return(invisible())
  abort_nelvat(
    "argument",
    c("A rug needs a quantity on an axis.", x = "Neither `x` nor `y` is given."),
    call
  )
}

#' @export
train_ink.ink_rug <- function(ink, layer) {
  one <- one_quantity(layer)
  complete <- complete_rows(one$table, c("x", if (!is.null(layer$colour)) "colour"))
  table <- table_rows(one$table, complete)
  list(
    table = table,
    lying = one$lying,
    along = if (one$lying) "y" else "x",
    extent = exchange_axes(extent_by_panel(table$panel, x0 = table$x), one$lying),
    zero = character(),
    used = complete,
    shows = "single values"
  )
}

#' @export
place_ink.ink_rug <- function(ink, trained, site) {
  table <- trained$table
  x <- lying_unit(site, trained$lying, table$panel)(table$x, "x")
  long <- ink$length / if (trained$lying) site$panel_w(table$panel) else site$panel_h(table$panel)
  list(
    new_marks(
      "segments",
      exchange_axes(
        new_table(
          panel = table$panel,
          x0 = x,
          x1 = x,
          y0 = 0,
          y1 = long,
          colour = painted(site$colour_of(table$colour, nrow(table)), ink$opacity),
          weight_pt = site$house$weight_pt$tick,
          .rows = nrow(table)
        ),
        trained$lying
      )
    )
  )
}

# A colour with its opacity, as #RRGGBBAA.
painted <- function(colour, opacity) {
  if (opacity >= 1) colour else paste0(substr(colour, 1, 7), sprintf("%02X", round(opacity * 255)))
}

#' @export
ink_traits.ink_rug <- function(ink) new_traits("line", c("colour", "ramp"))

#' @export
marks_named.ink_density <- function(ink) "curves"

#' @export
marks_named.ink_rug <- function(ink) "strokes"
