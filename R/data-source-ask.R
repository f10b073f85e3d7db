# Questions to a database, and what their answers are as a table: rows, each of which stands for as
# many rows as its `times` says, with the spread, the least and the greatest of what was averaged.

# wanted: list(parts: columns that part the rows, SQL by name; where: a condition or NULL).
asked_where <- function(wanted, ...) {
  conditions <- c(wanted$where, ...)
  if (length(conditions)) {
    paste0(" WHERE ", paste0("(", conditions, ")", collapse = " AND "))
  } else {
    ""
  }
}

# Sums by group. measures: by name, each COUNT, SUM, MIN or MAX of something. Where a table is
# parted over servers by a column, they are first summed up in each part, which every server does
# for its own, and then over the parts.
asked_sums <- function(source, measures, wanted, call, what, limit = NULL) {
  parts <- wanted$parts
  asked <- function(from, parts, measures, where = "") {
    paste0(
      "SELECT ",
      paste(c(named_sql(parts, source), paste(measures, "AS", names(measures))), collapse = ", "),
      " FROM ",
      from,
      where,
      if (length(parts)) paste0(" GROUP BY ", paste(parts, collapse = ", "))
    )
  }
  question <- if (is.null(source$parted_by)) {
    asked(source$from, parts, measures, asked_where(wanted))
  } else {
    key <- c(nelvat_part = sql_name(source$parted_by, source))
    inner <- asked(source$from, c(parts, key), measures, asked_where(wanted))
    how <- ifelse(grepl("^M", measures), substr(measures, 1, 3), "SUM")
    outer <- stats::setNames(paste0(how, "(", names(measures), ")"), names(measures))
    alias <- vapply(names(parts), sql_name, "", source)
    asked(paste0("(", inner, ") AS nelvat_parts"), alias, outer)
  }
  if (!is.null(limit)) {
    # A server that is to stop early sorts all rows by group; in an order of sums it cannot.
    order <- if (source$engine == "postgres") paste0(" ORDER BY ", names(measures)[1])
    question <- with_limit(paste0(question, order), limit)
  }
  answer <- engine_rows(source, question, call, what)
  # Sums of no rows are none.
  counting <- names(measures)[startsWith(measures, "COUNT")]
  answer[counting] <- lapply(answer[counting], function(n) ifelse(is.na(n), 0, as.numeric(n)))
  answer
}

# Are there at most so many different values? Where the first rows have more the others are not
# read.
are_few <- function(source, wanted, most, call) {
  few <- function(from) {
    parts <- paste(named_sql(wanted$parts, source), collapse = ", ")
    question <- with_limit(paste("SELECT DISTINCT", parts, "FROM", from), most + 1)
    nrow(engine_rows(source, question, call, "Asking for values")) <= most
  }
  all <- paste0(source$from, asked_where(wanted))
  first <- with_limit(paste("SELECT * FROM", all), min(4 * (most + 1), most_fetched))
  few(paste0("(", first, ") AS nelvat_first")) &&
    if (is.null(source$parted_by)) few(all) else are_few_in_parts(source, wanted, most, call)
}

# Several servers answer with their own values, one after another; where those are more than a
# figure may fetch they are taken for too many.
are_few_in_parts <- function(source, wanted, most, call) {
  parts <- c(wanted$parts, nelvat_part = sql_name(source$parted_by, source))
  listed_parts <- paste(named_sql(parts, source), collapse = ", ")
  each <- paste0("SELECT ", listed_parts, " FROM ", source$from, asked_where(wanted))
  each <- with_limit(paste(each, "GROUP BY", paste(parts, collapse = ", ")), most_fetched)
  alias <- paste(vapply(names(wanted$parts), sql_name, "", source), collapse = ", ")
  question <- paste0("SELECT ", alias, ", COUNT(*) AS nelvat_n FROM (", each, ") AS nelvat_parts")
  question <- with_limit(paste(question, "GROUP BY", alias), most + 1)
  answer <- engine_rows(source, question, call, "Asking for values")
  nrow(answer) <= most && sum(as.numeric(answer$nelvat_n)) < most_fetched
}

with_limit <- function(question, n) paste0(question, " LIMIT ", sprintf("%.0f", n))

asked_count <- function(source, wanted, call) {
  known <- if (!is.null(source$answers)) source$answers[[rows_key(wanted)]]
  if (!is.null(known)) return(known)
  whole <- changed(wanted, parts = NULL)
  asked_sums(source, c(nelvat_n = "COUNT(*)"), whole, call, "Counting the rows")$nelvat_n
}

