# Times beside text and dates: these are read in the zone of the times, whatever the zone of the
# session is.

# Texts of ISO 8601, dates, or times as times of a zone; texts of other forms as base R reads them.
time_in_zone <- function(values, zone) {
  if (inherits(values, "POSIXct")) return(structure(values, tzone = zone))
  if (is.factor(values)) values <- as.character(values)
  if (is.character(values)) {
    if (!all(is_iso_moment(values) | is.na(values))) return(as.POSIXct(values, tz = zone))
    values <- parse_iso(values, zone)
  }
  if (inherits(values, "Date")) as.POSIXct(format(values), tz = zone) else values
}

# Texts such as "08:30" as times of the day on which times of day stand; anything else as it is.
on_first_day <- function(values) {
  if (!is.character(values)) return(values)
  clock <- grepl("^[0-9]{2}:[0-9]{2}(:[0-9]{2})?$", values)
  values[clock] <- paste0("1970-01-01T", values[clock])
  values
}

# Functions for expressions over a table that has times: comparisons, and `as_time()`.
time_functions <- function(data) {
  zones <- unique(
    unlist(
      lapply(data, function(column) {
        if (inherits(column, "POSIXct") && !is_of_day(column)) moment_zone(column)
      })
    )
  )
  if (!any(vapply(data, inherits, NA, c("POSIXct", "Date")))) return(list())
  compared <- function(name) {
    compare <- get(name, baseenv())
    function(e1, e2) {
      zone <- if (inherits(e1, "POSIXct")) moment_zone(e1) else moment_zone(e2)
      is_time <- c(inherits(e1, "POSIXct"), inherits(e2, "POSIXct"))
      comparable <- function(x) inherits(x, c("POSIXct", "Date", "factor")) || is.character(x)
      if (!any(is_time) || !comparable(e1) || !comparable(e2)) return(compare(e1, e2))
      if (is_time[1] && is_of_day(e1)) e2 <- on_first_day(e2)
      if (is_time[2] && is_of_day(e2)) e1 <- on_first_day(e1)
      compare(time_in_zone(e1, zone), time_in_zone(e2, zone))
    }
  }
  operators <- c("==", "!=", "<", "<=", ">", ">=", "%in%")
  c(
    stats::setNames(lapply(operators, compared), operators),
    as.Date = function(x, ...) {
      if (!inherits(x, "POSIXct") || ...length()) return(as.Date(x, ...))
      as.Date(format(x, "%Y-%m-%d", tz = moment_zone(x)))
    },
    as_time = function(x) time_in_zone(x, if (length(zones) == 1) zones else "UTC")
  )
}
