# Heat maps of more cells than can be told apart as shapes: an image, of no more pixels than 600
# dots an inch show. A pixel has the colour of the cell that its middle lies in.

dense_tiles <- 20000 # cells of a panel, from which they are drawn as an image

# Panels with so many tiles, on levels that follow each other on both axes.
dense_panels <- function(trained, site) {
  if (length(trained$on_numbers)) return(integer())
  panels <- unique(trained$table$panel)
  many <- tabulate(match(trained$table$panel, panels)) > dense_tiles
  Filter(
    function(panel) {
      of_panel <- which(trained$table$panel == panel)
      all(
        vapply(
          c("x", "y"),
          function(direction) {
            codes <- range(trained$table[[direction]][of_panel])
            step <- diff(site$unit(codes[1]:codes[2], rep(panel, diff(codes) + 1), direction))
            !anyNA(step) && (!length(step) || max(step) - min(step) < 1e-9)
          },
          NA
        )
      )
    },
    panels[many]
  )
}

# tiles: of one panel, whole levels on both axes; fill: their colours. Returns marks, one image for
# each group of rows by each group of columns, as gaps are between these.
tile_images <- function(tiles, fill, site) {
  area <- tiles$panel[1]
  across <- run_of_groups(tiles, "x")
  blocks <- across + (max(across) + 1L) * run_of_groups(tiles, "y")
  lapply(split(seq_len(nrow(tiles)), blocks), function(rows) {
    of_block <- table_rows(tiles, rows)
    ends <- lapply(c(x = "x", y = "y"), function(direction) {
      codes <- range(of_block[[direction]])
      both <- site$unit(codes + c(-0.5, 0.5), rep(area, 2), direction)
      apart_groups(
        list(both[1], both[2]),
        any(of_block[[paste0(direction, "_first")]]),
        any(of_block[[paste0(direction, "_last")]]),
        if (direction == "x") site$panel_w(area) else site$panel_h(area)
      )
    })
    c(
      new_marks(
        "image",
        new_table(
          panel = area,
          x0 = min(unlist(ends$x)),
          x1 = max(unlist(ends$x)),
          y0 = min(unlist(ends$y)),
          y1 = max(unlist(ends$y)),
          .rows = 1L
        )
      ),
      list(pixels = tile_pixels(of_block, fill[rows], ends, site, area))
    )
  })
}

# Which run of levels between gaps each tile is in.
run_of_groups <- function(tiles, direction) {
  firsts <- sort(unique(tiles[[direction]][tiles[[paste0(direction, "_first")]]]))
  findInterval(tiles[[direction]], firsts)
}

tile_pixels <- function(tiles, fill, ends, site, area) {
  of <- function(direction, panel_mm) {
    codes <- range(tiles[[direction]])
    n <- diff(codes) + 1
    dots <- max(
      1,
      floor(abs(ends[[direction]][[2]] - ends[[direction]][[1]]) * panel_mm / site$dot_mm)
    )
    pixels <- min(n, dots)
    seen <- codes[1] + pmin(n - 1, floor((seq_len(pixels) - 0.5) / pixels * n))
    # Pixels are counted from the left and from the top.
    rising <- ends[[direction]][[2]] > ends[[direction]][[1]]
    if (rising == (direction == "x")) seen else rev(seen)
  }
  columns <- of("x", site$panel_w(area))
  rows <- of("y", site$panel_h(area))
  first <- c(min(tiles$x), min(tiles$y))
  whole <- matrix(NA_character_, max(tiles$y) - first[2] + 1, max(tiles$x) - first[1] + 1)
  whole[cbind(tiles$y - first[2] + 1, tiles$x - first[1] + 1)] <- fill
  pixels <- whole[rows - first[2] + 1, columns - first[1] + 1, drop = FALSE]
  pixels[is.na(pixels)] <- "#FFFFFF00"
  pixels
}
