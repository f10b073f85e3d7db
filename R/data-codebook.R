#' A table and what its columns mean
#'
#' Says once, for every figure, what each column of a table is: kind, name, unit,
#' and the order, names and colours of levels. Columns of which nothing is said
#' get a kind by rule: numbers are quantities, lengths of time (difftime) too, with their unit;
#' dates and times moments, ordered factors ordinals, all else categories. Text that is declared
#' to be Latin-1 is made UTF-8.
#'
#' @param data A data frame, or a codebook whose kinds are kept where none is given.
#' @param ... Kinds by column name: [quantity()], [ordinal()], [category()],
#'   [moment()].
#' @param rows What one row of the table is called, such as `"loaf"`: legends then say
#'   "36 loaves"; or one and many, `c("ox", "oxen")`.
#' @return A codebook, to be given to [panel()] in place of the data frame. Printing
#'   it shows a row a variable.
#' @section Errors:
#' `nelvat_error_column` for a kind of a column that is not there,
#' `nelvat_error_kind` for values that do not suit their kind,
#' `nelvat_error_level` for codes without a name or levels left out of an order,
#' `nelvat_error_unit` for a unit that cannot be shown as another.
#' @examples
#' dough <- data.frame(flour = c("w", "r", "w"), rise = c(71, 33, 75))
#' codebook(dough,
#'   flour = category("Flour", names = c(w = "Wheat", r = "Rye")),
#'   rise = quantity("Loaf rise", unit = "mm")
#' )
#' @export
codebook <- function(data, ..., rows = NULL) {
  check_needed(codebook, "codebook", rlang::current_env())
  kinds <- list(...)
  # A column may be called so.
  if (is_kind(rows)) {
    kinds$rows <- rows
    rows <- NULL
  }
  noun <- if (!is.null(rows)) row_noun(rows, rlang::current_env())
  book <- new_codebook(
    data,
    kinds,
    label = deparsed_label(substitute(data)),
    call = rlang::current_env()
  )
  if (!is.null(noun)) book$rows <- noun
  book
}

# What one row is, and many of them: c("loaf", "loaves"), or one word whose plural follows rule.
row_noun <- function(rows, call = rlang::caller_env()) {
  if (is.list(rows)) rows <- unlist(rows)
  if (is.character(rows) && length(rows) %in% 1:2 && !anyNA(rows) && all(nzchar(trimws(rows)))) {
    return(
      c(one = trimws(rows[1]), many = trimws(if (length(rows) == 2) rows[2] else plural_of(rows)))
    )
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`rows` must be what one row is called, such as \"loaf\"; or one and many, ",
        "c(\"ox\", \"oxen\")."
      ),
      x = paste0("Found ", describe_value(rows), ".")
    ),
    call
  )
}

# What messages call a table: its variable's name where it has one.
deparsed_label <- function(expression) {
  if (is.symbol(expression)) as.character(expression) else "the table"
}

new_codebook <- function(
  data,
  kinds,
  label = "the table",
  call = rlang::caller_env(),
  document = NULL
) {
  rows <- NULL
  if (inherits(data, "nelvat_codebook")) {
    check_kinds(kinds, call)
    kinds <- amended_kinds(kinds, data)
    label <- data$label
    document <- document %||% data$document
    rows <- data$rows
    data <- data$data
  }
  data <- check_table(data, "data", call)
  check_kinds(kinds, call)
  for (column in names(kinds)) check_column(column, data, label, call)
  columns <- list()
  for (column in names(data)) {
    data[[column]] <- in_declared_utf8(data[[column]])
    kind <- kinds[[column]] %||% guess_kind(data[[column]])
    # An order by statistic may look at any column, so values are set column by column.
    settled <- settle_kind(kind, data[[column]], column, data, call)
    columns[[column]] <- settled$kind
    data[[column]] <- settled$values
  }
  book <- structure(
    list(data = data, columns = columns, kinds = kinds, label = label, document = document),
    class = "nelvat_codebook"
  )
  if (is.null(rows) && !is.null(document$rows)) rows <- row_noun(document$rows, call)
  if (is.null(rows)) book else changed(book, rows = rows)
}

# Kinds given anew to a codebook: what they leave unsaid stays as it was, where they are of the same
# sort.
amended_kinds <- function(kinds, book) {
  amended <- lapply(stats::setNames(nm = names(kinds)), function(column) {
    new <- kinds[[column]]
    before <- book$kinds[[column]] %||% book$columns[[column]]
    if (
      is.null(before) || has_levels(before) != has_levels(new) ||
        (!has_levels(new) && before$kind != new$kind)
    ) {
      return(new)
    }
    settled <- book$columns[[column]]
    unsaid <- Filter(
      function(field) is.null(new[[field]]),
      c("name", "unit", "show", "order", "names", "colours", "format", "zone")
    )
    new[unsaid] <- before[unsaid]
    # Names and order may have been settled by a file or a factor.
    if (
      has_levels(new) && is.null(new$names) &&
        !identical(verbatim(settled$levels), settled$level_names)
    ) {
      new$names <- stats::setNames(settled$level_names, settled$levels)
    }
    if (has_levels(new) && is.null(new$order)) new$order <- settled$levels
    new
  })
  c(amended, book$kinds[setdiff(names(book$kinds), names(kinds))])
}

# Text that is declared to be in another encoding, as UTF-8.
in_declared_utf8 <- function(values) {
  if (is.factor(values)) {
    levels(values) <- in_declared_utf8(levels(values))
    return(values)
  }
  if (is.character(values) && any(Encoding(values) == "latin1")) enc2utf8(values) else values
}

check_kinds <- function(kinds, call) {
  unnamed <- !rlang::have_name(kinds)
  wrong <- which(!vapply(kinds, is_kind, NA))
  if (!any(unnamed) && !length(wrong)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`codebook()` takes kinds named by column, such as `rise = quantity(\"Loaf rise\", unit = ",
        "\"mm\")`."
      ),
      x = if (any(unnamed)) {
        "Found one without a name."
      } else {
        paste0("Found ", describe_value(kinds[[wrong[1]]]), ".")
      }
    ),
    call
  )
}

as_codebook <- function(data, label = "the table", call = rlang::caller_env()) {
  if (inherits(data, "nelvat_codebook")) return(with_added_columns(data, call))
  if (is_source(data)) abort_stays(data, call)
  new_codebook(data, list(), label, call)
}

# Columns that were put into a codebook's table afterwards are what they look like.
with_added_columns <- function(book, call) {
  for (column in setdiff(names(book$data), names(book$columns))) {
    values <- in_declared_utf8(book$data[[column]])
    settled <- settle_kind(guess_kind(values), values, column, book$data, call)
    book$columns[[column]] <- settled$kind
    book$data[[column]] <- settled$values
  }
  book
}

check_table <- function(data, argument, call) {
  if (is.data.frame(data)) {
    check_said_utf8(names(data), paste("names of", argument), call)
    return(as.data.frame(data))
  }
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be a data frame or a codebook."),
      x = paste0("Found ", describe_value(data), ".")
    ),
    call
  )
}

check_column <- function(column, data, label, call, where = NULL) {
  if (column %in% names(data)) return(invisible(column))
  abort_nelvat(
    "column",
    c(
      paste0("Column \"", column, "\" is not in ", label, "."),
      x = where,
      offer(column, names(data), "column")
    ),
    call,
    found = column
  )
}
