#' Orders of levels
#'
#' Rules for the `order` of [category()] and [ordinal()], and of [panel()] and
#' [facets()] for one figure; another is [by_likeness()].
#'
#' @param column A column of the same table, bare.
#' @param statistic `"mean"`, `"median"`, `"sum"`, `"min"`, `"max"`, `"sd"` or
#'   `"count"`, of that column in each level; missing values are left out.
#' @param descending From the greatest down? Levels of equal value keep the order
#'   they appear in; levels without a value come last.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An order rule.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   when the codebook is made,
#' `nelvat_error_kind` for a statistic of what is no quantity.
#' @examples
#' panel(
#'   study("loaves"),
#'   x = flour,
#'   y = rise,
#'   order = list(flour = by_statistic(rise, "median")),
#'   ink_bars()
#' )
#' panel(
#'   study("loaves"),
#'   x = hydration,
#'   y = rise,
#'   order = list(hydration = by_number()),
#'   ink_bars()
#' )
#' @name orders
NULL

#' @rdname orders
#' @export
by_appearance <- function() new_order("appearance")

#' @rdname orders
#' @export
by_number <- function() new_order("number")

#' @rdname orders
#' @export
by_statistic <- function(column, statistic = "median", descending = FALSE, ...) {
  check_rest(...)
  new_order(
    "statistic",
    column = rlang::enquo(column),
    statistic = check_choice(statistic, names(order_statistics()), "statistic"),
    descending = check_flag(descending, "descending")
  )
}

new_order <- function(rule, ...) structure(list(rule = rule, ...), class = "nelvat_order")

check_order <- function(order, argument, call) {
  if (
    is.null(order) || inherits(order, "nelvat_order") || (is.atomic(order) && !anyDuplicated(order))
  ) {
    return(invisible(order))
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        paste0(
          "` must list levels, each once, or be a rule such as `by_number()` or ",
          "`by_statistic(rise, \"median\")`."
        )
      ),
      x = if (is.atomic(order)) {
        paste0("Listed twice: ", quoted(unique(order[duplicated(order)])), ".")
      } else {
        paste0("Found ", describe_value(order), ".")
      }
    ),
    call
  )
}

order_statistics <- function() {
  list(
    mean = mean,
    median = stats::median,
    sum = sum,
    min = min,
    max = max,
    sd = stats::sd,
    count = length
  )
}

# present: levels to order; values: the column they are of; data: its table.
apply_order <- function(order, present, values, data, column, call) {
  switch(
    order$rule,
    appearance = unique(as.character(values[!is.na(values)])),
    number = order_by_number(present),
    statistic = order_by_statistic(order, present, values, data, column, call)
  )
}

# "10 h" after "9 h": by the first number in the text; texts without one come last.
order_by_number <- function(levels) {
  found <- regmatches(
    levels,
    regexpr("[-\u2212]?[0-9]+([.,][0-9]+)?([eE][-+]?[0-9]+)?", levels),
    invert = NA
  )
  number <- vapply(
    found,
    function(parts) {
      if (length(parts) < 2) NA_real_ else as.numeric(sub("\u2212", "-", sub(",", ".", parts[2])))
    },
    0
  )
  levels[order(number, levels)]
}

order_by_statistic <- function(order, present, values, data, column, call) {
  numbers <- evaluate_column(
    order$column,
    list(data = data, label = "the table"),
    paste0("order of ", column),
    call
  )
  if (!is.numeric(numbers)) {
    abort_nelvat(
      "kind",
      c(
        paste0("The order of \"", column, "\" needs a quantity to take a statistic of."),
        x = paste0("Column \"", rlang::as_label(order$column), "\" holds no numbers.")
      ),
      call
    )
  }
  is_known <- !is.na(numbers)
  of_level <- split(numbers[is_known], factor(as.character(values[is_known]), present))
  statistic <- order_statistics()[[order$statistic]]
  value <- vapply(of_level, function(v) if (length(v)) as.numeric(statistic(v)) else NA_real_, 0)
  present[order(if (order$descending) -value else value)]
}
