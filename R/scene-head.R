# Room above the marks of a panel for what stands over them, such as brackets. How much it takes is
# known in millimetres, so the range of the axis follows from the layout, and the layout from it.

most_head_rounds <- 5

with_head_room <- function(laid, keys, plate, font, call) {
  for (round in seq_len(most_head_rounds)) {
    blocks <- laid$blocks
    for (i in seq_along(blocks)) {
      factors <- head_factors(changed(laid, blocks = blocks), i, plate$house, font)
      for (k in seq_along(factors$axis)) {
        blocks <- with_range_grown(blocks, i, factors$axis[k], factors$factor[k])
      }
    }
    if (identical(blocks, laid$blocks)) break
    laid <- lay_out(blocks, keys, plate, font, call)
  }
  laid
}

# By how much the ranges of the axes of a block must grow, of y or, of lying groups, of x: axis,
# factor. An axis that was asked to have its range keeps it.
head_factors <- function(laid, i, house, font) {
  block <- laid$blocks[[i]]
  frame <- laid$frames[[i]]
  fitted <- laid$fits[[i]]
  from <- list(block, frame, fitted, house, typeface(font))
  kept_step("head_factors", from, block_head_factors(block, frame, fitted, house, font))
}

block_head_factors <- function(block, frame, fitted, house, font) {
  panels <- scene_areas(block, frame)
  axes <- scene_axes(block, fitted)
  needs <- do.call(
    rbind,
    c(
      Map(
        function(layer, site) {
          found <- head_needs(layer$ink, layer$trained, site)
          if (NROW(found)) changed(found, direction = found$direction %||% "y")
        },
        block$layers,
        mark_sites(block, axes, panels, house, font)
      ),
      list(words_needs(block, axes, panels, house, font))
    )
  )
  if (is.null(needs)) return(NULL)
  row <- match(needs$panel, block$panels$id)
  x_axis <- block$panels$x_axis[row]
  y_axis <- block$panels$y_axis[row]
  needs <- changed(needs, axis = ifelse(needs$direction == "x", x_axis, y_axis))
  settled <- vapply(
    needs$direction,
    function(direction) {
      asked <- block$design$axes[[direction]]$range
      !is.null(asked) && !is.na(asked[2])
    },
    NA
  )
  needs <- needs[!settled, ]
  if (!nrow(needs)) return(NULL)
  each <- lapply(split(needs, needs$axis), function(own) {
    worst <- own[which.max(own$missing_mm), ]
    if (!isTRUE(worst$missing_mm > 0.1)) return(NULL)
    left <- worst$top_mm - worst$missing_mm - 0.2
    # Marks pressed into less than a fifth of the panel show nothing; the ink then says what is
    # missing.
    if (!isTRUE(left > 0 && left >= worst$top_mm * 0.2)) return(NULL)
    data.frame(axis = own$axis[1], factor = worst$top_mm / left)
  })
  do.call(rbind, each)
}

# What text that may stand anywhere, such as an equation, lacks above the marks of panels where it
# finds no place free of them: as head_needs(). NULL: nothing.
words_needs <- function(block, axes, panels, house, font) {
  writes <- any(
    vapply(block$layers, function(layer) ink_traits(layer$ink)$anywhere && !layer$behind, NA)
  )
  if (
    !writes || !is.null(block$design$zoom) || inherits(block$design, "nelvat_pairs") || block$equal
  ) {
    return(NULL)
  }
  marks <- place_marks(block, axes, panels, house, font)
  corner_words <- Filter(function(layer) layer$primitive == "words" && isTRUE(layer$corner), marks)
  do.call(
    rbind,
    lapply(corner_words, function(layer) {
      do.call(
        rbind,
        lapply(unique(layer$table$panel), function(id) {
          one_panel <- panels[panels$id == id, ]
          axis <- axes[[one_panel$y_axis]]
          rows <- which(layer$table$panel == id)
          laid <- corner_lines(layer$table, rows, one_panel, font)
          ink <- ink_points_of(marks, id)
          high <- sum(laid$heights)
          found <- emptiest_corner(max(widest_mm(laid$laid)), high, one_panel, ink, anywhere = TRUE)
          if (found$covered == 0 || isTRUE(axis$slots)) return(NULL)
          top <- max(ink$y[is.finite(ink$y)]) * one_panel$h
          data.frame(
            panel = id,
            missing_mm = high + 2 * corner_inset_mm + top - one_panel$h,
            top_mm = top,
            direction = "y"
          )
        })
      )
    })
  )
}

# Axes of other blocks that share the range go with it.
with_range_grown <- function(blocks, i, k, factor) {
  grown <- blocks[[i]]$axes[[k]]
  of_range <- function(axis) {
    axis$direction == grown$direction && identical(axis$variable, grown$variable) && identical(
      axis$range,
      grown$range
    )
  }
  lapply(blocks, function(block) {
    for (j in which(vapply(block$axes, of_range, NA))) {
      range <- block$axes[[j]]$range
      block <- with_axis(
        block,
        j,
        range = c(range[1], range[1] + diff(range) * factor),
        ticks_in = block$axes[[j]]$ticks_in %||% range
      )
    }
    block
  })
}
