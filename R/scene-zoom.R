# Zooms on the page: the outlined part on the panel they show, its letter, leader lines,
# and insets.

# The part of each zoom in unit-panel coordinates of the panel it shows.
zoom_regions <- function(laid) {
  blocks <- laid$blocks
  Filter(
    Negate(is.null),
    lapply(seq_along(blocks), function(i) {
      block <- blocks[[i]]
      zoom_part <- block$design$zoom
      if (is.null(zoom_part)) return(NULL)
      parent <- zoom_part$of
      panels <- scene_areas(blocks[[parent]], laid$frames[[parent]])
      one_panel <- panels[panels$id == block$panels$host[1], ]
      part <- zoomed_part(
        laid$fits[[i]][c(block$panels$x_axis[1], block$panels$y_axis[1])],
        laid$fits[[parent]][c(one_panel$x_axis, one_panel$y_axis)]
      )
      for (direction in c("x", "y")) {
        if (diff(part[[direction]]) <= 0) abort_empty_zoom(blocks[[i]], direction)
      }
      list(
        zoom = i,
        parent = parent,
        panel = one_panel,
        x = part$x,
        y = part$y,
        leaders = zoom_part$leaders,
        inset = !isFALSE(zoom_part$inset),
        letter = Find(Negate(is.na), block$letters)
      )
    })
  )
}

abort_empty_zoom <- function(block, direction) {
  abort_nelvat(
    "argument",
    c(
      paste0("The zoom of ", block_label(block$design), " shows nothing of it."),
      x = paste0(
        "Its `",
        direction,
        "`, ",
        paste(format(block$design$zoom[[direction]]), collapse = " to "),
        ", lies outside the panel's range."
      )
    ),
    call = NULL
  )
}

# Where the axes of a zoom begin and end on those of the panel it shows, 0 to 1. own, whole:
# list of the x and the y axis.
zoomed_part <- function(own, whole) {
  ends <- function(i) sort(pmin(pmax(to_unit(own[[i]]$range, whole[[i]]$range), 0), 1))
  list(x = ends(1), y = ends(2))
}

# The outlines of parts of a block, as marks.
region_outlines <- function(regions, house) {
  each <- lapply(regions, function(region) {
    # White under dark, so that the outline is seen on any ground.
    outline <- function(colour, weight_pt) {
      list(
        block = region$panel$block,
        ink = "zoom",
        primitive = "areas",
        table = new_table(
          panel = region$panel$id,
          area = 1L,
          x = region$x[c(1, 2, 2, 1)],
          y = region$y[c(1, 1, 2, 2)],
          fill = "#FFFFFF",
          opacity = 0,
          colour = colour,
          weight_pt = weight_pt,
          .rows = 4L
        )
      )
    }
    list(outline("#FFFFFF", casing_pt), outline(house$colour$axis, outline_pt))
  })
  unlist(each, FALSE)
}

# The letters of parts of a block where no other text stands, and the paper under them:
# list(texts, marks).
region_letters <- function(regions, house, font, others) {
  texts <- list()
  for (region in regions) {
    if (is.null(region$letter)) next
    texts <- c(texts, list(region_letter(region, region$panel, house, font, c(others, texts))))
  }
  lettered <- Filter(function(region) !is.null(region$letter), regions)
  marks <- Map(
    function(region, letter) {
      c(
        list(block = region$panel$block, ink = "zoom"),
        paper_patch(letter$text, region$panel)
      )
    },
    lettered,
    texts
  )
  list(texts = texts, marks = marks)
}

# The boxes on the page that insets take of the panels of block `i`, with what stands around them.
inset_boxes <- function(laid, i) {
  stands_here <- function(block) {
    zoom_part <- block$design$zoom
    !is.null(zoom_part) && !isFALSE(zoom_part$inset) && zoom_part$of == i
  }
  lapply(which(vapply(laid$blocks, stands_here, NA)), function(k) {
    ground <- inset_ground(list(block = laid$blocks[[k]], frame = laid$frames[[k]]))
    as.list(ground[c("x0", "x1", "y0", "y1")])
  })
}

# The casing is a hair wider than the outline to each side, so that it hides nothing.
casing_pt <- 1.1
outline_pt <- 0.75

# Paper under a text in a panel.
paper_patch <- function(text, panel) {
  new_marks(
    "rects",
    new_table(
      panel = panel$id,
      x0 = (text$x0 - 0.3 - panel$x) / panel$w,
      x1 = (text$x1 + 0.3 - panel$x) / panel$w,
      y0 = 1 - (text$y1 - panel$y) / panel$h,
      y1 = 1 - (text$y0 - panel$y) / panel$h,
      fill = "#FFFFFF",
      opacity = 0.85,
      .rows = 1L
    )
  )
}

