# The inside of panels, drawn by ggplot2: one build a plate. Marks come in
# unit-panel coordinates, so all panels are one to it, of a fixed scale without breaks; each
# panel's grobs are then placed in a clipped viewport at its box on the page.

draw_panels <- function(scene) {
  if (!kept_work$steps) return(drawn_panels(scene))
  # Drawn again and again, blocks of which nothing changed are taken as they were.
  block_of_panel <- scene$panels$block
  unlist(
    lapply(unique(block_of_panel), function(block) {
      panels <- scene$panels[block_of_panel == block, ]
      marks <- Filter(function(layer) layer$block == block, scene$marks)
      from <- list(panels, marks, scene$grounds, scene$page, scene$dense_dpi)
      kept_step("draw_panels", from, {
        drawn_panels(replace(scene, c("panels", "marks"), list(panels, marks)))
      })
    }),
    recursive = FALSE
  )
}

drawn_panels <- function(scene) {
  is_image <- vapply(scene$marks, function(layer) layer$primitive == "image", NA)
  images <- scene$marks[is_image]
  in_ggplot <- scene$marks[!is_image]
  shown <- vapply(in_ggplot, function(layer) !is.null(layer$table) && nrow(layer$table) > 0, NA)
  if (!any(shown) && !length(images)) return(list())
  layers <- merged_layers(in_ggplot[shown])
  layer_grobs <- if (any(shown)) build_layers(layers, scene)
  whole_in <- lapply(layers, reached_over, scene$panels)
  lapply(seq_len(nrow(scene$panels)), function(i) {
    one_panel <- scene$panels[i, ]
    viewport <- grid::viewport(
      x = native(one_panel$x),
      y = native(one_panel$y + one_panel$h),
      width = native(one_panel$w),
      # Page coordinates run down, so a height is a negative length of them.
      height = grid::unit(one_panel$h / scene$page$height_mm, "npc"),
      just = c(0, 0),
      clip = "on"
    )
    children <- c(
      unlist(lapply(images, draw_image, one_panel$id), recursive = FALSE),
      Map(
        function(grobs, whole) {
          if (one_panel$id %in% whole) unclipped(grobs[[i]]) else grobs[[i]]
        },
        layer_grobs,
        whole_in
      )
    )
    dpi <- scene$dense_dpi
    if (!is.null(dpi) && marks_in(in_ggplot, one_panel$id) > dense_marks) {
      children <- list(as_image(children, one_panel, dpi))
    }
    inside <- grid::gTree(
      children = do.call(grid::gList, children),
      vp = viewport,
      name = paste0("panel-", one_panel$id)
    )
    ground <- scene$grounds[scene$grounds$panel == one_panel$id, ]
    if (is.null(ground) || !nrow(ground)) return(inside)
    grid::gTree(
      children = grid::gList(
        grid::rectGrob(
          native(ground$x0),
          native(ground$y0),
          native(ground$x1 - ground$x0),
          native(ground$y1 - ground$y0),
          just = c(0, 0),
          gp = grid::gpar(fill = "#FFFFFF", col = NA)
        ),
        inside
      )
    )
  })
}

# Panels with points of a layer by their edge, which are drawn whole: where all are small, and
# within the panel.
reached_over <- function(layer, panels) {
  table <- layer$table
  if (layer$primitive != "points" || max(table$size_mm) > most_over_mm) return(integer())
  row_of_panel <- match(table$panel, panels$id)
  within <- function(at, by) at >= by & at <= 1 - by
  whole <- within(table$x, -1e-6) & within(table$y, -1e-6)
  by_edge <- !within(table$x, table$size_mm / 2 / panels$w[row_of_panel]) |
    !within(table$y, table$size_mm / 2 / panels$h[row_of_panel])
  setdiff(table$panel[by_edge], table$panel[!whole])
}
most_over_mm <- 2 # wide, half of which stands over the edge

unclipped <- function(grob) {
  grid::gTree(children = grid::gList(grob), vp = grid::viewport(clip = "off"))
}

dense_marks <- 20000

marks_in <- function(marks, id) sum(vapply(marks, function(layer) sum(layer$table$panel == id), 0))

