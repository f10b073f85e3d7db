#' Points in three quantities
#'
#' An axonometric view: the panel's x and y lie on the floor, `z` stands upwards, with
#' the box of the three axes, their ticks and names. Nearer points are larger.
#'
#' @eval argument_lines("ink_depth")
#' @return An ink, for [panel()]; it stands alone there.
#' @details A parallel projection: lengths along one axis keep their ratio wherever they
#'   stand. Values off the floor cannot be read exactly on paper; to compare them, panels
#'   of pairs read better.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("loaves"), x = rise, y = moisture, colour = flour, ink_depth(z = firmness)),
#'   width = 100, height = 85)
#' @export
ink_depth <- function(z, angle = 35, rise = 22, size = 2, ...) {
  said_ink("depth", ...)
}

#' @export
word_rows.ink_depth <- function(word) {
  list(
    z = a_column(says = "The third quantity, a column."),
    angle = a_number(
      5,
      85,
      says = "Degrees by which the floor is turned about the upright axis, 5 to 85."
    ),
    rise = a_number(5, 80, says = "Degrees from which it is looked down on, 5 to 80."),
    size = a_number(0.2, 10, unit = "mm", says = "Diameter of the nearest symbols in mm.")
  )
}

#' @export
check_ink.ink_depth <- function(ink, panel, call) {
  check_two_quantities(panel, "Points in three quantities", call)
  check_variable_kind(ink$variables$z, "z", "quantity", call)
  if (length(panel$inks) > 1) {
    abort_nelvat(
      "argument",
      c(
        "Points in three quantities stand alone in their panel.",
        x = paste0("Found ", length(panel$inks), " inks.")
      ),
      call
    )
  }
}

#' @export
replaced_axis.ink_depth <- function(ink, direction, variable) hide_axis(variable)

# A variable whose axis the ink draws itself, or that has none.
hide_axis <- function(variable) {
  changed(
    variable,
    kind = changed(
      variable$kind,
      hidden_title = kind_title(variable$kind),
      hidden = TRUE,
      name = "",
      unit = NULL,
      show = NULL
    )
  )
}

#' @export
train_ink.ink_depth <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "y", "z", "colour", "shape"))
  points <- table_rows(table, complete)
  axis <- function(values, kind, title) {
    range <- value_range(values)
    breaks <- if (kind$kind == "moment") {
      time_breaks(range, 4, kind[c("zone", "has_time", "of_day")])
    } else {
      places <- number_breaks(range, 4)
      list(at = places, text = number_text(places))
    }
    list(range = range, breaks = breaks$at, text = sub("\n", ", ", breaks$text), title = title)
  }
  z <- ink$variables$z$kind
  axes <- list(
    x = axis(points$x, layer$x$kind, layer$x$kind$hidden_title),
    y = axis(points$y, layer$y$kind, layer$y$kind$hidden_title),
    z = axis(points$z, z, kind_title(z))
  )
  panels <- panels_in(table$panel)
  list(
    table = points,
    axes = axes,
    zero = character(),
    extent = new_table(panel = panels, x0 = 0, x1 = 1, y0 = 0, y1 = 1, .rows = length(panels)),
    used = complete,
    says = paste0(
      said_name(ink$variables$z, with_unit = TRUE),
      " over ",
      listed(
        c(
          name_in_sentence(plain_text(axes$x$title), layer$x$id),
          name_in_sentence(plain_text(axes$y$title), layer$y$id)
        )
      )
    ),
    shows = "single values, seen from above at an angle"
  )
}

# From the box, -0.5 to 0.5 each way, to the paper: across, up, and the distance away.
project <- function(x, y, z, angle, rise) {
  n <- max(length(x), length(y), length(z))
  x <- rep_len(x, n)
  y <- rep_len(y, n)
  z <- rep_len(z, n)
  a <- angle * pi / 180
  e <- rise * pi / 180
  away <- x * sin(a) + y * cos(a)
  list(across = x * cos(a) - y * sin(a), up = z * cos(e) + away * sin(e), away = away)
}

depth_margin_mm <- list(side = 9, below = 9, above = 6)

#' @export
place_ink.ink_depth <- function(ink, trained, site) {
  points <- trained$table
  unlist(
    lapply(panels_in(points$panel), function(panel) {
      view <- depth_view(panel, ink, site)
      panel_points <- table_rows(points, points$panel == panel)
      c(
        depth_box(panel, view, trained$axes, site),
        list(depth_points(panel, view, panel_points, ink, trained$axes, site))
      )
    }),
    recursive = FALSE
  )
}

# A function from the box to unit-panel positions of one panel.
depth_view <- function(panel, ink, site) {
  w <- site$panel_w(panel)
  h <- site$panel_h(panel)
  corners <- expand.grid(x = c(-0.5, 0.5), y = c(-0.5, 0.5), z = c(-0.5, 0.5))
  corners_seen <- project(corners$x, corners$y, corners$z, ink$angle, ink$rise)
  margin <- depth_margin_mm
  scale <- min(
    (w - 2 * margin$side) / diff(range(corners_seen$across)),
    (h - margin$below - margin$above) / diff(range(corners_seen$up))
  )
  function(x, y, z) {
    projected <- project(x, y, z, ink$angle, ink$rise)
    list(
      x = 0.5 + projected$across * scale / w,
      y = (margin$below + (projected$up - min(corners_seen$up)) * scale) / h,
      away = projected$away
    )
  }
}

