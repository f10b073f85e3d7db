# The axes of a block: which panels share one, its range, and the choice of breaks
# that the layout will make.

# Returns list(x, y, list): `x`, `y` give each panel's axis as an index into `list`.
block_axes <- function(block, cells, layers, trained, font, house) {
  panels <- cells$panels
  extent <- stack_tables(
    c(Map(shared_extent, layers, trained), if (isTRUE(block$in_axis_units)) lapply(layers, values_extent))
  )
  zero <- unlist(
    Map(function(layer, one) if (is.null(layer$strip) && is.null(layer$diagonal)) one$zero, layers, trained)
  )
  shared <- list()
  axes <- list()
  for (direction in c("x", "y")) {
    variables <- panel_variables(block, panels, direction)
    index <- share_axes(cbind(panels, variable = vapply(variables, `[[`, "", "id")), block$range_per[[direction]])
    draws_text <- if (
      identical(block$show_axes, "all")
    ) rep(TRUE, nrow(panels)) else draws_tick_text(panels, index, direction)
    shared[[direction]] <- index + length(axes)
    axes <- c(axes, lapply(seq_len(max(index)), function(i) {
      of <- which(index == i)
      own <- if (
        block$range_per[[direction]] != "block" && has_levels(variables[[of[1]]]$kind)
      ) levels_shown(layers, panels$panel[of], direction)
      axis <- new_axis(
        direction, with_levels(variables[[of[1]]], own), panels$panel[of], panels$panel[of][draws_text[of]], extent,
        direction %in% zero, font, isTRUE(block$in_axis_units)
      )
      with_title_words(apply_axis_of(axis, block$axes[[direction]]), font)
    }))
  }
  if (block$room == "even") axes <- even_slots(axes)
  shown <- lapply(shared, function(index) ifelse(vapply(axes[index], `[[`, NA, "hidden"), NA_integer_, index))
  without_axes_of_words(
    with_count_axes(
      list(x = shared$x, y = shared$y, list = axes, x_shown = shown$x, y_shown = shown$y), cells, layers, trained,
      font
    ),
    cells, layers
  )
}

# Panels that hold only figures have no axes to read by, but where tick text stands.
without_axes_of_words <- function(axes, cells, layers) {
  draws_text <- unlist(lapply(layers, function(layer) if (ink_traits(layer$ink)$read_off) unique(layer$table$panel)))
  for (i in which(!cells$panels$panel %in% draws_text)) {
    for (direction in c("x_shown", "y_shown")) {
      spot <- axes[[direction]][i]
      if (!is.na(spot) && !cells$panels$panel[i] %in% axes$list[[spot]]$drawn_at) axes[[direction]][i] <- NA_integer_
    }
  }
  axes
}

# What a layer says of the ranges its panels share. Marginals say only how far their bins
# reach; on the diagonal of a matrix the other direction is a count of its own.
shared_extent <- function(layer, trained) {
  extent <- trained$extent
  if (is.null(extent)) return(NULL)
  if (!is.null(layer$strip)) {
    if (!ink_traits(layer$ink)$bins) return(NULL)
    extent$panel <- layer$strip_of[match(extent$panel, layer$strip_ids)]
    extent[if (layer$strip == "x") c("y0", "y1") else c("x0", "x1")] <- NA_real_
  }
  if (!is.null(layer$diagonal)) {
    if (!ink_traits(layer$ink)$bins) return(NULL)
    extent[c("y0", "y1")] <- NA_real_
  }
  if (isTRUE(layer$to_axis)) {
    for (end in c("x0", "x1")) extent[[end]] <- axis_transform(layer$x$transform)$forward(extent[[end]])
    for (end in c("y0", "y1")) extent[[end]] <- axis_transform(layer$y$transform)$forward(extent[[end]])
  }
  extent
}

