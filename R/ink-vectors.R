#' Vectors from the middle, with their names
#'
#' Arrows from zero, one a row of a table of its own, such as what the measures of an ordination add
#' to its axes. Their names stand at their tips.
#'
#' @eval argument_lines("ink_vectors")
#' @return An ink, for [panel()] with quantities on both axes.
#' @details All arrows are lengthened by one factor, so that the longest ends near the edge of the
#'   panel: directions and lengths compare with each other, not with the axes. `stretch` sets it.
#' @section Errors: `nelvat_error_argument` for a table without the columns or with values that are
#' no numbers, and axes that do not have zero.
#' @examples
#' plate(
#'   panel(
#'     study("scores"), x = first, y = second, colour = flour,
#'     ink_points(), ink_ellipse(), ink_vectors(study("loadings"))
#'   ),
#'   width = 100
#' )
#' @export
ink_vectors <- function(data, stretch = NULL, weight = NULL, colour = NULL, ...) {
  ink <- said_ink("vectors", ...)
  call <- rlang::current_env()
  book <- as_codebook(ink$data, deparsed_label(substitute(data)), call)
  ink$data <- NULL
  changed(ink, arrows = check_vectors(book, call))
}

#' @export
word_rows.ink_vectors <- function(word) {
  list(
    data = a_table(says = "A table with the columns `x`, `y` and `name`, a row a vector."),
    stretch = a_number(
      1e-300,
      or_null = TRUE,
      says = "What lengths are multiplied by; `NULL`: as the panel has room."
    ),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_colour(says = "A colour; `NULL` for the house's text.")
  )
}

check_vectors <- function(book, call) {
  for (column in c("x", "y", "name")) {
    check_column(column, book$data, book$label, call, "Vectors need it.")
  }
  for (column in c("x", "y")) {
    if (is.numeric(book$data[[column]])) next
    abort_nelvat(
      "argument",
      c(
        paste0("`", column, "` of vectors must be numbers."),
        x = paste0("Found ", describe_value(book$data[[column]]), ".")
      ),
      call
    )
  }
  kind <- book$columns$name
  name <- as.character(book$data$name)
  if (has_levels(kind)) name <- kind$level_names[match(name, kind$levels)]
  known <- is.finite(book$data$x) & is.finite(book$data$y) &
    (book$data$x != 0 | book$data$y != 0) & !is.na(name)
  if (!any(known)) {
    abort_nelvat("argument", c("There is no vector.", x = "No row has `x`, `y` and a name."), call)
  }
  new_table(
    x = book$data$x[known],
    y = book$data$y[known],
    name = name[known],
    .rows = sum(known)
  )
}

#' @export
check_ink.ink_vectors <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "A vector", call)
  for (one in c(list(panel$variables$x), panel$variables$y)) {
    check_variable_kind(one, "x and y", "quantity", call, "for vectors")
    if (one$transform == "identity") next
    abort_nelvat(
      "argument",
      c(
        "Vectors begin at zero, on axes of the values themselves.",
        x = paste0("\"", one$id, "\" is on a ", one$transform, " axis.")
      ),
      call
    )
  }
}

#' @export
train_ink.ink_vectors <- function(ink, layer) {
  panels <- panels_in(layer$table$panel)
  arrows <- ink$arrows
  n <- nrow(arrows)
  stretch <- ink$stretch
  tips <- if (is.null(stretch)) list(x = 0, y = 0) else {
    list(x = c(0, range(arrows$x) * stretch), y = c(0, range(arrows$y) * stretch))
  }
  list(
    table = new_table(
      panel = rep(panels, each = n),
      x = rep(arrows$x, length(panels)),
      y = rep(arrows$y, length(panels)),
      name = rep(arrows$name, length(panels)),
      .rows = n * length(panels)
    ),
    extent = new_table(
      panel = panels,
      x0 = min(tips$x),
      x1 = max(tips$x),
      y0 = min(tips$y),
      y1 = max(tips$y),
      .rows = length(panels)
    ),
    zero = character(),
    says = paste0(
      "arrows for ",
      listed(plain_text(arrows$name)),
      ", ",
      if (is.null(stretch)) {
        "all lengthened alike"
      } else {
        paste0(number_text_each(stretch, 4), " times their length")
      }
    )
  )
}

