# The breaks of an axis: those asked for, else found for its range and length.

# The breaks of an axis `length_mm` long, at most `n` of them for numbers, with
# measured tick text.
axis_breaks <- function(axis, n, font, numbers) {
  if (axis$hidden || axis$bare) return(list(at = numeric(), texts = list(), minor = numeric()))
  if (axis$slots) {
    shown <- shown_slots(axis)
    return(list(at = shown, texts = axis$slot_texts[shown], minor = numeric()))
  }
  breaks <- asked_breaks(axis, found_breaks(axis, n))
  as_house <- if (is.null(axis$moment)) house_numbers else house_times
  text <- as_house(breaks$text, numbers)
  c(breaks, list(texts = measure_texts(text, font)))
}

# Of the part of an axis that has ticks, as many as stand there at the same distance.
found_breaks <- function(axis, n) {
  if (is.null(axis$ticks_in)) return(value_breaks(axis, n))
  share <- diff(axis$ticks_in) / diff(axis$range)
  value_breaks(changed(axis, range = axis$ticks_in), max(min(n, 3), round(n * share)))
}

# The slots whose names are shown: all, but where `breaks` says which or `every` how many.
shown_slots <- function(axis) {
  all <- seq_along(axis$slot_texts)
  breaks <- axis$asked$breaks
  if (is.list(breaks)) return(all[axis$slot_names %in% breaks$levels])
  if (!is.null(breaks)) return(integer())
  if (is.null(axis$asked$every)) all else all[(all - 1) %% axis$asked$every == 0]
}

# Breaks as axis_of() asks, where it does, else those found.
asked_breaks <- function(axis, found) {
  asked <- axis$asked
  ends <- sort(axis_transform(axis$transform)$backward(axis$range))
  positions <- asked$breaks %||%
    (if (!is.null(asked$every)) stepped(ends, asked$every, axis, "every"))
  if (!is.null(positions) && !length(positions)) {
    return(list(at = numeric(), text = character(), minor = numeric()))
  }
  if (!is.null(positions)) {
    positions <- positions[
      positions >= ends[1] - 1e-9 * diff(ends) & positions <= ends[2] + 1e-9 * diff(ends)
    ]
    text <- if (is.null(axis$moment)) {
      number_text(positions)
    } else {
      time_text(
        positions,
        if (is.data.frame(asked$every)) asked$every else closest_step(positions),
        axis$moment
      )
    }
    found <- list(at = positions, text = text, minor = numeric())
  }
  if (!is.null(asked$minor)) {
    found <- changed(found, minor = setdiff(stepped(ends, asked$minor, axis, "minor"), found$at))
  }
  if (is.character(asked$format)) {
    times <- as.POSIXct(found$at, origin = "1970-01-01", tz = axis$moment$zone %||% "UTC")
    found <- changed(found, text = format(times, asked$format))
  }
  if (is.numeric(asked$format)) with_decimals(found, asked$format, axis) else found
}

# Numbers of so many decimals: ticks between them are left out, but for those asked for.
with_decimals <- function(found, digits, axis) {
  exact <- abs(found$at - round(found$at, digits)) <= 1e-9 * max(abs(found$at), 0)
  asked <- !is.null(axis$asked$breaks) || !is.null(axis$asked$every)
  if (!asked && sum(exact) > 1) {
    found <- changed(found, at = found$at[exact])
    exact <- exact[exact]
  }
  found <- changed(found, text = number_text_at(found$at, digits))
  alike <- found$text %in% found$text[duplicated(found$text)]
  # Steps that so many cannot show would be read off wrong.
  wrong <- which(alike | !is.null(axis$asked$every) & !exact)
  if (!length(wrong)) return(found)
  abort_nelvat(
    "argument",
    c(
      paste0("`format = ", digits, "` is too short for ticks of the ", axis$direction, " axis."),
      x = paste0(
        number_text_each(found$at[wrong[1]]),
        " would be \"",
        found$text[wrong[1]],
        "\"",
        if (any(alike)) ", as others would",
        "."
      ),
      i = "Give it more decimals, or `every` a step that so many can show."
    ),
    call = NULL
  )
}

most_ticks <- c(every = 200, minor = 2000) # on one axis

stepped <- function(ends, step, axis, argument) {
  check_step_count(ends, step, axis, argument)
  if (is.data.frame(step)) return(step_positions(ends, step, axis$moment$zone %||% "UTC"))
  seq(ceiling(ends[1] / step - 1e-9), floor(ends[2] / step + 1e-9)) * step
}

# A step that would make more ticks than any page shows is a slip.
check_step_count <- function(ends, step, axis, argument) {
  long <- if (is.data.frame(step)) step$count * unit_seconds[[step$unit]] else step
  n <- diff(ends) / long
  if (is.finite(n) && n <= most_ticks[[argument]]) return(invisible())
  said <- if (is.data.frame(step)) paste(step$count, step$unit) else format(step)
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        " = ",
        said,
        "` makes too many ticks on the ",
        axis$direction,
        " axis of \"",
        axis$variable,
        "\"."
      ),
      x = paste0(
        "There would be ",
        format(signif(n, 3), big.mark = ","),
        "; the most is ",
        most_ticks[[argument]],
        "."
      )
    ),
    call = NULL
  )
}

# The calendar step that is nearest to the distance of positions.
closest_step <- function(at) {
  steps <- time_steps
  steps[which.min(abs(log(steps$seconds / max(diff(at)[1], 1, na.rm = TRUE)))), ]
}
