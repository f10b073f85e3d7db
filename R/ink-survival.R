#' Times to an event
#'
#' The share of which the event has not happened yet, as steps, for each colour, with its band, a
#' stroke where a time was cut off, and the numbers at risk under the axis.
#'
#' @eval argument_lines("ink_survival")
#' @return An ink, for [panel()] with a quantity of times on `x`.
#' @details The estimate of Kaplan and Meier (1958), Journal of the American Statistical Association
#'   53; the band is Greenwood's (1926) on the scale of the logarithm, cut at 1; the test is the
#'   log-rank test of Mantel (1966), Cancer Chemotherapy Reports 50, of the groups of one panel.
#'   Medians are the first time at which no more than half are left. Hazard ratios are of Cox's
#'   (1972) model of the groups alone, each to the first level, ties by Efron (1977), with Wald's
#'   interval. With `competing` the curve is the share with the event while others take its chance,
#'   after Aalen and Johansen (1978), the band by the normal distribution. Rows without a time or a
#'   status are left out, and told; negative times are an error.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, a status of more than
#' two values without `competing`, or negative times; `nelvat_error_level` for an `event` that is no
#' level of `status`.
#' @examples
#' keeping <- data.frame(
#'   days = c(3, 5, 5, 6, 8, 9, 4, 7, 9, 9, 11, 12),
#'   stale = c(1, 1, 0, 1, 1, 0, 1, 1, 0, 1, 0, 0),
#'   flour = rep(c("wheat", "rye"), each = 6)
#' )
#' plate(panel(keeping, x = days, colour = flour, ink_survival(stale, test = TRUE)), width = 86)
#' @export
ink_survival <- function(
  status,
  event = NULL,
  band = 0.95,
  cut_off = TRUE,
  median = FALSE,
  test = FALSE,
  ratio = FALSE,
  numbers = TRUE,
  happened = FALSE,
  competing = NULL,
  weight = NULL,
  colour = NULL,
  ...
) {
  said_ink("survival", ...)
}

#' @export
word_rows.ink_survival <- function(word) {
  list(
    status = a_column(
      says = c(
        "A column that says whether the event happened (1) or the time was cut off before (0); of",
        "two levels `event` says which is the event."
      )
    ),
    event = a_text(or_null = TRUE, says = "The level of `status` that is the event."),
    band = a_number(0.5, 0.9999, or_null = TRUE, says = "Level of the band, or `NULL` for none."),
    cut_off = a_flag(says = "Draw a stroke where times were cut off?"),
    median = a_flag(says = "Draw lines to the medians?"),
    test = a_flag(says = "Write the p of the log-rank test of the panel's groups?"),
    ratio = a_flag(
      says = "Write the hazard ratio of each group to the first level, with its 95 % interval?"
    ),
    numbers = a_flag(says = "Write the numbers at risk under the axis, at its ticks?"),
    happened = a_flag(says = "Show the share of which the event has happened, rising from 0?"),
    competing = texts(
      or_null = TRUE,
      says = c(
        "Levels of `status` that are other events, after which this one cannot happen: the",
        "curve is then the share with the event, rising from 0 (cumulative incidence)."
      )
    ),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
supplied_axis.ink_survival <- function(ink, direction, variables) {
  new_kind(
    "quantity",
    name = if (rises(ink)) "Share with the event" else "Share without the event"
  )
}

#' @export
train_ink.ink_survival <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "status", if (!is_ramp(layer$colour)) "colour"))
  group <- layer_groups(layer, complete, ink, table)
  state <- event_state(ink, table$status)
  n_groups <- nrow(group$rows)
  of_group <- lapply(seq_len(n_groups), function(g) {
    rows <- which(group$at == g)
    event_shares(ink, table$x[rows], state[rows])
  })
  curves <- stack_tables(
    lapply(seq_len(n_groups), function(g) {
      steps <- of_group[[g]]
      begin <- if (rises(ink)) 0 else 1
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = c(0, steps$time),
        y = c(begin, steps$y),
        lower = c(begin, steps$lower),
        upper = c(begin, steps$upper),
        n_censored = c(0, steps$n_censored),
        .rows = nrow(steps) + 1L
      )
    })
  )
  medians <- vapply(of_group, function(one) attr(one, "median"), 0)
  tests <- if (is.null(ink$competing)) survival_tests(table$x, state == 1, group)
  ratios <- if (ink$ratio) survival_ratios(table$x, state == 1, group, layer)
  list(
    table = curves,
    series = group$rows,
    medians = medians,
    tests = tests,
    ratios = ratios,
    times = lapply(seq_len(n_groups), function(g) table$x[which(group$at == g)]),
    findings = new_findings(
      group$rows,
      "curve",
      tabulate(group$at, n_groups),
      median = medians,
      estimate = ratio_of_group(ratios, "estimate", group$rows),
      estimate_low = ratio_of_group(ratios, "low", group$rows),
      estimate_high = ratio_of_group(ratios, "high", group$rows),
      value = "x"
    ),
    traces = share_traces(curves),
    extent = if (!is.null(curves)) extent_by_panel(curves$panel, x0 = curves$x, y0 = 0, y1 = 1),
    zero = "y",
    used = complete,
    shows = survival_words(ink, of_group, medians, tests, ratios)
  )
}

