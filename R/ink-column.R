#' A column of text
#'
#' Writes the values of a column at the rows of a category axis: numbers, counts and intervals
#' beside a forest plot, row by row. Where the panel beside it in the plate names the same rows in
#' the same order, they are not named again; other rows or another order there are an error.
#'
#' @eval argument_lines("ink_column")
#' @return An ink, for [panel()] with a category on y; the panel's `heading` is the head of the
#'   column.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or two texts at one row;
#' `nelvat_error_level` where the panel beside it has other rows; `nelvat_error_kind` where y is no
#' category; `nelvat_error_labels` where a text is wider than the panel.
#' @examples
#' effects <- data.frame(
#'   bakery = c("North", "South", "Harbour"), ratio = c(1.2, 0.9, 1.5), lower = c(0.9, 0.7, 1.1),
#'   upper = c(1.6, 1.16, 2.05), loaves = c(40, 52, 31)
#' )
#' plate(
#'   beside(
#'     panel(effects, x = log10(ratio), y = bakery, ink_estimate(lower, upper, line = 1)),
#'     panel(effects, y = bakery, ink_column(interval_text(ratio, lower, upper))), widths = c(4, 2)
#'   ),
#'   width = 100, height = 50
#' )
#' @export
ink_column <- function(text, side = "left", bold = NULL, size = NULL, ...) {
  said_ink("column", ...)
}

#' @export
word_rows.ink_column <- function(word) {
  list(
    text = a_column(
      mapped = "label",
      says = 'A column, or an expression that makes texts, such as `paste0(n, " of ", all)`.'
    ),
    side = a_choice(
      c("left", "middle", "right"),
      says = 'Where the texts stand: `"left"`, `"middle"` or `"right"` of the panel.'
    ),
    bold = texts(
      or_null = TRUE,
      says = c(
        "Levels written in bold type, such as a heading of several rows or the pooled",
        "estimate."
      )
    ),
    size = pt_size(says = "Size of type in points; `NULL`: the house's base.")
  )
}

#' An estimate with its interval, as text
#'
#' @param estimate,low,high Numbers, one each a row.
#' @param digits Digits after the point.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return Texts such as `"1.20 (0.90 to 1.60)"`, with a true minus sign; `NA` where one of the
#'   numbers is missing.
#' @section Errors: `nelvat_error_argument` for an argument of another sort.
#' @examples
#' interval_text(c(1.2, -0.5), c(0.9, -1), c(1.6, 0), digits = 1)
#' @export
interval_text <- function(estimate, low, high, digits = 2, ...) {
  check_rest(...)
  check_number(digits, "digits", 0, 10, whole = TRUE)
  given <- list(estimate = estimate, low = low, high = high)
  for (name in names(given)) {
    if (!is.numeric(given[[name]])) {
      abort_nelvat(
        "argument",
        c(
          paste0("`", name, "` must be numbers."),
          x = paste0("Found ", describe_value(given[[name]]), ".")
        )
      )
    }
  }
  text <- with_interval(estimate, low, high, digits)
  ifelse(is.na(estimate) | is.na(low) | is.na(high), NA_character_, text)
}

# A row without a text is seen to have none.
#' @export
settled_ink.ink_column <- function(ink, variables) {
  ink$variables$label <- changed(ink$variables$label, n_missing = 0L)
  ink
}

#' @export
check_ink.ink_column <- function(ink, panel, call) {
  check_needs(panel, "y", "A column of text", call)
  for (y in panel$variables$y) {
    check_variable_kind(y, "y", c("category", "ordinal"), call, "for a column of text")
  }
  if (!is.null(panel$variables$x)) {
    abort_nelvat("argument", c("A column of text has no `x`.", x = "The panel has one."), call)
  }
}

#' @export
train_ink.ink_column <- function(ink, layer) {
  table <- layer$table
  table$string <- label_strings(ink$variables$label, table$label)
  complete <- complete_rows(table, c("y", "label"))
  rows <- unique(as.data.frame(table_rows(table, complete))[c("panel", "y", "string")])
  if (anyDuplicated(rows[c("panel", "y")])) {
    name <- layer$y$kind$level_names[rows$y[duplicated(rows[c("panel", "y")])][1]]
    abort_nelvat(
      "argument",
      c("A row of a column has one text.", x = paste0("\"", plain_text(name), "\" has several.")),
      call = NULL
    )
  }
  levels <- layer$y$kind
  strong <- levels$levels[rows$y] %in% ink$bold |
    plain_text(levels$level_names[rows$y]) %in% ink$bold
  rows$string[strong] <- paste0("**", rows$string[strong], "**")
  list(
    table = rows,
    extent = extent_by_panel(rows$panel, y0 = rows$y),
    zero = character(),
    used = complete,
    shows = paste0(
      "the text \"",
      said_name(ink$variables$label, with_unit = TRUE),
      "\" of each row"
    )
  )
}

column_inset_mm <- 0.8 # from the left side of the panel, where an axis may stand
column_share <- c(left = 0, middle = 0.5, right = 1)

#' @export
natural_width.ink_column <- function(ink, heading, house) {
  font <- house_font(house$families)
  strings <- label_strings(ink$variables$label, ink$variables$label$values)
  strings <- unique(strings[!is.na(strings)])
  wide <- function(texts, size, bold = FALSE) {
    widest <- lapply(texts, function(text) set_text(text, size, font, bold = bold)$widths_mm)
    max(0, unlist(widest))
  }
  # A long heading is wrapped.
  named <- if (is.null(heading)) 0 else min(20, wide(heading, house$type_pt$heading, TRUE))
  column_inset_mm + max(named, wide(strings, ink$size %||% house$type_pt$base, TRUE)) + 0.5
}

#' @export
place_ink.ink_column <- function(ink, trained, site) {
  rows <- trained$table
  size <- ink$size %||% site$house$type_pt$base
  side_share <- column_share[[ink$side]]
  wide <- site$text_mm(rows$string, size)$width
  lacking <- wide + (if (ink$side == "left") column_inset_mm else 0) - site$panel_w(rows$panel)
  if (any(lacking > 0.01)) {
    worst <- which.max(lacking)
    abort_nelvat(
      "labels",
      c(
        "A column of text is too narrow.",
        x = paste0(
          "\"",
          plain_text(rows$string[worst]),
          "\" lacks ",
          format(round(lacking[worst], 1)),
          " mm."
        ),
        i = "Give its panel more of the plate's width, or its type a smaller `size`."
      ),
      call = NULL
    )
  }
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = rows$panel,
          x = side_share,
          y = site$unit(rows$y, rows$panel, "y"),
          string = rows$string,
          size_pt = size,
          across = side_share,
          down = 0.5,
          colour = site$house$colour$text,
          dx_mm = if (ink$side == "left") column_inset_mm else 0,
          most_mm = 1e3,
          .rows = nrow(rows)
        )
      ),
      list(role = "value")
    )
  )
}

#' @export
ink_traits.ink_column <- function(ink) {
  new_traits(
    summarises = "values",
    read_off = FALSE,
    called = "row",
    behind = FALSE,
    text_at = c(
      share = column_share[[ink$side]],
      inset_mm = if (ink$side == "left") column_inset_mm else 0
    )
  )
}

#' @export
marks_named.ink_column <- function(ink) "text"
