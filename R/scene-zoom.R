# Zooms on the page: the outlined part on the panel they show, its letter, leader lines,
# and insets.

# The part of each zoom in unit-panel coordinates of the panel it shows. own: parts of the
# blocks as assembled, before they are numbered.
zoom_regions <- function(laid, of_blocks) {
  blocks <- laid$blocks
  Filter(Negate(is.null), lapply(seq_along(blocks), function(i) {
    zoom_part <- blocks[[i]]$design$zoom
    if (is.null(zoom_part)) return(NULL)
    parent <- of_blocks[[zoom_part$of]]
    one_panel <- parent$panels[min(zoom_part$panel, sum(parent$panels$role == "panel")), ]
    part <- zoomed_part(
      of_blocks[[i]]$axes[c(of_blocks[[i]]$panels$x_axis[1], of_blocks[[i]]$panels$y_axis[1])],
      parent$axes[c(one_panel$x_axis, one_panel$y_axis)]
    )
    for (direction in c("x", "y")) if (diff(part[[direction]]) <= 0) abort_empty_zoom(blocks[[i]], direction)
    list(
      zoom = i, parent = zoom_part$of, panel = one_panel, x = part$x, y = part$y, leaders = zoom_part$leaders,
      inset = !isFALSE(zoom_part$inset),
      letter = Find(Negate(is.na), of_blocks[[i]]$letters))
  }))
}

abort_empty_zoom <- function(block, direction) {
  abort_nelvat("argument", c(
    paste0("The zoom of ", block_label(block$design), " shows nothing of it."),
    x = paste0(
      "Its `", direction, "`, ", paste(format(block$design$zoom[[direction]]), collapse = " to "),
      ", lies outside the panel's range."
    )
  ), call = NULL)
}

# Where the axes of a zoom begin and end on those of the panel it shows, 0 to 1. own, whole:
# list of the x and the y axis.
zoomed_part <- function(own, whole) {
  ends <- function(i) sort(pmin(pmax(to_unit(own[[i]]$range, whole[[i]]$range), 0), 1))
  list(x = ends(1), y = ends(2))
}

# Outlines and letters of the parts, added to the blocks they are parts of.
mark_regions <- function(of_blocks, regions, house, font) {
  for (region in regions) {
    own <- of_blocks[[region$parent]]
    one_panel <- region$panel
    # White under dark, so that the outline is seen on any ground.
    outline <- function(colour, weight_pt) {
      list(block = one_panel$block, ink = "zoom", primitive = "areas", table = new_table(
        panel = one_panel$id, area = 1L, x = region$x[c(1, 2, 2, 1)], y = region$y[c(1, 1, 2, 2)], fill = "#FFFFFF",
        opacity = 0, colour = colour, weight_pt = weight_pt, .rows = 4L
      ))
    }
    own$marks <- c(own$marks, list(outline("#FFFFFF", casing_pt), outline(house$colour$axis, outline_pt)))
    if (!is.null(region$letter)) {
      letter <- region_letter(region, one_panel, house, font)
      own$texts <- c(own$texts, list(letter))
      own$marks <- c(
        own$marks, list(c(list(block = one_panel$block, ink = "zoom"), paper_patch(letter$text, one_panel)))
      )
    }
    of_blocks[[region$parent]] <- own
  }
  of_blocks
}

casing_pt <- 2
outline_pt <- 0.75

# Paper under a text in a panel.
paper_patch <- function(text, panel) {
  new_marks("rects", new_table(
    panel = panel$id, x0 = (text$x0 - 0.3 - panel$x) / panel$w, x1 = (text$x1 + 0.3 - panel$x) / panel$w,
    y0 = 1 - (text$y1 - panel$y) / panel$h, y1 = 1 - (text$y0 - panel$y) / panel$h,
    fill = "#FFFFFF", opacity = 0.85, .rows = 1L
  ))
}

# Inside the part at its top left where there is room, else above its left edge.
region_letter <- function(region, panel, house, font) {
  laid <- set_text(region$letter, house$type_pt$base, font, bold = TRUE)
  high <- text_height_mm(1, laid$size_pt, font)
  roomy <- diff(region$x) * panel$w > max(laid$widths_mm) + 1 && diff(region$y) * panel$h > high + 1
  above <- region$y[2] * panel$h + high < panel$h
  top <- panel$y + (1 - region$y[2]) * panel$h
  left <- panel$x + region$x[1] * panel$w
  if (roomy) place_text("region letter", laid, left + 0.6, top + 0.3, font, panel = panel$id)
  else if (above) place_text(
    "region letter", laid, min(left, panel$x + panel$w - max(laid$widths_mm)), top - 0.2, font, down = 1,
    panel = panel$id
  )
  else place_text("region letter", laid, left - 0.4, top, font, across = 1, panel = panel$id)
}

