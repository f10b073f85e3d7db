# The axes of a block: which areas share one, and its range. The choice of breaks is the layout's.

# Returns list(areas, axes): the areas with the numbers of their axes, and those axes as trained.
block_axes <- function(block, cells, layers, font) {
  asked <- asked_axes(block, cells$areas, layers)
  extents <- lapply(layers, layer_extent, isTRUE(block$spans_values))
  axes <- lapply(
    seq_along(asked$axes),
    function(k) {
      one <- asked$axes[[k]]
      said <- if (one$role == "matrix") block$axes[[one$direction]]
      train_axis(one, k, asked$areas, layers, extents, font, said)
    }
  )
  matrix <- vapply(axes, function(axis) axis$role == "matrix", NA)
  axes[matrix] <- lapply(
    axes[matrix],
    function(axis) with_heads(apply_axis_of(axis, block$axes[[axis$direction]]), font)
  )
  axes <- with_bare(axes, asked$areas, layers)
  if (block$room == "even") axes[matrix] <- even_slots(axes[matrix])
  axes <- lapply(axes, with_title_words, font)
  list(areas = without_axes_of_words(asked$areas, axes, layers), axes = axes)
}

# Which axes there are, before anything is known of their ranges. Each: list(direction, variable,
# levels, drawn_at, role); areas know theirs by number.
asked_axes <- function(block, areas, layers) {
  standing <- which(areas$role != "marginal")
  axes <- list()
  for (direction in c("x", "y")) {
    areas_standing <- table_rows(areas, standing)
    variables <- panel_variables(block, areas_standing, direction)
    index <- share_axes(
      changed(
        areas_standing,
        variable = vapply(variables, function(one) paste(one$id, scale_of_axis(one)), ""),
        alone = areas_standing[[paste0("alone_", direction)]]
      ),
      block$range_per[[direction]]
    )
    bears_text <- if (identical(block$show_axes, "all")) {
      rep(TRUE, nrow(areas_standing))
    } else {
      draws_tick_text(areas_standing, index, direction)
    }
    found <- lapply(seq_len(max(index)), function(i) {
      areas_of_variable <- which(index == i)
      variable <- variables[[areas_of_variable[1]]]
      parted <- block$range_per[[direction]] != "block" && has_levels(variable$kind)
      list(
        direction = direction,
        variable = variable,
        drawn_at = areas_standing$id[areas_of_variable][bears_text[areas_of_variable]],
        role = "matrix",
        levels = if (parted) levels_shown(layers, areas_standing$id[areas_of_variable], direction)
      )
    })
    is_hidden <- vapply(found, function(one) isTRUE(one$variable$kind$hidden), NA)
    numbers <- index + length(axes)
    areas <- with_axis_columns(
      areas,
      standing,
      direction,
      variable = vapply(variables, `[[`, "", "id"),
      axis = numbers,
      shown = ifelse(is_hidden[index], NA_integer_, numbers)
    )
    axes <- c(axes, found)
  }
  with_marginal_axes(with_count_axes(list(areas = areas, axes = axes), layers), block, layers)
}

# Areas with what `...` says of one direction in some rows: variable, axis, shown.
with_axis_columns <- function(areas, rows, direction, ...) {
  new <- list(...)
  columns <- paste0(direction, "_", names(new))
  replace(
    areas,
    columns,
    Map(function(column, values) replace(areas[[column]], rows, values), columns, new)
  )
}

# The kind that stands on an axis of one area, as its layers have it.
supplied_kind <- function(layers, id, direction) {
  layer_there <- Find(function(layer) id %in% layer$table$panel, layers)
  if (is.null(layer_there)) hidden_axis() else layer_there[[direction]]$kind
}

hidden_kind <- function(kind) changed(kind, hidden = TRUE)

# Areas that hold only figures have no axes to read by, but where tick text stands.
without_axes_of_words <- function(areas, axes, layers) {
  read_off <- areas_read_off(layers)
  without <- function(shown) {
    areas_of_words <- which(!areas$id %in% read_off & !is.na(shown))
    bears <- vapply(areas_of_words, function(i) areas$id[i] %in% axes[[shown[i]]]$drawn_at, NA)
    replace(shown, areas_of_words[!bears], NA_integer_)
  }
  changed(areas, x_shown = without(areas$x_shown), y_shown = without(areas$y_shown))
}

areas_read_off <- function(layers, is_read_off = TRUE) {
  unlist(
    lapply(layers, function(layer) {
      if (ink_traits(layer$ink)$read_off == is_read_off) unique(layer$table$panel)
    })
  )
}

# Axes of numbers whose values all stand in figures have a name, but nothing to be read by ticks:
# beside a distribution on the diagonal, these would be read as its own.
with_bare <- function(axes, areas, layers) {
  read_off <- areas_read_off(layers)
  in_figures <- setdiff(areas_read_off(layers, FALSE), read_off)
  lapply(seq_along(axes), function(k) {
    areas_of_axis <- areas$id[areas[[paste0(axes[[k]]$direction, "_axis")]] %in% k]
    # Ticks that were asked for are drawn.
    is_asked <- !is.null(axes[[k]]$asked$breaks) || !is.null(axes[[k]]$asked$every)
    changed(
      axes[[k]],
      bare = !is_asked && !axes[[k]]$slots && any(areas_of_axis %in% in_figures) &&
        !any(areas_of_axis %in% read_off)
    )
  })
}

# Ranges --------------------------------------------------------------------------

