# Box and whiskers of each group.
#
# Definitions: quartiles by linear interpolation (type 7 of Hyndman and Fan 1996);
# whiskers to the farthest values within `whiskers` interquartile ranges of the box, to the least
# and greatest value ("range"), or to two quantiles; outliers are the values beyond. Notches: median
# +- 1.58 IQR / sqrt(n), the interval
# of McGill, Tukey and Larsen (1978), "Variations of box plots", The American
# Statistician 32(1). Box and whiskers: Tukey (1977), "Exploratory Data Analysis".
#
# Returns list(boxes: group, n, q1, median, q3, low, high, notch_low, notch_high;
# outliers: group, value; beyond: how many, by box). parts: see group_sums(); of values that stand
# for many there are no outliers, only how many.
box_summary <- function(
  values,
  group,
  n_groups = max(group, 0L, na.rm = TRUE),
  whiskers = 1.5,
  parts = NULL
) {
  if (!is.null(parts)) return(counted_boxes(values, group, n_groups, whiskers, parts))
  is_known <- !is.na(values) & !is.na(group)
  parts <- split(values[is_known], group[is_known])
  boxes <- lapply(parts, box_impl, whiskers = whiskers)
  outliers <- Map(function(v, box) v[v < box[["low"]] | v > box[["high"]]], parts, boxes)
  groups <- as.integer(names(parts))
  columns <- lapply(
    stats::setNames(nm = c("q1", "median", "q3", "low", "high", "notch_low", "notch_high")),
    function(name) vapply(boxes, `[[`, 0, name, USE.NAMES = FALSE)
  )
  list(
    boxes = do.call(
      new_table,
      c(
        list(group = groups, n = lengths(parts, use.names = FALSE)),
        columns,
        list(.rows = length(groups))
      )
    ),
    outliers = new_table(
      group = rep(groups, lengths(outliers)),
      value = as.numeric(unlist(outliers)),
      .rows = sum(lengths(outliers))
    ),
    beyond = lengths(outliers, use.names = FALSE)
  )
}

counted_boxes <- function(values, group, n_groups, whiskers, parts) {
  known <- which(!is.na(values) & !is.na(group))
  rows <- split(known, factor(group[known], seq_len(n_groups)))
  groups <- which(lengths(rows) > 0)
  boxes <- lapply(rows[groups], function(of_group) {
    counted_box(counted_values(values, parts, of_group), whiskers)
  })
  columns <- do.call(rbind, lapply(boxes, `[[`, "box"))
  n <- vapply(rows[groups], function(of_group) sum(parts$times[of_group]), 0, USE.NAMES = FALSE)
  list(
    boxes = do.call(
      new_table,
      c(list(group = groups, n = n), as.list(as.data.frame(columns)), list(.rows = length(groups)))
    ),
    outliers = new_table(group = integer(), value = numeric(), .rows = 0L),
    beyond = vapply(boxes, `[[`, 0, "beyond", USE.NAMES = FALSE)
  )
}

box_impl <- function(v, whiskers) {
  q <- stats::quantile(v, c(0.25, 0.5, 0.75), names = FALSE, type = 7)
  box_columns(q, whisker_ends(v, q, whiskers), length(v))
}

box_columns <- function(q, ends, n) {
  notch <- 1.58 * (q[3] - q[1]) / sqrt(n)
  c(
    q1 = q[1],
    median = q[2],
    q3 = q[3],
    low = ends[1],
    high = ends[2],
    notch_low = q[2] - notch,
    notch_high = q[2] + notch
  )
}

whisker_ends <- function(v, q, whiskers) {
  if (identical(whiskers, "range")) return(range(v))
  if (length(whiskers) == 2) return(stats::quantile(v, whiskers, names = FALSE, type = 7))
  reach <- reach_of_whiskers(q, whiskers)
  within <- v[v >= q[1] - reach & v <= q[3] + reach]
  # Of whiskers without length there can be no value between the quartiles.
  range(within, if (!length(within)) q[c(1, 3)])
}

# How far whiskers reach beyond the quartiles. A value at their end is within it, whichever unit its
# last binary digit is rounded in.
reach_of_whiskers <- function(q, whiskers) (whiskers + 1e-9) * (q[3] - q[1])
