# What an ink is. A description (`ink_bars()`), a list with class
# c("ink_<name>", "nelvat_ink"), and four methods that make the registry:
#
#   check_ink(ink, panel, call)  stops where the panel does not suit the ink;
#   train_ink(ink, layer)        computes in data space, per panel;
#   place_ink(ink, trained, place)  turns that into marks in unit-panel coordinates;
#   key_glyph(ink)               how a key shows the ink: "swatch" or "symbol".
#
# An ink's statistic is a pure function in a stat-* file. Marks are of few
# primitives (rects, segments, points), each drawn by one draw-* function, so an
# ink of known primitives needs no drawing code of its own.
#
# A layer is one ink over all panels of a block: list(ink, table, x, y, colour,
# shape). `table` has panel, x, y and where mapped colour, shape: quantities in
# data units, categories as codes. `x`, `y`, `colour`, `shape` are variables without
# their values, NULL where not mapped.
#
# train_ink() returns list(table, extent, zero, facts): `extent` has panel, x0, x1,
# y0, y1 (what must be seen; NA for no say), `zero` names the directions whose axis
# starts at zero, `facts` has panel, n, dropped and shows.

new_ink <- function(ink, ...) structure(list(ink = ink, ...), class = c(paste0("ink_", ink), "nelvat_ink"))

is_ink <- function(x) inherits(x, "nelvat_ink")

check_ink <- function(ink, panel, call) UseMethod("check_ink")
train_ink <- function(ink, layer) UseMethod("train_ink")
place_ink <- function(ink, trained, place) UseMethod("place_ink")
key_glyph <- function(ink) UseMethod("key_glyph")

# Marks of one primitive; `table` columns are those of the primitive in draw-*.
new_marks <- function(primitive, table) list(primitive = primitive, table = table)

# Rows of a layer with all of `columns`; what is left out is counted for the facts.
complete_rows <- function(table, columns) {
  Reduce(`&`, lapply(intersect(columns, names(table)), function(column) !is.na(table[[column]])))
}

count_by_panel <- function(table, complete) {
  panels <- sort(unique(table$panel))
  at <- match(table$panel, panels)
  n <- tabulate(at[complete], length(panels))
  new_table(panel = panels, n = n, dropped = tabulate(at, length(panels)) - n, .rows = length(panels))
}

extent_by_panel <- function(panel, x0 = NA, x1 = x0, y0 = NA, y1 = y0) {
  panels <- sort(unique(panel))
  at <- match(panel, panels)
  end <- function(values, f) {
    if (all(is.na(values))) return(rep(NA_real_, length(panels)))
    as.numeric(tapply(values, factor(at, seq_along(panels)), function(v) if (all(is.na(v))) NA_real_ else f(v, na.rm = TRUE)))
  }
  new_table(panel = panels, x0 = end(x0, min), x1 = end(x1, max), y0 = end(y0, min), y1 = end(y1, max), .rows = length(panels))
}

# Exchanges x and y in a table of marks or extents: an ink computes its upright
# form, and lies down by this.
exchange_axes <- function(table, swap) {
  if (!swap) return(table)
  turned <- c(x = "y", y = "x", x0 = "y0", y0 = "x0", x1 = "y1", y1 = "x1")
  at <- names(table) %in% names(turned)
  names(table)[at] <- turned[names(table)[at]]
  table
}
