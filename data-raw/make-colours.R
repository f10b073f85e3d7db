# Searches OKLCH for a nested set of category colours. Run from the package root (it
# takes about six minutes and 5 GB):
#   Rscript data-raw/make-colours.R
# Each set is the beginning of the next. A set's score is its least CIEDE2000
# between any two colours under normal, protan, deutan and tritan vision; lightness
# must also differ for grey printing, and contrast with white stay at least 1.9.

library(farver)

source(file.path("R", "house-vision.R"))

set.seed(7)
grid <- expand.grid(l = seq(0.28, 0.86, by = 0.03), c = seq(0.04, 0.24, by = 0.02), h = seq(0, 357, by = 6))
angle <- grid$h * pi / 180
rgb <- convert_colour(cbind(grid$l, grid$c * cos(angle), grid$c * sin(angle)), "oklab", "rgb")
inside <- apply(rgb >= 0 & rgb <= 255, 1, all) & !is.na(rgb[, 1])
candidates <- unique(encode_colour(round(rgb[inside, ])))
candidates <- candidates[white_contrast(candidates) >= 1.9]
cat(length(candidates), "candidates\n")

apart <- vision_distances(candidates)       # least CIEDE2000 over the four visions
lightness <- decode_colour(candidates, to = "lab")[, 1]
grey <- abs(outer(lightness, lightness, "-"))

# What a search without nesting reached for each number of colours (from 2 on), by
# which the scores of unlike numbers are compared; and the least difference in
# lightness that is asked of the next colour.
aim <- c(60, 53, 44, 33, 24.8, 22, 20, 18, 16.5)
grey_wanted <- c(NA, 16, 12, 9, 7, 5, 4, 3, 2, 2)

# Sets grown from many starts: the next colour is one of those nearly farthest from
# all taken, so that many orders are tried.
best <- list(worth = -Inf)
for (start in sample(length(candidates), 1500)) {
  taken <- start
  score <- numeric()
  for (n in 2:10) {
    least <- do.call(pmin, as.data.frame(apart[, taken, drop = FALSE]))
    grey_least <- do.call(pmin, as.data.frame(grey[, taken, drop = FALSE]))
    least[grey_least < grey_wanted[n]] <- 0
    top <- which(least >= max(least) * 0.97)
    taken <- c(taken, if (length(top) > 1) sample(top, 1) else top)
    score <- c(score, max(least[taken[n]]))
  }
  worth <- min(score / aim)
  if (worth > best$worth) best <- list(worth = worth, set = candidates[taken], least_distance = score)
}
print(best)
