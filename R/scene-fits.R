#' Coefficients of all fits of a figure
#'
#' @param plate A [plate()] or its scene.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with a row a coefficient (one row for a fit without any): panel,
#'   heading, layer, colour and other levels of the group, model, term, estimate, se
#'   (standard error), r2, p (of the model against a constant), n. Estimates are in the
#'   axes' transformed units.
#' @section Errors: `nelvat_error_argument` for what is no plate; the errors of [as_scene()].
#' @examples
#' fits(plate(panel(study("loaves"), x = rise, y = firmness, colour = flour, ink_fit()), width = 100, height = 70))
#' @export
fits <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  scene <- if (inherits(plate, "nelvat_scene")) plate else as_scene(plate)
  scene$fits
}

scene_fits <- function(block, panels) {
  rows <- unlist(Map(function(trained, layer, number) {
    if (is.null(trained$fits) || isTRUE(layer$behind)) return(NULL)
    lapply(seq_along(trained$fits), function(g) fit_rows(trained, layer, number, g, panels))
  }, block$trained, block$layers, seq_along(block$layers)), recursive = FALSE)
  do.call(rbind, as.list(rows))
}

fit_rows <- function(trained, layer, number, g, panels) {
  fit <- trained$fits[[g]]
  if (is.null(fit)) return(NULL)
  group <- trained$series[g, , drop = FALSE]
  level_of <- function(channel) {
    variable <- layer[[channel]]
    if (is.null(variable) || is.null(group[[channel]])) NA_character_ else plain_text(variable$kind$level_names[group[[channel]]])
  }
  terms <- fit$coefficients
  if (!nrow(terms)) terms <- new_table(term = NA_character_, estimate = NA_real_, se = NA_real_)
  data.frame(
    panel = group$panel, heading = plain_heading(panels$heading[match(group$panel, panels$id)]), layer = number, colour = level_of("colour"),
    shape = level_of("shape"), model = layer$ink$model, term = gsub("^", "", terms$term, fixed = TRUE), estimate = terms$estimate, se = terms$se,
    r2 = fit$r2, p = fit$p, n = fit$n
  )
}
