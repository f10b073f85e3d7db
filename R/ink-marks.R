#' Rules, shades, regions, arrows and notes
#'
#' Marks at places that are said, not in the data; they are drawn in every panel.
#' `ink_rule()`: lines across the panel. `ink_shade()`: bands over all of one direction, under the
#' points and lines said before it.
#' `ink_region()`: a rectangle's outline. `ink_arrow()`: an arrow. `ink_text()`: a note.
#'
#' @param x,y Positions in data units, dates and times included: for a rule one or more,
#'   for a shade or a region two ends, for a note one. For a note at `"panel"`, shares of
#'   the panel, 0 to 1 from the lower left.
#' @param slope,intercept A rule that rises; on transformed axes in transformed units.
#' @param dash Is the rule dashed?
#' @param from,to Two numbers each, x and y.
#' @param label The note, with inline markup; `{n}` and `{missing}` in it are the rows that its
#'   panel draws, and those that it was given and does not draw.
#' @param at `"data"` or `"panel"`.
#' @param anchor Where the note stands from its position: `"right"`, `"left"`, `"above"`,
#'   `"below"` or `"middle"`.
#' @param size Type size in points; `NULL` for the house's base.
#' @param colour A colour; `NULL` for the house's.
#' @param opacity Opacity of a shade.
#' @param weight Line weight in points.
#' @param where A condition: the mark is drawn only in panels that hold a row for which it is true,
#'   such as `flour == "rye"`; `NULL`: in all.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An ink, for [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(
#'     study("loaves"),
#'     x = rise,
#'     y = firmness,
#'     ink_shade(y = c(4, 7)),
#'     ink_points(),
#'     ink_rule(x = 60, dash = TRUE),
#'     ink_text("sold at once", x = 62, y = 12)
#'   ),
#'   width = 100,
#'   height = 70
#' )
#' @name marks
NULL

#' @rdname marks
#' @export
ink_rule <- function(
  x = NULL,
  y = NULL,
  slope = NULL,
  intercept = 0,
  dash = FALSE,
  weight = 0.6,
  colour = NULL,
  where = NULL,
  ...
) {
  check_rest(...)
  if (is.null(x) && is.null(y) && is.null(slope)) {
    abort_nelvat("argument", c("A rule needs `x`, `y` or `slope`.", x = "None is given."))
  }
  check_number(slope, "slope", or_null = TRUE)
  check_number(intercept, "intercept")
  in_panels_where(
    new_ink(
      "rule",
      x = check_places(x, "x"),
      y = check_places(y, "y"),
      slope = slope,
      intercept = intercept,
      dash = check_flag(dash, "dash"),
      weight = check_number(weight, "weight", 0.1, 10, unit = "pt"),
      colour = check_colour(colour)
    ),
    rlang::enquo(where)
  )
}

#' @rdname marks
#' @export
ink_shade <- function(x = NULL, y = NULL, colour = NULL, opacity = 0.14, where = NULL, ...) {
  check_rest(...)
  if (is.null(x) == is.null(y)) {
    abort_nelvat(
      "argument",
      c(
        "A shade needs either `x` or `y`, its two ends.",
        x = if (is.null(x)) "Neither is given." else "Both are given."
      )
    )
  }
  in_panels_where(
    new_ink(
      "shade",
      x = check_places(x, "x", 2),
      y = check_places(y, "y", 2),
      colour = check_colour(colour),
      opacity = check_number(opacity, "opacity", 0, 1)
    ),
    rlang::enquo(where)
  )
}

#' @rdname marks
#' @export
ink_region <- function(x, y, colour = NULL, weight = 0.8, where = NULL, ...) {
  check_rest(...)
  in_panels_where(
    new_ink(
      "region",
      x = check_places(x, "x", 2),
      y = check_places(y, "y", 2),
      colour = check_colour(colour),
      weight = check_number(weight, "weight", 0.1, 10, unit = "pt")
    ),
    rlang::enquo(where)
  )
}

#' @rdname marks
#' @export
ink_arrow <- function(from, to, colour = NULL, weight = 0.8, where = NULL, ...) {
  check_rest(...)
  in_panels_where(
    new_ink(
      "arrow",
      from = check_places(from, "from", 2),
      to = check_places(to, "to", 2),
      colour = check_colour(colour),
      weight = check_number(weight, "weight", 0.1, 10, unit = "pt")
    ),
    rlang::enquo(where)
  )
}

#' @rdname marks
#' @export
ink_text <- function(
  label,
  x,
  y,
  at = "data",
  anchor = "right",
  size = NULL,
  colour = NULL,
  where = NULL,
  ...
) {
  check_rest(...)
  check_string(label, "label")
  in_panels_where(
    new_ink(
      "text",
      label = label,
      x = check_places(x, "x", 1),
      y = check_places(y, "y", 1),
      at = check_choice(at, c("data", "panel"), "at"),
      anchor = check_choice(anchor, names(anchors), "anchor"),
      size = check_number(size, "size", 3, 40, unit = "pt", or_null = TRUE),
      colour = check_colour(colour)
    ),
    rlang::enquo(where)
  )
}

