# Searches OKLCH for a nested set of category colours. Run from the package root:
#   Rscript data-raw/make-colours.R
# Each set is the beginning of the next. A set's score is its least CIEDE2000
# between any two colours under normal, protan, deutan and tritan vision; lightness
# must also differ for grey printing, and contrast with white stay at least 1.9.

library(farver)

source(file.path("R", "house-vision.R"))

set.seed(7)
grid <- expand.grid(l = seq(0.28, 0.88, by = 0.04), c = seq(0.03, 0.27, by = 0.03), h = seq(0, 350, by = 10))
angle <- grid$h * pi / 180
rgb <- convert_colour(cbind(grid$l, grid$c * cos(angle), grid$c * sin(angle)), "oklab", "rgb")
inside <- apply(rgb >= 0 & rgb <= 255, 1, all) & !is.na(rgb[, 1])
candidates <- unique(encode_colour(round(rgb[inside, ])))
candidates <- candidates[white_contrast(candidates) >= 1.9]
cat(length(candidates), "candidates\n")

apart <- vision_distances(candidates)       # least CIEDE2000 over the four visions
lightness <- decode_colour(candidates, to = "lab")[, 1]
grey <- abs(outer(lightness, lightness, "-"))

# What a search without nesting reached for each number of colours, by which the
# scores of unlike numbers are compared; and the least difference in lightness.
aim <- c(NA, 70, 53, 44, 33, 24.8, 22, 20, 17, 15)
grey_least <- c(NA, 18, 12, 9, 7, 5, 4, 3, 2, 2)

# Worth of the set with each candidate in place k: the least, over its beginnings,
# of least distance against the aim.
worth_of_each <- function(taken, k) {
  n <- length(taken)
  worth <- rep(Inf, length(candidates))
  for (size in 2:n) {
    others <- setdiff(taken[seq_len(size)], if (k <= size) taken[k])
    between <- apart[others, others]
    least <- if (length(others) > 1) min(between[upper.tri(between)]) else Inf
    score <- rep(least, length(candidates))
    if (k <= size) {
      nearest <- do.call(pmin, as.data.frame(apart[, others, drop = FALSE]))
      dull <- do.call(pmin, as.data.frame(grey[, others, drop = FALSE])) < grey_least[size]
      score <- pmin(score, ifelse(dull, nearest * 0.5, nearest))
    }
    worth <- pmin(worth, score / aim[size])
  }
  worth
}

# Each place in turn takes its best candidate until nothing is gained.
climb <- function(taken) {
  best <- -Inf
  repeat {
    for (k in sample(length(taken))) {
      worth <- worth_of_each(taken, k)
      taken[k] <- which.max(worth)
    }
    if (max(worth) <= best + 1e-6) return(list(worth = best, taken = taken))
    best <- max(worth)
  }
}

least_distances <- function(set, visions = names(vision_matrices)) {
  vapply(2:length(set), function(n) {
    d <- vision_distances(set[seq_len(n)], visions)
    min(d[upper.tri(d)])
  }, 0)
}

starts <- as.integer(Sys.getenv("NELVAT_COLOUR_STARTS", "250"))
found <- lapply(seq_len(starts), function(i) climb(sample(length(candidates), 10)))
found <- found[order(-vapply(found, `[[`, 0, "worth"))]
for (one in utils::head(found, 12)) {
  set <- candidates[one$taken]
  cat(format(one$worth, digits = 3), " ", paste(set, collapse = " "), "\n   ", format(least_distances(set), digits = 3), "\n")
}
