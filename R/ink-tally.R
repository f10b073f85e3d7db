#' Numbers under an axis
#'
#' Writes a row of numbers under the axis of categories, each at its tick: how many rows there are,
#' or their mean, median or sum; a row for each colour, its name at the left.
#'
#' @eval argument_lines("ink_tally")
#' @return An ink, for [panel()] with a category on `x`, beside other inks.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or numbers without `y`;
#' `nelvat_error_kind` where x is no category.
#' @examples
#' plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_box(), ink_tally(), ink_tally("mean sd")),
#'   width = 86
#' )
#' @export
ink_tally <- function(of = "n", name = NULL, digits = 3, on = "axis", colour = NULL, ...) {
  said_ink("tally", ...)
}

#' @export
word_rows.ink_tally <- function(word) {
  list(
    of = a_choice(
      names(tally_names),
      says = c(
        '`"n"`, how many rows; or of their values on `y` the `"mean"`, `"median"`, `"sum"` or',
        '`"mean sd"`, the mean with the standard deviation.'
      )
    ),
    name = a_text(
      or_null = TRUE,
      says = "What the row is called at the left; `NULL`: by what it is."
    ),
    digits = a_number(
      1,
      8,
      whole = TRUE,
      says = "Significant digits; numbers of one row have as many decimals."
    ),
    on = a_choice(
      c("axis", "data"),
      says = c(
        'What a mean or median is of on a transformed axis: the values as the `"axis"` shows',
        'them, such as their logarithms, or the `"data"` as they are. Sums, and means with their',
        "standard deviations, are of the data."
      )
    ),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

tally_names <- c(
  n = "n", mean = "Mean", median = "Median", sum = "Sum", `mean sd` = "Mean \u00b1 SD"
)

#' @export
check_ink.ink_tally <- function(ink, panel, call) {
  check_needs(panel, "x", "A row of numbers", call)
  check_variable_kind(
    panel$variables$x,
    "x",
    c("category", "ordinal"),
    call,
    "for a row of numbers under it"
  )
  if (ink$of != "n") check_needs(panel, c("x", "y"), "A row of means or sums", call)
}

#' @export
train_ink.ink_tally <- function(ink, layer) {
  table <- layer$table
  counting <- ink$of == "n"
  coloured <- !is.null(layer$colour) && !is_ramp(layer$colour) && layer$colour$id != layer$x$id
  complete <- complete_rows(
    table,
    c("x", if (!counting || measured_y(layer)) "y", if (coloured) "colour")
  )
  if (!coloured) table$colour <- rep(NA_integer_, nrow(table))
  cell <- match_rows(table[c("panel", "x", "colour")], complete)
  n <- tabulate(cell$at, nrow(cell$rows))
  of_data <- counting || !ink$of %in% c("mean", "median")
  scale <- if (of_data) axis_transform("identity") else summary_scale(ink, layer$y)
  of_cell <- function(summary) {
    of <- function(g) summary(scale$forward(table$y[which(cell$at == g)]))
    scale$restored(vapply(seq_len(nrow(cell$rows)), of, 0))
  }
  centre <- switch(
    ink$of,
    n = n,
    mean =,
    `mean sd` = of_cell(mean),
    median = of_cell(stats::median),
    sum = of_cell(sum)
  )
  spread <- if (ink$of == "mean sd") of_cell(stats::sd)
  text <- if (counting) {
    count_text(n)
  } else if (is.null(spread)) {
    number_text_alike(centre, ink$digits)
  } else {
    both <- number_text_alike(centre, ink$digits, spread)
    mean_text <- both[seq_along(centre)]
    ifelse(is.na(spread), mean_text, paste(mean_text, "\u00b1", both[-seq_along(centre)]))
  }
  cells <- changed(as.data.frame(cell$rows), text = text)
  groups <- unique(cells[c("panel", "colour")])
  list(
    table = cells,
    title = tally_title(ink$of, scale),
    groups = groups[order(groups$panel, groups$colour), ],
    findings = new_findings(
      cell$rows,
      "number",
      n,
      centre = if (!counting) centre,
      spread = spread,
      value = if (counting) NA_character_ else "y"
    ),
    extent = extent_by_panel(cells$panel, x0 = cells$x),
    zero = character(),
    used = complete,
    shows = tally_words(ink$of, scale, layer$y)
  )
}

tally_title <- function(of, scale) {
  title <- tally_names[[of]]
  if (of != "mean") title else begun(words_on_scale("mean", "mean", "none", scale))
}

# Of a transformed axis it is said which values the numbers are of.
tally_words <- function(of, scale, variable) {
  if (of == "n") return("how many there are")
  if (of %in% c("mean", "median")) return(words_on_scale(of, of, "none", scale))
  paste0(
    if (of == "sum") "sum" else "mean \u00b1 standard deviation",
    if (variable$transform != "identity") " of the data as they are"
  )
}

measured_y <- function(layer) !is.null(layer$y) && !isTRUE(layer$y$supplied)

#' @export
place_ink.ink_tally <- function(ink, trained, site) list()

#' @export
under_rows.ink_tally <- function(ink, layer) {
  groups <- layer$trained$groups
  if (!NROW(groups)) return(NULL)
  list(title = ink$name %||% layer$trained$title, groups = groups)
}

#' @export
under_texts.ink_tally <- function(ink, layer, group, ticks) {
  cells <- layer$trained$table
  of <- layer$trained$groups[group, ]
  of_group <- cells[cells$panel == of$panel & (is.na(of$colour) | cells$colour %in% of$colour), ]
  text <- of_group$text[match(round(ticks), of_group$x)]
  ifelse(is.na(text), if (ink$of %in% c("n", "sum")) "0" else "\u2013", text)
}

#' @export
ink_traits.ink_tally <- function(ink) {
  new_traits(shows = "colour", summarises = "groups", called = "number", behind = FALSE)
}

#' @export
marks_named.ink_tally <- function(ink) "numbers under the axis"
