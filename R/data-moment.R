# Dates and times. ISO 8601 is recognised; an offset in the text is honoured, a bare
# time is in the declared zone, UTC unless told. Inside Nelvat a moment is seconds
# since 1970-01-01 UTC; the kind keeps whether it has a time of day.

settle_moment <- function(kind, values, column, call) {
  if (!inherits(values, c("Date", "POSIXct"))) values <- parse_moments(values, kind, column, call)
  kind$zone <- kind$zone %||% moment_zone(values)
  # What is said beside them is in that zone, too.
  if (inherits(values, "POSIXct")) attr(values, "tzone") <- kind$zone
  kind$has_time <- inherits(values, "POSIXct")
  kind$of_day <- kind$has_time && is_of_day(values)
  list(kind = kind, values = values)
}

# Times of day stand on the first day that R counts from: their axis shows no date.
is_of_day <- function(values) {
  seconds <- as.numeric(values[!is.na(values)])
  length(seconds) > 0 && all(seconds >= 0 & seconds < 86400)
}

# Times without a zone are shown in the session's, as R prints them; dates have none.
moment_zone <- function(values) {
  if (!inherits(values, "POSIXct")) return("UTC")
  zone <- c(attr(values, "tzone"), "")[1]
  if (!nzchar(zone)) zone <- c(stats::na.omit(Sys.timezone()), "UTC")[1]
  zone
}

iso_offset <- "(Z|[+-][0-9]{2}(:?[0-9]{2})?)$"
iso_pattern <- paste0(
  "^[0-9]{4}-[0-9]{2}-[0-9]{2}([T ][0-9]{2}:[0-9]{2}(:[0-9]{2}([.,][0-9]+)?)?",
  "(Z|[+-][0-9]{2}(:?[0-9]{2})?)?)?$"
)

is_iso_moment <- function(texts) grepl(iso_pattern, texts, perl = TRUE)

parse_moments <- function(values, kind, column, call) {
  texts <- as.character(values)
  parsed <- if (is.null(kind$format)) {
    parse_iso(texts, kind$zone %||% "UTC")
  } else {
    parse_declared(texts, kind)
  }
  row <- which(is.na(parsed) & !is.na(texts))[1]
  if (is.na(row)) return(parsed)
  abort_nelvat(
    "kind",
    c(
      paste0(
        "Column \"",
        column,
        "\" is declared a moment, but not all of it reads as dates or times."
      ),
      x = paste0("The first value that does not is \"", texts[row], "\", in row ", row, "."),
      i = if (is.null(kind$format)) {
        paste0(
          "ISO 8601 is expected, such as 2026-03-02 or 2026-03-02T10:33:00Z; `moment(format = )` ",
          "declares another form."
        )
      } else {
        paste0("The declared format is \"", kind$format, "\".")
      }
    ),
    call
  )
}

parse_declared <- function(texts, kind) {
  has_time <- grepl("%[HIMSTRcXsOpz]", kind$format)
  if (!has_time) return(as.Date(texts, format = kind$format))
  as.POSIXct(strptime(texts, kind$format, tz = kind$zone %||% "UTC"))
}

parse_iso <- function(texts, zone) {
  known <- is_iso_moment(texts)
  texts[!known] <- NA
  if (!any(nchar(texts) > 10, na.rm = TRUE)) return(as.Date(texts))
  tail <- substring(texts, 11)
  has_offset <- grepl(iso_offset, tail, perl = TRUE)
  clock <- tail
  clock[has_offset] <- sub(iso_offset, "", tail[has_offset], perl = TRUE)
  clock <- ifelse(
    nchar(clock) == 0,
    "T00:00:00",
    ifelse(nchar(clock) == 6, paste0(clock, ":00"), clock)
  )
  text <- paste0(substr(texts, 1, 10), " ", sub(",", ".", substring(clock, 2)))
  seconds <- utc_seconds(text)
  offset <- sub(paste0(".*?", iso_offset), "\\1", tail[has_offset], perl = TRUE)
  seconds[has_offset] <- seconds[has_offset] - offset_seconds(offset)
  if (zone != "UTC" && !all(has_offset)) {
    bare <- strptime(text[!has_offset], "%Y-%m-%d %H:%M:%OS", tz = zone)
    seconds[!has_offset] <- as.numeric(as.POSIXct(bare))
  }
  seconds[is.na(texts)] <- NA
  as.POSIXct(seconds, origin = "1970-01-01", tz = zone)
}

# "2026-03-02 10:33:00" as seconds since 1970 where it is of UTC; missing for what no clock shows.
utc_seconds <- function(text) {
  days <- substr(text, 1, 10)
  each <- unique(days)
  part <- function(from, to) suppressWarnings(as.numeric(substr(text, from, to)))
  hour <- part(12, 13)
  minute <- part(15, 16)
  second <- part(18, 40)
  wrong <- hour > 24 | minute > 59 | second >= 61 | hour == 24 & (minute > 0 | second > 0)
  days <- as.numeric(as.Date(each, "%Y-%m-%d"))[match(days, each)]
  ifelse(wrong, NA_real_, days * 86400 + hour * 3600 + minute * 60 + second)
}

