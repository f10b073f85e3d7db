#' A new column from others
#'
#' @param expression An expression over the table's columns, evaluated in the table.
#' @param kind What the column means, as in [codebook()]; `NULL` to guess.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A description, for `derive =` of [panel()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_expression` where the
#' expression fails; `nelvat_error_data` for a result of the wrong length.
#' @examples
#' panel(study("loaves"),
#'   x = rise, y = density,
#'   derive = list(density = derived(volume / rise, quantity("Volume per rise", unit = "mL/mm"))),
#'   keep = hydration > 60, ink_points()
#' )
#' @export
derived <- function(expression, kind = NULL, ...) {
  check_rest(...)
  new_derived(rlang::enquo(expression), kind, rlang::current_env())
}

# `list(a = Girth * 2, b = derived(...))`: what a panel was given, expressions not evaluated.
captured_derive <- function(quo, call) {
  expression <- rlang::quo_get_expr(quo)
  if (!rlang::is_call(expression, c("list", "c"))) return(rlang::eval_tidy(quo))
  env <- rlang::quo_get_env(quo)
  lapply(as.list(expression)[-1], function(one) {
    if (rlang::is_call(one, "derived")) return(eval(one, env))
    value <- tryCatch(eval(one, env), error = function(error) NULL)
    if (inherits(value, "nelvat_derived")) {
      value
    } else {
      new_derived(rlang::new_quosure(one, env), NULL, call)
    }
  })
}

new_derived <- function(quo, kind, call) {
  if (!is.null(kind) && !is_kind(kind)) {
    abort_nelvat(
      "argument",
      c(
        "`kind` must be such as `quantity(\"Density\", unit = \"g/mL\")`.",
        x = paste0("Found ", describe_value(kind), ".")
      ),
      call
    )
  }
  structure(list(quo = quo, kind = kind), class = "nelvat_derived")
}

# A codebook with derived columns added; each may use those before it.
# parts: quosures of what parts rows into series, within which running statistics stay.
derive_columns <- function(book, derive, call, parts = list()) {
  if (is.null(derive)) return(book)
  right <- is.list(derive) && all(rlang::have_name(derive)) && all(
    vapply(derive, inherits, NA, "nelvat_derived")
  )
  if (!right) {
    abort_nelvat(
      "argument",
      c(
        "`derive` must be such as `list(ratio = derived(volume / rise))`.",
        x = paste0("Found ", describe_value(derive), ".")
      ),
      call
    )
  }
  for (column in names(derive)) {
    heard <- with_told_changes(
      evaluate_column(
        derive[[column]]$quo,
        book,
        paste0("derive: ", column),
        call,
        within_series(series_codes(book, parts))
      )
    )
    values <- heard$value
    settled <- settle_kind(
      derive[[column]]$kind %||% guess_kind(values),
      values,
      column,
      book$data,
      call
    )
    book$data[[column]] <- settled$values
    book$columns[[column]] <- settled$kind
    for (what in names(heard$changes)) {
      book$notes <- add_note(book$notes, column, what, heard$changes[[what]])
    }
  }
  book
}

# A value, and how many numbers running statistics changed on the way to it, by what they did.
with_told_changes <- function(code) {
  changes <- integer()
  value <- withCallingHandlers(
    code,
    nelvat_values_changed = function(told) {
      changes[told$what] <<- sum(changes[told$what], told$n, na.rm = TRUE)
    }
  )
  list(value = value, changes = changes)
}

# Which series each row is of: that of its levels of the categories that `parts` name.
series_codes <- function(book, parts) {
  named <- unique(unlist(lapply(parts, function(quo) named_columns_of(rlang::quo_get_expr(quo)))))
  parting <- Filter(
    function(column) !is.null(book$columns[[column]]) && has_levels(book$columns[[column]]),
    named
  )
  if (!length(parting)) return(rep(1L, nrow(book$data)))
  key <- do.call(paste, c(unname(lapply(book$data[parting], as.character)), sep = "\r"))
  match(key, unique(key))
}

# The columns that an expression names, bare or through the `.data` pronoun.
named_columns_of <- function(expression) {
  if (rlang::is_symbol(expression)) return(setdiff(rlang::as_string(expression), ".data"))
  if (!rlang::is_call(expression)) return(NULL)
  if (rlang::is_call(expression, c("[[", "$"), n = 2) && identical(expression[[2]], quote(.data))) {
    return(as.character(expression[[3]]))
  }
  unlist(lapply(as.list(expression)[-1], named_columns_of))
}

# Why rows were left out of which a condition is neither true nor false.
unknown_words <- function(keep, unknown, book) {
  said <- intersect(named_columns_of(rlang::quo_get_expr(keep)), names(book$data))
  if (length(said) == 1 && all(is.na(book$data[[said]][unknown]))) {
    return(paste("rows without a value of", column_said(as.name(said), book$columns), "left out"))
  }
  paste("rows left out, as it is unknown whether", condition_words(keep, NULL, book$columns))
}

