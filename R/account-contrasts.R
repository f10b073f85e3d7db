#' The numbers of all comparisons of a figure
#'
#' @param plate A [plate()] or its scene.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with a row a comparison that [ink_contrasts()] drew: panel, heading, within
#'   (the category within which colours are compared), first, second, n_first, n_second, difference
#'   (second less first), low and high (its 95 % interval), statistic, df_groups (of an overall
#'   test, whose first is `"all groups"`), df, p, adjusted (p adjusted for the comparisons of its
#'   panel or category), show, test, adjust. `NULL` where there is none. Of values as the axis shows
#'   them.
#' @section Errors: `nelvat_error_argument` for what is no plate; the errors of [as_scene()].
#' @examples
#' contrast_table(
#'   plate(
#'     panel(study("loaves"), x = hydration, y = rise, ink_box(), ink_contrasts()),
#'     width = 90,
#'     height = 80
#'   )
#' )
#' @export
contrast_table <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  described_scene(plate)$contrasts
}