# The values of a layer themselves, in axis units: what is written in figures or smoothed
# has the range of its values, too.
values_extent <- function(layer) {
  if (isTRUE(layer$to_axis)) return(NULL)
  extent_by_panel(layer$table$panel, x0 = layer$table$x, y0 = if (is.null(layer$diagonal)) layer$table$y else NA_real_)
}

# Panels of a diagonal have an axis of their own for what they count; they show that of
# their row, where the row has another panel to read by it.
with_count_axes <- function(axes, cells, layers, trained, font) {
  panels <- cells$panels
  diagonal <- which(panels$diagonal %||% FALSE)
  of_row <- axes$y
  for (i in diagonal) {
    id <- panels$panel[i]
    held <- vapply(layers, function(layer) !is.null(layer$diagonal) && id %in% layer$table$panel, NA)
    extent <- stack_tables(lapply(trained[held], `[[`, "extent"))
    kind <- if (any(held)) layers[held][[1]]$y$kind else hidden_axis()
    kind$hidden <- TRUE
    axis <- new_axis(
      "y", list(id = "diagonal", kind = kind, transform = "identity"), id, integer(), extent,
      "y" %in% unlist(lapply(trained[held], `[[`, "zero")), font
    )
    axes$list <- c(axes$list, list(axis))
    others <- setdiff(which(of_row == of_row[i]), diagonal)
    if (!length(others) || any(panels$row[others] == panels$row[i] & panels$column[others] < panels$column[i])) {
      axes$y_shown[i] <- NA_integer_
      axes$list[[of_row[i]]]$drawn_at <- setdiff(axes$list[[of_row[i]]]$drawn_at, id)
    }
    axes$y[i] <- length(axes$list)
  }
  axes
}

# Category axes of one direction get as many slots as that of most levels, so that slots
# are as wide in all panels.
even_slots <- function(axes) {
  for (direction in c("x", "y")) {
    of <- which(vapply(axes, function(axis) axis$slots && axis$direction == direction, NA))
    most <- max(0, vapply(axes[of], function(axis) length(axis$slot_texts), 0L))
    for (i in of) axes[[i]]$range <- sort(axis_transform(axes[[i]]$transform)$forward(slot_range(most)))
  }
  axes
}

with_title_words <- function(axis, font) {
  if (nzchar(axis$title)) axis$title_words <- measure_words(axis$title, font)
  axis
}

# Codes of the levels that the rows of some panels have.
levels_shown <- function(layers, ids, direction) {
  table <- layers[[length(layers)]]$table
  shown <- sort(unique(table[[direction]][table$panel %in% ids]))
  if (length(shown)) shown
}

# A variable with only some of its levels; `slot_levels` says which.
with_levels <- function(variable, codes) {
  if (is.null(codes) || length(codes) == length(variable$kind$levels)) return(variable)
  variable$kind$level_names <- variable$kind$level_names[codes]
  variable$kind$levels <- variable$kind$levels[codes]
  variable$slot_levels <- codes
  variable
}

# in_axis_units: is `extent` in transformed units already?
new_axis <- function(direction, variable, panels, drawn_at, extent, zero, font, in_axis_units = FALSE) {
  kind <- variable$kind
  slots <- has_levels(kind)
  seen <- if (!is.null(extent)) extent[extent$panel %in% panels, if (direction == "x") c("x0", "x1") else c("y0", "y1")]
  axis <- list(
    direction = direction, variable = variable$id, title = if (isTRUE(kind$no_title)) "" else kind_title(kind),
    panels = panels, drawn_at = drawn_at,
    slots = slots, slot_levels = variable$slot_levels, grounded = zero, named = isTRUE(kind$no_title),
    quantity = kind$kind == "quantity" && !isTRUE(kind$count), hidden = isTRUE(kind$hidden),
    transform = variable$transform, count = isTRUE(kind$count),
    moment = if (kind$kind == "moment") kind[c("zone", "has_time")],
    range = if (slots) sort(axis_transform(variable$transform)$forward(slot_range(length(kind$levels)))) else
    value_range(unlist(seen), zero, axis_transform(if (in_axis_units) "identity" else variable$transform))
  )
  if (slots) axis$slot_texts <- lapply(kind$level_names, measure_words, font)
  axis
}

