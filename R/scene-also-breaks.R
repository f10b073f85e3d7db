# What a second scale of an axis shows: the other unit, or what an expression makes of its values.

also_gap_mm <- 1 # between tick texts of a scale that is not even

# "Energy (eV) = 1240 / wavelength": list(title, expression); NULL for a unit.
also_parts <- function(also) {
  sign <- regexpr(" = ", also, fixed = TRUE)
  if (sign < 1) return(NULL)
  list(
    title = trimws(substr(also, 1, sign - 1)),
    expression = trimws(substr(also, sign + 3, nchar(also)))
  )
}

# list(title, forward, backward: between the values that the axis shows and those of the scale;
# expression, where it is one).
other_scale <- function(axis) {
  parts <- also_parts(axis$asked$also)
  if (is.null(parts)) return(unit_scale(axis))
  said_at <- paste0(axis$direction, "_axis")
  # The column is called by its name, or `value`.
  names <- unique(c(axis$variable, "value"))
  quo <- checked_expression(parts$expression, names, said_at)
  used <- intersect(names, all.vars(rlang::quo_get_expr(quo)))
  if (length(used) != 1) {
    abort_expression(
      said_at,
      parts$expression,
      paste0("It must be of \"", axis$variable, "\", the column of the axis.")
    )
  }
  forward <- function(values) {
    found <- suppressWarnings(
      rlang::eval_tidy(quo, stats::setNames(list(values), used))
    )
    if (!is.numeric(found) || length(found) != length(values)) {
      abort_expression(said_at, parts$expression, "It gives no number for each value of the axis.")
    }
    as.numeric(found)
  }
  on_axis <- axis_transform(axis$transform)
  grid <- seq(axis$range[1], axis$range[2], length.out = also_steps)
  values <- forward(on_axis$backward(grid))
  # Ends of an axis may have no value, as 1 / 0; all between have.
  known <- which(is.finite(values))
  step <- diff(values[known])
  if (length(known) < also_steps - 2 || any(diff(known) > 1) || !(all(step > 0) || all(step < 0))) {
    abort_expression(
      said_at,
      parts$expression,
      paste0(
        "Each value of the axis, ",
        paste(number_text_each(on_axis$backward(axis$range), 4), collapse = " to "),
        ", must have another one."
      )
    )
  }
  list(
    title = parts$title,
    expression = parts$expression,
    ends = range(values[known]),
    forward = forward,
    backward = function(wanted) {
      vapply(
        wanted,
        function(one) place_between(one, grid[known], values[known], forward, on_axis),
        0
      )
    }
  )
}
also_steps <- 201

# Where on the axis, in its transformed units, the scale has a value.
place_between <- function(wanted, grid, values, forward, on_axis) {
  hit <- which(values == wanted)
  if (length(hit)) return(grid[hit[1]])
  after <- which((values[-1] - wanted) * (values[-length(values)] - wanted) < 0)
  if (!length(after)) return(NA_real_)
  stats::uniroot(
    function(at) forward(on_axis$backward(at)) - wanted,
    grid[after[1] + 0:1],
    tol = 1e-12 * diff(range(grid))
  )$root
}

unit_scale <- function(axis) {
  conversion <- tryCatch(
    unit_conversion(axis$unit, axis$asked$also, NULL),
    nelvat_error_unit = function(error) {
      abort_nelvat(
        "unit",
        c(
          paste0(
            "The axis of \"",
            axis$variable,
            "\" cannot show \"",
            axis$asked$also,
            "\" also: it is in \"",
            axis$unit,
            "\"."
          ),
          x = rlang::cnd_message(error),
          i = paste0(
            "Two scales of unlike things in one panel mislead; put two panels over one axis with ",
            "`stacked()`. What follows from \"",
            axis$variable,
            "\" is said so: `also = \"Name (unit) = 2 * ",
            axis$variable,
            "\"`."
          )
        ),
        call = NULL
      )
    }
  )
  list(
    title = paste0(axis$plain_name, " (", axis$asked$also, ")"),
    forward = function(values) values * conversion$factor + conversion$offset,
    backward = function(values) (values - conversion$offset) / conversion$factor
  )
}

# Breaks of an axis in its other scale: their text, and where they stand, 0 to 1.
also_breaks <- function(axis, other, long_mm) {
  transform <- axis_transform(axis$transform)
  n <- breaks_wished(axis, long_mm)
  if (!is.null(other$expression)) {
    round_values <- uneven_breaks(other$ends, n)
    unit <- to_unit(other$backward(round_values), axis$range)
    known <- !is.na(unit)
    return(list(text = number_text_each(round_values[known], 6), unit = unit[known]))
  }
  ends <- other$forward(transform$backward(axis$range))
  scaled <- changed(axis, range = sort(transform$forward(ends)), ticks_in = NULL)
  found <- if (all(is.finite(scaled$range))) {
    value_breaks(scaled, n)
  } else {
    breaks <- number_breaks(sort(ends), n)
    list(at = breaks, text = number_text(breaks))
  }
  list(text = found$text, unit = to_unit(transform$forward(other$backward(found$at)), axis$range))
}

# Round numbers within a range, those of 1, 2 and 5 where it spans more than five times its lower
# end, as an uneven scale has them unlike far apart.
uneven_breaks <- function(ends, n) {
  if (ends[1] <= 0 || ends[2] < 5 * ends[1]) {
    found <- number_breaks(ends, n)
  } else {
    powers <- seq(floor(log10(ends[1])), ceiling(log10(ends[2])))
    found <- sort(as.vector(outer(c(1, 2, 5), 10^powers)))
  }
  found[found >= ends[1] & found <= ends[2]]
}

# Which of some places along an axis, each with the room it takes, stand clear of those before.
kept_apart <- function(at_mm, wide_mm) {
  kept_rows <- integer()
  for (i in order(at_mm)) {
    last <- kept_rows[length(kept_rows)]
    clear <- !length(last) || at_mm[i] - at_mm[last] >= (wide_mm[i] + wide_mm[last]) / 2
    if (clear) kept_rows <- c(kept_rows, i)
  }
  kept_rows
}
