# What `panel()` takes: its rows of the table of words.

#' @export
word_rows.panel <- function(word) {
  told_apart <- a_variable(
    says = c(
      "Categories told apart by colour, symbol or dashes of lines, or [measure()].",
      "`colour` can also be a quantity: a ramp of colours, a logarithmic one for `log10(x)`."
    )
  )
  list(
    data = a_table(says = "A [codebook()] or a data frame."),
    ink = some_inks(
      dots = TRUE,
      says = c(
        "Inks, such as [ink_bars()], or lists of inks, drawn in this order; bands, shades",
        "and filled contours lie under the points and lines before them."
      )
    ),
    x = a_variable(
      says = c(
        "Columns on the axes. Bars and points also run across when the category stands on",
        "`y`."
      )
    ),
    y = a_variable(
      several = TRUE,
      says = c(
        "Columns on the axes. Bars and points also run across when the category stands on",
        "`y`."
      )
    ),
    colour = told_apart,
    shape = told_apart,
    dash = told_apart,
    size = a_variable(says = "A quantity shown by the area of symbols."),
    group = a_variable(says = "A category that parts series without telling them apart."),
    derive = some_derived(
      says = c(
        "New columns, as `list(ratio = volume / rise)`; [derived()] says also what they",
        "mean."
      )
    ),
    keep = a_condition(
      says = "A condition; rows for which it is not true are left out, before any statistic."
    ),
    order = some_orders(
      says = c(
        "Orders of levels for this panel, by column: levels by code or shown name (others",
        "follow), or a rule: `list(flour = by_statistic(rise))`."
      )
    ),
    missing = policies(
      says = c(
        "What becomes of missing values: a policy for `y`, or a list by channel. For values",
        '`"gap"` (lines break; the default), `"bridge"` (lines go on), `"drop"` or',
        '[fill_with()]; for categories (on `x` and `y`, too) `"drop"` (the default) or',
        '`"own"`, a level that the codebook names.'
      )
    ),
    x_axis = an_axis(says = "What an axis shall be: [axis_of()]."),
    y_axis = an_axis(says = "What an axis shall be: [axis_of()]."),
    house = a_house(says = "A house style for what is drawn inside this panel: see [house()]."),
    heading = a_title(
      says = "A title over the panel, with inline markup; in [facets()] over all of them."
    )
  )
}