# A codebook with only the rows for which a condition is true.
keep_rows <- function(book, keep, call) {
  if (rlang::quo_is_null(keep)) return(book)
  check_level_words(rlang::quo_get_expr(keep), book, call)
  is_kept <- evaluate_column(keep, book, "keep", call)
  if (!is.logical(is_kept)) {
    abort_nelvat(
      "expression",
      c(
        paste0("`keep = ", rlang::as_label(keep), "` must be true or false for each row."),
        x = paste0("It gives ", describe_value(is_kept), ".")
      ),
      call
    )
  }
  unknown <- is.na(is_kept)
  is_kept <- is_kept & !unknown
  if (any(unknown)) {
    book$notes <- add_note(book$notes, "", unknown_words(keep, unknown, book), sum(unknown))
  }
  if (!any(is_kept)) {
    abort_nelvat(
      "data",
      c(
        paste0("Nothing is left of ", book$label, "."),
        x = paste0(
          "`keep = ",
          rlang::as_label(keep),
          "` is true for none of ",
          counted(length(is_kept), "row"),
          "."
        )
      ),
      call
    )
  }
  rows <- which(is_kept)
  if (length(rows) < length(is_kept)) {
    book$kept <- list(
      condition = condition_words(keep, book$kept, book$columns),
      kept = length(rows),
      given = length(is_kept)
    )
  }
  book$data <- as.data.frame(
    lapply(book$data, function(values) values[rows]),
    optional = TRUE,
    stringsAsFactors = FALSE
  )
  names(book$data) <- names(book$columns)
  for (column in names(Filter(has_levels, book$columns))) {
    book$columns[[column]] <- present_levels(book$columns[[column]], book$data[[column]])
  }
  book
}

# A column of levels that is compared with words: each must be one of its levels.
check_level_words <- function(expression, book, call) {
  if (!rlang::is_call(expression)) return(invisible())
  if (rlang::is_call(expression, c("==", "!=", "%in%"), n = 2)) {
    sides <- as.list(expression)[-1]
    named <- lapply(sides, function(side) quo_column(rlang::new_quosure(side, emptyenv())))
    for (i in 1:2) {
      column <- if (!rlang::is_string(sides[[i]])) named[[i]]
      kind <- if (!is.null(column)) book$columns[[column]]
      of_constant <- constant_words(sides[[3 - i]])
      absent <- if (!is.null(kind) && has_levels(kind)) setdiff(of_constant, kind$levels)
      if (length(absent)) abort_no_level(absent[1], column, kind, call)
    }
  }
  for (part in as.list(expression)[-1]) check_level_words(part, book, call)
}

# The words of a text or of `c()` of texts.
constant_words <- function(expression) {
  if (rlang::is_string(expression)) return(expression)
  if (!rlang::is_call(expression, "c")) return(NULL)
  unlist(Filter(rlang::is_string, as.list(expression)[-1]))
}

abort_no_level <- function(word, column, kind, call) {
  code <- kind$levels[match(word, kind$level_names)]
  abort_nelvat(
    "level",
    c(
      paste0("`keep`: \"", word, "\" is no level of column \"", column, "\"."),
      x = if (!is.na(code)) {
        paste0("It is the shown name of \"", code, "\".")
      } else {
        paste0("Levels are ", quoted(kind$levels), ".")
      },
      if (is.na(code) && !is.null(nearest_name(word, kind$levels))) {
        offer(word, kind$levels, "level")
      }
    ),
    call
  )
}

# A kind with only the levels that are there; each keeps its colour.
present_levels <- function(kind, values) {
  present <- which(kind$levels %in% as.character(values))
  if (length(present) == length(kind$levels)) return(kind)
  if (!is.null(kind$colours)) {
    kind$colours <- stats::setNames(level_colours_given(kind), kind$levels)[present]
  }
  kind$colour_place <- (kind$colour_place %||% seq_along(kind$levels))[present]
  kind$levels <- kind$levels[present]
  kind$level_names <- kind$level_names[present]
  kind
}

# What was done to a column, counted for the facts. out: are values left out by it?
add_note <- function(notes, column, what, n, out = TRUE) {
  rbind(notes, data.frame(column = column, what = what, n = as.integer(n), out = out))
}

# Notes of several sorts as one table; those that do not say so are of what is left out.
stack_notes <- function(notes) {
  do.call(
    rbind,
    lapply(Filter(NROW, notes), function(some) {
      changed(some, out = some$out %||% TRUE)[c("column", "what", "n", "out")]
    })
  )
}
