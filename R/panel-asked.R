# A panel of a table that stays in its database: what its inks need is asked for, and the answer is
# a codebook whose rows stand for many. Its fields besides those of a codebook:
#   times   how many rows of the table each row stands for;
#   sums    by column: spread, least and greatest of the values that each row is the mean of;
#   products  of two columns, the sum of products of what lies off their means;
#   breaks  edges of bins, where the question was for bins;
#   cell    where several columns stand on y, which of them each row is of.

# channels: quosures by channel; parts: quosures of what parts the rows besides, such as facets.
asked_book <- function(source, channels, inks, derive, keep, parts, call) {
  source <- with_derived(refreshed_source(source, call), derive, keep, call)
  columns <- source_columns(source, call)
  ink_columns <- unlist(lapply(inks, `[[`, "mapped"), recursive = FALSE)
  named <- lapply(
    c(channels, parts, ink_columns),
    function(quo) quo_columns(quo, columns, source, call)
  )
  wanted <- list(where = source_where(source, columns, call))
  columns <- checked_columns(source, columns, named, wanted$where, call)
  n <- asked_count(source, wanted, call)
  kept <- kept_words(source, n, call)
  if (!n) {
    abort_nelvat(
      "data",
      c(paste0("Nothing is left of ", source$label, "."), x = "No row is kept."),
      call
    )
  }
  if (n <= most_fetched || !is.null(source$sample)) {
    fetched <- fetched_book(source, columns[unique(unlist(named))], wanted, n, call)
    return(changed(fetched, kept = kept))
  }
  binned <- with_bins_on_axes(source, channels)
  if (!is.null(binned)) {
    source <- binned$source
    channels <- binned$channels
    columns <- source_columns(source, call)
    axes <- c("x", "y")
    named[axes] <- lapply(channels[axes], function(quo) quo_columns(quo, columns, source, call))
  }
  inks <- Filter(function(ink) question_of(ink) != "nothing", inks)
  questions <- vapply(inks, question_of, "")
  question <- one_question(inks, source, n, call)
  # Groups without a quantity on an axis are counted.
  if (question == "moments" && rlang::quo_is_null(channels$y) + rlang::quo_is_null(channels$x)) {
    question <- questions[] <- "counts"
  }
  scales <- asked_scales(channels, questions, call)
  places <- named[c("x", "y")]
  if (length(places$x) > 1) abort_question(source, n, "Several columns on x", call)
  is_level <- vapply(
    unique(unlist(named)),
    function(column) has_levels(source_kind(source, column)),
    NA
  )
  on_axes <- unlist(places)
  check_quantities(inks, question, on_axes[!is_level[on_axes]], call)
  several <- length(places$y) > 1
  if (several && question %in% c("bins", "counts")) {
    abort_question(source, n, "Counts of several columns on one axis", call)
  }
  each_y <- if (several) places$y else list(places$y)
  measured <- lapply(each_y, function(y) {
    measured_columns_of(question, changed(places, y = y), is_level)
  })
  # Times are text in a database, which no sum is made of.
  is_time <- vapply(
    unlist(measured),
    function(column) source_kind(source, column)$kind == "moment",
    NA
  )
  if (any(is_time)) {
    what <- paste0("Sums of \"", unlist(measured)[is_time][1], "\", a time,")
    abort_question(source, n, what, call)
  }
  group <- setdiff(unique(unlist(named)), c(unlist(measured), if (several) places$y))
  for (column in group) check_summed_order(source_kind(source, column)$order, column, call)
  wanted <- changed(
    wanted,
    parts = columns[group],
    values = columns,
    scales = scales,
    products = "pairs" %in% questions
  )
  answers <- lapply(measured, function(columns) {
    answer_of(question, source, columns, wanted, inks, call)
  })
  book <- if (several) {
    stacked_book(source, stats::setNames(answers, places$y), unique(unlist(measured)))
  } else {
    book_of_answer(source, answers[[1]])
  }
  changed(book, asked = question, n_rows = n, kept = kept, channels = binned$channels)
}

# What is asked of the columns that are measured.
answer_of <- function(question, source, measured, wanted, inks, call) {
  switch(
    question,
    counts = asked_counts(source, wanted, call),
    moments = asked_moments(source, measured, wanted$values[[measured]], wanted, call),
    classes = {
      forward <- axis_transform(wanted$scales[[measured]] %||% "identity")$forward
      asked_classes(source, measured, changed(wanted, forward = forward), call)
    },
    pairs = asked_pairs(source, measured[1], measured[2], wanted, call),
    cells = asked_cells(source, measured[1], measured[2], wanted, call),
    bins = binned_answer(source, measured, wanted$values[[measured]], wanted, inks, call)
  )
}

