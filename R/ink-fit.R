#' Fitted lines
#'
#' A straight line, a polynomial or a local regression for each group, with the
#' confidence band of its mean; its equation, R^2 and p can be written in the
#' emptiest corner of the panel. [fits()] gives the coefficients as a table.
#'
#' @param model `"line"`, `"polynomial"` (of `degree`) or `"loess"`.
#' @param degree Degree of a polynomial.
#' @param band Level of the confidence band, or `NULL` for none.
#' @param equation Write the equation, R^2 and p?
#' @param weight Line weight in points.
#' @param colour A colour, or a category for this ink alone.
#' @param group A column: a fit for each of its values. The `group` of the panel parts no fits.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An ink, for [panel()].
#' @details The fit is in the axes' transformed units: on a logarithmic axis it is a line
#'   in the logarithms. `ink_residuals()` draws what a fit leaves, over its zero line.
#'   Sources: Draper and Smith (1998), "Applied Regression Analysis"; Cleveland and Devlin
#'   (1988), JASA 83, for loess.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits; when the plate is
#' resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does not suit the ink.
#' @examples
#' plate(panel(study("loaves"), x = rise, y = firmness, ink_points(), ink_fit(equation = TRUE)),
#'   width = 100, height = 70)
#' @export
ink_fit <- function(model = "line", degree = 2, band = 0.95, equation = FALSE, weight = NULL, colour = NULL,
                    group = NULL, ...) {
  check_rest(...)
  ink <- new_ink("fit",
    model = check_choice(model, c("line", "polynomial", "loess"), "model"),
    degree = check_number(degree, "degree", 1, 9, whole = TRUE),
    band = check_number(band, "band", 0.5, 0.9999, or_null = TRUE), equation = check_flag(equation, "equation"),
    weight = check_number(weight, "weight", 0.1, 10, unit = "pt", or_null = TRUE)
  )
  with_channels(ink, colour = rlang::enquo(colour), group = rlang::enquo(group))
}

#' @rdname ink_fit
#' @export
ink_residuals <- function(model = "line", degree = 2, colour = NULL, ...) {
  check_rest(...)
  ink <- new_ink(
    "residuals", model = check_choice(model, c("line", "polynomial", "loess"), "model"),
    degree = check_number(degree, "degree", 1, 9, whole = TRUE)
  )
  with_channels(ink, colour = rlang::enquo(colour))
}

#' @export
check_ink.ink_fit <- function(ink, panel, call) check_two_quantities(panel, "A fit", call)
#' @export
check_ink.ink_residuals <- function(ink, panel, call) check_two_quantities(panel, "Residuals", call)

# Of times, which are seconds inside, coefficients are told by the day.
per_day <- function(fit) {
  if (is.null(fit) || !nrow(fit$coefficients)) return(fit)
  factor <- 86400^(seq_len(nrow(fit$coefficients)) - 1)
  fit$coefficients$estimate <- fit$coefficients$estimate * factor
  fit$coefficients$se <- fit$coefficients$se * factor
  changed(fit, x_unit = "days since 1970", x_per = 86400)
}

# Fits by group in transformed units: list(fits, group, x, y, complete).
fit_groups <- function(ink, layer, level, y_transform = NULL) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "y", if (!isTRUE(attr(table, "ramp"))) "colour", "shape", "dash", "group"))
  group <- layer_groups(table, complete, ink)
  x <- axis_transform(layer$x$transform)$forward(table$x)
  y <- axis_transform(y_transform %||% layer$y$transform)$forward(table$y)
  fitted <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    fit <- fit_curve(x[rows], y[rows], ink$model, ink$degree, level)
    if (layer$x$kind$kind == "moment") per_day(fit) else fit
  })
  # Where too few rows were left for a fit, none of them is behind one.
  made <- which(!vapply(fitted, is.null, NA))
  list(fits = fitted, group = group, x = x, y = y, used = complete & group$at %in% made)
}

