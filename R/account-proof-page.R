# Rules of the page as a whole: what lies over data, how much of it is empty, its font, its keys.

most_empty <- 0.45 # share of the page

# Page that neither plot areas nor texts nor keys take, on a grid of half millimetres.
prove_empty <- function(scene, plate) {
  empty <- empty_share(scene)
  list(
    finding(
      "empty page",
      paste(round(100 * empty), "%"),
      paste("at most", 100 * most_empty, "%"),
      if (empty <= most_empty) "good" else "look",
      mend = "Give blocks other sizes or another order, or make the plate lower."
    )
  )
}

empty_share <- function(scene, step_mm = 0.5) {
  columns <- ceiling(scene$page$width_mm / step_mm)
  rows <- ceiling(scene$page$height_mm / step_mm)
  taken <- matrix(FALSE, rows, columns)
  boxes <- filled_boxes(scene)
  inside <- function(from, to, n) {
    ends <- pmin(pmax(c(floor(from / step_mm) + 1, ceiling(to / step_mm)), 1), n)
    if (ends[2] >= ends[1]) ends[1]:ends[2]
  }
  for (i in seq_len(nrow(boxes))) {
    taken[inside(boxes$y0[i], boxes$y1[i], rows), inside(boxes$x0[i], boxes$x1[i], columns)] <- TRUE
  }
  mean(!taken)
}

# Plot areas, texts and marks of keys, in mm.
filled_boxes <- function(scene) {
  rbind(
    panel_boxes(scene$panels),
    scene$texts[c("x0", "y0", "x1", "y1")],
    if (length(scene$keys$key)) key_boxes(scene$keys)
  )
}

# Insets that stand on marks or texts of their panel.
prove_covered <- function(scene, plate) {
  grounds <- scene$grounds
  if (is.null(grounds) || !nrow(grounds)) return(list())
  under <- vapply(
    seq_len(nrow(grounds)),
    function(i) {
      host <- scene$panels$host[match(grounds$panel[i], scene$panels$id)]
      texts <- scene$texts[scene$texts$panel %in% host, c("x0", "x1", "y0", "y1")]
      ink <- with_texts(
        covered_places(scene$marks, host),
        each_row(texts),
        scene$panels[match(host, scene$panels$id), ]
      )
      marks_within(scene, grounds[i, ], host, ink)
    },
    0
  )
  offending(
    "insets over data",
    under > 0,
    "none",
    c("none", counted(sum(under), "place of a mark or a text", "places of marks and texts")),
    "look",
    panel_names(scene, scene$panels[match(grounds$panel, scene$panels$id), ]),
    paste0(
      "Leave its corner to the inset (`inset = TRUE`), make it smaller with `size`, or place the ",
      "zoom beside its panel."
    ),
    grounds
  )
}

prove_font <- function(scene, plate) {
  found <- identical(scene$font$family, scene$font$wanted)
  list(
    finding(
      "font",
      scene$font$family,
      scene$font$wanted,
      if (found) "good" else "look",
      mend = paste0(
        "Install \"",
        scene$font$wanted,
        "\", or name another first in the house's `families`."
      )
    )
  )
}

# Keys of one title whose numbers mean unlike shades.
prove_key_titles <- function(scene, plate) {
  ramps <- scene$ramps
  if (is.null(ramps) || !nrow(ramps)) return(list())
  unlike <- vapply(
    ramps$title,
    function(title) {
      nrow(unique(ramps[ramps$title == title, c("low", "high")])) > 1
    },
    NA
  )
  offending(
    "one key for one title",
    unlike,
    "one range of shades",
    c("one range each", counted(sum(unlike), "key")),
    "look",
    ramps$title,
    "Give the panels one table or one range, or titles that tell them apart."
  )
}

# A colour that stands for levels of more than one variable.
prove_one_meaning <- function(scene, plate) {
  entries <- do.call(rbind, unname(colour_keys(scene)))
  if (is.null(entries)) return(list())
  meanings <- vapply(
    entries$colour,
    function(colour) length(unique(entries$key[entries$colour == colour])),
    0L
  )
  offending(
    "one meaning for a colour",
    meanings > 1,
    "each colour stands for one variable",
    c("one each", counted(length(unique(entries$colour[meanings > 1])), "colour")),
    "look",
    paste0(entries$key, ": ", entries$label),
    "Give one of the variables colours of its own in the codebook, or show it by shape.",
    key_boxes(entries)
  )
}
