#' A ggplot2 plot or a grob as a block
#'
#' A finished plot, or any grob, takes a place on a plate as it is: `plate(p, ...)`. The plot
#' area of a ggplot2 plot is aligned with those of other blocks; one with facets of its own
#' is aligned by its outer panels. `drawn()` says how.
#'
#' @param plot A ggplot2 plot or a grid grob.
#' @param heading A title over it, or `NULL`.
#' @param restyle Set a plot's text, lines and ground in the house's style?
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A block, for [plate()].
#' @section Errors: `nelvat_error_argument` for anything else; the errors of the plot itself.
#' @examples
#' loaves <- study("loaves")$data
#' scatter <- ggplot2::ggplot(loaves, ggplot2::aes(rise, volume)) + ggplot2::geom_point()
#' bars <- panel(study("loaves"), x = flour, y = rise, ink_bars())
#' plate(beside(bars, drawn(scatter, restyle = TRUE)), width = "double", height = 60)
#' @export
drawn <- function(plot, restyle = FALSE, heading = NULL, ...) {
  check_rest(...)
  check_flag(restyle, "restyle")
  check_string(heading, "heading", or_null = TRUE)
  if (inherits(plot, "ggplot")) {
    block <- if (restyle) undressed_plot(plot) else foreign_plot(plot)
    return(changed(block, title_over = heading))
  }
  if (grid::is.grob(plot)) {
    return(
      changed(
        new_foreign(plot, list(left = 0, right = 0, top = 0, bottom = 0), "a grob"),
        title_over = heading
      )
    )
  }
  abort_nelvat(
    "argument",
    c("`drawn()` takes a ggplot2 plot or a grob.", x = paste0("Found ", describe_value(plot), "."))
  )
}

#' @export
as_block.ggplot <- function(x, call) drawn(x)
#' @export
as_block.grob <- function(x, call) drawn(x)

# The plot's table, with its plot area (all its panels) found and what stands around it
# measured.
foreign_plot <- function(plot) {
  # Text has a size on a device only; this one writes nothing.
  on_device(function() ragg::agg_capture(res = 1200), measured_plot(plot))
}

measured_plot <- function(plot) {
  table <- ggplot2::ggplotGrob(plot)
  panels <- table$layout[grepl("^panel", table$layout$name), ]
  around <- function(lengths, from, to) {
    lengths_mm <- grid::convertUnit(lengths, "mm", valueOnly = TRUE)
    c(
      before = sum(lengths_mm[seq_len(from - 1)]),
      after = sum(lengths_mm[seq_along(lengths_mm) > to])
    )
  }
  across <- around(table$widths, min(panels$l), max(panels$r))
  down <- around(table$heights, min(panels$t), max(panels$b))
  # Text is as wide as it was measured whatever device draws it, so that the plot area stays
  # where it was laid out.
  table$widths <- settled_units(table$widths, min(panels$l), max(panels$r))
  table$heights <- settled_units(table$heights, min(panels$t), max(panels$b))
  shape <- if (!isFALSE(table$respect)) fixed_shape(table, panels)
  # One panel has its shape from the layout; of several, what stands between them is in mm.
  table$respect <- !is.null(shape) && nrow(panels) > 1
  new_foreign(
    table,
    list(
      left = across[["before"]],
      right = across[["after"]],
      top = down[["before"]],
      bottom = down[["after"]]
    ),
    "a ggplot2 plot",
    shape
  )
}

# Height over width of the plot area of a table that keeps the shape of its panels.
fixed_shape <- function(table, panels) {
  shares <- function(lengths, at) {
    inside <- lengths[min(at):max(at)]
    sum(as.numeric(inside)[grid::unitType(inside) == "null"])
  }
  shape <- shares(table$heights, c(panels$t, panels$b)) /
    shares(table$widths, c(panels$l, panels$r))
  if (is.finite(shape) && shape > 0) shape
}

# Lengths outside the plot area, `from` to `to`, in millimetres for good.
settled_units <- function(lengths, from, to) {
  for (i in setdiff(seq_along(lengths), from:to)) {
    lengths[i] <- grid::unit(grid::convertUnit(lengths[i], "mm", valueOnly = TRUE), "mm")
  }
  lengths
}

# A plot that is set in the house of its plate, which is not known before.
undressed_plot <- function(plot) {
  nothing <- list(left = 0, right = 0, top = 0, bottom = 0)
  changed(new_foreign(NULL, nothing, "a ggplot2 plot"), undressed = plot)
}

#' @export
in_house.nelvat_foreign <- function(block, house) {
  if (is.null(block$undressed)) return(block)
  dressed <- foreign_plot(block$undressed + house_theme(house))
  changed(block, picture = dressed$picture, reach = dressed$reach, aspect = dressed$aspect)
}

# A plot in the look of the other panels.
house_theme <- function(style) {
  text <- function(size = style$type_pt$base, ...) {
    ggplot2::element_text(
      family = house_font(style$families)$family,
      size = size,
      colour = style$colour$text,
      ...
    )
  }
  line <- ggplot2::element_line(
    colour = style$colour$axis,
    linewidth = mark_width(style$weight_pt$axis)
  )
  nothing <- ggplot2::element_blank()
  ggplot2::theme(
    text = text(),
    axis.text = text(),
    axis.title = text(style$type_pt$title),
    plot.title = text(style$type_pt$heading, face = "bold"),
    strip.text = text(style$type_pt$heading, face = "bold", hjust = 0),
    legend.text = text(style$type_pt$key),
    legend.title = text(style$type_pt$key),
    axis.line = line,
    axis.ticks = line,
    axis.ticks.length = grid::unit(style$space_mm$tick, "mm"),
    panel.background = nothing,
    panel.grid = nothing,
    strip.background = nothing,
    plot.background = nothing,
    legend.background = nothing,
    plot.margin = grid::unit(rep(0, 4), "mm")
  )
}

# Pictures of other packages in their places.
draw_foreign <- function(scene) {
  lapply(seq_along(scene$picture_grobs), function(i) {
    reach <- scene$pictures[i, ]
    one_panel <- scene$panels[match(reach$panel, scene$panels$id), ]
    viewport <- grid::viewport(
      x = native(one_panel$x - reach$left),
      y = native(one_panel$y + one_panel$h + reach$bottom),
      width = native(one_panel$w + reach$left + reach$right),
      height = grid::unit((one_panel$h + reach$top + reach$bottom) / scene$page$height_mm, "npc"),
      just = c(0, 0)
    )
    grid::gTree(
      children = grid::gList(scene$picture_grobs[[i]]),
      vp = viewport,
      name = paste0("picture-", reach$panel)
    )
  })
}
