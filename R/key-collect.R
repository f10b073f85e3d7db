# Keys: what colour, shape, dash and size mean, collected over all panels of a plate,
# each variable once.

# blocks: whose layers are collected. Returns a list of keys. A key of levels: id, title, labels,
# glyph, colour, shape, dash, size_mm (an element a level). A ramp: id, title, range. A colour that
# an axis names already needs no key.
# several: has the plate more blocks? Keys that a block works out for itself are then its own.
collect_keys <- function(blocks, house, several = FALSE) {
  entries <- list()
  for (block in blocks) {
    for (number in seq_along(block$layers)) {
      layer <- block$layers[[number]]
      traits <- ink_traits(layer$ink)
      if (!length(traits$mark) || layer$behind) next
      for (channel in c("colour", "shape", "dash", "size")) {
        variable <- layer[[channel]]
        if (is.null(variable) || named_on_axis(layer, variable)) next
        # A key shows only what some mark shows.
        if (
          !(if (channel == "colour" && !has_levels(variable$kind)) "ramp" else channel) %in%
            traits$shows
        ) {
          next
        }
        grow <- if (channel == "size") {
          size_key
        } else if (!has_levels(variable$kind)) {
          ramp_key
        } else {
          level_key
        }
        id <- layer$scales$ids[[channel]]
        key <- grow(entries[[id]], channel, variable, layer, house)
        # What a key grew from knows its layers.
        of_layers <- c(entries[[id]]$of_layers, paste(block$id, number))
        entries <- with_entry(entries, id, changed(key, of_layers = of_layers))
      }
      for (key in own_keys(layer$ink, layer, house)) {
        id <- if (several) paste(key$id, key$scale %||% block$id) else key$id
        of_blocks <- unique(c(entries[[id]]$block, block$id))
        joined <- joined_key(entries[[id]], changed(key, id = id, block = of_blocks))
        entries <- with_entry(entries, id, joined)
      }
    }
  }
  lapply(unname(entries), with_marks_seen)
}

with_entry <- function(entries, id, key) replace(entries, id, list(key))

# Keys of several inks that are the entries of one.
joined_key <- function(before, key) {
  if (is.null(before) || !isTRUE(key$joins)) return(key)
  new <- !key$labels %in% before$labels
  parts <- stats::setNames(nm = c("labels", "colour", "shape", "dash", "size_mm"))
  grown <- lapply(parts, function(part) c(before[[part]], key[[part]][new]))
  do.call(changed, c(list(key), grown))
}

# Where symbols tell levels apart, a swatch would cover them; coloured words alone have one.
with_marks_seen <- function(key) {
  covered <- isTRUE(key$by_shape) && "symbol" %in% key$glyph
  glyph <- setdiff(key$glyph, c("word", if (covered) "swatch"))
  changed(key, glyph = if (identical(key$glyph, "word")) "swatch" else glyph)
}

named_on_axis <- function(layer, variable) {
  any(
    vapply(
      list(layer$x, layer$y),
      function(on_axis) {
        !is.null(on_axis) && has_levels(on_axis$kind) && has_levels(variable$kind) &&
          on_axis$id == variable$id
      },
      NA
    )
  )
}

level_key <- function(key, channel, variable, layer, house) {
  look <- layer$looks[[channel]]
  n <- length(look$levels)
  key <- key %||% list(
    id = look$id,
    title = look$title,
    labels = look$labels,
    glyph = character(),
    colour = rep(house$colour$lone, n),
    shape = rep("disc", n),
    dash = rep("solid", n),
    size_mm = rep(house$points$key_mm, n)
  )
  marks <- ink_traits(layer$ink)$mark
  # The symbol that all inks of the key are set to.
  if ("symbol" %in% marks) {
    set_shapes <- union(key$set_shapes, layer$ink$settings$shape %||% "disc")
    shape <- rep(if (length(set_shapes) == 1) set_shapes else "disc", n)
    key <- changed(
      key,
      set_shapes = set_shapes,
      shape = if (isTRUE(key$by_shape)) key$shape else shape
    )
  }
  key <- changed(
    key,
    glyph = union(key$glyph, marks),
    by_shape = isTRUE(key$by_shape) || channel == "shape"
  )
  with_entry(key, channel, look[[channel]])
}

ramp_key <- function(key, channel, variable, layer, house) {
  ramp <- layer$scales$ramp
  on <- axis_transform(ramp$transform)
  ends <- on$forward(ramp$range)
  breaks <- value_breaks(list(transform = ramp$transform, range = ends, count = FALSE), 4)
  place <- on$forward(breaks$at)
  within <- place >= ends[1] - 1e-9 & place <= ends[2] + 1e-9
  list(
    id = layer$scales$ids$colour,
    title = kind_title(variable$kind),
    ramp = TRUE,
    range = ramp$range,
    diverging = ramp$diverging,
    glyph = "ramp",
    at = breaks$at[within],
    text = breaks$text[within],
    share = if (diff(ends) > 0) (place[within] - ends[1]) / diff(ends) else 0.5
  )
}

