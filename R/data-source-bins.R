# Bins of numbers and of time as a database reads them: the middles that in_bins() gives.

# expression: the call; of: SQL of a part of it.
bins_sql <- function(expression, of, source, call) {
  said <- as.list(rlang::call_match(expression, in_bins))
  value <- if (!is.null(said$x)) of(said$x)
  # What is wrong with it is wrong of the first rows, too; what is computed is a number.
  is_column <- rlang::is_symbol(said$x) && as.character(said$x) %in% names(source$head)
  head <- if (is_column) source$head[[as.character(said$x)]] else numeric()
  with_place(
    paste0("`", rlang::as_label(expression), "`"),
    do.call("in_bins", c(if (!is.null(said$x)) list(head), said[-1][names(said)[-1] != "x"]))
  )
  width <- said$width
  if (is.numeric(width)) {
    pattern <- "(FLOOR((1.0 * %1) / %2 + %3) + 0.5) * %2"
    return(filled_sql(pattern, c(value, sql_number(width), sql_number(bin_slack))))
  }
  step <- check_step(width, "width", call)
  if (step$unit %in% c("month", "year")) {
    abort_nelvat(
      "engine",
      c(
        paste0("A database is not asked for bins of ", width, "."),
        i = "Months and years have no even length: say days or weeks."
      ),
      call
    )
  }
  dates <- inherits(head, "Date")
  seconds <- step_seconds(step)
  origin <- step_origin(step)
  # Of dates the day in the middle.
  middle <- if (dates) floor((seconds / 86400 - 1) / 2) * 86400 else seconds / 2
  binned <- filled_sql(
    "FLOOR((1.0 * %1 - %2) / %3) * %3 + %4",
    c(
      sql_epoch(value, source),
      sql_number(origin),
      sql_number(seconds),
      sql_number(origin + middle)
    )
  )
  sql_moment(binned, dates, source)
}

# Seconds since 1970 of a moment, and the moment of seconds.
sql_epoch <- function(value, source) {
  if (source$engine == "sqlite") return(paste0("STRFTIME('%s', ", value, ")"))
  paste0("CAST(EXTRACT(EPOCH FROM ", value, ") AS DOUBLE PRECISION)")
}
sql_moment <- function(seconds, dates, source) {
  if (source$engine == "sqlite") {
    form <- if (dates) "%Y-%m-%d" else "%Y-%m-%d %H:%M:%f"
    return(paste0("STRFTIME('", form, "', ", seconds, ", 'unixepoch')"))
  }
  stamp <- paste0("(TO_TIMESTAMP(", seconds, ") AT TIME ZONE 'UTC')")
  if (dates) paste0("CAST(", stamp, " AS DATE)") else stamp
}

# Bins of time of the first rows, where a derived column is of such.
binned_head <- function(source, column) {
  quo <- source$derive[[column]]
  if (is.null(quo)) return(NULL)
  expression <- in_scope(quo, names(source$head))
  if (!rlang::is_call(expression, "in_bins")) return(NULL)
  said <- as.list(rlang::call_match(expression, in_bins))
  head <- if (rlang::is_symbol(said$x)) source$head[[as.character(said$x)]]
  if (inherits(head, c("POSIXct", "Date")) && rlang::is_string(said$width)) {
    in_bins(head, said$width)
  }
}

# Bins that are said on an axis become a column: NULL where there are none.
with_bins_on_axes <- function(source, channels) {
  book <- list(
    columns = lapply(stats::setNames(nm = names(source$head)), source_kind, source = source)
  )
  found <- FALSE
  for (channel in c("x", "y")) {
    expression <- rlang::quo_get_expr(channels[[channel]])
    if (!rlang::is_call(expression, "in_bins")) next
    found <- TRUE
    name <- rlang::as_label(expression)
    source$derive[[name]] <- channels[[channel]]
    kind <- source_kind(source, name)
    kind$name <- smoothed_kind(expression, source)$name %||% verbatim(name)
    source$kinds[[name]] <- kind
    channels[[channel]] <- rlang::new_quosure(
      as.name(name),
      rlang::quo_get_env(channels[[channel]])
    )
  }
  if (found) list(source = source, channels = channels)
}
