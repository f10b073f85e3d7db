# What `ink_bars()` takes: its rows of the table of words.

#' @export
word_rows.ink_bars <- function(word) {
  list(
    centre = a_choice(
      c("mean", "median", "sum", "count"),
      or_null = TRUE,
      says = c(
        "What the bar's length is: `\"mean\"`, `\"median\"`, `\"sum\"` or `\"count\"`.",
        "`NULL`: the mean, or counts where the panel has no quantity."
      )
    ),
    error = a_choice(
      all_errors(),
      or_null = TRUE,
      says = c(
        'What the error bar spans: for a mean `"sd"` (sample standard deviation to each',
        "side), `\"se\"` (standard error), `\"ci\"` (95 % by Student's t), `\"range\"`,",
        '`"bootstrap"` (95 % percentile interval, 1,000 resamples), `"exact"` (of zeros and',
        'ones, whose mean is a share: the 95 % interval of Clopper and Pearson) or `"none"`;',
        'for a median `"quartiles"`, `"range"`, `"bootstrap"` or `"none"`. `NULL`: sd,',
        "quartiles, or none for counts and sums."
      )
    ),
    arrange = a_choice(
      c("side", "stack", "overlay", "share"),
      says = c(
        'How colours share a slot: `"side"` by side; `"stack"`, on each other; `"overlay"`,',
        'over each other; `"share"`, stacked to 100 %.'
      )
    ),
    values = a_flag(
      says = "Write each bar's value: at its end, or inside where the end has no room."
    ),
    width = a_step(
      says = c(
        "How wide each bar is: in mm where the bars stand on a category (`NULL`: as wide as",
        "its slot gives, 9 mm at most); where they stand on a quantity, a length in its",
        'unit; on a moment also a step of time such as `"1 day"` (`NULL`: eight tenths of',
        "the least distance)."
      )
    ),
    opacity = a_number(
      0,
      1,
      or_null = TRUE,
      says = "Opacity of the bars, 0 to 1; `NULL`: 1, or 0.6 when they overlay."
    ),
    seed = a_number(whole = TRUE, says = "Seed of the bootstrap."),
    colour = a_channel(says = "A colour for all bars, or a category for this ink alone."),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What is summarised on a transformed axis: the values as the `"axis"` shows them,',
        'such as their logarithms, or the `"data"` as they are.'
      )
    )
  )
}
