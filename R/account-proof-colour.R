# Rules of colour: told apart by every eye, in grey, and from the paper.

prove_colours <- function(scene, plate) {
  least <- plate$house$limits$colour_difference
  lapply(colour_keys(scene), function(key) {
    apart <- vision_distances(key$colour)
    closest <- min(apart[upper.tri(apart)])
    pair <- which(apart == closest & upper.tri(apart), arr.ind = TRUE)[1, ]
    finding(
      "colours told apart",
      paste("CIEDE2000", format(round(closest, 1))),
      paste("at least", least, "in all visions"),
      if (closest >= least) "good" else "bad",
      paste0(key$key[1], ": ", key$label[pair[1]], ", ", key$label[pair[2]]),
      "Use the house's colours, or show the variable by shape too.",
      key_boxes(key)
    )
  })
}

# The keys of levels told apart by colour.
colour_keys <- function(scene) {
  entries <- scene$keys[!is.na(scene$keys$label), ]
  entries <- entries[entries$glyph != "ramp", ]
  if (is.null(entries) || !nrow(entries)) return(list())
  Filter(
    function(key) length(unique(key$colour)) > 1,
    split(entries, factor(entries$key, unique(entries$key)))
  )
}

key_boxes <- function(key) {
  data.frame(x0 = key$x, y0 = key$y, x1 = key$x + key$w, y1 = key$y + key$h)
}

grey_limit <- 4 # difference in CIE lightness

prove_grey <- function(scene, plate) {
  lapply(colour_keys(scene), function(key) {
    lightness <- sort(farver::decode_colour(key$colour, to = "lab")[, 1])
    closest <- min(diff(lightness))
    shaped <- length(unique(key$shape)) == nrow(key) || length(unique(key$dash)) == nrow(key)
    finding(
      "colours in grey",
      paste("lightness", format(round(closest, 1))),
      paste("at least", grey_limit),
      if (closest >= grey_limit || shaped) "good" else "look",
      key$key[1],
      "Show the variable by shape or dash too, where it will be printed in grey.",
      key_boxes(key)
    )
  })
}

prove_colour_alone <- function(scene, plate) {
  lapply(
    Filter(function(key) any(grepl("symbol|line", key$glyph)), colour_keys(scene)),
    function(key) {
      # Labels at the ends of lines tell them apart without colour.
      alone <- length(unique(key$shape)) == 1 && length(unique(key$dash)) == 1
      finding(
        "groups by more than colour",
        if (alone) "by colour alone" else "by shape or dash too",
        "more than colour",
        if (alone) "look" else "good",
        key$key[1],
        if (all(grepl("line", key$glyph))) {
          "Give the variable to `dash` too, or name lines at their ends (`key = \"direct\"`)."
        } else {
          "Give the variable to `shape` too."
        },
        key_boxes(key)
      )
    }
  )
}

prove_contrast <- function(scene, plate) {
  least <- plate$house$limits$contrast
  runs <- scene$runs
  # Words in a panel may stand on a dark ground, which chose their colour.
  role <- scene$texts$role[match(runs$text, scene$texts$id)]
  judged <- !role %in% "value"
  if (!any(judged)) return(list())
  ratio <- white_contrast(runs$colour)
  bad <- judged & ratio < least - 0.01
  offending(
    "contrast of text",
    bad,
    paste0("at least ", least, " : 1"),
    c(
      paste0(format(round(min(ratio[judged], Inf), 1)), " : 1"),
      paste0(format(round(min(ratio[judged]), 1)), " : 1")
    ),
    "bad",
    quote_text(runs$string),
    "Choose a darker colour for the text.",
    scene$texts[match(runs$text, scene$texts$id), ]
  )
}
