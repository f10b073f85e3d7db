# What stands in the keys, as rows of the scene's table.

scene_keys <- function(keys, placed, house) {
  entries <- Filter(function(item) item$entry != 0, placed$items)
  do.call(rbind, lapply(entries, function(item) {
    key <- keys[[item$key]]
    if (isTRUE(key$ramp)) ramp_rows(key, item, placed, house) else level_row(key, item, placed, house)
  }))
}

key_row <- function(key, label, glyph, colour, shape, dash, size_mm, x, y, w, h) {
  data.frame(key = key, label = label, glyph = glyph, colour = colour, shape = shape, dash = dash, size_mm = size_mm, x = x, y = y, w = w, h = h)
}

level_row <- function(key, item, placed, house) {
  i <- item$entry
  swatch <- house$space_mm$swatch
  wide <- if (identical(key$glyph, "swatch")) swatch else item$wide_mm
  x <- placed$x_mm + item$x_mm
  y <- placed$y_mm + item$y_mm + (item$row_mm - swatch) / 2
  key_row(key$id, plain_text(key$labels[i]), paste(key$glyph, collapse = "+"), key$colour[i], key$shape[i], key$dash[i], key$size_mm[i], x, y, wide, swatch)
}

ramp_steps <- 64

# The bar of a ramp as narrow rectangles, or one for each step where there are few.
ramp_rows <- function(key, item, placed, house) {
  if (item$entry > 0) return(NULL)
  colours <- key$colours %||% ramp_colours(seq(0, 1, length.out = ramp_steps), c(0, 1), isTRUE(key$diverging), house$ramps)
  n <- length(colours)
  wide <- item$wide_mm / n
  key_row(key$id, NA_character_, "swatch", colours, "disc", "solid", 0, placed$x_mm + item$x_mm + (seq_len(n) - 1) * wide,
          placed$y_mm + item$y_mm + (item$row_mm - house$space_mm$swatch) / 2, wide * 1.02, house$space_mm$swatch)
}

# Keys of what is known only once marks are placed, such as counts of hexagons that
# are regular on paper, take their numbers from the marks.
late_keys <- function(keys, marks) {
  lapply(keys, function(key) {
    if (is.null(key$late)) return(key)
    found <- Filter(function(layer) !is.null(layer$key) && startsWith(key$id, layer$key) && identical(layer$block, key$block), marks)
    if (length(found)) key[c("range", "at", "share", "text", "colours")] <- found[[1]]$steps[c("range", "at", "share", "text", "colours")]
    key
  })
}
