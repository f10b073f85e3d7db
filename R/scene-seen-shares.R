# What is seen of shares, and of values along one axis.

# Bars of one length that are parted, such as shares of a whole: which part is the largest in each.
seen_shares <- function(layer, block) {
  found <- layer$trained$findings
  along <- Find(
    function(channel) !is.null(found[[channel]]) && has_levels(layer[[channel]]$kind),
    c("y", "x")
  )
  parted <- !is.null(found$base) && !is.null(found$colour) && is_category(layer$colour)
  if (is.null(along) || !parted) return(NULL)
  found <- found[is.na(found$why) & !is.na(found$centre), ]
  if (!NROW(found) || !any(found$base != 0)) return(NULL)
  found <- found[order(found$panel, found[[along]], found$colour), ]
  bar <- match(paste(found$panel, found[[along]]), unique(paste(found$panel, found[[along]])))
  first <- which(!duplicated(bar))
  labels <- in_panel_label(
    data.frame(
      panel = found$panel[first],
      label = plain_text(level_titles(layer[[along]]$kind))[found[[along]][first]]
    ),
    block
  )
  parts <- plain_text(level_titles(layer$colour$kind))[found$colour]
  largest <- vapply(
    split(seq_along(bar), bar),
    function(rows) {
      most <- max(found$centre[rows])
      alike <- found$centre[rows] >= most - 1e-9 * abs(most)
      if (all(alike) && length(rows) > 1) "none" else listed(parts[rows][alike])
    },
    ""
  )
  of <- vapply(
    unique(largest),
    function(part) {
      whose <- labels[largest == part]
      paste(
        part,
        "for",
        if (length(whose) > 3) paste(length(whose), "of", length(labels)) else listed(whose)
      )
    },
    ""
  )
  short <- if (all(largest == "none")) {
    "all parts are alike"
  } else if (length(of) == 1) {
    paste0("largest part: ", largest[1], " for all")
  } else {
    paste0("largest part: ", paste(of, collapse = ", "))
  }
  axis <- seen_axis(block, found$panel[1], setdiff(c("x", "y"), along))
  shares <- paste(parts, seen_number(found$centre, axis$unit))
  each <- vapply(split(shares, bar), paste, "", collapse = ", ")
  list(short = short, full = paste0(short, "; ", paste0(labels, ": ", each, collapse = "; ")))
}

# Values along one axis: which of the groups that are told apart has the highest median; where half
# of all lie.
seen_spread <- function(layer, block) {
  along <- if (!all(is.na(layer$table$x))) "x" else "y"
  variable <- layer[[along]]
  other <- layer[[setdiff(c("x", "y"), along)]]
  alone <- is.null(other) || isTRUE(other$supplied)
  if (
    is.null(variable) || has_levels(variable$kind) || variable$kind$kind != "quantity" || !alone
  ) {
    return(NULL)
  }
  table <- table_rows(layer$table, layer$trained$used)
  table <- changed(table, value = table[[along]])
  table <- table_rows(table, is.finite(table$value))
  if (NROW(table) < 8) return(NULL)
  unit <- variable$kind$show %||% variable$kind$unit
  name <- said_name(variable)
  of_groups <- seen_groups(layer, block, table, name, unit)
  if (!is.null(of_groups)) return(of_groups)
  # Of classes in which values were counted no quartile is known.
  if (is.null(table$times)) seen_middle(table$value, name, unit)
}

seen_groups <- function(layer, block, table, name, unit) {
  found <- layer$trained$findings
  channel <- Find(
    function(channel) is_category(layer[[channel]]) && !is.null(found[[channel]]),
    c("colour", "shape", "dash")
  )
  groups <- if (!is.null(channel)) table[[channel]]
  if (length(unique(table$panel)) * max(1, length(unique(groups))) < 2) return(NULL)
  parts <- if (is.null(channel)) list(table$panel) else list(groups, table$panel)
  middle <- medians_of(table, parts)
  if (!is_order_known(middle)) return(NULL)
  area <- middle[[length(parts)]]
  label <- if (is.null(channel)) {
    seen_where(block, area)
  } else {
    marks <- data.frame(
      panel = area,
      label = plain_text(level_titles(layer[[channel]]$kind))[middle[[1]]]
    )
    in_panel_label(marks, block)
  }
  marks <- data.frame(label = label, value = middle$value)
  if (NROW(marks) < 2 || !all(nzchar(label))) return(NULL)
  short <- paste0(name, ", medians: ", end_phrase(marks))
  if (!is.null(table$times)) return(list(short = short, full = short))
  each <- paste(marks$label, seen_number(marks$value, unit))
  list(short = short, full = paste0(short, "; ", paste(each, collapse = "; ")))
}

# The median `value` in each part of a table, and the least and the greatest that it can be: that of
# values that stand for many lies among those which they stand for, where that is known.
medians_of <- function(table, parts) {
  middle <- stats::aggregate(list(row = seq_len(NROW(table))), parts, function(rows) {
    rising <- rows[order(table$value[rows])]
    upto <- cumsum(if (is.null(table$times)) rep(1, length(rows)) else table$times[rising])
    rising[c(which(upto >= max(upto) / 2)[1], which(upto > max(upto) / 2)[1])]
  })
  low <- middle$row[, 1]
  high <- middle$row[, 2]
  middle$row <- NULL
  if (is.null(table$times)) {
    value <- (table$value[low] + table$value[high]) / 2
    return(changed(middle, value = value, least = value, greatest = value))
  }
  changed(
    middle,
    value = table$value[low],
    least = if (is.null(table$least)) -Inf else table$least[low],
    greatest = if (is.null(table$greatest)) Inf else table$greatest[high]
  )
}

# Is it sure which of some medians is the highest and which the lowest?
is_order_known <- function(middle) {
  top <- which.max(middle$value)
  bottom <- which.min(middle$value)
  isTRUE(
    all(
      middle$greatest[-top] <= middle$least[top],
      middle$least[-bottom] >= middle$greatest[bottom]
    )
  )
}

seen_middle <- function(values, name, unit) {
  q <- stats::quantile(values, c(0, 0.25, 0.5, 0.75, 1), names = FALSE)
  short <- paste0(
    name,
    ": half of the values between ",
    number_text_each(q[2], 3),
    " and ",
    seen_number(q[4], unit)
  )
  list(
    short = short,
    full = paste0(
      short,
      "; least ",
      seen_number(q[1], unit),
      "; median ",
      seen_number(q[3], unit),
      "; greatest ",
      seen_number(q[5], unit)
    )
  )
}
