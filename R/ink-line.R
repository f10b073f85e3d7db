#' Lines
#'
#' A line for each series, in the order of x; or the mean at each x with a band. Series
#' are parted by colour, dash, shape and group.
#'
#' @eval argument_lines("ink_line", "ink_step")
#' @return An ink, for [panel()].
#' @details Missing values of y break the line unless the panel's `missing` policy for
#'   `y` is `"bridge"` or `"drop"`. `ink_step()` holds each value until the next x.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("cultures"), x = hour, y = log10(count), colour = microbe,
#'     keep = microbe == "fsan" | microbe == "khum", ink_line(centre = "median", markers = TRUE)),
#'   width = 120, height = 60
#' )
#' plate(panel(study("probe"), x = time, y = gas, ink_line()), width = 120, height = 50)
#' @export
ink_line <- function(
  centre = NULL,
  band = NULL,
  markers = FALSE,
  stagger = 0,
  weight = NULL,
  opacity = 1,
  seed = 1,
  colour = NULL,
  group = NULL,
  gap = NULL,
  along = "x",
  arrow = FALSE,
  on = "axis",
  ...
) {
  ink <- as_line(said_ink("line", ...))
  if (!is.null(centre) && (along != "x" || arrow)) {
    abort_nelvat(
      "argument",
      c(
        "`along` and `arrow` are of lines that join the values themselves.",
        x = paste0("`centre` is \"", centre, "\".")
      )
    )
  }
  if (is.null(band)) return(ink)
  if (is.null(centre)) {
    abort_nelvat(
      "argument",
      c(
        "A band is about a centre.", x = "`centre` is not given.",
        i = "Say `centre = \"mean\"` or `centre = \"median\"`."
      )
    )
  }
  check_choice(band, errors_of(centre), "band")
  ink
}

#' @rdname ink_line
#' @export
ink_step <- function(
  markers = FALSE,
  stagger = 0,
  weight = NULL,
  opacity = 1,
  colour = NULL,
  gap = NULL,
  ...
) {
  as_line(said_ink("step", ...))
}

as_line <- function(ink) {
  class(ink) <- unique(c(class(ink)[1], "ink_line", "nelvat_ink"))
  ink
}

#' @export
check_ink.ink_line <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "A line", call)
  colour <- panel$variables$colour
  if (!is.null(colour)) {
    check_variable_kind(colour, "colour", c("category", "ordinal"), call, "for lines")
  }
  check_gap(ink, panel, call)
}

# Stops where a panel lacks a channel that an ink cannot do without.
check_needs <- function(panel, channels, what, call) {
  absent <- setdiff(channels, names(panel$variables))
  if (!length(absent)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        what,
        if (grepl("s$", what)) " need " else " needs ",
        listed(paste0("`", channels, "`")),
        "."
      ),
      x = paste0("`", absent[1], "` is not given.")
    ),
    call
  )
}

# Lines are apart along y; gaps are along what they are joined by.
#' @export
said_on_axis.ink_line <- function(ink, direction) {
  along <- if (identical(ink$along, "y")) "y" else "x"
  c(
    if (direction == along) ink["gap"],
    if (direction == "y" && ink$stagger != 0) ink["stagger"]
  )
}

#' @export
beside_inks.ink_line <- function(ink, others) parts_with(ink, others)

#' @export
train_ink.ink_line <- function(ink, layer) {
  table <- layer$table
  has_x <- complete_rows(
    table,
    c("x", "dash", "shape", "group", if (!is_ramp(layer$colour)) "colour")
  )
  complete <- has_x & !is.na(table$y)
  # A missing y is kept where it breaks the line.
  kept <- if (is.null(ink$centre) && !isTRUE(layer$y$policy %in% c("bridge", "drop"))) {
    has_x
  } else {
    complete
  }
  series <- layer_groups(layer, kept, if (!is.null(ink$centre)) ink, table)
  if (identical(ink$band, "exact")) ink$on <- "data"
  scale <- summary_scale(ink, layer$y)
  lines <- if (is.null(ink$centre)) {
    raw_lines(table, series, ink$along %||% "x")
  } else {
    centre_lines(table, series, ink, scale)
  }
  findings <- if (!is.null(ink$centre)) {
    new_findings(
      changed(table_rows(series$rows, lines$series), x = lines$x),
      ink$centre,
      lines$n,
      centre = lines$y,
      lower = lines$lower,
      upper = lines$upper
    )
  }
  along <- ink$along %||% "x"
  # What is joined in the order of the rows lacks no step of an axis.
  bridged <- identical(layer$y$policy, "bridge") || along == "rows"
  step <- if (bridged) Inf else gap_step(ink$gap, if (along == "y") layer$y else layer$x)
  upright <- along == "y"
  lines <- exchange_axes(with_gaps(exchange_axes(lines, upright), step), upright)
  lines$y <- lines$y + (lines$order - 1) * ink$stagger
  lines$colour <- series$rows$colour[lines$series] %||% rep(NA_integer_, nrow(lines))
  lines[c("aside_x", "aside_y")] <- aside_in_slots(ink, layer, lines)
  # What a band reaches beyond the axis's domain asks for no room.
  showable <- axis_transform(layer$y$transform)$holds
  low <- ifelse(!is.na(lines$lower) & showable(lines$lower), lines$lower, lines$y)
  error <- if (!is.null(ink$centre)) {
    error_that_exists(ink$band %||% errors_of(ink$centre)[1], lines$lower)
  }
  shows <- if (is.null(ink$centre)) {
    joined_words(ink)
  } else {
    words_on_scale(centre_error_words(ink$centre, error), ink$centre, error, scale)
  }
  if (ink$stagger != 0) {
    shows <- paste0(shows, "; each series ", format(ink$stagger), " above the one before")
  }
  list(
    table = lines,
    series = series$rows,
    extent = extent_by_panel(
      lines$panel,
      x0 = lines$x,
      y0 = pmin(lines$y, low, na.rm = TRUE),
      y1 = pmax(lines$y, lines$upper, na.rm = TRUE)
    ),
    zero = character(),
    used = complete,
    shows = shows,
    error_means = if (!is.null(ink$centre)) error_meaning(error),
    findings = findings,
    each = findings,
    notes = rbind(
      if (!is.null(ink$centre)) unseen_errors(layer$y, lines$lower, lines$upper),
      if (sum(lines$gap)) {
        data.frame(
          column = if (upright) layer$y$id else layer$x$id,
          what = "gaps in a regular series, where no line is drawn",
          n = sum(lines$gap)
        )
      }
    )
  )
}

