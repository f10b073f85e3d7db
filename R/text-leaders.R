# Names that crowd at their ticks: apart from each other, with a line from each tick to its name.

leader_mm <- 3.5 # room that these lines take

# Names in single lines across the axis, moved along it as little as they must (in all, by least
# squares) so that none touches another, each led to its tick.
fit_with_leaders <- function(angle, at_mm, length_mm, texts, kept, size, font, depth_most_mm) {
  laid <- lapply(texts, set_lines, size, font, depth_most_mm - leader_mm, 1L)
  if (!all(vapply(laid, `[[`, NA, "fits"))) return(NULL)
  thick <- text_height_mm(1, size, font)
  places <- spread_apart(at_mm, thick, length_mm)
  if (is.null(places)) return(NULL)
  # What stands where it belongs needs no line.
  moved <- if (max(abs(places - at_mm)) < 1e-6) rep(0, length(at_mm)) else places - at_mm
  depth_mm <- max(0, widest_mm(laid)) + if (any(moved != 0)) leader_mm else 0
  fit <- tick_fit(angle, size, kept, laid, depth_mm, thick / 2 - moved, thick / 2 + moved)
  changed(fit, moved = moved)
}

# Places next to `at` that stand `apart` from each other at least, within a length and half of
# `apart` beyond its ends; NULL where there are too many. By isotonic regression.
spread_apart <- function(at, apart, length) {
  n <- length(at)
  if ((n - 1) * apart > length) return(NULL)
  order <- order(at)
  steps <- apart * seq_len(n)
  free <- stats::isoreg(at[order] - steps)$yf
  places <- pmin(pmax(free, -apart), length - steps[n]) + steps
  places[order(order)]
}
