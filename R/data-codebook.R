#' A table and what its columns mean
#'
#' Says once, for every figure, what each column of a table is: kind, name, unit,
#' and the order, names and colours of levels. Columns of which nothing is said
#' get a kind by rule: numbers are quantities, dates and times moments, ordered
#' factors ordinals, all else categories.
#'
#' @param data A data frame.
#' @param ... Kinds by column name: [quantity()], [ordinal()], [category()],
#'   [moment()].
#' @return A codebook, to be given to [panel()] in place of the data frame.
#' @section Errors:
#' `nelvat_error_column` for a kind of a column that is not there,
#' `nelvat_error_kind` for values that do not suit their kind,
#' `nelvat_error_level` for codes without a name or levels left out of an order.
#' @examples
#' dough <- data.frame(flour = c("w", "r", "w"), rise = c(71, 33, 75))
#' codebook(dough,
#'   flour = category("Flour", names = c(w = "Wheat", r = "Rye")),
#'   rise = quantity("Loaf rise", unit = "mm")
#' )
#' @export
codebook <- function(data, ...) {
  new_codebook(data, list(...))
}

new_codebook <- function(data, kinds, label = "data", call = rlang::caller_env()) {
  data <- check_table(data, "data", call)
  unnamed <- !rlang::have_name(kinds)
  if (any(unnamed) || !all(vapply(kinds, is_kind, NA))) {
    abort_nelvat("argument", c(
      "`codebook()` takes kinds named by column, such as `rise = quantity(\"Loaf rise\", unit = \"mm\")`.",
      x = if (any(unnamed)) "Found one without a name." else
        paste0("Found ", describe_value(kinds[[which(!vapply(kinds, is_kind, NA))[1]]]), ".")
    ), call)
  }
  for (column in names(kinds)) check_column(column, data, label, call)
  columns <- lapply(stats::setNames(nm = names(data)), function(column) {
    settle_kind(kinds[[column]] %||% guess_kind(data[[column]]), data[[column]], column, call)
  })
  structure(list(data = data, columns = columns, label = label), class = "nelvat_codebook")
}

as_codebook <- function(data, label = "data", call = rlang::caller_env()) {
  if (inherits(data, "nelvat_codebook")) data else new_codebook(data, list(), label, call)
}

check_table <- function(data, argument, call) {
  if (!is.data.frame(data)) {
    abort_nelvat("argument", c(
      paste0("`", argument, "` must be a data frame or a codebook."),
      x = paste0("Found ", describe_value(data), ".")
    ), call)
  }
  as.data.frame(data)
}

check_column <- function(column, data, label, call, where = NULL) {
  if (column %in% names(data)) return(invisible(column))
  abort_nelvat("column", c(
    paste0("Column \"", column, "\" is not in ", label, "."),
    x = where, offer(column, names(data), "column")
  ), call)
}

# What an axis or key calls a variable: its name, and its unit in parentheses.
kind_title <- function(kind) {
  if (is.null(kind$unit)) kind$name else paste0(kind$name, " (", kind$unit, ")")
}

#' @export
print.nelvat_codebook <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' @export
format.nelvat_codebook <- function(x, ...) {
  shown <- data.frame(
    column = names(x$columns),
    kind = vapply(x$columns, `[[`, "", "kind"),
    name = vapply(x$columns, kind_title, ""),
    values = vapply(names(x$columns), function(column) describe_column(x, column), ""),
    missing = vapply(x$data, function(values) sum(is.na(values)), 0L)
  )
  cells <- rbind(names(shown), as.matrix(shown))
  widths <- apply(nchar(cells, "width"), 2, max)
  lines <- apply(cells, 1, function(row) {
    trimws(paste0(row, strrep(" ", widths - nchar(row, "width")), collapse = "  "), "right")
  })
  c(paste0("Codebook of ", x$label, ": ", counted(nrow(x$data), "row")), unname(lines))
}

describe_column <- function(book, column) {
  kind <- book$columns[[column]]
  values <- book$data[[column]]
  if (!has_levels(kind)) {
    if (all(is.na(values))) return("all missing")
    return(paste(format(range(values, na.rm = TRUE), trim = TRUE), collapse = " to "))
  }
  n <- tabulate(match(as.character(values), kind$levels), length(kind$levels))
  most <- 6
  text <- paste0(utils::head(kind$level_names, most), " ", utils::head(n, most), collapse = ", ")
  left <- length(n) - most
  if (left > 0) paste0(text, " and ", counted(left, "level"), " more") else text
}