# The log-rank test of each panel's groups: panel, statistic, df, p.
survival_tests <- function(time, happened, group) {
  stack_tables(
    lapply(unique(group$rows$panel), function(id) {
      rows <- which(group$rows$panel[group$at] == id)
      found <- log_rank(time[rows], happened[rows], group$at[rows])
      if (!is.null(found)) {
        new_table(panel = id, statistic = found$statistic, df = found$df, p = found$p, .rows = 1L)
      }
    })
  )
}

#' @export
place_ink.ink_survival <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  looks <- series_looks(trained$series, site)
  colour <- looks$colour[curves$series]
  steps <- in_steps(curves)
  x <- site$unit(steps$x, steps$panel, "x")
  y <- site$unit(steps$y, steps$panel, "y")
  weight <- ink$weight %||% site$house$weight_pt$line
  cut <- which(curves$n_censored > 0)
  high <- cut_stroke_mm / site$panel_h(curves$panel)
  along <- site$unit(curves$x, curves$panel, "x")
  up <- site$unit(curves$y, curves$panel, "y")
  marks <- list()
  if (!is.null(ink$band)) {
    with_band <- table_rows(steps, !is.na(steps$lower))
    marks <- list(
      band_marks(
        with_band,
        site$unit(with_band$x, with_band$panel, "x"),
        site,
        looks$colour[with_band$series]
      )
    )
  }
  c(
    marks,
    list(series_lines(steps, x, y, looks, weight)),
    if (ink$cut_off && length(cut)) {
      list(
        new_marks(
          "segments",
          new_table(
            panel = curves$panel[cut],
            x0 = along[cut],
            x1 = along[cut],
            y0 = (up - high)[cut],
            y1 = (up + high)[cut],
            colour = colour[cut],
            weight_pt = weight,
            .rows = length(cut)
          )
        )
      )
    },
    if (ink$median) median_lines(trained, site),
    test_words(ink, trained, site)
  )
}

cut_stroke_mm <- 0.8 # half the length of a stroke where a time was cut off

# Rows of curves as lines level until the next: the end of one step is the beginning of the next.
in_steps <- function(curves) {
  of_series <- split(seq_len(nrow(curves)), curves$series)
  across <- unlist(lapply(of_series, function(rows) c(rows[1], rep(rows[-1], each = 2))))
  up <- unlist(
    lapply(of_series, function(rows) c(rep(rows[-length(rows)], each = 2), rows[length(rows)]))
  )
  steps <- table_rows(curves, up)
  steps$x <- curves$x[across]
  steps
}

# From the half to the curve, and down to the axis.
median_lines <- function(trained, site) {
  known <- which(!is.na(trained$medians))
  if (!length(known)) return(NULL)
  of_panel <- trained$series$panel[known]
  x <- site$unit(trained$medians[known], of_panel, "x")
  y <- site$unit(rep(0.5, length(known)), of_panel, "y")
  colour <- site$house$colour$heading_rule
  line <- function(x0, y0, x1, y1) {
    new_table(
      panel = of_panel,
      x0 = x0,
      y0 = y0,
      x1 = x1,
      y1 = y1,
      colour = colour,
      weight_pt = site$house$weight_pt$outline,
      .rows = length(known)
    )
  }
  list(new_marks("segments", stack_tables(list(line(0, y, x, y), line(x, y, x, 0)))))
}

#' @export
under_rows.ink_survival <- function(ink, layer) {
  if (!ink$numbers || is.null(layer$trained$table)) return(NULL)
  list(title = "At risk", groups = layer$trained$series)
}

#' @export
under_texts.ink_survival <- function(ink, layer, group, ticks) {
  count_text(at_risk(layer$trained$times[[group]], ticks))
}

#' @export
ink_traits.ink_survival <- function(ink) {
  new_traits(
    "line",
    c("colour", "dash"),
    "spread",
    behind = FALSE,
    anywhere = isTRUE(ink$test) || isTRUE(ink$ratio)
  )
}

#' @export
marks_named.ink_survival <- function(ink) "steps"
