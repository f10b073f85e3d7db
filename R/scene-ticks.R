# Tick text of all axes of a block, fitted to the plot areas it has.

# before: the fits of the round before, whose breaks are kept where nothing about them
# changed.
fit_axes <- function(block, n_breaks, treatment, frame, before, plate, font, call) {
  axes <- equal_ranges(block, frame)
  page <- page_of_ticks(plate)
  lapply(seq_along(axes), function(i) {
    axis <- axes[[i]]
    length_mm <- axis_length(block, axis, frame, plate$house)
    n <- min(n_breaks[i], if (axis$slots) Inf else breaks_wished(axis, length_mm))
    wide_mm <- min(frame$x$length_mm)
    from <- treatment[i]
    fit <- kept_step(
      "fit_axis",
      list(axis, n, length_mm, from, before[[i]], page, typeface(font), wide_mm),
      fit_axis(axis, n, length_mm, from, before[[i]], page, font, wide_mm)
    )
    if (is.null(fit)) {
      abort_no_room(
        axis,
        n,
        length_mm,
        plate,
        font,
        call,
        if (length(plate$blocks) > 1) block$title
      )
    }
    fit
  })
}

# What the fit of an axis takes from its plate.
page_of_ticks <- function(plate) {
  list(
    width_mm = plate$width_mm,
    height_mm = plate$height_mm,
    house = plate$house[c("type_pt", "numbers")]
  )
}

# The length of the shortest plot area that an axis serves. A plot area under the least is
# an error of the layout, not of its labels.
axis_length <- function(block, axis, frame, house) {
  least_mm <- house$least_panel_mm[[if (axis$direction == "x") "width" else "height"]]
  if (axis$role == "marginal") {
    strip <- block$areas[match(axis$areas[1], block$areas$id), ]
    return(max(2, min(margin_depths(block, strip$side, frame)[, strip$tier])))
  }
  tracks <- unique(
    block$panels[[if (axis$direction == "x") "column" else "row"]][block$panels$id %in% axis$areas]
  )
  if (length(tracks)) max(least_mm, min(frame[[axis$direction]]$length_mm[tracks])) else least_mm
}

# The least length that texts take, each in a line of its own, upright or beside the axis.
single_lines_mm <- function(n, house, font) n * text_height_mm(1, house$type_pt$least, font)

# NULL where the axis's tick text has no room in any treatment.
fit_axis <- function(axis, n, length_mm, from, before, page, font, wide_mm) {
  shown <- if (axis$slots) Inf else n
  known <- !is.null(before) && identical(before$range, axis$range) &&
    identical(
      before$n_breaks,
      shown
    )
  breaks <- if (known) before$found else axis_breaks(axis, n, font, page$house$numbers)
  to_axis <- function(values) to_unit(axis_transform(axis$transform)$forward(values), axis$range)
  unit <- to_axis(breaks$at)
  type <- list(
    base = page$house$type_pt$base,
    least = page$house$type_pt$least,
    font = font,
    wide_mm = max(1, wide_mm)
  )
  usual_depth_mm <- most_depth_mm(axis$direction, page)
  may_thin <- if (axis$slots) FALSE else whole_steps(breaks$at, axis) %||% TRUE
  try_from <- function(from, lost, depth_most_mm = usual_depth_mm) {
    treatments <- allowed_treatments(from, axis$asked$labels, lost)
    fit_tick_text(
      axis$direction,
      unit * length_mm,
      length_mm,
      breaks$texts,
      may_thin,
      treatments,
      type,
      depth_most_mm
    )
  }
  # Fewer numbers than in the round before may do with less; their number only falls, so this comes
  # to an end.
  fewer <- !is.null(before) && !identical(before$n_breaks, shown)
  lost <- if (!fewer) before$lost
  if (fewer) from <- 1L
  fit <- if (known) {
    still_fitting(before, unit * length_mm, axis) %||% try_from(from, lost)
  } else {
    try_from(from, lost)
  }
  if (is.null(fit) && from > 1) {
    # What was cheapest has no room any more: the others are tried again, but never it.
    lost <- c(lost, from)
    fit <- try_from(1L, lost)
  }
  # Names of levels take half of the page, before there is no figure.
  if (is.null(fit) && axis$slots) {
    fit <- try_from(1L, NULL, crowded_depth[[axis$direction]] * usual_depth_mm)
  }
  if (is.null(fit)) return(NULL)
  c(
    fit,
    list(
      lost = lost,
      found = breaks,
      breaks = breaks$at,
      unit = unit,
      minor = to_axis(breaks$minor),
      range = axis$range,
      hidden = axis$hidden,
      heads = which(axis$slot_names %in% axis$asked$heads),
      n_breaks = shown
    )
  )
}

# Evenly spaced numbers as multiples of their step; NULL for others.
whole_steps <- function(at, axis) {
  if (length(at) < 3 || !is.null(axis$moment) || axis$transform != "identity") return(NULL)
  steps <- at / (at[2] - at[1])
  if (all(is.finite(steps)) && max(abs(steps - round(steps))) < 1e-6 && max(abs(steps)) < 1e15) {
    round(steps)
  }
}

# The room that tick text may take from the plot area: a third of the height, or a quarter of the
# width.
most_depth_mm <- function(direction, page) {
  if (direction == "y") page$width_mm / 4 else page$height_mm / 3
}

crowded_depth <- c(x = 1.5, y = 2)

# The tick text of the round before, where it does not hang on the length and still touches nothing.
still_fitting <- function(before, at_mm, axis) {
  is_upright <- axis$direction == "y"
  if (any(before$moved != 0)) return(NULL)
  if (!is_upright && tick_treatments[before$treatment] != "as is") return(NULL)
  clearance <- if (is_upright) 0 else text_clearance_mm
  if (texts_touch(at_mm[before$kept], before$reach_before, before$reach_after, clearance)) {
    return(NULL)
  }
  before[
    c(
      "treatment", "angle", "size_pt", "kept", "laid", "depth_mm", "reach_before", "reach_after",
      "moved"
    )
  ]
}

