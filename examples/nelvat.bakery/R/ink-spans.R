# From the least to the greatest value of each group, as bars.
ink_spans <- function(share = 0.9, colour = NULL, ...) nelvat::made_ink("spans", ...)

takes_of.ink_spans <- function(ink) {
  list(
    share = nelvat::takes_number(0.5, 1, says = "Share of the values that a bar holds."),
    colour = nelvat::takes_channel(says = "A colour, or a category for this ink alone.")
  )
}

suits_of.ink_spans <- function(ink) list(x = "category", y = "quantity")

findings_of.ink_spans <- function(ink, layer) {
  parts <- nelvat::parts_of_layer(layer)
  group <- factor(parts$at, seq_len(nrow(parts$groups)))
  end <- function(at) {
    as.vector(tapply(layer$table$y, group, stats::quantile, at, names = FALSE))
  }
  tail <- (1 - ink$share) / 2
  nelvat::made_findings(parts, "span", lower = end(tail), upper = end(1 - tail))
}

marks_of.ink_spans <- function(ink, findings, site) {
  place <- nelvat::place_of(findings)
  list(
    nelvat::made_marks(
      "rects",
      findings,
      x0 = place - 0.1,
      x1 = place + 0.1,
      y0 = findings$lower,
      y1 = findings$upper,
      opacity = 0.6
    )
  )
}

key_symbol_of.ink_spans <- function(ink) "swatch"
summary_of.ink_spans <- function(ink) "spread"

sentence_of.ink_spans <- function(ink, layer, findings) {
  paste0("bars from the ", 50 * (1 - ink$share), "th to the ", 50 * (1 + ink$share), "th percentile")
}
