#' How well a score tells two classes apart
#'
#' The receiver operating characteristic of a score, the share of positives found against the share
#' of negatives called positive as the threshold falls; or precision against recall. A curve for
#' each colour, with its area.
#'
#' @eval argument_lines("ink_classes")
#' @return An ink, for [panel()] without `x` and `y`. Its numbers are in [fits()].
#' @details The area of the ROC is the share of pairs in which the positive one has the higher
#'   score, ties counted half; its interval is that of DeLong, DeLong and Clarke-Pearson (1988),
#'   Biometrics 44. The area of a precision-recall curve is the average precision, of which no
#'   interval is told. A thin line shows a score that says nothing: the diagonal, or the share of
#'   positives.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, a panel with `x` or
#' `y`, or a truth of other than two classes; `nelvat_error_level` for a `positive` that is no
#' level.
#' @examples
#' tested <- data.frame(score = c(9, 8, 7, 6, 5, 4, 3, 2), sour = c(1, 1, 0, 1, 1, 0, 0, 0))
#' plate(panel(tested, ink_classes(score, sour)), width = 70, height = 70)
#' @export
ink_classes <- function(
  score,
  truth,
  positive = NULL,
  curve = "roc",
  area = TRUE,
  weight = NULL,
  colour = NULL,
  ...
) {
  ink <- said_ink("classes", ...)
  ink$model <- curve
  ink
}

#' @export
word_rows.ink_classes <- function(word) {
  list(
    score = a_column(says = "A column: the score, higher for the positive class."),
    truth = a_column(says = "A column of two levels, or of zeros and ones: what each row is."),
    positive = either(
      a_text(),
      a_number(),
      a_flag(),
      or_null = TRUE,
      says = "The level of `truth` that the score is to find; not needed for zeros and ones."
    ),
    curve = a_choice(c("roc", "precision-recall"), says = '`"roc"` or `"precision-recall"`.'),
    area = a_flag(says = "Write the area under each curve, with its 95 % interval for the ROC?"),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_classes <- function(ink, panel, call) {
  check_brings_axes(panel, "A curve of classes", call)
  check_variable_kind(ink$variables$score, "score", "quantity", call)
  truth <- ink$variables$truth
  if (has_levels(truth$kind)) {
    names <- plain_text(truth$kind$level_names)
    if (length(names) != 2) {
      abort_nelvat(
        "argument",
        c(
          "`truth` must have two levels.",
          x = paste0("\"", truth$id, "\" has ", length(names), "."),
          i = "Keep two of them, or derive one that says yes or no."
        ),
        call
      )
    }
    if (is.null(ink$positive) || !ink$positive %in% c(names, truth$kind$levels)) {
      abort_nelvat(
        "level",
        c(
          "`positive` must say which level of `truth` is to be found.",
          x = paste0("Found ", describe_value(ink$positive), "."),
          i = paste0("Levels are ", quoted(names), ".")
        ),
        call
      )
    }
  } else if (!all(truth$values %in% c(0, 1, NA))) {
    abort_nelvat(
      "argument",
      c(
        "`truth` must be of zeros and ones, or of two levels.",
        x = paste0(
          "\"",
          truth$id,
          "\" has ",
          number_text_each(setdiff(truth$values, c(0, 1, NA))[1], 4),
          "."
        )
      ),
      call
    )
  }
}

#' @export
supplied_axis.ink_classes <- function(ink, direction, variables) {
  names <- if (ink$curve == "roc") c(x = "1 \u2212 specificity", y = "Sensitivity") else {
    c(x = "Recall", y = "Precision")
  }
  new_kind("quantity", name = names[[direction]])
}

#' @export
train_ink.ink_classes <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("score", "truth", if (!is_ramp(layer$colour)) "colour"))
  truth <- ink$variables$truth$kind
  positive <- if (has_levels(truth)) {
    code <- match(ink$positive, truth$levels)
    table$truth == if (is.na(code)) match(ink$positive, plain_text(truth$level_names)) else code
  } else {
    table$truth == 1
  }
  group <- layer_groups(layer, complete, ink, table)
  found <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    class_curve(table$score[rows], positive[rows], ink$curve)
  })
  made <- which(!vapply(found, is.null, NA))
  curves <- stack_tables(
    lapply(made, function(g) {
      new_table(
        panel = group$rows$panel[g],
        series = g,
        x = found[[g]]$x,
        y = found[[g]]$y,
        .rows = length(found[[g]]$x)
      )
    })
  )
  list(
    table = curves,
    series = group$rows,
    findings = new_findings(
      group$rows,
      "curve",
      tabulate(group$at, nrow(group$rows)),
      estimate = vapply(found, function(one) one$area$estimate[1] %||% NA_real_, 0),
      estimate_low = vapply(found, function(one) one$area$low[1] %||% NA_real_, 0),
      estimate_high = vapply(found, function(one) one$area$high[1] %||% NA_real_, 0),
      why = ifelse(seq_along(found) %in% made, NA, "all of one class")
    ),
    traces = if (length(made)) {
      new_table(finding = curves$series, x = curves$x, y = curves$y)
    },
    shares = new_table(
      panel = group$rows$panel[made],
      share = vapply(found[made], `[[`, 0, "share"),
      .rows = length(made)
    ),
    fits = lapply(
      found,
      function(one) {
        if (!is.null(one)) {
          list(coefficients = one$area, r2 = NA_real_, p = NA_real_, n = one$n)
        }
      }
    ),
    extent = extent_by_panel(panels_in(table$panel), x0 = 0, x1 = 1, y0 = 0, y1 = 1),
    zero = c("x", "y"),
    used = complete & group$at %in% made,
    notes = few_note(
      ink$variables$score,
      complete & !group$at %in% made,
      "a curve: all of one class"
    ),
    shows = paste0(
      if (ink$curve == "roc") "receiver operating characteristic" else "precision against recall",
      " of ",
      said_name(ink$variables$score, with_unit = TRUE),
      positive_words(ink, truth),
      if (ink$area && ink$curve == "roc") ", areas with their 95 % intervals",
      if (length(made) == 1) {
        paste0(", ", area_text(found[[made]]$area, ink))
      }
    )
  )
}