most_slots <- 1000L # more names than any page has room for

# A column of numbers or times read as text has thousands of levels: said at once, before they are
# measured.
check_slots <- function(kind, asked) {
  n <- length(kind$levels)
  if (n <= most_slots || !is.null(asked$breaks)) return(invisible())
  abort_nelvat(
    "labels",
    c(
      paste0("\"", kind$name, "\" has ", count_text(n), " levels, more than an axis has room for."),
      x = paste0("The first are ", quoted(plain_text(utils::head(kind$level_names, 3))), "."),
      i = paste0(
        "If they are numbers or times, say so in the codebook; else keep some of them, count them ",
        "first, or say in `breaks` of the axis which of them are named."
      )
    ),
    call = NULL
  )
}

# An axis with the range of what all its areas show.
train_axis <- function(asked, k, areas, layers, extents, font, axis_of = NULL) {
  direction <- asked$direction
  column <- paste0(direction, "_axis")
  areas_of_axis <- areas$id[areas[[column]] %in% k]
  variable <- with_levels(asked$variable, asked$levels)
  grounded <- is_grounded(layers, direction, areas_of_axis, asked$role)
  if (has_levels(variable$kind)) check_slots(variable$kind, axis_of)
  texts <- if (has_levels(variable$kind)) measure_texts(variable$kind$level_names, font)
  transform <- axis_transform(variable$transform)
  range <- if (length(texts)) {
    sort(transform$forward(slot_range(length(texts))))
  } else {
    seen <- lapply(extents, ends_in, areas_of_axis, direction)
    value_range(
      unlist(seen),
      grounded,
      transform,
      tight = is_filled(layers, direction, areas_of_axis)
    )
  }
  # Tick text and titles are those of the areas that stand in the matrix, or of the marginals.
  areas_of_role <- areas$id[
    areas[[column]] %in% k & (areas$role == "marginal") == (asked$role == "marginal")
  ]
  new_axis(
    direction,
    variable,
    areas_of_role,
    asked$drawn_at,
    range,
    asked$role,
    slot_levels = if (
      !is.null(asked$levels) && length(asked$levels) < length(asked$variable$kind$levels)
    ) {
      asked$levels
    },
    slot_texts = texts,
    slot_names = if (length(texts)) variable$kind$level_names,
    grounded = grounded
  )
}

# Does a layer of these areas have marks that stand on the axis's zero? What is counted on a
# diagonal or in a marginal does not ground the axis that they borrow.
is_grounded <- function(layers, direction, ids, axis_role) {
  area_role <- c(matrix = "panel", diagonal = "diagonal", marginal = "marginal")[[axis_role]]
  any(
    vapply(
      layers,
      function(layer) {
        layer$role == area_role && direction %in% layer$trained$zero &&
          any(layer$table$panel %in% ids)
      },
      NA
    )
  )
}

# Do the marks of all layers of these areas fill the axis to its ends, as tiles do?
is_filled <- function(layers, direction, ids) {
  layers_there <- Filter(function(layer) any(layer$table$panel %in% ids), layers)
  length(layers_there) > 0 &&
    all(vapply(layers_there, function(layer) direction %in% layer$trained$fills, NA))
}

# What a layer says must be seen, in axis units: panel, x0, x1, y0, y1. A marginal or a diagonal
# says of the axis it borrows only how far its bins reach. with_values: also the values themselves,
# where an ink does not reach them, as written figures.
layer_extent <- function(layer, with_values) {
  extent <- layer$trained$extent
  borrowed <- c(panel = "", diagonal = "x", marginal = layer$side %||% "")[[layer$role]]
  if (!is.null(extent) && nzchar(borrowed) && !ink_traits(layer$ink)$bins) {
    extent <- replace(extent, paste0(borrowed, 0:1), list(rep(NA_real_, nrow(extent))))
  }
  # Values that stand in figures are not reached by marks; their axis has their range all the same.
  if (with_values || (is.null(extent) && !ink_traits(layer$ink)$read_off)) {
    extent <- stack_tables(
      list(extent, extent_by_panel(layer$table$panel, x0 = layer$table$x, y0 = layer$table$y))
    )
  }
  if (is.null(extent)) return(NULL)
  on_axis <- function(direction) {
    transform <- axis_transform(layer[[direction]]$transform)
    lapply(extent[paste0(direction, 0:1)], transform$forward)
  }
  replace(extent, c("x0", "x1", "y0", "y1"), c(on_axis("x"), on_axis("y")))
}

# Of an extent the ends in one direction, in some areas.
ends_in <- function(extent, ids, direction) {
  if (!is.null(extent)) unlist(extent[extent$panel %in% ids, paste0(direction, 0:1)])
}

# Axes of marginals once their layers are trained anew.
with_new_marginals <- function(block, font) {
  extents <- lapply(block$layers, layer_extent, FALSE)
  axes <- lapply(seq_along(block$axes), function(k) {
    axis <- block$axes[[k]]
    if (axis$role != "marginal" || axis$slots) return(axis)
    seen <- lapply(extents, ends_in, axis$areas, axis$direction)
    range <- value_range(unlist(seen), axis$grounded, axis_transform(axis$transform))
    changed(axis, range = if (axis$turned) rev(range) else range)
  })
  changed(block, axes = axes)
}

with_title_words <- function(axis, font) {
  if (nzchar(axis$title)) changed(axis, title_words = measure_words(axis$title, font)) else axis
}
