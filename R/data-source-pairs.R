# Questions of two quantities: sums of groups, cells of a grid, sums of each two of several.

grid_cells <- 150000 # cells, of all groups together, that points are counted in

# Counts of two quantities in the cells of a fine grid, in each group: a row a cell, at the mean of
# what it holds; on a transformed axis cells are even there.
asked_cells <- function(source, x, y, wanted, call) {
  value <- c(wanted$values[[x]], wanted$values[[y]])
  scale <- vapply(c(x, y), function(column) wanted$scales[[column]] %||% "identity", "")
  along <- c(scaled_sql(value[1], scale[1]), scaled_sql(value[2], scale[2]))
  known <- has_values(source, value, wanted, call)
  ends <- asked_ends(source, along, changed(wanted, where = c(wanted$where, known)), call)
  groups <- if (length(wanted$parts)) nrow(asked_counts(source, wanted, call)$data) else 1
  side <- max(10, min(500, floor(sqrt(min(grid_cells, most_fetched * 0.7) / groups))))
  column <- even_class(along[1], ends[[1]], side, source)
  row <- even_class(along[2], ends[[2]], side, source)
  # As one number, which is sorted by faster than two.
  cell <- paste0(column, " * ", side + 1, " + ", row)
  cells <- changed(wanted, parts = c(wanted$parts, nelvat_cell = cell))
  what <- "classes along each axis, in which rows were counted first"
  changed(asked_pairs(source, x, y, cells, call), counted = list(what = what, n = side))
}

# The least and the greatest of each of some values.
asked_ends <- function(source, values, wanted, call) {
  extents <- asked_extents(source, values, wanted, call)
  Map(c, extents$least, extents$greatest)
}

# The class, from 0, of a value among even ones from one end to the other.
even_class <- function(value, ends, classes, source) {
  width <- (ends[2] - ends[1]) / classes
  # A bare number would be read as that of a column.
  if (!isTRUE(width > 0)) return("CAST(0 AS INTEGER)")
  sql_whole(paste0("(", value, " - ", sql_number(ends[1]), ") / ", sql_number(width)), source)
}

# Moments of two quantities together, in each group: of the rows that have both.
asked_pairs <- function(source, x, y, wanted, call, shift = NULL) {
  value <- c(wanted$values[[x]], wanted$values[[y]])
  known <- has_values(source, value, wanted, call)
  both <- changed(wanted, where = c(wanted$where, known))
  shift <- shift %||% first_middles(source, value, both, call)
  off <- paste0("(", value, " - ", vapply(shift, sql_number, ""), ")")
  answer <- grouped_rows(
    source,
    c(
      nelvat_n = "COUNT(*)",
      nelvat_x = paste0("SUM(", off[1], ")"),
      nelvat_y = paste0("SUM(", off[2], ")"),
      if (wanted$products) {
        c(
          nelvat_xx = paste0("SUM(", off[1], " * ", off[1], ")"),
          nelvat_yy = paste0("SUM(", off[2], " * ", off[2], ")"),
          nelvat_xy = paste0("SUM(", off[1], " * ", off[2], ")"),
          nelvat_xa = paste0("MIN(", value[1], ")"),
          nelvat_xb = paste0("MAX(", value[1], ")"),
          nelvat_ya = paste0("MIN(", value[2], ")"),
          nelvat_yb = paste0("MAX(", value[2], ")")
        )
      }
    ),
    both,
    call
  )
  n <- answer$nelvat_n
  far <- wanted$products && (
    is_far(n, answer$nelvat_x, answer$nelvat_xx) || is_far(n, answer$nelvat_y, answer$nelvat_yy)
  )
  if (far) {
    return(asked_pairs(source, x, y, wanted, call, asked_middles(source, value, both, call)))
  }
  groups <- setdiff(names(wanted$parts), "nelvat_cell")
  lacking <- if (is.null(known)) {
    answer[0, ]
  } else {
    lacking_pairs(source, value, changed(wanted, parts = wanted$parts[groups]), call)
  }
  data <- rbind(answer[groups], lacking[groups])
  if (!length(groups)) data <- data.frame(row.names = seq_len(nrow(answer) + nrow(lacking)))
  data[[x]] <- c(shift[1] + answer$nelvat_x / n, lacking$nelvat_x)
  data[[y]] <- c(shift[2] + answer$nelvat_y / n, lacking$nelvat_y)
  found <- list(data = data, times = c(n, lacking$nelvat_n))
  if (!wanted$products) return(found)
  none <- rep(NA_real_, nrow(lacking))
  of_one <- function(sum, squares, least, greatest) {
    list(
      spread = c(sqrt(pmax(squares - sum^2 / n, 0)), none),
      least = c(least, none),
      greatest = c(greatest, none)
    )
  }
  changed(
    found,
    sums = stats::setNames(
      list(
        of_one(answer$nelvat_x, answer$nelvat_xx, answer$nelvat_xa, answer$nelvat_xb),
        of_one(answer$nelvat_y, answer$nelvat_yy, answer$nelvat_ya, answer$nelvat_yb)
      ),
      c(x, y)
    ),
    products = c(answer$nelvat_xy - answer$nelvat_x * answer$nelvat_y / n, none)
  )
}

