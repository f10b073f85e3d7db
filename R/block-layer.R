# A layer is one ink over all areas of a block that it is drawn in. As asked, it has the rows that
# it is given; as trained, what its statistic made of them.
#
#   table     panel (the area's id), x, y, and a column for each channel that is mapped: numbers in
#             data units, levels as codes; in a matrix of pairs x and y are in axis units; of rows
#             that stand for many, times, and spread, least and greatest of what they average;
#   x, y, colour, shape, dash, size, group
#             variables without their values; NULL for a channel that is not mapped;
#   role      of the areas it is drawn in: "panel", "marginal" or "diagonal";
#   side      of a marginal: "x" at the top, "y" at the right;
#   behind    does it show faintly what other panels show?

mark_channels <- c("colour", "shape", "dash", "size", "group")

new_layer <- function(
  ink,
  table,
  x,
  y,
  channels = list(),
  role = "panel",
  side = NULL,
  behind = FALSE
) {
  channels <- lapply(
    stats::setNames(nm = mark_channels),
    function(channel) without_values(channels[[channel]])
  )
  # What is set for the whole ink takes the place of a column.
  set <- intersect(names(ink$settings), mark_channels)
  channels[set] <- list(NULL)
  table <- table[setdiff(names(table), set)]
  check_record(
    c(
      list(ink = ink, table = table, x = without_values(x), y = without_values(y)),
      channels,
      list(role = role, side = side, behind = behind)
    ),
    "layer",
    record_fields.nelvat_layer()
  )
}

#' @export
record_fields.nelvat_layer <- function(record) {
  is_shown <- is_or_null(function(x) inherits(x, "nelvat_variable") && is.null(x$values))
  channels <- lapply(stats::setNames(nm = mark_channels), function(channel) is_shown)
  c(
    list(
      ink = is_ink,
      x = is_shown,
      y = is_shown,
      table = function(x) {
        is.data.frame(x) && all(c("panel", "x", "y") %in% names(x)) && !anyNA(x$panel)
      }
    ),
    channels,
    list(
      role = function(x) rlang::is_string(x) && x %in% c("panel", "marginal", "diagonal"),
      side = is_or_null(function(x) x %in% c("x", "y")),
      behind = rlang::is_bool
    )
  )
}

# A layer as trained: with what its ink computed of its rows, and what is one for the whole plate:
# the looks of its levels, the range of a ramp and of sizes (see key-scales.R).
train_layer <- function(layer, looks = list(), scales = list()) {
  trained <- train_ink(layer$ink, layer)
  check_record(
    c(
      unclass(layer),
      list(trained = check_trained(trained, layer), looks = looks, scales = scales)
    ),
    "trained_layer",
    record_fields.nelvat_trained_layer()
  )
}

# A trained layer whose ink says more than before, such as bins that line up with ticks.
retrained <- function(layer, ink) {
  asked <- changed(layer, ink = ink)
  changed(asked, trained = check_trained(train_ink(ink, asked), asked))
}

#' @export
record_fields.nelvat_trained_layer <- function(record) {
  c(record_fields.nelvat_layer(), list(trained = is.list, looks = is.list, scales = is.list))
}

# The layers of a block: one ink over all its panels (see ink-ink.R).

#' @export
block_layers.nelvat_facets <- function(block, cells) {
  standing <- cells_of_role(cells, cells$areas$role != "marginal")
  c(
    if (isTRUE(block$behind)) ink_layers(block$panel, behind_cells(block, standing), behind = TRUE),
    ink_layers(block$panel, standing),
    marginal_layers(block, cells)
  )
}

cells_of_role <- function(cells, held) {
  list(areas = table_rows(cells$areas, held), rows = cells$rows[held])
}

# Layers of marginals: the rows that their hosts can draw, one quantity only.
marginal_layers <- function(block, cells) {
  if (is.null(block$marginals)) return(NULL)
  design <- with_shown_values(block$panel, cells)
  variables <- design$variables
  placed <- Filter(
    function(one) !is.null(one) && !one$supplied && !identical(one$id, "measure"),
    c(list(variables$x), variables$y, variables[c("colour", "shape", "size")])
  )
  shown_rows <- which(Reduce(`&`, lapply(placed, function(variable) !is.na(variable$values))))
  unlist(
    lapply(each_row(margin_places(block$marginals$inks)), function(place) {
      inks <- block$marginals$inks[[place$side]]
      alone <- marginal_panel(design, place$side, inks[margin_tiers(inks) == place$tier])
      is_there <- cells$areas$side %in% place$side & cells$areas$tier %in% place$tier
      cells_of_place <- cells_of_role(cells, is_there)
      # What stands along x alone is of no measure.
      cells_of_place$areas$measure <- rep(1L, nrow(cells_of_place$areas))
      ink_layers(
        alone,
        changed(cells_of_place, rows = lapply(cells_of_place$rows, intersect, shown_rows)),
        side = place$side
      )
    }),
    recursive = FALSE
  )
}

# A panel whose y are the values that its ink shows in place of the column, such as residuals, each
# of the cell that its row is drawn in.
with_shown_values <- function(panel, cells) {
  ink <- replaced_ink(panel)
  if (is.null(ink)) return(panel)
  standing <- cells_of_role(cells, cells$areas$role != "marginal")
  layer <- ink_layers(changed(panel, inks = list(ink)), standing)[[1]]
  shown <- rep(NA_real_, panel$n)
  shown[unlist(standing$rows)] <- replaced_values(ink, layer)
  variables <- panel$variables
  variables$y <- lapply(variables$y, function(y) changed(y, values = shown))
  changed(panel, variables = variables)
}

behind_colour <- "#D3D7DC"

