# Steps of shade for counts: edges that a reader can take in, rising by a constant
# factor where counts are skewed, evenly where they are few.
#
# Returns list(edges, step): `edges` from 1 to past the greatest count, one more than
# there are steps.
count_edges <- function(counts, steps) {
  most <- max(counts, 1)
  if (most <= steps) return(as.numeric(seq(1, most + 1)))
  even <- most / steps < 5
  raw <- if (even) seq(1, most + 1, length.out = steps + 1) else exp(seq(0, log(most + 1), length.out = steps + 1))
  edges <- unique(c(1, round_counts(raw[-c(1, length(raw))]), most + 1))
  edges[c(TRUE, diff(edges) > 0)]
}

round_counts <- function(x) {
  power <- 10^pmax(floor(log10(x)) - if (max(x) > 100) 0 else 1, 0)
  pmax(round(x / power) * power, 2)
}
