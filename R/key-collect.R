# Keys: what colour, shape, dash and size mean, collected over all panels of a plate,
# each variable once.

# layers: of all blocks; ranges: of quantities on colour and size, by variable.
# Returns a list of keys. A key of levels: id, title, labels, glyph, colour, shape,
# dash, size_mm (an element a level). A ramp: id, title, range. A colour that an axis
# names already needs no key.
# several: are there more blocks? Keys that a block works out for itself are then its own.
collect_keys <- function(layers, house, several = FALSE) {
  entries <- list()
  for (layer in layers) {
    traits <- ink_traits(layer$ink)
    if (!length(traits$mark) || isTRUE(layer$behind)) next
    for (channel in c("colour", "shape", "dash", "size")) {
      variable <- layer[[channel]]
      if (is.null(variable) || named_on_axis(layer, variable)) next
      # A key shows only what some mark shows.
      if (!(if (channel == "colour" && !has_levels(variable$kind)) "ramp" else channel) %in% traits$shows) next
      grow <- if (channel == "size") size_key else if (!has_levels(variable$kind)) ramp_key else level_key
      id <- layer$looks[[channel]]$id %||% variable$id
      entries[[id]] <- grow(entries[[id]], channel, variable, layer, house)
    }
    for (key in own_keys(layer$ink, layer, house)) {
      key$block <- layer$block
      if (several) key$id <- paste(key$id, layer$block)
      entries[[key$id]] <- key
    }
  }
  unname(entries)
}

named_on_axis <- function(layer, variable) {
  any(vapply(list(layer$x, layer$y), function(on_axis) {
    !is.null(on_axis) && has_levels(on_axis$kind) && on_axis$id == variable$id
  }, NA))
}

level_key <- function(key, channel, variable, layer, house) {
  look <- layer$looks[[channel]]
  n <- length(look$levels)
  key <- key %||% list(
    id = look$id, title = look$title, labels = look$labels, glyph = character(), colour = rep(house$colour$lone, n),
    shape = rep("disc", n), dash = rep("solid", n), size_mm = rep(house$points$key_mm, n)
  )
  key$glyph <- union(key$glyph, ink_traits(layer$ink)$mark)
  key[[channel]] <- look[[channel]]
  key
}

ramp_key <- function(key, channel, variable, layer, house) {
  list(
    id = variable$id, title = kind_title(variable$kind), ramp = TRUE, range = layer$ramp_range,
    diverging = layer$diverging, glyph = "ramp",
    at = number_breaks(layer$ramp_range, 4))
}

# Three sizes that span what is shown; of one variable on colour too, the discs are coloured.
size_key <- function(key, channel, variable, layer, house) {
  spot <- number_breaks(c(0, layer$size_most), 4)
  spot <- spot[spot > 0 & spot <= layer$size_most]
  n <- length(spot)
  coloured <- isTRUE(key$ramp) || isTRUE(key$coloured)
  colour <- if (coloured) ramp_colours(
    spot, layer$ramp_range, layer$diverging, house$ramps
  ) else rep(house$colour$lone, n)
  list(
    id = variable$id, title = kind_title(variable$kind), labels = house_numbers(number_text(spot), house$numbers),
    glyph = "symbol", colour = colour, coloured = coloured,
    shape = rep("disc", n), dash = rep("solid", n), size_mm = bubble_mm(spot, layer$size_most, house))
}

# Area proportional to the value.
bubble_mm <- function(values, most, house) house$points$bubble_most_mm * sqrt(pmax(values, 0) / most)

# The keys of the plate, and those that stay with their block: list(plate, own).
plate_keys <- function(blocks, plate, house) {
  of <- function(blocks) {
    collect_keys(
      unlist(
        lapply(blocks, function(block) lapply(block$layers, function(layer) c(layer, list(block = block$id)))),
        recursive = FALSE
      ),
      house, length(plate$blocks) > 1
    )
  }
  none <- lapply(blocks, function(block) list())
  if (identical(plate$key, "none")) return(list(plate = list(), own = none))
  all <- of(blocks)
  if (identical(plate$key, "direct")) {
    direct <- lapply(
      blocks, function(block) if (is.null(block$design$zoom)) Filter(is_direct, of(list(block))) else list()
    )
    said <- unlist(lapply(direct, function(keys) vapply(keys, `[[`, "", "id")))
    return(list(plate = Filter(function(key) !key$id %in% said, all), own = none, direct = direct))
  }
  if (!identical(plate$key, "block")) return(list(plate = all, own = none))
  each <- lapply(blocks, function(block) of(list(block)))
  ids <- lapply(each, function(keys) vapply(keys, `[[`, "", "id"))
  lone <- names(which(table(unlist(ids)) == 1))
  own <- Map(
    function(keys, ids, block) if (is.null(block$design$zoom)) keys[ids %in% lone] else list(), each, ids, blocks
  )
  kept <- unlist(lapply(own, function(keys) vapply(keys, `[[`, "", "id")))
  list(plate = Filter(function(key) !key$id %in% kept, all), own = own)
}

# Ramps of one variable have the same limits on the whole plate.
with_one_ramp <- function(blocks) {
  ramps <- unlist(
    lapply(
      blocks,
      function(block) {
        lapply(
          block$layers,
          function(layer) if (!is.null(layer$ramp_range)) list(id = layer$colour$id, range = layer$ramp_range)
        )
      }
    ),
    recursive = FALSE
  )
  ramps <- Filter(Negate(is.null), ramps)
  for (id in unique(vapply(ramps, `[[`, "", "id"))) {
    most <- range(unlist(lapply(Filter(function(ramp) ramp$id == id, ramps), `[[`, "range")))
    blocks <- lapply(blocks, function(block) {
      block$layers <- lapply(
        block$layers,
        function(layer) {
          if (!is.null(layer$ramp_range) && layer$colour$id == id) changed(layer, ramp_range = most) else layer
        }
      )
      block
    })
  }
  blocks
}
