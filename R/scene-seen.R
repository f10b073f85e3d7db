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
    seen <- seen_centres(layer, block) %||% seen_trend(layer, block) %||% seen_spread(layer, block)
    if (!is.null(seen)) {
      return(new_table(block = block$id, short = seen$short, full = seen$full, .rows = 1L))
    }
  }
  NULL
}

# Heading of an area in a sentence, "" for a lone one.
seen_where <- function(block, ids) {
  heading <- block$panels$heading[match(ids, block$panels$id)]
  ifelse(is.na(heading), "", plain_text(gsub("\n", " ", heading)))
}

seen_number <- function(values, variable) {
  unit <- variable$kind$show %||% variable$kind$unit
  paste0(
    number_text_each(values, 3),
    if (!is.null(unit) && nzchar(unit)) paste0("\u00a0", plain_text(unit))
  )
}

# Centres of the levels of an axis: which is highest and lowest, and whether in every panel.
seen_centres <- function(layer, block) {
  found <- layer$trained$findings
  column <- c(intersect(c("centre", "median"), names(found)), NA)[1]
  if (is.na(column)) return(NULL)
  found <- found[is.na(found$why) & !is.na(found[[column]]), ]
  lies <- !is.null(layer$y) && has_levels(layer$y$kind)
  along <- if (lies) "y" else "x"
  if (!NROW(found) || is.null(found[[along]]) || !has_levels(layer[[along]]$kind)) return(NULL)
  measured <- if (lies) layer$x else layer$y
  kind <- layer[[along]]$kind
  names <- plain_text(kind$level_names)
  # Of several groups at a level, their mean tells where it stands.
  by_panel <- split(found, found$panel)
  ends <- lapply(by_panel, function(one) {
    mean_of <- tapply(one[[column]], one[[along]], mean)
    list(high = names(which.max(mean_of)), low = names(which.min(mean_of)), n = length(mean_of))
  })
  if (ends[[1]]$n < 2) return(NULL)
  level <- function(code) names[as.integer(code)]
  high <- unique(vapply(ends, `[[`, "", "high"))
  low <- unique(vapply(ends, `[[`, "", "low"))
  count <- identical(measured$id, "Count") || isTRUE(measured$kind$count)
  name <- if (count) "the count" else said_name(measured)
  every <- if (length(by_panel) > 1) " in every panel" else ""
  top <- found[which.max(found[[column]]), ]
  short <- if (length(high) == 1 && length(low) == 1) {
    paste0(name, ": highest for ", level(high), ", lowest for ", level(low), every)
  } else {
    paste0(
      name,
      ": highest for ",
      level(top[[along]]),
      if (nzchar(seen_where(block, top$panel))) paste0(" in ", seen_where(block, top$panel))
    )
  }
  found <- found[order(found$panel, found[[along]]), ]
  each <- paste0(
    vapply(
      seq_len(nrow(found)),
      function(i) {
        channels <- intersect(c("colour", "shape", "dash"), names(found))
        of_channels <- vapply(
          channels,
          function(channel) plain_text(level_titles(layer[[channel]]$kind))[found[[channel]][i]],
          ""
        )
        place <- seen_where(block, found$panel[i])
        paste(
          unique(
            c(if (nzchar(place)) place, level(found[[along]][i]), stats::na.omit(of_channels))
          ),
          collapse = ", "
        )
      },
      ""
    ),
    " ",
    seen_number(found[[column]], measured)
  )
  list(short = short, full = paste0(short, "; ", paste(each, collapse = "; ")))
}

# Rows of two quantities: whether they rise together, by Spearman's coefficient (1904).
seen_trend <- function(layer, block) {
  both <- !is.null(layer$x) && !is.null(layer$y) && !has_levels(layer$x$kind) &&
    !has_levels(layer$y$kind) && !isTRUE(layer$x$supplied) && !isTRUE(layer$y$supplied)
  if (!both) return(NULL)
  table <- layer$table
  ids <- unique(table$panel)
  matrix <- length(unique(block$panels$x_axis)) > 1 && length(unique(block$panels$y_axis)) > 1
  r <- vapply(
    ids,
    function(id) {
      rows <- which(table$panel == id & complete_rows(table, c("x", "y")))
      if (length(unique(table$x[rows])) < 4 || length(unique(table$y[rows])) < 3) return(NA_real_)
      stats::cor(rank(table$x[rows]), rank(table$y[rows]))
    },
    0
  )
  # On the diagonal of a matrix a variable meets itself.
  self <- block$panels$x_variable[match(ids, block$panels$id)] ==
    block$panels$y_variable[match(ids, block$panels$id)]
  r[which(self)] <- NA
  if (all(is.na(r))) return(NULL)
  axis_name <- function(id, direction) {
    axis <- block$axes[[block$panels[[paste0(direction, "_axis")]][match(id, block$panels$id)]]]
    # Without its unit.
    sub(" \\([^()]*\\)$", "", plain_text(name_in_sentence(axis$name, axis$variable)))
  }
  way <- function(r) if (abs(r) < 0.3) "no clear trend" else if (r > 0) "rising" else "falling"
  strong <- function(r) paste0("rank correlation ", two_digits(r))
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
  ways <- unique(vapply(r[!is.na(r)], way, ""))
  ends <- paste(unique(two_digits(range(r, na.rm = TRUE))), collapse = " to ")
  short <- if (length(ways) == 1) {
    paste0(one(most), " in every panel, rank correlations ", ends)
  } else {
    place <- seen_where(block, ids[most])
    paste0(one(most), if (nzchar(place)) paste(" in", place), ", ", strong(r[most]))
  }
  each <- paste(seen_where(block, ids), two_digits(r))[!is.na(r)]
  list(short = short, full = paste0(short, "; ", paste(each, collapse = "; ")))
}

# What is all but one, and not one, is not written as one.
two_digits <- function(r) {
  text <- sprintf("%.2f", abs(r))
  text <- ifelse(abs(r) < 1 & text == "1.00", "over 0.99", text)
  paste0(ifelse(r < 0 & text != "0.00", "\u2212", ""), text)
}

# Values along one axis: where half of them lie, of each group that is told apart.
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
  values <- layer$table[[along]]
  values <- values[is.finite(values)]
  if (length(values) < 8) return(NULL)
  q <- stats::quantile(values, c(0, 0.25, 0.5, 0.75, 1), names = FALSE)
  short <- paste0(
    said_name(variable),
    ": half of the values between ",
    number_text_each(q[2], 3),
    " and ",
    seen_number(q[4], variable)
  )
  list(
    short = short,
    full = paste0(
      short,
      ": least ",
      seen_number(q[1], variable),
      "; median ",
      seen_number(q[3], variable),
      "; greatest ",
      seen_number(q[5], variable)
    )
  )
}
