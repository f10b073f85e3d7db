# The layers of a matrix of pairs: one for each ink of each part, over all its panels.
# Their values are in the axes' transformed units already, as panels of one layer have
# variables of unlike transforms. Cells with a category have a layer each.

#' @export
block_layers.nelvat_pairs <- function(block, cells) {
  panels <- cells$panels
  mixed <- vapply(seq_len(nrow(panels)), function(k) {
    has_levels(block$variables[[panels$j[k]]]$kind) || has_levels(block$down[[panels$i[k]]]$kind)
  }, NA)
  parts <- unlist(lapply(c("below", "diagonal", "above"), function(part) {
    spot <- which(panels$part == part & !mixed)
    inks <- block$parts[[part]]
    if (!length(spot)) return(NULL)
    if (identical(inks, "names")) return(list(name_layer(block, cells, spot)))
    # Bins and bandwidths are of one variable, so each panel of the diagonal has its layer.
    each <- if (part == "diagonal") as.list(spot) else list(spot)
    unlist(
      lapply(inks, function(ink) lapply(each, function(panels) pair_layer(block, cells, panels, ink, part))),
      recursive = FALSE
    )
  }), recursive = FALSE)
  common_size(c(parts, unlist(lapply(which(mixed), function(k) mixed_layers(block, cells, k)), recursive = FALSE)))
}

# Counts of pairs of levels have one size for all cells.
common_size <- function(layers) {
  counted <- vapply(layers, function(layer) identical(layer$size$id, "count of pairs"), NA)
  most <- max(0, vapply(layers[counted], function(layer) max(0, layer$table$size), 0))
  layers[counted] <- lapply(layers[counted], function(layer) c(layer, size_most = most))
  layers
}

plain_axis <- function(supplied = FALSE) {
  list(id = "value", kind = new_kind("quantity", name = "Value"), transform = "identity", supplied = supplied)
}

pair_layer <- function(block, cells, at, ink, part) {
  diagonal <- part == "diagonal"
  table <- pair_table(block, cells, at, ink$variables, diagonal)
  # A ramp of colours says nothing of one variable alone.
  if (diagonal && !is.null(block$channels$colour) && !has_levels(block$channels$colour$kind)) {
    block$channels$colour <- NULL
    table$colour <- NULL
  }
  channels <- pair_channels(block, ink, table)
  y <- plain_axis(diagonal)
  if (diagonal) y$kind <- supplied_axis(ink, "y", list(x = plain_axis())) %||% hidden_axis()
  if (has_levels(y$kind)) channels$table$y <- 1
  c(
    list(ink = ink, table = channels$table, x = plain_axis(), y = y, behind = FALSE, diagonal = if (diagonal) TRUE),
    channels$channels
  )
}

# Rows of some cells, stacked: panel, x, y in axis units, and the channels.
pair_table <- function(block, cells, at, own, diagonal = FALSE) {
  rows <- cells$rows[at]
  in_units <- function(variable, row) axis_transform(variable$transform)$forward(variable$values[row])
  row <- unlist(rows)
  columns <- list(
    panel = rep(cells$panels$panel[at], lengths(rows)),
    x = unlist(Map(function(j, of) in_units(block$variables[[j]], of), cells$panels$j[at], rows))
  )
  columns$y <- if (diagonal) NA_real_ else unlist(
    Map(function(i, of) in_units(block$down[[i]], of), cells$panels$i[at], rows)
  )
  for (channel in mark_channels) columns[[channel]] <- (own[[channel]] %||% block$channels[[channel]])$values[row]
  do.call(new_table, c(columns, list(.rows = length(row))))
}

# The channels of a layer; settings of the ink alone take the place of columns.
pair_channels <- function(block, ink, table) {
  channels <- lapply(stats::setNames(nm = mark_channels), function(channel) {
    variable <- ink$variables[[channel]] %||% block$channels[[channel]]
    if (!is.null(variable)) variable[c("id", "kind", "transform", "policy", "supplied")]
  })
  for (channel in names(ink$settings)) {
    table[[channel]] <- NULL
    channels[channel] <- list(NULL)
  }
  attr(table, "ramp") <- !is.null(channels$colour) && !has_levels(channels$colour$kind)
  list(table = table, channels = channels)
}

