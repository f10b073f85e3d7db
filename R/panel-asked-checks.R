# What a table that stays in its database cannot be asked for, said before it is drawn otherwise
# than it is.

# Rows that stand for many have no statistic of what they stand for, and no order of their own.
check_summed_order <- function(order, column, call) {
  if (!inherits(order, "nelvat_order") || identical(order$rule, "number")) return(invisible())
  abort_nelvat(
    "engine",
    c(
      paste0(
        "Levels of \"",
        column,
        "\" cannot be put in order by ",
        order$rule,
        " where the table stays in its database."
      ),
      i = "Say them: `order = list(flour = c(\"rye\", \"wheat\"))`."
    ),
    call
  )
}

# What a panel's answer was asked for suits no other inks: a margin's histogram would count means.
check_asked_inks <- function(panel, inks, side, call = NULL) {
  asked <- panel$book$asked
  if (is.null(asked)) return(invisible())
  suiting <- if (is.null(side)) {
    list(
      counts = c("counts", "moments"),
      moments = "moments",
      classes = c("counts", "moments", "classes"),
      pairs = "pairs",
      cells = c("cells", if (!is.null(panel$book$products)) "pairs"),
      bins = "bins"
    )
  } else {
    list(cells = c("bins", "classes"))
  }
  for (ink in inks) {
    if (question_of(ink) %in% c("nothing", suiting[[asked]])) next
    what <- paste0(
      "`ink_",
      ink$ink,
      "()`",
      if (!is.null(side)) " in the margin of these inks"
    )
    abort_question(list(), sum(panel$book$times), what, call)
  }
}

# What all inks of a panel ask.
one_question <- function(inks, source, n, call) {
  if (!length(inks)) abort_question(source, n, "A panel of notes alone", call)
  asked <- vapply(inks, question_of, "")
  if (any(asked == "rows")) {
    abort_question(source, n, paste0("`ink_", inks[[which(asked == "rows")[1]]]$ink, "()`"), call)
  }
  # What is finer answers what is coarser, too.
  for (finer in list(c("counts", "moments", "classes"), c("pairs", "cells"), "bins")) {
    if (all(asked %in% finer)) return(finer[max(match(asked, finer))])
  }
  abort_question(source, n, "Inks that ask for unlike sums in one panel", call)
}

# What is asked of quantities needs them on the axes.
check_quantities <- function(inks, question, quantities, call) {
  least <- c(counts = 0, moments = 1, classes = 1, bins = 1, pairs = 2, cells = 2)[[question]]
  if (length(quantities) >= least) return(invisible())
  asks <- vapply(inks, question_of, "") == question
  abort_nelvat(
    "kind",
    c(
      paste0(
        "`ink_",
        inks[[which(asks)[1]]]$ink,
        "()` needs ",
        if (least == 1) "a quantity on an axis." else "quantities on both axes."
      ),
      x = paste0("There ", if (length(quantities)) "is one." else "is none.")
    ),
    call
  )
}

abort_question <- function(source, n, what, call) {
  abort_nelvat(
    "engine",
    c(
      paste0(what, " cannot be drawn of ", count_text(n), " rows that stay in their database."),
      i = paste0(
        "Ask for counts, means, boxes or cells: `ink_histogram()`, `ink_bars()`, ",
        "`ink_centre()`, `ink_box()`, `ink_density()`, `ink_line(centre = \"mean\")`, ",
        "`ink_hexagons()`, `ink_fit()` of a line; or draw a sample, ",
        "`table_in(sample = sample_of(20000))`."
      )
    ),
    call
  )
}

# The transform of each column that stands on a transformed axis. questions: what the inks ask. Sums
# of what an axis transforms cannot be had from sums, and what is computed of a column is not a
# column.
asked_scales <- function(channels, questions, call) {
  scales <- list()
  said <- unlist(
    lapply(c("x", "y"), function(channel) {
      whole <- rlang::quo_get_expr(channels[[channel]])
      parts <- if (rlang::is_call(whole, "c")) as.list(whole)[-1] else list(whole)
      lapply(parts, function(part) {
        list(
          channel = channel,
          quo = rlang::new_quosure(part, rlang::quo_get_env(channels[[channel]]))
        )
      })
    }),
    recursive = FALSE
  )
  for (one in said) {
    channel <- one$channel
    quo <- one$quo
    expression <- plain_logarithm(rlang::quo_get_expr(quo))
    while (rlang::is_call(expression, "reverse", n = 1)) expression <- expression[[2]]
    inner <- if (rlang::is_call(expression, names(axis_transforms), n = 1)) expression[[2]]
    of <- function(one) quo_column(rlang::new_quosure(one, rlang::quo_get_env(quo)))
    if (is.null(expression) || !is.null(of(expression))) next
    scale <- if (!is.null(inner)) axis_transforms[[rlang::call_name(expression)]]
    while (rlang::is_call(inner, "reverse", n = 1)) inner <- inner[[2]]
    column <- if (!is.null(inner)) of(inner)
    known <- !is.null(column) && scale %in% names(sql_scales)
    twice <- known && sum(vapply(said, function(other) column %in% all.vars(other$quo), NA)) > 1
    if (known && !twice && all(questions %in% c("bins", "classes", "cells", "counts"))) {
      scales[[column]] <- scale
      next
    }
    abort_nelvat(
      "engine",
      c(
        paste0(
          "`",
          channel,
          " = ",
          rlang::as_label(rlang::quo_get_expr(quo)),
          "` cannot be asked for as ",
          listed(unique(questions)),
          "."
        ),
        i = "Derive a column of it, such as `derive = list(power = log10(level))`."
      ),
      call
    )
  }
  scales
}

# What is missing cannot be filled where rows stand for many.
check_no_fill <- function(missing, call) {
  if (!any(vapply(missing, inherits, NA, "nelvat_fill"))) return(invisible())
  abort_nelvat(
    "engine",
    c(
      "`fill_with()` needs the rows of a table.",
      i = "Fill in the database: `derive = list(filled = ifelse(is.na(v), 0, v))`."
    ),
    call
  )
}
