# Bins of a histogram, in words.

bin_words <- function(ink, breaks, transform, kind) {
  wide <- diff(breaks)
  alike <- max(wide) - min(wide) <= 1e-9 * max(abs(breaks))
  paste0(
    if (ink$scale == "density") "density" else "counts",
    " in ",
    if (alike) {
      paste0(
        "bins of ",
        width_text(wide[1], kind),
        if (transform$name == "identity") unit_said(kind)
      )
    } else {
      "bins of unlike width"
    },
    if (transform$name != "identity") paste0(" (", transform$name, ")")
  )
}

# After a number: " mm", held to it.
unit_said <- function(kind) {
  unit <- kind$show %||% kind$unit
  if (!is.null(unit) && nzchar(unit)) paste0("\u00a0", unit)
}

# Of an ink of one quantity, the kind of what it stands on.
one_kind <- function(one, layer) if (one$lying) layer$y$kind else layer$x$kind

# Seconds of the units of which bins of times are round numbers, dates having none under a day.
moment_units <- function(kind) {
  if (kind$kind != "moment") return(NULL)
  if (isTRUE(kind$has_time)) c(1, 60, 3600, 86400) else 86400
}

# "2.5", "3 days", "6 hours".
width_text <- function(width, kind) {
  units <- moment_units(kind)
  if (is.null(units)) return(format(signif(width, 3)))
  unit <- max(units[units <= width * (1 + 1e-9)], units[1])
  name <- c(`1` = "second", `60` = "minute", `3600` = "hour", `86400` = "day")[[format(unit)]]
  n <- signif(width / unit, 3)
  paste(format(n), if (n == 1) name else paste0(name, "s"))
}
