#' A table in the place of a panel
#'
#' Rows of a table as print sets them: heads over a rule, numbers of a column with the same digits,
#' one under the other at the decimal sign, text wrapped where it is long.
#'
#' @eval argument_lines("table_panel")
#' @return A block, for [plate()].
#' @details Columns have the names, units and names of levels of the codebook. What is missing is a
#'   dash. Columns of text share what numbers leave; a table that is narrower than its place has
#'   wider gaps.
#' @section Errors: `nelvat_error_column` for a column that is not there; when the plate is
#' resolved, `nelvat_error_space` where the rows or the columns have no room, with what is missing.
#' @examples
#' trials <- study("trials")
#' ratios <- panel(
#'   trials,
#'   x = ratio,
#'   y = bakery,
#'   ink_estimate(lower, upper, line = 1)
#' )
#' plate(
#'   beside(ratios, table_panel(trials, c(bakery, loaves, ratio)), widths = c(1, 1)),
#'   width = 120,
#'   height = 60
#' )
#' @export
table_panel <- function(data, columns = NULL, digits = 3, bold = NULL, heading = NULL, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(table_panel, "table_panel", call)
  book <- as_codebook(data, deparsed_label(substitute(data)), call)
  quo <- rlang::enquo(columns)
  # Said anew, it is a quosure already.
  if (rlang::is_quosure(rlang::quo_get_expr(quo))) quo <- rlang::quo_get_expr(quo)
  said <- list(
    data = book,
    columns = quo,
    digits = checked_argument("table_panel", "digits", digits, call),
    bold = checked_argument("table_panel", "bold", bold, call),
    heading = heading
  )
  block <- new_block(
    "table",
    panel = list(
      book = book,
      variables = list(),
      inks = list(table_ink(book, table_columns(book, quo, call), said$digits, said$bold, call))
    ),
    said = list(word = table_panel, arguments = said)
  )
  with_heading(block, heading, call)
}

#' @export
word_rows.table_panel <- function(word) {
  list(
    data = a_table(says = "A [codebook()] or a data frame."),
    columns = some_columns(says = "Columns in their order, as `c(flour, rise)`; `NULL`: all."),
    digits = a_number(
      1,
      8,
      whole = TRUE,
      says = "Significant digits of the greatest number of a column, which all of it share."
    ),
    bold = numbers(
      c(1, 1000),
      1,
      1000,
      words = "numbers of rows",
      or_null = TRUE,
      says = "Numbers of rows that are set in bold type, such as that of the sum."
    ),
    heading = a_title(says = "A title over it, or `NULL`.")
  )
}

table_columns <- function(book, quo, call) {
  if (rlang::quo_is_null(quo)) return(names(book$data))
  vapply(resolve_variables(quo, book, "columns", call), `[[`, "", "id")
}

most_table_rows <- 200

# The ink that draws it: heads, and for each column its texts and whether these are numbers.
table_ink <- function(book, columns, digits, bold, call) {
  n <- nrow(book$data)
  if (n > most_table_rows) {
    abort_nelvat(
      "argument",
      c(
        paste0("A table has at most ", most_table_rows, " rows."),
        x = paste0("Found ", count_text(n), "."),
        i = "Keep some of them, or count or average first."
      ),
      call
    )
  }
  absent <- setdiff(bold, seq_len(n))
  if (length(absent)) {
    abort_nelvat(
      "argument",
      c("`bold` must be numbers of rows.", x = paste0("There is no row ", absent[1], ".")),
      call
    )
  }
  cells <- lapply(
    columns,
    function(column) cell_texts(book$data[[column]], book$columns[[column]], digits)
  )
  cells <- lapply(cells, function(texts) {
    texts[bold] <- paste0("**", texts[bold], "**")
    texts
  })
  new_ink(
    "table",
    heads = paste0("**", vapply(book$columns[columns], kind_title, ""), "**"),
    cells = cells,
    numeric = vapply(columns, function(column) book$columns[[column]]$kind == "quantity", NA)
  )
}

cell_texts <- function(values, kind, digits) {
  missing <- is.na(values)
  text <- if (has_levels(kind)) {
    kind$level_names[match(as.character(values), kind$levels)]
  } else if (kind$kind == "moment") {
    verbatim(as.character(values))
  } else {
    column_numbers(as.numeric(values), digits)
  }
  ifelse(missing, "\u2013", text)
}

# Numbers with the same decimals: those of the greatest with so many digits, but no more than the
# values have, and so many that none is shown as nothing; where that takes too many, each by itself.
column_numbers <- function(values, digits) {
  known <- values[is.finite(values)]
  greatest <- max(abs(known), 0)
  decimals <- if (greatest == 0) 0 else max(0, digits - 1 - floor(log10(greatest)))
  enough <- Filter(
    function(k) all(abs(round(known, k) - known) <= 1e-9 * pmax(1, abs(known))),
    0:decimals
  )
  decimals <- min(c(enough, decimals))
  # Beside a large value a small one is not nothing.
  vanish <- known != 0 & abs(known) < 0.5 * 10^-decimals
  if (!any(vanish)) return(fixed_text(values, decimals))
  needed <- ceiling(-log10(min(abs(known[vanish]))))
  if (needed <= most_decimals) fixed_text(values, needed) else number_text_each(values, digits)
}
most_decimals <- 5

#' @export
block_cells.nelvat_table <- function(block) lone_cell("words")

#' @export
block_layers.nelvat_table <- function(block, cells) {
  table <- new_table(panel = cells$areas$id, x = 0, y = 0, .rows = 1L)
  list(new_layer(block$panel$inks[[1]], table, plain_axis(TRUE), plain_axis(TRUE)))
}

#' @export
panel_variables.nelvat_table <- function(block, areas, direction) {
  list(new_variable("table", hidden_axis()))
}

#' @export
block_variables.nelvat_table <- function(block) list()

#' @export
block_label.nelvat_table <- function(block) "a table"

#' @export
wished_shape.nelvat_table <- function(block) {
  ink <- block$panel$inks[[1]]
  min(2, max(0.2, 5 * (length(ink$cells[[1]]) + 2) / (22 * length(ink$cells))))
}