#' @export
train_ink.ink_fit <- function(ink, layer) {
  fitted <- fit_groups(ink, layer, ink$band %||% 0.95)
  x_back <- axis_transform(layer$x$transform)$backward
  y_back <- axis_transform(layer$y$transform)$backward
  curves <- stack_tables(Map(function(fit, g) {
    if (is.null(fit)) return(NULL)
    new_table(
      panel = fitted$group$rows$panel[g], series = g, x = x_back(fit$curve$x), y = y_back(fit$curve$y),
      lower = y_back(fit$curve$lower), upper = y_back(fit$curve$upper)
    )
  }, fitted$fits, seq_along(fitted$fits)))
  if (!is.null(curves) && is.null(ink$band)) curves$lower <- curves$upper <- NA_real_
  model <- switch(
    ink$model, line = "straight line by least squares", polynomial = paste0("polynomial of degree ", ink$degree),
    loess = "local regression (loess)"
  )
  list(
    table = curves, series = fitted$group$rows, fits = fitted$fits,
    transforms = c(x = layer$x$transform, y = layer$y$transform),
    extent = if (!is.null(curves)) extent_by_panel(
      curves$panel, x0 = curves$x, y0 = pmin(curves$y, curves$lower, na.rm = TRUE),
      y1 = pmax(curves$y, curves$upper, na.rm = TRUE)
    ),
    zero = character(),
    used = fitted$used,
    shows = paste0(model, if (!is.null(ink$band)) paste0(" with its ", format(100 * ink$band), " % confidence band"))
  )
}

#' @export
place_ink.ink_fit <- function(ink, trained, place) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  looks <- series_looks(trained$series, place)
  colour <- looks$colour[curves$series]
  x <- place$unit(curves$x, curves$panel, "x")
  marks <- list()
  if (any(!is.na(curves$lower))) marks <- list(new_marks("areas", band_areas(curves, x, place, colour)))
  marks <- c(marks, list(new_marks("lines", new_table(
    panel = curves$panel, line = curves$series, x = x, y = place$unit(curves$y, curves$panel, "y"), colour = colour,
    weight_pt = ink$weight %||% (place$house$weight_pt$line * 1.2),
    dash = looks$dash[curves$series], opacity = 1, .rows = nrow(curves)
  ))))
  if (ink$equation) marks <- c(marks, list(equation_words(trained, looks, place)))
  marks
}

# One line a group, in its colour, for the emptiest corner of its panel.
equation_words <- function(trained, looks, place) {
  held <- which(!vapply(trained$fits, is.null, NA))
  many <- max(tabulate(trained$series$panel)) > 1
  c(new_marks("words", new_table(
    panel = trained$series$panel[held],
    string = vapply(trained$fits[held], equation_text, "", transforms = trained$transforms),
    size_pt = place$house$type_pt$least,
    colour = if (many) legible(looks$colour[held]) else place$house$colour$text, .rows = length(held)
  )), list(role = "equation", corner = TRUE))
}

# "y = 12.1 - 0.09 x; R^2 = 0.85; p < 0.001"
equation_text <- function(fit, transforms) {
  paste(c(
    if (nrow(fit$coefficients)) paste0(
      axis_symbol("y", transforms), " = ",
      polynomial_text(fit$coefficients$estimate, axis_symbol("x", transforms), fit$curve$x / (fit$x_per %||% 1)),
      if (!is.null(fit$x_unit)) paste0(" (*x* in ", fit$x_unit, ")")
    ),
    if (!is.na(fit$r2)) paste0("*R*^2^ = ", formatC(fit$r2, digits = 2, format = "f")), p_text(fit$p)
  ), collapse = "; ")
}

axis_symbol <- function(direction, transforms) {
  name <- transforms[[direction]]
  if (name %in% c("identity", "reverse")) return(paste0("*", direction, "*"))
  scale <- transform_scale(name)
  if (scale == 1) paste0(name, " *", direction, "*") else paste0(
    sub("/.*", "", name), "(*", direction, "*/", format(scale), ")"
  )
}

# x: how it is written; at: values of x over the fitted range.
polynomial_text <- function(estimate, x, at) {
  estimate <- told_coefficients(estimate, at)
  digits <- attr(estimate, "digits")
  power <- seq_along(estimate) - 1
  held <- estimate != 0 | (power == 0 & all(estimate == 0))
  shown <- even_digits(abs(estimate), digits, attr(estimate, "exact"))
  term <- paste0(shown, ifelse(power == 0, "", paste0("\u2009", x)), ifelse(power > 1, paste0("^", power, "^"), ""))
  sign <- ifelse(estimate < 0, " \u2212 ", " + ")
  first <- which(held)[1]
  rest <- setdiff(which(held), first)
  paste0(if (estimate[first] < 0) "\u2212", term[first], paste0(sign[rest], term[rest], collapse = ""))
}

