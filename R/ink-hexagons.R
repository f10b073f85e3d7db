#' Hexagon bins and rectangular bins
#'
#' Counts of two quantities in cells, shaded by steps, for more points than can be
#' told apart. Hexagons are regular on paper, whatever the panel's shape.
#'
#' @eval argument_lines("ink_hexagons", "ink_bins")
#' @return An ink, for [panel()].
#' @details Source of hexagon bins: Carr, Littlefield, Nicholson and Littlefield (1987),
#'   "Scatterplot matrix techniques for large N", JASA 82. Cells without values are
#'   left white.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("pores"), x = log10(area), y = roundness, ink_hexagons()),
#'   width = 90,
#'   height = 80
#' )
#' @export
ink_hexagons <- function(bins = 30, steps = 6, ...) {
  said_ink("hexagons", ...)
}

#' @export
word_rows.ink_hexagons <- function(word) {
  list(
    bins = a_number(
      2,
      500,
      says = "Cells across the panel; for `ink_bins()` also two numbers, across and up."
    ),
    steps = a_number(2, 12, whole = TRUE, says = "Number of shades, 2 to 12.")
  )
}

#' @rdname ink_hexagons
#' @export
ink_bins <- function(bins = 30, steps = 6, ...) {
  ink <- said_ink("bins", ...)
  ink$bins <- rep_len(bins, 2)
  ink
}

#' @export
word_rows.ink_bins <- function(word) {
  list(
    bins = either(
      a_number(1, 1000),
      numbers(c(2, 2), 1, 1000),
      says = "Cells across the panel; for `ink_bins()` also two numbers, across and up."
    ),
    steps = a_number(2, 12, whole = TRUE, says = "Number of shades, 2 to 12.")
  )
}

#' @export
check_ink.ink_hexagons <- function(ink, panel, call) check_cells(panel, "Hexagons", call)
#' @export
check_ink.ink_bins <- function(ink, panel, call) check_cells(panel, "Bins", call)

# Cells are shaded by their counts: a colour that nothing else in the panel shows would be lost.
check_cells <- function(panel, what, call) {
  check_two_quantities(panel, what, call)
  colour <- panel$variables$colour
  if (is.null(colour) || length(panel$inks) != 1) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(what, " are shaded by how many values they hold."),
      x = paste0("`colour` is \"", colour$id, "\", which they cannot show."),
      i = "Leave it out, or make a panel of each level with `facets()`."
    ),
    call
  )
}

check_two_quantities <- function(panel, what, call) {
  check_needs(panel, c("x", "y"), what, call)
  check_variable_kind(panel$variables$x, "x", c("quantity", "moment"), call)
  for (y in panel$variables$y) check_variable_kind(y, "y", c("quantity", "moment"), call)
}

#' @export
train_ink.ink_hexagons <- function(ink, layer) train_cells(layer, "counts of values as shades")
#' @export
train_ink.ink_bins <- function(ink, layer) train_cells(layer, "counts of values as shades")

train_cells <- function(layer, shows) {
  complete <- complete_rows(layer$table, c("x", "y"))
  points <- table_rows(
    new_table(
      panel = layer$table$panel,
      x = layer$table$x,
      y = layer$table$y,
      times = layer$table$times %||% rep(1, nrow(layer$table))
    ),
    complete
  )
  list(
    table = points,
    extent = extent_by_panel(points$panel, x0 = points$x, y0 = points$y),
    zero = character(),
    used = complete,
    shows = shows
  )
}

#' @export
question_of.ink_hexagons <- function(ink) "cells"
#' @export
question_of.ink_bins <- function(ink) "cells"

#' @export
place_ink.ink_hexagons <- function(ink, trained, site) {
  points <- trained$table
  if (!nrow(points)) return(list())
  x <- site$unit(points$x, points$panel, "x")
  y <- site$unit(points$y, points$panel, "y")
  cells <- stack_tables(
    lapply(split(seq_along(x), points$panel), function(rows) {
      one_panel <- points$panel[rows[1]]
      # The unit of length is a hexagon's width.
      wide <- ink$bins
      high <- ink$bins * site$panel_h(one_panel) / site$panel_w(one_panel)
      cells <- hexagon_counts_cpp(x[rows], y[rows], points$times[rows], wide, high)
      new_table(
        panel = one_panel,
        x = (cells$column + (cells$row %% 2) / 2) / wide,
        y = cells$row * sqrt(3) / 2 / high,
        n = cells$n,
        half_x = 0.5 / wide,
        half_y = 1 / sqrt(3) / high,
        .rows = length(cells$n)
      )
    })
  )
  shades <- count_shades(cells$n, ink$steps, site$house$ramps)
  n <- nrow(cells)
  corner_x <- c(0, 1, 1, 0, -1, -1)
  corner_y <- c(1, 0.5, -0.5, -1, -0.5, 0.5)
  marks <- new_marks(
    "areas",
    new_table(
      panel = rep(cells$panel, each = 6),
      area = rep(seq_len(n), each = 6),
      x = rep(cells$x, each = 6) + rep(cells$half_x, each = 6) * corner_x,
      y = rep(cells$y, each = 6) + rep(cells$half_y, each = 6) * corner_y,
      fill = rep(shades$fill, each = 6),
      opacity = 1,
      colour = "#FFFFFF",
      weight_pt = 0.2,
      .rows = 6 * n
    )
  )
  list(cell_marks(marks, shades, cells, site))
}