# Lines from two corners of a part to the near corners of its zoom, in page mm.
leader_rules <- function(regions, of_blocks, house) {
  lines <- lapply(regions, function(region) {
    if (!region$leaders) return(NULL)
    one_panel <- region$panel
    from <- list(x = one_panel$x + region$x * one_panel$w, y = one_panel$y + (1 - rev(region$y)) * one_panel$h)
    zoom_part <- of_blocks[[region$zoom]]$panels[1, ]
    # Lines end where the zoom's tick text and titles begin, so that they cross none.
    around <- of_blocks[[region$zoom]]$around
    is_beside <- zoom_part$x >= from$x[2] || zoom_part$x + zoom_part$w <= from$x[1]
    to <- list(
      x = zoom_part$x + if (is_beside) c(-around$left, zoom_part$w + around$right) else c(0, zoom_part$w),
      y = zoom_part$y + if (is_beside) c(0, zoom_part$h) else c(-around$top, zoom_part$h + around$bottom)
    )
    side <- if (to$x[1] >= from$x[2]) list(c(2, 1), c(1, 1), c(2, 2), c(1, 2))
    else if (to$x[2] <= from$x[1]) list(c(1, 1), c(2, 1), c(1, 2), c(2, 2))
    else if (to$y[1] >= from$y[2]) list(c(1, 2), c(1, 1), c(2, 2), c(2, 1))
    else list(c(1, 1), c(1, 2), c(2, 1), c(2, 2))
    new_table(
      role = "leader", panel = NA_integer_, x0 = from$x[c(side[[1]][1], side[[3]][1])],
      y0 = from$y[c(side[[1]][2], side[[3]][2])],
      x1 = to$x[c(side[[2]][1], side[[4]][1])], y1 = to$y[c(side[[2]][2], side[[4]][2])],
      weight_pt = house$weight_pt$axis, colour = house$colour$axis, .rows = 2L)
  })
  lines <- stack_tables(Filter(Negate(is.null), lines))
  if (is.null(lines)) return(NULL)
  cased <- changed(lines, weight_pt = rep(casing_pt, nrow(lines)), colour = rep("#FFFFFF", nrow(lines)))
  stack_tables(list(cased, lines))
}

# Insets ----------------------------------------------------------------------------

inset_margin_mm <- 1.5

# The plot area of an inset within its panel's: a corner box, less what stands around it.
inset_region <- function(block, reach, frame, corner) {
  zoom_part <- block$design$zoom
  one_panel <- list(
    x = frame$x$start_mm[1], w = frame$x$length_mm[1], y = frame$y$start_mm[1], h = frame$y$length_mm[1]
  )
  wide <- one_panel$w * zoom_part$size
  high <- one_panel$h * zoom_part$size
  left <- grepl("left", corner)
  top <- grepl("top", corner)
  box_x <- if (left) one_panel$x + inset_margin_mm else one_panel$x + one_panel$w - wide - inset_margin_mm
  box_y <- if (top) one_panel$y + inset_margin_mm else one_panel$y + one_panel$h - high - inset_margin_mm
  list(
    x = box_x + reach$left[1], w = wide - reach$left[1] - reach$right[1], y = box_y + reach$top[1],
    h = high - reach$top[1] - reach$bottom[1]
  )
}

inset_corner <- function(design) {
  if (isTRUE(design$zoom$inset)) design$zoom$corner %||% "top right" else design$zoom$inset
}

# The corner of a panel that has least ink under a box of a share of its sides; not over
# the part it shows, if that can be.
emptiest_inset <- function(marks, id, share, part) {
  ink <- ink_points_of(marks, id)
  corners <- c("top right", "top left", "bottom right", "bottom left")
  held <- vapply(corners, function(corner) {
    x <- if (grepl("left", corner)) ink$x < share else ink$x > 1 - share
    y <- if (grepl("top", corner)) ink$y > 1 - share else ink$y < share
    over <- (
      if (grepl("left", corner)) part$x[1] < share else part$x[2] > 1 - share
    ) && (if (grepl("top", corner)) part$y[2] > 1 - share else part$y[1] < share)
    sum(x & y, na.rm = TRUE) + if (over) 1e9 else 0
  }, 0)
  corners[which.min(held)]
}