offset_seconds <- function(offset) {
  digits <- gsub("[^0-9]", "", offset)
  hours <- suppressWarnings(as.numeric(substr(digits, 1, 2)))
  minutes <- suppressWarnings(as.numeric(substr(digits, 3, 4)))
  seconds <- ifelse(is.na(hours), 0, hours * 3600) + ifelse(is.na(minutes), 0, minutes * 60)
  ifelse(startsWith(offset, "-"), -seconds, seconds)
}

check_zone <- function(zone, call) {
  if (is.null(zone) || (rlang::is_string(zone) && zone %in% OlsonNames())) return(invisible(zone))
  abort_nelvat(
    "argument",
    c(
      "`zone` must name a time zone, such as \"UTC\" or \"Europe/Oslo\".",
      x = paste0("Found ", describe_value(zone), "."),
      if (rlang::is_string(zone)) {
        c(i = {
          near <- nearest_name(zone, OlsonNames())
          if (!is.null(near)) paste0("Did you mean \"", near, "\"?")
        })
      }
    ),
    call
  )
}

moment_seconds <- function(values) {
  if (inherits(values, "Date")) as.numeric(values) * 86400 else as.numeric(values)
}

# Seconds since 1970 as ISO 8601 has them: dates as dates, times with their offset, so that an hour
# that comes twice, when clocks are set back, is told apart.
moment_text <- function(values, kind) {
  zone <- kind$zone %||% "UTC"
  times <- as.POSIXct(values, origin = "1970-01-01", tz = zone)
  if (isTRUE(kind$of_day)) {
    text <- second_text(values, "%H:%M:%S", zone, second_digits(values, most = 6) %||% 6)
    text[is.na(values)] <- NA
    return(text)
  }
  whole_days <- all(values %% 86400 == 0, na.rm = TRUE)
  if (!isTRUE(kind$has_time) && whole_days) return(format(times, "%Y-%m-%d", tz = "UTC"))
  offset <- sub("([0-9]{2})$", ":\\1", format(times, "%z"))
  offset[offset == "+00:00"] <- "Z"
  digits <- second_digits(values, most = 6)
  text <- paste0(second_text(values, "%Y-%m-%dT%H:%M:%S", zone, digits %||% 6), offset)
  text[is.na(values)] <- NA
  text
}

# The fewest decimals of a second by which times are told exactly; NULL where `most` are too few.
second_digits <- function(values, most) {
  values <- values[is.finite(values)]
  Find(function(digits) all(abs(values - round(values, digits)) < 1e-6), 0:most)
}

# Times with decimals of their second, which a pattern that ends with it is given.
second_text <- function(values, pattern, zone, digits) {
  values <- round(values, digits)
  whole <- floor(values + 1e-6)
  text <- format(as.POSIXct(whole, origin = "1970-01-01", tz = zone), pattern)
  if (!digits || !length(values)) return(text)
  parts <- pmax(values - whole, 0)
  paste0(text, sub("^0", "", sprintf("%.*f", digits, parts)))
}

# As times are told: to the minute, or to what of a second they have, but no finer than thousandths.
time_said <- function(values, kind) {
  zone <- kind$zone %||% "UTC"
  if (!isTRUE(kind$has_time)) {
    return(format(as.POSIXct(values, origin = "1970-01-01", tz = zone), "%Y-%m-%d"))
  }
  form <- if (isTRUE(kind$of_day)) "%H:%M" else "%Y-%m-%d %H:%M"
  if (all(values %% 60 == 0, na.rm = TRUE)) return(second_text(values, form, zone, 0))
  second_text(values, paste0(form, ":%S"), zone, second_digits(values, most = 3) %||% 0)
}

# A step: a number, or a number of calendar units.
check_step <- function(step, argument, call = rlang::caller_env()) {
  if (is.null(step) || (is.numeric(step) && length(step) == 1 && is.finite(step) && step > 0)) {
    return(if (is.null(step)) NULL else as.numeric(step))
  }
  units <- c(
    second = "sec", sec = "sec", minute = "min", min = "min", hour = "hour", day = "DSTday",
    week = "week",
    month = "month", year = "year"
  )
  parts <- if (rlang::is_string(step)) {
    regmatches(step, regexec("^\\s*([0-9]+)?\\s*([a-z]+?)s?\\s*$", step))[[1]]
  }
  if (length(parts) == 3 && parts[3] %in% names(units) && !grepl("^0+$", parts[2])) {
    return(
      data.frame(
        count = if (nzchar(parts[2])) as.numeric(parts[2]) else 1,
        unit = units[[parts[3]]]
      )
    )
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        "` must be a number above 0, or a step of time such as \"6 hours\" or \"1 month\"."
      ),
      x = paste0("Found ", describe_value(step), ".")
    ),
    call
  )
}