# The breaks of an axis `length_mm` long, at most `n` of them for numbers, with
# measured tick text.
axis_breaks <- function(axis, n, font, numbers) {
  if (axis$hidden) return(list(at = numeric(), texts = list(), minor = numeric()))
  if (axis$slots) return(list(at = seq_along(axis$slot_texts), texts = axis$slot_texts, minor = numeric()))
  breaks <- asked_breaks(axis, value_breaks(axis, n))
  text <- if (is.null(axis$moment)) house_numbers(breaks$text, numbers) else breaks$text
  c(breaks, list(texts = lapply(text, measure_words, font)))
}

# Breaks as axis_of() asks, where it does, else those found.
asked_breaks <- function(axis, found) {
  asked <- axis$asked
  ends <- sort(axis_transform(axis$transform)$backward(axis$range))
  spot <- asked$breaks %||% (if (!is.null(asked$every)) stepped(ends, asked$every, axis$moment))
  if (!is.null(spot)) {
    spot <- spot[spot >= ends[1] - 1e-9 * diff(ends) & spot <= ends[2] + 1e-9 * diff(ends)]
    text <- if (is.null(axis$moment)) number_text(spot) else time_text(
      spot, if (is.data.frame(asked$every)) asked$every else closest_step(spot), axis$moment$zone
    )
    found <- list(at = spot, text = text, minor = numeric())
  }
  if (!is.null(asked$minor)) found$minor <- setdiff(stepped(ends, asked$minor, axis$moment), found$at)
  if (is.character(asked$format)) {
    found$text <- format(as.POSIXct(found$at, origin = "1970-01-01", tz = axis$moment$zone %||% "UTC"), asked$format)
  }
  if (is.numeric(asked$format)) found$text <- number_text_at(found$at, asked$format)
  found
}

stepped <- function(ends, step, moment) {
  if (is.data.frame(step)) return(step_positions(ends, step, moment$zone %||% "UTC"))
  seq(ceiling(ends[1] / step - 1e-9), floor(ends[2] / step + 1e-9)) * step
}

# The calendar step that is nearest to the distance of positions.
closest_step <- function(at) {
  steps <- time_steps()
  steps[which.min(abs(log(steps$seconds / max(diff(at)[1], 1, na.rm = TRUE)))), ]
}

# Ranges of a block whose x and y are lengths of one kind, widened so that a unit is as
# long upwards as across.
equal_ranges <- function(block, frame) {
  if (!isTRUE(block$equal)) return(block$axes$list)
  axes <- block$axes$list
  panels <- block$cells$panels
  for (pair in split(seq_len(nrow(panels)), paste(block$axes$x, block$axes$y))) {
    i <- pair[1]
    x <- block$axes$x[i]
    y <- block$axes$y[i]
    per_x <- diff(block$axes$list[[x]]$range) / frame$x$length_mm[panels$column[i]]
    per_y <- diff(block$axes$list[[y]]$range) / frame$y$length_mm[panels$row[i]]
    if (per_x <= 0 || per_y <= 0) next
    widen <- function(range, factor) mean(range) + c(-0.5, 0.5) * diff(range) * factor
    if (per_x < per_y) axes[[x]]$range <- widen(block$axes$list[[x]]$range, per_y / per_x)
    else axes[[y]]$range <- widen(block$axes$list[[y]]$range, per_x / per_y)
  }
  axes
}

# How many breaks of numbers suit a length: one for each 8 mm upright, 13 mm across.
breaks_wished <- function(axis, length_mm) {
  max(2, min(8, floor(length_mm / c(x = 13, y = 8)[[axis$direction]]) + 1))
}