# The inside of a panel as an image of its own size.
as_image <- function(children, panel, dpi) {
  raster <- on_device(
    function() {
      ragg::agg_capture(panel$w, panel$h, units = "mm", res = dpi, background = "transparent")
    },
    {
      grid::grid.newpage()
      grid::grid.draw(
        grid::gTree(children = do.call(grid::gList, children), vp = grid::viewport(clip = "on"))
      )
      grid::grid.cap()
    }
  )
  grid::rasterGrob(raster, width = 1, height = 1, interpolate = FALSE)
}

# Layers of one primitive as one, where that leaves the order within each panel as it is:
# between the two stands no layer that shares a panel with the later.
merged_layers <- function(marks) {
  kept <- list()
  for (layer in marks) {
    panels <- unique(layer$table$panel)
    shares <- vapply(kept, function(one) any(panels %in% one$panels), NA)
    from <- if (any(shares)) max(which(shares)) else 1L
    alike <- which(vapply(kept, function(one) is_like(one, layer), NA))
    # Lines and areas are told apart by numbers that are their own in each layer.
    if (any(shares) && layer$primitive %in% c("lines", "areas")) from <- from + 1L
    into <- alike[alike >= from]
    if (length(into)) {
      kept[[into[1]]]$tables <- c(kept[[into[1]]]$tables, list(layer$table))
      kept[[into[1]]]$panels <- c(kept[[into[1]]]$panels, panels)
    } else {
      kept <- c(
        kept,
        list(list(primitive = layer$primitive, tables = list(layer$table), panels = panels))
      )
    }
  }
  lapply(kept, function(one) {
    list(
      primitive = one$primitive,
      table = if (length(one$tables) == 1) one$tables[[1]] else stack_tables(one$tables)
    )
  })
}

is_like <- function(a, b) {
  a$primitive == b$primitive && identical(names(a$tables[[1]]), names(b$table))
}

# The grobs of each layer, a list by panel. ggplot2 builds a panel without marks, which all panels
# are alike to, and its geoms draw each panel's marks in it.
build_layers <- function(marks, scene) {
  ids <- scene$panels$id
  unit <- kept_step("unit_panel", NULL, unit_panel())
  lapply(marks, function(layer) {
    made <- draw_marks(layer$primitive, layer$table)
    made$data$PANEL <- factor(made$data$panel, ids)
    data <- made$geom$handle_na(made$data, list(na.rm = TRUE))
    rows <- split(seq_len(nrow(data)), data$PANEL)
    lapply(seq_along(ids), function(i) {
      if (!length(rows[[i]])) return(grid::nullGrob())
      panel_data <- table_rows(data, rows[[i]])
      do.call(
        made$geom$draw_panel,
        c(list(panel_data, unit$params, unit$coord), made$params)
      )
    })
  })
}

unit_panel <- function() {
  layout <- ggplot2::ggplot_build(ggplot2::ggplot() + unit_scales())$layout
  list(
    params = layout$panel_params[[1]],
    # Marks stand in parts of their panel already.
    coord = ggplot2::ggproto(NULL, layout$coord, transform = function(data, panel_params) data)
  )
}

unit_scales <- function() {
  list(
    ggplot2::scale_x_continuous(
      limits = c(0, 1),
      expand = c(0, 0),
      breaks = NULL,
      oob = function(x, ...) x
    ),
    ggplot2::scale_y_continuous(
      limits = c(0, 1),
      expand = c(0, 0),
      breaks = NULL,
      oob = function(x, ...) x
    )
  )
}

# What a primitive is drawn from: see draw-primitives.R.
draw_marks <- function(primitive, table) {
  if (is.null(table) || !nrow(table)) return(NULL)
  switch(
    primitive,
    rects = draw_rects(table),
    segments = draw_segments(table),
    points = draw_points(table),
    lines = draw_lines(table),
    areas = draw_areas(table)
  )
}

# ggplot2 gives line widths in mm of its own; this is one in points.
mark_width <- function(weight_pt) line_width(weight_pt) / ggplot2::.pt

# image: panel, x0, x1, y0, y1; `pixels` is a matrix of colours, the top row first.
draw_image <- function(layer, id) {
  images <- layer$table[layer$table$panel == id, , drop = FALSE]
  lapply(seq_len(nrow(images)), function(i) {
    one <- images[i, ]
    grid::rasterGrob(
      grDevices::as.raster(layer$pixels),
      x = one$x0,
      y = one$y0,
      width = one$x1 - one$x0,
      height = one$y1 - one$y0,
      just = c(0, 0),
      interpolate = FALSE
    )
  })
}
