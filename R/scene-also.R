# The second scale of an axis, in another unit, at the other side of a block: at the right of its
# last column, over its first row. What stands where follows from the axis: a place has one value in
# either unit.

# Texts and positions of second scales for the plot areas of the round before: list(x, y), each NULL
# or list(of: list(unit, laid) by the row or column of its panel, title, depth_mm, room_mm). Panels
# with ranges of their own have ticks of their own.
fit_also <- function(block, frame, house, font) {
  if (!any(vapply(block$axes, function(axis) !is.null(axis$asked$also), NA))) return(NULL)
  size <- house$type_pt$base
  fit_one <- function(direction) {
    bearers <- block$panels[bears_also(block$panels, direction), ]
    index <- bearers[[paste0(direction, "_axis")]]
    asked <- vapply(index, function(i) !is.na(i) && !is.null(block$axes[[i]]$asked$also), NA)
    if (!any(asked)) return(NULL)
    long_mm <- max(1, min(frame[[direction]]$length_mm))
    for (axis in block$axes[unique(index[asked])]) check_also(axis, block)
    of_axis <- lapply(stats::setNames(nm = unique(index[asked])), function(i) {
      fitted_also(block$axes[[i]], long_mm, direction, house, font)
    })
    laid <- unlist(lapply(of_axis, `[[`, "laid"), recursive = FALSE)
    title <- set_within(
      measure_words(other_scale(block$axes[[index[asked][1]]])$title, font),
      house$type_pt$title,
      font,
      max(8, track_span(frame[[direction]], c(1, length(frame[[direction]]$start_mm)))),
      3L
    )
    depth <- if (direction == "y") max(0, widest_mm(laid)) else text_height_mm(1, size, font)
    list(
      of = stats::setNames(
        of_axis[as.character(index[asked])],
        bearers[[along_of[[direction]]]][asked]
      ),
      title = title,
      depth_mm = depth,
      room_mm = tick_out_mm(house) + house$space_mm$tick_gap + depth + house$space_mm$title_gap +
        text_height_mm(title$n_lines, title$size_pt, font)
    )
  }
  list(x = fit_one("x"), y = fit_one("y"))
}

# Panels that bear a second scale are told apart by their row at the right, by their column on top.
along_of <- c(x = "column", y = "row")
also_of <- function(also, one_panel, direction) {
  also$of[[as.character(one_panel[[along_of[[direction]]]])]]
}

# Tick text of one axis in its other scale: list(unit, laid).
fitted_also <- function(axis, long_mm, direction, house, font) {
  other <- other_scale(axis)
  found <- also_breaks(axis, other, long_mm)
  size <- house$type_pt$base
  laid <- lapply(house_numbers(found$text, house$numbers), set_text, size, font)
  if (is.null(other$expression)) return(list(unit = found$unit, laid = laid))
  wide <- if (direction == "x") {
    vapply(laid, function(one) widest_mm(list(one)), 0)
  } else {
    rep(text_height_mm(1, size, font), length(laid))
  }
  apart <- kept_apart(found$unit * long_mm, wide + also_gap_mm)
  list(unit = found$unit[apart], laid = laid[apart])
}

check_also <- function(axis, block) {
  wrong <- if (axis$slots || !is.null(axis$moment) || axis$count) {
    "It is no quantity."
  } else if (is.null(axis$unit) && is.null(also_parts(axis$asked$also))) {
    "It has no unit."
  } else if (axis$direction == "y" && length(block$direct)) {
    "The names of its lines stand there."
  } else if (has_marginals(block)) {
    "Its panel has marginals there."
  } else if (axis$direction == "x" && any(!is.na(block$panels$heading))) {
    "Its panels have headings there."
  }
  if (is.null(wrong)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`also` gives the axis of \"",
        axis$variable,
        "\" a second scale, which it cannot have."
      ),
      x = wrong,
      i = if (grepl("there[.]$", wrong)) {
        "Leave one of them out."
      } else {
        "Of unlike variables each has a panel of its own: `stacked()` puts them over one axis."
      }
    ),
    call = NULL
  )
}

# Which panels bear a second scale: those of the last column, or of the first row.
bears_also <- function(panels, direction) {
  if (direction == "y") panels$column == max(panels$column) else panels$row == min(panels$row)
}

place_also <- function(own, panels, house, font) {
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  of_direction <- function(direction) {
    also <- own$parts$also[[direction]]
    if (is.null(also)) return(NULL)
    bearers <- panels[bears_also(panels, direction), ]
    ticks <- unlist(
      lapply(seq_len(nrow(bearers)), function(i) {
        one_panel <- bearers[i, ]
        scale <- also_of(also, one_panel, direction)
        Map(
          function(laid, unit) {
            if (direction == "y") {
              place_text(
                "tick",
                laid,
                one_panel$x + one_panel$w + beyond,
                one_panel$y + (1 - unit) * one_panel$h,
                font,
                down = 0.5,
                panel = one_panel$id
              )
            } else {
              place_text(
                "tick",
                laid,
                one_panel$x + unit * one_panel$w,
                one_panel$y - beyond,
                font,
                across = 0.5,
                down = 1,
                panel = one_panel$id
              )
            }
          },
          scale$laid,
          scale$unit
        )
      }),
      recursive = FALSE
    )
    far <- beyond + also$depth_mm + house$space_mm$title_gap
    title <- if (direction == "y") {
      place_text(
        "axis title",
        also$title,
        max(bearers$x + bearers$w) + far,
        (min(bearers$y) + max(bearers$y + bearers$h)) / 2,
        font,
        across = 0.5,
        angle = 90
      )
    } else {
      place_text(
        "axis title",
        also$title,
        (min(bearers$x) + max(bearers$x + bearers$w)) / 2,
        min(bearers$y) - far,
        font,
        across = 0.5,
        down = 1
      )
    }
    c(ticks, list(title))
  }
  c(of_direction("x"), of_direction("y"))
}

also_rules <- function(panels, own, house) {
  tick <- house$space_mm$tick * if (house$ticks$side == "out") 1 else -1
  unlist(
    lapply(c("x", "y"), function(direction) {
      also <- own$parts$also[[direction]]
      if (is.null(also)) return(NULL)
      unlist(
        lapply(which(bears_also(panels, direction)), function(i) {
          one_panel <- panels[i, ]
          units <- also_of(also, one_panel, direction)$unit
          right <- one_panel$x + one_panel$w
          bottom <- one_panel$y + one_panel$h
          if (direction == "y") {
            y <- bottom - units * one_panel$h
            list(
              new_rule("axis", one_panel$id, right, one_panel$y, right, bottom),
              new_rule("tick", one_panel$id, right, y, right + tick, y)
            )
          } else {
            x <- one_panel$x + units * one_panel$w
            list(
              new_rule("axis", one_panel$id, one_panel$x, one_panel$y, right, one_panel$y),
              new_rule("tick", one_panel$id, x, one_panel$y, x, one_panel$y - tick)
            )
          }
        }),
        recursive = FALSE
      )
    }),
    recursive = FALSE
  )
}
