# What is seen of places that have a value each, as cells, polygons and isolines show them, and of
# slices: where it is greatest and least.

seen_peak <- function(layer, block) {
  traits <- ink_traits(layer$ink)
  shaded <- (traits$cells || traits$called == "patch") && is_ramp(layer$colour)
  variable <- if (shaded) layer$colour else if (traits$called == "cell") layer$ink$variables$z
  if (is.null(variable) || is.null(layer$x) || is.null(layer$y)) return(NULL)
  table <- table_rows(layer$table, layer$trained$used)
  table <- changed(table, value = table[[if (shaded) "colour" else "z"]])
  table <- table_rows(table, is.finite(table$value))
  if (NROW(table) < 2 || length(unique(table$value)) < 2) return(NULL)
  said_place <- function(row) {
    parts <- vapply(
      c("x", "y"),
      function(direction) place_said(layer[[direction]], table[[direction]][row], block, direction),
      ""
    )
    where <- seen_where(block, table$panel[row])
    paste0(listed(parts), if (nzchar(where)) paste(" in", where))
  }
  unit <- variable$kind$show %||% variable$kind$unit
  end <- function(row) {
    alike <- sum(table$value == table$value[row])
    paste0(
      "(",
      seen_number(table$value[row], unit),
      ") ",
      if (alike > 1) paste("in", alike, "places") else paste("at", said_place(row))
    )
  }
  short <- paste0(
    said_name(variable),
    ": highest ",
    end(which.max(table$value)),
    ", lowest ",
    end(which.min(table$value))
  )
  list(short = short, full = short)
}

# "rye" of a category, "loaf rise 40 mm" of a quantity.
place_said <- function(variable, value, block, direction) {
  if (has_levels(variable$kind)) return(plain_text(level_titles(variable$kind)[value]))
  axis <- seen_axis(block, block$panels$id[1], direction)
  if (variable$kind$kind == "moment") return(paste(axis_said(axis), format(value)))
  paste(axis_said(axis), seen_number(value, axis$unit))
}

# Shares of a whole: which is the largest and the smallest.
seen_slices <- function(layer, block) {
  found <- layer$trained$findings
  if (is.null(found) || !identical(unique(found$part), "slice") || NROW(found) < 2) return(NULL)
  labels <- plain_text(level_titles(layer$colour$kind))[found$colour]
  marks <- data.frame(panel = found$panel, label = labels, value = found$share)
  if (length(unique(marks$panel)) > 1) marks <- changed(marks, label = in_panel_label(marks, block))
  shares <- paste0(number_text_each(100 * marks$value, 2), "\u00a0%")
  short <- paste0(said_name(layer$colour), ": ", end_phrase(marks, c("most", "least")))
  list(short = short, full = paste0(short, "; ", paste(marks$label, shares, collapse = "; ")))
}

# Rows of a quantity at the levels of an axis, as dots or ridges: where their median is highest and
# lowest.
seen_levels <- function(layer, block) {
  rows <- ink_traits(layer$ink)$summarises %in% c("values", "spread")
  if (!rows || is.null(layer$x) || is.null(layer$y)) return(NULL)
  along <- Filter(function(direction) has_levels(layer[[direction]]$kind), c("x", "y"))
  if (length(along) != 1) return(NULL)
  across <- setdiff(c("x", "y"), along)
  variable <- layer[[across]]
  if (isTRUE(variable$supplied) || !identical(variable$kind$kind, "quantity")) return(NULL)
  table <- table_rows(layer$table, layer$trained$used)
  table <- table_rows(table, complete_rows(table, c("x", "y")))
  if (!NROW(table)) return(NULL)
  middle <- medians_of(
    changed(table, value = table[[across]]),
    list(level = table[[along]], panel = table$panel)
  )
  if (!is_order_known(middle)) return(NULL)
  marks <- data.frame(
    panel = middle$panel,
    label = plain_text(level_titles(layer[[along]]$kind)[middle$level]),
    value = middle$value
  )
  several <- nrow(table) > nrow(middle)
  name <- paste0(
    axis_said(seen_axis(block, marks$panel[1], across)),
    if (several) ", medians"
  )
  marks <- changed(marks, label = in_panel_label(marks, block))
  if (nrow(marks) < 2) return(NULL)
  short <- paste0(name, ": ", end_phrase(marks))
  # Of classes in which values were counted no number is known.
  if (!is.null(table$times)) return(list(short = short, full = short))
  unit <- variable$kind$show %||% variable$kind$unit
  list(
    short = short,
    full = paste0(short, "; ", paste(marks$label, seen_number(marks$value, unit), collapse = "; "))
  )
}
