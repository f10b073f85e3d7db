# Keys: what colour and shape mean, collected over all panels of a plate, each
# variable once.

# layers: of all blocks. Returns a list of keys: id, title, labels, glyph, colour,
# shape (vectors, an element a level). A colour that an axis names already needs no
# key.
collect_keys <- function(layers, house) {
  keys <- list()
  for (layer in layers) {
    for (channel in c("colour", "shape")) {
      variable <- layer[[channel]]
      if (is.null(variable) || named_on_axis(layer, variable)) next
      keys[[variable$id]] <- grow_key(keys[[variable$id]], channel, variable, layer$ink, house)
    }
  }
  unname(keys)
}

named_on_axis <- function(layer, variable) {
  any(vapply(list(layer$x, layer$y), function(on_axis) {
    !is.null(on_axis) && has_levels(on_axis$kind) && on_axis$id == variable$id
  }, NA))
}

grow_key <- function(key, channel, variable, ink, house) {
  n <- length(variable$kind$levels)
  key <- key %||% list(
    id = variable$id, title = kind_title(variable$kind), labels = variable$kind$level_names,
    glyph = key_glyph(ink), colour = rep(house$colour$lone, n), shape = rep("disc", n)
  )
  if (channel == "colour") key$colour <- level_colours(variable$kind)
  if (channel == "shape") key$shape <- level_symbols(variable$kind)
  key
}

level_symbols <- function(kind, call = rlang::caller_env()) {
  n <- length(kind$levels)
  if (n <= length(symbol_names)) return(symbol_names[seq_len(n)])
  abort_nelvat("level", c(
    paste0("\"", kind$name, "\" has ", n, " levels, more than symbols can tell apart (", length(symbol_names), ")."),
    i = "Split it over panels instead."
  ), call)
}

# Sets keys in rows within `width_mm`: the title, then the entries, going on in a new
# row where the width is used up; rows after the first begin under the first entry
# where that leaves half the width. Offsets are from the key's top left corner.
# Returns list(height_mm, items): items have key, entry (0 the title), x_mm, y_mm,
# swatch (is there one?) and laid text.
set_keys <- function(keys, width_mm, house, font) {
  items <- list()
  y <- 0
  size <- house$type_pt$key
  row_mm <- max(text_height_mm(1, size, font), house$space_mm$swatch)
  for (k in seq_along(keys)) {
    key <- keys[[k]]
    title <- set_text(key$title, size, font, width_mm, 3L)
    indent <- max(title$widths_mm) + house$space_mm$entry_gap * 0.8
    glyph_mm <- house$space_mm$swatch + house$space_mm$swatch_gap
    labels <- lapply(key$labels, set_text, size, font, width_mm - glyph_mm, 3L)
    widths <- vapply(labels, function(laid) max(laid$widths_mm), 0) + glyph_mm
    below <- indent > width_mm / 2 || indent + max(widths) > width_mm
    items[[length(items) + 1]] <- list(key = k, entry = 0L, x_mm = 0, y_mm = y, laid = title)
    if (below) {
      y <- y + text_height_mm(title$n_lines, size, font) + house$space_mm$key_row_gap
      indent <- 0
    }
    x <- indent
    tallest <- 1L
    for (entry in seq_along(labels)) {
      if (x > indent && x + widths[entry] > width_mm) {
        y <- y + row_mm + text_height_mm(tallest, size, font) - text_height_mm(1, size, font) + house$space_mm$key_row_gap
        x <- indent
        tallest <- 1L
      }
      tallest <- max(tallest, labels[[entry]]$n_lines)
      items[[length(items) + 1]] <- list(key = k, entry = entry, x_mm = x, y_mm = y, laid = labels[[entry]])
      x <- x + widths[entry] + house$space_mm$entry_gap
    }
    y <- y + row_mm + text_height_mm(tallest, size, font) - text_height_mm(1, size, font) + house$space_mm$key_row_gap
  }
  list(items = items, height_mm = if (length(keys)) y - house$space_mm$key_row_gap else 0,
       row_mm = row_mm, glyph_mm = house$space_mm$swatch + house$space_mm$swatch_gap)
}
