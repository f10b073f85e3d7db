# What curves of times to an event say of their groups, in figures and in words.

survival_words <- function(ink, of_group, medians, tests, ratios) {
  events <- vapply(of_group, function(one) sum(one$n_event), 0)
  # What no curve has is not spoken of.
  any_of <- function(holds) any(vapply(of_group, holds, NA))
  has_band <- any_of(function(one) any(!is.na(one$lower) & one$lower < one$upper))
  others <- sum(vapply(of_group, function(one) sum(one$n_other %||% 0), 0))
  has_cut <- any_of(function(one) any(one$n_censored > 0))
  paste0(
    if (is.null(ink$competing)) {
      c("Kaplan-Meier estimate", if (ink$happened) " of the share with the event")
    } else {
      "Aalen-Johansen estimate of the share with the event"
    },
    if (!is.null(ink$band) && has_band) {
      how <- if (is.null(ink$competing)) "Greenwood, on the logarithm" else "normal approximation"
      paste0(" with its ", format(100 * ink$band), " % band (", how, ")")
    },
    if (length(events)) paste0(", ", counted(sum(events), "event")),
    if (!is.null(ink$competing)) paste0(", ", counted(others, "other event"), " in its place"),
    if (ink$cut_off && has_cut) ", strokes where times were cut off",
    if (ink$median && any(!is.na(medians))) ", lines to the medians",
    if (ink$test && NROW(tests)) {
      each <- paste0(
        "\u03c7\u00b2(",
        tests$df,
        ") = ",
        number_text_each(tests$statistic, 3),
        ", ",
        p_words(tests$p)
      )
      paste0(
        ", log-rank test",
        if (nrow(tests) > 1) " of each panel",
        ": ",
        paste(each, collapse = "; ")
      )
    },
    ratio_phrase(ratios)
  )
}

# ", hazard ratio (Cox's model, 95 % confidence interval) of Rye to Wheat 0.56 (0.32 to 0.98)".
ratio_phrase <- function(ratios) {
  if (is.null(ratios)) return(NULL)
  each <- ifelse(
    is.na(ratios$estimate),
    paste0("of ", ratios$name, " to ", ratios$first, " none, as a group has no event"),
    paste0("of ", ratios$name, " to ", ratios$first, " ", ratio_text(ratios))
  )
  paste0(
    ", hazard ratio",
    if (length(unique(ratios$panel)) > 1) " of each panel",
    " (Cox's model, 95 % confidence interval) ",
    paste(each, collapse = "; ")
  )
}

ratio_text <- function(ratios) {
  digits <- pmin(pmax(interval_digits(ratios$low, ratios$high), 2), 3)
  with_interval(ratios$estimate, ratios$low, ratios$high, digits)
}

# Hazard ratios of each panel's groups to the first of them: panel, code, name, first, estimate,
# low, high.
survival_ratios <- function(time, happened, group, layer) {
  channel <- Find(
    function(channel) is_category(layer[[channel]]) && !is.null(group$rows[[channel]]),
    c("colour", "shape", "dash", "group")
  )
  if (is.null(channel)) return(NULL)
  names <- plain_text(layer[[channel]]$kind$level_names)
  stack_tables(
    lapply(unique(group$rows$panel), function(id) {
      rows <- which(group$rows$panel[group$at] == id)
      codes <- group$rows[[channel]][group$at[rows]]
      found <- hazard_ratios(time[rows], happened[rows], codes)
      if (is.null(found)) return(NULL)
      new_table(
        panel = id,
        code = found$group,
        channel = channel,
        name = names[found$group],
        first = names[min(codes)],
        estimate = found$estimate,
        low = found$low,
        high = found$high,
        .rows = nrow(found)
      )
    })
  )
}

# Of each group's row, a column of its ratio; NULL where none was asked for.
ratio_of_group <- function(ratios, column, rows) {
  if (is.null(ratios)) return(NULL)
  code <- rows[[ratios$channel[1]]]
  ratios[[column]][match(paste(rows$panel, code), paste(ratios$panel, ratios$code))]
}

# The p of the test and the hazard ratios, where the panel has room for them.
test_words <- function(ink, trained, site) {
  of_test <- if (ink$test && NROW(trained$tests)) {
    data.frame(
      panel = trained$tests$panel,
      string = paste0("*", sub(" ", "* ", p_words(trained$tests$p))),
      colour = site$house$colour$text
    )
  }
  ratios <- trained$ratios
  ratios <- if (!is.null(ratios)) table_rows(ratios, !is.na(ratios$estimate))
  of_ratios <- if (NROW(ratios)) {
    several <- nrow(ratios) > length(unique(ratios$panel))
    data.frame(
      panel = ratios$panel,
      string = paste0("HR ", if (several) paste0(ratios$name, " "), ratio_text(ratios)),
      colour = site$house$colour$text
    )
  }
  written <- rbind(of_test, of_ratios)
  if (is.null(written)) return(NULL)
  written <- written[order(written$panel), ]
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = written$panel,
          string = written$string,
          size_pt = site$house$type_pt$base,
          colour = written$colour,
          .rows = nrow(written)
        )
      ),
      list(corner = TRUE, role = "equation")
    )
  )
}

# Does the curve rise from 0?
rises <- function(ink) ink$happened || !is.null(ink$competing)

# The steps of one group: time, y, lower, upper, n_event, n_other, n_censored; the median as an
# attribute, NA for none.
event_shares <- function(ink, time, state) {
  level <- ink$band %||% 0.95
  if (!is.null(ink$competing)) {
    found <- incidence_table(time, state, level)
    half <- which(found$share >= 0.5 - 1e-9)
    found$y <- found$share
    return(structure(found, median = if (length(half)) found$time[half[1]] else NA_real_))
  }
  found <- survival_table(time, state == 1, level)
  median <- survival_median(found)
  found$y <- found$survival
  if (ink$happened) {
    found[c("y", "lower", "upper")] <- 1 - found[c("y", "upper", "lower")]
  }
  structure(found, median = median)
}