check_colour <- function(colour, call = rlang::caller_env()) {
  if (is.null(colour) || is_setting(colour, "colour")) return(colour)
  abort_nelvat(
    "argument",
    c(
      "`colour` must be a colour, such as \"#AA3333\" or \"grey40\".",
      x = paste0("Found ", describe_value(colour), ".")
    ),
    call
  )
}

anchors <- list(
  right = c(0, 0.5),
  left = c(1, 0.5),
  above = c(0.5, 1),
  below = c(0.5, 0),
  middle = c(0.5, 0.5)
)

#' @export
check_ink.ink_rule <- function(ink, panel, call) check_places_axes(panel, call)
#' @export
check_ink.ink_shade <- function(ink, panel, call) check_places_axes(panel, call)
#' @export
check_ink.ink_region <- function(ink, panel, call) check_places_axes(panel, call)
#' @export
check_ink.ink_arrow <- function(ink, panel, call) check_places_axes(panel, call)
#' @export
check_ink.ink_text <- function(ink, panel, call) check_places_axes(panel, call)

check_places_axes <- function(panel, call) {
  if (!is.null(panel$variables$x) || !is.null(panel$variables$y)) return(invisible())
  abort_nelvat(
    "argument",
    c("A mark needs axes to stand by.", x = "Neither `x` nor `y` of the panel is given."),
    call
  )
}

# A mark for some panels only: those that hold a row for which a condition is true.
in_panels_where <- function(ink, where) {
  if (!rlang::quo_is_null(where)) ink$mapped$where <- where
  ink
}

# The panels that a mark is drawn in.
panels_where <- function(layer) {
  where <- layer$ink$variables$where
  if (is.null(where)) return(sort(unique(layer$table$panel)))
  held <- layer$table$where == match("TRUE", where$kind$levels)
  sort(unique(layer$table$panel[which(held)]))
}

# Marks ask to be seen: their places are part of the range.
train_places <- function(layer, x = numeric(), y = numeric()) {
  panels <- panels_where(layer)
  if (!length(panels)) {
    return(list(table = new_table(panel = integer(), .rows = 0L), zero = character()))
  }
  end <- function(values, f) if (length(values)) f(values) else NA_real_
  list(
    table = new_table(panel = panels),
    zero = character(),
    extent = new_table(
      panel = panels,
      x0 = end(x, min),
      x1 = end(x, max),
      y0 = end(y, min),
      y1 = end(y, max),
      .rows = length(panels)
    )
  )
}

#' @export
train_ink.ink_rule <- function(ink, layer) train_places(layer, ink$x, ink$y)
#' @export
train_ink.ink_shade <- function(ink, layer) train_places(layer, ink$x, ink$y)
#' @export
train_ink.ink_region <- function(ink, layer) train_places(layer, ink$x, ink$y)
#' @export
train_ink.ink_arrow <- function(ink, layer) {
  train_places(layer, c(ink$from[1], ink$to[1]), c(ink$from[2], ink$to[2]))
}
#' @export
train_ink.ink_text <- function(ink, layer) {
  if (ink$at == "panel") train_places(layer) else train_places(layer, ink$x, ink$y)
}

#' @export
place_ink.ink_rule <- function(ink, trained, place) {
  colour <- ink$colour %||% place$house$colour$axis
  panels <- trained$table$panel
  segment <- function(panel, x0, y0, x1, y1) {
    new_table(
      panel = panel,
      x0 = x0,
      y0 = y0,
      x1 = x1,
      y1 = y1,
      colour = colour,
      weight_pt = ink$weight,
      dash = if (ink$dash) "4 2" else "solid",
      .rows = length(panel)
    )
  }
  spot <- function(values, direction) {
    of_panel <- rep(panels, each = length(values))
    unit <- place$unit(rep(values, length(panels)), of_panel, direction)
    if (direction == "x") {
      segment(of_panel, unit, 0, unit, 1)
    } else {
      segment(of_panel, 0, unit, 1, unit)
    }
  }
  list(
    new_marks(
      "segments",
      stack_tables(
        list(
          if (length(ink$x)) spot(ink$x, "x"),
          if (length(ink$y)) spot(ink$y, "y"),
          if (!is.null(ink$slope)) {
            ends <- lapply(panels, function(panel) place$line_ends(panel, ink$slope, ink$intercept))
            segment(panels, 0, vapply(ends, `[`, 0, 1), 1, vapply(ends, `[`, 0, 2))
          }
        )
      )
    )
  )
}

