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

asked_count <- function(source, wanted, call) {
  question <- paste0("SELECT COUNT(*) AS n FROM ", source$from, asked_where(wanted))
  engine_rows(source, question, call, "Counting the rows")$n
}

# The rows themselves; of a sample, those that come first in an order that only a seed sets.
asked_rows <- function(source, columns, wanted, call) {
  listed_columns <- named_sql(columns, source)
  if (!length(listed_columns)) listed_columns <- "1 AS n"
  order <- if (!is.null(source$sample)) {
    # An order without a pattern, by two multiplications in a ring of whole numbers.
    paste0(
      " ORDER BY (((rowid * 2654435761) % 4294967296) * ",
      sprintf("%.0f", 2 * source$sample$seed + 1),
      ") % 4294967296, rowid LIMIT ",
      sprintf("%.0f", source$sample$n)
    )
  }
  question <- paste0(
    "SELECT ",
    paste(listed_columns, collapse = ", "),
    " FROM ",
    source$from,
    asked_where(wanted),
    order
  )
  rows <- engine_rows(source, question, call, "Fetching the rows")
  rows[] <- lapply(rows, iso_text_to_moment)
  rows
}

named_sql <- function(columns, source) {
  if (!length(columns)) return(character())
  paste(columns, "AS", vapply(names(columns), sql_name, "", source))
}

# Moments of a quantity in each group: of differences from a first estimate, so that what is far
# from zero keeps its digits.
asked_moments <- function(source, column, y, wanted, call) {
  shift <- engine_rows(
    source,
    paste0("SELECT AVG(", y, ") AS middle FROM ", source$from, asked_where(wanted)),
    call,
    "Averaging"
  )$middle
  shift <- if (is.na(shift)) 0 else shift
  off <- paste0("(", y, " - ", sql_number(shift), ")")
  answer <- grouped_rows(
    source,
    c(
      paste0("COUNT(", y, ") AS nelvat_n"),
      "COUNT(*) AS nelvat_all",
      paste0("SUM(", off, ") AS nelvat_sum"),
      paste0("SUM(", off, " * ", off, ") AS nelvat_squares"),
      paste0("MIN(", y, ") AS nelvat_least"),
      paste0("MAX(", y, ") AS nelvat_greatest")
    ),
    wanted,
    call
  )
  n <- answer$nelvat_n
  there <- n > 0
  mean_off <- answer$nelvat_sum / n
  groups <- answer[names(wanted$parts)]
  # Rows of a group that have no value are told as missing.
  lacking <- answer$nelvat_all - n
  table <- rbind(groups[there, , drop = FALSE], groups[lacking > 0, , drop = FALSE])
  k <- sum(lacking > 0)
  none <- rep(NA_real_, k)
  table[[column]] <- c((shift + mean_off)[there], none)
  spread <- sqrt(pmax(answer$nelvat_squares - answer$nelvat_sum * mean_off, 0))
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

# Counts of groups.
asked_counts <- function(source, wanted, call) {
  answer <- grouped_rows(source, "COUNT(*) AS nelvat_n", wanted, call)
  list(data = answer[names(wanted$parts)], times = answer$nelvat_n)
}

grouped_rows <- function(source, measures, wanted, call) {
  question <- paste0(
    "SELECT ",
    paste(c(named_sql(wanted$parts, source), measures), collapse = ", "),
    " FROM ",
    source$from,
    asked_where(wanted),
    if (length(wanted$parts)) paste0(" GROUP BY ", paste(wanted$parts, collapse = ", ")),
    " LIMIT ",
    most_fetched + 1
  )
  answer <- engine_rows(source, question, call, "Summing up by group")
  if (nrow(answer) <= most_fetched) return(answer)
  abort_nelvat(
    "engine",
    c(
      paste0("There are over ", count_text(most_fetched), " groups of \"", source$label, "\"."),
      x = paste0("They are of ", quoted(names(wanted$parts)), "."),
      i = "Derive a coarser column, such as `derive = list(hour = floor(second / 3600))`."
    ),
    call
  )
}

# Counts of bins in each group; breaks and value in the shown unit; middles: what a bin is called
# in the column's own unit.
asked_bins <- function(source, column, value, breaks, middles, wanted, call) {
  bins <- length(breaks) - 1
  slack <- 16 * .Machine$double.eps * max(abs(range(breaks)))
  low <- sql_number(breaks[1] - slack)
  high <- sql_number(breaks[bins + 1] + slack)
  inner <- if (bins > 1) breaks[2:bins] + slack else numeric()
  class <- paste0(
    "CASE WHEN ",
    value,
    " < ",
    low,
    " THEN -1 WHEN ",
    value,
    " > ",
    high,
    " THEN ",
    bins,
    " WHEN ",
    value,
    " IS NULL THEN NULL ELSE ",
    sql_class(value, inner),
    " END"
  )
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
      bin < 0,
      outer[1],
      ifelse(bin >= bins, outer[2], middles[pmin(pmax(bin, 0), bins - 1) + 1])
    )
  )
  answer$data$nelvat_bin <- NULL
  answer
}

