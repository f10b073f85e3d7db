#' Cut a quantity into intervals
#'
#' For `across` and `down` of [facets()] and for [derived()].
#'
#' @param x Numbers.
#' @param n Number of intervals.
#' @param by `"count"`, about as many values in each, or `"width"`, even intervals.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An ordered factor; its levels state the intervals, closed on the left, the last
#'   on both sides.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_data` for a quantity that
#' cannot be cut.
#' @examples
#' table(cut_into(study("loaves")$data$rise, 4))
#' @export
cut_into <- function(x, n, by = "count", ...) {
  check_rest(...)
  local_number_options()
  if (!is.numeric(x)) {
    abort_nelvat(
      "argument",
      c("Only a quantity can be cut.", x = paste0("Found ", describe_value(x), "."))
    )
  }
  check_number(n, "n", 2, 100, whole = TRUE)
  check_choice(by, c("count", "width"), "by")
  shares <- seq(0, 1, length.out = n + 1)
  ends <- range(x, na.rm = TRUE)
  edges <- unique(
    if (by == "count") quantiles_cpp(as.numeric(x), shares) else ends[1] + shares * diff(ends)
  )
  if (length(edges) < 2) {
    abort_nelvat(
      "data",
      c("A quantity of one value cannot be cut.", x = paste0("All of it is ", format(ends[1]), "."))
    )
  }
  # As few figures as tell the edges apart.
  for (digits in 2:15) {
    shown <- signif(edges, digits)
    if (!anyDuplicated(shown) && max(abs(shown - edges)) <= 0.02 * min(diff(edges))) break
  }
  text <- sub(
    "-",
    "\u2212",
    vapply(
      shown,
      function(one) format(one, scientific = FALSE, trim = TRUE, drop0trailing = TRUE, digits = 15),
      ""
    )
  )
  k <- length(edges)
  factor(
    findInterval(x, edges, rightmost.closed = TRUE),
    seq_len(k - 1),
    paste(text[-k], "to", text[-1]),
    ordered = TRUE
  )
}
