# Residuals of a fit (see ink-fit.R), in place of the values.

#' @export
train_ink.ink_residuals <- function(ink, layer) {
  fitted <- fit_residuals(ink, layer)
  points <- layer$table
  points$y <- fitted$y
  with_fit <- which(!is.na(fitted$y))
  points <- table_rows(points, with_fit)
  groups <- fitted$group
  list(
    table = points,
    findings = new_findings(
      groups$rows,
      "residuals",
      tabulate(groups$at, nrow(groups$rows)),
      why = ifelse(vapply(fitted$fits, is.null, NA), "too few values", NA)
    ),
    traces = new_table(
      finding = groups$at[with_fit],
      x = points$x,
      y = points$y,
      .rows = length(with_fit)
    ),
    extent = extent_by_panel(
      points$panel,
      x0 = points$x,
      y0 = pmin(points$y, 0),
      y1 = pmax(points$y, 0)
    ),
    zero = character(),
    used = fitted$used,
    notes = fitted$notes,
    shows = paste0("residuals of a ", model_words(ink))
  )
}

# list(y, used, notes): the residual of each row, NA where there is none; rows that are behind a
# fit; of those that are too few for one. The layer stands on an axis of residuals; the fit is in
# the units of the axis that this took the place of.
fit_residuals <- function(ink, layer) {
  fitted <- fit_groups(ink, layer, 0.95, ink$fitted$transform)
  y <- rep(NA_real_, length(fitted$y))
  for (g in seq_along(fitted$fits)) {
    if (!is.null(fitted$fits[[g]])) y[which(fitted$group$at == g)] <- fitted$fits[[g]]$residuals
  }
  list(y = y, used = fitted$used, notes = fitted$notes, group = fitted$group, fits = fitted$fits)
}

#' @export
place_ink.ink_residuals <- function(ink, trained, site) {
  points <- trained$table
  panels <- unique(points$panel)
  zero <- site$unit(rep(0, length(panels)), panels, "y")
  list(
    new_marks(
      "segments",
      new_table(
        panel = panels,
        x0 = 0,
        x1 = 1,
        y0 = zero,
        y1 = zero,
        colour = site$house$colour$axis,
        weight_pt = 0.4,
        .rows = length(panels)
      )
    ),
    new_marks(
      "points",
      new_table(
        panel = points$panel,
        x = site$unit(points$x, points$panel, "x"),
        y = site$unit(points$y, points$panel, "y"),
        colour = site$colour_of(points$colour, nrow(points)),
        opacity = 1,
        shape = if (is.null(points$shape)) "disc" else site$shape_of(points$shape),
        size_mm = site$house$points$size_mm,
        .rows = nrow(points)
      )
    )
  )
}

#' @export
replaced_axis.ink_residuals <- function(ink, direction, variable) {
  if (direction != "y") return(variable)
  # Residuals are of the values as their axis shows them, and may be below zero.
  scale <- variable$transform
  plain <- scale == "identity"
  kind <- changed(
    variable$kind,
    name = paste0(
      "Residual of ",
      if (!plain) paste0(scale_said(scale), " "),
      name_in_sentence(variable$kind$name, variable$id)
    )
  )
  if (!plain) kind[c("unit", "show")] <- list(NULL)
  changed(
    variable,
    id = paste("residual of", variable$id),
    kind = kind,
    transform = "identity",
    reversed = FALSE
  )
}

# What an ink that replaces an axis shows on it, of each row of its layer; NULL for the column
# itself.
#' @export
replaced_values.ink_residuals <- function(ink, layer) fit_residuals(ink, layer)$y

#' @export
ink_traits.ink_residuals <- function(ink) {
  new_traits("symbol", c("colour", "ramp", "shape"), computed = TRUE)
}