# Which class is the positive one.
positive_words <- function(ink, truth) {
  what <- said_name(ink$variables$truth)
  if (!has_levels(truth)) return(paste0(", positive where ", what, " is 1"))
  code <- match(ink$positive, c(truth$levels, plain_text(truth$level_names)))
  name <- truth$level_names[(code - 1) %% length(truth$levels) + 1]
  paste0(", positive where ", what, " is ", plain_text(name))
}

area_text <- function(area, ink) {
  # What is all but one is not written as one.
  digits <- if (area$estimate < 1 && area$estimate >= 0.995) 4 else 2
  paste(
    if (ink$curve == "roc") "AUC =" else "average precision =",
    if (is.na(area$low)) formatC(area$estimate, digits = digits, format = "f") else {
      with_interval(area$estimate, area$low, area$high, digits)
    }
  )
}

#' @export
place_ink.ink_classes <- function(ink, trained, site) {
  curves <- trained$table
  if (is.null(curves)) return(list())
  looks <- series_looks(trained$series, site)
  panels <- unique(curves$panel)
  x <- function(values, panel) site$unit(values, panel, "x")
  y <- function(values, panel) site$unit(values, panel, "y")
  idle <- if (ink$curve == "roc") {
    list(panel = panels, from = rep(0, length(panels)), to = rep(1, length(panels)))
  } else {
    one <- trained$shares[!duplicated(trained$shares), ]
    list(panel = one$panel, from = one$share, to = one$share)
  }
  marks <- list(
    new_marks(
      "segments",
      new_table(
        panel = idle$panel,
        x0 = x(0, idle$panel),
        x1 = x(1, idle$panel),
        y0 = y(idle$from, idle$panel),
        y1 = y(idle$to, idle$panel),
        colour = site$house$colour$axis,
        weight_pt = site$house$weight_pt$axis,
        .rows = length(idle$panel)
      )
    ),
    new_marks(
      "lines",
      new_table(
        panel = curves$panel,
        line = curves$series,
        x = x(curves$x, curves$panel),
        y = y(curves$y, curves$panel),
        colour = looks$colour[curves$series],
        weight_pt = ink$weight %||% (site$house$weight_pt$line * 1.2),
        dash = looks$dash[curves$series],
        opacity = 1,
        .rows = nrow(curves)
      )
    )
  )
  if (!ink$area) return(marks)
  several <- which(!vapply(trained$fits, is.null, NA))
  many <- max(tabulate(trained$series$panel)) > 1
  c(
    marks,
    list(
      c(
        new_marks(
          "words",
          new_table(
            panel = trained$series$panel[several],
            string = vapply(
              trained$fits[several],
              function(fit) area_text(fit$coefficients, ink),
              ""
            ),
            size_pt = site$house$type_pt$least,
            colour = if (many) legible(looks$colour[several]) else site$house$colour$text,
            .rows = length(several)
          )
        ),
        list(role = "equation", corner = TRUE)
      )
    )
  )
}

#' @export
ink_traits.ink_classes <- function(ink) {
  new_traits("line", c("colour", "dash"), "spread", behind = FALSE, anywhere = ink$area)
}

#' @export
marks_named.ink_classes <- function(ink) "curves"
