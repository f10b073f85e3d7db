# What lines of single values are joined along, and where they end.

# A head at the end of each line, the way that it goes there.
end_heads <- function(paths, site) {
  ends <- split(seq_len(nrow(paths)), paths$line)
  # As far back as the head is long, so that a bend at the very end does not turn it.
  from <- vapply(
    ends,
    function(rows) {
      last <- rows[length(rows)]
      across <- (paths$x[rows] - paths$x[last]) * site$panel_w(paths$panel[last])
      up <- (paths$y[rows] - paths$y[last]) * site$panel_h(paths$panel[last])
      rows[max(c(1, which(sqrt(across^2 + up^2) >= arrow_head_mm)))]
    },
    0L
  )
  to <- vapply(ends, function(rows) rows[length(rows)], 0L)
  moved <- paths$x[from] != paths$x[to] | paths$y[from] != paths$y[to]
  from <- from[moved]
  to <- to[moved]
  if (!length(to)) return(NULL)
  found <- arrow_heads(
    paths$x[from],
    paths$y[from],
    paths$x[to],
    paths$y[to],
    paths$panel[to],
    paths$colour[to],
    site
  )
  list(new_marks("areas", found$heads))
}

# What lines of single values are joined along.
joined_words <- function(ink) {
  switch(
    ink$along %||% "x",
    x = "single values, joined",
    y = "single values, joined in the order of y",
    rows = "single values, joined in the order of the rows"
  )
}