# Cells whose rows are those of all other panels of the same measure; `origin` says which
# panel each row is of.
behind_cells <- function(block, cells) {
  cells$origin <- rep(NA_integer_, block$panel$n)
  for (i in which(cells$areas$measure == 1)) cells$origin[cells$rows[[i]]] <- i
  all_rows <- lapply(
    split(cells$rows, cells$areas$measure),
    function(rows) sort(unique(unlist(rows)))
  )
  cells$rows <- Map(
    function(own, measure) setdiff(all_rows[[as.character(measure)]], own),
    cells$rows,
    cells$areas$measure
  )
  cells
}

# side: that of the marginals which they are drawn in, NULL for panels. Measures on axes of unlike
# sorts have layers of their own, as a layer is in the units of its axes.
ink_layers <- function(panel, cells, behind = FALSE, side = NULL) {
  y <- panel$variables$y
  if (!is.null(panel$variables$shared_y) || length(y) < 2) {
    return(layers_of_one_scale(panel, cells, behind, side))
  }
  scale <- vapply(y, scale_of_axis, "")
  unlist(
    lapply(unique(scale), function(one) {
      of <- which(scale == one)
      in_group <- cells$areas$measure %in% of
      there <- changed(cells_of_role(cells, in_group), origin = cells$origin)
      there$areas$measure <- match(there$areas$measure, of)
      alone <- changed(panel, variables = changed(panel$variables, y = y[of]))
      layers_of_one_scale(alone, there, behind, side)
    }),
    recursive = FALSE
  )
}

layers_of_one_scale <- function(panel, cells, behind, side) {
  variables <- panel$variables
  several <- !is.null(variables$shared_y)
  table <- if (several) series_table(variables, cells) else cell_table(variables, cells)
  row <- unlist(
    if (several) lapply(variables$y, own_rows, cells$rows) else rows_of_measures(variables, cells)
  )
  inks <- Filter(function(ink) !behind || ink_traits(ink)$behind, panel$inks)
  check_asked_inks(panel, inks, side)
  lapply(inks, function(ink) {
    ink_variables <- ink$variables
    for (channel in names(ink_variables)) table[[channel]] <- ink_variables[[channel]]$values[row]
    channels <- lapply(
      stats::setNames(nm = mark_channels),
      function(channel) ink_variables[[channel]] %||% variables[[channel]]
    )
    if (behind) {
      ink <- faint_ink(ink)
      # Each panel's rows stay a series of their own, and so does what colour parted.
      parts <- list(cells$origin[row], table$group, if (is_category(channels$colour)) table$colour)
      table$group <- match_codes(Filter(Negate(is.null), parts))
    }
    new_layer(
      ink,
      table,
      variables$x,
      variables$shared_y %||% variables$y[[1]],
      channels,
      role = if (is.null(side)) "panel" else "marginal",
      side = side,
      behind = behind
    )
  })
}

# Colours of several levels without an order are repeated by shape: settled once for a variable and
# a plate, so that its key shows the symbol of each mark, where all inks of the plate that show it
# by symbols can. layers: a list of layers for each block.
echoed_layers <- function(layers) {
  by_symbols <- function(layer) {
    !layer$behind && is_category(layer$colour) && "symbol" %in% ink_traits(layer$ink)$mark
  }
  all <- Filter(by_symbols, unlist(layers, recursive = FALSE))
  echoed <- vapply(all, is_echoed, NA)
  of_variable <- vapply(all, function(layer) layer$colour$id, "")
  # What is on shape somewhere is so wherever it can be.
  said <- Filter(function(layer) is_category(layer$shape), unlist(layers, recursive = FALSE))
  said <- vapply(said, function(layer) layer$shape$id, "")
  able <- vapply(all, function(layer) is.null(layer$shape) && can_echo(layer), NA)
  echoed_ids <- c(setdiff(of_variable, of_variable[!echoed]), intersect(said, of_variable[able]))
  if (!length(echoed_ids)) return(layers)
  lapply(layers, lapply, function(layer) {
    if (!by_symbols(layer) || !layer$colour$id %in% echoed_ids || !is.null(layer$shape)) {
      return(layer)
    }
    if (!can_echo(layer)) return(layer)
    changed(
      layer,
      shape = layer$colour,
      table = changed(layer$table, shape = layer$table$colour)
    )
  })
}

# Can a layer repeat its colours by shape: nothing else is said of its shapes, and its points are
# not so many that they get too small for it?
is_echoed <- function(layer) {
  if (!can_echo(layer) || !is.null(layer$shape)) return(FALSE)
  area <- layer$table$panel
  if (length(area) && max(tabulate(match(area, unique(area)))) > most_echoed) return(FALSE)
  kind <- layer$colour$kind
  kind$kind == "category" && length(kind$levels) >= 3 && length(kind$levels) <= length(symbol_names)
}

can_echo <- function(layer) {
  ink <- layer$ink
  ink_traits(ink)$echoes && is.null(ink$settings$shape) && is.null(ink$settings$colour) &&
    is.null(layer$size)
}

most_echoed <- 300 # points of a panel

# Whole numbers that tell apart the combinations of several codes.
match_codes <- function(parts) {
  key <- do.call(paste, parts)
  ifelse(Reduce(`|`, lapply(parts, is.na)), NA_integer_, match(key, unique(key)))
}

# An ink as it is drawn behind others: faint, without words.
faint_ink <- function(ink) {
  ink$settings$colour <- behind_colour
  # Each panel's rows stay a series of their own.
  ink$told_apart <- TRUE
  ink$equation <- FALSE
  if (!is.null(ink$values)) ink$values <- FALSE
  ink
}
