#' A column for each subject, day or well, made one
#'
#' A table with a column for each of several things of one sort, such as subjects, days or wells, as
#' a table with a row for each value: the names of the columns become a category, their values a
#' quantity.
#'
#' @eval argument_lines("long_data")
#' @details Columns are chosen as [tidyselect][tidyselect::language] has it: `starts_with("day")`,
#'   `c(a, b)`, `well_1:well_96`, `-subject`. What the new ones mean is such as `day =
#'   ordinal("Day")` and `mass = quantity("Mass", unit = "g")`.
#' @return A [codebook()] with all other columns, and the two new ones.
#' @section Errors: `nelvat_error_argument` for other than two names; `nelvat_error_column` where no
#'   column is chosen; `nelvat_error_kind` for columns of unlike sorts, `nelvat_error_unit` for
#'   unlike units.
#' @examples
#' wide <- data.frame(dough = c("a", "b"), day_1 = c(3.1, 2.9), day_2 = c(5.0, 4.4))
#' long_data(
#'   wide,
#'   starts_with("day"),
#'   prefix = "day_",
#'   day = quantity("Age", unit = "d"),
#'   ph = quantity("pH")
#' )
#' @export
long_data <- function(data, columns, ..., prefix = NULL) {
  check_needed(long_data, "long_data", rlang::current_env())
  call <- rlang::current_env()
  book <- as_codebook(data, deparsed_label(substitute(data)), call)
  chosen <- tryCatch(
    names(tidyselect::eval_select(rlang::enquo(columns), book$data, allow_rename = FALSE)),
    error = function(error) {
      absent <- regmatches(
        conditionMessage(error),
        regexpr("(?<=Column `)[^`]+(?=`)", conditionMessage(error), perl = TRUE)
      )
      if (length(absent)) check_column(absent, book$data, book$label, call, asked_for("columns"))
      abort_nelvat("column", c("`columns` cannot be chosen.", x = rlang::cnd_message(error)), call)
    }
  )
  long_book(book, chosen, list(...), prefix, call)
}

# into: two kinds by name, or none.
long_book <- function(book, chosen, into, prefix, call) {
  checked_argument("long_data", "prefix", prefix, call)
  if (!length(chosen)) {
    abort_nelvat(
      "column",
      c(
        paste0("`columns` chooses none of ", book$label, "."),
        x = paste0("It has ", quoted(names(book$data)), ".")
      ),
      call
    )
  }
  check_one_sort(book, chosen, call)
  bare <- !length(into)
  if (bare) into <- list(column = category(), value = quantity())
  if (length(into) != 2 || !all(rlang::have_name(into)) || !all(vapply(into, is_kind, NA))) {
    abort_nelvat(
      "argument",
      c(
        "Two kinds are needed, for the columns' names and for their values.",
        x = paste0("Found ", if (length(into)) quoted(rlang::names2(into)) else "none", "."),
        i = "Such as `day = ordinal(\"Day\"), mass = quantity(\"Mass\", unit = \"g\")`."
      ),
      call
    )
  }
  unit <- one_unit(book, chosen, into[[2]]$unit, call)
  if (bare && !is.null(unit)) into[[2]] <- quantity(unit = unit)
  left <- setdiff(names(book$data), chosen)
  taken <- intersect(names(into), left)
  if (length(taken)) {
    abort_nelvat(
      "argument",
      c(paste0("\"", taken[1], "\" is a column of ", book$label, " already.")),
      call
    )
  }
  n <- nrow(book$data)
  levels <- if (is.null(prefix)) {
    chosen
  } else {
    ifelse(startsWith(chosen, prefix), substring(chosen, nchar(prefix) + 1), chosen)
  }
  if (anyDuplicated(levels)) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "Without `prefix` two columns have one name: ",
          quoted(levels[duplicated(levels)][1]),
          "."
        ),
        x = paste0("They are ", quoted(chosen[levels == levels[duplicated(levels)][1]]), ".")
      ),
      call
    )
  }
  table <- book$data[rep(seq_len(n), length(chosen)), left, drop = FALSE]
  rownames(table) <- NULL
  table[[names(into)[1]]] <- rep(levels, each = n)
  table[[names(into)[2]]] <- do.call(
    c,
    unname(lapply(chosen, function(column) book$data[[column]]))
  )
  # What the values are is seen from them where it is not said.
  kinds <- c(book$columns[left], if (bare && is.null(unit)) into[1] else into)
  # The order of the columns is that of the levels.
  if (has_levels(into[[1]]) && is.null(into[[1]]$order) && is.null(into[[1]]$names)) {
    kinds[[names(into)[1]]]$order <- levels
  }
  new_codebook(
    table,
    kinds,
    label = book$label,
    call = call,
    document = without_rows(book$document)
  )
}

check_one_sort <- function(book, chosen, call) {
  sorts <- vapply(book$columns[chosen], `[[`, "", "kind")
  if (length(unique(sorts)) == 1) return(invisible())
  other <- which(sorts != sorts[1])[1]
  abort_nelvat(
    "kind",
    c(
      "Columns that become one must be of one sort.",
      x = paste0(
        "Column \"",
        chosen[1],
        "\" is ",
        kind_phrase(book$columns[[chosen[1]]]),
        ", \"",
        chosen[other],
        "\" ",
        kind_phrase(book$columns[[chosen[other]]]),
        "."
      )
    ),
    call
  )
}

# The unit that columns are declared in, NULL for none: one for all, and that which is asked for.
one_unit <- function(book, chosen, asked, call) {
  units <- lapply(book$columns[chosen], `[[`, "unit")
  units_given <- vapply(units, function(unit) unit %||% "", "")
  other <- which(units_given != units_given[1])[1]
  if (!is.na(other)) {
    abort_nelvat(
      "unit",
      c(
        "Columns that become one must be in one unit.",
        x = paste0(
          "Column \"",
          chosen[1],
          "\" is in \"",
          units_given[1],
          "\", \"",
          chosen[other],
          "\" in \"",
          units_given[other],
          "\"."
        )
      ),
      call
    )
  }
  if (!is.null(asked) && !is.null(units[[1]]) && !identical(asked, units[[1]])) {
    abort_nelvat(
      "unit",
      c(
        paste0("The values are declared to be in \"", units[[1]], "\"."),
        x = paste0("`unit` says \"", asked, "\"."),
        i = paste0(
          "To convert them: `quantity(unit = \"",
          units[[1]],
          "\", show = \"",
          asked,
          "\")`."
        )
      ),
      call
    )
  }
  units[[1]]
}

# A row of the long table is another thing.
without_rows <- function(document) document[setdiff(names(document), "rows")]
