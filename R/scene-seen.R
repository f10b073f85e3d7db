# What a reader takes away from a block, for who cannot see it: the order of groups, which way
# values go, what stands out. Read from findings, and from rows where marks are the rows themselves.
# A table: block, short (one sentence without its end), full (with its numbers).

block_seen <- function(block) {
  if (!is.null(block$design$zoom)) return(NULL)
  layers <- Filter(
    function(layer) {
      !layer$behind && layer$role %in% c("panel", "matrix") && NROW(layer$trained$table)
    },
    block$layers
  )
  for (layer in layers) {
    seen <- seen_centres(layer, block) %||% seen_medians(layer, block) %||%
      seen_peak(layer, block) %||% seen_levels(layer, block) %||% seen_trend(layer, block) %||%
      seen_slices(layer, block) %||% seen_shares(layer, block) %||%
      seen_spread(layer, block)
    if (!is.null(seen)) {
      return(new_table(block = block$id, short = seen$short, full = seen$full, .rows = 1L))
    }
  }
  NULL
}

# What an area is called in a sentence, "" for a lone one.
seen_where <- function(block, ids) {
  called <- block$panels$called[match(ids, block$panels$id)]
  ifelse(is.na(called), "", called)
}

seen_number <- function(values, unit) {
  paste0(
    grouped_digits(number_text_each(values, 3)),
    if (!is.null(unit) && nzchar(unit)) paste0("\u00a0", plain_text(unit))
  )
}

# The axis of an area in a direction, and its name in a sentence, without its unit.
seen_axis <- function(block, id, direction) {
  block$axes[[block$panels[[paste0(direction, "_axis")]][match(id, block$panels$id)]]]
}
axis_said <- function(axis) {
  sub(" \\([^()]*\\)$", "", plain_text(name_in_sentence(axis$name, axis$variable)))
}

# Centres at the levels of an axis: the highest and the lowest mark of each panel.
seen_centres <- function(layer, block) {
  marks <- seen_marks(layer, block)
  if (is.null(marks) || !any(duplicated(marks$panel))) return(NULL)
  across <- if (!is.null(layer$y) && has_levels(layer$y$kind)) "x" else "y"
  by_panel <- split(marks, factor(marks$panel, unique(marks$panel)))
  ids <- as.integer(names(by_panel))
  axes <- lapply(ids, function(id) seen_axis(block, id, across))
  names <- vapply(axes, axis_said, "")
  phrases <- vapply(by_panel, end_phrase, "", USE.NAMES = FALSE)
  short <- if (length(unique(names)) > 1) {
    where <- seen_where(block, ids)
    # Panels of one variable are told apart by all that they are called.
    lead <- if (anyDuplicated(names)) ifelse(nzchar(where), where, names) else names
    paste(unique(paste0(lead, ": ", phrases)), collapse = "; ")
  } else if (length(unique(phrases)) == 1) {
    paste0(names[1], ": ", phrases[1], if (length(ids) > 1) " in every panel")
  } else {
    paste0(names[1], ": ", end_phrase(changed(marks, label = in_panel_label(marks, block))))
  }
  each <- unlist(
    Map(
      function(one, axis) {
        paste(in_panel_label(one, block), seen_number(one$value, axis$unit))
      },
      by_panel,
      axes
    ),
    use.names = FALSE
  )
  list(short = short, full = paste0(short, "; ", paste(each, collapse = "; ")))
}