depth_box <- function(panel, view, axes, site) {
  low <- -0.5
  high <- 0.5
  edge <- function(from, to) {
    a <- view(from[1], from[2], from[3])
    b <- view(to[1], to[2], to[3])
    new_table(panel = panel, x0 = a$x, y0 = a$y, x1 = b$x, y1 = b$y, .rows = 1L)
  }
  # The three edges that bear ticks, and the floor and back walls behind the points.
  tick_edges <- stack_tables(
    list(
      edge(c(low, low, low), c(high, low, low)),
      edge(c(low, low, low), c(low, high, low)),
      edge(c(low, high, low), c(low, high, high))
    )
  )
  back_edges <- stack_tables(
    list(
      edge(c(high, low, low), c(high, high, low)),
      edge(c(low, high, low), c(high, high, low)),
      edge(c(high, high, low), c(high, high, high)),
      edge(c(low, high, high), c(high, high, high)),
      edge(c(high, high, high), c(high, low, high)),
      edge(c(high, low, low), c(high, low, high))
    )
  )
  ticks <- depth_ticks(panel, view, axes, site)
  style <- site$house
  segments <- function(table, colour, weight) {
    table$colour <- rep(colour, nrow(table))
    table$weight_pt <- rep(weight, nrow(table))
    new_marks("segments", table)
  }
  list(
    segments(back_edges, "#C3C8CF", 0.35),
    segments(tick_edges, style$colour$axis, style$weight_pt$axis),
    segments(ticks$marks, style$colour$axis, style$weight_pt$tick),
    c(new_marks("words", ticks$words), list(role = "tick"))
  )
}

# Texts of ticks, empty where they would touch the one before.
apart_texts <- function(texts, end, size_pt, site, w, h) {
  text_mm <- site$text_mm(texts, size_pt)
  x0 <- end$at$x * w - end$across * text_mm$width
  high <- rep_len(text_mm$height, length(texts))
  y0 <- end$at$y * h - (1 - end$down) * high
  last <- 0
  for (k in seq_along(texts)) {
    apart <- last == 0 || x0[k] >= x0[last] + text_mm$width[last] + 0.4 ||
      x0[k] + text_mm$width[k] + 0.4 <= x0[last] ||
      abs(y0[k] - y0[last]) >= high[k]
    if (apart) last <- k else texts[k] <- ""
  }
  texts
}

# Ticks, their text and the names of the axes: x to the lower right, y to the lower left, z
# to the left.
depth_ticks <- function(panel, view, axes, site) {
  w <- site$panel_w(panel)
  h <- site$panel_h(panel)
  size <- site$house$type_pt$least
  share <- function(axis) (axis$breaks - axis$range[1]) / diff(axis$range) - 0.5
  low <- -0.5
  ends <- list(
    x = list(
      at = view(share(axes$x), low, low),
      step = c(0.6, -0.8),
      across = 0,
      down = 0,
      middle = view(0, low, low),
      name = c(5, -5)
    ),
    y = list(
      at = view(low, share(axes$y), low),
      step = c(-0.6, -0.8),
      across = 1,
      down = 0,
      middle = view(low, 0, low),
      name = c(-5, -5)
    ),
    z = list(
      at = view(low, 0.5, share(axes$z)),
      step = c(-1, 0),
      across = 1,
      down = 0.5,
      middle = view(low, 0.5, 0.5),
      name = c(0, 2)
    )
  )
  ticks_by_axis <- Map(
    function(end, axis, direction) {
      n <- length(end$at$x)
      tick_words <- new_table(
        panel = panel,
        x = c(end$at$x + end$step[1] * 1.4 / w, end$middle$x + end$name[1] / w),
        y = c(end$at$y + end$step[2] * 1.4 / h, end$middle$y + end$name[2] / h),
        string = c(apart_texts(axis$text, end, size, site, w, h), axis$title),
        size_pt = c(rep(size, n), site$house$type_pt$base),
        across = c(rep(end$across, n), if (direction == "z") 0.2 else end$across),
        down = c(rep(end$down, n), if (direction == "z") 1 else end$down),
        colour = site$house$colour$text,
        most_mm = w / 2,
        .rows = n + 1L
      )
      list(
        marks = new_table(
          panel = panel,
          x0 = end$at$x,
          y0 = end$at$y,
          x1 = end$at$x + end$step[1] / w,
          y1 = end$at$y + end$step[2] / h,
          .rows = n
        ),
        words = tick_words
      )
    },
    ends,
    axes,
    names(ends)
  )
  list(
    marks = stack_tables(lapply(ticks_by_axis, `[[`, "marks")),
    words = stack_tables(lapply(ticks_by_axis, `[[`, "words"))
  )
}

depth_points <- function(panel, view, points, ink, axes, site) {
  share <- function(values, axis) (values - axis$range[1]) / diff(axis$range) - 0.5
  seen_at <- view(share(points$x, axes$x), share(points$y, axes$y), share(points$z, axes$z))
  # Far points first; the farthest have 0.55 of the nearest's diameter.
  order <- order(-seen_at$away)
  near <- 1 - (seen_at$away - min(seen_at$away)) / max(diff(range(seen_at$away)), 1e-12)
  new_marks(
    "points",
    new_table(
      panel = panel,
      x = seen_at$x[order],
      y = seen_at$y[order],
      colour = site$colour_of(points$colour, nrow(points))[order],
      opacity = 1,
      shape = (
        if (is.null(points$shape)) rep("disc", nrow(points)) else site$shape_of(points$shape)
      )[order],
      size_mm = (ink$size * (0.55 + 0.45 * near))[order],
      .rows = nrow(points)
    )
  )
}

#' @export
ink_traits.ink_depth <- function(ink) new_traits("symbol", c("colour", "ramp", "shape"))

#' @export
marks_named.ink_depth <- function(ink) "points"
