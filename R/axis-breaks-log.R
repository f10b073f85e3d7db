# Breaks of logarithmic axes and their kin, in data units.

# Powers and their 2 and 5 are short and stand for much of an axis, so more of them are read than of
# other numbers on the same length.
close_decades <- 1.6

# Decades with the numbers between as minor breaks; over two decades or less also 2 and 5; over less
# than one, evenly spaced numbers, where 1, 2 and 5 are not enough.
decade_breaks <- function(ends, n) {
  exponents <- log10(ends)
  span <- exponents[2] - exponents[1]
  decades <- seq(ceiling(exponents[1] - 1e-9), floor(exponents[2] + 1e-9))
  most <- floor(close_decades * n)
  all_numbers <- sort(as.vector(outer(1:9, 10^seq(floor(exponents[1]), floor(exponents[2])))))
  inside <- function(x) x[x >= ends[1] * (1 - 1e-9) & x <= ends[2] * (1 + 1e-9)]
  few <- inside(
    sort(as.vector(outer(c(1, 2, 5), 10^seq(floor(exponents[1]), floor(exponents[2])))))
  )
  if (
    span < 0.9 && (length(few) < 3 || length(few) > most) ||
      span >= 0.9 && !is_rising(exponents[1], exponents[2], decades)
  ) {
    positions <- number_breaks(ends, n)
    return(list(at = positions[positions > 0]))
  }
  positions <- if (span <= 2 + 1e-9 && length(few) <= most) few else 10^every_kth(decades, most)
  list(
    at = positions,
    text = decade_text(positions),
    minor = setdiff_near(inside(all_numbers), positions)
  )
}

is_rising <- function(low, high, decades) length(decades) > 0 && decades[1] <= high

every_kth <- function(whole, n) {
  step <- ceiling(length(whole) / max(n, 1))
  whole[whole %% step == 0 | step == 1]
}

setdiff_near <- function(x, y) x[!vapply(x, function(one) any(abs(one - y) <= 1e-9 * abs(one)), NA)]

# 0.1, 1, 10 as they are; beyond 10^4^ or under 10^-3^, all as powers.
decade_text <- function(at) {
  if (max(at) < 1e5 && min(at) > 0.9e-3) return(vapply(at, function(one) number_text(one), ""))
  exponent <- floor(log10(at) + 1e-9)
  factor <- round(at / 10^exponent, 6)
  power <- paste0("10^", sub("-", "\u2212", exponent), "^")
  ifelse(factor == 1, power, paste0(factor, "\u00d7", power))
}

power_breaks <- function(ends, n) {
  exponents <- seq(ceiling(log2(ends[1]) - 1e-9), floor(log2(ends[2]) + 1e-9))
  if (diff(log2(ends)) < 1.5) return(list(at = number_breaks(ends, n)))
  positions <- 2^every_kth(exponents, n)
  text <- if (max(positions) < 1e5 && min(positions) > 1e-2) {
    vapply(positions, number_text, "")
  } else {
    paste0("2^", sub("-", "\u2212", log2(positions)), "^")
  }
  list(at = positions, text = text)
}

# Zero and decades to both sides.
signed_decade_breaks <- function(ends, n, scale = 1) {
  top <- min(ceiling(log10(max(abs(ends), 10 * scale))), 308)
  # Below the scale the axis is about even, so decades there would crowd about zero.
  lowest <- if (scale == 1) 0 else floor(log10(scale))
  decades <- 10^seq(min(lowest, top), top)
  within <- function(decades) {
    positions <- c(-rev(decades), 0, decades)
    slack <- 1e-9 * abs(positions)
    positions[positions >= ends[1] - slack & positions <= ends[2] + slack]
  }
  positions <- within(decades)
  if (length(positions) < 3) return(list(at = number_breaks(ends, n)))
  for (k in 2:length(decades)) {
    if (length(positions) <= n) break
    # Every k-th decade, the greatest among them.
    positions <- within(rev(rev(decades[decades <= max(abs(ends))])[c(TRUE, rep(FALSE, k - 1))]))
  }
  list(
    at = positions,
    text = vapply(
      positions,
      function(one) {
        if (abs(one) >= 1e5) {
          paste0(if (one < 0) "\u2212", "10^", log10(abs(one)), "^")
        } else {
          number_text(one)
        }
      },
      ""
    )
  )
}

share_breaks <- function(ends, n) {
  tails <- c(0.5, 0.9, 0.99, 0.999, 0.9999, 0.75, 0.95)
  positions <- sort(unique(c(tails, 1 - tails)))
  # Ends that went through the transform and back are not quite where they were.
  positions <- positions[positions >= ends[1] - 1e-9 & positions <= ends[2] + 1e-9]
  if (length(positions) > n) {
    positions <- positions[!round(positions, 6) %in% c(0.25, 0.75, 0.05, 0.95)]
  }
  if (length(positions) < 3) return(list(at = number_breaks(ends, n)))
  list(at = positions, text = vapply(round(positions, 6), number_text, ""))
}
