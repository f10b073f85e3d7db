# Times of a database beside text, dates and times that are said: compared as times, in whichever
# form the table has them.

# NULL where nothing of the kind is compared.
times_sql <- function(name, arguments, columns, source, call) {
  if (!name %in% c(time_comparisons, "%in%") || length(arguments) != 2) return(NULL)
  is_time <- vapply(
    arguments,
    function(one) is.symbol(one) && inherits(source$head[[as.character(one)]], "POSIXct"),
    NA
  )
  if (sum(is_time) != 1) return(NULL)
  column <- as.character(arguments[[which(is_time)]])
  zone <- moment_zone(source$head[[column]])
  said <- said_times(arguments[[which(!is_time)]], zone)
  if (is.null(said)) return(NULL)
  seconds <- tryCatch(as.numeric(time_in_zone(said, zone)), error = function(error) NA_real_)
  if (anyNA(seconds)) {
    abort_nelvat(
      "expression",
      c(
        paste0("Times of \"", column, "\" are compared with dates and times."),
        x = paste0("Found ", describe_value(said), ".")
      ),
      call
    )
  }
  # A server knows times, and its indices of them; in a file they are text of several forms.
  on_server <- source$engine != "sqlite"
  here <- if (on_server) columns[[column]] else exact_epoch(columns[[column]])
  there <- if (on_server) {
    text <- paste0(second_text(seconds, "%Y-%m-%d %H:%M:%S", "UTC", 6), "+00")
    vapply(text, sql_value, "", source)
  } else {
    vapply(seconds, sql_number, "")
  }
  if (name == "%in%") {
    return(paste0("(COALESCE(", here, " IN (", paste(there, collapse = ", "), "), FALSE))"))
  }
  if (length(there) != 1) return(NULL)
  filled_sql(sql_words[[name]], if (is_time[1]) c(here, there) else c(there, here))
}

time_comparisons <- c("==", "!=", "<", "<=", ">", ">=")

# Text, dates and times that are said, in a call that makes such too; NULL for anything else.
said_times <- function(said, zone) {
  if (is.call(said)) {
    if (!all(all.names(said) %in% c("c", "as_time", "as.POSIXct", "as.Date"))) return(NULL)
    makers <- list(as_time = function(x) time_in_zone(x, zone))
    said <- tryCatch(eval(said, makers, baseenv()), error = function(error) NULL)
  }
  if (is.character(said) || inherits(said, c("POSIXct", "Date"))) said
}

# Seconds since 1970 of a text, with their parts.
exact_epoch <- function(value) {
  part <- function(form) paste0("CAST(STRFTIME('", form, "', ", value, ") AS REAL)")
  paste0("(", part("%s"), " + ", part("%f"), " - ", part("%S"), ")")
}