abort_no_room <- function(axis, n, length_mm, plate, font, call, label) {
  asked <- axis$asked$labels
  if (!is.null(asked)) {
    abort_nelvat(
      "labels",
      c(
        paste0(
          "The tick text of \"",
          axis$variable,
          "\" has no room as `labels = \"",
          asked,
          "\"` asks."
        ),
        i = "Leave `labels` out, so that another treatment can be found."
      ),
      call
    )
  }
  texts <- axis_breaks(axis, n, font, plate$house$numbers)$texts
  lines_mm <- single_lines_mm(length(texts), plate$house, font)
  too_many <- lines_mm > length_mm
  said <- function(mm) paste(format(round(mm, 1)), "mm")
  abort_nelvat(
    "labels",
    c(
      paste0(
        "The tick text of \"",
        axis$variable,
        "\" has no room on its ",
        axis$direction,
        " axis",
        if (!is.null(label)) paste0(", in the panels of ", label),
        "."
      ),
      x = paste0(
        counted(length(texts), "text"),
        " on ",
        said(length_mm),
        " touch each other in every treatment, down to ",
        plate$house$type_pt$least,
        " pt; ",
        if (too_many) {
          paste0("set in single lines they take ", said(lines_mm), ".")
        } else {
          paste0(
            "the longest is ",
            said(max(widest_mm(lapply(texts, set_lines, plate$house$type_pt$least, font)))),
            " long, and ",
            said(crowded_depth[[axis$direction]] * most_depth_mm(axis$direction, plate)),
            " are the most it may take from the plot area."
          )
        }
      ),
      i = if (too_many) {
        paste(
          c(
            x = "Make the plate wider, put fewer panels in a row, or put this variable on `y`.",
            y = "Make the plate higher, or put fewer panels under each other."
          )[[axis$direction]],
          if (axis$slots) "Or name some of its levels only: `axis_of(breaks = )`."
        )
      } else {
        c(
          x = paste0(
            "Give the levels shorter names in the codebook, make the plate higher, or put this ",
            "variable on `y`."
          ),
          y = "Give the levels shorter names in the codebook, or make the plate wider."
        )[[axis$direction]]
      }
    ),
    call
  )
}

# Ranges of a block whose x and y are lengths of one kind, widened so that a unit is as
# long upwards as across.
equal_ranges <- function(block, frame) {
  if (!block$equal) return(block$axes)
  axes <- block$axes
  panels <- block$panels
  widened <- function(axis, factor) {
    changed(axis, range = mean(axis$range) + c(-0.5, 0.5) * diff(axis$range) * factor)
  }
  for (i in which(!duplicated(panels[c("x_axis", "y_axis")]))) {
    x <- panels$x_axis[i]
    y <- panels$y_axis[i]
    per_x <- abs(diff(block$axes[[x]]$range)) / frame$x$length_mm[panels$column[i]]
    per_y <- abs(diff(block$axes[[y]]$range)) / frame$y$length_mm[panels$row[i]]
    if (per_x <= 0 || per_y <= 0) next
    k <- if (per_x < per_y) x else y
    factor <- max(per_x, per_y) / min(per_x, per_y)
    axes <- replace(axes, k, list(widened(block$axes[[k]], factor)))
  }
  axes
}

# How many breaks of numbers suit a length: one for each 9 mm upright, 12 mm across, three from 15
# mm on.
breaks_wished <- function(axis, length_mm) {
  max(
    if (length_mm >= 15) 3 else 2,
    min(10, floor(length_mm / c(x = 12, y = 9)[[axis$direction]]) + 1)
  )
}

place_tick_texts <- function(panels, axes, fits, house, font) {
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  unlist(
    Map(
      function(axis, fit) {
        unlist(
          lapply(axis$drawn_at, function(id) {
            one_panel <- panels[panels$id == id, ]
            place_tick <- if (axis$direction == "x") place_tick_below else place_tick_beside
            Map(
              function(laid, unit, moved) {
                place_tick(laid, unit, one_panel, beyond, fit, font, moved)
              },
              fit$laid,
              fit$unit[fit$kept],
              fit$moved
            )
          }),
          recursive = FALSE
        )
      },
      axes,
      fits
    ),
    recursive = FALSE
  )
}

is_led <- function(fit) any(fit$moved != 0)

place_tick_below <- function(laid, unit, panel, beyond, fit, font, moved) {
  x <- panel$x + unit * panel$w + moved
  y <- panel$y + panel$h + beyond + if (is_led(fit)) leader_mm else 0
  if (fit$angle == 0) return(place_text("tick", laid, x, y, font, across = 0.5, panel = panel$id))
  half_mm <- text_height_mm(1, laid$size_pt, font) / 2
  place_text(
    "tick",
    laid,
    x,
    y + half_mm * cos(fit$angle * pi / 180),
    font,
    across = 1,
    down = 0.5,
    angle = fit$angle,
    panel = panel$id
  )
}

place_tick_beside <- function(laid, unit, panel, beyond, fit, font, moved) {
  # Names under heads begin on one line, others end at their tick.
  place_text(
    "tick",
    laid,
    panel$x - beyond - (if (is_led(fit)) leader_mm else 0) -
      if (length(fit$heads)) fit$depth_mm else 0,
    panel$y + (1 - unit) * panel$h - moved,
    font,
    across = if (length(fit$heads)) 0 else 1,
    down = 0.5,
    panel = panel$id
  )
}
