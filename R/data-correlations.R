#' Correlations of columns
#'
#' @eval argument_lines("correlations")
#' @return A [codebook()] with a row a pair: `first`, `second`, `r`, `n` (rows with both),
#'   `p` (of no correlation) and, of Pearson's, `lower` and `upper` of a
#'   95 % interval, by [stats::cor.test()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_column` for a column
#' that is not there or is no quantity.
#' @examples
#' correlations(study("loaves"), c(rise, volume, firmness))
#' @export
correlations <- function(data, columns = NULL, method = "pearson", half = FALSE, ...) {
  check_rest(...)
  call <- rlang::current_env()
  stays <- is_source(data)
  book <- if (stays) {
    answered_head(refreshed_source(data, call))
  } else {
    as_codebook(data, deparsed_label(substitute(data)), call)
  }
  checked_argument("correlations", "method", method, call)
  quo <- rlang::enquo(columns)
  chosen <- if (rlang::quo_is_null(quo)) {
    names(Filter(function(kind) kind$kind == "quantity", book$columns))
  } else {
    vapply(resolve_variables(quo, book, "columns", call), `[[`, "", "id")
  }
  for (column in chosen) {
    check_variable_kind(
      list(id = column, kind = book$columns[[column]]),
      "columns",
      "quantity",
      call
    )
  }
  if (length(chosen) < 2) {
    abort_nelvat(
      "argument",
      c("Correlations need at least two quantities.", x = paste0("Found ", length(chosen), ".")),
      call
    )
  }
  pairs <- expand.grid(first = seq_along(chosen), second = seq_along(chosen))
  if (checked_argument("correlations", "half", half, call)) {
    pairs <- pairs[pairs$second > pairs$first, ]
  }
  rows <- if (stays) {
    asked_correlations(data, chosen, pairs, method, call)
  } else {
    Map(
      function(i, j) correlation_of(book$data[[chosen[i]]], book$data[[chosen[j]]], method, i == j),
      pairs$first,
      pairs$second
    )
  }
  table <- data.frame(
    first = chosen[pairs$first],
    second = chosen[pairs$second],
    do.call(rbind, rows)
  )
  names <- vapply(book$columns[chosen], `[[`, "", "name")
  said <- unname(mapply(name_in_sentence, names, chosen))
  coefficient <- c(
    pearson = "Pearson's correlation", spearman = "Spearman's rank correlation",
    kendall = "Kendall's tau"
  )[[method]]
  book <- new_codebook(
    table,
    list(
      first = category("", order = chosen, names = names),
      second = category("", order = chosen, names = names),
      r = quantity(coefficient),
      n = quantity("Rows", count = TRUE),
      p = quantity("p"),
      lower = quantity("Lower end"),
      upper = quantity("Upper end")
    ),
    label = paste("correlations of", book$label),
    call = call
  )
  n <- unique(range(table$n))
  changed(
    book,
    about = paste0(
      coefficient,
      " of each two of ",
      listed(said),
      ", n = ",
      paste(n, collapse = " to "),
      " a pair"
    )
  )
}

correlation_row <- function(n, r, p, ends = c(NA_real_, NA_real_)) {
  data.frame(r = r, n = n, p = p, lower = ends[1], upper = ends[2])
}

correlation_of <- function(x, y, method, same) {
  is_known <- !is.na(x) & !is.na(y)
  n <- sum(is_known)
  of <- function(...) correlation_row(n, ...)
  if (same) return(of(1, NA_real_))
  if (n < 3) return(of(NA_real_, NA_real_))
  test <- suppressWarnings(
    stats::cor.test(x[is_known], y[is_known], method = method, exact = FALSE)
  )
  # Fisher (1921): an interval on the scale of the inverse hyperbolic tangent; of Pearson's alone.
  of(unname(test$estimate), test$p.value, as.numeric(test$conf.int %||% c(NA, NA)))
}

# Pearson's correlations of the rows of a database: from sums, of the rows that have both.
asked_correlations <- function(source, chosen, pairs, method, call) {
  if (method != "pearson") {
    abort_nelvat(
      "engine",
      c(
        paste0("Correlations by \"", method, "\" need the ranks of all rows."),
        i = "A database is asked for Pearson's, `method = \"pearson\"`."
      ),
      call
    )
  }
  columns <- source_columns(source, call)
  wanted <- list(where = source_where(source, columns, call))
  # Whether all rows have numbers is asked with the sums, where it may be so.
  whole <- !length(c(source$derive, source$keep)) && !anyNA(source$head[chosen])
  sums <- if (whole) {
    plain <- source_columns(changed(source, without_nan = chosen), call)
    asked_products(source, plain[chosen], wanted, call)
  }
  if (is.null(sums)) {
    columns <- checked_columns(source, columns, as.list(chosen), wanted$where, call)
    gaps <- !asked_extents(source, columns[chosen], wanted, call)$complete
    sums <- asked_products(source, columns[chosen], wanted, call, gaps)
  }
  Map(
    function(i, j) {
      if (i == j) {
        n <- sums$n[sums$first == i & sums$second == i]
        return(correlation_row(n, 1, NA_real_))
      }
      row <- sums[sums$first == min(i, j) & sums$second == max(i, j), ]
      correlation_of_sums(row$n, row$xx, row$yy, row$xy)
    },
    pairs$first,
    pairs$second
  )
}

# As cor.test() has them: p by Student's t, the interval by Fisher (1921).
correlation_of_sums <- function(n, xx, yy, xy) {
  if (n < 3 || xx <= 0 || yy <= 0) return(correlation_row(n, NA_real_, NA_real_))
  r <- max(-1, min(1, xy / sqrt(xx) / sqrt(yy)))
  df <- n - 2
  t <- sqrt(df) * r / sqrt(1 - r^2)
  p <- 2 * min(stats::pt(t, df), stats::pt(t, df, lower.tail = FALSE))
  ends <- if (n > 3) tanh(atanh(r) + c(-1, 1) * stats::qnorm(0.975) / sqrt(n - 3)) else c(NA, NA)
  correlation_row(n, r, p, ends)
}
