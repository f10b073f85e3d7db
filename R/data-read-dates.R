# Dates and times in the forms that people write them. A column of text all of whose values have one
# form is read by it, said so; where day and month cannot be told apart, the user is asked.

clock_pattern <- "([ T]+([0-9]{1,2}):([0-9]{2})(:([0-9]{2}))?( ?[AaPp][Mm])?)?"
month_names <- tolower(month.name)

# Each form: its pattern, and which of its groups are year, month and day.
date_forms <- list(
  "03.11.2026" = list(
    pattern = "([0-9]{1,2})[.]([0-9]{1,2})[.]([0-9]{4})",
    day = 1,
    month = 2,
    year = 3
  ),
  "2026/11/03" = list(
    pattern = "([0-9]{4})[/.]([0-9]{1,2})[/.]([0-9]{1,2})",
    year = 1,
    month = 2,
    day = 3
  ),
  "2026-11-03 6:00" = list(
    pattern = "([0-9]{4})-([0-9]{1,2})-([0-9]{1,2})",
    year = 1,
    month = 2,
    day = 3
  ),
  "3 Nov 2026" = list(
    pattern = "([0-9]{1,2})[ -]([A-Za-z]{3,9})[ -]([0-9]{4})",
    day = 1,
    month = 2,
    year = 3
  ),
  "Nov 3, 2026" = list(
    pattern = "([A-Za-z]{3,9}) ([0-9]{1,2}),? ([0-9]{4})",
    month = 1,
    day = 2,
    year = 3
  ),
  "day/month/year" = list(
    pattern = "([0-9]{1,2})[/-]([0-9]{1,2})[/-]([0-9]{4})",
    day = 1,
    month = 2,
    year = 3
  ),
  "month/day/year" = list(
    pattern = "([0-9]{1,2})[/-]([0-9]{1,2})[/-]([0-9]{4})",
    month = 1,
    day = 2,
    year = 3
  )
)

# levels: the distinct values of a column. NULL where they are no dates; else list(form, moments:
# one a level, either: TRUE where two forms read all of them and differ).
found_dates <- function(levels, zone) {
  if (!length(levels) || any(nchar(levels) > 32) || !all(grepl("[0-9]", levels))) return(NULL)
  in_utc <- " ?(UTC|GMT)$"
  if (all(grepl(in_utc, levels))) {
    levels <- sub(in_utc, "", levels)
    zone <- "UTC"
  }
  clock <- times_of_day(levels)
  if (!is.null(clock)) return(list(form = "times of day", moments = clock, either = FALSE))
  read <- lapply(date_forms, dates_of_form, levels, zone)
  fitting <- names(Filter(Negate(is.null), read))
  if (!length(fitting)) return(NULL)
  either <- all(c("day/month/year", "month/day/year") %in% fitting) &&
    !identical(read[["day/month/year"]], read[["month/day/year"]])
  list(form = fitting[1], moments = read[[fitting[1]]], either = either)
}

# NULL unless every text is a time of day, such as 8:30 or 17:05:30.
times_of_day <- function(texts) {
  parts <- regmatches(texts, regexec("^([0-9]{1,2}):([0-9]{2})(:([0-9]{2}))?$", texts))
  if (any(lengths(parts) == 0)) return(NULL)
  piece <- function(i) vapply(parts, `[`, "", i + 1)
  seconds <- clock_seconds(piece(1), piece(2), piece(4), rep("", length(parts)))
  if (anyNA(seconds)) NULL else as.POSIXct(seconds, origin = "1970-01-01", tz = "UTC")
}

# NULL unless every text is a date of the form.
dates_of_form <- function(form, texts, zone) {
  parts <- regmatches(texts, regexec(paste0("^", form$pattern, clock_pattern, "$"), texts))
  if (any(lengths(parts) == 0)) return(NULL)
  piece <- function(i) vapply(parts, `[`, "", i + 1)
  year <- as.integer(piece(form$year))
  month <- piece(form$month)
  numbered <- all(grepl("^[0-9]+$", month))
  month <- if (numbered) {
    as.integer(month)
  } else {
    pmatch(tolower(month), month_names, duplicates.ok = TRUE)
  }
  day <- as.integer(piece(form$day))
  if (anyNA(month)) return(NULL)
  dates <- suppressWarnings(as.Date(ISOdate(year, month, day)))
  if (anyNA(dates)) return(NULL)
  seconds <- clock_seconds(piece(5), piece(6), piece(8), piece(9))
  if (anyNA(seconds)) return(NULL)
  if (!any(nzchar(piece(5)))) return(dates)
  as.POSIXct(
    paste(format(dates), clock_text(seconds)),
    tz = zone %||% "UTC",
    format = "%Y-%m-%d %H:%M:%S"
  )
}

# Seconds of the day; NA for a clock that no day has.
clock_seconds <- function(hour, minute, second, half) {
  number <- function(text) ifelse(nzchar(text), suppressWarnings(as.integer(text)), 0L)
  hour <- number(hour)
  half <- tolower(trimws(half))
  wrong <- number(minute) > 59 | number(second) > 60 | hour > 23 |
    nzchar(half) & (hour < 1 | hour > 12)
  hour <- ifelse(half == "pm", hour %% 12L + 12L, ifelse(half == "am", hour %% 12L, hour))
  ifelse(wrong, NA, hour * 3600 + number(minute) * 60 + number(second))
}

clock_text <- function(seconds) {
  sprintf("%02d:%02d:%02d", seconds %/% 3600, seconds %/% 60 %% 60, seconds %% 60)
}

# Columns of text that nothing was said of, read as dates where all of them are.
with_dates <- function(table, declared, zone) {
  texts <- attr(table, "texts")
  told <- character()
  asked <- character()
  for (column in setdiff(names(table), declared)) {
    if (!is.character(table[[column]])) next
    found <- texts[[column]] %||% text_levels_cpp(table[[column]])
    dates <- found_dates(trimws(found$levels), zone)
    if (is.null(dates)) next
    if (dates$either) {
      asked <- c(asked, paste0("\"", column, "\", such as \"", found$levels[1], "\""))
      next
    }
    table[[column]] <- dates$moments[match(table[[column]], found$levels)]
    texts[column] <- NULL
    told <- c(
      told,
      paste0("\"", column, "\" holds ", if (dates$form != "times of day") "dates as ", dates$form)
    )
  }
  structure(table, texts = texts, told = c(attr(table, "told"), told), asked = asked)
}

# Dates that can be read either way are text until it is said which.
ask_dates <- function(table, path) {
  asked <- attr(table, "asked")
  if (!length(asked)) return(invisible())
  warn_nelvat(
    "date",
    c(
      paste0("Dates of \"", path, "\" can be read as day and month or as month and day:"),
      stats::setNames(asked, rep("*", length(asked))),
      i = paste(
        paste0(
          "Say which: `moment(format = \"%d/%m/%Y\")` or `moment(format = \"%m/%d/%Y\")` in the ",
          "codebook; until then they"
        ),
        "are text."
      )
    ),
    columns = sub("^\"([^\"]*)\".*", "\\1", asked)
  )
}
