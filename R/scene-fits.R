# The numbers of all fits of a block, a row a coefficient.

scene_fits <- function(block, panels) {
  rows <- unlist(
    Map(
      function(layer, number) {
        if (is.null(layer$trained$fits) || layer$behind) return(NULL)
        lapply(seq_along(layer$trained$fits), function(g) fit_rows(layer, number, g, panels))
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

fit_rows <- function(layer, number, g, panels) {
  fit <- layer$trained$fits[[g]]
  if (is.null(fit)) return(NULL)
  group <- layer$trained$series[g, , drop = FALSE]
  level_of <- function(channel) {
    variable <- layer[[channel]]
    if (is.null(variable) || is.null(group[[channel]])) {
      NA_character_
    } else {
      plain_text(variable$kind$level_names[group[[channel]]])
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
    heading = plain_heading(panels$heading[match(group$panel, panels$id)]),
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
    n = fit$n,
    x_unit = fit$x_unit %||% NA_character_
  )
}

# The comparisons that a block draws, a row each; an overall test is one of all groups.
scene_contrasts <- function(block, panels) {
  compared <- Filter(
    function(layer) inherits(layer$trained$pairs, "data.frame") || !is.null(layer$trained$overall),
    Filter(function(layer) !layer$behind, block$layers)
  )
  do.call(
    rbind,
    lapply(compared, function(layer) {
      trained <- layer$trained
      heading <- function(panel) plain_heading(panels$heading[match(panel, panels$id)])
      pairs <- trained$pairs[trained$pairs$panel %in% panels$id, ]
      level <- function(g) plain_text(trained$levels[g])
      overall <- trained$overall[trained$overall$panel %in% panels$id, ]
      rbind(
        if (NROW(pairs)) {
          data.frame(
            panel = pairs$panel,
            heading = heading(pairs$panel),
            within = if (is.null(trained$within)) {
              NA_character_
            } else {
              plain_text(trained$within[pairs$first])
            },
            first = level(pairs$first),
            second = level(pairs$second),
            pairs[c("n_first", "n_second", "difference", "low", "high", "statistic")],
            df_groups = NA_real_,
            pairs[c("df", "p", "adjusted")],
            show = layer$ink$show,
            test = layer$ink$test,
            adjust = if (layer$ink$test %in% joint_tests) layer$ink$test else layer$ink$adjust,
            row.names = NULL
          )
        },
        if (NROW(overall)) {
          data.frame(
            panel = overall$panel,
            heading = heading(overall$panel),
            within = NA_character_,
            first = "all groups",
            second = NA_character_,
            n_first = overall$n,
            n_second = NA_integer_,
            difference = NA_real_,
            low = NA_real_,
            high = NA_real_,
            overall[c("statistic", "df_groups", "df", "p")],
            adjusted = overall$p,
            show = "overall",
            test = layer$ink$overall,
            adjust = "none",
            row.names = NULL
          )
        }
      )
    })
  )
}