# Rows that lack one of two quantities, by which of them, in each group.
lacking_pairs <- function(source, value, wanted, call) {
  answer <- grouped_rows(
    source,
    c(
      nelvat_n = "COUNT(*)",
      nelvat_x = paste0("SUM(", value[1], ")"),
      nelvat_y = paste0("SUM(", value[2], ")")
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
  # Of the rows of a group one value is missing and the other is not, or both are.
  changed(
    answer,
    nelvat_x = answer$nelvat_x / answer$nelvat_n,
    nelvat_y = answer$nelvat_y / answer$nelvat_n
  )
}

most_sums <- 900 # sums that are asked for at once

# Sums of each two of some quantities, of the rows that have both, about places near their means: a
# table first, second (1..k, first <= second), n, xx, yy, xy. gaps: which of them some rows lack;
# NULL: none, as far as is known, and where one has text, NaN or a gap after all, so is the answer.
# near: those places, where first ones were too far off.
asked_products <- function(source, value, wanted, call, gaps = NULL, near = NULL) {
  pairs <- expand.grid(first = seq_along(value), second = seq_along(value))
  pairs <- pairs[pairs$first <= pairs$second, ]
  about <- near %||% rough_middles(source, value, wanted, call)
  table <- with_offsets(source, value, about, wanted)
  asked <- unlist(
    Map(
      function(i, j) product_sums(table, i, j, any(gaps[c(i, j)])),
      pairs$first,
      pairs$second
    )
  )
  tests <- if (is.null(gaps)) sound_tests(table)
  # Sums of a column without gaps serve all its pairs.
  each <- unique(c("COUNT(*)", tests, asked))
  pieces <- split(each, ceiling(seq_along(each) / most_sums))
  answers <- unlist(
    lapply(pieces, function(piece) {
      names(piece) <- paste0("nelvat_", seq_along(piece))
      answer <- asked_sums(table$source, piece, table$wanted, call, "Summing products")
      vapply(answer, function(cell) if (is_text_cell(cell)) NaN else as.numeric(cell), 0)
    })
  )
  of <- function(measures) answers[match(measures, each)]
  if (is.null(gaps) && (any(is.nan(answers)) || of(tests[1]) < of("COUNT(*)"))) return(NULL)
  sums <- matrix(of(asked), ncol = 6, byrow = TRUE)
  sums[is.na(sums)] <- 0
  far <- mapply(is_far, sums[, 1], sums[, 2], sums[, 4]) |
    mapply(is_far, sums[, 1], sums[, 3], sums[, 5])
  if (is.null(near) && any(far)) {
    near <- asked_middles(source, value, wanted, call)
    return(asked_products(source, value, wanted, call, gaps, near))
  }
  n <- pmax(sums[, 1], 1)
  data.frame(
    pairs,
    n = sums[, 1],
    xx = sums[, 4] - sums[, 2]^2 / n,
    yy = sums[, 5] - sums[, 3]^2 / n,
    xy = sums[, 6] - sums[, 2] * sums[, 3] / n
  )
}

# How many rows have all values, and of SQLite the greatest of all, above which its text stands.
sound_tests <- function(table) {
  groups <- split(table$value, ceiling(seq_along(table$value) / 100))
  several <- vapply(groups, paste, "", collapse = ", ")
  several <- ifelse(lengths(groups) > 1, paste0("MAX(", several, ")"), several)
  c(
    paste0("COUNT(", paste(table$value, collapse = " + "), ")"),
    if (table$source$engine == "sqlite") paste0("MAX(", several, ")")
  )
}

# About where each quantity lies; 0 where, by the first rows, no digits are lost about it.
rough_middles <- function(source, value, wanted, call) {
  near_zero <- vapply(
    names(value),
    function(column) {
      first <- source$head[[column]]
      is.numeric(first) &&
        isTRUE(abs(mean(first, na.rm = TRUE)) < 10 * stats::sd(first, na.rm = TRUE))
    },
    NA
  )
  about <- numeric(length(value))
  about[!near_zero] <- first_middles(source, value[!near_zero], wanted, call)
  about
}

# list(source, wanted, value, off): SQL of values and of how far they lie from places `about` them.
# SQLite would work out a difference in each sum anew, but in a table of differences once; that of a
# server is worked out by several processes, which such a table has not.
with_offsets <- function(source, value, about, wanted) {
  off <- paste0("(", value, " - ", vapply(about, sql_number, ""), ")")
  off <- ifelse(about == 0, value, off)
  if (source$engine != "sqlite" || !is.null(source$parted_by) || all(about == 0)) {
    return(list(source = source, wanted = wanted, value = value, off = off))
  }
  named <- paste0(rep(c("nelvat_v", "nelvat_o"), each = length(value)), seq_along(value))
  inner <- paste0(
    "SELECT ",
    paste(c(value, off), "AS", named, collapse = ", "),
    " FROM ",
    source$from,
    asked_where(wanted),
    " LIMIT -1"
  )
  list(
    source = changed(source, from = paste0("(", inner, ")")),
    wanted = list(),
    value = named[seq_along(value)],
    off = named[-seq_along(value)]
  )
}

# Of one pair: how many rows have both, the sums of each and of their squares, and of their product.
product_sums <- function(table, i, j, lacking) {
  off <- table$off
  both <- paste0(table$value[i], " IS NOT NULL AND ", table$value[j], " IS NOT NULL")
  of <- function(product) {
    if (!lacking) return(paste0("SUM(", product, ")"))
    paste0("SUM(CASE WHEN ", both, " THEN ", product, " END)")
  }
  c(
    if (lacking) of("1.0") else "COUNT(*)",
    of(off[i]),
    of(off[j]),
    of(paste(off[i], "*", off[i])),
    of(paste(off[j], "*", off[j])),
    of(paste(off[i], "*", off[j]))
  )
}
