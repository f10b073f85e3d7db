#' Every pair of variables
#'
#' A matrix of panels: each variable against each other, in columns and rows, and each
#' alone on the diagonal.
#'
#' @eval argument_lines("every_pair")
#' @return A block, for [plate()].
#' @details Each row of panels shares its y axis and each column its x axis; what the diagonal
#'   counts has an axis of its own, which is not drawn. Values stand in the axes' transformed
#'   units, and so do fits and correlations.
#' @section Errors:
#' `nelvat_error_argument` for fewer than two variables, or more than 12 that were not asked
#' for; `nelvat_error_kind` for a variable that an ink cannot show.
#' @examples
#' loaves <- study("loaves")
#' plate(every_pair(loaves, c(rise, volume, firmness), colour = flour), width = 110)
#' plate(every_pair(loaves, c(rise, volume), rows = c(ph, acidity)), width = 100, height = 80)
#' @export
every_pair <- function(
  data,
  columns = NULL,
  ...,
  colour = NULL,
  shape = NULL,
  above,
  diagonal,
  below,
  rows = NULL,
  within = NULL,
  per_row = NULL,
  mixed = ink_box(),
  names = "edge",
  missing = "pair",
  derive = NULL,
  keep = NULL,
  order = NULL,
  aspect = NULL,
  heading = NULL
) {
  call <- rlang::current_env()
  check_needed(every_pair, "every_pair", call, c("...", pairs_parts))
  check_stray(...names(), setdiff(names(formals(every_pair)), "..."), "every_pair", call)
  parts <- list()
  if (!missing(above)) parts["above"] <- list(above)
  if (!missing(diagonal)) parts["diagonal"] <- list(diagonal)
  if (!missing(below)) parts["below"] <- list(below)
  new_pairs(
    table_or_codebook(data, deparsed_label(substitute(data)), call),
    list(
      columns = rlang::enquo(columns),
      rows = rlang::enquo(rows),
      within = rlang::enquo(within),
      colour = rlang::enquo(colour),
      shape = rlang::enquo(shape),
      keep = rlang::enquo(keep)
    ),
    parts,
    list(
      per_row = per_row,
      mixed = mixed,
      names = names,
      missing = missing,
      derive = captured_derive(rlang::enquo(derive), call),
      order = order,
      aspect = aspect,
      heading = heading
    ),
    call
  )
}

#' @export
word_rows.every_pair <- function(word) {
  told_apart <- a_variable(says = "Columns told apart by colour and symbol, as in [panel()].")
  half <- some_inks(
    says = c(
      "Inks of the panels above and below the diagonal, such as [ink_points()], a list of",
      "them, or `NULL` for an empty half, which holds the key. Not given: points below.",
      "Above 5,000 rows they turn transparent, above 50,000 they are hexagons."
    )
  )
  of_panel <- word_arguments("panel")
  of_pairs <- list(
    columns = some_columns(
      says = c(
        "Variables, as `c(rise, volume, log10(area))`; `NULL`: all quantities, in the",
        "table's order, up to 12."
      )
    ),
    colour = told_apart,
    shape = told_apart,
    above = half,
    diagonal = some_inks(
      diagonal_inks(),
      also = "names",
      says = c(
        "Inks of one quantity, `\"names\"` for the variables' names alone, or `NULL` for no",
        "diagonal. Not given: densities where colour tells groups apart, else histograms."
      )
    ),
    below = half,
    rows = some_columns(
      says = c(
        "In place of a square matrix: variables of its rows, those of its columns being",
        "`columns`. Cells are drawn as `below` says."
      )
    ),
    within = a_variable(
      says = "A category: one matrix for each level, side by side, with the same ranges."
    ),
    per_row = a_number(1, 50, whole = TRUE, or_null = TRUE, says = "Number of matrices in a row."),
    mixed = one_ink(
      says = "Ink of cells of a quantity against a category. Two categories give counts."
    ),
    names = a_choice(
      c("edge", "diagonal"),
      says = 'Names of variables at the `"edge"`, or on the `"diagonal"`.'
    ),
    missing = a_choice(
      c("pair", "complete"),
      says = c(
        '`"pair"`: each panel has the rows with both its variables; `"complete"`: all panels',
        "have the rows with every variable."
      )
    ),
    aspect = an_aspect(says = "Height of panels over their width; `NULL` fills the page.")
  )
  c(of_panel["data"], of_pairs, of_panel[c("derive", "keep", "order", "heading")])
}

