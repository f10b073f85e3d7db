# Searches OKLCH for a nested set of ten category colours. Run from the package root:
#   Rscript data-raw/make-colours.R [RUNS] [SEED]      (about ten seconds a run)
# Each set is the beginning of the next. A set's score is its least CIEDE2000 between any
# two colours under normal, protan, deutan and tritan vision, as a share of what a search
# without nesting reached for that number of colours. Every colour stands out from white
# paper by 3 : 1 at least (WCAG 2.2, 1.4.11), of lightness 0.36 to 0.68 and chroma 0.07 to
# 0.17. Grey print is carried by shape and dash. Simulated annealing: one colour is moved at
# a time, from random sets and from the best so far.

library(farver)

source(file.path("R", "house-vision.R"))

arguments <- as.integer(commandArgs(trailingOnly = TRUE))
runs <- if (length(arguments) >= 1) arguments[1] else 10
set.seed(if (length(arguments) >= 2) arguments[2] else 11)

aim <- c(40.4, 31.6, 25.2, 19.3, 15.4, 12.3, 10.5, 9.2, 8.2) # for 2 to 10 colours

# A colour of OKLCH, NA outside sRGB or too pale.
colour_at <- function(lch) {
  angle <- lch[3] * pi / 180
  rgb <- convert_colour(cbind(lch[1], lch[2] * cos(angle), lch[2] * sin(angle)), "oklab", "rgb")
  if (anyNA(rgb) || any(rgb < 0 | rgb > 255)) return(NA)
  colour <- encode_colour(round(rgb))
  if (white_contrast(colour) < 3) NA else colour
}

least_among <- function(distances) {
  vapply(2:10, function(n) min(distances[1:n, 1:n][upper.tri(diag(n))]), 0)
}

worth_of <- function(distances) {
  share <- least_among(distances) / aim
  min(share) + 0.02 * mean(pmin(share, 1))
}

distances_from <- function(colour, others) {
  apply(
    vapply(
      names(vision_matrices),
      function(vision) {
        as.numeric(
          compare_colour(
            seen_as(colour, vision),
            seen_as(others, vision),
            "rgb",
            "rgb",
            method = "cie2000"
          )
        )
      },
      numeric(length(others))
    ),
    1,
    min
  )
}

random_set <- function() {
  set <- character()
  while (length(set) < 10) {
    set <- c(
      set,
      Filter(
        Negate(is.na),
        colour_at(c(runif(1, 0.36, 0.68), runif(1, 0.07, 0.17), runif(1, 0, 360)))
      )
    )
  }
  set
}

anneal <- function(set) {
  lab <- decode_colour(set, to = "oklab")
  lch <- cbind(lab[, 1], sqrt(lab[, 2]^2 + lab[, 3]^2), atan2(lab[, 3], lab[, 2]) * 180 / pi)
  distances <- vision_distances(set)
  worth <- worth_of(distances)
  best <- list(set = set, worth = worth)
  temperature <- 0.05
  while (temperature > 2e-4) {
    temperature <- temperature * 0.9992
    i <- sample(10, 1, prob = c(2, 2, 2, 2, 1.5, 1.5, 1, 1, 0.8, 0.8))
    moved <- lch[i, ] +
      c(rnorm(1, 0, 0.05), rnorm(1, 0, 0.03), rnorm(1, 0, 20)) * if (runif(1) < 0.3) 1 else 0.3
    if (moved[2] < 0.07 || moved[2] > 0.17 || moved[1] < 0.36 || moved[1] > 0.68) next
    colour <- colour_at(moved)
    if (is.na(colour)) next
    new <- distances
    new[i, -i] <- new[-i, i] <- distances_from(colour, set[-i])
    new_worth <- worth_of(new)
    if (new_worth < worth && runif(1) > exp((new_worth - worth) / temperature)) next
    set[i] <- colour
    lch[i, ] <- moved
    distances <- new
    worth <- new_worth
    if (worth > best$worth) best <- list(set = set, worth = worth)
  }
  best
}

best <- list(worth = -Inf)
for (run in seq_len(runs)) {
  found <- anneal(if (run > 1 && runif(1) < 0.5) best$set else random_set())
  if (found$worth > best$worth) best <- found
  cat(
    run,
    format(best$worth, digits = 4),
    round(least_among(vision_distances(best$set)), 1),
    best$set,
    "\n"
  )
}
print(best$set)
