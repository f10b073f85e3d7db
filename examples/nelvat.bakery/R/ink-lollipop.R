# Medians as discs on stems from zero.
ink_lollipop <- function(weight = 1, colour = NULL, ...) nelvat::made_ink("lollipop", ...)

takes_of.ink_lollipop <- function(ink) {
  list(
    weight = nelvat::takes_number(0.1, 5, says = "Weight of the stems in points."),
    colour = nelvat::takes_channel(says = "A colour, or a category for this ink alone.")
  )
}

suits_of.ink_lollipop <- function(ink) list(x = "category", y = "quantity")

findings_of.ink_lollipop <- function(ink, layer) {
  parts <- nelvat::parts_of_layer(layer)
  middle <- tapply(layer$table$y, factor(parts$at, seq_len(nrow(parts$groups))), stats::median)
  nelvat::made_findings(parts, "lollipop", centre = middle, base = 0)
}

marks_of.ink_lollipop <- function(ink, findings, site) {
  place <- nelvat::place_of(findings)
  list(
    nelvat::made_marks(
      "segments",
      findings,
      x0 = place,
      x1 = place,
      y0 = findings$base,
      y1 = findings$centre,
      weight_pt = ink$weight
    ),
    nelvat::made_marks("points", findings, x = place, y = findings$centre, size_mm = 2)
  )
}

sentence_of.ink_lollipop <- function(ink, layer, findings) "medians on stems from zero"
