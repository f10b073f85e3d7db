#' A draft of the figure legend
#'
#' Says, from what was computed, what the panels show, the centre and error, and
#' how many values each rests on.
#'
#' @param plate A [plate()] or its scene.
#' @return A string.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()), width = 80, height = 60)
#' legend_text(fig)
#' @export
legend_text <- function(plate) {
  scene <- if (inherits(plate, "nelvat_scene")) plate else as_scene(plate)
  paste(c(legend_axes(scene), legend_inks(scene), legend_keys(scene), legend_dropped(scene)), collapse = " ")
}

legend_axes <- function(scene) {
  title_of <- function(direction) {
    unique(vapply(Filter(function(axis) axis$direction == direction, scene$axes), `[[`, "", "title"))
  }
  named <- Filter(length, lapply(c("y", "x"), function(direction) Filter(nzchar, title_of(direction))))
  if (length(named)) paste0(paste(vapply(named, listed, ""), collapse = " against "), ".")
}

legend_inks <- function(scene) {
  facts <- scene$facts
  vapply(split(facts, facts$layer), function(layer) {
    n <- range(layer$n)
    n_words <- if (n[1] == n[2]) paste0("n = ", n[1]) else paste0("n = ", n[1], " to ", n[2])
    paste0(toupper(substr(layer$ink[1], 1, 1)), substring(layer$ink[1], 2), ": ", layer$shows[1], "; ", n_words,
           if (nrow(layer) > 1) " values a panel", ".")
  }, "")
}

legend_keys <- function(scene) {
  keys <- scene$keys[!is.na(scene$keys$label), ]
  if (is.null(keys) || !nrow(keys)) return(NULL)
  vapply(split(keys, factor(keys$key, unique(keys$key))), function(key) {
    title <- scene$texts$string[scene$texts$role == "key title"][match(key$key[1], unique(keys$key))]
    paste0(gsub("\n", " ", title), ": ", listed(key$label), ".")
  }, "")
}

legend_dropped <- function(scene) {
  dropped <- scene$facts[scene$facts$dropped > 0 & scene$facts$layer == 1, ]
  if (!nrow(dropped)) return(NULL)
  where <- ifelse(is.na(dropped$heading), "", paste0(" (", dropped$heading, ")"))
  paste0("Left out for missing values: ", listed(paste0(vapply(dropped$dropped, counted, "", one = "row"), where)), ".")
}

