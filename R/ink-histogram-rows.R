# What `ink_histogram()` takes: its rows of the table of words.

#' @export
word_rows.ink_histogram <- function(word) {
  list(
    bins = a_number(
      1,
      1000,
      whole = TRUE,
      or_null = TRUE,
      says = c(
        "Number of bins, their width in data units, or their edges; no more than one of",
        "them. Without any: the rule of Freedman and Diaconis (1981), made round."
      )
    ),
    width = a_number(
      0,
      or_null = TRUE,
      says = c(
        "Number of bins, their width in data units, or their edges; no more than one of",
        "them. Without any: the rule of Freedman and Diaconis (1981), made round."
      )
    ),
    breaks = numbers(
      c(2, Inf),
      or_null = TRUE,
      says = c(
        "Number of bins, their width in data units, or their edges; no more than one of",
        "them. Without any: the rule of Freedman and Diaconis (1981), made round."
      )
    ),
    arrange = a_choice(
      c("overlay", "stack", "outline"),
      or_null = TRUE,
      says = c(
        '`"overlay"`, `"stack"` or `"outline"`; `NULL`: over each other, or as outlines from',
        "three colours on."
      )
    ),
    scale = a_choice(
      c("count", "density"),
      says = "`\"count\"`, or `\"density\"`: the area of each colour's bars is one."
    ),
    curve = a_flag(says = "Draw a density curve on the same scale?"),
    opacity = a_number(
      0,
      1,
      or_null = TRUE,
      says = "Opacity; `NULL`: 1, or 0.55 for colours over each other."
    ),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}
