# What colour, shape, dash and size mean on the whole plate, before anything is trained: the looks
# of all levels, the range of each ramp of colours, the greatest of each size.

# layers: a list of layers for each block. Returns list(looks, ramps, sizes, titles), each by look_id().
plate_scales <- function(layers, plate) {
  titles <- channel_titles(layers)
  list(
    looks = plate_looks(layers, plate, titles), ramps = ramp_scales(layers, titles),
    sizes = size_scales(layers, titles), titles = titles
  )
}

# The titles under which each column stands on the plate.
channel_titles <- function(layers) {
  pairs <- unlist(lapply(unlist(layers, recursive = FALSE), function(layer) lapply(
    Filter(Negate(is.null), unclass(layer)[c("colour", "shape", "dash", "size")]),
    function(variable) c(variable$id, kind_title(variable$kind))
  )), recursive = FALSE)
  table <- unique(do.call(rbind, c(list(matrix("", 0, 2)), unname(pairs))))
  split(table[, 2], table[, 1])
}

# The column's name; with its title, where the plate has two of that name.
look_id <- function(variable, titles) {
  if (length(titles[[variable$id]]) < 2) variable$id else paste0(variable$id, " (", kind_title(variable$kind), ")")
}

# Of all layers that show a quantity on a channel, a value each, by look_id().
by_scale <- function(layers, channel, titles, is_shown, value) {
  of <- Filter(function(layer) !is.null(layer[[channel]]) && is_shown(layer[[channel]]), unlist(layers, FALSE))
  split(lapply(of, value), vapply(of, function(layer) look_id(layer[[channel]], titles), ""))
}

# Ramps of one variable have the same limits on the whole plate. Values to both sides of zero get
# a ramp to both sides, the same way far.
ramp_scales <- function(layers, titles) {
  found <- by_scale(layers, "colour", titles, is_ramp, function(layer) {
    ends <- suppressWarnings(range(layer$table$colour, finite = TRUE))
    list(range = ends[is.finite(ends)], diverging = layer$ink$diverging)
  })
  lapply(found, function(all) {
    ends <- range(c(unlist(lapply(all, `[[`, "range")), if (!length(unlist(lapply(all, `[[`, "range")))) 0))
    asked <- unlist(lapply(all, `[[`, "diverging"))
    diverging <- if (length(asked)) any(asked) else prod(sign(ends)) < 0
    list(range = if (diverging) c(-1, 1) * max(abs(ends)) else ends, diverging = diverging)
  })
}

# The greatest value shown by size: one area for one value, wherever it stands.
size_scales <- function(layers, titles) {
  found <- by_scale(layers, "size", titles, function(variable) TRUE, function(layer) layer$table$size)
  lapply(found, function(values) max(0, unlist(values), na.rm = TRUE))
}

# What a layer needs of them, by channel.
layer_looks <- function(layer, shared) {
  shown <- Filter(is_category, unclass(layer)[c("colour", "shape", "dash")])
  lapply(shown, function(variable) shared$looks[[look_id(variable, shared$titles)]])
}

layer_scales <- function(layer, shared) {
  id <- function(variable) look_id(variable, shared$titles)
  list(
    ids = lapply(Filter(Negate(is.null), unclass(layer)[c("colour", "shape", "dash", "size")]), id),
    ramp = if (is_ramp(layer$colour)) shared$ramps[[id(layer$colour)]],
    size_most = if (!is.null(layer$size)) shared$sizes[[id(layer$size)]]
  )
}
