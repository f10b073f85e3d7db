# What `ink_box()` takes: its rows of the table of words.

#' @export
word_rows.ink_box <- function(word) {
  list(
    whiskers = whiskers_type(
      says = c(
        "Where whiskers end: at the farthest values within so many interquartile ranges of",
        'the box, such as `1.5`; at the least and greatest value, `"range"`; or at two',
        "quantiles, such as `c(0.05, 0.95)`."
      )
    ),
    notch = a_flag(
      says = "Draw a notch at the median: its 95 % interval for comparing two boxes."
    ),
    outliers = a_flag(
      or_null = TRUE,
      says = c(
        "Draw the values beyond the whiskers? `NULL`: where no other ink of the panel draws",
        "every value."
      )
    ),
    fill = a_choice(
      c("paper", "light"),
      says = "`\"paper\"`, or `\"light\"`: the box's own colour, paler."
    ),
    width = a_number(
      0.2,
      200,
      unit = "mm",
      or_null = TRUE,
      says = c(
        "Width of each box in mm, within its slot; `NULL`: what the slot gives, 9 mm at",
        "most."
      )
    ),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What is summarised on a transformed axis: the values as the `"axis"` shows them,',
        'such as their logarithms, or the `"data"` as they are.'
      )
    )
  )
}
