# Marginals: strips at the top and right of a panel that show one of its quantities each,
# on the panel's own axis. A strip has its panel's range and edges; its other axis, a
# count or a density, is drawn only where asked, and is the same for all strips of a side.

# The strips of a block: panel (their ids, after those of the panels), of (the panel they
# stand at), side ("x" at the top, "y" at the right).
block_strips <- function(design, cells) {
  sides <- intersect(c("x", "y"), names(design$marginals$inks))
  if (!length(sides)) return(NULL)
  ids <- cells$panels$panel
  strips <- expand.grid(of = ids, side = sides, stringsAsFactors = FALSE)
  cbind(panel = max(ids) + seq_len(nrow(strips)), strips)
}

# Layers of strips: the rows of their panel, one quantity only.
strip_layers <- function(design, cells, strips) {
  unlist(lapply(unique(strips$side), function(side) {
    alone <- design
    alone$panel <- marginal_panel(design$panel, side, design$marginals$inks[[side]])
    ids <- strips$panel[strips$side == side]
    lapply(ink_layers(alone, cells), function(layer) {
      layer$table$panel <- ids[match(layer$table$panel, cells$panels$panel)]
      c(layer, list(strip = side, strip_of = cells$panels$panel, strip_ids = ids))
    })
  }), recursive = FALSE)
}

# Strips with their axes: appends to the block's axes one hidden or drawn axis a side.
with_strips <- function(block, font) {
  strips <- block$strips
  if (is.null(strips)) return(block)
  panels <- block$cells$panels
  margins <- block$design$marginals
  axes <- block$axes
  for (side in unique(strips$side)) {
    of <- strips$side == side
    other <- setdiff(c("x", "y"), side)
    held <- vapply(block$layers, function(layer) identical(layer$strip, side), NA)
    extent <- stack_tables(lapply(block$trained[held], `[[`, "extent"))
    kind <- block$layers[held][[1]][[other]]$kind
    if (!isTRUE(margins$axis)) kind$hidden <- TRUE
    variable <- list(id = paste0("marginal of ", side), kind = kind, transform = "identity")
    at_edge <- strips$of[of] %in% panels$panel[if (side == "x") panels$column == 1 else panels$row == max(panels$row)]
    axis <- new_axis(
      other, variable, strips$panel[of], if (isTRUE(margins$axis)) strips$panel[of][at_edge] else integer(), extent,
      other %in% unlist(lapply(block$trained[held], `[[`, "zero")), font
    )
    axis$of_strip <- TRUE
    axes$list <- c(axes$list, list(axis))
    strips[of, paste0(other, "_axis")] <- length(axes$list)
    strips[of, paste0(side, "_axis")] <- axes[[side]][match(strips$of[of], panels$panel)]
  }
  block$axes <- axes
  block$strips <- strips
  block
}

# Room that strips take around their panel, in mm.
strip_reach <- function(block, fits, frame, house) {
  none <- rep(0, nrow(block$cells$panels))
  reach <- list(left = none, right = none, top = none, bottom = none)
  if (is.null(block$strips)) return(reach)
  depth <- strip_depth(block, frame, house)
  space <- house$space_mm
  sides <- unique(block$strips$side)
  axis_room <- function(side) {
    of <- block$strips$side == side
    other <- if (side == "x") "y_axis" else "x_axis"
    i <- block$strips[[other]][of][1]
    spot <- block$strips$of[of][block$strips$panel[of] %in% block$axes$list[[i]]$drawn_at]
    ifelse(block$cells$panels$panel %in% spot, tick_out_mm(house) + space$tick_gap + fits[[i]]$depth_mm, 0)
  }
  if ("x" %in% sides) {
    reach$top <- depth$x + block$design$marginals$gap
    reach$left <- axis_room("x")
  }
  if ("y" %in% sides) {
    reach$right <- depth$y + block$design$marginals$gap
    reach$bottom <- axis_room("y")
  }
  reach
}

# The strips of a scene's panels, as more panels.
strip_panels <- function(block, panels, frame, house) {
  strips <- block$strips
  if (is.null(strips)) return(NULL)
  spot <- match(strips$of, panels$id)
  depth <- strip_depth(block, frame, house)
  gap <- block$design$marginals$gap
  top <- strips$side == "x"
  new_table(
    id = strips$panel, block = block$id, role = "margin", row = panels$row[spot], column = panels$column[spot],
    x = ifelse(top, panels$x[spot], panels$x[spot] + panels$w[spot] + gap),
    y = ifelse(top, panels$y[spot] - gap - depth$x[spot], panels$y[spot]),
    w = ifelse(top, panels$w[spot], depth$y[spot]), h = ifelse(top, depth$x[spot], panels$h[spot]),
    x_axis = strips$x_axis,
    y_axis = strips$y_axis,
    x_shown = NA_integer_, y_shown = NA_integer_, heading = NA_character_,
    x_variable = ifelse(top, panels$x_variable[spot], NA), y_variable = ifelse(top, NA, panels$y_variable[spot]),
    .rows = nrow(strips)
  )
}

# Histograms whose bins are not given get bins that line up with the panel's ticks: the
# step between ticks, parted. Returns the block with those layers trained again.
align_bins <- function(block, fits, frame, font) {
  for (i in seq_along(block$layers)) {
    layer <- block$layers[[i]]
    if (is.null(layer$strip) || !ink_traits(layer$ink)$bins || is_binned(layer$ink)) next
    axis <- block$strips[block$strips$side == layer$strip, paste0(layer$strip, "_axis")]
    # Panels with axes of their own have no common ticks.
    if (length(unique(axis)) != 1) next
    track <- frame[[layer$strip]]
    breaks <- tick_bins(layer, fits[[axis[1]]], block$axes$list[[axis[1]]], min(track$length_mm))
    if (is.null(breaks)) next
    layer$ink$breaks <- breaks
    block$layers[[i]]$ink <- layer$ink
    block$trained[[i]] <- train_ink(layer$ink, layer)
  }
  with_strips(without_strip_axes(block), font)
}

is_binned <- function(ink) !is.null(ink$bins) || !is.null(ink$width) || !is.null(ink$breaks)

without_strip_axes <- function(block) {
  block$axes$list <- Filter(function(axis) !isTRUE(axis$of_strip), block$axes$list)
  block
}

# length_mm: of the panel's edge. Edges of bins in data units, NULL where ticks are not even.
tick_bins <- function(layer, fit, axis, length_mm) {
  transform <- axis_transform(axis$transform)
  spot <- sort(transform$forward(fit$breaks))
  step <- diff(spot)
  if (!length(step) || max(step) - min(step) > 1e-6 * max(step)) return(NULL)
  step <- step[1]
  values <- finite_values(transform$forward(layer$table[[layer$strip]]))
  values <- values[is.finite(values)]
  if (!length(values)) return(NULL)
  parts <- c(1, 2, 4, 5, 10, 20, 40, 50)
  # No bin narrower than can be told apart in print.
  parts <- parts[parts == 1 | step / parts / abs(diff(fit$range)) * length_mm >= narrow_bin_mm]
  width <- step / parts[which.min(abs(log(step / parts / freedman_diaconis(values))))]
  ends <- number_range_cpp(values)[1:2]
  edges <- spot[1] + width * seq(floor((ends[1] - spot[1]) / width + 1e-9), ceiling((ends[2] - spot[1]) / width - 1e-9))
  if (length(edges) < 2) NULL else sort(transform$backward(edges))
}
