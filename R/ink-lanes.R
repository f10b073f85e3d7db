#' Lanes of single subjects
#'
#' `ink_lanes()`: a bar for each subject from when it was first followed to when it was last. `x` is
#' that end. `ink_events()`: a symbol on the lane of each subject where something happened to it,
#' one ink a sort of event.
#'
#' @eval argument_lines("ink_lanes", "ink_events")
#' @return An ink, for [panel()] with a quantity or a moment on `x` and a category on `y`.
#' @section Errors: `nelvat_error_kind` where the panel does not suit the ink;
#' `nelvat_error_argument` for lanes that end before they begin, begin where the axis cannot show
#' it, or several lanes of one subject.
#' @examples
#' starters <- study("starters")
#' plate(
#'   panel(
#'     starters,
#'     x = to,
#'     y = starter,
#'     colour = fed,
#'     order = list(starter = by_statistic(to, "max", descending = TRUE)),
#'     ink_lanes(from),
#'     ink_events(doubled, "Doubled"),
#'     ink_events(collapsed, "Collapsed", shape = "triangle")
#'   ),
#'   width = 100, height = 90
#' )
#' @export
ink_lanes <- function(from = NULL, onward = NULL, width = 0.6, colour = NULL, ...) {
  said_ink("lanes", ...)
}

