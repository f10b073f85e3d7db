# How far two measurements agree, and how well a score tells two classes apart.

# Differences against means. Bland and Altman (1999), "Measuring agreement in method comparison
# studies", Statistical Methods in Medical Research 8: the limits are bias +- z s, z the normal
# quantile of the level, their standard error s sqrt(1 / n + z^2 / (2 (n - 1))); intervals by t with
# n - 1 degrees of freedom. Returns list(mean, difference, coefficients: term, estimate, se, low,
# high), NULL for fewer than two pairs.
agreement <- function(first, second, level = 0.95) {
  n <- length(first)
  if (n < 2) return(NULL)
  difference <- first - second
  s <- stats::sd(difference)
  # Squares of differences that no double holds have no limits.
  if (!is.finite(s)) return(NULL)
  z <- stats::qnorm(1 - (1 - level) / 2)
  estimate <- mean(difference) + c(0, -z, z) * s
  se <- s * sqrt(1 / n + c(0, z^2, z^2) / (2 * (n - 1)))
  list(
    mean = (first + second) / 2,
    difference = difference,
    n = n,
    coefficients = coefficient_table(
      c("bias", "lower limit", "upper limit"),
      estimate,
      se,
      0.95,
      n - 1
    )
  )
}

# The curve of a score, higher for the positive class: thresholds from the highest down, one a
# distinct score. roc: x false positive rate, y true positive rate; precision-recall: x recall, y
# precision. The area of the ROC is the share of pairs in which the positive one is scored higher,
# ties half; its variance after DeLong, DeLong and Clarke-Pearson (1988), Biometrics 44, its
# interval estimate +- z se within 0 and 1. The area of the precision-recall curve is the average
# precision, the sum of precision times the step in recall, without interval. NULL where a class has
# no value.
class_curve <- function(score, positive, curve, level = 0.95) {
  m <- sum(positive)
  n <- sum(!positive)
  if (m == 0 || n == 0) return(NULL)
  order <- order(-score)
  last <- which(!duplicated(score[order], fromLast = TRUE))
  hits <- cumsum(positive[order])[last]
  called <- last
  area <- if (curve == "roc") {
    roc_area(score, positive, level)
  } else {
    recall <- hits / m
    estimate <- sum(diff(c(0, recall)) * hits / called)
    data.frame(
      term = "average precision",
      estimate = estimate,
      se = NA_real_,
      low = NA_real_,
      high = NA_real_
    )
  }
  path <- if (curve == "roc") {
    list(x = c(0, (called - hits) / n), y = c(0, hits / m))
  } else {
    list(x = c(0, hits / m), y = c((hits / called)[1], hits / called))
  }
  c(path, list(area = area, share = m / (m + n), n = m + n))
}

roc_area <- function(score, positive, level) {
  positives <- score[positive]
  others <- score[!positive]
  m <- length(positives)
  n <- length(others)
  # Placements by ranks: how large a share of the other class each value is above.
  all_ranks <- rank(c(positives, others))
  above <- (all_ranks[seq_len(m)] - rank(positives)) / n
  below <- 1 - (all_ranks[-seq_len(m)] - rank(others)) / m
  estimate <- mean(above)
  se <- if (m > 1 && n > 1) sqrt(stats::var(above) / m + stats::var(below) / n) else NA_real_
  half <- stats::qnorm(1 - (1 - level) / 2) * se
  data.frame(
    term = "area",
    estimate = estimate,
    se = se,
    low = max(0, estimate - half),
    high = min(1, estimate + half)
  )
}
