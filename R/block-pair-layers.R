# The layers of a matrix of pairs: one for each ink of each part, over all its panels.
# Their values are in the axes' transformed units already, as panels of one layer have
# variables of unlike transforms. Cells with a category have a layer each.

#' @export
block_layers.nelvat_pairs <- function(block, cells) {
  standing <- cells_of_role(cells, cells$areas$role != "marginal")
  c(pair_layers(block, standing), pair_margin_layers(block, cells))
}

pair_layers <- function(block, cells) {
  areas <- cells$areas
  mixed <- vapply(
    seq_len(nrow(areas)),
    function(k) {
      has_levels(block$variables[[areas$j[k]]]$kind) ||
        has_levels(block$row_variables[[areas$i[k]]]$kind)
    },
    NA
  )
  parts <- unlist(
    lapply(c("below", "diagonal", "above"), function(part) {
      areas_of_part <- which(areas$part == part & !mixed)
      inks <- block$parts[[part]]
      if (!length(areas_of_part)) return(NULL)
      if (identical(inks, "names")) return(list(name_layer(block, cells, areas_of_part)))
      # Bins and bandwidths are of one variable, so each on the diagonal has its layer.
      each <- if (part == "diagonal") {
        unname(split(areas_of_part, areas$j[areas_of_part]))
      } else {
        list(areas_of_part)
      }
      unlist(
        lapply(
          inks,
          function(ink) lapply(each, function(at) pair_layer(block, cells, at, ink, part))
        ),
        recursive = FALSE
      )
    }),
    recursive = FALSE
  )
  c(
    parts,
    unlist(lapply(which(mixed), function(k) mixed_layers(block, cells, k)), recursive = FALSE)
  )
}

plain_axis <- function(supplied = FALSE) {
  new_variable("value", new_kind("quantity", name = "Value"), supplied = supplied)
}

# Values in a matrix are in the units of their axes.
check_as_is <- function(block, ink) {
  turned <- Find(
    function(variable) variable$transform != "identity",
    c(block$variables, block$row_variables)
  )
  if (is.null(turned) || !ink_traits(ink)$as_is) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`ink_", ink$ink, "()` is of the data as they are, whatever the axes."),
      x = paste0("\"", turned$id, "\" is transformed by ", turned$transform, "."),
      i = "Draw the pair in a panel of its own, or fit a line."
    ),
    call = NULL
  )
}

pair_layer <- function(block, cells, at, ink, part) {
  if (part == "diagonal") return(lone_layer(block, cells, at, ink, "x", "diagonal"))
  check_as_is(block, ink)
  table <- pair_table(block, cells, at, ink$variables)
  new_layer(ink, table, plain_axis(), plain_axis(), pair_channels(block, ink))
}

pair_channels <- function(block, ink) {
  lapply(
    stats::setNames(nm = mark_channels),
    function(channel) ink$variables[[channel]] %||% block$channels[[channel]]
  )
}

# One variable alone, in some cells: on the diagonal, or in a margin along x or y.
lone_layer <- function(block, cells, at, ink, side, role) {
  check_as_is(block, ink)
  other <- setdiff(c("x", "y"), side)
  variable <- lone_variable(block, cells, at, side)
  # Of what its numbers are said to be.
  ink <- changed(ink, stands_on = variable[c("transform", "kind")])
  found <- block$asked$breaks[[variable$id]]
  if (!is.null(found)) ink <- changed(ink, found_breaks = found)
  table <- pair_table(block, cells, at, ink$variables, side)
  channels <- pair_channels(block, ink)
  # A ramp of colours says nothing of one variable alone.
  if (is_ramp(channels$colour)) {
    channels["colour"] <- list(NULL)
    table$colour <- NULL
  }
  along <- if (side == "x") list(x = plain_axis()) else list(y = list(plain_axis()))
  counted <- changed(
    plain_axis(TRUE),
    kind = supplied_axis(ink, other, along) %||% hidden_axis()
  )
  if (has_levels(counted$kind)) table[[other]] <- rep(1, nrow(table))
  axes <- stats::setNames(list(plain_axis(), counted), c(side, other))
  new_layer(
    ink,
    table,
    axes$x,
    axes$y,
    channels,
    role = role,
    side = if (role == "marginal") side
  )
}

lone_variable <- function(block, cells, at, side) {
  areas <- table_rows(cells$areas, at[1])
  if (side == "x") block$variables[[areas$j]] else block$row_variables[[areas$i]]
}

