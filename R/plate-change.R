#' A copy with something changed
#'
#' @param figure A [panel()], [facets()] or a [plate()].
#' @param ... Arguments of the function that made it, with new values; for [facets()] also
#'   those of its panel.
#' @param ink An ink or a list of them: each takes the place of the ink of the same word,
#'   or is added.
#' @return The same sort of thing; `figure` itself stays as it was.
#' @section Errors: `nelvat_error_argument` for a name that is no argument; those of the
#'   function that makes the copy.
#' @examples
#' scatter <- panel(study("loaves"), x = rise, y = volume, ink_points())
#' change(scatter, y = firmness, ink = ink_points(shape = "ring"))
#' change(facets(scatter, across = flour), across = hydration, x = ph)
#' @export
change <- function(figure, ..., ink = NULL) {
  call <- rlang::current_env()
  new <- rlang::enquos(...)
  if (length(new) && any(rlang::names2(new) == "")) {
    abort_nelvat("argument", c("`change()` needs names of arguments.", x = "Found a value without one."), call)
  }
  if (inherits(figure, "nelvat_panel")) return(changed_panel(figure, new, ink, panel_arguments, "panel", call))
  if (inherits(figure, "nelvat_facets")) return(changed_facets(figure, new, ink, call))
  if (inherits(figure, "nelvat_plate")) return(changed_plate(figure, new, ink, call))
  abort_nelvat(
    "argument",
    c("`change()` takes a `panel()`, `facets()` or a `plate()`.", x = paste0("Found ", describe_value(figure), ".")),
    call
  )
}

panel_arguments <- c(
  "x", "y", "colour", "shape", "dash", "size", "group", "derive", "keep", "order", "missing", "x_axis", "y_axis"
)

changed_panel <- function(panel, new, ink, known, of, call) {
  check_stray(setdiff(names(new), known), known, of, call)
  made <- panel$made
  channels <- made$channels
  for (channel in intersect(names(new), panel_channels)) channels[[channel]] <- new[[channel]]
  value <- function(name, old) if (name %in% names(new)) rlang::eval_tidy(new[[name]]) else old
  axes <- list(
    x = check_axis(value("x_axis", made$axes$x), "x_axis", call),
    y = check_axis(value("y_axis", made$axes$y), "y_axis", call)
  )
  new_panel(
    made$book, channels, replaced_inks(made$inks, ink, call), value("derive", made$derive),
    if ("keep" %in% names(new)) new$keep else made$keep,
    value("order", made$order), value("missing", made$missing), axes, call)
}

replaced_inks <- function(inks, new, call) {
  if (is.null(new)) return(inks)
  for (ink in check_inks(list(new), call)) {
    spot <- which(vapply(inks, `[[`, "", "ink") == ink$ink)
    if (length(spot)) inks[[spot[1]]] <- ink else inks <- c(inks, list(ink))
  }
  inks
}

changed_facets <- function(block, new, ink, call) {
  own <- c("across", "down", names(facets_settings))
  of_panel <- new[!names(new) %in% own]
  check_stray(setdiff(names(of_panel), panel_arguments), c(own, panel_arguments), "change", call)
  made <- block$made
  settings <- made$settings
  for (name in setdiff(intersect(names(new), own), c("across", "down"))) {
    settings[name] <- list(rlang::eval_tidy(new[[name]]))
  }
  one_panel <- if (length(of_panel) || !is.null(ink)) changed_panel(
    block$panel, of_panel, ink, c(own, panel_arguments), "change", call
  ) else block$panel
  changed <- new_facets(one_panel, new$across %||% made$across, new$down %||% made$down, settings, call)
  changed$marginals <- block$marginals
  changed
}
