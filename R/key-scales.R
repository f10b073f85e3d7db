# What colour, shape, dash and size mean on the whole plate, before anything is trained: the looks
# of all levels, the range of each ramp of colours, the values and diameters of each size.

# layers: a list of layers for each block. Returns list(looks, ramps, sizes, titles), each by
# look_id().
plate_scales <- function(layers, plate) {
  titles <- channel_titles(layers)
  list(
    looks = plate_looks(layers, plate, titles),
    ramps = ramp_scales(layers, titles),
    sizes = size_scales(layers, titles, plate),
    titles = titles
  )
}

# The titles under which each column stands on the plate.
channel_titles <- function(layers) {
  pairs <- unlist(
    lapply(
      unlist(layers, recursive = FALSE),
      function(layer) {
        lapply(
          Filter(Negate(is.null), unclass(layer)[c("colour", "shape", "dash", "size")]),
          function(variable) c(variable$id, kind_title(variable$kind))
        )
      }
    ),
    recursive = FALSE
  )
  table <- unique(do.call(rbind, c(list(matrix("", 0, 2)), unname(pairs))))
  split(table[, 2], table[, 1])
}

# The column's name; with its title, where the plate has two of that name.
look_id <- function(variable, titles) {
  if (length(titles[[variable$id]]) < 2) {
    variable$id
  } else {
    paste0(variable$id, " (", kind_title(variable$kind), ")")
  }
}

# The scale that a variable's values are shown by: one of its logarithms is another.
scale_id <- function(variable, titles) {
  id <- look_id(variable, titles)
  if (variable$transform == "identity") id else paste(id, "on", variable$transform)
}

# Of all layers that show a quantity on a channel, a value each, by scale_id().
by_scale <- function(layers, channel, titles, is_shown, value) {
  scaled_layers <- Filter(
    function(layer) !is.null(layer[[channel]]) && is_shown(layer[[channel]]),
    unlist(layers, FALSE)
  )
  split(
    lapply(scaled_layers, value),
    vapply(scaled_layers, function(layer) scale_id(layer[[channel]], titles), "")
  )
}

# Ramps of one variable have the same limits on the whole plate, in data units. Values to both sides
# of zero get a ramp to both sides, the same way far as its transform has them.
ramp_scales <- function(layers, titles) {
  found <- by_scale(layers, "colour", titles, is_ramp, function(layer) {
    ends <- suppressWarnings(range(layer$table$colour, finite = TRUE))
    list(
      range = ends[is.finite(ends)],
      diverging = layer$ink$diverging,
      transform = layer$colour$transform
    )
  })
  lapply(found, function(all) {
    on <- axis_transform(all[[1]]$transform)
    known <- unlist(lapply(all, `[[`, "range"))
    ends <- if (length(known)) range(on$forward(known)) else c(0, 0)
    asked <- unlist(lapply(all, `[[`, "diverging"))
    both_ways <- length(known) > 0 && prod(sign(range(known))) < 0
    diverging <- if (length(asked)) any(asked) else both_ways
    if (diverging) ends <- c(-1, 1) * max(abs(ends))
    list(
      range = on$backward(ends),
      diverging = diverging,
      transform = all[[1]]$transform
    )
  })
}

most_bubbled <- 0.2 # share of a panel that symbols whose size shows a quantity take together
least_bubble_mm <- 1 # the greatest symbol is never smaller

# Of what is shown by size: list(ends: least and greatest value, most_mm: diameter of the greatest),
# one area for one value, wherever it stands. The greatest is the largest with which the fullest
# panel is covered to a fifth; its area is taken from the page, as no layout is known yet.
size_scales <- function(layers, titles, plate) {
  room <- vapply(panel_sizes(plate), prod, 0)
  of_block <- rep(seq_along(layers), lengths(layers))
  all <- unlist(layers, FALSE)
  found <- by_scale(
    list(
      Map(
        function(layer, i) {
          size <- replace(layer$table$size, is_unsized(layer$ink, layer), NA)
          changed(layer, table = changed(layer$table, size = size), block = i)
        },
        lapply(all, unclass),
        of_block
      )
    ),
    "size",
    titles,
    function(variable) TRUE,
    identity
  )
  lapply(found, function(of) {
    values <- unlist(lapply(of, function(layer) layer$table$size))
    values <- values[is.finite(values) & values > 0]
    most <- max(0, values)
    fitting <- vapply(
      of,
      function(layer) {
        sums <- tapply(pmax(layer$table$size, 0), layer$table$panel, sum, na.rm = TRUE) / most
        sqrt(most_bubbled * room[layer$block] * 4 / pi / max(sums, 1e-9, na.rm = TRUE))
      },
      0
    )
    house_mm <- plate$house$points$bubble_most_mm
    list(
      ends = if (length(values)) range(values) else c(0, 0),
      most_mm = max(min(house_mm, fitting), min(house_mm, least_bubble_mm))
    )
  })
}

# About the width and height of one panel of each block, in mm: from the page, as no layout is known
# yet.
panel_sizes <- function(plate) {
  grid <- changed(plate$grid, blocks = plate$blocks)
  lapply(seq_along(plate$blocks), function(i) {
    if (is.na(grid$places$x0[i])) return(c(20, 20))
    panels <- standing_areas(cells_of(plate$blocks[[i]])$areas)
    length_mm <- function(direction, page_mm, n) {
      track <- block_share(grid, i, direction)
      max(8, (track$mm + track$share * page_mm - around_mm) / n - 4)
    }
    c(
      length_mm("x", plate$width_mm, max(panels$column)),
      length_mm("y", plate$height_mm, max(panels$row))
    )
  })
}

# What a layer needs of them, by channel.
layer_looks <- function(layer, shared) {
  shown <- Filter(is_category, unclass(layer)[c("colour", "shape", "dash")])
  lapply(shown, function(variable) shared$looks[[look_id(variable, shared$titles)]])
}

layer_scales <- function(layer, shared) {
  id <- function(variable) scale_id(variable, shared$titles)
  list(
    ids = lapply(Filter(Negate(is.null), unclass(layer)[c("colour", "shape", "dash", "size")]), id),
    ramp = if (is_ramp(layer$colour)) shared$ramps[[id(layer$colour)]],
    size = if (!is.null(layer$size)) shared$sizes[[id(layer$size)]]
  )
}

# Colours of a quantity's values. scale: list(range, diverging, transform).
shades_of <- function(values, scale, ramps = NULL) {
  forward <- axis_transform(scale$transform)$forward
  ramp_colours(forward(values), forward(scale$range), scale$diverging, ramps)
}
