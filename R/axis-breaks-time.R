# Breaks of dates and times at whole steps of the calendar, in the axis's own zone.
# Positions are seconds since 1970-01-01 UTC.

# Steps from fine to coarse: how many of a unit, and about how many seconds.
time_steps <- local({
  step <- function(count, unit, seconds) {
    data.frame(count = count, unit = unit, seconds = count * seconds)
  }
  rbind(
    step(as.vector(outer(c(1, 2, 5), 10^(-6:-1))), "sec", 1),
    step(c(1, 2, 5, 10, 15, 30), "sec", 1),
    step(c(1, 2, 5, 10, 15, 30), "min", 60),
    step(c(1, 2, 3, 6, 12), "hour", 3600),
    step(c(1, 2), "DSTday", 86400),
    step(c(1, 2), "week", 7 * 86400),
    step(c(1, 2, 3, 6), "month", 30.44 * 86400),
    step(c(1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000), "year", 365.25 * 86400)
  )
})

# moment: list(zone, has_time, of_day).
time_breaks <- function(ends, n, moment) {
  zone <- moment$zone
  steps <- time_steps
  if (!moment$has_time) steps <- steps[steps$seconds >= 86400, ]
  # Three where there is room for them: then two more than are wished are better than one or two.
  finer <- NULL
  for (i in seq_len(nrow(steps))) {
    if (diff(ends) / steps$seconds[i] > n + 3) next
    positions <- step_positions(ends, steps[i, ], zone)
    if (length(positions) <= n) {
      if (length(positions) < min(3, n) && !is.null(finer)) return(finer)
      return(
        list(at = positions, text = time_text(positions, steps[i, ], moment), minor = numeric())
      )
    }
    finer <- if (length(positions) <= n + 2) {
      list(at = positions, text = time_text(positions, steps[i, ], moment), minor = numeric())
    }
  }
  # Longer than the coarsest steps: the two ends, by the mean year of the Gregorian calendar.
  list(at = ends, text = number_text(signif(1970 + ends / 31556952, 3)), minor = numeric())
}

step_positions <- function(ends, step, zone) {
  if (isTRUE(step$seconds < 1)) {
    return(step$count * seq(ceiling(ends[1] / step$count - 1e-6), ends[2] / step$count + 1e-6))
  }
  moments <- as.POSIXct(ends, origin = "1970-01-01", tz = zone)
  start <- calendar_start(moments[1], step, zone)
  by <- if (step$unit == "week") paste(7 * step$count, "DSTday") else paste(step$count, step$unit)
  positions <- as.numeric(seq(start, moments[2], by = by))
  positions[positions >= ends[1] - 1e-6 & positions <= ends[2] + 1e-6]
}

# A whole step at or before a moment: the day for hours and less, a Monday for weeks,
# the year for months, a round year for years.
calendar_start <- function(moment, step, zone) {
  parts <- as.POSIXlt(moment, tz = zone)
  day <- as.POSIXct(trunc(parts, "days"))
  if (step$unit %in% c("sec", "min")) return(as.POSIXct(trunc(parts, "hours")))
  if (step$unit %in% c("hour", "DSTday")) return(day)
  if (step$unit == "week") return(day - ((parts$wday + 6) %% 7) * 86400)
  year <- parts$year + 1900
  if (step$unit == "year") year <- year - year %% step$count
  # Years before 1 have no text that is read back.
  first_day <- as.POSIXlt("1970-01-01", tz = zone)
  first_day$year <- year - 1900
  as.POSIXct(first_day)
}

# Hours and minutes, the date under the first of each day; days by date; months by
# name, January with its year; years by number.
time_text <- function(at, step, moment) {
  zone <- moment$zone %||% "UTC"
  parts <- as.POSIXlt(as.POSIXct(at, origin = "1970-01-01", tz = zone), tz = zone)
  date <- paste(parts$mday, month.abb[parts$mon + 1])
  if (step$unit == "year") return(as.character(parts$year + 1900))
  if (step$unit == "month") {
    return(
      ifelse(
        parts$mon == 0 | seq_along(at) == 1,
        paste(month.abb[parts$mon + 1], parts$year + 1900),
        month.abb[parts$mon + 1]
      )
    )
  }
  if (step$unit %in% c("DSTday", "week")) return(date)
  clock <- if (step$unit == "sec") {
    second_text(at, "%H:%M:%S", zone, max(0, ceiling(-log10(step$count))))
  } else {
    format(parts, "%H:%M")
  }
  if (isTRUE(moment$of_day)) clock else ifelse(duplicated(date), clock, paste0(clock, "\n", date))
}
