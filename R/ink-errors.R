# Error bars: dark over paper, light over a dark bar.

# An error bar is dark over the paper and, over its bar, whatever contrasts with it. Places are of
# the panel: on a reversed axis the upper limit stands below.
error_segments <- function(panel, x, lower, upper, base, top, colours, weight_pt) {
  ends <- list(pmin(lower, upper), pmax(lower, upper))
  lower <- ends[[1]]
  upper <- ends[[2]]
  low_end <- pmin(base, top)
  high_end <- pmax(base, top)
  piece <- function(from, to, colour) {
    shown <- which(!is.na(from) & !is.na(to) & to > from)
    new_table(
      panel = panel[shown],
      x0 = x[shown],
      y0 = from[shown],
      x1 = x[shown],
      y1 = to[shown],
      colour = rep_len(colour, length(x))[shown],
      weight_pt = weight_pt,
      .rows = length(shown)
    )
  }
  stack_tables(
    list(
      piece(lower, pmin(upper, low_end), colours$over_paper),
      piece(pmax(lower, low_end), pmin(upper, high_end), colours$over_bar),
      piece(pmax(lower, high_end), upper, colours$over_paper)
    )
  )
}
