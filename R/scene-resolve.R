#' Everything a plate will draw, computed
#'
#' Trains the statistics, settles ranges and breaks, lays out the page with
#' measured text and places every mark. No device is opened.
#'
#' @param plate A [plate()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A list of class `nelvat_scene`, of plain tables and lists. Lengths are
#'   in mm with the origin at the page's top left corner, y downwards; marks are in
#'   unit-panel coordinates, 0 to 1, y upwards.
#'   * `page`: width_mm, height_mm. `font`: family, wanted, ascent, descent.
#'   * `panels`: id, block, row, column, x, y, w, h (the plot area), x_axis,
#'     y_axis, heading.
#'   * `axes`: a list; each has id, direction, variable, transform, range, breaks,
#'     text, treatment, angle, size_pt, title, panels (that it serves) and drawn_at
#'     (panels with its tick text).
#'   * `marks`: a list of layers: block, ink, primitive and a table.
#'   * `rules`: every straight line that is no mark: role, ends, weight_pt, colour.
#'   * `texts`: a row a piece of text: id, role, panel, string, lines, size_pt,
#'     angle and its box x0, y0, x1, y1. `runs`: a row for each stretch drawn at
#'     once: text, string, bold, italic, size_pt, x, y (start of the baseline).
#'   * `keys`: a row an entry: key, label, colour, glyph, shape, and the glyph's box.
#'   * `facts`: a row a panel and layer: n used, rows dropped, what is shown.
#'   * `groups`: rows of each level of colour, by panel. `fits`: see [fits()].
#'   * `columns`: what was left out, filled or changed, by column, and how many.
#' @section Errors:
#' `nelvat_error_space` where the page is too small, `nelvat_error_labels` where
#' tick text has no room in any treatment.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' as_scene(fig)$axes[[1]]$text
#' @export
as_scene <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  settle_page(resolve_plate(plate), plate, call)
}

# A plate's blocks with everything computed that does not depend on the page: resolved once for
# the page, its source data and all that is said of it. Returns list(blocks, font, keys).
resolve_plate <- function(plate) {
  font <- house_font(plate$house$families)
  blocks <- lapply(seq_along(plate$blocks), function(i) {
    named <- if (nzchar(plate$names[i])) paste0("\"", plate$names[i], "\"") else i
    label <- if (length(plate$blocks) > 1) paste("block", named)
    with_place(label, resolve_block(plate$blocks[[i]], paste0("block", i), font, plate$house))
  })
  blocks <- share_across(with_one_ramp(blocks), plate)
  looks <- plate_looks(blocks, plate$house, NULL)
  titles <- category_titles(blocks)
  blocks <- lapply(blocks, function(block) changed(block, layers = lapply(block$layers, with_looks, looks, titles)))
  entries <- plate_keys(blocks, plate, plate$house)
  direct <- entries$direct %||% lapply(blocks, function(block) list())
  blocks <- Map(function(block, letters, own, direct) {
    changed(block, letters = letters, keys = own, direct = direct)
  }, blocks, plate_letters(blocks, plate), entries$own, direct)
  list(blocks = blocks, font = font, keys = entries$plate)
}

# A layer with the looks of its categories, by channel.
with_looks <- function(layer, looks, titles) {
  shown <- Filter(is_category, layer[c("colour", "shape", "dash")])
  changed(layer, looks = lapply(shown, function(variable) looks[[look_id(variable, titles)]]))
}

# The scene of a resolved plate on a page of the plate's size. laid: its layout, where that is
# known already.
settle_page <- function(resolved, plate, call, laid = NULL) {
  font <- resolved$font
  entries <- resolved$keys
  laid <- laid %||% lay_out(resolved$blocks, entries, plate, font, call)
  check_lengths(laid, plate, call)
  laid <- with_aligned_bins(laid, entries, plate, font, call)
  laid <- with_settled_insets(laid, entries, plate, font, call)
  check_lengths(laid, plate, call)
  scene <- assemble_scene(laid, entries, plate, font)
  tell_notes(scene$columns)
  tell_scales(scene$notes)
  scene
}

# Insets that may choose their corner take the one where their panel has least ink.
with_settled_insets <- function(laid, keys, plate, font, call) {
  free <- which(vapply(laid$blocks, function(block) isTRUE(block$design$zoom$inset), NA))
  if (!length(free)) return(laid)
  for (i in free) {
    zoom_part <- laid$blocks[[i]]$design$zoom
    parent <- laid$blocks[[zoom_part$of]]
    panels <- scene_panels(parent, laid$frames[[zoom_part$of]], plate$house)
    axes <- scene_axes(parent, laid$fits[[zoom_part$of]])
    marks <- place_marks(parent, axes, panels, plate$house, font)
    one_panel <- panels[min(zoom_part$panel, nrow(panels)), ]
    own <- laid$blocks[[i]]$axes
    part <- zoomed_part(own$list[c(own$x[1], own$y[1])], axes[c(one_panel$x_axis, one_panel$y_axis)])
    laid$blocks[[i]]$design$zoom$corner <- emptiest_inset(marks, one_panel$id, zoom_part$size, part)
  }
  lay_out(laid$blocks, keys, plate, font, call)
}

