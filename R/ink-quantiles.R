#' Quantiles against quantiles
#'
#' The sorted values against the quantiles of a distribution, or of another sample, with the line on
#' which they stand where the two are alike.
#'
#' @eval argument_lines("ink_quantiles")
#' @return An ink, for [panel()] with a quantity on `y` and nothing on `x`.
#' @details Quantiles of the distribution are at [stats::ppoints()]; of two samples of unlike length
#'   those of the longer one are interpolated, as [stats::qqplot()] does; the line is that of
#'   [stats::qqline()]. Values are taken as the axis shows them: on a logarithmic axis their
#'   logarithms. Source: Wilk and Gnanadesikan (1968), Biometrika 55.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("loaves"), y = rise, colour = flour, ink_quantiles()), width = 80, height = 70)
#' @export
ink_quantiles <- function(against = "normal", line = TRUE, size = NULL, colour = NULL, ...) {
  ink <- said_ink("quantiles", ...)
  ink$distribution <- ink$against
  ink$against <- NULL
  ink
}

#' @export
word_rows.ink_quantiles <- function(word) {
  list(
    against = a_column(
      choices = names(quantile_functions),
      says = c(
        'A distribution, `"normal"`, `"exponential"` or `"uniform"`; or a column, another',
        "sample in the same unit, missing where it is shorter."
      )
    ),
    line = a_flag(
      says = "Draw the line through the quartiles, or of equal quantiles for two samples?"
    ),
    size = mm_size(says = "Diameter of the symbols in mm; `NULL` for the house's."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

quantile_functions <- list(normal = stats::qnorm, exponential = stats::qexp, uniform = stats::qunif)

#' @export
check_ink.ink_quantiles <- function(ink, panel, call) {
  check_one_quantity(panel, "A quantile plot", call)
  if (is.null(panel$variables$y)) {
    abort_nelvat(
      "argument",
      c("A quantile plot has its quantity on `y`.", x = "It is on `x`."),
      call
    )
  }
  other <- ink$variables$against
  if (is.null(other)) return(invisible())
  y_kind <- panel$variables$y[[1]]$kind
  check_variable_kind(other, "against", y_kind$kind, call, "as y is")
  if (panel$variables$y[[1]]$transform != "identity") {
    abort_nelvat(
      "argument",
      c(
        "Two samples are compared as they are.",
        x = paste0("`y` is transformed by ", panel$variables$y[[1]]$transform, "."),
        i = "Leave the axis as it is, or derive the transformed columns."
      ),
      call
    )
  }
  if (!identical(y_kind$unit, other$kind$unit)) {
    abort_nelvat(
      "unit",
      c(
        "Two samples must be in one unit.",
        x = paste0(
          "`y` is in ",
          y_kind$unit %||% "no unit",
          ", `against` in ",
          other$kind$unit %||% "no unit",
          "."
        )
      ),
      call
    )
  }
}

#' @export
supplied_axis.ink_quantiles <- function(ink, direction, variables) {
  other <- ink$variables$against
  if (is.null(other)) {
    return(new_kind("quantity", name = paste(first_upper(ink$distribution), "quantile")))
  }
  changed(
    other$kind,
    name = paste("Quantile of", name_in_sentence(other$kind$name, other$id))
  )
}

#' @export
axis_columns.ink_quantiles <- function(ink) "against"

#' @export
train_ink.ink_quantiles <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("y", if (!is_ramp(layer$colour)) "colour"))
  axis <- axis_transform(layer$y$transform)
  group <- layer_groups(layer, complete, ink, table)
  found <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    values <- axis$forward(table$y[rows])
    if (is.null(ink$distribution)) {
      sample_quantiles(values, finite_values(table$against[rows]))
    } else {
      distribution_quantiles(values, quantile_functions[[ink$distribution]])
    }
  })
  points <- stack_tables(
    lapply(seq_along(found), function(g) {
      if (is.null(found[[g]])) return(NULL)
      group_rows <- table_rows(group$rows, rep(g, length(found[[g]]$x)))
      changed(
        group_rows,
        series = rep(g, nrow(group_rows)),
        x = found[[g]]$x,
        y = axis$backward(found[[g]]$y)
      )
    })
  )
  made <- which(!vapply(found, is.null, NA))
  list(
    table = points,
    lines = new_table(
      panel = group$rows$panel[made],
      series = made,
      slope = vapply(found[made], `[[`, 0, "slope"),
      intercept = vapply(found[made], `[[`, 0, "intercept"),
      .rows = length(made)
    ),
    series = group$rows,
    findings = new_findings(
      group$rows,
      "quantiles",
      tabulate(group$at, nrow(group$rows)),
      slope = vapply(found, function(one) one$slope %||% NA_real_, 0),
      intercept = vapply(found, function(one) one$intercept %||% NA_real_, 0),
      why = ifelse(seq_along(found) %in% made, NA, "too few values")
    ),
    traces = if (!is.null(points)) {
      new_table(finding = points$series, x = points$x, y = points$y)
    },
    extent = if (!is.null(points)) extent_by_panel(points$panel, x0 = points$x, y0 = points$y),
    zero = character(),
    used = complete & group$at %in% made,
    notes = few_note(layer$y, complete & !group$at %in% made, "quantiles", table$times),
    shows = paste0(
      "sorted values against ",
      if (is.null(ink$distribution)) {
        "quantiles of the other sample"
      } else {
        paste("quantiles of the", ink$distribution, "distribution")
      },
      if (ink$line) {
        if (is.null(ink$distribution)) {
          ", line of equal quantiles"
        } else {
          ", line through the quartiles"
        }
      }
    )
  )
}

