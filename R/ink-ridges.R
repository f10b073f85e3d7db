#' Ridges
#'
#' The density of a quantity for each category, in rows that may reach over the row above: many
#' distributions on little room. Colours of a row lie over each other.
#'
#' @eval argument_lines("ink_ridges")
#' @return An ink, for [panel()] with a quantity on `x` and a category on `y`.
#' @details Densities are those of [ink_density()], of area one each, and all ridges of a panel have
#'   one scale. The rows are drawn from the top down, so that lower ones stand before higher ones.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("loaves"), x = rise, y = flour, ink_ridges()), width = 100, height = 60)
#' @export
ink_ridges <- function(overlap = 1.4, bandwidth = "silverman", colour = NULL, ...) {
  said_ink("ridges", ...)
}

#' @export
word_rows.ink_ridges <- function(word) {
  list(
    overlap = a_number(
      0.3,
      4,
      says = "Height of the highest ridge, in rows; the ridge of the top row stays in the panel."
    ),
    bandwidth = bandwidth_type(says = "As in [ink_density()]."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_ridges <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "Ridges", call)
  check_variable_kind(panel$variables$x, "x", c("quantity", "moment"), call, "for ridges")
  for (y in panel$variables$y) {
    check_variable_kind(y, "y", c("category", "ordinal"), call, "for ridges")
  }
  if (!is.null(panel$variables$colour)) {
    check_variable_kind(panel$variables$colour, "colour", c("category", "ordinal"), call)
  }
}

#' @export
said_on_axis.ink_ridges <- function(ink, direction) ink["bandwidth"]

#' @export
train_ink.ink_ridges <- function(ink, layer) {
  table <- layer$table
  table$colour <- table$colour %||% rep(NA_integer_, nrow(table))
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  group <- match_rows(table[c("panel", "y", "colour")], complete)
  axis <- axis_transform(layer$x$transform)
  values <- axis$forward(table$x)
  parts <- parts_of(table, axis$forward)
  shapely <- shape_counts(values, group$at, nrow(group$rows), parts)
  curves <- stack_tables(
    lapply(order(group$rows$y), function(g) {
      # One value has no spread.
      if (!shapely$many[g]) return(NULL)
      rows <- which(group$at == g)
      own_parts <- if (!is.null(parts)) lapply(parts, `[`, rows)
      curve <- density_curve(values[rows], ink$bandwidth, parts = own_parts)
      curve <- shown_curve(curve, axis)
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = axis$backward(curve$x),
        y = group$rows$y[g],
        colour = group$rows$colour[g],
        height = curve$density,
        n = shapely$n[g],
        .rows = nrow(curve)
      )
    })
  )
  rule <- if (is.numeric(ink$bandwidth)) format(ink$bandwidth) else bandwidth_rules[[ink$bandwidth]]
  list(
    table = curves,
    rows = group$rows,
    findings = new_findings(group$rows, "ridge", shapely$n, why = shapely$why, value = "x"),
    traces = if (!is.null(curves)) {
      new_table(finding = curves$series, x = curves$x, density = curves$height)
    },
    extent = if (!is.null(curves)) {
      extent_by_panel(curves$panel, x0 = curves$x, y0 = group$rows$y[curves$series])
    },
    zero = character(),
    used = complete & group$at %in% curves$series,
    notes = few_note(layer$x, complete & !group$at %in% curves$series, "a ridge", table$times),
    shows = paste0("density of each row by a Gaussian kernel, bandwidth by ", rule)
  )
}

#' @export
place_ink.ink_ridges <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  code <- trained$rows$y[curves$series]
  middle <- site$unit(code, curves$panel, "y")
  row <- abs(site$unit(code + 0.5, curves$panel, "y") - middle) * 2
  base <- middle - row / 2
  highest <- stats::ave(curves$height, curves$panel, FUN = max)
  scale <- ink$overlap * row / highest
  # All of one scale, so that the ridge that would leave the panel lowers them all.
  room <- (1 - base) / pmax(curves$height * scale, 1e-12)
  scale <- scale * pmin(1, stats::ave(room, curves$panel, FUN = min))
  colour <- site$colour_of(
    if (all(is.na(trained$rows$colour))) NULL else trained$rows$colour,
    nrow(trained$rows)
  )
  x <- site$unit(curves$x, curves$panel, "x")
  parts <- split(seq_len(nrow(curves)), factor(curves$series, unique(curves$series)))
  around <- unlist(lapply(parts, function(rows) c(rows, -rev(range(rows)))))
  distance <- abs(around)
  series <- curves$series[distance]
  list(
    new_marks(
      "areas",
      new_table(
        panel = curves$panel[distance],
        area = match(series, unique(series)),
        x = x[distance],
        y = base[distance] + ifelse(around > 0, curves$height[distance] * scale[distance], 0),
        fill = paler(colour, site$house$colour$paper)[series],
        opacity = if (any(!is.na(trained$rows$colour))) 0.85 else 1,
        colour = colour[series],
        weight_pt = site$house$weight_pt$outline * 1.5,
        .rows = length(distance)
      )
    )
  )
}

#' @export
question_of.ink_ridges <- function(ink) question_of_density(ink)

#' @export
ink_traits.ink_ridges <- function(ink) new_traits("swatch", "colour", "spread", called = "ridge")

#' @export
marks_named.ink_ridges <- function(ink) "curves"