grid_cells <- 150000 # cells, of all groups together, that points are counted in

# Counts of two quantities in the cells of a fine grid, in each group: a row a cell, at the mean of
# what it holds.
asked_cells <- function(source, x, y, wanted, call) {
  value <- c(wanted$values[[x]], wanted$values[[y]])
  known <- paste(value, "IS NOT NULL")
  ends <- engine_rows(
    source,
    paste0(
      "SELECT COUNT(*) AS n, MIN(",
      value[1],
      ") AS xa, MAX(",
      value[1],
      ") AS xb, MIN(",
      value[2],
      ") AS ya, MAX(",
      value[2],
      ") AS yb FROM ",
      source$from,
      asked_where(wanted, known)
    ),
    call,
    "Asking for the ranges"
  )
  groups <- if (length(wanted$parts)) nrow(asked_counts(source, wanted, call)$data) else 1
  side <- max(10, min(500, floor(sqrt(min(grid_cells, most_fetched * 0.7) / groups))))
  class_of <- function(value, a, b) {
    width <- (b - a) / side
    if (!isTRUE(width > 0)) return("0")
    paste0("CAST((", value, " - ", sql_number(a), ") / ", sql_number(width), " AS INTEGER)")
  }
  cells <- c(
    nelvat_column = class_of(value[1], ends$xa, ends$xb),
    nelvat_row = class_of(value[2], ends$ya, ends$yb)
  )
  answer <- grouped_rows(
    source,
    c(
      "COUNT(*) AS nelvat_n",
      paste0("AVG(", value[1], ") AS nelvat_x"),
      paste0("AVG(", value[2], ") AS nelvat_y")
    ),
    changed(wanted, parts = c(wanted$parts, cells), where = c(wanted$where, known)),
    call
  )
  lacking <- lacking_cells(source, value, wanted, call)
  alike <- intersect(names(answer), names(lacking))
  both <- rbind(answer[alike], lacking[alike])
  data <- both[names(wanted$parts)]
  data[c(x, y)] <- both[c("nelvat_x", "nelvat_y")]
  list(data = data, times = c(answer$nelvat_n, lacking$nelvat_n), side = side)
}

# Rows that lack one of two quantities, by which of them, in each group.
lacking_cells <- function(source, value, wanted, call) {
  grouped_rows(
    source,
    c(
      "COUNT(*) AS nelvat_n",
      paste0("AVG(", value[1], ") AS nelvat_x"),
      paste0("AVG(", value[2], ") AS nelvat_y")
    ),
    changed(
      wanted,
      parts = c(
        wanted$parts,
        nelvat_lacks = paste0("CASE WHEN ", value[1], " IS NULL THEN 1 ELSE 0 END")
      ),
      where = c(wanted$where, paste(value, "IS NULL", collapse = " OR "))
    ),
    call
  )
}
