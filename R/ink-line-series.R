# Lines of single values, and of the centre at each x.

# along: "x", "y" or "rows", what the values of a series are joined in the order of.
raw_lines <- function(table, series, along = "x") {
  rows_in_series <- which(!is.na(series$at))
  rank <- if (along == "rows") seq_len(nrow(table)) else table[[along]]
  rows_in_series <- rows_in_series[order(series$at[rows_in_series], rank[rows_in_series])]
  series_of <- series$at[rows_in_series]
  new_table(
    panel = table$panel[rows_in_series],
    series = series_of,
    order = series_order(series$rows)[series_of],
    x = table$x[rows_in_series],
    y = table$y[rows_in_series],
    lower = NA_real_,
    upper = NA_real_,
    n = 1L,
    .rows = length(rows_in_series)
  )
}

centre_lines <- function(table, series, ink, scale) {
  at_x <- match_rows(new_table(series = series$at, x = table$x), !is.na(series$at))
  n <- nrow(at_x$rows)
  middle <- centre_error(
    scale$forward(table$y),
    at_x$at,
    n,
    ink$centre,
    ink$band %||% errors_of(ink$centre)[1],
    ink$seed,
    parts_of(table)
  )
  rows <- table_rows(at_x$rows, middle$group)
  lines <- new_table(
    panel = series$rows$panel[rows$series],
    series = rows$series,
    order = series_order(series$rows)[rows$series],
    x = rows$x,
    y = scale$restored(middle$centre),
    lower = scale$restored(middle$lower),
    upper = scale$restored(middle$upper),
    n = middle$n,
    .rows = nrow(rows)
  )
  table_rows(lines, order(lines$series, lines$x))
}
