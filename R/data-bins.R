#' Bins of a quantity or of time
#'
#' Brings values to the middle of even bins, so that means, counts or boxes are of a bin: for x of
#' [panel()], for `derive =` and for [derived()]. A database does so itself, see [table_in()].
#'
#' @param x Numbers, dates or times.
#' @param width Of a bin: a number in the unit of `x`; of dates and times a step such as
#'   `"6 hours"`, `"1 day"`, `"2 weeks"`, `"1 month"`, `"1 year"`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The middle of each value's bin, of the same kind as `x`. Bins of numbers begin at 0,
#'   those of hours and days at midnight where `x` is, those of weeks on Mondays, those of months
#'   and years with the first day of the year 1970; a value between two bins is in the later one.
#'   Dates are brought to the day in the middle, the earlier one of two.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, or a step of time for
#'   numbers.
#' @examples
#' in_bins(c(0.4, 9.9, 10, 27), 10)
#' panel(
#'   study("probe"),
#'   x = in_bins(time, "2 hours"),
#'   y = core,
#'   ink_line(centre = "mean", band = "sd")
#' )
#' @export
in_bins <- function(x, width, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(in_bins, "in_bins", call)
  if (inherits(x, "POSIXlt")) x <- as.POSIXct(x)
  is_moment <- inherits(x, c("POSIXct", "Date"))
  if (!is_moment && !is.numeric(x)) {
    abort_nelvat(
      "argument",
      c("Bins are of numbers, dates or times.", x = paste0("Found ", describe_value(x), ".")),
      call
    )
  }
  if (!is_moment) return(numbers_in_bins(x, check_number(width, "width", 0, call = call), call))
  step <- if (rlang::is_string(width)) check_step(width, "width", call)
  if (!is.data.frame(step) || inherits(x, "Date") && !step$unit %in% long_units) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`width` must be a step of time, such as \"1 day\" or \"2 weeks\"",
          if (!inherits(x, "Date")) ", or \"6 hours\"",
          "."
        ),
        x = paste0("Found ", describe_value(width), ".")
      ),
      call
    )
  }
  if (inherits(x, "Date")) return(dates_in_bins(x, step))
  times_in_bins(x, step)
}

numbers_in_bins <- function(x, width, call) {
  if (width == 0) {
    abort_nelvat("argument", c("`width` must be above 0.", x = "Found 0."), call)
  }
  # An edge that binary numbers miss by a little is one.
  (floor(x / width + bin_slack) + 0.5) * width
}
bin_slack <- 1e-9

long_units <- c("DSTday", "week", "month", "year")
even_units <- c(sec = 1, min = 60, hour = 3600, DSTday = 86400, week = 7 * 86400)
step_seconds <- function(step) step$count * even_units[[step$unit]]
# The first Monday after the first day that computers count.
step_origin <- function(step) if (step$unit == "week") 4 * 86400 else 0

dates_in_bins <- function(x, step) {
  ends <- bin_ends(as.numeric(x) * 86400, step)
  # The last day is before the next bin.
  structure(floor((ends$from + ends$to - 86400) / 2 / 86400), class = "Date")
}

times_in_bins <- function(x, step) {
  zone <- attr(x, "tzone")[1] %||% ""
  clock <- wall_seconds(x)
  fine <- step$unit %in% c("sec", "min", "hour") && 3600 %% step_seconds(step) == 0
  middle <- if (fine) {
    # Counted on, so that the hour that comes twice is two.
    width <- step_seconds(step)
    as.numeric(x) - clock %% width + width / 2
  } else {
    ends <- bin_ends(clock, step)
    (wall_moment(ends$from, zone) + wall_moment(ends$to, zone)) / 2
  }
  structure(middle, class = c("POSIXct", "POSIXt"), tzone = attr(x, "tzone"))
}

# Begin and end of the bins, in seconds that a clock on the wall shows.
bin_ends <- function(clock, step) {
  if (!step$unit %in% c("month", "year")) {
    width <- step_seconds(step)
    from <- floor((clock - step_origin(step)) / width) * width + step_origin(step)
    return(list(from = from, to = from + width))
  }
  months <- step$count * if (step$unit == "year") 12 else 1
  parts <- as.POSIXlt(structure(clock, class = c("POSIXct", "POSIXt")), tz = "UTC")
  first <- floor(((parts$year - 70) * 12 + parts$mon) / months) * months
  list(from = month_seconds(first), to = month_seconds(first + months))
}

# months: since January 1970.
month_seconds <- function(months) {
  day <- as.POSIXlt("1970-01-01", tz = "UTC")
  day <- day[rep(1, length(months))]
  day$year <- 70 + months %/% 12
  day$mon <- as.integer(months %% 12)
  found <- as.numeric(as.POSIXct(day))
  found[is.na(months)] <- NA
  found
}

# What a clock on the wall shows, in seconds, and the moment when it does.
wall_seconds <- function(x) as.numeric(as.POSIXct(as.POSIXlt(x), tz = "UTC"))
wall_moment <- function(clock, zone) {
  each <- unique(clock)
  shown <- as.POSIXlt(structure(each, class = c("POSIXct", "POSIXt")), tz = "UTC")
  seconds <- as.numeric(as.POSIXct(format(shown, "%Y-%m-%d %H:%M:%S"), tz = zone))
  # A midnight that a change of clocks leaves out.
  gone <- is.na(seconds) & !is.na(each)
  later <- format(shown[gone] + 3600, "%Y-%m-%d %H:%M:%S")
  seconds[gone] <- as.numeric(as.POSIXct(later, tz = zone))
  seconds[match(clock, each)]
}
