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
    if (isTRUE(axes[[direction]]$counts) && (is.null(one) || !has_levels(one$kind))) {
      shown <- if (is.null(one)) "no column" else "numbers or times"
      abort_nelvat(
        "argument",
        c(
          paste0("`counts` is for levels; the ", direction, " axis shows ", shown, "."),
          x = if (!is.null(one)) paste0("Column \"", one$id, "\" is ", kind_phrase(one$kind), ".")
        ),
        call
      )
    }
    check_heads(axes[[direction]]$heads, one, direction, call)
    if (!is.null(one)) {
      check_axis_steps(one, direction, axes[[direction]], call)
      check_text_form(one, direction, axes[[direction]]$format, call)
    }
    if (is.null(one) || !has_levels(one$kind) || !length(said)) next
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

# Steps along times are steps of the calendar, those along numbers are numbers; a logarithm has no
# zero.
check_axis_steps <- function(variable, direction, axis, call) {
  times <- variable$kind$kind == "moment"
  for (argument in c("every", "minor")) {
    step <- axis[[argument]]
    if (is.null(step) || has_levels(variable$kind) || is.data.frame(step) == times) next
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`",
          argument,
          "` of the ",
          direction,
          " axis must be ",
          if (times) {
            "a step of time such as \"1 day\" or \"6 hours\"."
          } else {
            "a number."
          }
        ),
        x = paste0(
          "Found ",
          if (is.data.frame(step)) "a step of time" else format(step),
          "; column \"",
          variable$id,
          "\" is ",
          kind_phrase(variable$kind),
          "."
        )
      ),
      call
    )
  }
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

# Patterns are for times, decimals for numbers.
check_text_form <- function(variable, direction, form, call) {
  times <- variable$kind$kind == "moment"
  if (is.null(form) || has_levels(variable$kind) || is.character(form) == times) {
    return(invisible())
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`format` of the ",
        direction,
        " axis must be ",
        if (times) "a pattern of time such as \"%H:%M\"." else "a number of decimals."
      ),
      x = paste0(
        "Found ",
        describe_value(form),
        "; column \"",
        variable$id,
        "\" is ",
        kind_phrase(variable$kind),
        "."
      )
    ),
    call
  )
}

check_heads <- function(heads, variable, direction, call) {
  if (is.null(heads) || is.null(variable)) return(invisible())
  if (direction == "y" && has_levels(variable$kind)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`heads` is for levels on y, one under the other.",
      x = paste0(
        "Column \"",
        variable$id,
        "\" on ",
        direction,
        " is ",
        kind_phrase(variable$kind),
        "."
      )
    ),
    call
  )
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