# Some sizes within what is shown; of one variable on colour too, the discs are coloured.
size_key <- function(key, channel, variable, layer, house) {
  sizes <- shown_sizes(layer$scales$size$ends)
  n <- length(sizes)
  coloured <- isTRUE(key$ramp) || isTRUE(key$coloured)
  colour <- if (coloured) {
    shades_of(sizes, layer$scales$ramp, house$ramps)
  } else {
    rep(house$colour$lone, n)
  }
  list(
    id = layer$scales$ids$size,
    title = kind_title(variable$kind),
    labels = house_numbers(number_text(sizes), house$numbers),
    sizes = TRUE,
    glyph = "symbol",
    colour = colour,
    coloured = coloured,
    shape = rep(layer$ink$settings$shape %||% "disc", n),
    dash = rep("solid", n),
    size_mm = bubble_mm(sizes, layer$scales$size)
  )
}

# Round values between the least and the greatest, or these, where no two lie between.
shown_sizes <- function(ends) {
  if (ends[1] == ends[2]) return(ends[1])
  round_values <- number_breaks(ends, 4)
  round_values <- round_values[round_values >= ends[1] & round_values <= ends[2]]
  if (length(round_values) < 2) return(ends)
  # Four of them are enough, the greatest among them.
  n <- length(round_values)
  rev(round_values[seq(n, 1, by = -ceiling(n / 4))])
}

# Area proportional to the value; what would be too small to see, zero too, is a dot that can be
# seen.
bubble_mm <- function(values, scale) {
  pmax(scale$most_mm * sqrt(pmax(values, 0) / max(scale$ends[2], 1e-300)), least_seen_mm)
}
least_seen_mm <- 0.25

# Keys with the titles that a plate gives them, by variable; "none" leaves a key out.
titled_keys <- function(keys, titles) {
  kept <- Filter(function(key) !key$id %in% names(titles)[titles == "none"], keys)
  lapply(
    kept,
    function(key) if (key$id %in% names(titles)) changed(key, title = titles[[key$id]]) else key
  )
}

# The keys of the plate, and those that stay with their block: list(plate, own).
plate_keys <- function(blocks, plate, house) {
  keys_of <- function(blocks) {
    titled_keys(collect_keys(blocks, house, length(plate$blocks) > 1), plate$key_titles)
  }
  none <- lapply(blocks, function(block) list())
  if (identical(plate$key, "none")) return(list(plate = list(), own = none))
  all <- keys_of(blocks)
  if (identical(plate$key, "direct")) {
    direct <- lapply(
      blocks,
      function(block) {
        if (is.null(block$design$zoom)) Filter(is_direct, keys_of(list(block))) else list()
      }
    )
    said <- unlist(lapply(direct, function(keys) vapply(keys, `[[`, "", "id")))
    return(list(plate = Filter(function(key) !key$id %in% said, all), own = none, direct = direct))
  }
  # Where nothing is said, what one block of several shows alone stands near it.
  near <- identical(plate$key, "block") ||
    is.null(plate$key) && is.null(plate$grid$key) && length(blocks) > 1
  if (!near) return(counts_at_blocks(all, blocks, none))
  each <- lapply(blocks, function(block) keys_of(list(block)))
  ids <- lapply(each, function(keys) vapply(keys, `[[`, "", "id"))
  is_zoom <- vapply(blocks, function(block) !is.null(block$design$zoom), NA)
  lone <- names(which(table(unlist(ids[!is_zoom])) == 1))
  block_keys <- Map(
    function(keys, ids, block) if (is.null(block$design$zoom)) keys[ids %in% lone] else list(),
    each,
    ids,
    blocks
  )
  kept <- unlist(lapply(block_keys, function(keys) vapply(keys, `[[`, "", "id")))
  list(plate = Filter(function(key) !key$id %in% kept, all), own = block_keys)
}

# Several scales of counts would stand under one title, so each stays with its block, if it has but
# one.
counts_at_blocks <- function(keys, blocks, none) {
  of_counts <- vapply(keys, function(key) !is.null(key$late), NA)
  if (sum(of_counts) < 2) return(list(plate = keys, own = none))
  of_counts <- of_counts & vapply(keys, function(key) length(key$block) == 1, NA)
  keys_of_block <- lapply(
    blocks,
    function(block) Filter(function(key) key$block[1] == block$id, keys[of_counts])
  )
  list(plate = keys[!of_counts], own = keys_of_block)
}
