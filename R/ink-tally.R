#' Numbers beside an axis
#'
#' Writes numbers along an axis of categories, each at its tick: how many rows there are, their
#' mean, median, extremes or sum, or what a column says of them. Under or over a category on x a
#' row for each colour, its name at the left; at the right of a category on y a column for each.
#'
#' @eval argument_lines("ink_tally")
#' @return An ink, for [panel()] with a category on `x` or `y`, beside other inks.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, numbers without a
#' quantity to be of, or several texts at one place; `nelvat_error_kind` where neither x nor y is a
#' category; `nelvat_error_labels` where numbers have no room beside each other.
#' @examples
#' loaves <- study("loaves")
#' plate(
#'   panel(loaves, x = flour, y = rise, ink_box(), ink_tally(), ink_tally("mean sd")),
#'   width = 86
#' )
#' plate(
#'   panel(loaves, x = rise, y = flour, ink_box(), ink_tally(), ink_tally("median")),
#'   width = 110
#' )
#' @export
ink_tally <- function(
  of = "n",
  text = NULL,
  name = NULL,
  digits = 3,
  side = NULL,
  on = "axis",
  colour = NULL,
  ...
) {
  said_ink("tally", ...)
}

#' @export
word_rows.ink_tally <- function(word) {
  list(
    of = a_choice(
      names(tally_names),
      says = c(
        '`"n"`, how many rows; or of their values on the other axis the `"mean"`, `"median"`,',
        '`"sum"`, `"least"`, `"most"` or `"sd"` (standard deviation), `"mean sd"` or',
        '`"median quartiles"`.'
      )
    ),
    text = a_column(
      or_null = TRUE,
      mapped = "label",
      says = "In place of these a column that says one thing at each place, such as a dose."
    ),
    name = a_title(
      says = "What the row or column is called; `NULL`: by what it is."
    ),
    digits = a_number(
      1,
      8,
      whole = TRUE,
      says = "Significant digits; numbers of one row have as many decimals."
    ),
    side = a_choice(
      c("under", "over", "beside"),
      or_null = TRUE,
      says = c(
        'Where they stand: `"under"` the axis of a category on x, `"over"` its panel, or',
        '`"beside"` a category on y, at the right. `NULL`: under, or beside where y alone is one.'
      )
    ),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What a mean or median is of on a transformed axis: the values as the `"axis"` shows',
        'them, such as their logarithms, or the `"data"` as they are. Sums, extremes, and means',
        "with their standard deviations, are of the data."
      )
    ),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

tally_names <- c(
  n = "n", mean = "Mean", median = "Median", sum = "Sum", least = "Least", most = "Most",
  sd = "SD", `mean sd` = "Mean \u00b1 SD", `median quartiles` = "Median (quartiles)"
)

# The axis of the categories that the numbers stand at, and that of the values they are of.
tally_axis <- function(ink, x) {
  on_y <- if (is.null(ink$side)) !has_slots(x) else ink$side == "beside"
  if (on_y) "y" else "x"
}
has_slots <- function(variable) {
  !is.null(variable) && has_levels(variable$kind) && !isTRUE(variable$supplied)
}

#' @export
check_ink.ink_tally <- function(ink, panel, call) {
  along <- tally_axis(ink, panel$variables$x)
  if (is.null(ink$side) && !any(vapply(panel$variables$y, has_slots, NA))) along <- "x"
  what <- if (along == "x") "A row of numbers" else "A column of numbers"
  check_needs(panel, along, what, call)
  for (variable in tally_variables(panel, along)) {
    check_variable_kind(
      variable,
      along,
      c("category", "ordinal"),
      call,
      "for numbers that stand at it"
    )
  }
  if (ink$of == "n" || !is.null(ink$variables$label)) return(invisible())
  measured <- setdiff(c("x", "y"), along)
  check_needs(panel, measured, "A row of means, sums or extremes", call)
  for (variable in tally_variables(panel, measured)) {
    check_variable_kind(variable, measured, "quantity", call, paste0("for its ", ink$of))
  }
}

tally_variables <- function(panel, channel) {
  if (channel == "x") list(panel$variables$x) else panel$variables$y
}

#' @export
train_ink.ink_tally <- function(ink, layer) {
  table <- layer$table
  along <- tally_axis(ink, layer$x)
  measured <- setdiff(c("x", "y"), along)
  variable <- layer[[measured]]
  told <- ink$variables$label
  counting <- ink$of == "n" || !is.null(told)
  coloured <- !is.null(layer$colour) && !is_ramp(layer$colour) &&
    layer$colour$id != layer[[along]]$id
  is_measured <- !is.null(variable) && !isTRUE(variable$supplied)
  complete <- complete_rows(
    table,
    c(along, if (!counting || is.null(told) && is_measured) measured, if (coloured) "colour")
  )
  if (!is.null(told)) complete <- complete & !is.na(table$label)
  if (!coloured) table$colour <- rep(NA_integer_, nrow(table))
  cell <- match_rows(table[c("panel", along, "colour")], complete)
  n <- tabulate(cell$at, nrow(cell$rows))
  # A lone value has no standard deviation.
  lone <- which(ink$of == "sd" & is.null(told) & n < 2)
  of_data <- !ink$of %in% c("mean", "median", "median quartiles")
  scale <- if (counting || of_data) axis_transform("identity") else summary_scale(ink, variable)
  numbers <- if (!counting) tally_numbers(ink$of, table[[measured]], cell, scale)
  text <- if (!is.null(told)) {
    text_of_cells(label_strings(told, table$label), cell, along, layer[[along]])
  } else if (counting) {
    count_text(n)
  } else {
    tally_text(ink$of, numbers, ink$digits)
  }
  cells <- changed(as.data.frame(cell$rows), text = text)
  groups <- unique(cells[c("panel", "colour")])
  list(
    table = cells,
    along = along,
    title = if (is.null(told)) tally_title(ink$of, scale) else kind_title(told$kind),
    groups = groups[order(groups$panel, groups$colour), ],
    findings = do.call(
      new_findings,
      c(
        list(cell$rows, "number", n),
        numbers,
        list(
          value = if (counting) NA_character_ else measured,
          why = replace(rep(NA_character_, length(n)), lone, "one value")
        )
      )
    ),
    extent = if (along == "x") {
      extent_by_panel(cells$panel, x0 = cells$x)
    } else {
      extent_by_panel(cells$panel, y0 = cells$y)
    },
    zero = character(),
    used = complete & !cell$at %in% lone,
    notes = if (length(lone)) {
      few_note(variable, complete & cell$at %in% lone, "a standard deviation", table$times)
    },
    shows = if (is.null(told)) {
      tally_words(ink$of, scale, variable)
    } else {
      paste0("\"", said_name(told, with_unit = TRUE), "\" of each")
    }
  )
}

