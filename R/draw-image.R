# image: panel, x0, x1, y0, y1; `pixels` is a matrix of colours, the top row first.
draw_image <- function(layer, id) {
  own <- layer$table[layer$table$panel == id, , drop = FALSE]
  lapply(seq_len(nrow(own)), function(i) {
    one <- own[i, ]
    grid::rasterGrob(
      grDevices::as.raster(layer$pixels), x = one$x0, y = one$y0, width = one$x1 - one$x0, height = one$y1 - one$y0,
      just = c(0, 0), interpolate = FALSE
    )
  })
}