#' @export
place_ink.ink_bins <- function(ink, trained, site) {
  points <- trained$table
  if (!nrow(points)) return(list())
  across <- function(unit, bins) pmin(floor(unit * bins), bins - 1)
  column <- across(site$unit(points$x, points$panel, "x"), ink$bins[1])
  row <- across(site$unit(points$y, points$panel, "y"), ink$bins[2])
  cell <- match_rows(
    new_table(panel = points$panel, column = column, row = row),
    is.finite(column) & is.finite(row)
  )
  n <- tabulate_rows(cell$at, nrow(cell$rows), points$times)
  shades <- count_shades(n, ink$steps, site$house$ramps)
  marks <- new_marks(
    "rects",
    new_table(
      panel = cell$rows$panel,
      x0 = cell$rows$column / ink$bins[1],
      x1 = (cell$rows$column + 1) / ink$bins[1],
      y0 = cell$rows$row / ink$bins[2],
      y1 = (cell$rows$row + 1) / ink$bins[2],
      fill = shades$fill,
      opacity = 1,
      .rows = length(n)
    )
  )
  middles <- new_table(
    panel = cell$rows$panel,
    x = (cell$rows$column + 0.5) / ink$bins[1],
    y = (cell$rows$row + 0.5) / ink$bins[2],
    n = n,
    .rows = length(n)
  )
  list(cell_marks(marks, shades, middles, site))
}

# Marks of cells, with what each says: its middle in data units, and how many values it holds.
cell_marks <- function(marks, shades, cells, site) {
  findings <- new_table(
    panel = cells$panel,
    x = site$data(cells$x, cells$panel, "x"),
    y = site$data(cells$y, cells$panel, "y"),
    n = as.integer(cells$n),
    .rows = nrow(cells)
  )
  c(marks, list(key = "cell counts", steps = shades$key, counts = cells$n, findings = findings))
}

# Shades of counts and what their key says.
count_shades <- function(counts, steps, ramps = NULL) {
  edges <- count_edges(counts, steps)
  n <- length(edges) - 1
  colours <- house_ramp(max(n, 2), FALSE, ramps)[seq_len(n)]
  # Where a step is one count, it is named in its middle; else steps are named at their edges.
  single <- all(diff(edges) == 1)
  named <- if (single) edges[-(n + 1)] else edges
  list(
    fill = colours[findInterval(counts, edges, rightmost.closed = TRUE)],
    key = list(
      range = range(edges),
      at = named,
      share = if (single) (seq_len(n) - 0.5) / n else seq(0, 1, length.out = n + 1),
      text = number_text(named),
      colours = colours
    )
  )
}

#' @export
own_keys.ink_hexagons <- function(ink, layer, house) list(late_count_key(ink, layer))
#' @export
own_keys.ink_bins <- function(ink, layer, house) list(late_count_key(ink, layer))

# Blocks that count the same two quantities in as many cells have one scale of shades.
late_count_key <- function(ink, layer) {
  list(
    id = "cell counts",
    title = "Count",
    ramp = TRUE,
    late = TRUE,
    glyph = "ramp",
    range = c(1, 2),
    at = c(1, 2),
    share = c(0, 1),
    text = c("1", "2"),
    n_steps = ink$steps,
    scale = paste(ink$ink, paste(ink$bins, collapse = " "), ink$steps, layer$x$id, layer$y$id)
  )
}

# Cells of several blocks that have one key, shaded by one scale.
with_common_shades <- function(marks, keys, house) {
  for (key in Filter(function(key) !is.null(key$late) && length(key$block) > 1, keys)) {
    counted_layers <- which(vapply(marks, function(layer) is_counted_by(layer, key), NA))
    if (length(counted_layers) < 2) next
    in_cells <- lapply(marks[counted_layers], `[[`, "counts")
    shades <- count_shades(unlist(in_cells), key$n_steps, house$ramps)
    fills <- split(shades$fill, rep(seq_along(counted_layers), lengths(in_cells)))
    marks[counted_layers] <- Map(
      function(layer, fill) {
        layer$table$fill <- rep(fill, each = nrow(layer$table) / length(fill))
        changed(layer, steps = shades$key)
      },
      marks[counted_layers],
      fills
    )
  }
  marks
}

is_counted_by <- function(layer, key) {
  !is.null(layer$key) && startsWith(key$id, layer$key) && layer$block %in% key$block
}

#' @export
ink_traits.ink_hexagons <- function(ink) {
  new_traits("swatch", summarises = "counts", computed = FALSE)
}
#' @export
ink_traits.ink_bins <- function(ink) new_traits("swatch", summarises = "counts", computed = FALSE)

#' @export
marks_named.ink_hexagons <- function(ink) "hexagons"

#' @export
marks_named.ink_bins <- function(ink) "rectangles"