tell_scales <- function(notes) {
  if (length(notes)) {
    warn_once("scale", c("Values of unlike size share an axis:", stats::setNames(notes, rep("*", length(notes)))))
  }
}

# Bins of marginals line up with ticks, which only the layout knows; where their own axes
# are drawn, the layout is done again for those.
with_aligned_bins <- function(laid, keys, plate, font, call) {
  striped <- !vapply(laid$blocks, function(block) is.null(block$strips), NA)
  if (!any(striped)) return(laid)
  laid$blocks[striped] <- Map(
    align_bins, laid$blocks[striped], laid$fits[striped], laid$frames[striped], MoreArgs = list(font = font)
  )
  if (any(vapply(laid$blocks[striped], function(block) isTRUE(block$design$marginals$axis), NA))) {
    return(lay_out(laid$blocks, keys, plate, font, call))
  }
  # Ranges of axes that are not drawn can change without the layout.
  laid$fits <- Map(function(fits, block) Map(function(fit, axis) {
    if (isTRUE(axis$of_strip)) fit$range <- axis$range
    fit
  }, fits, block$axes$list), laid$fits, laid$blocks)
  laid
}

# A block of which no row has both its x and y, where it has both, shows nothing.
check_some_left <- function(layers, block) {
  if (!length(layers) || !nrow(layers[[1]]$table)) return(invisible())
  table <- layers[[1]]$table
  given <- Filter(function(direction) !isTRUE(layers[[1]][[direction]]$supplied), c("x", "y"))
  if (!length(given) || any(complete_rows(table[given], given))) return(invisible())
  notes <- block_notes(block)
  abort_nelvat("data", c(
    paste0("Nothing is left to draw of ", block_label(block), ": no row has ", listed(paste0("`", given, "`")), "."),
    stats::setNames(paste0("\"", notes$column, "\": ", notes$n, " ", notes$what), rep("x", nrow(notes) %||% 0))
  ), call = NULL)
}

# A layer with the range of quantities on its colour and size.
with_ranges <- function(layer) {
  if (isTRUE(attr(layer$table, "ramp"))) {
    layer$ramp_range <- range(layer$table$colour, finite = TRUE)
    # Values to both sides of zero get a ramp to both sides, the same way far.
    layer$diverging <- layer$ink$diverging %||% (prod(sign(layer$ramp_range)) < 0)
    if (layer$diverging) layer$ramp_range <- c(-1, 1) * max(abs(layer$ramp_range))
  }
  if (!is.null(layer$size)) layer$size_most <- layer$size_most %||% max(layer$table$size, na.rm = TRUE)
  layer
}

# What was left out is said once for the same figure.
tell_notes <- function(notes) {
  if (is.null(notes)) return(invisible())
  text <- paste0("\"", notes$column, "\": ", format(notes$n, big.mark = ",", trim = TRUE), " ", notes$what)
  warn_once("rows", c("Not every value is drawn as it is in the data:", stats::setNames(text, rep("*", length(text)))))
}

# Cells, trained layers and axes of a block; all that does not depend on the page.
resolve_block <- function(block, id, font, house) {
  cells <- block_cells(block)
  strips <- block_strips(block, cells)
  cells$heading_words <- lapply(
    cells$panels$heading, function(text) if (!is.na(text)) measure_words(text, font, bold = TRUE)
  )
  layers <- lapply(c(block_layers(block, cells), if (!is.null(strips)) strip_layers(block, cells, strips)), with_ranges)
  check_some_left(layers, block)
  trained <- lapply(layers, function(layer) train_ink(layer$ink, layer))
  layers <- Map(function(layer, one) c(layer, list(trained = one)), layers, trained)
  axes <- block_axes(block, cells, layers, trained, font, house)
  equal <- any(vapply(layers, function(layer) isTRUE(layer$ink$equal), NA))
  resolved <- list(
    id = id, design = block, title = block_label(block), equal = equal, aspect = block$aspect, cells = cells,
    layers = layers, trained = trained,
    axes = axes, strips = strips)
  resolved$letters <- rep(NA_character_, nrow(cells$panels))
  if (!is.null(block$zoom)) resolved <- as_zoomed(resolved)
  if (!is.null(block$reach)) resolved$decor <- as.data.frame(block$reach)
  if (inherits(block, c("nelvat_words", "nelvat_foreign"))) resolved$least_mm <- list(width = 5, height = 4)
  with_strips(resolved, font)
}

# A zoom of a panel with equal lengths both ways gets a plot area of the part's shape.
as_zoomed <- function(block) {
  block$axes$list <- lapply(block$axes$list, changed, zoomed = TRUE)
  if (block$equal) {
    ranges <- lapply(c("x", "y"), function(direction) abs(diff(block$axes$list[[block$axes[[direction]][1]]]$range)))
    block$aspect <- ranges[[2]] / ranges[[1]]
    block$equal <- FALSE
  }
  if (!isFALSE(block$design$zoom$inset)) {
    block$least_mm <- list(width = 5, height = 5)
    # An inset shows the variables of the panel it stands in.
    block$axes$list <- lapply(block$axes$list, changed, title = "")
  }
  block
}
