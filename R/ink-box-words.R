# What boxes show, in words, and where their whiskers may end.

check_whiskers <- function(whiskers, argument, call) {
  if (is.list(whiskers)) whiskers <- unlist(whiskers)
  if (identical(whiskers, "range")) return(whiskers)
  number <- is.numeric(whiskers) && !anyNA(whiskers)
  if (number && length(whiskers) == 1 && whiskers >= 0 && whiskers <= 100) return(whiskers)
  if (
    number && length(whiskers) == 2 && all(whiskers >= 0 & whiskers <= 1) &&
      whiskers[1] < whiskers[2]
  ) {
    return(whiskers)
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`whiskers` must be a number of interquartile ranges, \"range\", or two quantiles such as ",
        "`c(0.05, 0.95)`."
      ),
      x = paste0("Found ", describe_value(whiskers), ".")
    ),
    call
  )
}

# What boxes show, in words.
# beyond: how many values stand beyond the whiskers.
box_words <- function(ink, beyond = 0) {
  percent <- function(share) paste0(format(100 * share), " %")
  ends <- if (identical(ink$whiskers, "range")) {
    "the least and greatest value"
  } else if (length(ink$whiskers) == 2) {
    paste("the quantiles of", percent(ink$whiskers[1]), "and", percent(ink$whiskers[2]))
  } else {
    paste(format(ink$whiskers), "interquartile ranges")
  }
  paste0(
    "median, quartiles, whiskers to ",
    ends,
    if ((ink$outliers %||% TRUE) && !identical(ink$whiskers, "range")) ", values beyond",
    if (isFALSE(ink$outliers) && !isTRUE(ink$told_by_others) && beyond > 0) {
      paste0(", ", counted(beyond, "value"), " beyond them not drawn")
    }
  )
}

whiskers_type <- function(says) {
  own_type(
    check_whiskers,
    list(
      anyOf = list(
        list(type = "number", minimum = 0, maximum = 100),
        list(enum = list("range")),
        list(type = "array", items = list(type = "number"), minItems = 2, maxItems = 2)
      )
    ),
    "a number of interquartile ranges, \"range\", or two quantiles",
    FALSE,
    says = says
  )
}
