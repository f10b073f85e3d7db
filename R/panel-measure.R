#' The measures of a panel as a category
#'
#' Where a panel has several `y`, `colour = measure()` puts them all in one panel, each
#' a series of its own colour.
#'
#' @param name Title of the axis they share; the unit they share is added.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A mark for [panel()]'s `colour` or `shape`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_kind` for measures of unlike kinds.
#' @examples
#' plate(
#'   panel(study("probe"), x = time, y = c(chamber, surface, core), colour = measure("Temperature"),
#'   ink_points(size = 0.3)),
#'   width = "double", height = 60
#' )
#' @export
measure <- function(name = "Value", ...) {
  check_rest(...)
  structure(list(name = check_string(name, "name")), class = "nelvat_measure")
}

# NULL, or the measure() that a channel's quosure calls.
quo_measure <- function(quo) {
  if (!rlang::is_call(rlang::quo_get_expr(quo), "measure")) return(NULL)
  rlang::eval_tidy(quo)
}

# The variable whose levels are the measures of a panel; it has no values of its own.
measure_variable <- function(measures) {
  ids <- vapply(measures, `[[`, "", "id")
  kind <- new_kind(
    "category", name = "Measure", levels = ids, level_names = vapply(measures, function(one) one$kind$name, ""),
    missing = "not recorded"
  )
  list(id = "measure", kind = kind, values = NULL, transform = "identity")
}

# What several measures in one panel share: an axis of a name, and their unit.
common_measure <- function(measures, name, call) {
  units <- unique(vapply(measures, function(one) one$kind$show %||% one$kind$unit %||% "", ""))
  if (length(units) > 1) {
    abort_nelvat("kind", c(
      "Measures that share a panel must share their unit.", x = paste0("Units are ", quoted(units), "."),
      i = "Give them panels of their own with `facets()`, or a common `show =` unit in the codebook."
    ), call)
  }
  kind <- measures[[1]]$kind
  kind$name <- name
  list(id = paste(vapply(measures, `[[`, "", "id"), collapse = "+"), kind = kind, transform = measures[[1]]$transform)
}