# The rows themselves; of a sample, those that come first in an order that only a seed sets.
asked_rows <- function(source, columns, wanted, call) {
  listed_columns <- named_sql(columns, source)
  if (!length(listed_columns)) listed_columns <- "1 AS n"
  order <- if (!is.null(source$sample)) sample_order(source)
  question <- paste0(
    "SELECT ",
    paste(listed_columns, collapse = ", "),
    " FROM ",
    source$from,
    if (!is.null(order)) " AS nelvat_rows",
    asked_where(wanted),
    order
  )
  rows <- engine_rows(source, question, call, "Fetching the rows")
  rows[] <- lapply(rows, iso_text_to_moment)
  rows
}

# An order without a pattern, the same each time: of the numbers of rows, by two multiplications in
# a ring of whole numbers; of a server, which has none, of what the rows hold.
sample_order <- function(source) {
  seed <- sprintf("%.0f", 2 * source$sample$seed + 1)
  order <- if (source$engine == "postgres") {
    row <- "CAST(nelvat_rows AS text)"
    paste0("hashtextextended(", row, ", ", seed, "), ", row)
  } else {
    paste0("(((rowid * 2654435761) % 4294967296) * ", seed, ") % 4294967296, rowid")
  }
  paste0(" ORDER BY ", order, " LIMIT ", sprintf("%.0f", source$sample$n))
}

named_sql <- function(columns, source) {
  if (!length(columns)) return(character())
  paste(columns, "AS", vapply(names(columns), sql_name, "", source))
}

# Moments of a quantity in each group: of differences from a first estimate, so that what is far
# from zero keeps its digits.
asked_moments <- function(
  source,
  column,
  y,
  wanted,
  call,
  shift = first_middles(source, y, wanted, call)
) {
  off <- paste0("(", y, " - ", sql_number(shift), ")")
  answer <- grouped_rows(
    source,
    c(
      nelvat_n = paste0("COUNT(", y, ")"),
      nelvat_all = "COUNT(*)",
      nelvat_sum = paste0("SUM(", off, ")"),
      nelvat_squares = paste0("SUM(", off, " * ", off, ")"),
      nelvat_least = paste0("MIN(", y, ")"),
      nelvat_greatest = paste0("MAX(", y, ")")
    ),
    wanted,
    call
  )
  n <- answer$nelvat_n
  if (is_far(n, answer$nelvat_sum, answer$nelvat_squares)) {
    return(asked_moments(source, column, y, wanted, call, asked_middles(source, y, wanted, call)))
  }
  there <- n > 0
  mean_off <- answer$nelvat_sum / n
  groups <- answer[names(wanted$parts)]
  # Rows of a group that have no value are told as missing.
  lacking <- answer$nelvat_all - n
  table <- rbind(groups[there, , drop = FALSE], groups[lacking > 0, , drop = FALSE])
  k <- sum(lacking > 0)
  none <- rep(NA_real_, k)
  # What stands for equal values is that value.
  equal <- answer$nelvat_least == answer$nelvat_greatest
  mean <- ifelse(equal, answer$nelvat_least, shift + mean_off)
  table[[column]] <- c(mean[there], none)
  spread <- sqrt(pmax(answer$nelvat_squares - answer$nelvat_sum * mean_off, 0))
  spread <- ifelse(equal, 0, spread)
  list(
    data = table,
    times = c(n[there], lacking[lacking > 0]),
    sums = stats::setNames(
      list(
        list(
          spread = c(spread[there], none),
          least = c(answer$nelvat_least[there], none),
          greatest = c(answer$nelvat_greatest[there], none)
        )
      ),
      column
    )
  )
}

# About where each quantity lies: the mean of the first rows that have it.
first_middles <- function(source, values, wanted, call) {
  vapply(
    values,
    function(value) {
      question <- paste0(
        "SELECT AVG(nelvat_v) AS middle FROM (SELECT ",
        value,
        " AS nelvat_v FROM ",
        source$from,
        asked_where(wanted, paste(value, "IS NOT NULL")),
        " LIMIT 1000) AS nelvat_first"
      )
      middle <- as.numeric(engine_rows(source, question, call, "Averaging the first rows")$middle)
      if (is.finite(middle)) middle else 0
    },
    0,
    USE.NAMES = FALSE
  )
}

# Do values lie so far from a first estimate that sums of squares would lose their digits?
is_far <- function(n, sums, squares) {
  n <- sum(n, na.rm = TRUE)
  off <- sum(sums, na.rm = TRUE) / n
  spread <- sqrt(max(sum(squares, na.rm = TRUE) / n - off^2, 0))
  isTRUE(abs(off) > 100 * spread) && spread > 0
}

