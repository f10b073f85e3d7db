# Which levels are like each other: distances between their profiles, and the tree that joins the
# nearest first. Source of the tree: `stats::hclust` (Murtagh 1985; Ward's criterion after Murtagh
# and Legendre 2014, Journal of Classification 31).

likeness_distances <- c("euclidean", "manhattan", "correlation")
likeness_linkages <- c("average", "complete", "single", "ward")

# profiles: a matrix, a row a level. Returns distances between its rows, over the columns that both
# have: those of `stats::dist`, or 1 - Pearson's correlation.
profile_distances <- function(profiles, distance) {
  if (distance == "euclidean" && !anyNA(profiles)) {
    return(
      structure(
        profile_distances_cpp(profiles),
        Size = nrow(profiles),
        Labels = rownames(profiles),
        Diag = FALSE,
        Upper = FALSE,
        class = "dist"
      )
    )
  }
  if (distance != "correlation") return(stats::dist(profiles, distance))
  related <- suppressWarnings(stats::cor(t(profiles), use = "pairwise.complete.obs"))
  stats::as.dist(1 - related)
}

# list(merge, height, order, size): as `stats::hclust` gives them, and how many levels each joint
# holds. distances: at least one.
likeness_tree <- function(distances, linkage) {
  tree <- stats::hclust(distances, if (linkage == "ward") "ward.D2" else linkage)
  size <- numeric(nrow(tree$merge))
  for (i in seq_along(size)) {
    for (part in tree$merge[i, ]) size[i] <- size[i] + if (part < 0) 1 else size[part]
  }
  list(merge = tree$merge, height = tree$height, order = tree$order, size = size)
}

# Where the joints of a tree stand along its levels in their order: left, right, the heights of
# what they join, their own height, and n, how many levels they hold.
tree_joints <- function(tree) {
  k <- NROW(tree$merge)
  place <- match(seq_along(tree$order), tree$order)
  middle <- height <- numeric(k)
  ends <- matrix(0, k, 4)
  for (i in seq_len(k)) {
    first <- tree$merge[i, 1]
    second <- tree$merge[i, 2]
    stands <- c(
      if (first < 0) place[-first] else middle[first],
      if (second < 0) place[-second] else middle[second]
    )
    low <- c(if (first < 0) 0 else height[first], if (second < 0) 0 else height[second])
    ends[i, ] <- if (stands[1] <= stands[2]) c(stands, low) else c(rev(stands), rev(low))
    middle[i] <- (stands[1] + stands[2]) / 2
    height[i] <- tree$height[i]
  }
  new_table(
    left = ends[, 1],
    right = ends[, 2],
    left_height = ends[, 3],
    right_height = ends[, 4],
    height = height,
    n = tree$size,
    .rows = k
  )
}

# Of each level in the tree's order, which of `k` groups it is in, numbered along the order.
tree_groups <- function(tree, k) {
  whole <- structure(
    list(merge = tree$merge, height = tree$height, order = tree$order),
    class = "hclust"
  )
  group <- stats::cutree(whole, k)[tree$order]
  match(group, unique(group))
}

tree_words <- function(tree) {
  paste0(
    c(
      euclidean = "Euclidean distance",
      manhattan = "city-block distance",
      correlation = "1 \u2212 Pearson's correlation"
    )[[tree$distance]],
    ", ",
    if (tree$linkage == "ward") "Ward's linkage" else paste(tree$linkage, "linkage")
  )
}