#' @export
place_ink.ink_quantiles <- function(ink, trained, site) {
  points <- trained$table
  if (is.null(points)) return(list())
  looks <- series_looks(trained$series, site)
  lines <- trained$lines
  if (is.null(ink$distribution)) lines <- table_rows(lines, !duplicated(lines$panel))
  marks <- if (ink$line) {
    ends <- lapply(seq_len(nrow(lines)), function(i) {
      as.numeric(site$line_ends(lines$panel[i], lines$slope[i], lines$intercept[i]))
    })
    y0 <- vapply(ends, `[`, 0, 1)
    y1 <- vapply(ends, `[`, 0, 2)
    cut <- clipped_line(y0, y1)
    colour <- if (is.null(ink$distribution)) site$house$colour$axis else looks$colour[lines$series]
    list(
      new_marks(
        "segments",
        new_table(
          panel = lines$panel,
          x0 = cut$x0,
          x1 = cut$x1,
          y0 = cut$y0,
          y1 = cut$y1,
          colour = colour,
          weight_pt = site$house$weight_pt$axis,
          .rows = nrow(lines)
        )
      )
    )
  }
  c(
    marks,
    list(
      new_marks(
        "points",
        new_table(
          panel = points$panel,
          x = site$unit(points$x, points$panel, "x"),
          y = site$unit(points$y, points$panel, "y"),
          colour = looks$colour[points$series],
          opacity = 1,
          shape = "disc",
          size_mm = ink$size %||% crowded_size(points$panel, site),
          .rows = nrow(points)
        )
      )
    )
  )
}

# Lines over the whole width of a unit panel, cut where they leave it above or below.
clipped_line <- function(y0, y1) {
  crossing <- function(y) ifelse(y1 == y0, NA, (y - y0) / (y1 - y0))
  low <- pmin(crossing(0), crossing(1))
  high <- pmax(crossing(0), crossing(1))
  x0 <- ifelse(is.na(low), 0, pmin(1, pmax(0, low)))
  x1 <- ifelse(is.na(high), 1, pmax(0, pmin(1, high)))
  list(x0 = x0, x1 = x1, y0 = y0 + x0 * (y1 - y0), y1 = y0 + x1 * (y1 - y0))
}

#' @export
ink_traits.ink_quantiles <- function(ink) new_traits("symbol", "colour", "spread", behind = FALSE)

#' @export
marks_named.ink_quantiles <- function(ink) "points"