#' @export
place_ink.ink_line <- function(ink, trained, site) {
  lines <- trained$table
  looks <- series_looks(trained$series, site)
  # On bars of the one colour of all marks lines would not be seen.
  alike <- is.null(ink$settings$colour) && all(is.na(trained$series$colour))
  if (isTRUE(ink$over_bars) && alike) looks$colour[] <- site$house$colour$text
  x <- aside_unit(lines, site, "x")
  y <- aside_unit(lines, site, "y")
  colour <- looks$colour[lines$series]
  gap <- is.na(y)
  stretch <- cumsum(
    c(TRUE, lines$series[-1] != lines$series[-nrow(lines)]) | c(FALSE, gap[-nrow(lines)])
  )
  in_line <- which(!gap)
  paths <- new_table(
    panel = lines$panel[in_line],
    line = stretch[in_line],
    x = x[in_line],
    y = y[in_line],
    colour = colour[in_line],
    weight_pt = ink$weight %||% site$house$weight_pt$line,
    dash = looks$dash[lines$series][in_line],
    opacity = ink$opacity,
    .rows = length(in_line)
  )
  marks <- list()
  if (any(!is.na(lines$lower))) marks <- list(band_marks(lines, x, site, colour))
  if (inherits(ink, "ink_step")) paths <- step_paths(paths)
  marks <- c(marks, list(new_marks("lines", paths)))
  if (isTRUE(ink$arrow)) marks <- c(marks, end_heads(paths, site))
  if (!ink$markers && is.null(trained$series$shape)) {
    marks <- c(marks, lone_values(paths, ink, site))
  } else {
    marks <- c(
      marks,
      list(
        new_marks(
          "points",
          new_table(
            panel = lines$panel[in_line],
            x = x[in_line],
            y = y[in_line],
            colour = colour[in_line],
            opacity = ink$opacity,
            shape = looks$shape[lines$series][in_line],
            size_mm = site$house$points$size_mm,
            .rows = length(in_line)
          )
        )
      )
    )
  }
  marks
}

# A value between two gaps has no line to stand on: it gets a dot.
lone_values <- function(paths, ink, site) {
  alone <- which(!paths$line %in% paths$line[duplicated(paths$line)])
  if (!length(alone)) return(NULL)
  list(
    new_marks(
      "points",
      new_table(
        panel = paths$panel[alone],
        x = paths$x[alone],
        y = paths$y[alone],
        colour = paths$colour[alone],
        opacity = ink$opacity,
        shape = "disc",
        size_mm = max(0.6, 2 * paths$weight_pt[1] * mm_per_pt),
        .rows = length(alone)
      )
    )
  )
}

# Colour, dash and shape of each series.
series_looks <- function(series, site) {
  n <- nrow(series)
  list(
    colour = site$colour_of(series$colour, n),
    dash = site$dash_of(series$dash, n),
    shape = if (is.null(series$shape)) rep("disc", n) else site$shape_of(series$shape)
  )
}

# Each value held until the next x of its line.
step_paths <- function(paths) {
  n <- nrow(paths)
  last <- c(paths$line[-1] != paths$line[-n], TRUE)
  doubled <- rep(seq_len(n), ifelse(last, 1L, 2L))
  steps <- table_rows(paths, doubled)
  second <- duplicated(doubled)
  steps$x[second] <- paths$x[doubled[second] + 1L]
  steps
}

#' @export
question_of.ink_line <- function(ink) {
  if (is.null(ink$centre)) return("rows")
  question_of_centre(ink$centre, ink$band %||% errors_of(ink$centre)[1])
}

#' @export
ink_traits.ink_line <- function(ink) {
  new_traits(
    c("line", if (ink$markers) "symbol"),
    c("colour", "dash", "shape"),
    if (is.null(ink$centre)) "values" else "groups",
    called = ink$centre %||% "mean"
  )
}

#' @export
marks_named.ink_line <- function(ink) "lines"
