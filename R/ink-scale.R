# On a transformed axis a summary is of the values as the axis shows them, and is said to be;
# `on = "data"` takes the data as they are, and places what comes out. Medians are the same either
# way, but for the mean of the middle two.

# The part of a curve along x, in the axis's values, at which data can lie.
shown_curve <- function(curve, transform) {
  table_rows(curve, which(!is.na(transform$restored(curve$x))))
}

# list(forward, backward, name) of the scale that a summary is computed on.
summary_scale <- function(ink, variable) {
  axis_transform(if (identical(ink$on, "data")) "identity" else variable$transform)
}

# What came out, in words: on a logarithmic axis a mean is a geometric one.
words_on_scale <- function(words, centre, error, scale) {
  if (scale$name == "identity" || !centre %in% c("mean", "median")) return(words)
  if (centre == "median" && error %in% c("none", "quartiles", "range")) return(words)
  if (is_logarithmic(scale$name) && error == "none") return(paste("geometric", words))
  paste(words, "of the", scale_values[[sub("/.*", "", scale$name)]])
}

# Bands of curves that reach below what the axis can show, by series.
unseen_bands <- function(variable, curves) {
  if (is.null(curves)) return(NULL)
  holds <- axis_transform(variable$transform)$holds
  is_cut <- is.na(curves$lower) & !is.na(curves$upper) |
    !is.na(curves$lower) & !holds(curves$lower)
  cut <- unique(curves$series[is_cut])
  if (length(cut)) {
    new_table(
      column = variable$id,
      what = "bands that reach below what the axis can show, cut there",
      n = length(cut),
      .rows = 1L
    )
  }
}

# Errors that reach below what the axis can show, such as below zero on a logarithmic one: they are
# not drawn there, and told.
unseen_errors <- function(variable, lower, upper) {
  holds <- axis_transform(variable$transform)$holds
  below <- is.na(lower) & !is.na(upper)
  beyond <- sum(below | !is.na(lower) & !holds(lower) | !is.na(upper) & !holds(upper))
  if (!beyond) return(NULL)
  new_table(
    column = variable$id,
    what = "values of an error below what the axis can show, not drawn",
    n = beyond,
    .rows = 1L
  )
}

scale_values <- c(
  log10 = "logarithms", log2 = "logarithms", ln = "logarithms", sqrt = "square roots",
  asinh = "inverse hyperbolic sines", logit = "logits"
)

# What stands before the name of a variable that is transformed.
scale_said <- function(scale) {
  said <- c(log10 = "log~10~", log2 = "log~2~", sqrt = "the square root of")
  if (scale %in% names(said)) said[[scale]] else scale
}

# Values that the axis of a variable can show, NA for others.
showable <- function(variable, values) {
  ifelse(axis_transform(variable$transform)$holds(values), values, NA)
}
