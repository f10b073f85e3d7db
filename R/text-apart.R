# Places nearest to those wanted at which lines of text one above the other do not touch:
# texts that would are moved together about the mean of what they want (pool adjacent
# violators: Barlow et al. 1972, "Statistical Inference under Order Restrictions").
#
# at: wanted middles; high: heights, one or one a text; most: where the last must end.
pushed_apart <- function(at, high, most = Inf) {
  order <- order(at)
  half <- rep_len(high, length(at))[order] / 2
  # Distances between neighbours' middles, taken off, leave a problem of mere order.
  offset <- c(0, cumsum(half[-length(half)] + half[-1]))
  settled <- stats::isoreg(at[order] - offset)$yf
  settled <- pmin(settled, most - half[length(half)] - offset[length(offset)])
  at[order] <- settled + offset
  at
}