# The marks that stand for groups: panel, label by the levels that part them, value. Parts of a
# stack are summed; NULL where there are none, or shares of a whole.
seen_marks <- function(layer, block) {
  found <- layer$trained$findings
  column <- c(intersect(c("centre", "median"), names(found)), NA)[1]
  if (is.na(column)) return(NULL)
  found <- found[is.na(found$why) & !is.na(found[[column]]), ]
  along <- if (!is.null(layer$y) && has_levels(layer$y$kind)) "y" else "x"
  if (!NROW(found) || is.null(found[[along]]) || !has_levels(layer[[along]]$kind)) return(NULL)
  # In the order of levels, whatever that of the rows is.
  parting <- intersect(c("panel", along, "colour", "shape", "dash"), names(found))
  found <- found[do.call(order, unname(as.list(found[parting]))), ]
  levels <- plain_text(layer[[along]]$kind$level_names)[found[[along]]]
  if (!is.null(found$base) && any(found$base != 0)) {
    total <- rowsum(found[[column]], paste(found$panel, found[[along]]), reorder = FALSE)
    first <- !duplicated(paste(found$panel, found[[along]]))
    values <- as.vector(total)
    # Each whole is the same where shares are shown.
    if (max(values) - min(values) < 1e-9 * max(abs(values))) return(NULL)
    return(
      data.frame(panel = found$panel[first], label = levels[first], value = values)
    )
  }
  channels <- Filter(
    function(channel) {
      !is.null(found[[channel]]) && !identical(layer[[channel]]$id, layer[[along]]$id)
    },
    c("colour", "shape", "dash")
  )
  labels <- lapply(channels, function(channel) {
    plain_text(level_titles(layer[[channel]]$kind))[found[[channel]]]
  })
  parts <- do.call(cbind, c(list(levels), labels))
  data.frame(
    panel = found$panel,
    # "Wheat (60, open)".
    label = apply(parts, 1, function(row) {
      row <- unique(row[nzchar(row, keepNA = TRUE) %in% TRUE])
      # Of a slot that is alone there is no name.
      if (!length(row)) return("")
      paste0(row[1], if (length(row) > 1) paste0(" (", paste(row[-1], collapse = ", "), ")"))
    }),
    value = found[[column]]
  )
}

in_panel_label <- function(marks, block) {
  where <- seen_where(block, marks$panel)
  between <- ifelse(nzchar(where) & nzchar(marks$label), " in ", "")
  paste0(marks$label, between, where)
}

# "highest for wheat, lowest for rye"; marks that are alike are named together.
end_phrase <- function(marks, ends = c("highest", "lowest")) {
  slack <- 1e-9 * max(abs(marks$value))
  if (max(marks$value) - min(marks$value) <= slack) return("alike for all")
  of <- function(end) {
    labels <- marks$label[abs(marks$value - end) <= slack]
    if (length(labels) > 3) paste(length(labels), "alike") else listed(labels)
  }
  paste0(ends[1], " for ", of(max(marks$value)), ", ", ends[2], " for ", of(min(marks$value)))
}

# Curves with a median along x, such as those of times to an event: which group's is the greatest.
seen_medians <- function(layer, block) {
  found <- layer$trained$findings
  if (is.null(found$median) || !identical(unique(found$value), "x")) return(NULL)
  channel <- Find(
    function(channel) is_category(layer[[channel]]) && !is.null(found[[channel]]),
    c("colour", "shape", "dash", "group")
  )
  labels <- if (is.null(channel)) {
    rep("all", nrow(found))
  } else {
    plain_text(level_titles(layer[[channel]]$kind))[found[[channel]]]
  }
  axis <- seen_axis(block, found$panel[1], "x")
  marks <- data.frame(panel = found$panel, label = labels, value = found$median)
  marks <- changed(marks, label = in_panel_label(marks, block))
  known <- marks[!is.na(marks$value), ]
  told <- paste(known$label, seen_number(known$value, axis$unit), recycle0 = TRUE)
  none <- marks$label[is.na(marks$value)]
  full <- c(told, if (length(none)) paste0("not reached by ", listed(none)))
  name <- paste0("median ", axis_said(axis))
  short <- if (nrow(known) > 1 && !length(none)) {
    paste0(name, ": ", end_phrase(known))
  } else {
    paste0(name, ": ", paste(full, collapse = ", "))
  }
  list(short = short, full = paste0(name, ": ", paste(full, collapse = "; ")))
}