# In a corner of the part where there is room, else above it or left of it: the first of these
# places where no other text of the block stands.
region_letter <- function(region, panel, house, font, others) {
  laid <- set_text(region$letter, house$type_pt$base, font, bold = TRUE)
  wide <- max(laid$widths_mm)
  high <- text_height_mm(1, laid$size_pt, font)
  left <- panel$x + region$x[1] * panel$w
  right <- panel$x + region$x[2] * panel$w
  top <- panel$y + (1 - region$y[2]) * panel$h
  bottom <- panel$y + (1 - region$y[1]) * panel$h
  roomy <- right - left > wide + 1 && bottom - top > high + 1
  above <- top - panel$y > high
  set_at <- function(x, y, ...) place_text("region letter", laid, x, y, font, ..., panel = panel$id)
  places <- c(
    if (roomy) {
      list(
        set_at(left + 0.6, top + 0.3),
        set_at(right - 0.6, top + 0.3, across = 1),
        set_at(left + 0.6, bottom - 0.3, down = 1),
        set_at(right - 0.6, bottom - 0.3, across = 1, down = 1)
      )
    },
    if (above) list(set_at(min(left, panel$x + panel$w - wide), top - 0.2, down = 1)),
    list(set_at(left - 0.4, top, across = 1))
  )
  is_free <- function(letter) {
    box <- letter$text
    !any(
      vapply(
        others,
        function(other) {
          text <- other$text
          isTRUE(
            box$x0 < text$x1 && text$x0 < box$x1 && box$y0 < text$y1 && text$y0 < box$y1
          )
        },
        NA
      )
    )
  }
  Find(is_free, places) %||% places[[1]]
}

# Insets ----------------------------------------------------------------------------

inset_margin_mm <- 1.5

# The plot area of an inset within its panel's: a box, less what stands around it.
# host: row of the panel's table of areas; frame: of its block.
inset_region <- function(block, reach, host, frame) {
  settled <- inset_settled(block$design$zoom)
  one_panel <- list(
    x = frame$x$start_mm[host$column],
    w = frame$x$length_mm[host$column],
    y = frame$y$start_mm[host$row],
    h = frame$y$length_mm[host$row]
  )
  box <- inset_box(settled, one_panel)
  list(
    x = box$x + reach$left[1],
    w = box$w - reach$left[1] - reach$right[1],
    y = box$y + reach$top[1],
    h = box$h - reach$top[1] - reach$bottom[1]
  )
}

# The box of an inset on the page. settled: list(size, spot), a share of the panel's sides and where
# the box stands in it, 0 to 1 across and upwards.
inset_box <- function(settled, panel) {
  wide <- panel$w * settled$size
  high <- panel$h * settled$size
  list(
    x = panel$x + inset_margin_mm + settled$spot[1] * (panel$w - wide - 2 * inset_margin_mm),
    y = panel$y + inset_margin_mm + (1 - settled$spot[2]) * (panel$h - high - 2 * inset_margin_mm),
    w = wide,
    h = high
  )
}

inset_corners <- list(
  "top right" = c(1, 1),
  "top left" = c(0, 1),
  "bottom right" = c(1, 0),
  "bottom left" = c(0, 0)
)
inset_sizes <- c(0.4, 0.35, 0.3, 0.25) # shares of the panel's sides that are tried

# Where an inset stands: in the corner that was said, or where it was found to be free.
inset_settled <- function(zoom_part) {
  if (!is.null(zoom_part$settled)) return(zoom_part$settled)
  list(
    size = zoom_part$size %||% inset_sizes[1],
    spot = inset_corners[[if (isTRUE(zoom_part$inset)) "top right" else zoom_part$inset]]
  )
}

# The largest inset that covers nothing of its panel and no part of what it enlarges: in a corner,
# else anywhere in the panel. ink: see with_texts(); part: see zoomed_part().
free_inset <- function(ink, panel, zoom_part, part) {
  across <- seq(0, 1, length.out = 9)
  grid <- expand.grid(x = rev(across), y = rev(across))
  spots <- c(unname(inset_corners), Map(c, grid$x, grid$y))
  fewest <- Inf
  for (size in zoom_part$size %||% inset_sizes) for (spot in spots) {
    settled <- list(size = size, spot = spot)
    covered <- inset_covers(settled, panel, ink, part)
    if (covered == 0) return(settled)
    fewest <- min(fewest, covered)
  }
  abort_no_inset(panel, fewest)
}

# How many places of marks and texts an inset would cover; any overlap with the part it shows counts
# as one.
inset_covers <- function(settled, panel, ink, part) {
  box <- inset_box(settled, panel)
  x <- (c(box$x, box$x + box$w) + c(-0.5, 0.5) - panel$x) / panel$w
  y <- 1 - (c(box$y + box$h, box$y) + c(0.5, -0.5) - panel$y) / panel$h
  over <- x[1] < part$x[2] && x[2] > part$x[1] && y[1] < part$y[2] && y[2] > part$y[1]
  sum(ink$x > x[1] & ink$x < x[2] & ink$y > y[1] & ink$y < y[2], na.rm = TRUE) + over
}

abort_no_inset <- function(panel, covered) {
  abort_nelvat(
    "space",
    along = "width",
    c(
      "The inset has no place in its panel where it covers nothing.",
      x = paste0(
        "The panel is ",
        format(round(panel$w, 1)),
        " by ",
        format(round(panel$h, 1)),
        " mm; at the emptiest place ",
        counted(covered, "place of a mark or a text", "places of marks and texts"),
        " would be covered."
      ),
      i = paste(
        paste0(
          "Make it smaller with `size`, place the zoom beside its panel, or say the corner that ",
          "it may cover, such as"
        ),
        "`inset = \"top right\"`."
      )
    ),
    call = NULL
  )
}
