# Where lines break: steps that are missing in a series.

# The longest step that is joined, in data units: NULL leaves it to the series.
gap_step <- function(gap, variable) {
  if (is.null(gap)) return(NULL)
  if (isFALSE(gap)) return(Inf)
  if (is.data.frame(gap)) return(gap$count * unit_seconds[[gap$unit]])
  gap
}

# The longest that each unit of the calendar can last.
unit_seconds <- c(
  sec = 1,
  min = 60,
  hour = 3600,
  DSTday = 86400,
  week = 7 * 86400,
  month = 31 * 86400,
  year = 366 * 86400
)

# Lines broken where a step of their x is longer than `most`; where nothing is said, where nine of
# ten steps of a series are equal and one is longer by half. `gap` marks the rows that break them.
with_gaps <- function(lines, most) {
  lines$gap <- rep(FALSE, nrow(lines))
  if (nrow(lines) < 3 || identical(most, Inf)) return(lines)
  n <- nrow(lines)
  step <- diff(lines$x)
  within <- lines$series[-1] == lines$series[-n]
  longest <- if (is.null(most)) regular_steps(step, lines$series[-1], within) else rep(most, n - 1)
  wide <- which(within & is.finite(longest) & step > longest * (1 + 1e-9))
  if (!length(wide)) return(lines)
  breaks <- table_rows(lines, wide)
  breaks <- changed(
    breaks,
    x = breaks$x + step[wide] / 2,
    y = rep(NA_real_, length(wide)),
    lower = rep(NA_real_, length(wide)),
    upper = rep(NA_real_, length(wide)),
    gap = rep(TRUE, length(wide))
  )
  table_rows(stack_tables(list(lines, breaks)), order(c(seq_len(n), wide + 0.5)))
}

fewest_regular <- 8 # steps from which a series can be said to be regular

# One and a half times the step of each series, where nine of ten of its steps are equal; else NA.
regular_steps <- function(step, series, within) {
  longest <- rep(NA_real_, length(step))
  for (rows in split(which(within & step > 0), series[within & step > 0])) {
    if (length(rows) < fewest_regular) next
    usual <- stats::median(step[rows])
    if (mean(abs(step[rows] - usual) < 1e-6 * usual) >= 0.9) longest[rows] <- 1.5 * usual
  }
  longest
}

# The number of each series within its panel, for staggering.
series_order <- function(rows) stats::ave(seq_len(nrow(rows)), rows$panel, FUN = seq_along)

# A gap is a step of the axis that the line is joined along.
check_gap <- function(ink, panel, call) {
  along <- ink$along %||% "x"
  if (along == "rows" && !is.null(ink$gap) && !isFALSE(ink$gap)) {
    abort_nelvat(
      "argument",
      c("`gap` is a step of an axis.", x = "The line is joined in the order of its rows."),
      call
    )
  }
  variables <- if (along == "y") panel$variables$y else list(panel$variables$x)
  for (variable in variables) {
    times <- variable$kind$kind == "moment"
    if (!(is.numeric(ink$gap) && times || is.data.frame(ink$gap) && !times)) next
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`gap` must be ",
          if (times) "a step of time such as \"6 hours\"" else paste("a number in units of", along),
          "."
        ),
        x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), ".")
      ),
      call
    )
  }
}
