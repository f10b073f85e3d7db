#' Coefficients of all fits of a figure
#'
#' @param plate A [plate()] or its scene.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with a row a coefficient (one row for a fit without any): panel,
#'   heading, layer, colour and other levels of the group, model, term, estimate, se
#'   (standard error), low and high (the interval of the coefficient, of the ink's `band` or 95 %),
#'   r2, p (of the model against a constant, where that is told), n. Estimates of lines, polynomials
#'   and binomial fits are in the axes' transformed units, those of curves in the data's.
#' @section Errors: `nelvat_error_argument` for what is no plate; the errors of [as_scene()].
#' @examples
#' fits(
#'   plate(
#'     panel(study("loaves"), x = rise, y = firmness, colour = flour, ink_fit()),
#'     width = 100,
#'     height = 70
#'   )
#' )
#' @export
fits <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  scene <- described_scene(plate)
  scene$fits
}