# Cells with a category: a quantity by its levels, or counts of pairs of levels.
mixed_layers <- function(block, cells, k) {
  x <- block$variables[[cells$panels$j[k]]]
  y <- block$down[[cells$panels$i[k]]]
  rows <- cells$rows[[k]]
  diagonal <- cells$panels$diagonal[k]
  of <- function(variable) variable[c("id", "kind", "transform", "policy", "supplied")]
  table <- function(...) new_table(panel = cells$panels$panel[k], ..., .rows = length(rows))
  layer <- function(ink, table, ...) {
    list(
      list(ink = ink, table = structure(table, ramp = FALSE), x = of(x), y = of(y), behind = FALSE, to_axis = TRUE, ...)
    )
  }
  if (diagonal) {
    if (identical(block$parts$diagonal, "names")) return(list(name_layer(block, cells, k)))
    bars <- ink_bars()
    found <- layer(bars, table(x = x$values[rows], y = NA_real_), diagonal = TRUE)
    kind <- supplied_axis(bars, "y", list(x = x))
    found[[1]]$y <- list(id = kind$name, kind = kind, transform = "identity", supplied = TRUE)
    return(found)
  }
  if (has_levels(x$kind) && has_levels(y$kind)) {
    return(count_layer(x$values[rows], y$values[rows], cells$panels$panel[k], of(x), of(y)))
  }
  layer(block$mixed, table(x = x$values[rows], y = y$values[rows]))
}

# Counts of pairs of levels as discs whose area is the count.
count_layer <- function(x, y, panel, x_variable, y_variable) {
  held <- !is.na(x) & !is.na(y)
  n <- table(factor(x[held], seq_along(x_variable$kind$levels)), factor(y[held], seq_along(y_variable$kind$levels)))
  spot <- which(n > 0, arr.ind = TRUE)
  pair_counts <- new_table(
    panel = rep(panel, nrow(spot)), x = as.numeric(spot[, 1]), y = as.numeric(spot[, 2]), size = as.numeric(n[spot]),
    .rows = nrow(spot)
  )
  size <- list(id = "count of pairs", kind = new_kind("quantity", name = "Count", count = TRUE), transform = "identity")
  list(
    list(
      ink = ink_points(), table = structure(pair_counts, ramp = FALSE), x = x_variable, y = y_variable, size = size,
      behind = FALSE, to_axis = TRUE
    )
  )
}

# Names of variables in the middle of their diagonal panels.
name_layer <- function(block, cells, at) {
  ink <- new_ink("names", strings = vapply(block$variables[cells$panels$j[at]], function(one) kind_title(one$kind), ""))
  list(
    ink = ink, table = new_table(panel = cells$panels$panel[at], x = 0, y = 0, .rows = length(at)), x = plain_axis(),
    y = plain_axis(), behind = FALSE, diagonal = TRUE
  )
}

#' @export
check_ink.ink_names <- function(ink, panel, call) invisible()

#' @export
train_ink.ink_names <- function(ink, layer) list(table = layer$table, extent = NULL, zero = character(), facts = NULL)

#' @export
place_ink.ink_names <- function(ink, trained, place) {
  n <- nrow(trained$table)
  list(c(new_marks("words", new_table(
    panel = trained$table$panel, x = ink$x %||% 0.5, y = ink$y %||% 0.5, string = ink$strings,
    size_pt = place$house$type_pt$title, across = ink$across %||% 0.5,
    down = ink$down %||% 0.5, colour = place$house$colour$text, most_mm = place$panel_w(trained$table$panel), .rows = n
  )), list(role = ink$role %||% "axis title", most_lines = ink$most_lines)))
}

#' @export
ink_traits.ink_names <- function(ink) note_traits(read_off = FALSE)
