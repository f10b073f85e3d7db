# Searches OKLCH for a nested set of ten category colours. Run from the package root:
#   Rscript data-raw/make-colours.R [RUNS] [SEED]      (about ten seconds a run)
# Each set is the beginning of the next. A set's score is its least CIEDE2000 between any
# two colours under normal, protan, deutan and tritan vision, as a share of what a search
# without nesting reached for that number of colours; lightness should also differ for
# grey printing, and contrast with white stay at least 1.9. Simulated annealing: one
# colour is moved at a time, from random sets and from the best so far.
#
# The set in R/house-colours.R is the best of about 180 runs, chosen among near-equals by
# eye; its sixth colour was then made duller, as far as that cost no distance.

library(farver)

source(file.path("R", "house-vision.R"))

arguments <- as.integer(commandArgs(trailingOnly = TRUE))
runs <- if (length(arguments) >= 1) arguments[1] else 10
set.seed(if (length(arguments) >= 2) arguments[2] else 11)

aim <- c(56, 53, 44, 31, 24.8, 20, 20, 16, 14)      # for 2 to 10 colours
grey_wanted <- c(14, 10, 7, 5, 4, 3, 2, 1.5, 1.5)   # least difference in lightness, likewise
grey_counts <- c(1, 1, 1, 1, 1, 0.5, 0.3, 0.2, 0.1)

# A colour of OKLCH, NA outside sRGB or too pale.
colour_at <- function(lch) {
  angle <- lch[3] * pi / 180
  rgb <- convert_colour(cbind(lch[1], lch[2] * cos(angle), lch[2] * sin(angle)), "oklab", "rgb")
  if (anyNA(rgb) || any(rgb < 0 | rgb > 255)) return(NA)
  colour <- encode_colour(round(rgb))
  if (white_contrast(colour) < 1.9) NA else colour
}

least_among <- function(distances) vapply(2:10, function(n) min(distances[1:n, 1:n][upper.tri(diag(n))]), 0)

worth_of <- function(distances, lightness) {
  share <- least_among(distances) / aim
  grey <- least_among(abs(outer(lightness, lightness, "-"))) / grey_wanted
  min(share) + 0.02 * mean(pmin(share, 1)) - 0.3 * sum(pmax(0, 1 - grey) * grey_counts)
}

distances_from <- function(colour, others) {
  apply(vapply(names(vision_matrices), function(vision) {
    as.numeric(compare_colour(seen_as(colour, vision), seen_as(others, vision), "rgb", "rgb", method = "cie2000"))
  }, numeric(length(others))), 1, min)
}

random_set <- function() {
  set <- character()
  while (length(set) < 10) set <- c(set, Filter(Negate(is.na), colour_at(c(runif(1, 0.25, 0.86), runif(1, 0.03, 0.235), runif(1, 0, 360)))))
  set
}

anneal <- function(set) {
  lab <- decode_colour(set, to = "oklab")
  lch <- cbind(lab[, 1], sqrt(lab[, 2]^2 + lab[, 3]^2), atan2(lab[, 3], lab[, 2]) * 180 / pi)
  distances <- vision_distances(set)
  lightness <- decode_colour(set, to = "lab")[, 1]
  worth <- worth_of(distances, lightness)
  best <- list(set = set, worth = worth)
  temperature <- 0.05
  while (temperature > 2e-4) {
    temperature <- temperature * 0.9992
    i <- sample(10, 1, prob = c(2, 2, 2, 2, 1.5, 1.5, 1, 1, 0.8, 0.8))
    moved <- lch[i, ] + c(rnorm(1, 0, 0.05), rnorm(1, 0, 0.03), rnorm(1, 0, 20)) * if (runif(1) < 0.3) 1 else 0.3
    if (moved[2] < 0.02 || moved[2] > 0.235 || moved[1] < 0.22 || moved[1] > 0.88) next
    colour <- colour_at(moved)
    if (is.na(colour)) next
    new <- distances
    new[i, -i] <- new[-i, i] <- distances_from(colour, set[-i])
    new_lightness <- replace(lightness, i, decode_colour(colour, to = "lab")[, 1])
    new_worth <- worth_of(new, new_lightness)
    if (new_worth < worth && runif(1) > exp((new_worth - worth) / temperature)) next
    set[i] <- colour
    lch[i, ] <- moved
    distances <- new
    lightness <- new_lightness
    worth <- new_worth
    if (worth > best$worth) best <- list(set = set, worth = worth)
  }
  best
}

best <- list(worth = -Inf)
for (run in seq_len(runs)) {
  found <- anneal(if (run > 1 && runif(1) < 0.5) best$set else random_set())
  if (found$worth > best$worth) best <- found
  cat(run, format(best$worth, digits = 4), round(least_among(vision_distances(best$set)), 1), "\n")
}
print(best$set)