book_of_answer <- function(source, answer) {
  book <- answered_book(source, answer$data)
  if (!is.null(answer$counted)) {
    book$notes <- add_note(book$notes, source$label, answer$counted$what, answer$counted$n, FALSE)
  }
  changed(
    book,
    times = answer$times,
    sums = answer$sums,
    products = answer$products,
    breaks = answer$breaks
  )
}

# Several answers as one book, each row of one of them: `cell` names which. ids: the columns that
# are measured in some of them.
stacked_book <- function(source, answers, ids) {
  data <- stack_tables(
    lapply(answers, function(one) {
      one$data[setdiff(ids, names(one$data))] <- NA_real_
      one$data
    })
  )
  of_rows <- function(part, of) {
    unlist(
      lapply(answers, function(one) of(one)[[part]] %||% rep(NA_real_, nrow(one$data))),
      use.names = FALSE
    )
  }
  is_known <- function(part) !all(vapply(answers, function(one) is.null(one[[part]]), NA))
  sums <- if (is_known("sums")) {
    lapply(stats::setNames(nm = ids), function(id) {
      parts <- stats::setNames(nm = c("spread", "least", "greatest"))
      lapply(parts, of_rows, function(one) one$sums[[id]])
    })
  }
  counted <- unique(Filter(Negate(is.null), lapply(unname(answers), `[[`, "counted")))
  book <- answered_book(source, data)
  for (one in counted) book$notes <- add_note(book$notes, source$label, one$what, one$n, FALSE)
  changed(
    book,
    cell = rep(names(answers), vapply(answers, function(one) nrow(one$data), 0L)),
    times = of_rows("times", identity),
    sums = sums,
    products = if (is_known("products")) of_rows("products", identity),
    breaks = lapply(answers, `[[`, "breaks")
  )
}

# The rows themselves, of some columns.
fetched_book <- function(source, fetched, wanted, n, call) {
  # Whole numbers and others of one column are both numbers.
  numbers <- names(fetched) %in% number_columns(source)
  fetched[numbers] <- paste0("(1.0 * ", fetched[numbers], ")")
  rows <- asked_rows(source, fetched, wanted, call)
  book <- answered_book(source, rows)
  if (n > nrow(rows)) {
    what <- "rows that the sample does not hold"
    book$notes <- add_note(book$notes, source$label, what, n - nrow(rows))
  }
  book
}

# What was kept, as keep_rows() has it; NULL where all rows are.
kept_words <- function(source, n, call) {
  if (!length(source$keep)) return(NULL)
  given <- asked_count(source, list(), call)
  said <- NULL
  for (keep in source$keep) {
    named <- intersect(all.vars(rlang::quo_get_expr(keep)), names(source$head))
    kinds <- lapply(stats::setNames(nm = named), function(column) source_kind(source, column))
    said <- list(condition = condition_words(keep, said, kinds))
  }
  if (given > n) c(said, list(kept = n, given = given))
}

# A panel that is made to be parted further, as by facets, is asked for once, with its parts: until
# then it stands for itself with the first rows.
asking <- new.env(parent = emptyenv())
asking$later <- FALSE
asked_later <- function(code) {
  before <- asking$later
  on.exit(asking$later <- before)
  asking$later <- TRUE
  force(code)
}
first_rows_book <- function(source, channels, inks, derive, keep, parts, call) {
  columns <- source_columns(with_derived(source, derive, keep, call), call)
  question <- paste0(
    "SELECT ",
    paste(named_sql(columns, source), collapse = ", "),
    " FROM ",
    source$from,
    " LIMIT 1000"
  )
  changed(answered_book(source, engine_rows(source, question, call)), first_rows = TRUE)
}

measured_columns_of <- function(question, places, is_level) {
  on_axes <- unlist(places)
  quantities <- on_axes[!is_level[on_axes]]
  switch(
    question,
    counts = character(),
    cells = quantities,
    pairs = quantities,
    bins = quantities[1],
    # With two quantities means are of y at each x.
    if (length(quantities) == 2) places$y else quantities[1]
  )
}

with_derived <- function(source, derive, keep, call) {
  made <- lapply(derive, function(one) one$quo)
  kinds <- Filter(Negate(is.null), lapply(derive, function(one) one$kind))
  source$derive <- c(source$derive, made)
  source$kinds[names(kinds)] <- kinds
  if (!rlang::quo_is_null(keep)) source$keep <- c(source$keep, list(keep))
  source
}

