# Fine classes of a quantity in each group, from which quantiles, boxes, densities and shares are
# made: a row a class, at the mean of what it holds, with the least and the greatest of it.

class_rows <- 150000 # classes, of all groups together
most_classes <- 10000 # of a group
fine_enough <- 1000 # classes between the quartiles of each group

# Where values are few they are their own classes, and all that is made of them is exact.
# wanted: as in asked_where(), and forward: from values to the axis.
asked_classes <- function(source, column, wanted, call) {
  value <- wanted$values[[column]]
  if (few_values(source, value, wanted, call)) {
    return(with_class(source, column, value, value, wanted, call))
  }
  known <- changed(wanted, where = c(wanted$where, has_values(source, value, wanted, call)))
  groups <- if (length(wanted$parts)) nrow(asked_counts(source, known, call)$data) else 1
  classes <- max(50, min(most_classes, floor(class_rows / groups)))
  along <- scaled_sql(value, wanted$scales[[column]] %||% "identity")
  ends <- asked_ends(source, along, known, call)[[1]]
  answer <- with_class(
    source,
    column,
    value,
    even_class(along, ends, classes, source),
    wanted,
    call
  )
  # Where few classes lie between the quartiles, as beside values far off, those are parted again.
  for (again in 1:2) {
    middle <- middle_of_groups(answer, column, names(wanted$parts), wanted$forward)
    step <- diff(ends) / classes
    if (is.null(middle) || middle$narrow >= min(fine_enough, classes / 10) * step) break
    ends <- c(max(ends[1], middle$from), min(ends[2], middle$to))
    class <- paste0(
      "CASE WHEN ",
      along,
      " >= ",
      sql_number(ends[1]),
      " AND ",
      along,
      " <= ",
      sql_number(ends[2]),
      " THEN ",
      even_class(along, ends, classes, source),
      " ELSE -2 - ABS(",
      even_class(along, asked_ends(source, along, known, call)[[1]], classes %/% 4, source),
      ") END"
    )
    answer <- with_class(source, column, value, class, wanted, call)
  }
  what <- "classes in each group, in which values were counted first"
  changed(answer, counted = list(what = what, n = classes))
}

with_class <- function(source, column, value, class, wanted, call) {
  wanted <- changed(wanted, parts = c(wanted$parts, nelvat_class = class))
  answer <- asked_moments(source, column, value, wanted, call)
  answer$data$nelvat_class <- NULL
  answer
}

# Are there few different values in the groups together? Unless those of all make too many.
few_values <- function(source, value, wanted, call) {
  alone <- changed(wanted, parts = c(nelvat_value = value))
  if (!are_few(source, alone, most_classes, call)) return(FALSE)
  each <- changed(wanted, parts = c(wanted$parts, nelvat_value = value))
  are_few(source, each, class_rows, call)
}

# Where the quartiles of the groups lie, with three times what is between them on either side, and
# the narrowest of what is between them; NULL where no group has two values. On the axis's scale.
middle_of_groups <- function(answer, column, parts, forward) {
  sums <- answer$sums[[column]]
  values <- forward(answer$data[[column]])
  known <- which(is.finite(values))
  group <- vctrs::vec_group_id(vctrs::vec_slice(answer$data[parts], known))
  middles <- lapply(
    split(known, if (length(parts)) as.integer(group) else rep(1L, length(known))),
    function(rows) {
      rows <- rows[order(values[rows])]
      counted_quantiles(values[rows], answer$times[rows], c(0.25, 0.75))
    }
  )
  if (!length(middles)) return(NULL)
  low <- vapply(middles, `[`, 0, 1)
  high <- vapply(middles, `[`, 0, 2)
  # Quartiles in one class have at least its width between them.
  wide <- pmax(high - low, max(forward(sums$greatest) - forward(sums$least), 0, na.rm = TRUE) / 4)
  list(from = min(low - 3 * wide), to = max(high + 3 * wide), narrow = min(high - low))
}
