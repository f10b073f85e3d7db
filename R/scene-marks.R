# Marks of all layers of a block in unit-panel coordinates. What depends on
# millimetres is decided here too, as plot areas are known.

# A panel's own house has a say in what is drawn inside it only.
place_marks <- function(block, axes, panels, house, font) {
  house <- block$design$panel$house %||% house
  c(
    grid_marks(block, axes, panels, house),
    bands_under(
      unlist(
        Map(
          function(layer, number, site) {
            marks <- place_ink(layer$ink, layer$trained, site)
            traits <- ink_traits(layer$ink)
            lapply(marks, function(one) {
              # Only areas of this page have marks on it.
              if (!all(one$table$panel %in% panels$id)) {
                on_page <- one$table$panel %in% panels$id
                one <- changed(one, table = table_rows(one$table, on_page))
              }
              c(
                list(
                  block = block$id,
                  layer = number,
                  ink = layer$ink$ink,
                  summarises = traits$summarises,
                  on_zero = traits$on_zero
                ),
                one
              )
            })
          },
          block$layers,
          seq_along(block$layers),
          mark_sites(block, axes, panels, house, font)
        ),
        recursive = FALSE
      ),
      vapply(block$layers, `[[`, NA, "behind")
    )
  )
}

# What lies under the points, lines and words drawn before it, but not under what is filled or, by
# layer, stands behind for comparison: see under_points().
bands_under <- function(marks, behind) {
  for (k in which(vapply(marks, function(one) isTRUE(one$under), NA))) {
    before <- vapply(marks[seq_len(k - 1)], `[[`, "", "primitive")
    thin <- before %in% c("points", "lines", "segments", "words") &
      !behind[vapply(marks[seq_len(k - 1)], `[[`, 0L, "layer")]
    j <- max(0L, which(!thin)) + 1L
    marks <- c(
      marks[seq_len(j - 1)],
      marks[k],
      marks[setdiff(seq_along(marks), c(seq_len(j - 1), k))]
    )
  }
  lapply(marks, function(one) one[names(one) != "under"])
}

# Codes of levels as places on axes that hold only some of the levels; what stands
# beside a level's middle stays beside it.
slot_positions <- function(values, axes, index) {
  some <- which(!vapply(axes, function(axis) is.null(axis$slot_levels), NA))
  for (i in some) {
    these_slot_levels <- axes[[i]]$slot_levels
    on_axis <- which(index == i)
    code <- round(values[on_axis])
    values[on_axis] <- match(code, these_slot_levels) + (values[on_axis] - code)
  }
  values
}

# Faint lines at the breaks of axes that ask for them, under all inks.
grid_marks <- function(block, axes, panels, house) {
  lines <- stack_tables(
    unlist(
      lapply(c("x", "y"), function(direction) {
        asked <- block$design$axes[[direction]]$grid
        if (!isTRUE(asked) && !identical(asked, "minor") && !house$grid %in% c(direction, "both")) {
          return(NULL)
        }
        Map(
          function(id, index) {
            if (is.na(index)) return(NULL)
            between <- if (identical(asked, "minor")) minor_places(axes[[index]])
            grid_positions <- c(axes[[index]]$unit, between)
            weight <- house$weight_pt$outline * c(
              rep(1, length(axes[[index]]$unit)),
              rep(0.75, length(between))
            )
            across <- new_table(
              panel = id,
              x0 = grid_positions,
              y0 = 0,
              x1 = grid_positions,
              y1 = 1,
              colour = house$colour$grid,
              weight_pt = weight,
              .rows = length(grid_positions)
            )
            exchange_axes(across, direction == "y")
          },
          panels$id,
          panels[[paste0(direction, "_shown")]]
        )
      }),
      recursive = FALSE
    )
  )
  if (is.null(lines)) {
    list()
  } else {
    list(c(list(block = block$id, ink = "grid"), new_marks("segments", lines)))
  }
}

# Where lines between the breaks stand: at the minor ticks, or half way between breaks.
minor_places <- function(axis) {
  if (length(axis$minor)) return(axis$minor)
  breaks <- sort(axis$unit)
  step <- diff(breaks)
  if (!length(step)) return(numeric())
  spots <- c(
    breaks[1] - step[1] / 2,
    breaks[-1] - step / 2,
    breaks[length(breaks)] + step[length(step)] / 2
  )
  spots[spots > 0 & spots < 1]
}

# Of each layer what its ink needs for placing its marks.
mark_sites <- function(block, axes, panels, house, font) {
  sites <- lapply(block$layers, mark_site, axes, panels, house, font)
  together <- slots_together(block$layers, sites)
  lapply(sites, function(site) changed(site, together = together))
}

