# Numbers in sentences.

# "11 to 12", or the one number where all are alike.
count_range <- function(n) {
  ends <- range(n)
  if (ends[1] == ends[2]) {
    count_text(ends[1])
  } else {
    paste(count_text(ends[1]), "to", count_text(ends[2]))
  }
}

# A p value as it is written: three decimals under 0.1, and never 0.
p_words <- function(p) {
  ifelse(
    p < 0.001,
    "p < 0.001",
    paste0(
      "p = ",
      ifelse(p < 0.1, formatC(p, digits = 3, format = "f"), formatC(p, digits = 2, format = "f"))
    )
  )
}

# Numbers with so many decimals, in any locale, with a true minus sign and no negative zero.
fixed_text <- function(values, digits) {
  sub("^-", "\u2212", sprintf("%.*f", as.integer(digits), round(values, digits) + 0))
}

# "1.20 (0.90 to 1.60)".
with_interval <- function(estimate, low, high, digits) {
  paste0(
    fixed_text(estimate, digits),
    " (",
    fixed_text(low, digits),
    " to ",
    fixed_text(high, digits),
    ")"
  )
}

# Digits after the point that an interval's width bears.
interval_digits <- function(low, high) {
  digits <- 1 - floor(log10(pmax(high - low, 1e-300)))
  ifelse(is.finite(digits), pmin(15, pmax(0, digits)), 2)
}

count_text <- function(n) format(n, big.mark = ",", trim = TRUE, scientific = FALSE)

# Numbers in sentences: thousands of five digits and more are parted as those of counts are.
grouped_digits <- function(text) {
  many <- regexpr("(?<![.0-9])[0-9]{5,}", text, perl = TRUE)
  regmatches(text, many) <- count_text(as.numeric(regmatches(text, many)))
  text
}

# Quantiles of type 7 (Hyndman and Fan 1996) of values that are each there n times.
counted_quantiles <- function(values, n, shares) {
  upto <- cumsum(n)
  place <- (sum(n) - 1) * shares
  ranked <- function(rank) values[findInterval(rank, c(0, upto), left.open = FALSE)]
  low <- ranked(floor(place))
  low + (place - floor(place)) * (ranked(ceiling(place)) - low)
}