pairs_settings <- function() {
  setdiff(names(word_arguments("every_pair")), c("data", pairs_quosures, pairs_parts))
}
pairs_quosures <- c("columns", "rows", "within", "colour", "shape", "keep")
pairs_parts <- c("above", "diagonal", "below")
most_pairs <- 12

# quosures: columns, rows, within, colour, shape, keep; parts: above, diagonal, below where
# given; settings as pairs_settings names them.
new_pairs <- function(book, quosures, parts, settings, call) {
  made <- list(book = book, quosures = quosures, parts = parts, settings = settings)
  settings <- with_defaults("every_pair", settings, call)
  if (is_source(book)) {
    book <- asked_matrix(book, quosures, parts, settings, call)
    settings["derive"] <- list(NULL)
    quosures$keep <- rlang::quo(NULL)
  }
  book <- order_columns(
    keep_rows(derive_columns(book, settings$derive, call), quosures$keep, call),
    settings$order,
    call
  )
  if (!nrow(book$data)) {
    abort_nelvat(
      "data",
      c(paste0("There is nothing to draw in ", book$label, "."), x = "It has no rows."),
      call
    )
  }
  across <- pair_variables(quosures$columns, book, "columns", call)
  square <- rlang::quo_is_null(quosures$rows)
  down <- if (square) across else pair_variables(quosures$rows, book, "rows", call)
  if (square && length(across) < 2) {
    abort_nelvat(
      "argument",
      c(
        "A matrix of pairs needs at least two variables.",
        x = paste0("Found ", length(across), ".")
      ),
      call
    )
  }
  if (!is.null(book$cell)) {
    across <- lapply(across, weighed_variable, book)
    down <- lapply(down, weighed_variable, book)
  }
  channels <- resolve_channels(quosures[c("colour", "shape")], book, list(), call)
  check_channels(channels, call)
  within <- split_variables(quosures$within, "within", list(book = book), NULL, "drop", call)
  if (length(within) > 1) {
    abort_nelvat(
      "argument",
      c("`within` takes one category.", x = paste0("Found ", length(within), ".")),
      call
    )
  }
  design <- list(
    book = book,
    across = across,
    down = lapply(down, read_downwards),
    square = square,
    channels = channels,
    within = within[[1]]
  )
  settled <- pair_inks(parts, settings$mixed %||% ink_box(), design, call)
  new_block(
    "pairs",
    panel = list(book = book, variables = list()),
    variables = across,
    row_variables = design$down,
    square = square,
    channels = channels,
    within = within[[1]],
    parts = settled$parts,
    mixed = settled$mixed,
    notes = settled$notes,
    per_row = settings$per_row,
    names = settings$names,
    complete = identical(settings$missing, "complete") && is.null(book$cell),
    asked = if (!is.null(book$cell)) book[c("cell", "breaks", "times")],
    n = nrow(book$data),
    spans_values = TRUE,
    aspect = settings$aspect,
    title_over = settings$heading,
    made = made
  )
}

# Variables that can stand on the axes of a matrix.
pair_variables <- function(quo, book, argument, call) {
  if (!rlang::quo_is_null(quo)) {
    variables <- resolve_variables(quo, book, argument, call)
    for (variable in variables) {
      check_variable_kind(variable, argument, c("quantity", "category", "ordinal"), call)
    }
    return(lapply(variables, ready_variable, NULL))
  }
  chosen <- names(Filter(function(kind) kind$kind == "quantity", book$columns))
  if (length(chosen) > most_pairs) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "Of ",
          length(chosen),
          " quantities no more than ",
          most_pairs,
          " can be read in one matrix."
        ),
        i = paste0(
          "List those you want: `columns = c(",
          paste(utils::head(chosen, 3), collapse = ", "),
          ", ...)`."
        )
      ),
      call
    )
  }
  lapply(
    chosen,
    function(column) {
      ready_variable(resolve_variable(rlang::quo(.data[[!!column]]), book, argument, call), NULL)
    }
  )
}

# An ink that changes what an axis shows would stand in a matrix whose axes show something else.
check_own_axes <- function(inks, variables, what, call) {
  for (ink in inks) {
    for (y in variables$y) {
      if (identical(replaced_axis(ink, "y", y)$kind, y$kind)) next
      abort_nelvat(
        "argument",
        c(
          paste0(what, " and ", gsub("_", " ", ink$ink), " have no axis in common."),
          x = paste0("`ink_", ink$ink, "()` changes what the y axis shows."),
          i = "Draw it in a `panel()` of its own, beside the other on a plate."
        ),
        call
      )
    }
  }
}

diagonal_inks <- function() {
  list(anyOf = c(list(list(const = "names")), one_or_more(ref_to("ink"))$anyOf))
}