#' @export
place_ink.ink_shade <- function(ink, trained, place) {
  panels <- trained$table$panel
  unit <- function(values, k, direction) {
    if (is.null(values)) {
      rep(k - 1, length(panels))
    } else {
      place$unit(rep(values[k], length(panels)), panels, direction)
    }
  }
  list(
    under_points(
      new_marks(
        "rects",
        new_table(
          panel = panels,
          x0 = unit(ink$x, 1, "x"),
          x1 = unit(ink$x, 2, "x"),
          y0 = unit(ink$y, 1, "y"),
          y1 = unit(ink$y, 2, "y"),
          fill = ink$colour %||% place$house$colour$lone,
          opacity = ink$opacity,
          .rows = length(panels)
        )
      )
    )
  )
}

#' @export
place_ink.ink_region <- function(ink, trained, place) {
  panels <- trained$table$panel
  unit <- function(value, direction) place$unit(rep(value, length(panels)), panels, direction)
  list(
    new_marks(
      "rects",
      new_table(
        panel = panels,
        x0 = unit(ink$x[1], "x"),
        x1 = unit(ink$x[2], "x"),
        y0 = unit(ink$y[1], "y"),
        y1 = unit(ink$y[2], "y"),
        fill = "#FFFFFF",
        opacity = 0,
        colour = ink$colour %||% place$house$colour$axis,
        weight_pt = ink$weight,
        .rows = length(panels)
      )
    )
  )
}

arrow_head_mm <- 1.8

#' @export
place_ink.ink_arrow <- function(ink, trained, place) {
  panels <- trained$table$panel
  unit <- function(value, direction) place$unit(rep(value, length(panels)), panels, direction)
  x0 <- unit(ink$from[1], "x")
  y0 <- unit(ink$from[2], "y")
  x1 <- unit(ink$to[1], "x")
  y1 <- unit(ink$to[2], "y")
  colour <- ink$colour %||% place$house$colour$axis
  w <- place$panel_w(panels)
  h <- place$panel_h(panels)
  turn <- atan2((y1 - y0) * h, (x1 - x0) * w)
  wing <- function(angle) {
    list(
      x = x1 - arrow_head_mm * cos(turn + angle) / w,
      y = y1 - arrow_head_mm * sin(turn + angle) / h
    )
  }
  a <- wing(0.4)
  b <- wing(-0.4)
  heads <- new_table(
    panel = rep(panels, each = 3),
    area = rep(seq_along(panels), each = 3),
    x = as.vector(rbind(a$x, x1, b$x)),
    y = as.vector(rbind(a$y, y1, b$y)),
    fill = colour,
    opacity = 1,
    colour = NA_character_,
    weight_pt = 0,
    .rows = 3 * length(panels)
  )
  list(
    new_marks(
      "segments",
      new_table(
        panel = panels,
        x0 = x0,
        y0 = y0,
        x1 = (a$x + b$x) / 2,
        y1 = (a$y + b$y) / 2,
        colour = colour,
        weight_pt = ink$weight,
        .rows = length(panels)
      )
    ),
    new_marks("areas", heads)
  )
}

note_gap_mm <- 1

#' @export
place_ink.ink_text <- function(ink, trained, place) {
  panels <- trained$table$panel
  unit <- function(value, direction) {
    if (ink$at == "panel") {
      rep(value, length(panels))
    } else {
      place$unit(rep(value, length(panels)), panels, direction)
    }
  }
  anchor <- anchors[[ink$anchor]]
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = panels,
          x = unit(ink$x, "x"),
          y = unit(ink$y, "y"),
          string = ink$label,
          size_pt = ink$size %||% place$house$type_pt$base,
          across = anchor[1],
          down = anchor[2],
          colour = ink$colour %||% place$house$colour$text,
          dx_mm = note_gap_mm * (1 - 2 * anchor[1]),
          dy_mm = note_gap_mm * (2 * anchor[2] - 1),
          .rows = length(panels)
        )
      ),
      list(role = "note")
    )
  )
}

#' @export
ink_traits.ink_rule <- function(ink) note_traits()
#' @export
ink_traits.ink_shade <- function(ink) note_traits()
#' @export
ink_traits.ink_region <- function(ink) note_traits()
#' @export
ink_traits.ink_arrow <- function(ink) note_traits()
#' @export
ink_traits.ink_text <- function(ink) note_traits()

# Positions in data units; dates and times, also as ISO 8601 text, are seconds.
check_places <- function(values, argument, n = NULL, call = rlang::caller_env()) {
  if (is.null(values)) return(NULL)
  if (is.list(values)) values <- unlist(values)
  if (is.character(values) && all(is_iso_moment(values))) values <- parse_iso(values, "UTC")
  if (inherits(values, c("Date", "POSIXct"))) values <- moment_seconds(values)
  if (
    is.numeric(values) && all(is.finite(values)) && length(values) && (
      is.null(n) || length(values) == n
    )
  ) {
    return(values)
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        "` must be ",
        if (is.null(n)) "numbers" else counted(n, "number"),
        ", dates or times."
      ),
      x = paste0("Found ", describe_value(values), ".")
    ),
    call
  )
}
