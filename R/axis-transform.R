# Transforms of an axis. forward: from data to the axis; backward: from the axis to
# data; holds: which data the axis can show, and why it cannot show others; restored: as backward,
# but NA where no data lie, such as below a root of zero.

# "asinh/150" is asinh of the values over 150: about even up to there, logarithmic beyond.

axis_transform <- function(name = "identity") {
  scale <- transform_scale(name)
  above_zero <- list(
    holds = function(x) x > 0,
    why = "values not above zero, which a logarithmic scale cannot show"
  )
  all_numbers <- list(holds = function(x) rep(TRUE, length(x)), why = NULL)
  # What an axis cannot show becomes NaN; who asks decides what that means.
  quiet <- function(f) if (identical(f, identity)) f else function(x) suppressWarnings(f(x))
  pair <- function(forward, backward, domain = all_numbers, restored = backward) {
    both <- list(name = name, forward = quiet(forward), backward = backward, restored = restored)
    c(both, domain)
  }
  switch(
    sub("/.*", "", name),
    identity = pair(identity, identity),
    log10 = pair(log10, function(x) 10^x, above_zero),
    log2 = pair(log2, function(x) 2^x, above_zero),
    ln = pair(log, exp, above_zero),
    sqrt = pair(
      sqrt,
      # Below a root of zero an axis has room and no values: its end there is zero.
      function(x) pmax(x, 0)^2,
      list(
        holds = function(x) x >= 0,
        why = "values below zero, which a square-root scale cannot show"
      ),
      function(x) ifelse(x < 0, NA_real_, x^2)
    ),
    asinh = pair(function(x) asinh(x / scale), function(x) scale * sinh(x)),
    logit = pair(
      stats::qlogis,
      stats::plogis,
      list(
        holds = function(x) x > 0 & x < 1,
        why = "values not between 0 and 1, which a logit scale cannot show"
      )
    )
  )
}

is_logarithmic <- function(name) name %in% c("log10", "log2", "ln")

#' Shares of an axis's transform
#'
#' For `x` and `y` of [panel()]: `logit(share)` makes a logit axis, `reverse(depth)` one
#' that runs the other way, `ln(count)` a natural logarithm's. Called elsewhere they
#' compute what they say.
#'
#' @param x Numbers; between 0 and 1 for `logit()`, above 0 for `ln()`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return Numbers, as many as `x`.
#' @examples
#' logit(c(0.1, 0.5, 0.9))
#' panel(study("pores"), x = logit(roundness), y = reverse(depth), ink_points(size = 0.3))
#' @name transforms
NULL

#' @rdname transforms
#' @export
logit <- function(x, ...) {
  check_rest(...)
  stats::qlogis(x)
}

#' @rdname transforms
#' @export
ln <- function(x, ...) {
  check_rest(...)
  log(x)
}

#' @rdname transforms
#' @export
reverse <- function(x, ...) {
  check_rest(...)
  if (is_moment_values(x)) {
    abort_nelvat(
      "argument",
      c(
        "`reverse()` takes numbers.",
        x = paste0("Found ", describe_value(x), "."),
        i = "An axis of times runs the other way with `axis_of(reverse = TRUE)`."
      )
    )
  }
  if (is.numeric(x)) return(-x)
  abort_nelvat(
    "argument",
    c("`reverse()` takes numbers.", x = paste0("Found ", describe_value(x), "."))
  )
}

# " on a logarithmic axis", or of a ramp "scale"; NULL for values as they are.
scale_phrase <- function(transform, noun = "axis") {
  if (transform == "identity") return(NULL)
  known <- c(
    log10 = "a logarithmic", log2 = "a logarithmic", ln = "a logarithmic", sqrt = "a square-root",
    logit = "a logit"
  )
  paste(
    " on",
    if (transform %in% names(known)) known[[transform]] else paste("an", transform),
    noun
  )
}
