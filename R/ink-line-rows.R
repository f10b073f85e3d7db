# What `ink_line()` takes: its rows of the table of words.

#' @export
word_rows.ink_line <- function(word) {
  list(
    centre = a_choice(
      c("mean", "median"),
      or_null = TRUE,
      says = c(
        '`NULL` joins the values themselves; `"mean"` or `"median"` joins that of the values',
        "at each x."
      )
    ),
    band = a_choice(
      all_errors(),
      or_null = TRUE,
      says = c(
        "What the band about a centre spans: as `error` of [ink_bars()]. `NULL`: sd for a",
        "mean, quartiles for a median."
      )
    ),
    markers = a_flag(says = "Put a symbol at each value?"),
    stagger = a_number(
      says = "Offset in y between one series and the next, in units of y; said in the facts."
    ),
    weight = pt_weight(says = "Line weight in points."),
    opacity = a_number(0, 1, says = "Opacity, 0 to 1."),
    seed = a_number(whole = TRUE, says = "Seed of the bootstrap."),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    group = a_column(
      or_null = TRUE,
      says = c(
        "A column that tells this ink's series apart. The `group` of the panel tells lines",
        "of raw values apart; a centre is that of all its groups."
      )
    ),
    gap = gap_type(
      says = c(
        'The longest step of x that a line goes over: a number, or for times such as `"6',
        'hours"`. `NULL`: where nine of ten steps of a series are equal, a step longer by',
        "half is a gap, and the line breaks; `FALSE` joins all."
      )
    ),
    along = a_choice(
      c("x", "y", "rows"),
      says = c(
        'In which order values are joined: `"x"`, as time series are; `"y"`, as depth profiles',
        'are, down the axis; `"rows"`, as they stand in the table: loops, trajectories.'
      )
    ),
    arrow = a_flag(
      says = "Mark the end of each line of values with an arrowhead, the way that it goes?"
    ),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What is summarised on a transformed axis: the values as the `"axis"` shows them,',
        'such as their logarithms, or the `"data"` as they are.'
      )
    )
  )
}

#' @export
word_rows.ink_step <- function(word) {
  word_arguments("ink_line")[c("markers", "stagger", "weight", "opacity", "colour", "gap")]
}
