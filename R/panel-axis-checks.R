# What is said of an axis must suit what stands on it: nothing is ignored.

# What is said of numbers on an axis has no meaning on one of levels: it is refused, not ignored.
check_category_ranges <- function(variables, axes, call) {
  for (direction in c("x", "y")) {
    one <- if (direction == "y") variables$y[[1]] else variables$x
    said <- intersect(
      c("range", "breaks", "every", "minor", "padding", "format"),
      names(Filter(Negate(is.null), unclass(axes[[direction]])))
    )
    # Breaks can be levels, or every so many of them.
    said <- setdiff(said, "breaks")
    step <- axes[[direction]]$every
    if (is.numeric(step) && step >= 1 && step == round(step)) said <- setdiff(said, "every")
    check_for_levels(axes[[direction]], one, direction, call)
    if (is.null(one) || !has_levels(one$kind)) {
      check_of_numbers(one, direction, axes[[direction]], call)
      next
    }
    if (!length(said)) next
    abort_nelvat(
      "argument",
      c(
        paste0("`", said[1], "` is for numbers and times; the ", direction, " axis shows levels."),
        x = paste0("Column \"", one$id, "\" is ", kind_phrase(one$kind), "."),
        i = "`keep =` leaves rows out, `order =` puts levels in order."
      ),
      call
    )
  }
}

# Steps along times are steps of the calendar and their text is made by patterns; those along
# numbers are numbers, of so many decimals; a logarithm has no zero. variable: NULL of an axis that
# an ink brings.
check_of_numbers <- function(variable, direction, axis, call) {
  wrong <- function(argument, wanted, found) {
    abort_place(argument, wanted, found, variable, call, of = direction)
  }
  times <- identical(variable$kind$kind, "moment")
  for (argument in c("every", "minor")) {
    step <- axis[[argument]]
    if (is.null(step) || is.data.frame(step) == times) next
    wrong(
      argument,
      if (times) "a step of time such as \"1 day\" or \"6 hours\"" else "a number",
      if (is.data.frame(step)) "a step of time" else format(step)
    )
  }
  if (!is.null(axis$format) && is.character(axis$format) != times) {
    wrong(
      "format",
      if (times) "a pattern of time such as \"%H:%M\"" else "a number of decimals",
      describe_value(axis$format)
    )
  }
  if (is.null(variable)) return(invisible())
  beyond <- Filter(
    function(end) !is.na(end) && !axis_transform(variable$transform)$holds(end),
    axis$range
  )
  if (!length(beyond)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`range` of the ", direction, " axis must be of values that the axis can show."),
      x = paste0(
        "Found ",
        format(beyond[[1]]),
        " on an axis transformed by ",
        variable$transform,
        " (\"",
        variable$id,
        "\")."
      )
    ),
    call
  )
}

# Counts and heads are of levels, heads of those that stand one under the other.
check_for_levels <- function(axis, variable, direction, call) {
  of_levels <- !is.null(variable) && has_levels(variable$kind)
  where <- if (isTRUE(axis$counts) && !of_levels) {
    "`counts` is for levels."
  } else if (!is.null(axis$heads) && !(of_levels && direction == "y")) {
    "`heads` is for levels on y, one under the other."
  }
  if (is.null(where)) return(invisible())
  shown <- if (is.null(variable)) {
    paste0("The ", direction, " axis shows no column.")
  } else {
    paste0("Column \"", variable$id, "\" on ", direction, " is ", kind_phrase(variable$kind), ".")
  }
  abort_nelvat("argument", c(where, x = shown), call)
}

# Rows at levels that head others: they bear no values, so none is missing there.
rows_at_heads <- function(axis, variable) {
  if (is.null(axis$heads)) return(integer())
  which(variable$kind$level_names[variable$values] %in% axis$heads)
}

none_missing_at <- function(variable, rows) {
  if (is.null(variable) || !length(rows)) return(variable)
  changed(variable, n_missing = max(0L, variable$n_missing - sum(is.na(variable$values[rows]))))
}
