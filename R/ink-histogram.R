#' Histograms
#'
#' Counts of a quantity in bins, by colour over each other, on each other, or as
#' outlines. Lying where the quantity stands on `y`.
#'
#' @eval argument_lines("ink_histogram")
#' @return An ink, for [panel()].
#' @details Bins are closed on the right; the first holds its left end too. On a
#'   transformed axis bins are even in the transformed values. Source: Freedman and
#'   Diaconis (1981), Zeitschrift fuer Wahrscheinlichkeitstheorie 57.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("pores"), x = log10(area), colour = flour, ink_histogram(arrange = "outline")),
#'   width = 100, height = 60)
#' @export
ink_histogram <- function(
  bins = NULL,
  width = NULL,
  breaks = NULL,
  arrange = NULL,
  scale = "count",
  curve = FALSE,
  opacity = NULL,
  colour = NULL,
  ...
) {
  ink <- said_ink("histogram", ...)
  if (sum(!is.null(bins), !is.null(width), !is.null(breaks)) > 1) {
    abort_nelvat(
      "argument",
      c("Only one of `bins`, `width` and `breaks` can be given.", x = "Found more.")
    )
  }
  ink
}

#' @export
check_ink.ink_histogram <- function(ink, panel, call) check_one_quantity(panel, "A histogram", call)

# Stops unless just one axis is given, with a quantity or a moment.
check_one_quantity <- function(panel, what, call) {
  variables <- panel$variables
  given <- Filter(function(channel) !is.null(variables[[channel]]), c("x", "y"))
  if (length(given) != 1) {
    abort_nelvat(
      "argument",
      c(
        paste0(what, " needs a quantity on one axis and nothing on the other."),
        x = if (length(given)) "Both `x` and `y` are given." else "Neither is given."
      ),
      call
    )
  }
  given_variables <- if (given == "y") variables$y else list(variables$x)
  for (one in given_variables) check_variable_kind(one, given, c("quantity", "moment"), call)
  if (!is.null(variables$colour)) {
    check_variable_kind(variables$colour, "colour", c("category", "ordinal"), call)
  }
}

# Three see-through fills over each other cannot be told apart.
#' @export
settled_ink.ink_histogram <- function(ink, variables) {
  colour <- ink$variables$colour %||% variables$colour
  several <- !is.null(colour) && is.null(ink$settings$colour) && length(colour$kind$levels) > 2
  changed(ink, arrange = ink$arrange %||% if (several) "outline" else "overlay")
}

#' @export
supplied_axis.ink_histogram <- function(ink, direction, variables) {
  if (ink$scale == "density") {
    new_kind("quantity", name = "Density")
  } else {
    new_kind("quantity", name = "Count", count = TRUE)
  }
}

# An ink of one quantity: does it lie on its side, the quantity on y?
one_quantity <- function(layer) {
  lying <- all(is.na(layer$table$x)) && !all(is.na(layer$table$y))
  list(
    lying = lying,
    table = exchange_axes(layer$table, lying),
    transform = axis_transform(if (lying) layer$y$transform else layer$x$transform)
  )
}

#' @export
said_on_axis.ink_histogram <- function(ink, direction) {
  list(width = ink$width, `breaks of bins` = ink$breaks)
}

#' @export
train_ink.ink_histogram <- function(ink, layer) {
  one <- one_quantity(layer)
  table <- one$table
  complete <- complete_rows(table, c("x", if (!is.null(layer$colour)) "colour"))
  group <- layer_groups(layer, complete, ink, table)
  forward <- one$transform$forward(table$x)
  breaks <- ink$found_breaks %||% histogram_breaks(
    forward[complete],
    ink$bins,
    ink$width,
    if (!is.null(ink$breaks)) one$transform$forward(ink$breaks),
    moment_units(one_kind(one, layer)),
    table$times[complete]
  )
  counted_bins <- histogram_counts(forward, group$at, nrow(group$rows), breaks, table$times)
  counted <- complete & within_breaks(forward, breaks)
  n <- colSums(counted_bins)
  height <- if (ink$scale == "density") {
    sweep(counted_bins, 2, n, "/") / diff(breaks)
  } else {
    counted_bins
  }
  k <- nrow(counted_bins)
  bars <- table_rows(group$rows, rep(seq_len(ncol(counted_bins)), each = k))
  bars$series <- rep(seq_len(ncol(counted_bins)), each = k)
  bars$x0 <- rep(one$transform$backward(breaks[-(k + 1)]), ncol(counted_bins))
  bars$x1 <- rep(one$transform$backward(breaks[-1]), ncol(counted_bins))
  bars$base <- rep(0, nrow(bars))
  bars$top <- as.vector(height)
  if (ink$arrange == "stack") bars <- stack_bins(bars)
  # Bins that hold nothing of a panel ask for no room in it, unless they were asked for.
  reach <- if (is.null(ink$breaks)) which(bars$top > bars$base) else seq_len(nrow(bars))
  curve <- if (ink$curve) histogram_curve(forward, group, breaks, n, ink$scale, one$transform)
  n_in_bin <- as.vector(counted_bins)
  list(
    table = bars,
    series = group$rows,
    findings = table_rows(
      new_findings(
        bars[setdiff(names(bars), c("x", "y"))],
        "bin",
        n_in_bin,
        from = bars$x0,
        to = bars$x1,
        density = if (ink$scale == "density") as.vector(height),
        value = if (one$lying) "y" else "x"
      ),
      which(n_in_bin > 0)
    ),
    curve = curve,
    lying = one$lying,
    extent = exchange_axes(
      extent_by_panel(
        c(bars$panel[reach], curve$panel),
        x0 = c(bars$x0[reach], curve$x),
        x1 = c(bars$x1[reach], curve$x),
        y0 = 0,
        y1 = c(bars$top[reach], curve$y)
      ),
      one$lying
    ),
    zero = if (one$lying) "x" else "y",
    used = counted,
    shows = bin_words(
      ink,
      breaks,
      axis_transform(ink$stands_on$transform %||% one$transform$name),
      ink$stands_on$kind %||% one_kind(one, layer)
    ),
    notes = beyond_bins(
      if (one$lying) layer$y$id else layer$x$id,
      rows_behind(table, complete) - rows_behind(table, counted)
    )
  )
}

