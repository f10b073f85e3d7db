# Steps of shade for counts: edges that a reader can take in, rising by a constant
# factor where counts are skewed, evenly where they are few.
#
# Returns list(edges, step): `edges` from 1 to past the greatest count, one more than
# there are steps.
count_edges <- function(counts, steps) {
  most <- max(counts, 1)
  if (most <= steps) return(as.numeric(seq(1, most + 1)))
  if (most / steps < 5) {
    width <- round_step(most, steps)
    return(c(1, seq(width, by = width, length.out = floor(most / width) + 1)))
  }
  # Of 1, 2, 5, 10 ..., of 1, 3, 10 ... and of powers of ten the finest that has so few steps.
  powers <- 10^seq(0, ceiling(log10(most + 1)))
  for (parts in list(c(1, 2, 5), c(1, 3), 1, NULL)) {
    edges <- if (is.null(parts)) far_powers(most, steps) else sort(as.vector(outer(parts, powers)))
    edges <- edges[seq_len(which(edges > most)[1])]
    if (length(edges) - 1 <= steps) break
  }
  edges
}

# The narrowest even step of 1, 2 or 5 times a power of ten with which so few steps reach the most.
round_step <- function(most, steps) {
  widths <- sort(as.vector(outer(c(1, 2, 5), 10^(0:9))))
  widths[which(floor(most / widths) + 1 <= steps)[1]]
}

# Every second, third ... power of ten.
far_powers <- function(most, steps) {
  10^seq(0, by = ceiling(log10(most + 1) / steps), length.out = steps + 1)
}
