#' Isolines of a gridded quantity
#'
#' Lines of equal value of a quantity that is known on a grid of x and y, each with its value
#' written along it, and the bands between them filled where it is asked for. Over [ink_tiles()] of
#' the same quantity, or alone.
#'
#' @eval argument_lines("ink_isolines")
#' @return An ink, for [panel()] with quantities on x and y.
#' @details Between the places of the grid values are interpolated linearly (marching squares, by
#'   the package isoband), on transformed axes in the transformed positions. A line ends where the
#'   grid lacks values. A value is written where its line is longest and straight enough; of lines
#'   that are too short it is not. A band has the colour of its middle, between two lines or between
#'   a line and the least or greatest value.
#' @section Errors: `nelvat_error_kind` where z, x or y is no quantity; `nelvat_error_data` where
#' places have several values, all values are equal or there is no grid; `nelvat_error_argument` for
#' levels that z does not reach.
#' @examples
#' oven <- study("oven")
#' plate(
#'   panel(oven, x = x, y = y, colour = temperature, ink_tiles(values = FALSE),
#'     ink_isolines(temperature, every = 10)),
#'   width = 110
#' )
#' @export
ink_isolines <- function(
  z,
  levels = NULL,
  every = NULL,
  labels = TRUE,
  filled = FALSE,
  weight = NULL,
  colour = NULL,
  ...
) {
  said_ink("isolines", ...)
}

#' @export
word_rows.ink_isolines <- function(word) {
  list(
    z = a_column(says = "The quantity whose lines are drawn: a column."),
    levels = numbers(
      c(1, 100),
      -1e15,
      1e15,
      words = "up to 100 numbers",
      or_null = TRUE,
      says = "Values that lines are drawn of; `NULL`: some even ones."
    ),
    every = a_number(
      1e-300,
      or_null = TRUE,
      says = "Step between the values of lines, in place of `levels`."
    ),
    labels = a_flag(says = "Write their values along the lines?"),
    filled = a_flag(
      says = c(
        "Fill what lies between the lines, by the colours of the panel, which are those of `z`:",
        "`panel(colour = z)`."
      )
    ),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_colour(says = "A colour; `NULL` for the house's text.")
  )
}

#' @export
check_ink.ink_isolines <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "An isoline", call)
  check_variable_kind(ink$variables$z, "z", "quantity", call)
  check_variable_kind(panel$variables$x, "x", c("quantity", "moment"), call, "for isolines")
  check_variable_kind(panel$variables$y[[1]], "y", c("quantity", "moment"), call, "for isolines")
  if (ink$filled && !identical(panel$variables$colour$id, ink$variables$z$id)) {
    abort_nelvat(
      "argument",
      c(
        "Filled isolines take the panel's colours, which must be those of `z`.",
        x = if (is.null(panel$variables$colour)) {
          "The panel has no `colour`."
        } else {
          paste0("`colour` is \"", panel$variables$colour$id, "\".")
        },
        i = paste0("Say `colour = ", ink$variables$z$id, "` in the panel.")
      ),
      call
    )
  }
  if (is.null(ink$levels) || is.null(ink$every)) return(invisible())
  abort_nelvat(
    "argument",
    c("Isolines take either `levels` or `every`.", x = "Both are given."),
    call
  )
}

#' @export
beside_inks.ink_isolines <- function(ink, others) {
  over <- vapply(others, function(other) ink_traits(other)$cells, NA)
  changed(ink, over_cells = any(over))
}