# The columns that a quosure names.
quo_columns <- function(quo, columns, source, call) {
  if (rlang::quo_is_null(quo)) return(character())
  found <- quo_column(quo) %||% named_columns_of(rlang::quo_get_expr(quo))
  unknown <- setdiff(found, names(columns))
  if (length(unknown)) check_column(unknown[1], as.list(columns), source$label, call)
  intersect(found, names(columns))
}

# Levels that nobody ordered stand in alphabetical order, as a database has no order of its own.
answered_book <- function(source, data) {
  kinds <- lapply(stats::setNames(nm = names(data)), function(column) {
    kind <- source_kind(source, column)
    if (has_levels(kind) && is.null(kind$order) && is.null(kind$names)) {
      kind$order <- sort(unique(as.character(data[[column]])), method = "radix")
    }
    kind
  })
  new_codebook(data, kinds, label = source$label)
}

# Bins by the rule that rows would have, and their counts.
binned_answer <- function(source, column, value, wanted, inks, call) {
  kind <- source_kind(source, column)
  conversion <- if (is.null(kind$show)) {
    list(factor = 1, offset = 0)
  } else {
    unit_conversion(kind$unit, kind$show)
  }
  shown <- if (is.null(kind$show)) {
    value
  } else {
    paste0(
      "(",
      value,
      " * ",
      sql_number(conversion$factor),
      " + ",
      sql_number(conversion$offset),
      ")"
    )
  }
  # Bins of a transformed axis are even there.
  scale <- axis_transform(wanted$scales[[column]] %||% "identity")
  shown <- scaled_sql(shown, scale$name)
  about <- asked_about(source, shown, wanted, call)
  ink <- inks[[1]]
  said <- unique(lapply(inks, function(one) unclass(one)[c("bins", "width", "breaks")]))
  if (length(said) > 1) {
    abort_question(source, about$n, "Histograms of unlike bins in a panel", call)
  }
  breaks <- bins_of(
    about,
    ink$bins,
    ink$width,
    if (!is.null(ink$breaks)) scale$forward(ink$breaks)
  )
  middles <- scale$backward((breaks[-1] + breaks[-length(breaks)]) / 2)
  middles <- (middles - conversion$offset) / conversion$factor
  c(
    asked_bins(source, column, shown, breaks, middles, wanted, call),
    list(breaks = breaks)
  )
}

# Variables of which each value stands for many: with how many, and with the spread, the least and
# the greatest of what it is the mean of, in the shown unit.
with_times <- function(variables, book) {
  if (is.null(book$times)) return(variables)
  weighed <- function(variable) if (is.null(variable)) NULL else weighed_variable(variable, book)
  several <- names(variables) == "y"
  variables[several] <- lapply(variables[several], lapply, weighed)
  variables[!several] <- lapply(variables[!several], function(one) {
    if (inherits(one, "nelvat_variable")) weighed(one) else one
  })
  variables
}

weighed_variable <- function(variable, book) {
  if (is.null(book$times)) return(variable)
  sums <- book$sums[[variable$id]]
  # Where several columns were asked for, each row is of one of them.
  of_it <- if (variable$id %in% book$cell) variable$id else book$cell[1]
  its_rows <- if (is.null(book$cell)) rep(TRUE, length(book$times)) else book$cell == of_it
  changed(
    variable,
    n_missing = as.integer(
      if (is.null(book$lacking)) {
        sum(book$times[its_rows & is.na(variable$values)])
      } else {
        book$lacking[[variable$id]]
      }
    ),
    held = if (variable$id %in% book$cell) its_rows,
    times = book$times,
    sums = if (!is.null(sums)) shown_sums(sums, variable$kind, book$products)
  )
}

# products: of this column and another; each of the two brings its own factor to them.
shown_sums <- function(sums, kind, products = NULL) {
  if (is.null(kind$show)) return(c(sums, list(products = products, factor = 1)))
  conversion <- unit_conversion(kind$unit, kind$show)
  ends <- lapply(sums[c("least", "greatest")], function(values) {
    values * conversion$factor + conversion$offset
  })
  if (conversion$factor < 0) ends <- stats::setNames(rev(ends), names(ends))
  c(
    list(spread = sums$spread * abs(conversion$factor)),
    ends,
    list(products = products, factor = conversion$factor)
  )
}
