# Findings: what each mark of a layer says, one table a layer, a row for each mark that it draws,
# and for each that it does not draw though there are rows for it.
#
#   panel    the area;
#   x, y     on an axis that parts the marks: the code of the level, or the value, where it stands;
#   colour, shape, dash, group   codes of the levels that part them;
#   part     what the mark is: bar, box, curve, bin, comparison ...;
#   n        the values behind this mark;
#   why      NA where it is drawn, else why it is not;
#   value    the axis that its numbers stand on, "x" or "y"; NA where they stand on none;
#   ...      its numbers, under the names below. Those of `on_value` are in data units.
#
# Where marks are the rows themselves, such as points, the layer's table is its findings. What runs
# along a mark, such as a curve, is in its traces: a table with `finding`, the row that it is of,
# and x and y in data units, with lower, upper, density or share.

on_value <- c(
  "centre", "lower", "upper", "base", "q1", "median", "q3", "low", "high", "notch_low",
  "notch_high", "from", "to"
)
on_none <- c(
  "beyond", "spread", "density", "share", "r", "r_lower", "r_upper", "estimate", "estimate_low",
  "estimate_high", "slope", "intercept", "first", "second", "n_first", "n_second",
  "difference", "difference_low", "difference_high", "statistic", "df_groups", "df", "p",
  "adjusted", "term"
)
finding_channels <- c("panel", "x", "y", "colour", "shape", "dash", "group")

# groups: a table with the panel and the codes of what parts the marks, a row a mark; called: the
# part; value: the axis of its numbers, as computed upright; lying: do x and y change places?
new_findings <- function(groups, called, n, ..., why = NA_character_, value = "y", lying = FALSE) {
  k <- nrow(groups)
  coded <- as.list(groups)[intersect(finding_channels, names(groups))]
  coded <- coded[!vapply(coded, function(codes) length(codes) && all(is.na(codes)), NA)]
  table <- do.call(
    new_table,
    c(
      coded,
      list(part = rep_len(called, k), n = as_count(n), why = rep_len(why, k)),
      list(value = rep(value, k)),
      lapply(Filter(Negate(is.null), list(...)), as.vector),
      list(.rows = k)
    )
  )
  if (!lying) return(table)
  table$value <- rep(if (identical(value, "y")) "x" else value, k)
  exchange_axes(table, TRUE)
}

# Counts are whole numbers; of a database, more than those can be.
as_count <- function(n) if (any(n > .Machine$integer.max, na.rm = TRUE)) n else as.integer(n)

# Stops where findings cannot be: a name that is none, n that do not sum to the rows used, a limit
# that is infinite, a mark of no rows.
check_findings <- function(trained, layer) {
  findings <- trained$findings
  if (is.null(findings)) return(invisible())
  is_drawn <- is.na(findings$why)
  known <- c(finding_channels, "part", "n", "why", "value", on_value, on_none)
  wrong <- if (!all(names(findings) %in% known)) {
    paste("Its column", setdiff(names(findings), known)[1], "is no name of a finding.")
  } else if (anyNA(findings$n) || any(findings$n < 0)) {
    "It has an n that is no count."
  } else if (any(findings$n[is_drawn] == 0)) {
    "It draws a mark of no rows."
  } else if (any(vapply(findings[intersect(on_value, names(findings))], has_infinite, NA))) {
    "It has a number that is infinite."
  } else if (isTRUE(ink_traits(layer$ink)$parts_rows)) {
    weight <- layer$table$times %||% rep(1, nrow(layer$table))
    said <- tapply(
      findings$n[is_drawn],
      factor(findings$panel[is_drawn], unique(layer$table$panel)),
      sum
    )
    used <- tapply(trained$used * weight, factor(layer$table$panel, unique(layer$table$panel)), sum)
    said[is.na(said)] <- 0
    if (!all(said == used)) {
      unlike <- which(said != used)[1]
      paste0("Its marks in one panel are of ", said[unlike], " rows, it used ", used[unlike], ".")
    }
  }
  if (is.null(wrong)) return(invisible())
  abort_nelvat(
    "record",
    c(paste0("The findings of `ink_", layer$ink$ink, "()` cannot be."), x = wrong),
    call = NULL
  )
}
has_infinite <- function(numbers) is.numeric(numbers) && any(is.infinite(numbers))

# Why a distribution of values has no shape: NA where it has one.
why_no_shape <- function(n, distinct, least = 2L) {
  ifelse(
    n < least,
    ifelse(n == 1, "one value", "too few values"),
    ifelse(distinct < 2, "all values equal", NA_character_)
  )
}

# Of groups of values: how many, how many distinct, and why they have no shape.
# parts: see group_sums().
shape_counts <- function(values, at, k, parts = NULL) {
  rows <- split(seq_along(values), factor(at, seq_len(k)))
  n <- tabulate_rows(at, k, parts$times)
  distinct <- vapply(
    rows,
    function(one) {
      ends <- if (!is.null(parts$least)) c(parts$least[one], parts$greatest[one])
      length(unique(c(values[one], ends)))
    },
    0L,
    USE.NAMES = FALSE
  )
  list(n = n, why = why_no_shape(n, distinct), many = distinct > 1)
}