#' @export
train_ink.ink_isolines <- function(ink, layer) {
  table <- layer$table
  x_axis <- axis_transform(layer$x$transform)
  y_axis <- axis_transform(layer$y$transform)
  complete <- complete_rows(table, c("x", "y", "z")) & x_axis$holds(table$x) &
    y_axis$holds(table$y)
  known <- table_rows(table, complete)
  levels <- isoline_levels(ink, known$z)
  panels <- panels_in(known$panel)
  found <- stack_tables(
    lapply(panels, function(id) {
      of_panel <- known[known$panel == id, ]
      grid <- value_grid(x_axis$forward(of_panel$x), y_axis$forward(of_panel$y), of_panel$z)
      traced <- isoband::isolines(grid$x, grid$y, t(grid$z), levels)
      stack_tables(
        Map(
          function(one, level) {
            new_table(
              panel = id,
              level = level,
              id = one$id,
              x = x_axis$backward(one$x),
              y = y_axis$backward(one$y),
              .rows = length(one$x)
            )
          },
          traced,
          levels
        )
      )
    })
  )
  rows <- expand.grid(level = levels, panel = panels)
  key <- paste(rows$panel, rows$level)
  lines <- new_findings(
    rows["panel"],
    "isoline",
    tabulate(match(known$panel, panels), length(panels))[match(rows$panel, panels)],
    estimate = rows$level,
    from = if (ink$filled) rep(NA_real_, nrow(rows)),
    to = if (ink$filled) rep(NA_real_, nrow(rows)),
    why = ifelse(key %in% paste(found$panel, found$level), NA, "no value reaches it"),
    value = NA_character_
  )
  bands <- if (ink$filled) isoline_bands(known, levels, x_axis, y_axis)
  list(
    table = found,
    bands = bands$rings,
    findings = stack_tables(list(lines, bands$findings)),
    traces = if (!is.null(found)) {
      new_table(
        finding = match(paste(found$panel, found$level), key),
        x = found$x,
        y = found$y,
        estimate = found$level,
        .rows = nrow(found)
      )
    },
    extent = extent_by_panel(known$panel, x0 = known$x, y0 = known$y),
    fills = c("x", "y"),
    over_cells = (ink$filled || isTRUE(ink$over_cells)) &&
      identical(layer$colour$id, ink$variables$z$id),
    zero = character(),
    used = complete,
    shows = paste0(
      "lines of equal ",
      plain_name(ink$variables$z),
      isoline_words(levels),
      if (ink$filled) ", the bands between them as shades"
    )
  )
}

isoline_words <- function(levels) {
  step <- unique(signif(diff(levels), 8))
  if (length(levels) > 2 && length(step) == 1) {
    paste0(", every ", number_text_each(step, 4))
  } else {
    paste0(" (", listed(number_text_each(levels, 5)), ")")
  }
}

#' @export
place_ink.ink_isolines <- function(ink, trained, site) {
  lines <- trained$table
  if (is.null(lines)) return(list())
  x <- site$unit(lines$x, lines$panel, "x")
  y <- site$unit(lines$y, lines$panel, "y")
  # Over cells of the same quantity a line is black or white, whichever its cells let stand out.
  colour <- rep_len(
    ink$colour %||% (
      if (trained$over_cells) {
        site$contrast(site$colour_of(lines$level, nrow(lines)))
      } else {
        site$house$colour$text
      }
    ),
    nrow(lines)
  )
  line <- match_rows(lines[c("panel", "level", "id")], rep(TRUE, nrow(lines)))$at
  written <- if (ink$labels) isoline_labels(lines, line, x, y, site)
  cut <- line_cuts(written, line, x, y, lines$panel, site)
  c(
    isoline_areas(trained$bands, site),
    list(
      new_marks(
        "lines",
        new_table(
          panel = lines$panel[cut$row],
          line = cut$line,
          x = x[cut$row],
          y = y[cut$row],
          colour = colour[cut$row],
          weight_pt = ink$weight %||% (0.7 * site$house$weight_pt$line),
          dash = "solid",
          opacity = 1,
          .rows = length(cut$row)
        )
      )
    ),
    if (NROW(written)) {
      list(
        c(
          new_marks(
            "words",
            new_table(
              panel = written$panel,
              x = written$x,
              y = written$y,
              string = written$string,
              size_pt = site$house$type_pt$least,
              across = 0.5,
              down = 0.5,
              angle = written$angle,
              most_mm = Inf,
              colour = colour[match(written$line, line)],
              .rows = nrow(written)
            )
          ),
          list(role = "value")
        )
      )
    }
  )
}

#' @export
ink_traits.ink_isolines <- function(ink) {
  if (!isTRUE(ink$filled)) {
    return(new_traits(computed = TRUE, parts_rows = FALSE, behind = FALSE, called = "cell"))
  }
  new_traits(
    "swatch",
    "ramp",
    computed = TRUE,
    parts_rows = FALSE,
    behind = FALSE,
    called = "cell"
  )
}

#' @export
marks_named.ink_isolines <- function(ink) "isolines"