# Coefficients as an equation tells them: of three figures, or as many as it takes that who uses
# the equation within the data is off by less than a hundredth of what the curve spans; those
# that are nought but for the machine's rounding are nought.
told_coefficients <- function(estimate, at) {
  power <- seq_along(estimate) - 1
  value <- function(coefficients) as.numeric(outer(at, power, `^`) %*% coefficients)
  size <- max(abs(value(estimate)), vapply(power, function(k) max(abs(estimate[k + 1] * at^k)), 0))
  estimate[vapply(power, function(k) max(abs(estimate[k + 1] * at^k)), 0) < 1e-9 * size] <- 0
  span <- diff(range(value(estimate)))
  allowed <- if (span > 1e-9 * size) span / 100 else size / 1000
  for (digits in 3:12) if (max(abs(value(signif(estimate, digits)) - value(estimate))) <= allowed) break
  told <- signif(estimate, digits)
  structure(told, digits = digits, exact = all(abs(told - estimate) <= 1e-9 * abs(estimate)))
}

# Numbers of one equation with the same number of figures, zeros at the end too; those that are exact
# with so few need none.
even_digits <- function(numbers, digits, exact) {
  if (exact) return(number_text_each(numbers, digits))
  text <- formatC(numbers, digits = digits, format = "fg", flag = "#")
  sub("[.]$", "", text)
}

p_text <- function(p) {
  if (is.na(p)) return(NULL)
  if (p < 0.001) "*p* < 0.001" else paste0("*p* = ", formatC(p, digits = if (p < 0.1) 3 else 2, format = "f"))
}

#' @export
ink_traits.ink_fit <- function(ink) new_traits("line", c("colour", "dash"), "spread", behind = FALSE)

#' @export
train_ink.ink_residuals <- function(ink, layer) {
  fitted <- fit_residuals(ink, layer)
  points <- layer$table
  points$y <- fitted$y
  points <- table_rows(points, which(!is.na(fitted$y)))
  model <- switch(
    ink$model, line = "a straight line", polynomial = paste0("a polynomial of degree ", ink$degree),
    loess = "a local regression"
  )
  list(
    table = points,
    extent = extent_by_panel(points$panel, x0 = points$x, y0 = pmin(points$y, 0), y1 = pmax(points$y, 0)),
    zero = character(),
    used = fitted$used, shows = paste("residuals of", model)
  )
}

# list(y, used): the residual of each row, NA where there is none; rows that are behind a fit. The
# layer stands on an axis of residuals; the fit is in the units of the axis that this took the place of.
fit_residuals <- function(ink, layer) {
  fitted <- fit_groups(ink, layer, 0.95, ink$fitted$transform)
  y <- rep(NA_real_, length(fitted$y))
  for (g in seq_along(fitted$fits)) {
    if (!is.null(fitted$fits[[g]])) y[which(fitted$group$at == g)] <- fitted$fits[[g]]$residuals
  }
  list(y = y, used = fitted$used)
}

#' @export
place_ink.ink_residuals <- function(ink, trained, place) {
  points <- trained$table
  panels <- unique(points$panel)
  zero <- place$unit(rep(0, length(panels)), panels, "y")
  list(
    new_marks(
      "segments",
      new_table(
        panel = panels, x0 = 0, x1 = 1, y0 = zero, y1 = zero, colour = place$house$colour$axis, weight_pt = 0.4,
        .rows = length(panels)
      )
    ),
    new_marks(
      "points",
      new_table(
        panel = points$panel, x = place$unit(points$x, points$panel, "x"), y = place$unit(points$y, points$panel, "y"),
        colour = place$colour_of(points$colour, nrow(points)), opacity = 1,
        shape = if (is.null(points$shape)) "disc" else place$shape_of(points$shape),
        size_mm = place$house$points$size_mm, .rows = nrow(points)))
  )
}

#' @export
replaced_axis.ink_residuals <- function(ink, direction, variable) {
  if (direction != "y") return(variable)
  # Residuals are of the values as their axis shows them, and may be below zero.
  scale <- base_transform(variable$transform)
  plain <- scale %in% c("identity", "reverse")
  kind <- changed(
    variable$kind, name = paste0("Residual of ", if (!plain) paste0(scale, " "), lower_first(variable$kind$name))
  )
  if (!plain) kind[c("unit", "show")] <- list(NULL)
  changed(variable, id = paste("residual of", variable$id), kind = kind, transform = "identity")
}

# What an ink that replaces an axis shows on it, of each row of its layer; NULL for the column itself.
#' @export
replaced_values.ink_residuals <- function(ink, layer) fit_residuals(ink, layer)$y

#' @export
ink_traits.ink_residuals <- function(ink) new_traits("symbol", c("colour", "ramp", "shape"), computed = TRUE)
