# A fit for each group of a layer.

# Is a model fitted to data as they are, rather than as the axes show them?
fits_data <- function(model) !model %in% c("line", "polynomial", "loess", "robust", "binomial")

# Of times, which are seconds inside, coefficients are told by the day.
per_day <- function(fit) {
  if (is.null(fit) || !nrow(fit$coefficients)) return(fit)
  factor <- 86400^(seq_len(nrow(fit$coefficients)) - 1)
  for (of in c("estimate", "se", "low", "high")) {
    fit$coefficients[[of]] <- fit$coefficients[[of]] * factor
  }
  changed(fit, x_unit = "days since 1970", x_per = 86400)
}

# Fits by group, in transformed units or in those of the data: list(fits, group, x, y, complete).
fit_groups <- function(ink, layer, level, y_transform = NULL) {
  table <- layer$table
  complete <- complete_rows(
    table,
    c("x", "y", if (!is_ramp(layer$colour)) "colour", "shape", "dash", "group", "weigh_by")
  )
  # Rows without weight are behind no fit.
  if (!is.null(table$weigh_by)) complete <- complete & !is.na(table$weigh_by) & table$weigh_by > 0
  group <- layer_groups(layer, complete, ink, table)
  x_axis <- axis_transform(layer$x$transform)
  y_axis <- axis_transform(y_transform %||% layer$y$transform)
  as_is <- fits_data(ink$model)
  x <- if (as_is) table$x else x_axis$forward(table$x)
  y <- if (as_is || ink$model == "binomial") table$y else y_axis$forward(table$y)
  how <- ink[c("span", "interval", "parameters", "start")]
  how <- how[!vapply(how, is.null, NA)]
  if (!is.null(ink$formula)) how$value <- formula_value(ink$formula)
  fitted <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    if (!is.null(table$weigh_by)) how$w <- table$weigh_by[rows]
    if (as_is && length(rows)) {
      ends <- range(x_axis$forward(table$x[rows]))
      how$at <- x_axis$backward(seq(ends[1], ends[2], length.out = curve_points))
    }
    group_row <- table_rows(group$rows, g)
    values <- list(x = x[rows], y = y[rows])
    if (!is.null(table$products)) {
      sums <- pair_sums(table_rows(table, rows))
      values <- points_of_sums(sums)
      how[c("n", "w", "at")] <- list(
        sums$n,
        rep(sums$n / 3, 3),
        seq(sums$x_least, sums$x_greatest, length.out = curve_points)
      )
    }
    fit <- of_group(
      layer,
      group_row,
      fit_curve(values$x, values$y, ink$model, ink$degree, level, how)
    )
    if (is.null(fit)) return(NULL)
    fit$model <- ink$model
    if (layer$x$kind$kind == "moment") per_day(fit) else fit
  })
  # Where too few rows were left for a fit, none of them is behind one.
  made <- which(!vapply(fitted, is.null, NA))
  used <- complete & group$at %in% made
  list(
    fits = fitted,
    group = group,
    x = x,
    y = y,
    used = used,
    notes = few_note(ink$fitted %||% layer$y, complete & !used, "a fit", table$times)
  )
}

# A note of values that are too few for what is made of them; NULL for none.
few_note <- function(variable, few, what, times = NULL) {
  if (any(few)) {
    new_table(
      column = variable$id,
      what = paste("values too few for", what),
      n = rows_behind(list(times = times), few),
      .rows = 1L
    )
  }
}

# Runs `code`, an error of a fit saying of which group it is.
of_group <- function(layer, group, code) {
  tryCatch(code, nelvat_error_fit = function(error) {
    shown <- Filter(
      function(channel) is_category(layer[[channel]]) && !is.null(group[[channel]]),
      c("colour", "shape", "dash", "group")
    )
    level <- unique(
      vapply(
        shown,
        function(channel) {
          plain_text(layer[[channel]]$kind$level_names[group[[channel]]])
        },
        ""
      )
    )
    error$panel <- group$panel
    if (length(level)) {
      error$message <- sub(
        unfitted,
        sub("[.]$", paste0(" to the group ", quoted(level), "."), unfitted),
        error$message,
        fixed = TRUE
      )
    }
    stop(error)
  })
}

# Parameters of a formula are of the numbers that the axes show.
#' @export
said_on_axis.ink_fit <- function(ink, direction) list(start = unlist(ink$start))
#' @export
said_on_axis.ink_residuals <- function(ink, direction) list(start = unlist(ink$start))