# Rows of some cells, stacked: panel, x, y in axis units, and the channels. lone: "x" or "y" where
# only this variable stands in a cell.
pair_table <- function(block, cells, at, own, lone = NULL) {
  rows <- cells$rows[at]
  in_units <- function(variable, row) {
    axis_transform(variable$transform)$forward(variable$values[row])
  }
  row <- unlist(rows)
  values <- function(side) {
    if (!is.null(lone) && lone != side) return(NA_real_)
    variables <- if (side == "x") block$variables else block$row_variables
    unlist(Map(in_units, variables[cells$areas[[c(x = "j", y = "i")[[side]]]][at]], rows))
  }
  columns <- list(
    panel = rep(cells$areas$id[at], lengths(rows)),
    x = values("x"),
    y = values("y")
  )
  # What an ink asks for itself, such as weights, goes with its rows.
  for (channel in union(mark_channels, names(own))) {
    columns[[channel]] <- (own[[channel]] %||% block$channels[[channel]])$values[row]
  }
  columns <- c(columns, cell_weights(block, cells, at, !is.null(lone)))
  do.call(new_table, c(columns, list(.rows = length(row))))
}

# Cells with a category: a quantity by its levels, or counts of pairs of levels.
mixed_layers <- function(block, cells, k) {
  x <- block$variables[[cells$areas$j[k]]]
  y <- block$row_variables[[cells$areas$i[k]]]
  rows <- cells$rows[[k]]
  table <- function(...) new_table(panel = cells$areas$id[k], ..., .rows = length(rows))
  if (cells$areas$role[k] == "diagonal") {
    if (identical(block$parts$diagonal, "names")) return(list(name_layer(block, cells, k)))
    return(list(level_bars(x, cells, k, "x", "diagonal")))
  }
  if (has_levels(x$kind) && has_levels(y$kind)) {
    return(count_layer(x$values[rows], y$values[rows], cells$areas$id[k], x, y))
  }
  list(new_layer(block$mixed, table(x = x$values[rows], y = y$values[rows]), x, y))
}

# How often each level of a category is there, in cells of its own.
level_bars <- function(variable, cells, at, side, role) {
  rows <- cells$rows[at]
  other <- setdiff(c("x", "y"), side)
  bars <- ink_bars()
  along <- if (side == "x") list(x = variable) else list(y = list(variable))
  kind <- supplied_axis(bars, other, along)
  axes <- stats::setNames(
    list(variable, new_variable(kind$name, kind, supplied = TRUE)),
    c(side, other)
  )
  values <- stats::setNames(list(variable$values[unlist(rows)], NA_real_), c(side, other))
  table <- new_table(
    panel = rep(cells$areas$id[at], lengths(rows)),
    x = values$x,
    y = values$y,
    .rows = sum(lengths(rows))
  )
  side <- if (role == "marginal") side
  new_layer(bars, table, axes$x, axes$y, role = role, side = side)
}

# Counts of pairs of levels as discs whose area is the count.
count_layer <- function(x, y, panel, x_variable, y_variable) {
  complete_pairs <- !is.na(x) & !is.na(y)
  n <- table(
    factor(x[complete_pairs], seq_along(x_variable$kind$levels)),
    factor(y[complete_pairs], seq_along(y_variable$kind$levels))
  )
  counted <- which(n > 0, arr.ind = TRUE)
  pair_counts <- new_table(
    panel = rep(panel, nrow(counted)),
    x = as.numeric(counted[, 1]),
    y = as.numeric(counted[, 2]),
    size = as.numeric(n[counted]),
    .rows = nrow(counted)
  )
  size <- new_variable("count of pairs", new_kind("quantity", name = "Count", count = TRUE))
  list(new_layer(ink_points(), pair_counts, x_variable, y_variable, list(size = size)))
}

# Names of variables in the middle of their diagonal panels.
name_layer <- function(block, cells, at) {
  ink <- new_ink(
    "names",
    strings = vapply(block$variables[cells$areas$j[at]], function(one) kind_title(one$kind), "")
  )
  # Words stand at no value: they ask nothing of the axes.
  table <- new_table(panel = cells$areas$id[at], x = NA_real_, y = NA_real_, .rows = length(at))
  new_layer(ink, table, plain_axis(), plain_axis(), role = "diagonal")
}

#' @export
check_ink.ink_names <- function(ink, panel, call) invisible()

#' @export
train_ink.ink_names <- function(ink, layer) list(table = layer$table, zero = character())

#' @export
place_ink.ink_names <- function(ink, trained, place) {
  n <- nrow(trained$table)
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = trained$table$panel,
          x = ink$x %||% 0.5,
          y = ink$y %||% 0.5,
          string = ink$strings,
          size_pt = place$house$type_pt$title,
          across = ink$across %||% 0.5,
          down = ink$down %||% 0.5,
          colour = place$house$colour$text,
          most_mm = place$panel_w(trained$table$panel),
          .rows = n
        )
      ),
      list(role = ink$role %||% "axis title", most_lines = ink$most_lines)
    )
  )
}

#' @export
ink_traits.ink_names <- function(ink) note_traits(read_off = FALSE)