vector_room <- 0.82 # of the way to the panel's edge that the longest arrow reaches

#' @export
place_ink.ink_vectors <- function(ink, trained, site) {
  arrows <- trained$table
  zero <- list(
    x = site$unit(rep(0, nrow(arrows)), arrows$panel, "x"),
    y = site$unit(rep(0, nrow(arrows)), arrows$panel, "y")
  )
  per <- list(
    x = site$unit(arrows$x, arrows$panel, "x") - zero$x,
    y = site$unit(arrows$y, arrows$panel, "y") - zero$y
  )
  stretch <- ink$stretch %||% {
    reach <- function(step, from) {
      ifelse(step > 0, (1 - from) / step, ifelse(step < 0, -from / step, Inf))
    }
    vector_room * min(reach(per$x, zero$x), reach(per$y, zero$y))
  }
  tip <- list(x = zero$x + stretch * per$x, y = zero$y + stretch * per$y)
  w <- site$panel_w(arrows$panel)
  h <- site$panel_h(arrows$panel)
  colour <- ink$colour %||% site$house$colour$text
  weight <- ink$weight %||% site$house$weight_pt$error
  turn <- atan2((tip$y - zero$y) * h, (tip$x - zero$x) * w)
  stroke <- function(x0, y0, x1, y1) {
    new_table(
      panel = arrows$panel,
      x0 = x0,
      y0 = y0,
      x1 = x1,
      y1 = y1,
      colour = colour,
      weight_pt = weight,
      .rows = nrow(arrows)
    )
  }
  wing <- function(by) {
    stroke(
      tip$x,
      tip$y,
      tip$x - vector_head_mm * cos(turn + by) / w,
      tip$y - vector_head_mm * sin(turn + by) / h
    )
  }
  list(
    new_marks(
      "segments",
      stack_tables(list(stroke(zero$x, zero$y, tip$x, tip$y), wing(0.4), wing(-0.4)))
    ),
    vector_names(arrows, tip, turn, w, h, colour, site)
  )
}
vector_head_mm <- 1.5

# Names beyond the tips, moved apart up or down where two would touch.
vector_names <- function(arrows, tip, turn, w, h, colour, site) {
  size <- site$house$type_pt$base
  text_mm <- site$text_mm(arrows$name, size)
  x <- tip$x * w + cos(turn) * (1 + text_mm$width / 2)
  y <- tip$y * h + sin(turn) * (1 + text_mm$height / 2)
  for (rows in split(seq_along(x), arrows$panel)) {
    x[rows] <- pmin(pmax(x[rows], text_mm$width[rows] / 2), w[rows] - text_mm$width[rows] / 2)
    y[rows] <- apart_in_height(x[rows], y[rows], text_mm$width[rows], text_mm$height, h[rows[1]])
  }
  c(
    new_marks(
      "words",
      new_table(
        panel = arrows$panel,
        x = x / w,
        y = y / h,
        string = arrows$name,
        size_pt = size,
        across = 0.5,
        down = 0.5,
        most_mm = Inf,
        colour = colour,
        .rows = nrow(arrows)
      )
    ),
    list(role = "point label")
  )
}

# Heights of texts, from the lowest up each lifted over those that it would touch; those that would
# leave the panel are let down from its top.
apart_in_height <- function(x, y, width, height, most) {
  lifted <- function(y) {
    rising <- order(y)
    for (k in seq_along(rising)[-1]) {
      i <- rising[k]
      for (j in rising[seq_len(k - 1)]) {
        meets <- abs(x[i] - x[j]) < (width[i] + width[j]) / 2 + 0.6
        if (meets && y[i] - y[j] < height + 0.2) y[i] <- y[j] + height + 0.2
      }
    }
    y
  }
  y <- lifted(pmax(y, height / 2))
  over <- max(y) > most - height / 2
  if (over) y <- most - lifted(pmax(most - pmin(y, most - height / 2), height / 2))
  y
}

#' @export
ink_traits.ink_vectors <- function(ink) note_traits()