# The middle of each quantity.
asked_middles <- function(source, values, wanted, call) {
  k <- seq_along(values)
  measures <- c(paste0("SUM(", values, ")"), paste0("COUNT(", values, ")"))
  names(measures) <- c(paste0("nelvat_sum", k), paste0("nelvat_n", k))
  sums <- asked_sums(source, measures, changed(wanted, parts = NULL), call, "Averaging")
  middle <- as.numeric(unlist(sums[1, k])) / as.numeric(unlist(sums[1, length(k) + k]))
  ifelse(is.finite(middle), middle, 0)
}

# Counts of groups.
asked_counts <- function(source, wanted, call) {
  answer <- grouped_rows(source, c(nelvat_n = "COUNT(*)"), wanted, call)
  list(data = answer[names(wanted$parts)], times = answer$nelvat_n)
}

grouped_rows <- function(source, measures, wanted, call) {
  answer <- asked_sums(source, measures, wanted, call, "Summing up by group", most_fetched + 1)
  if (nrow(answer) <= most_fetched) return(sorted_answer(answer, names(wanted$parts)))
  abort_nelvat(
    "engine",
    c(
      paste0("There are over ", count_text(most_fetched), " groups of \"", source$label, "\"."),
      x = paste0(
        "They are of ",
        quoted(grep("^nelvat_", names(wanted$parts), value = TRUE, invert = TRUE)),
        "."
      ),
      i = "Derive a coarser column, such as `derive = list(hour = floor(second / 3600))`."
    ),
    call
  )
}

# In the order of its groups, whatever order a database answers in.
sorted_answer <- function(answer, parts) {
  if (!length(parts) || !nrow(answer)) return(answer)
  by <- unname(as.list(answer[parts]))
  answer <- answer[do.call(order, c(by, method = "radix")), , drop = FALSE]
  rownames(answer) <- NULL
  answer
}

# Counts of bins in each group; breaks and value in the shown unit; middles: what a bin is called
# in the column's own unit.
asked_bins <- function(source, column, value, breaks, middles, wanted, call) {
  bins <- length(breaks) - 1
  class <- bin_class(source, value, breaks, asked_extents(source, value, wanted, call))
  answer <- asked_counts(source, changed(wanted, parts = c(wanted$parts, nelvat_bin = class)), call)
  bin <- answer$data$nelvat_bin
  # What lies beyond the bins is told by how much there is of it.
  outer <- c(
    middles[1] - 1e6 * max(1, diff(range(middles))),
    middles[bins] + 1e6 * max(1, diff(range(middles)))
  )
  answer$data[[column]] <- ifelse(
    is.na(bin),
    NA_real_,
    ifelse(
      bin == bin_below,
      outer[1],
      ifelse(bin == bins - bin_below, outer[2], middles[pmin(pmax(bin, 0), bins - 1) + 1])
    )
  )
  answer$data$nelvat_bin <- NULL
  answer
}

# The bin of a value, from 0, what lies beyond them apart. Bins are closed on the right, an edge
# being as exact as sums of its digits. extent: of the value.
bin_class <- function(source, value, breaks, extent) {
  bins <- length(breaks) - 1
  slack <- 16 * .Machine$double.eps * max(abs(range(breaks)))
  edges <- breaks + slack
  low <- breaks[1] - slack
  high <- edges[bins + 1]
  even <- max(abs(breaks - seq(breaks[1], breaks[bins + 1], length.out = bins + 1))) <= slack / 4
  class <- if (even) {
    even_class(value, range(edges), bins, source)
  } else {
    sql_class(value, edges[-c(1, bins + 1)], source)
  }
  if (even && isTRUE(extent$least >= low && extent$greatest <= high)) return(class)
  paste0(
    "CASE WHEN ",
    value,
    " < ",
    sql_number(low),
    " THEN ",
    bin_below,
    " WHEN ",
    value,
    " > ",
    sql_number(high),
    " THEN ",
    bins - bin_below,
    " WHEN ",
    value,
    " IS NULL THEN NULL ELSE ",
    class,
    " END"
  )
}
bin_below <- -9 # what lies below all bins; what lies above is as far from the last

# A source's columns as a codebook of its first rows, those derived without values.
answered_head <- function(source) {
  data <- source$head
  data[names(source$derive)] <- NA_real_
  new_codebook(
    data,
    source$kinds[intersect(names(source$kinds), names(data))],
    label = source$label
  )
}