# Rows of two quantities: whether they rise together.
seen_trend <- function(layer, block) {
  both <- !is.null(layer$x) && !is.null(layer$y) && !has_levels(layer$x$kind) &&
    !has_levels(layer$y$kind) && !isTRUE(layer$x$supplied) && !isTRUE(layer$y$supplied)
  traits <- ink_traits(layer$ink)
  # Of polygons and cells the places say nothing.
  shows_rows <- any(c("symbol", "line") %in% traits$mark) ||
    traits$summarises %in% c("counts", "spread")
  hidden <- isTRUE(layer$x$kind$hidden) || isTRUE(layer$y$kind$hidden)
  if (!both || !shows_rows || hidden) return(NULL)
  y <- replaced_values(layer$ink, layer) %||% layer$table$y
  table <- table_rows(changed(layer$table, y = y), layer$trained$used)
  ids <- unique(table$panel)
  matrix <- length(unique(block$panels$x_axis)) > 1 && length(unique(block$panels$y_axis)) > 1
  r <- vapply(
    ids,
    function(id) {
      rows <- which(table$panel == id & complete_rows(table, c("x", "y")))
      if (length(unique(table$x[rows])) < 4 || length(unique(table$y[rows])) < 3) return(NA_real_)
      rank_correlation(table$x[rows], table$y[rows], table$times[rows])
    },
    0
  )
  # On the diagonal of a matrix a variable meets itself.
  self <- block$panels$x_variable[match(ids, block$panels$id)] ==
    block$panels$y_variable[match(ids, block$panels$id)]
  r[which(self)] <- NA
  if (all(is.na(r))) return(NULL)
  axis_name <- function(id, direction) axis_said(seen_axis(block, id, direction))
  way <- function(r) if (abs(r) < 0.3) "no clear trend" else if (r > 0) "rising" else "falling"
  # Of rows that were counted in classes it is known about.
  digits <- if (is.null(table$times)) two_digits else one_digit
  strong <- function(r) paste0("rank correlation ", digits(r))
  one <- function(i) {
    paste0(axis_name(ids[i], "y"), " against ", axis_name(ids[i], "x"), ": ", way(r[i]))
  }
  most <- which.max(abs(r))
  if (matrix && length(ids) > 1) {
    short <- paste0("closest of all pairs is ", one(most), ", ", strong(r[most]))
    every <- paste0(vapply(which(!is.na(r)), one, ""), ", ", vapply(r[!is.na(r)], strong, ""))
    return(list(short = short, full = paste(every, collapse = "; ")))
  }
  if (length(ids) == 1) {
    short <- paste0(one(1), ", ", strong(r))
    return(list(short = short, full = short))
  }
  known <- which(!is.na(r))
  ways <- vapply(r[known], way, "")
  where <- seen_where(block, ids[known])
  pairs <- vapply(
    ids[known],
    function(id) paste(axis_name(id, "y"), "against", axis_name(id, "x")),
    ""
  )
  along <- vapply(ids[known], axis_name, "", "x")
  ends <- paste(unique(digits(range(r, na.rm = TRUE))), collapse = " to ")
  short <- if (length(unique(ways)) == 1) {
    paste0(one(most), " in every panel, rank correlations ", ends)
  } else if (length(unique(pairs)) == 1 && all(nzchar(where))) {
    paste0(pairs[1], ": ", ways_phrase(ways, where), ", rank correlations ", ends)
  } else if (length(unique(along)) == 1 && !anyDuplicated(pairs)) {
    # A panel a measure.
    measures <- vapply(ids[known], axis_name, "", "y")
    said <- ways_phrase(ways, measures, "for")
    paste0("against ", along[1], ": ", said, ", rank correlations ", ends)
  } else {
    place <- seen_where(block, ids[most])
    paste0(one(most), if (nzchar(place)) paste(" in", place), ", ", strong(r[most]))
  }
  each <- paste(where, digits(r[known]))
  list(short = short, full = paste0(short, "; ", paste(each, collapse = "; ")))
}

# "rising in wheat and spelt, falling in rye"; what most panels show comes first.
ways_phrase <- function(ways, where, joint = "in") {
  shown <- names(sort(table(factor(ways, unique(ways))), decreasing = TRUE))
  said <- vapply(
    shown,
    function(way) {
      of_way <- where[ways == way]
      # Names of two levels would run into each other.
      several <- length(of_way) > 3 || length(where) > 3 && any(grepl(", ", of_way))
      paste0(
        way,
        " ",
        joint,
        " ",
        if (several) paste(length(of_way), "of", length(where), "panels") else listed(of_way)
      )
    },
    ""
  )
  paste(said, collapse = ", ")
}

# Spearman's coefficient (1904); times: how often each pair is there; NULL: once.
rank_correlation <- function(x, y, times = NULL) {
  if (is.null(times)) return(stats::cor(rank(x), rank(y)))
  ranked <- function(values) {
    each <- rowsum(times, values)
    middle <- cumsum(each) - (each - 1) / 2
    middle[match(values, sort(unique(values)))]
  }
  stats::cov.wt(cbind(ranked(x), ranked(y)), times, cor = TRUE)$cor[1, 2]
}

one_digit <- function(r) {
  text <- sprintf("%.1f", abs(r))
  paste0("about ", ifelse(r < 0 & text != "0.0", "\u2212", ""), text)
}

# What is all but one, and not one, is not written as one.
two_digits <- function(r) {
  text <- sprintf("%.2f", abs(r))
  text <- ifelse(abs(r) < 1 & text == "1.00", "over 0.99", text)
  paste0(ifelse(r < 0 & text != "0.00", "\u2212", ""), text)
}
