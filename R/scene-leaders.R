# Leader lines of zooms: from two corners of a part to the near corners of the plot area that shows
# it, in page mm. They run behind the data.

# Where one of the two would cross text, another plot area or the outline of another part, there are
# none: one line alone leads nowhere.
leader_rules <- function(regions, of_blocks, house) {
  texts <- unlist(
    lapply(of_blocks, function(block) Filter(Negate(is.null), lapply(block$texts, `[[`, "text"))),
    recursive = FALSE
  )
  texts <- Filter(function(text) text$role != "region letter", texts)
  stack_tables(
    lapply(seq_along(regions), function(i) {
      region <- regions[[i]]
      if (!region$leaders) return(NULL)
      ends <- zoom_leader_ends(region, of_blocks[[region$zoom]]$panels[1, ])
      over_text <- any_row(ends, function(line) {
        any(vapply(texts, function(box) crosses_box(line, box), NA))
      })
      if (over_text || any(leads_over_others(ends, regions, i, of_blocks))) return(NULL)
      new_table(
        role = "leader",
        panel = NA_integer_,
        x0 = ends$x0,
        y0 = ends$y0,
        x1 = ends$x1,
        y1 = ends$y1,
        weight_pt = house$weight_pt$axis,
        colour = house$colour$axis,
        .rows = nrow(ends)
      )
    })
  )
}

any_row <- function(table, holds) {
  any(vapply(seq_len(nrow(table)), function(i) holds(table[i, ]), NA))
}

region_box <- function(region) {
  one_panel <- region$panel
  x <- one_panel$x + region$x * one_panel$w
  y <- one_panel$y + (1 - rev(region$y)) * one_panel$h
  data.frame(x0 = x[1], y0 = y[1], x1 = x[2], y1 = y[2])
}

# The two lines, a row each.
zoom_leader_ends <- function(region, target) {
  box <- region_box(region)
  from <- list(x = c(box$x0, box$x1), y = c(box$y0, box$y1))
  to <- list(x = target$x + c(0, target$w), y = target$y + c(0, target$h))
  side <- if (to$x[1] >= from$x[2]) {
    list(c(2, 1), c(1, 1), c(2, 2), c(1, 2))
  } else if (to$x[2] <= from$x[1]) {
    list(c(1, 1), c(2, 1), c(1, 2), c(2, 2))
  } else if (to$y[1] >= from$y[2]) {
    list(c(1, 2), c(1, 1), c(2, 2), c(2, 1))
  } else {
    list(c(1, 1), c(1, 2), c(2, 1), c(2, 2))
  }
  data.frame(
    x0 = from$x[c(side[[1]][1], side[[3]][1])],
    y0 = from$y[c(side[[1]][2], side[[3]][2])],
    x1 = to$x[c(side[[2]][1], side[[4]][1])],
    y1 = to$y[c(side[[2]][2], side[[4]][2])]
  )
}

# Which lines of a region meet a plot area that is neither its own nor its zoom's, or another
# region.
leads_over_others <- function(ends, regions, i, of_blocks) {
  own_panels <- c(regions[[i]]$panel$id, of_blocks[[regions[[i]]$zoom]]$panels$id)
  areas <- stack_tables(
    lapply(of_blocks, function(block) block$panels[c("id", "x", "y", "w", "h")])
  )
  areas <- areas[!areas$id %in% own_panels, ]
  boxes <- c(
    lapply(seq_len(nrow(areas)), function(k) {
      area <- areas[k, ]
      data.frame(x0 = area$x, y0 = area$y, x1 = area$x + area$w, y1 = area$y + area$h)
    }),
    lapply(regions[-i], region_box)
  )
  vapply(
    seq_len(nrow(ends)),
    function(k) {
      any(
        vapply(
          boxes,
          function(box) {
            # Along an edge is over it, too.
            crosses_box(ends[k, ], box, -0.05)
          },
          NA
        )
      )
    },
    NA
  )
}

# Does a line pass through the inside of a box? Liang and Barsky (1984), "A new concept and method
# for line clipping", ACM Transactions on Graphics 3(1).
crosses_box <- function(line, box, within_mm = 0.05) {
  d <- c(line$x1 - line$x0, line$y1 - line$y0)
  p <- c(-d[1], d[1], -d[2], d[2])
  q <- c(
    line$x0 - box$x0 - within_mm,
    box$x1 - within_mm - line$x0,
    line$y0 - box$y0 - within_mm,
    box$y1 - within_mm - line$y0
  )
  if (any(p == 0 & q < 0)) return(FALSE)
  enter <- max(0, (q / p)[p < 0])
  leave <- min(1, (q / p)[p > 0])
  enter < leave
}
