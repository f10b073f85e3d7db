# The inside of panels, drawn by ggplot2: one build a block. Marks come in
# unit-panel coordinates, so all panels share one fixed scale without breaks; each
# panel's grobs are then placed in a clipped viewport at its box on the page.

draw_panels <- function(scene) {
  layers <- lapply(scene$marks, function(layer) draw_marks(layer$primitive, layer$table))
  shown <- vapply(scene$marks, function(layer) !is.null(layer$table) && nrow(layer$table) > 0, NA)
  if (!any(shown)) return(list())
  plot <- ggplot2::ggplot() + layers[shown] + unit_scales() + carried_panels(scene$panels$id)
  built <- ggplot2::ggplot_build(plot)
  layer_grobs <- lapply(seq_len(sum(shown)), function(i) ggplot2::get_layer_grob(built, i))
  lapply(seq_len(nrow(scene$panels)), function(i) {
    panel <- scene$panels[i, ]
    viewport <- grid::viewport(
      x = native(panel$x), y = native(panel$y + panel$h), width = native(panel$w),
      # Page coordinates run down, so a height is a negative length of them.
      height = grid::unit(panel$h / scene$page$height_mm, "npc"), just = c(0, 0), clip = "on"
    )
    grid::gTree(children = do.call(grid::gList, lapply(layer_grobs, `[[`, i)), vp = viewport, name = paste0("panel-", panel$id))
  })
}

unit_scales <- function() {
  list(
    ggplot2::scale_x_continuous(limits = c(0, 1), expand = c(0, 0), breaks = NULL, oob = function(x, ...) x),
    ggplot2::scale_y_continuous(limits = c(0, 1), expand = c(0, 0), breaks = NULL, oob = function(x, ...) x)
  )
}

# A facet that only carries the panels the scene has: it divides nothing, as each
# mark's table says its panel.
carried_panels <- function(ids) {
  ggplot2::ggproto(NULL, ggplot2::FacetNull,
    compute_layout = function(data, params) {
      n <- length(ids)
      new_table(PANEL = factor(seq_len(n)), ROW = seq_len(n), COL = rep(1L, n), SCALE_X = rep(1L, n), SCALE_Y = rep(1L, n), .rows = n)
    },
    map_data = function(data, layout, params) {
      data$PANEL <- factor(match(data$panel, ids), levels = seq_along(ids))
      data
    },
    shrink = FALSE
  )
}

# A layer of a primitive: draw_marks.<primitive> for each, in draw-<primitive>.R.
draw_marks <- function(primitive, table) {
  if (is.null(table) || !nrow(table)) return(NULL)
  switch(primitive,
    rects = draw_rects(table), segments = draw_segments(table), points = draw_points(table), lines = draw_lines(table), areas = draw_areas(table)
  )
}

# Marks are final: nothing is computed, trained or explained while drawing.
mark_layer <- function(geom, table, mapping, ...) {
  ggplot2::layer(geom = geom, stat = "identity", position = "identity", data = table, mapping = mapping,
                 params = list(...), inherit.aes = FALSE, show.legend = FALSE, check.aes = FALSE, check.param = FALSE)
}

# ggplot2 gives line widths in mm of its own; this is one in points.
mark_width <- function(weight_pt) line_width(weight_pt) / ggplot2::.pt
