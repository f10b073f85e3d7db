#' One panel design, repeated
#'
#' Repeats a panel over the levels of a category, over several measures (several
#' `y` in [panel()]), or both: measures then go down and levels across.
#'
#' @param panel A [panel()].
#' @param across A category, each level a panel; a column of the panel's data.
#' @param wrap Number of panels in a row, for one sequence of panels (`across` or
#'   several measures, not both). `NULL` keeps them in one row.
#' @param order Order of the levels of `across`: levels by code or shown name (others
#'   follow), or a rule such as [by_statistic()].
#' @param missing Rows without a level of `across`: `"drop"`, or `"own"` for a panel of
#'   their own, named as the codebook says.
#' @param share Which panels share the range of an axis they both show, as
#'   `c(x = , y = )`: `"all"`, `"column"`, `"row"` or `"own"`. Panels that show
#'   different variables never share.
#' @return A block, for [plate()].
#' @section Errors:
#' `nelvat_error_column`, `nelvat_error_kind`, `nelvat_error_argument`.
#' @examples
#' loaves <- panel(study("loaves"), x = hydration, y = c(rise, volume), ink_bars())
#' plate(facets(loaves, across = bakery), width = "double", height = 80)
#' @export
facets <- function(panel, across = NULL, wrap = NULL, order = NULL, missing = "drop", share = c(x = "all", y = "all")) {
  call <- rlang::current_env()
  check_is_panel(panel, call)
  new_facets(panel, rlang::enquo(across), wrap, order, missing, share, call)
}

new_facets <- function(panel, across, wrap = NULL, order = NULL, missing = "drop", share = c(x = "all", y = "all"), call) {
  check_number(wrap, "wrap", 1, 200, whole = TRUE, or_null = TRUE, call = call)
  share <- check_share(share, call)
  if (rlang::quo_is_null(across)) {
    across <- NULL
  } else {
    across <- split_variable(across, panel, order, missing, call)
  }
  if (!is.null(wrap) && !is.null(across) && panel_measures(panel) > 1) {
    abort_nelvat("argument", c(
      "`wrap` needs one sequence of panels.",
      x = paste0("There are two: ", panel_measures(panel), " measures, and the levels of \"", across$id, "\".")
    ), call)
  }
  structure(list(panel = panel, across = across, wrap = wrap, share = share), class = c("nelvat_facets", "nelvat_block"))
}

# The variable that splits a panel, in the order asked.
split_variable <- function(quo, panel, order, missing, call) {
  book <- panel$book
  column <- quo_column(quo)
  if (!is.null(order) && !is.null(column) && column %in% names(book$data)) {
    book <- order_columns(book, stats::setNames(list(order), column), call)
  }
  variable <- resolve_variable(quo, book, "across", call)
  check_variable_kind(variable, "across", c("category", "ordinal"), call)
  apply_missing(variable, check_choice(missing, level_policies, "missing", call))
}

# How many panels the measures of a panel make.
panel_measures <- function(panel) if (is.null(panel$variables$shared_y)) max(1L, length(panel$variables$y)) else 1L

check_is_panel <- function(panel, call) {
  if (inherits(panel, "nelvat_panel")) return(invisible())
  abort_nelvat("argument", c(
    "`facets()` repeats a panel.", x = paste0("Found ", describe_value(panel), "."),
    i = "Make one with `panel(data, x = , y = , <inks>)`."
  ), call)
}

check_share <- function(share, call) {
  if (rlang::is_string(share) && !rlang::have_name(share)) share <- c(x = share, y = share)
  stray <- setdiff(rlang::names2(share), c("x", "y"))
  if (!is.character(share) || length(stray)) {
    abort_nelvat("argument", c(
      "`share` must be such as `c(x = \"all\", y = \"own\")`.", x = paste0("Found ", describe_value(share), ".")
    ), call)
  }
  for (direction in names(share)) check_choice(share[[direction]], c("all", "column", "row", "own"), "share", call)
  utils::modifyList(list(x = "all", y = "all"), as.list(share))
}

# A block from what may be one: a block, or a panel alone.
as_block <- function(x, call) {
  if (inherits(x, "nelvat_block")) return(x)
  if (inherits(x, "nelvat_panel")) {
    return(structure(list(panel = x, across = NULL, wrap = NULL, share = list(x = "all", y = "all")),
                     class = c("nelvat_facets", "nelvat_block")))
  }
  abort_nelvat("argument", c(
    "A plate takes blocks, such as `facets()`, or panels.", x = paste0("Found ", describe_value(x), ".")
  ), call)
}
