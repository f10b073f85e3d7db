# Marginals on the page: strips at the top and right of a panel that show one of its quantities
# each, on the panel's own axis.

has_marginals <- function(block) any(block$areas$role == "marginal")

# Room that marginals take around their panel, in mm.
# axis_mm: what the ticks and tick text of each axis take.
marginal_reach <- function(block, axis_mm, frame) {
  none <- rep(0, nrow(block$panels))
  reach <- list(left = none, right = none, top = none, bottom = none)
  axis_room <- function(side, column) {
    marginal_areas <- which(block$areas$side %in% side)
    room <- vapply(
      block$panels$id,
      function(id) {
        of_host <- marginal_areas[block$areas$host[marginal_areas] == id]
        index <- block$areas[[column]][of_host]
        has_text <- vapply(
          block$axes[index],
          function(axis) any(axis$drawn_at %in% block$areas$id[of_host]),
          NA
        )
        max(0, axis_mm[index[has_text]])
      },
      0
    )
    room
  }
  if ("x" %in% block$areas$side) {
    reach[c("top", "left")] <- list(margins_mm(block, "x", frame), axis_room("x", "y_axis"))
  }
  if ("y" %in% block$areas$side) {
    reach[c("right", "bottom")] <- list(margins_mm(block, "y", frame), axis_room("y", "x_axis"))
  }
  reach
}

# The places of marginals, from those of their hosts.
marginal_boxes <- function(marginals, hosts, block, frame) {
  gap <- block$design$marginals$gap
  stack_tables(
    lapply(unique(marginals$side), function(side) {
      of_side <- table_rows(marginals, marginals$side == side)
      host <- match(of_side$host, hosts$id)
      depths <- margin_depths(block, side, frame)
      ends <- t(apply(depths + gap, 1, cumsum))
      if (nrow(ends) != nrow(depths)) ends <- t(ends)
      deep <- depths[cbind(host, of_side$tier)]
      end <- ends[cbind(host, of_side$tier)]
      changed(
        of_side,
        x = if (side == "x") hosts$x[host] else hosts$x[host] + hosts$w[host] + end - deep,
        y = if (side == "x") hosts$y[host] - end else hosts$y[host],
        w = if (side == "x") hosts$w[host] else deep,
        h = if (side == "x") deep else hosts$h[host]
      )
    })
  )
}

# Histograms whose bins are not given get bins that line up with the panel's ticks: the
# step between ticks, parted. Returns the block with those layers trained again.
align_bins <- function(block, fits, frame, font) {
  layers <- lapply(block$layers, function(layer) {
    if (layer$role != "marginal" || !ink_traits(layer$ink)$bins || is_binned(layer$ink)) {
      return(layer)
    }
    stands <- block$areas$id %in% layer$table$panel
    axis <- unique(block$areas[[paste0(layer$side, "_axis")]][stands])
    # Panels with axes of their own have no common ticks.
    if (length(axis) != 1) return(layer)
    breaks <- tick_bins(layer, fits[[axis]], block$axes[[axis]], min(frame[[layer$side]]$length_mm))
    if (is.null(breaks)) layer else retrained(layer, changed(layer$ink, breaks = breaks))
  })
  with_new_marginals(changed(block, layers = layers), font)
}

is_binned <- function(ink) !is.null(ink$bins) || !is.null(ink$width) || !is.null(ink$breaks)

# length_mm: of the panel's edge. Edges of bins in data units, NULL where ticks are not even.
tick_bins <- function(layer, fit, axis, length_mm) {
  transform <- axis_transform(axis$transform)
  positions <- sort(transform$forward(fit$breaks))
  step <- diff(positions)
  if (!length(step) || max(step) - min(step) > 1e-6 * max(step)) return(NULL)
  step <- step[1]
  values <- finite_values(transform$forward(layer$table[[layer$side]]))
  values <- values[is.finite(values)]
  if (!length(values)) return(NULL)
  ends <- number_range_cpp(values)[1:2]
  # Bins of whole numbers are centred on them, wherever ticks stand.
  if (!is.null(whole_step(values, ends))) return(NULL)
  parts <- c(1, 2, 4, 5, 10, 20, 40, 50)
  # No bin narrower than can be told apart in print.
  parts <- parts[parts == 1 | step / parts / abs(diff(fit$range)) * length_mm >= narrow_bin_mm]
  width <- step / parts[which.min(abs(log(step / parts / freedman_diaconis(values))))]
  sort(transform$backward(covering_edges(ends, width, positions[1])))
}

# What stands outside a grid is of several panels, so these have one axis.
check_one_scale <- function(areas, side) {
  standing <- standing_areas(areas)
  index <- standing[[paste0(side, "_axis")]]
  several <- vapply(
    margin_groups(standing, side, TRUE),
    function(panels) length(unique(index[panels])) > 1,
    NA
  )
  if (!any(several)) return(invisible())
  of <- c(x = "column", y = "row")[[side]]
  abort_nelvat(
    "argument",
    c(
      paste0("A marginal outside the grid is of all panels of a ", of, ", on one axis."),
      x = paste0("The panels of a ", of, " have ", side, " axes of their own."),
      i = paste0(
        "Leave out `outside`, or give `range_per` for ",
        side,
        " as \"block\" or \"",
        of,
        "\"."
      )
    ),
    call = NULL
  )
}
