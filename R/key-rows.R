# What stands in the keys, as rows of the scene's table.

scene_keys <- function(keys, placed, house) {
  entries <- Filter(function(item) item$entry != 0, placed$items)
  do.call(
    rbind,
    lapply(entries, function(item) {
      key <- keys[[item$key]]
      if (isTRUE(key$ramp)) {
        ramp_rows(key, item, placed, house)
      } else {
        level_row(key, item, placed, house)
      }
    })
  )
}

level_row <- function(key, item, placed, house) {
  i <- item$entry
  swatch <- house$space_mm$swatch
  wide <- if (identical(key$glyph, "swatch")) swatch else item$wide_mm
  x <- placed$x_mm + item$x_mm
  y <- placed$y_mm + item$y_mm + (item$row_mm - swatch) / 2
  data.frame(
    key = key$id,
    label = plain_text(key$labels[i]),
    glyph = paste(key$glyph, collapse = "+"),
    colour = key$colour[i],
    shape = key$shape[i],
    dash = key$dash[i],
    size_mm = key$size_mm[i],
    weight_pt = key$weight_pt %||% house$weight_pt$line,
    x = x,
    y = y,
    w = wide,
    h = swatch
  )
}

# The ranges that ramps stand for: key, title, low, high.
key_ramps <- function(keys) {
  ramps <- Filter(function(key) isTRUE(key$ramp) && length(key$range) == 2, keys)
  stack_tables(
    lapply(ramps, function(key) {
      new_table(
        key = key$id,
        title = plain_text(key$title),
        low = key$range[1],
        high = key$range[2],
        .rows = 1L
      )
    })
  )
}

ramp_steps <- 64

# The bar of a ramp as narrow rectangles, or one for each step where there are few.
ramp_rows <- function(key, item, placed, house) {
  if (item$entry > 0) return(NULL)
  colours <- key$colours %||% ramp_colours(
    seq(0, 1, length.out = ramp_steps),
    c(0, 1),
    isTRUE(key$diverging),
    house$ramps
  )
  n <- length(colours)
  wide <- item$wide_mm / n
  data.frame(
    key = key$id,
    label = NA_character_,
    glyph = "swatch",
    colour = colours,
    shape = "disc",
    dash = "solid",
    size_mm = 0,
    weight_pt = 0,
    x = placed$x_mm + item$x_mm + (seq_len(n) - 1) * wide,
    y = placed$y_mm + item$y_mm + (item$row_mm - house$space_mm$swatch) / 2,
    w = wide * 1.02,
    h = house$space_mm$swatch
  )
}

# Keys of what is known only once marks are placed, such as counts of hexagons that
# are regular on paper, take their numbers from the marks; symbols and lines their size and weight.
late_keys <- function(keys, marks) {
  lapply(keys, function(key) {
    if (is.null(key$late)) return(sized_like_marks(key, marks))
    found <- Filter(function(layer) is_counted_by(layer, key), marks)
    if (!length(found)) return(key)
    do.call(
      changed,
      c(list(key), found[[1]]$steps[c("range", "at", "share", "text", "colours")])
    )
  })
}

least_key_mm <- 1.2 # a smaller symbol's colour cannot be told

sized_like_marks <- function(key, marks) {
  if (isTRUE(key$ramp) || is.null(key$of_layers)) return(key)
  layers_of <- function(primitive) {
    Filter(
      function(layer) {
        layer$primitive == primitive && paste(layer$block, layer$layer) %in% key$of_layers && NROW(
          layer$table
        )
      },
      marks
    )
  }
  symbols <- layers_of("points")
  lines <- layers_of("lines")
  if (length(lines)) {
    key <- changed(
      key,
      weight_pt = max(unlist(lapply(lines, function(layer) layer$table$weight_pt)))
    )
  }
  # A key whose sizes are what it shows keeps them.
  one_size <- length(symbols) && "symbol" %in% key$glyph && length(unique(key$size_mm)) == 1 &&
    !any(vapply(symbols, function(layer) length(unique(layer$table$size_mm)) > 1, NA))
  if (!one_size) return(key)
  drawn_mm <- max(unlist(lapply(symbols, function(layer) layer$table$size_mm)))
  size_mm <- min(max(drawn_mm, least_key_mm), max(key$size_mm[1], least_key_mm))
  changed(key, size_mm = rep(size_mm, length(key$size_mm)))
}
