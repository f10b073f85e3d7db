# Strips in the margins of panels: which inks stand in which, and how deep they are.

# Inks of a side share a strip beside the panel; those with a depth of their own stand one by one,
# in the order given from the panel outwards: the tier of each ink.
margin_tiers <- function(inks) {
  alone <- vapply(inks, function(ink) ink_traits(ink)$own_strip, NA)
  place <- ifelse(alone, seq_along(inks), match(FALSE, alone))
  match(place, sort(unique(place)))
}

# Of marginals, side and tier of each strip.
margin_places <- function(inks) {
  sides <- intersect(c("x", "y"), names(inks))
  stack_tables(
    lapply(sides, function(side) {
      tiers <- sort(unique(margin_tiers(inks[[side]])))
      new_table(side = rep(side, length(tiers)), tier = tiers, .rows = length(tiers))
    })
  )
}

# How deep the strips of a side are, in mm: a row a panel, a column a tier.
margin_depths <- function(block, side, frame) {
  panels <- block$panels
  inks <- block$design$marginals$inks[[side]]
  tiers <- margin_tiers(inks)
  depths <- vapply(
    sort(unique(tiers)),
    function(tier) {
      ink <- inks[[match(tier, tiers)]]
      if (ink_traits(ink)$own_strip) return(rep(ink$depth, nrow(panels)))
      least <- pmin(frame$x$length_mm[panels$column], frame$y$length_mm[panels$row])
      rep_len(pmax(0.5, block$design$marginals$depth %||% (0.2 * least)), nrow(panels))
    },
    numeric(nrow(panels))
  )
  matrix(depths, nrow(panels))
}

# What the strips of a side take beyond each panel that bears them, with the gaps before them.
margins_mm <- function(block, side, frame) {
  bears <- block$panels$id %in% block$areas$host[block$areas$side %in% side]
  if (!any(bears)) return(rep(0, nrow(block$panels)))
  depths <- margin_depths(block, side, frame)
  bears * (rowSums(depths) + ncol(depths) * block$design$marginals$gap)
}

# An ink of a strip with what hangs on the house of its plate, such as how deep its type makes it.
in_strip <- function(ink, house) UseMethod("in_strip")
#' @export
in_strip.default <- function(ink, house) ink

#' @export
in_house.nelvat_facets <- function(block, house) {
  if (is.null(block$marginals)) return(block)
  inks <- lapply(block$marginals$inks, lapply, in_strip, house)
  changed(block, marginals = changed(block$marginals, inks = inks))
}
