# What `facets()` takes: its rows of the table of words.

#' @export
word_rows.facets <- function(word) {
  direction <- a_variable(
    several = TRUE,
    says = c(
      "Categories whose levels make columns and rows: columns of the panel's data, or",
      "several nested in one direction, `c(bakery, flour)`, the first outermost.",
      "Quantities can be cut: [cut_into()]."
    )
  )
  list(
    panel = a_part(
      "panel",
      list(anyOf = list(ref_to("panel"), ref_to("used"))),
      "a panel",
      FALSE,
      says = "A [panel()]."
    ),
    across = direction,
    down = direction,
    per_row = either(
      a_number(1, 200, whole = TRUE),
      a_choice("page"),
      or_null = TRUE,
      says = c(
        "Number of panels in a row, for one sequence of panels (`across` or several",
        "measures, not both); `\"page\"` lets the page's shape say. `NULL` keeps them in one",
        "row where it has room for them. Of nested levels the panels of an outer one stay in",
        "one row, where rows are as long as that."
      )
    ),
    order = an_order(
      says = c(
        "Order of the levels of `across`, if it is one column: levels by code or shown name",
        "(others follow), or a rule such as [by_statistic()]."
      )
    ),
    missing = a_choice(
      level_policies,
      says = c(
        'Rows without a level: `"drop"`, or `"own"` for a panel of their own, named as the',
        "codebook says."
      )
    ),
    empty = a_choice(
      c("draw", "drop", "say"),
      says = c(
        'Combinations without rows: `"draw"` their axes, `"drop"` them, or `"say"` so in the',
        "panel."
      )
    ),
    heading = for_both(
      list(type = "string"),
      c("across", "down"),
      says = c(
        'Pattern of headings, such as `"{name}: {level}{unit} (n = {n}, {missing}',
        'missing)"`, or one for each direction, `c(across = , down = )`. `NULL`: the level,',
        "with its unit. n are the rows drawn. Text without any of these pieces is a title",
        "over the whole block."
      )
    ),
    behind = a_flag(says = "Draw the rows of all other panels faintly behind those of each?"),
    range_per = for_both(
      list(enum = as.list(range_words)),
      c("x", "y"),
      says = c(
        'For what there is a range of its own: the whole `"block"`, each `"column"`, each',
        '`"row"` or each `"panel"`; one word, or `c(x = , y = )`. Panels that show unlike',
        "variables never share a range."
      )
    ),
    show_axes = a_choice(
      c("edge", "all"),
      says = 'Tick text at the `"edge"` of shared axes, or at `"all"` panels.'
    ),
    room = a_choice(
      c("even", "levels"),
      says = c(
        'With levels of their own on a category axis (`range_per` not `"block"`), panels',
        'leave out the levels they lack; slots stay as wide in all. Panels are of `"even"`',
        'size, or take room in proportion to their `"levels"`.'
      )
    ),
    aspect = an_aspect(
      says = "Height of panels over their width; `NULL` fills the room there is."
    ),
    alone = for_both(
      one_or_more(text_or_number),
      c("x", "y"),
      says = c(
        "Panels whose axis has a range of its own, whatever the others share, by a level",
        'that they stand for or their number in reading order: `list(y = "rye")`.'
      )
    )
  )
}
