#' Coefficients of all fits of a figure
#'
#' @param plate A [plate()] or its scene.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with a row a coefficient (one row for a fit without any): panel,
#'   heading (the levels that the panel stands for, and what it shows where panels show several
#'   things), layer, colour and other levels of the group, model, term, estimate, se
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
# Fits ------------------------------------------------------------------------------------

# Of each panel and group, but not of enlargements, which show the fits of their panel.
legend_fits <- function(scene, block) {
  areas <- scene$panels[
    scene$panels$block == block & !scene$panels$role %in% c("zoom", "inset", "marginal"),
  ]
  fitted <- scene$fits[scene$fits$panel %in% areas$id, ]
  if (is.null(fitted) || !nrow(fitted)) return(NULL)
  one <- fitted[!duplicated(fitted[c("panel", "layer", fit_groups_told)]), ]
  # Of curves that have neither, the numbers stand elsewhere.
  one <- one[!is.na(one$r2) | !is.na(one$p), ]
  if (!nrow(one)) return(NULL)
  if (nrow(one) > 8) {
    ends <- share_text(range(one$r2, na.rm = TRUE))
    return(
      paste0(counted(nrow(one), "fit"), "; R\u00b2 ", paste(unique(ends), collapse = " to "), ".")
    )
  }
  group <- apply(
    one[fit_groups_told],
    1,
    function(levels) paste(unique(stats::na.omit(levels)), collapse = ", ")
  )
  who <- vapply(
    seq_len(nrow(one)),
    function(i) {
      parts <- c(
        if (!is.na(one$heading[i]) && length(unique(one$panel)) > 1) one$heading[i],
        if (nzchar(group[i])) group[i]
      )
      if (length(parts)) paste0(paste(parts, collapse = ", "), ": ") else ""
    },
    ""
  )
  r2 <- ifelse(is.na(one$r2), "", paste0("R\u00b2 ", share_words(one$r2)))
  said <- paste0(
    who,
    r2,
    ifelse(is.na(one$p), "", paste0(if (any(nzchar(r2))) ", ", p_words(one$p)))
  )
  paste0("Fits: ", paste(said, collapse = "; "), ".")
}

fit_groups_told <- c("colour", "shape", "dash", "group")