mark_site <- function(layer, axes, panels, house, font) {
  ranges <- function(index) vapply(axes[index], `[[`, numeric(2), "range")
  transform_of <- list(x = axis_transform(layer$x$transform), y = axis_transform(layer$y$transform))
  range_of <- list(x = ranges(panels$x_axis), y = ranges(panels$y_axis))
  row_of_panel <- function(panel) match(panel, panels$id)
  # Of a level's code in this table the look that the level has on the whole plate.
  looking <- function(channel, lone) {
    look <- layer$looks[[channel]]
    if (is.null(look[[channel]])) return(function(codes) rep(lone, length(codes)))
    values <- look[[channel]][match(layer[[channel]]$kind$levels, look$levels)]
    function(codes) values[codes]
  }
  lone <- layer$ink$settings$colour %||% house$colour$lone
  shaded <- function(values) shades_of(values, layer$scales$ramp, house$ramps)
  colour_of <- if (is.null(layer$scales$ramp)) looking("colour", lone) else shaded
  dash_of <- looking("dash", "solid")
  list(
    house = house,
    panels_mm = panels[c("id", "w", "h")],
    # Values of one direction in data units to 0..1 of each value's panel.
    unit = function(values, panel, direction) {
      range <- range_of[[direction]][, row_of_panel(panel), drop = FALSE]
      values <- slot_positions(
        values,
        axes,
        panels[[paste0(direction, "_axis")]][row_of_panel(panel)]
      )
      (transform_of[[direction]]$forward(values) - range[1, ]) / (range[2, ] - range[1, ])
    },
    # And back: data units at 0..1 of a panel.
    data = function(unit, panel, direction) {
      range <- range_of[[direction]][, row_of_panel(panel), drop = FALSE]
      transform_of[[direction]]$backward(range[1, ] + unit * (range[2, ] - range[1, ]))
    },
    # Unit heights at the two sides of a panel of a line in transformed units.
    line_ends = function(panel, slope, intercept) {
      i <- row_of_panel(panel)
      (intercept + slope * range_of$x[, i] - range_of$y[1, i]) / diff(range_of$y[, i])
    },
    colour_of = function(codes, n = length(codes)) {
      if (is.null(codes)) rep(lone, n) else colour_of(codes)
    },
    shape_of = looking("shape", "disc"),
    dash_of = function(codes, n = length(codes)) {
      if (is.null(codes)) rep("solid", n) else dash_of(codes)
    },
    size_of = function(values) bubble_mm(values, layer$scales$size),
    panel_w = function(panel) panels$w[row_of_panel(panel)],
    panel_h = function(panel) panels$h[row_of_panel(panel)],
    # Width and height of texts in one line, in mm.
    text_mm = function(strings, size_pt) {
      list(
        width = one_line_width(strings, font) * size_pt * mm_per_pt,
        height = text_height_mm(1, size_pt, font)
      )
    },
    # Of texts set within a width: the widest line, and the height, in mm.
    set_mm = function(strings, size_pt, most_mm) {
      laid <- lapply(strings, set_text, size_pt, font, most_mm, most_note_lines)
      lines <- vapply(laid, `[[`, 0L, "n_lines")
      list(width = widest_mm(laid), height = text_height_mm(lines, size_pt, font))
    },
    dot_mm = dot_mm,
    contrast = function(colours) contrasting(colours, house$colour$axis)
  )
}

# Marks that print cannot show are left out of the scene: points wholly under later ones,
# and points of a trace between the least and greatest of their printed column. What is
# seen stays the same.

print_dpi <- 600
dot_mm <- 25.4 / print_dpi
dense_points <- 2000 # of a panel, from which hidden ones are looked for
dense_line <- 2000 # points of a layer, from which lines are thinned

thinned_marks <- function(marks, panels) {
  lapply(marks, function(layer) {
    if (is.null(layer$table) || !nrow(layer$table)) return(layer)
    n <- nrow(layer$table)
    if (layer$primitive == "lines" && n > dense_line) {
      changed(layer, table = thinned_lines(layer$table, panels))
    } else if (layer$primitive == "points" && n > dense_points) {
      changed(layer, table = seen_points(layer$table, panels))
    } else {
      layer
    }
  })
}

thinned_lines <- function(table, panels) {
  panel_row <- match(table$panel, panels$id)
  group <- match_rows(new_table(panel = table$panel, line = table$line), rep(TRUE, nrow(table)))$at
  table_rows(
    table,
    which(
      thin_lines_cpp(group, table$x * panels$w[panel_row], table$y * panels$h[panel_row], dot_mm)
    )
  )
}

# Only opaque discs hide, and only they are left out.
seen_points <- function(table, panels) {
  n <- nrow(table)
  opaque <- rep_len(table$shape, n) == "disc" & rep_len(table$opacity, n) >= 1 &
    nchar(rep_len(table$colour, n)) < 9
  drop <- integer()
  for (rows in split(which(opaque), table$panel[opaque])) {
    # Others between them would be seen through the gaps, so they must all be discs.
    if (length(rows) < dense_points || length(rows) != sum(table$panel == table$panel[rows[1]])) {
      next
    }
    one_panel <- panels[match(table$panel[rows[1]], panels$id), ]
    radius <- rep_len(table$size_mm, n)[rows] / 2
    x_mm <- table$x[rows] * one_panel$w
    y_mm <- table$y[rows] * one_panel$h
    drop <- c(drop, rows[hidden_discs_cpp(x_mm, y_mm, radius, one_panel$w, one_panel$h, dot_mm)])
  }
  if (length(drop)) table_rows(table, setdiff(seq_len(n), drop)) else table
}
