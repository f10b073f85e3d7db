# Transforms that a column is asked for with, such as log10(x).

axis_transforms <- c(
  log10 = "log10", log2 = "log2", log = "ln", ln = "ln", sqrt = "sqrt", asinh = "asinh",
  logit = "logit",
  qlogis = "logit", reverse = "reverse"
)

# What values are divided by, before they are transformed: 150 of "asinh/150".
transform_scale <- function(name) {
  if (grepl("/", name, fixed = TRUE)) as.numeric(sub(".*/", "", name)) else 1
}

is_transform_name <- function(name) {
  scale <- transform_scale(name)
  bare <- sub("^asinh/.*", "asinh", name)
  bare %in% setdiff(c("identity", axis_transforms), "reverse") && is.finite(scale) && scale > 0
}

# `asinh(cd3 / 150)` is an axis of cd3, in its own unit: list(column, scale), the scale "" for none.
scaled_column <- function(expression, transform, book) {
  scaled <- transform == "asinh" && rlang::is_call(expression, "/", n = 2) &&
    is.numeric(expression[[3]]) &&
    expression[[3]] > 0 && isTRUE(
    quo_column(rlang::new_quosure(expression[[2]], emptyenv())) %in% names(book$data)
  )
  if (!scaled) return(list(column = expression, scale = ""))
  list(column = expression[[2]], scale = paste0("/", format(expression[[3]], digits = 15)))
}

# `log(v, 10)` and `log(v, base = 2)` are `log10(v)` and `log2(v)`.
plain_logarithm <- function(expression) {
  if (!rlang::is_call(expression, "log", n = 2)) return(expression)
  logarithm <- match.call(log10_base, expression)
  if (identical(logarithm$base, 10)) return(call("log10", logarithm$x))
  if (identical(logarithm$base, 2)) return(call("log2", logarithm$x))
  expression
}

transformed_variable <- function(inner, transform, book, argument, call) {
  variable <- resolve_variable(inner, book, argument, call)
  if (
    variable$kind$kind != "quantity" && !(transform == "reverse" && variable$kind$kind == "moment")
  ) {
    abort_nelvat(
      "kind",
      c(
        "A transform needs a quantity.",
        x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), ".")
      ),
      call
    )
  }
  if (transform == "reverse") return(changed(variable, reversed = !variable$reversed))
  if (variable$transform == "identity") return(changed(variable, transform = transform))
  asked <- c(transform, if (variable$reversed) "reverse", variable$transform)
  abort_nelvat(
    "expression",
    c(
      "An axis has one transform, and `reverse()`.",
      x = paste0("Found ", listed(paste0("`", asked, "()`")), ".")
    ),
    call
  )
}

# "-log10(p)" as it is printed, such as on the axis of P values.
negative_logarithm <- function(expression, book) {
  inner <- if (rlang::is_call(expression, "-", n = 1)) expression[[2]]
  if (!rlang::is_call(inner, names(printed_logarithms), n = 1) || !is.name(inner[[2]])) return(NULL)
  column <- as.character(inner[[2]])
  kind <- book$columns[[column]]
  if (is.null(kind)) return(NULL)
  name <- name_in_sentence(kind$name, column)
  paste0("\u2212", printed_logarithms[[rlang::call_name(inner)]], "(", name, ")")
}
printed_logarithms <- c(log10 = "log~10~", log2 = "log~2~", log = "ln")

# A quantity that is smoothed or brought to bins where it is used is one of the same unit: "Core,
# running mean of 15", "Time, in bins of 6 hours".
smoothed_kind <- function(expression, book) {
  if (!rlang::is_call(expression, names(smoothed_names)) || length(expression) < 2) return(NULL)
  column <- expression[[2]]
  kind <- if (is.name(column)) book$columns[[as.character(column)]]
  word <- rlang::call_name(expression)
  kinds <- c("quantity", if (word == "in_bins") "moment")
  if (!isTRUE(kind$kind %in% kinds)) return(NULL)
  arguments <- as.list(expression)[-(1:2)]
  width <- Find(is.atomic, arguments[rlang::names2(arguments) %in% c("", "width")])
  said <- paste0(
    smoothed_names[[word]],
    if (!is.null(width) && word != "without_spikes") paste(" of", width)
  )
  changed(kind, name = paste0(kind$name, ", ", said))
}
smoothed_names <- c(
  in_bins = "in bins",
  running_mean = "running mean",
  running_median = "running median",
  without_spikes = "without spikes"
)
