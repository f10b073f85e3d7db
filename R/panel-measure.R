#' The measures of a panel as a category
#'
#' Where a panel has several `y`, `colour = measure()` puts them all in one panel, each
#' a series of its own colour.
#'
#' @param name Title of the axis they share; the unit they share is added.
#' @param colours Colours of the measures, by column or in their order; `NULL`: the house's.
#' @param order Columns in the order of the key; others follow. `NULL`: as `y` lists them.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A mark for [panel()]'s `colour` or `shape`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_level` for colours that are none; `nelvat_error_kind` for measures of unlike
#'   kinds.
#' @examples
#' plate(
#'   panel(study("probe"), x = time, y = c(chamber, surface, core), colour = measure("Temperature"),
#'   ink_points(size = 0.3)),
#'   width = "double", height = 60
#' )
#' @export
measure <- function(name = "Value", colours = NULL, order = NULL, ...) {
  check_rest(...)
  colours <- unlist(checked_argument("category", "colours", colours, rlang::current_env()))
  if (is.list(order)) order <- unlist(order)
  check_order(order, "order", rlang::current_env())
  structure(
    list(name = check_string(name, "name"), colours = colours, order = order),
    class = "nelvat_measure"
  )
}

# NULL, or the measure() that a channel's quosure calls.
quo_measure <- function(quo) {
  if (!rlang::is_call(rlang::quo_get_expr(quo), "measure")) return(NULL)
  rlang::eval_tidy(quo)
}

# The variable whose levels are the measures of a panel; it has no values of its own.
measure_variable <- function(measures, said, call) {
  ids <- vapply(measures, `[[`, "", "id")
  kind <- new_kind(
    "category",
    name = "Measure",
    levels = ids,
    level_names = vapply(measures, function(one) one$kind$name, ""),
    missing = "not recorded"
  )
  if (!is.null(said$colours)) {
    kind$colours <- said$colours
    kind$colours <- checked_colours(kind, "measure()", call)
  }
  new_variable("measure", kind)
}

# Several measures in the order that measure() asks for.
ordered_measures <- function(measures, order, call) {
  ids <- vapply(measures, `[[`, "", "id")
  absent <- setdiff(order, ids)
  if (length(absent)) {
    abort_nelvat(
      "argument",
      c(
        paste0("`order` of `measure()`: \"", absent[1], "\" is not among `y`."),
        offer(absent[1], ids, "column")
      ),
      call
    )
  }
  measures[match(c(order, setdiff(ids, order)), ids)]
}

# What several measures in one panel share: an axis of a name, and their unit.
common_measure <- function(measures, name, call) {
  units <- unique(vapply(measures, function(one) one$kind$show %||% one$kind$unit %||% "", ""))
  if (length(units) > 1) {
    abort_nelvat(
      "kind",
      c(
        "Measures that share a panel must share their unit.",
        x = paste0("Units are ", quoted(units), "."),
        i = paste0(
          "Give them panels of their own with `facets()`, or a common `show =` unit in the ",
          "codebook."
        )
      ),
      call
    )
  }
  scales <- vapply(measures, scale_of_axis, "")
  if (length(unique(scales)) > 1) {
    other <- which(scales != scales[1])[1]
    how <- function(one) {
      c(
        if (one$transform == "identity") "as it is" else paste("transformed by", one$transform),
        if (one$reversed) "reversed"
      )
    }
    abort_nelvat(
      "kind",
      c(
        "Measures that share a panel must share its axis.",
        x = paste0(
          "\"",
          measures[[1]]$id,
          "\" is ",
          listed(how(measures[[1]])),
          ", \"",
          measures[[other]]$id,
          "\" ",
          listed(how(measures[[other]])),
          "."
        ),
        i = "Give them panels of their own with `facets()`, or transform all of them."
      ),
      call
    )
  }
  kind <- measures[[1]]$kind
  kind$name <- name
  new_variable(
    paste(vapply(measures, `[[`, "", "id"), collapse = "+"),
    kind,
    transform = measures[[1]]$transform,
    reversed = measures[[1]]$reversed,
    policy = measures[[1]]$policy
  )
}
