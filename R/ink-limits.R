#' Limits from the table
#'
#' Error bars in one or both directions, or a band, whose ends are columns of the table: of
#' instruments, of models fitted elsewhere. Beside points or a line that show the values.
#'
#' @eval argument_lines("ink_limits")
#' @return An ink, for [panel()] with quantities or moments on both axes.
#' @details Rows without a limit are drawn without that limit, and counted. An end that an axis
#'   cannot show, such as one not above zero on a logarithmic one, reaches to the axis's end.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, no limits at all, or
#' ends that are exchanged or do not hold their value; `nelvat_error_kind` where the panel does not
#' suit the ink.
#' @examples
#' measured <- data.frame(
#'   x = 1:4, y = c(2, 3, 5, 4), low = c(1.5, 2.6, 4.2, 3.5), high = c(2.4, 3.5, 5.6, 4.6),
#'   left = 1:4 - 0.2, right = 1:4 + 0.3
#' )
#' plate(
#'   panel(measured, x = x, y = y, ink_limits(low, high, left, right), ink_points()),
#'   width = 86
#' )
#' @export
ink_limits <- function(
  lower = NULL,
  upper = NULL,
  left = NULL,
  right = NULL,
  means = NULL,
  drawn_as = "bars",
  weight = NULL,
  colour = NULL,
  ...
) {
  said_ink("limits", ...)
}

#' @export
word_rows.ink_limits <- function(word) {
  list(
    lower = a_column(or_null = TRUE, says = "Columns with the ends of the limits along y."),
    upper = a_column(or_null = TRUE, says = "Columns with the ends of the limits along y."),
    left = a_column(or_null = TRUE, says = "Columns with the ends of the limits along x."),
    right = a_column(or_null = TRUE, says = "Columns with the ends of the limits along x."),
    means = a_text(
      or_null = TRUE,
      says = 'What the limits are, such as `"standard error"`: for the legend.'
    ),
    drawn_as = a_choice(
      c("bars", "band"),
      says = 'Error `"bars"`, or along x a `"band"` between `lower` and `upper`.'
    ),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_limits <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "A limit", call)
  given <- intersect(c("lower", "upper", "left", "right"), names(ink$variables))
  paired <- c(all(c("lower", "upper") %in% given), all(c("left", "right") %in% given))
  if (!any(paired) || length(given) != 2 * sum(paired)) {
    abort_nelvat(
      "argument",
      c(
        "Limits come in pairs: `lower` and `upper`, `left` and `right`.",
        x = if (length(given)) {
          paste0("Found ", listed(paste0("`", given, "`")), ".")
        } else {
          "Found none."
        }
      ),
      call
    )
  }
  if (ink$drawn_as == "band" && !paired[1]) {
    abort_nelvat(
      "argument",
      c("A band lies between `lower` and `upper`.", x = "They are not given."),
      call
    )
  }
  for (channel in c("x", "y")) {
    of_channel <- panel$variables[[channel]]
    for (one in if (channel == "y") of_channel else list(of_channel)) {
      check_variable_kind(one, channel, c("quantity", "moment"), call, "for limits")
    }
  }
}

# Stops where ends are exchanged, or do not hold what they are limits of.
check_ends_hold <- function(from, to, values, names) {
  exchanged <- which(from > to)
  slack <- 1e-9 * pmax(abs(from), abs(to))
  outside <- which(values < from - slack | values > to + slack)
  if (!length(exchanged) && !length(outside)) return(invisible())
  row <- c(exchanged, outside)[1]
  ends <- number_text_each(c(from[row], to[row]), 4)
  abort_nelvat(
    "argument",
    c(
      if (length(exchanged)) {
        paste0("`", names[1], "` is above `", names[2], "`.")
      } else {
        paste0(
          "`",
          names[1],
          "` and `",
          names[2],
          "` do not hold the value that they are limits of."
        )
      },
      x = paste0(
        "In ",
        counted(length(if (length(exchanged)) exchanged else outside), "row"),
        ", such as one with ",
        listed(ends),
        if (!length(exchanged)) paste0(" about ", number_text_each(values[row], 4)),
        "."
      ),
      i = if (!length(exchanged)) "They are ends, not distances, and in the unit of their axis."
    ),
    call = NULL
  )
}

