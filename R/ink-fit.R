#' Fitted lines and curves
#'
#' A line or a curve for each group, with the band of its mean or of further values; its equation,
#' R^2 and p can be written where the panel is empty, or above all marks where it is nowhere.
#' [fits()] gives the coefficients as a table.
#'
#' @eval argument_lines("ink_fit", "ink_residuals")
#' @return An ink, for [panel()].
#' @details Lines, polynomials, local regressions and binomial fits are in the axes' transformed
#'   units: on a logarithmic axis a line in the logarithms. All other curves are fitted to the data
#'   as they are, whatever the axes. R^2 is 1 - RSS / TSS, and of a curve no share of explained
#'   variance; through the origin TSS is not about the mean. Sources: Draper and Smith (1998),
#'   "Applied Regression Analysis"; Cleveland and Devlin (1988), JASA 83, for loess; Huber (1981),
#'   "Robust Statistics"; Bates and Watts (1988), "Nonlinear Regression Analysis and Its
#'   Applications", fitted by [stats::nls()]; [stats::glm()] for the binomial. The interval of EC50
#'   is that of its logarithm. `ink_residuals()` draws what a fit leaves, over its zero line.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink, `nelvat_error_fit` where a curve does not converge, with the panel and group.
#' @examples
#' plate(panel(study("loaves"), x = rise, y = firmness, ink_points(), ink_fit(equation = TRUE)),
#'   width = 100, height = 70)
#' plate(
#'   panel(study("cultures"), x = hour, y = count, keep = microbe == "cmill", ink_points(),
#'     ink_fit(model = "logistic")),
#'   width = 100, height = 70)
#' @export
ink_fit <- function(
  model = "line",
  degree = 2,
  band = 0.95,
  equation = FALSE,
  weight = NULL,
  colour = NULL,
  group = NULL,
  interval = "confidence",
  span = 0.75,
  parameters = NULL,
  start = NULL,
  weigh_by = NULL,
  ...
) {
  ink <- with_model(said_ink("fit", ...))
  if (interval == "prediction" && ink$model == "binomial") {
    abort_nelvat(
      "argument",
      c("A binomial fit has no prediction interval.", i = "Its values are 0 or 1.")
    )
  }
  ink
}

#' @rdname ink_fit
#' @export
ink_residuals <- function(
  model = "line",
  degree = 2,
  colour = NULL,
  span = 0.75,
  parameters = NULL,
  start = NULL,
  weigh_by = NULL,
  ...
) {
  with_model(said_ink("residuals", ...))
}

fit_models <- c(
  "line", "proportional", "polynomial", "robust", "loess", "exponential", "power", "logistic",
  "dose-response",
  "michaelis-menten", "binomial"
)

# An ink that fits: what both inks say of the model.
# A formula of one's own is a model with its start.
with_model <- function(ink, call = rlang::caller_env()) {
  model <- ink$model
  is_own <- inherits(model, "formula") || grepl("~", model, fixed = TRUE)
  if (!is_own && !is.null(ink$start)) {
    abort_nelvat(
      "argument",
      c("`start` is for a formula.", i = "Other models find theirs in the data."),
      call
    )
  }
  if (!is_own) return(ink)
  ink$formula <- own_formula(model, ink$start, call)
  ink$start <- lapply(as.list(ink$start), as.numeric)
  ink$model <- "formula"
  ink
}

# The right side of a formula of y, of x and the parameters that `start` names.
own_formula <- function(model, start, call) {
  numbers <- suppressWarnings(vapply(as.list(start), function(one) as.numeric(one)[1], 0))
  named <- length(numbers) && !is.null(names(start)) && all(nzchar(names(start))) && all(
    is.finite(numbers)
  )
  if (!named || "x" %in% names(start) || anyDuplicated(names(start))) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "A formula needs `start`, a number for each of its parameters, such as `list(a = 1, b = ",
          "2)`."
        ),
        x = paste0("Found ", describe_value(start), ".")
      ),
      call
    )
  }
  tree <- right_side(model, "model", names(start), call)
  unused <- setdiff(names(start), all.vars(tree))
  if (length(unused)) {
    abort_nelvat(
      "argument",
      c("`start` names what the formula has not.", x = paste0("\"", unused[1], "\".")),
      call
    )
  }
  tree
}

# The value of a checked formula at x, p its parameters.
formula_value <- function(tree) {
  functions <- list2env(c(expression_functions(), list(pi = pi)), parent = emptyenv())
  # Where a formula has no value, it is NaN.
  function(x, p) {
    rep_len(
      as.numeric(suppressWarnings(eval(tree, c(list(x = x), as.list(p)), functions))),
      length(x)
    )
  }
}

#' @export
check_ink.ink_fit <- function(ink, panel, call) check_fitted(ink, panel, "A fit", call)
#' @export
check_ink.ink_residuals <- function(ink, panel, call) check_fitted(ink, panel, "Residuals", call)