beyond_bins <- function(column, n) {
  if (n > 0) data.frame(column = column, what = "values beyond the bins that `breaks` gives", n = n)
}

narrow_bin_mm <- 1

# Bins are parted by a white line, unless they are so narrow that it would hide them.
bin_edge <- function(width, panel, lying, site) {
  lengths_mm <- abs(width) * if (lying) site$panel_h(panel) else site$panel_w(panel)
  if (length(lengths_mm) && stats::median(lengths_mm) < narrow_bin_mm) NA_character_ else "#FFFFFF"
}

stack_bins <- function(bars) {
  slot <- paste(bars$panel, bars$x0)
  top <- stats::ave(bars$top, slot, FUN = cumsum)
  bars$base <- top - bars$top
  bars$top <- top
  bars
}

histogram_curve <- function(values, group, breaks, n, scale, transform) {
  stack_tables(
    lapply(seq_len(nrow(group$rows)), function(g) {
      curve <- shown_curve(density_curve(values[which(group$at == g)]), transform)
      factor <- if (scale == "density") 1 else n[g] * diff(breaks)[1]
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = transform$backward(curve$x),
        y = curve$density * factor,
        .rows = nrow(curve)
      )
    })
  )
}

#' @export
place_ink.ink_histogram <- function(ink, trained, site) {
  bars <- trained$table
  unit_at <- lying_unit(site, trained$lying, bars$panel)
  many <- max(tabulate(trained$series$panel)) > 1
  looks <- series_looks(trained$series, site)
  fill <- looks$colour[bars$series]
  marks <- if (ink$arrange == "outline") {
    list(
      new_marks(
        "lines",
        exchange_axes(bin_outlines(bars, unit_at, fill, site$house$weight_pt$line), trained$lying)
      )
    )
  } else {
    filled <- which(bars$top > bars$base)
    list(
      new_marks(
        "rects",
        exchange_axes(
          new_table(
            panel = bars$panel[filled],
            x0 = unit_at(bars$x0, "x")[filled],
            x1 = unit_at(bars$x1, "x")[filled],
            y0 = unit_at(bars$base, "y")[filled],
            y1 = unit_at(bars$top, "y")[filled],
            fill = fill[filled],
            opacity = ink$opacity %||% if (many && ink$arrange == "overlay") 0.55 else 1,
            colour = bin_edge(
              unit_at(bars$x1, "x")[filled] - unit_at(bars$x0, "x")[filled],
              bars$panel[filled],
              trained$lying,
              site
            ),
            weight_pt = 0.25,
            .rows = length(filled)
          ),
          trained$lying
        )
      )
    )
  }
  if (is.null(trained$curve)) return(marks)
  curve <- trained$curve
  on <- lying_unit(site, trained$lying, curve$panel)
  c(
    marks,
    list(
      new_marks(
        "lines",
        exchange_axes(
          new_table(
            panel = curve$panel,
            line = curve$series,
            x = on(curve$x, "x"),
            y = on(curve$y, "y"),
            colour = if (many) looks$colour[curve$series] else site$house$colour$axis,
            weight_pt = site$house$weight_pt$line,
            dash = "solid",
            opacity = 1,
            .rows = nrow(curve)
          ),
          trained$lying
        )
      )
    )
  )
}

# The upper outline of each series' bins, from the ground up and back to it.
bin_outlines <- function(bars, at, colour, weight_pt) {
  x0 <- at(bars$x0, "x")
  x1 <- at(bars$x1, "x")
  y <- at(bars$top, "y")
  ground <- at(rep(0, nrow(bars)), "y")
  stack_tables(
    lapply(split(seq_len(nrow(bars)), bars$series), function(rows) {
      k <- length(rows)
      new_table(
        panel = bars$panel[rows[1]],
        line = bars$series[rows[1]],
        x = c(x0[rows[1]], as.vector(rbind(x0[rows], x1[rows])), x1[rows[k]]),
        y = c(ground[rows[1]], rep(y[rows], each = 2), ground[rows[1]]),
        colour = colour[rows[1]],
        weight_pt = weight_pt,
        dash = "solid",
        opacity = 1,
        .rows = 2 * k + 2
      )
    })
  )
}

#' @export
question_of.ink_histogram <- function(ink) if (ink$curve) "rows" else "bins"

#' @export
ink_traits.ink_histogram <- function(ink) {
  new_traits(
    if (identical(ink$arrange, "outline")) "line" else "swatch",
    "colour",
    "counts",
    on_zero = TRUE,
    bins = TRUE
  )
}

#' @export
marks_named.ink_histogram <- function(ink) "bars"