#' @export
word_rows.ink_lanes <- function(word) {
  list(
    from = a_column(or_null = TRUE, says = "When each lane begins: a column; `NULL`: at 0."),
    onward = a_column(
      or_null = TRUE,
      says = "A column that is true, or 1, for those still followed: their lanes end in arrows."
    ),
    width = a_number(0.05, 1, says = "Width of lanes, as a share of a row."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

check_lane_axes <- function(panel, what, call) {
  check_needs(panel, c("x", "y"), what, call)
  check_variable_kind(panel$variables$x, "x", c("quantity", "moment"), call, "for lanes along it")
  for (y in panel$variables$y) check_variable_kind(y, "y", c("category", "ordinal"), call)
}

#' @export
check_ink.ink_lanes <- function(ink, panel, call) {
  check_lane_axes(panel, "A lane", call)
  if (!is.null(ink$variables$from)) {
    check_variable_kind(ink$variables$from, "from", panel$variables$x$kind$kind, call)
  } else if (panel$variables$x$kind$kind == "moment") {
    abort_nelvat("argument", c("Lanes in time need `from`.", x = "It is not given."), call)
  }
}

#' @export
axis_columns.ink_lanes <- function(ink) "from"

#' @export
train_ink.ink_lanes <- function(ink, layer) {
  table <- layer$table
  table$from <- table$from %||% rep(0, nrow(table))
  complete <- complete_rows(table, c("x", "y", "from", if (!is.null(layer$colour)) "colour"))
  lanes <- table_rows(table, complete)
  names <- plain_text(layer$y$kind$level_names)
  wrong <- function(row, x) {
    abort_nelvat(
      "argument",
      c("A lane runs from its begin to its end, one for each subject.", x = paste0(x(row), ".")),
      call = NULL
    )
  }
  twice <- which(duplicated(lanes[c("panel", "y")]))
  if (length(twice)) {
    wrong(twice[1], function(row) paste0("\"", names[lanes$y[row]], "\" has several"))
  }
  axis <- axis_transform(layer$x$transform)
  unseen <- which(!axis$holds(lanes$from))
  if (length(unseen)) {
    wrong(unseen[1], function(row) {
      paste0(
        "That of \"",
        names[lanes$y[row]],
        "\" begins at ",
        number_text_each(lanes$from[row]),
        ", which its axis cannot show"
      )
    })
  }
  turned <- which(lanes$from > lanes$x)
  if (length(turned)) {
    wrong(
      turned[1],
      function(row) paste0("That of \"", names[lanes$y[row]], "\" ends before it begins")
    )
  }
  list(
    table = lanes,
    onward = is_true_level(ink$variables$onward, lanes$onward),
    extent = extent_by_panel(
      rep(lanes$panel, 2),
      x0 = c(lanes$from, lanes$x),
      y0 = rep(lanes$y, 2)
    ),
    zero = if (is.null(ink$variables$from)) "x" else character(),
    used = complete,
    shows = paste0(
      "from ",
      if (is.null(ink$variables$from)) "0" else plain_name(ink$variables$from),
      " to ",
      plain_name(layer$x),
      if (!is.null(ink$variables$onward)) ", with an arrow where it goes on"
    )
  )
}

# Of levels or numbers, which mean yes.
is_true_level <- function(variable, values) {
  if (is.null(variable)) return(rep(FALSE, length(values)))
  if (has_levels(variable$kind)) {
    yes <- tolower(variable$kind$levels) %in% c("true", "yes", "1")
    return(values %in% which(yes))
  }
  !is.na(values) & values != 0
}

#' @export
place_ink.ink_lanes <- function(ink, trained, site) {
  lanes <- trained$table
  n <- nrow(lanes)
  side <- function(by) site$unit(lanes$y + by * ink$width / 2, lanes$panel, "y")
  colour <- site$colour_of(lanes$colour, n)
  from <- site$unit(lanes$from, lanes$panel, "x")
  to <- site$unit(lanes$x, lanes$panel, "x")
  bars <- new_marks(
    "rects",
    new_table(
      panel = lanes$panel,
      x0 = pmin(from, to),
      x1 = pmax(from, to),
      y0 = pmin(side(-1), side(1)),
      y1 = pmax(side(-1), side(1)),
      fill = colour,
      opacity = 1,
      .rows = n
    )
  )
  on <- which(trained$onward)
  if (!length(on)) return(list(bars))
  area <- lanes$panel[on]
  tip <- onward_mm / site$panel_w(area) * sign(to[on] - from[on] + 1e-12)
  middle <- site$unit(lanes$y[on], area, "y")
  corners <- rep(seq_along(on), each = 3)
  step <- rep(1:3, length(on))
  heads <- new_marks(
    "areas",
    new_table(
      panel = area[corners],
      area = corners,
      x = ifelse(step == 2, (to[on] + tip)[corners], to[on][corners]),
      y = ifelse(
        step == 1,
        side(-1)[on][corners],
        ifelse(step == 2, middle[corners], side(1)[on][corners])
      ),
      fill = colour[on][corners],
      opacity = 1,
      colour = NA_character_,
      weight_pt = 0,
      .rows = length(corners)
    )
  )
  list(bars, heads)
}
onward_mm <- 1.6

#' @export
ink_traits.ink_lanes <- function(ink) new_traits("swatch", "colour", behind = FALSE)

#' @export
marks_named.ink_lanes <- function(ink) "bars"

#' @rdname ink_lanes
#' @export
ink_events <- function(x, name, shape = "disc", colour = NULL, size = NULL, ...) {
  said_ink("events", ...)
}

#' @export
word_rows.ink_events <- function(word) {
  list(
    x = a_column(mapped = "event", says = "When it happened: a column; none where it is missing."),
    name = a_text(says = "What happened, for the key."),
    shape = a_choice(symbol_names, says = "The symbol."),
    colour = a_colour(says = "A colour; `NULL` for the house's text, edged in white."),
    size = mm_size(says = "Size of symbols in mm.")
  )
}

#' @export
check_ink.ink_events <- function(ink, panel, call) {
  check_lane_axes(panel, "An event", call)
  check_variable_kind(ink$variables$event, "x", panel$variables$x$kind$kind, call)
}

# What did not happen is not missing.
#' @export
settled_ink.ink_events <- function(ink, variables) {
  ink$variables$event <- changed(ink$variables$event, n_missing = 0L)
  ink
}

#' @export
axis_columns.ink_events <- function(ink) "event"

#' @export
train_ink.ink_events <- function(ink, layer) {
  complete <- complete_rows(layer$table, c("y", "event")) &
    axis_transform(layer$x$transform)$holds(layer$table$event)
  events <- table_rows(layer$table, complete)
  list(
    table = events,
    extent = extent_by_panel(events$panel, x0 = events$event, y0 = events$y),
    zero = character(),
    used = complete,
    shows = paste0("where \"", ink$name, "\" happened")
  )
}

#' @export
place_ink.ink_events <- function(ink, trained, site) {
  events <- trained$table
  list(
    new_marks(
      "points",
      new_table(
        panel = events$panel,
        x = site$unit(events$event, events$panel, "x"),
        y = site$unit(events$y, events$panel, "y"),
        colour = ink$colour %||% site$house$colour$text,
        opacity = 1,
        shape = ink$shape,
        size_mm = ink$size %||% site$house$points$key_mm,
        edge = site$house$colour$paper,
        .rows = nrow(events)
      )
    )
  )
}

#' @export
own_keys.ink_events <- function(ink, layer, house) {
  if (!any(layer$trained$used)) return(NULL)
  list(
    list(
      id = "events",
      title = "",
      labels = ink$name,
      glyph = "symbol",
      colour = ink$colour %||% house$colour$text,
      shape = ink$shape,
      dash = "solid",
      size_mm = ink$size %||% house$points$key_mm,
      joins = TRUE,
      by_shape = TRUE
    )
  )
}

#' @export
ink_traits.ink_events <- function(ink) new_traits("symbol", behind = FALSE)

#' @export
marks_named.ink_events <- function(ink) "symbols"
