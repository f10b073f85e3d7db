# Checks measured on a scene.

# Pairs of texts whose boxes, turned as they are drawn, share more than `slack` mm.
# Two rectangles are apart where a line along one of their sides parts them
# (separating axis theorem). Returns a data frame: a, b (ids of texts), depth_mm.
touching_texts <- function(scene, slack = 0.01) {
  texts <- scene$texts
  n <- nrow(texts)
  if (n < 2) return(data.frame(a = integer(), b = integer(), depth_mm = numeric()))
  overlap <- function(low, high) outer(high, high, pmin) - outer(low, low, pmax)
  near <- pmin(overlap(texts$x0, texts$x1), overlap(texts$y0, texts$y1)) > slack
  pairs <- which(near & upper.tri(near), arr.ind = TRUE)
  depth <- vapply(
    seq_len(nrow(pairs)),
    function(i) shared_depth(texts[pairs[i, 1], ], texts[pairs[i, 2], ]),
    0
  )
  touching <- depth > slack
  data.frame(
    a = texts$id[pairs[touching, 1]],
    b = texts$id[pairs[touching, 2]],
    depth_mm = depth[touching]
  )
}

# Least distance by which one of two turned rectangles must move to clear the other.
shared_depth <- function(a, b) {
  corners <- function(box) {
    turn <- box$angle * pi / 180
    dx <- c(-1, 1, 1, -1) * box$width_mm / 2
    dy <- c(-1, -1, 1, 1) * box$height_mm / 2
    cbind(
      box$centre_x + dx * cos(turn) + dy * sin(turn),
      box$centre_y - dx * sin(turn) + dy * cos(turn)
    )
  }
  turns <- c(a$angle, a$angle + 90, b$angle, b$angle + 90) * pi / 180
  of_a <- corners(a) %*% rbind(cos(turns), -sin(turns))
  of_b <- corners(b) %*% rbind(cos(turns), -sin(turns))
  min(
    pmin(apply(of_a, 2, max), apply(of_b, 2, max)) - pmax(apply(of_a, 2, min), apply(of_b, 2, min))
  )
}
