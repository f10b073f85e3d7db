#' Contours of a two-dimensional density
#'
#' Lines or filled regions that hold given shares of the points, for each colour.
#'
#' @eval argument_lines("ink_contours")
#' @return An ink, for [panel()].
#' @details The density is a Gaussian kernel's on bilinear bins, the bandwidth Scott's
#'   (1992, "Multivariate Density Estimation") in each direction, computed in the axes'
#'   transformed units; a contour stands at the density that this share of the points
#'   reaches, to one point (Hyndman 1996, "Computing and graphing highest density regions",
#'   The American Statistician 50(2)). Isolines by the isoband package.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(
#'     study("loaves"),
#'     x = rise,
#'     y = firmness,
#'     colour = flour,
#'     ink_contours(),
#'     ink_points(size = 0.8)
#'   ),
#'   width = 110,
#'   height = 80
#' )
#' @export
ink_contours <- function(
  shares = c(0.5, 0.8, 0.95),
  filled = FALSE,
  weight = NULL,
  colour = NULL,
  ...
) {
  ink <- said_ink("contours", ...)
  ink$shares <- sort(shares, decreasing = TRUE)
  ink
}

#' @export
word_rows.ink_contours <- function(word) {
  list(
    shares = numbers(
      c(1, 50),
      1e-9,
      1 - 1e-9,
      "numbers between 0 and 1",
      says = "Shares of the points inside, between 0 and 1."
    ),
    filled = a_flag(says = "Fill the regions?"),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_contours <- function(ink, panel, call) {
  check_two_quantities(panel, "Contours", call)
  if (!is.null(panel$variables$colour)) {
    check_variable_kind(panel$variables$colour, "colour", c("category", "ordinal"), call)
  }
}

least_for_contours <- 5

#' @export
train_ink.ink_contours <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  group <- layer_groups(layer, complete, ink, table)
  x_axis <- axis_transform(layer$x$transform)
  y_axis <- axis_transform(layer$y$transform)
  x <- x_axis$forward(table$x)
  y <- y_axis$forward(table$y)
  rings <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    # Fewer points, or points of one x or y, have no density in the plane.
    if (
      length(rows) < least_for_contours || length(unique(x[rows])) < 2 ||
        length(unique(y[rows])) < 2
    ) {
      return(NULL)
    }
    share_rings(x[rows], y[rows], ink$shares, g, group$rows$panel[g])
  })
  rings <- stack_tables(rings)
  if (!is.null(rings)) {
    rings$x <- x_axis$backward(rings$x)
    rings$y <- y_axis$backward(rings$y)
  }
  rows_used <- which(complete)
  list(
    table = rings,
    series = group$rows,
    findings = new_findings(
      group$rows,
      "contours",
      tabulate(group$at, nrow(group$rows)),
      why = ifelse(
        seq_len(nrow(group$rows)) %in% rings$series,
        NA,
        "too few values, or all equal on one axis"
      )
    ),
    traces = if (!is.null(rings)) {
      new_table(
        finding = rings$series,
        x = rings$x,
        y = rings$y,
        share = ink$shares[rings$step],
        .rows = nrow(rings)
      )
    },
    extent = extent_by_panel(
      c(table$panel[rows_used], rings$panel),
      x0 = c(table$x[rows_used], rings$x),
      y0 = c(table$y[rows_used], rings$y)
    ),
    zero = character(),
    used = complete & group$at %in% rings$series,
    notes = few_note(layer$y, complete & !group$at %in% rings$series, "contours"),
    shows = paste0(
      "density contours around ",
      listed(paste(rev(format(100 * ink$shares, trim = TRUE)))),
      " % of points"
    )
  )
}

# Regions that hold shares of one group's points, as rings in transformed units.
share_rings <- function(x, y, shares, series, panel) {
  ends <- function(values) range(values) + c(-1, 1) * 3.2 * plane_bandwidth(values)
  grid <- density_grid(x, y, ends(x), ends(y))
  heights <- share_levels(heights_at(grid, x, y), shares)
  bands <- isoband::isobands(grid$x, grid$y, t(grid$z), heights, rep(Inf, length(heights)))
  stack_tables(
    Map(
      function(band, k) {
        new_table(
          panel = panel,
          series = series,
          step = k,
          ring = as.integer(band$id),
          x = band$x,
          y = band$y,
          .rows = length(band$x)
        )
      },
      bands,
      seq_along(bands)
    )
  )
}

#' @export
place_ink.ink_contours <- function(ink, trained, site) {
  rings <- trained$table
  if (is.null(rings)) return(list())
  colour <- series_looks(trained$series, site)$colour[rings$series]
  x <- site$unit(rings$x, rings$panel, "x")
  y <- site$unit(rings$y, rings$panel, "y")
  area <- match_rows(rings[c("series", "step")], rep(TRUE, nrow(rings)))$at
  line <- match_rows(rings[c("series", "step", "ring")], rep(TRUE, nrow(rings)))$at
  areas <- if (ink$filled) {
    under_points(
      new_marks(
        "areas",
        new_table(
          panel = rings$panel,
          area = area,
          ring = rings$ring,
          x = x,
          y = y,
          fill = colour,
          opacity = 0.28,
          colour = NA_character_,
          weight_pt = 0,
          .rows = nrow(rings)
        )
      )
    )
  }
  # Rings are closed by going back to where they began.
  first <- which(!duplicated(line))
  around <- order(c(line, line[first]), c(seq_along(line), rep(length(line) + 1, length(first))))
  row <- c(seq_along(line), first)[around]
  lines <- new_marks(
    "lines",
    new_table(
      panel = rings$panel[row],
      line = line[row],
      x = x[row],
      y = y[row],
      colour = colour[row],
      weight_pt = ink$weight %||% if (ink$filled) 0.4 else site$house$weight_pt$line,
      dash = "solid",
      opacity = 1,
      .rows = length(row)
    )
  )
  Filter(Negate(is.null), list(areas, lines))
}

#' @export
ink_traits.ink_contours <- function(ink) {
  new_traits(if (ink$filled) "swatch" else "line", "colour", "spread")
}

#' @export
marks_named.ink_contours <- function(ink) "lines"
