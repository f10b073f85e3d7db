#' Ellipses and hulls about groups of points
#'
#' Of each colour the ellipse that holds a share of a normal distribution with the points' mean and
#' covariance, or the hull of all its points; with lines from the points to the middle of their
#' group where asked.
#'
#' @eval argument_lines("ink_ellipse")
#' @return An ink, for [panel()] with quantities on both axes.
#' @details Mean and covariance are of the values as the axes show them. The ellipse is where the
#'   squared distance of Mahalanobis (1936) equals the quantile of chi squared with two degrees of
#'   freedom. The hull is of [grDevices::chull()]: Eddy (1977), ACM Transactions on Mathematical
#'   Software 3. Groups of fewer than three points, or on one line, have none, and it is told.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' `nelvat_error_kind` where the panel does not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = rise, y = volume, colour = flour, ink_points(), ink_ellipse()),
#'   width = 86
#' )
#' @export
ink_ellipse <- function(
  level = 0.95,
  shape = "ellipse",
  spokes = FALSE,
  fill = TRUE,
  weight = NULL,
  colour = NULL,
  ...
) {
  said_ink("ellipse", ...)
}

#' @export
word_rows.ink_ellipse <- function(word) {
  list(
    level = a_number(0.1, 0.999, says = "Share of a normal distribution that an ellipse holds."),
    shape = a_choice(
      c("ellipse", "hull"),
      says = 'The normal `"ellipse"`, or the `"hull"` of all points.'
    ),
    spokes = a_flag(says = "Draw lines from the points to the middle of their group?"),
    fill = a_flag(says = "Fill it, lightly?"),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_ellipse <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "An ellipse", call)
  for (channel in c("x", "y")) {
    given <- panel$variables[[channel]]
    for (one in if (channel == "y") given else list(given)) {
      check_variable_kind(one, channel, c("quantity", "moment"), call, "for ellipses")
    }
  }
  colour <- panel$variables$colour
  if (!is.null(colour)) {
    check_variable_kind(colour, "colour", c("category", "ordinal"), call, "for ellipses")
  }
}

least_for_ellipse <- 3

#' @export
train_ink.ink_ellipse <- function(ink, layer) {
  table <- layer$table
  x_axis <- axis_transform(layer$x$transform)
  y_axis <- axis_transform(layer$y$transform)
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour")) &
    x_axis$holds(table$x) & y_axis$holds(table$y)
  group <- layer_groups(layer, complete, ink, table)
  x <- x_axis$forward(table$x)
  y <- y_axis$forward(table$y)
  n_groups <- nrow(group$rows)
  rings <- lapply(seq_len(n_groups), function(g) {
    rows <- which(group$at == g)
    ring <- if (ink$shape == "hull") {
      hull_ring(x[rows], y[rows])
    } else {
      normal_ring(x[rows], y[rows], ink$level)
    }
    if (!is.null(ring)) changed(ring, panel = group$rows$panel[g], series = g)
  })
  made <- !vapply(rings, is.null, NA)
  rings <- do.call(rbind, rings)
  middles <- data.frame(
    x = x_axis$backward(as.numeric(tapply(x, factor(group$at, seq_len(n_groups)), mean))),
    y = y_axis$backward(as.numeric(tapply(y, factor(group$at, seq_len(n_groups)), mean)))
  )
  if (!is.null(rings)) {
    rings$x <- x_axis$backward(rings$x)
    rings$y <- y_axis$backward(rings$y)
  }
  used <- complete & group$at %in% which(made)
  rows_used <- which(complete)
  list(
    table = rings,
    series = group$rows,
    spokes = if (ink$spokes) {
      new_table(
        panel = table$panel[rows_used],
        series = group$at[rows_used],
        x = table$x[rows_used],
        y = table$y[rows_used],
        .rows = length(rows_used)
      )
    },
    middles = middles,
    findings = new_findings(
      group$rows,
      ink$shape,
      tabulate(group$at, n_groups),
      why = ifelse(made, NA, "fewer than three points, or all on one line")
    ),
    traces = if (!is.null(rings)) {
      new_table(finding = rings$series, x = rings$x, y = rings$y, .rows = nrow(rings))
    },
    extent = extent_by_panel(
      c(table$panel[rows_used], rings$panel),
      x0 = c(table$x[rows_used], rings$x),
      y0 = c(table$y[rows_used], rings$y)
    ),
    zero = character(),
    used = used,
    notes = few_note(
      layer$y,
      complete & !used,
      paste(if (ink$shape == "hull") "a" else "an", ink$shape)
    ),
    shows = paste0(
      if (ink$shape == "hull") {
        "around all points of a group"
      } else {
        paste0("around ", format(100 * ink$level), " % of a normal distribution")
      },
      if (ink$spokes) ", lines to the middles of groups"
    )
  )
}

# The normal ellipse of points, 121 places around; NULL where there is none.
normal_ring <- function(x, y, level) {
  if (length(x) < least_for_ellipse) return(NULL)
  spread <- stats::cov(cbind(x, y))
  root <- tryCatch(chol(spread), error = function(error) NULL)
  if (is.null(root) || any(diag(root) <= 1e-12 * max(diag(root)))) return(NULL)
  turn <- seq(0, 2 * pi, length.out = 121)
  ring <- sqrt(stats::qchisq(level, 2)) * cbind(cos(turn), sin(turn)) %*% root
  data.frame(x = mean(x) + ring[, 1], y = mean(y) + ring[, 2])
}

hull_ring <- function(x, y) {
  if (length(x) < least_for_ellipse) return(NULL)
  corners <- grDevices::chull(x, y)
  if (length(corners) < 3) return(NULL)
  around <- c(corners, corners[1])
  data.frame(x = x[around], y = y[around])
}

#' @export
place_ink.ink_ellipse <- function(ink, trained, site) {
  rings <- trained$table
  looks <- series_looks(trained$series, site)
  weight <- ink$weight %||% site$house$weight_pt$line
  marks <- list()
  spokes <- trained$spokes
  if (NROW(spokes)) {
    middle <- trained$middles[spokes$series, ]
    marks <- list(
      new_marks(
        "segments",
        new_table(
          panel = spokes$panel,
          x0 = site$unit(spokes$x, spokes$panel, "x"),
          y0 = site$unit(spokes$y, spokes$panel, "y"),
          x1 = site$unit(middle$x, spokes$panel, "x"),
          y1 = site$unit(middle$y, spokes$panel, "y"),
          colour = looks$colour[spokes$series],
          weight_pt = site$house$weight_pt$outline,
          .rows = nrow(spokes)
        )
      )
    )
  }
  if (is.null(rings)) return(marks)
  x <- site$unit(rings$x, rings$panel, "x")
  y <- site$unit(rings$y, rings$panel, "y")
  c(
    if (ink$fill) {
      list(
        under_points(
          new_marks(
            "areas",
            new_table(
              panel = rings$panel,
              area = rings$series,
              x = x,
              y = y,
              fill = looks$colour[rings$series],
              opacity = 0.12,
              colour = NA_character_,
              weight_pt = 0,
              .rows = nrow(rings)
            )
          )
        )
      )
    },
    marks,
    list(series_lines(rings, x, y, looks, weight))
  )
}

#' @export
ink_traits.ink_ellipse <- function(ink) new_traits("line", c("colour", "dash"), "spread")

#' @export
marks_named.ink_ellipse <- function(ink) if (ink$shape == "hull") "outlines" else "ellipses"
