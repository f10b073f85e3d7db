# The numbers of all fits of a block, a row a coefficient: panel, levels and n are those of the
# finding that the fit made (`fit_findings`, or as many findings as fits).

scene_fits <- function(block, panels) {
  rows <- unlist(
    Map(
      function(layer, number) {
        if (is.null(layer$trained$fits) || layer$behind) return(NULL)
        lapply(fits_in_order(layer), function(g) fit_rows(layer, number, g, panels))
      },
      block$layers,
      seq_along(block$layers)
    ),
    recursive = FALSE
  )
  found <- do.call(rbind, as.list(rows))
  # Of a page, the fits of its areas.
  if (is.null(found)) NULL else found[found$panel %in% panels$id, ]
}

# Which finding each fit made.
fit_findings_of <- function(layer) {
  layer$trained$fit_findings %||% seq_along(layer$trained$fits)
}

# Fits by panel, and in the order of their levels.
fits_in_order <- function(layer) {
  found <- layer$trained$findings[fit_findings_of(layer), ]
  by <- found[intersect(c("panel", "colour", "shape", "dash", "group"), names(found))]
  if (length(by)) do.call(order, unname(as.list(by))) else seq_along(layer$trained$fits)
}

fit_rows <- function(layer, number, g, panels) {
  fit <- layer$trained$fits[[g]]
  if (is.null(fit)) return(NULL)
  group <- layer$trained$findings[fit_findings_of(layer)[g], ]
  level_of <- function(channel) {
    variable <- layer[[channel]]
    if (is.null(variable) || is.null(group[[channel]])) {
      NA_character_
    } else {
      # Groups can be numbers or times, too.
      plain_text(tile_name(variable$kind, group[[channel]]))
    }
  }
  terms <- fit$coefficients
  if (!nrow(terms)) {
    terms <- new_table(
      term = NA_character_,
      estimate = NA_real_,
      se = NA_real_,
      low = NA_real_,
      high = NA_real_
    )
  }
  data.frame(
    panel = group$panel,
    heading = panels$called[match(group$panel, panels$id)],
    layer = number,
    colour = level_of("colour"),
    shape = level_of("shape"),
    dash = level_of("dash"),
    group = level_of("group"),
    model = model_name(layer$ink),
    term = gsub("^", "", terms$term, fixed = TRUE),
    estimate = terms$estimate,
    se = terms$se,
    low = terms$low,
    high = terms$high,
    r2 = fit$r2,
    p = fit$p,
    n = group$n,
    x_unit = fit$x_unit %||% NA_character_
  )
}

# The comparisons that a block draws, a row each, from their findings; an overall test is one of all
# groups.
scene_contrasts <- function(block, panels) {
  compared <- Filter(
    function(layer) !layer$behind && any(layer$trained$findings$part %in% comparison_parts),
    block$layers
  )
  table <- do.call(
    rbind,
    lapply(compared, function(layer) {
      found <- layer$trained$findings
      found <- found[found$panel %in% panels$id & found$part %in% comparison_parts, ]
      if (!nrow(found)) return(NULL)
      overall <- found$part == "overall"
      data.frame(
        panel = found$panel,
        heading = panels$called[match(found$panel, panels$id)],
        within = if (!is.null(found$x)) {
          plain_text(layer$x$kind$level_names[found$x])
        } else if (!is.null(found$y)) {
          plain_text(layer$y$kind$level_names[found$y])
        } else {
          NA_character_
        },
        found[
          c("first", "second", "n_first", "n_second", "difference", "difference_low",
            "difference_high", "statistic", "df_groups", "df", "p", "adjusted")
        ],
        show = ifelse(overall, "overall", layer$ink$show),
        test = ifelse(overall, layer$ink$overall %||% "", layer$ink$test),
        adjust = ifelse(
          overall,
          "none",
          if (layer$ink$test %in% joint_tests) layer$ink$test else layer$ink$adjust
        ),
        row.names = NULL
      )
    })
  )
  if (is.null(table)) return(NULL)
  names(table) <- sub("^difference_(low|high)$", "\\1", names(table))
  table
}
comparison_parts <- c("comparison", "overall")
