# Positions of breaks. For numbers: the extended algorithm of Talbot, Lin and
# Hanrahan (2010), "An extension of Wilkinson's algorithm for positioning tick
# labels on axes", as the scales package has it.

number_breaks <- function(range, n) {
  # The algorithm treats n as a wish; asking for fewer makes it a limit.
  for (wish in seq(n, 2)) {
    breaks <- scales::breaks_extended(n = wish)(range)
    breaks <- breaks[breaks >= range[1] - 1e-9 * diff(range) & breaks <= range[2] + 1e-9 * diff(range)]
    if (length(breaks) <= max(n, 2)) break
  }
  breaks
}