#' @export
axis_columns.ink_limits <- function(ink) c("lower", "upper")

#' @export
train_ink.ink_limits <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  group <- layer_groups(layer, complete, ink, table)
  # On an axis that cannot show an end, the limit reaches to the axis's end.
  of <- function(name) {
    if (is.null(table[[name]])) rep(NA_real_, nrow(table)) else table[[name]]
  }
  rows <- new_table(
    panel = table$panel,
    series = group$at,
    x = table$x,
    y = table$y,
    lower = of("lower"),
    upper = of("upper"),
    left = of("left"),
    right = of("right"),
    .rows = nrow(table)
  )
  rows <- table_rows(rows, which(complete))
  check_ends_hold(rows$lower, rows$upper, rows$y, c("lower", "upper"))
  check_ends_hold(rows$left, rows$right, rows$x, c("left", "right"))
  if (ink$drawn_as == "band") rows <- table_rows(rows, order(rows$series, rows$x))
  y_axis <- axis_transform(layer$y$transform)
  x_axis <- axis_transform(layer$x$transform)
  seen <- function(values, axis, centre) ifelse(is.na(values) | !axis$holds(values), centre, values)
  bare <- sum(complete & is.na(of("lower")) & is.na(of("left")))
  list(
    table = rows,
    series = group$rows,
    extent = extent_by_panel(
      rep(rows$panel, 2),
      x0 = c(seen(rows$left, x_axis, rows$x), seen(rows$right, x_axis, rows$x)),
      y0 = c(seen(rows$lower, y_axis, rows$y), seen(rows$upper, y_axis, rows$y))
    ),
    zero = character(),
    used = complete,
    error_means = ink$means,
    notes = if (bare) {
      data.frame(column = layer$y$id, what = "values without limits", n = bare)
    },
    shows = ink$means %||% paste0(
      "limits from ",
      listed(
        paste0(
          "\"",
          vapply(
            ink$variables[intersect(c("lower", "upper", "left", "right"), names(ink$variables))],
            function(variable) variable$id,
            ""
          ),
          "\""
        )
      )
    )
  )
}

#' @export
place_ink.ink_limits <- function(ink, trained, site) {
  rows <- trained$table
  looks <- series_looks(trained$series, site)
  colour <- looks$colour[rows$series]
  x <- site$unit(rows$x, rows$panel, "x")
  y <- site$unit(rows$y, rows$panel, "y")
  weight <- ink$weight %||% site$house$weight_pt$error
  unit <- function(values, direction) {
    placed <- suppressWarnings(site$unit(values, rows$panel, direction))
    ifelse(is.nan(placed) | is.infinite(placed) & placed < 0, ifelse(is.na(values), NA, 0), placed)
  }
  bars <- function(x0, y0, x1, y1) {
    known <- which(!is.na(x0) & !is.na(y0) & !is.na(x1) & !is.na(y1))
    new_table(
      panel = rows$panel[known],
      x0 = x0[known],
      y0 = y0[known],
      x1 = x1[known],
      y1 = y1[known],
      colour = colour[known],
      weight_pt = weight,
      .rows = length(known)
    )
  }
  across <- bars(unit(rows$left, "x"), y, unit(rows$right, "x"), y)
  if (ink$drawn_as == "band") {
    return(
      c(
        list(band_marks(rows, x, site, colour)),
        if (nrow(across)) list(new_marks("segments", across))
      )
    )
  }
  up <- bars(x, unit(rows$lower, "y"), x, unit(rows$upper, "y"))
  list(under_points(new_marks("segments", stack_tables(list(up, across)))))
}

#' @export
ink_traits.ink_limits <- function(ink) new_traits("line", "colour", "values", behind = FALSE)

#' @export
marks_named.ink_limits <- function(ink) if (ink$drawn_as == "band") "band" else "error bars"
