# What inks at said places share.

is_of <- function(values, n) is.null(n) || length(values) == n

# A colour by name as #RRGGBB.
plain_colour <- function(colour) {
  if (is.null(colour) || startsWith(colour, "#")) return(colour)
  grDevices::rgb(t(grDevices::col2rgb(colour)), maxColorValue = 255)
}

check_colour <- function(colour, call = rlang::caller_env()) {
  if (is.null(colour) || is_setting(colour, "colour")) return(plain_colour(colour))
  abort_nelvat(
    "argument",
    c(
      "`colour` must be a colour, such as \"#AA3333\" or \"grey40\".",
      x = paste0("Found ", describe_value(colour), ".")
    ),
    call
  )
}

check_places_axes <- function(panel, call) {
  if (!is.null(panel$variables$x) || !is.null(panel$variables$y)) return(invisible())
  abort_nelvat(
    "argument",
    c("A mark needs axes to stand by.", x = "Neither `x` nor `y` of the panel is given."),
    call
  )
}

# A mark for some panels only: those that hold a row for which a condition is true.
in_panels_where <- function(ink, where) {
  if (!rlang::quo_is_null(where)) {
    ink$mapped$where <- where
    ink$said_where <- rlang::as_label(where)
  }
  ink
}

# The panels that a mark is drawn in.
panels_where <- function(layer) {
  where <- layer$ink$variables$where
  if (is.null(where)) return(panels_in(layer$table$panel))
  is_true <- layer$table$where == match("TRUE", where$kind$levels)
  panels_in(layer$table$panel[is_true %in% TRUE])
}

# Marks ask to be seen: their places are part of the range.
train_places <- function(layer, x = numeric(), y = numeric()) {
  panels <- panels_where(layer)
  if (!length(panels)) {
    return(list(table = new_table(panel = integer(), .rows = 0L), zero = character()))
  }
  end <- function(values, f) if (length(values)) f(values) else NA_real_
  list(
    table = new_table(panel = panels),
    zero = character(),
    extent = new_table(
      panel = panels,
      x0 = end(x, min),
      x1 = end(x, max),
      y0 = end(y, min),
      y1 = end(y, max),
      .rows = length(panels)
    )
  )
}

# Positions as they are said, see ink-places.R: numbers as such; all else, once its axis is known.
# n: how many.
check_places <- function(values, argument, n = NULL, call = rlang::caller_env()) {
  if (is.null(values)) return(NULL)
  places <- as_places(values)
  there <- length(places$text) && is_of(places$text, n)
  if (there && !any(is.infinite(places$values))) {
    if (all(is.finite(places$values))) return(places$values)
    if (!anyNA(places$text)) return(places)
  }
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        "` must be ",
        if (is.null(n)) "numbers" else counted(n, "number"),
        ", dates, times or levels."
      ),
      x = paste0("Found ", describe_value(values), ".")
    ),
    call
  )
}