# The numbers of each cell under the names of findings. values: of all rows, in data units.
tally_numbers <- function(of, values, cell, scale) {
  of_cell <- function(summary) {
    one <- function(g) summary(scale$forward(values[which(cell$at == g)]))
    scale$restored(vapply(seq_len(nrow(cell$rows)), one, 0))
  }
  quartile <- function(share) function(x) stats::quantile(x, share, names = FALSE)
  switch(
    of,
    mean = list(centre = of_cell(mean)),
    median = list(centre = of_cell(stats::median)),
    sum = list(centre = of_cell(sum)),
    least = list(low = of_cell(min)),
    most = list(high = of_cell(max)),
    sd = list(spread = of_cell(stats::sd)),
    `mean sd` = list(centre = of_cell(mean), spread = of_cell(stats::sd)),
    `median quartiles` = list(
      centre = of_cell(stats::median),
      q1 = of_cell(quartile(0.25)),
      q3 = of_cell(quartile(0.75))
    )
  )
}

# As they are written.
tally_text <- function(of, numbers, digits) {
  k <- length(numbers[[1]])
  each <- number_text_alike(numbers[[1]], digits, as.numeric(unlist(numbers[-1])))
  first <- each[seq_len(k)]
  if (of == "sd") first[is.na(numbers$spread)] <- no_number
  if (length(numbers) < 2) return(first)
  second <- each[k + seq_len(k)]
  if (of == "mean sd") {
    return(ifelse(is.na(numbers$spread), first, paste(first, "\u00b1", second)))
  }
  paste0(first, " (", second, " to ", each[2 * k + seq_len(k)], ")")
}

no_number <- "\u2013"

# What a column says at each place: one thing.
text_of_cells <- function(strings, cell, along, variable) {
  unlike <- lapply(split(strings, cell$at), unique)
  worst <- which(lengths(unlike) > 1)[1]
  if (!is.na(worst)) {
    level <- variable$kind$level_names[cell$rows[[along]][worst]]
    abort_nelvat(
      "argument",
      c(
        "A column beside an axis says one thing at each place.",
        x = paste0(
          "At \"",
          plain_text(level),
          "\" there are ",
          quoted(unlike[[worst]], 3),
          "."
        ),
        i = "Make a column that is the same in all its rows, or write the mean of a quantity."
      ),
      call = NULL
    )
  }
  strings[match(seq_len(nrow(cell$rows)), cell$at)]
}

tally_title <- function(of, scale) {
  title <- tally_names[[of]]
  if (of != "mean") title else begun(words_on_scale("mean", "mean", "none", scale))
}

# Of a transformed axis it is said which values the numbers are of.
tally_words <- function(of, scale, variable) {
  if (of == "n") return("how many there are")
  if (of %in% c("mean", "median")) return(words_on_scale(of, of, "none", scale))
  if (of == "median quartiles") {
    return(words_on_scale("median with quartiles", "median", "quartiles", scale))
  }
  paste0(
    switch(
      of,
      sum = "sum",
      least = "least value",
      most = "greatest value",
      sd = "standard deviation",
      `mean sd` = "mean \u00b1 standard deviation"
    ),
    if (variable$transform != "identity" && !of %in% c("least", "most")) " of the data as they are"
  )
}

#' @export
place_ink.ink_tally <- function(ink, trained, site) list()

#' @export
under_rows.ink_tally <- function(ink, layer) {
  groups <- layer$trained$groups
  if (!NROW(groups)) return(NULL)
  list(
    title = ink$name %||% layer$trained$title,
    groups = groups,
    side = ink$side %||% if (layer$trained$along == "x") "under" else "beside"
  )
}

#' @export
under_texts.ink_tally <- function(ink, layer, group, ticks) {
  cells <- layer$trained$table
  of <- layer$trained$groups[group, ]
  of_group <- cells[cells$panel == of$panel & (is.na(of$colour) | cells$colour %in% of$colour), ]
  text <- of_group$text[match(round(ticks), of_group[[layer$trained$along]])]
  counted <- is.null(ink$variables$label) && ink$of %in% c("n", "sum")
  ifelse(is.na(text), if (counted) "0" else no_number, text)
}

#' @export
ink_traits.ink_tally <- function(ink) {
  called <- if (is.null(ink$variables$label)) "number" else ""
  new_traits(shows = "colour", summarises = "groups", called = called, behind = FALSE)
}

#' @export
marks_named.ink_tally <- function(ink) {
  if (identical(ink$side, "over")) "numbers over the panel" else "numbers along the axis"
}
