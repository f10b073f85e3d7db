# What a scene says of what it shows: counts, rows left out, numbers of fits, by panel and layer.

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
    if (
      is.null(variable) || is.null(group[[channel]])
    ) NA_character_ else plain_text(variable$kind$level_names[group[[channel]]])
  }
  terms <- fit$coefficients
  if (!nrow(terms)) terms <- new_table(term = NA_character_, estimate = NA_real_, se = NA_real_)
  data.frame(
    panel = group$panel, heading = plain_heading(panels$heading[match(group$panel, panels$id)]), layer = number,
    colour = level_of("colour"),
    shape = level_of("shape"), model = layer$ink$model, term = gsub("^", "", terms$term, fixed = TRUE),
    estimate = terms$estimate, se = terms$se,
    r2 = fit$r2, p = fit$p, n = fit$n, x_unit = fit$x_unit %||% NA_character_
  )
}

scene_facts <- function(block, panels) {
  facts <- Map(function(trained, layer, number) {
    of <- trained$facts
    if (is.null(of) || isTRUE(layer$behind)) return(NULL)
    data.frame(block = block$id, panel = of$panel, heading = panels$heading[match(of$panel, panels$id)], layer = number,
               ink = layer$ink$ink, summarises = ink_traits(layer$ink)$summarises, n = of$n, dropped = of$dropped,
               why = ifelse(of$dropped > 0, "missing values", NA_character_), shows = of$shows)
  }, block$trained, block$layers, seq_along(block$layers))
  do.call(rbind, facts)
}

# Rows with x and y of each level that colour parts, by panel; NULL without colour levels.
group_counts <- function(block, panels) {
  layer <- Find(function(layer) !isTRUE(layer$behind) && is.null(layer$strip) && is.null(layer$diagonal), block$layers)
  levels <- layer$colour$kind$levels
  if (is.null(levels) || is.null(layer$table$colour)) return(NULL)
  panels <- panels[panels$role == "panel", ]
  given <- Filter(function(direction) !isTRUE(layer[[direction]]$supplied), c("x", "y"))
  held <- complete_rows(layer$table, c(given, "colour")) & rep(TRUE, nrow(layer$table))
  n <- table(factor(layer$table$panel[held], panels$id), factor(layer$table$colour[held], seq_along(levels)))
  data.frame(panel = rep(panels$id, length(levels)), heading = rep(plain_heading(panels$heading), length(levels)),
             level = rep(plain_text(layer$colour$kind$level_names), each = nrow(panels)), n = as.integer(n))
}
