# How many values lie beyond rules, written in the corners of the panel.

# The findings, a row a corner, with its limits along x (from, to) and y (lower, upper).
corner_counts <- function(ink, layer) {
  # A value on a rule is not beyond it.
  sides_of <- function(rules, both) {
    if (!length(rules)) return(data.frame(low = NA_real_, high = NA_real_))
    above <- data.frame(low = max(rules), high = NA_real_)
    if (both) rbind(data.frame(low = NA_real_, high = min(rules)), above) else above
  }
  x <- sides_of(ink$x, TRUE)
  y <- sides_of(ink$y, length(ink$y) > 1)
  corners <- expand.grid(x = seq_len(nrow(x)), y = seq_len(nrow(y)), panel = panels_where(layer))
  x <- x[corners$x, ]
  y <- y[corners$y, ]
  table <- layer$table
  # A row without one of its places is not drawn.
  there <- Filter(function(direction) !all(is.na(table[[direction]])), c("x", "y"))
  known <- complete_rows(table, there)
  beyond <- function(values, low, high) {
    if (is.na(low) && is.na(high)) return(TRUE)
    !is.na(values) & if (is.na(high)) values > low else values < high
  }
  n <- vapply(
    seq_len(nrow(corners)),
    function(k) {
      inside <- beyond(table$x, x$low[k], x$high[k]) & beyond(table$y, y$low[k], y$high[k])
      rows_behind(table, table$panel == corners$panel[k] & known & inside)
    },
    0
  )
  new_findings(
    corners["panel"],
    "corner",
    n,
    from = x$low,
    to = x$high,
    lower = y$low,
    upper = y$high,
    value = NA_character_,
    why = ifelse(n > 0, NA, "no value lies there")
  )
}

# Of one panel with the numbers themselves.
corner_phrase <- function(found) {
  one_panel <- length(unique(found$panel)) == 1
  paste0(
    "numbers, how many values lie beyond them",
    if (one_panel) paste0(" (", listed(count_text(found$n)), ")")
  )
}

corner_words <- function(ink, found, site) {
  panels <- found$panel
  # An axis that runs the other way has its low values at its other end.
  ends <- function(low, high, direction) {
    unit <- function(values, missing) {
      on_axis <- site$unit(ifelse(is.na(values), missing, values), panels, direction)
      pmin(pmax(on_axis, 0), 1)
    }
    end <- function(at) site$data(rep(at, length(panels)), panels, direction)
    from <- unit(low, pmin(end(0), end(1)))
    to <- unit(high, pmax(end(0), end(1)))
    list(low = pmin(from, to), high = pmax(from, to))
  }
  x <- ends(found$from, found$to, "x")
  y <- ends(found$lower, found$upper, "y")
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = panels,
          string = count_text(found$n),
          size_pt = site$house$type_pt$base,
          colour = ink$colour %||% site$house$colour$text,
          x0 = x$low,
          x1 = x$high,
          y0 = y$low,
          y1 = y$high,
          .rows = nrow(found)
        )
      ),
      list(role = "value", corner = TRUE)
    )
  )
}