check_fitted <- function(ink, panel, what, call) {
  check_two_quantities(panel, what, call)
  weights <- ink$variables$weigh_by
  if (!is.null(weights)) {
    check_variable_kind(weights, "weigh_by", "quantity", call)
    if (any(weights$values < 0, na.rm = TRUE)) {
      abort_nelvat(
        "argument",
        c(
          "Weights cannot be below zero.",
          x = paste0(
            "\"",
            weights$id,
            "\" is, in ",
            counted(sum(weights$values < 0, na.rm = TRUE), "row"),
            "."
          )
        ),
        call
      )
    }
  }
  dated <- panel$variables$x$kind$kind == "moment"
  if (dated && !ink$model %in% c("line", "polynomial", "loess", "robust")) {
    abort_nelvat(
      "kind",
      c(
        "A curve of this model needs a quantity on x.",
        x = paste0("`x` is ", kind_phrase(panel$variables$x$kind), "."),
        i = "Derive the days or hours since a start, and show them."
      ),
      call
    )
  }
}

#' @export
train_ink.ink_fit <- function(ink, layer) {
  fitted <- fit_groups(ink, layer, ink$band %||% 0.95)
  as_is <- fits_data(ink$model)
  back <- function(direction) {
    if (as_is) identity else axis_transform(layer[[direction]]$transform)$restored
  }
  x_back <- back("x")
  y_back <- if (ink$model == "binomial") identity else back("y")
  curves <- stack_tables(
    Map(
      function(fit, g) {
        if (is.null(fit)) return(NULL)
        new_table(
          panel = fitted$group$rows$panel[g],
          series = g,
          x = x_back(fit$curve$x),
          y = y_back(fit$curve$y),
          lower = y_back(fit$curve$lower),
          upper = y_back(fit$curve$upper)
        )
      },
      fitted$fits,
      seq_along(fitted$fits)
    )
  )
  # Where the axis has no value a curve ends.
  if (!is.null(curves)) curves <- table_rows(curves, which(!is.na(curves$y)))
  if (!is.null(curves) && is.null(ink$band)) curves$lower <- curves$upper <- NA_real_
  # What a transformed axis cannot show says nothing of its range.
  seen <- function(values) ifelse(axis_transform(layer$y$transform)$holds(values), values, NA)
  list(
    table = curves,
    series = fitted$group$rows,
    findings = new_findings(
      fitted$group$rows,
      "curve",
      tabulate_rows(fitted$group$at, nrow(fitted$group$rows), layer$table$times),
      why = ifelse(vapply(fitted$fits, is.null, NA), "too few values", NA)
    ),
    traces = if (!is.null(curves)) {
      new_table(
        finding = curves$series,
        x = curves$x,
        y = curves$y,
        lower = curves$lower,
        upper = curves$upper
      )
    },
    fits = fitted$fits,
    transforms = c(x = layer$x$transform, y = layer$y$transform),
    extent = if (!is.null(curves)) {
      extent_by_panel(
        curves$panel,
        x0 = curves$x,
        y0 = seen(pmin(curves$y, curves$lower, na.rm = TRUE)),
        y1 = seen(pmax(curves$y, curves$upper, na.rm = TRUE))
      )
    },
    zero = character(),
    used = fitted$used,
    notes = stack_tables(list(fitted$notes, unseen_bands(layer$y, curves))),
    shows = paste0(
      model_words(ink),
      if (has_band(curves)) {
        paste0(" with its ", format(100 * ink$band), " % ", ink$interval, " band")
      },
      if (ink$equation && ink$model == "dose-response") {
        paste0(", EC50 with its ", format(100 * (ink$band %||% 0.95)), " % confidence interval")
      },
      if (!is.null(layer$table$weigh_by)) {
        paste0(", weighed by ", said_name(ink$variables$weigh_by, with_unit = TRUE))
      }
    )
  )
}

#' @export
place_ink.ink_fit <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  looks <- series_looks(trained$series, site)
  colour <- looks$colour[curves$series]
  x <- site$unit(curves$x, curves$panel, "x")
  marks <- list()
  if (any(!is.na(curves$lower))) marks <- list(band_marks(curves, x, site, colour))
  marks <- c(
    marks,
    list(
      new_marks(
        "lines",
        new_table(
          panel = curves$panel,
          line = curves$series,
          x = x,
          y = site$unit(curves$y, curves$panel, "y"),
          colour = colour,
          weight_pt = ink$weight %||% (site$house$weight_pt$line * 1.2),
          dash = looks$dash[curves$series],
          opacity = 1,
          .rows = nrow(curves)
        )
      )
    )
  )
  if (ink$equation) marks <- c(marks, list(equation_words(trained, looks, site)))
  marks
}

# A line needs no more than sums; residuals are of the values themselves.
#' @export
question_of.ink_fit <- function(ink) {
  if (ink$model == "line" && is.null(ink$mapped$weigh_by)) "pairs" else "rows"
}

#' @export
ink_traits.ink_fit <- function(ink) {
  new_traits(
    "line",
    c("colour", "dash"),
    "spread",
    behind = FALSE,
    anywhere = isTRUE(ink$equation),
    as_is = fits_data(ink$model)
  )
}

#' @export
marks_named.ink_fit <- function(ink) if (ink$model == "line") "lines" else "curves"

#' @export
marks_named.ink_residuals <- function(ink) "points"
