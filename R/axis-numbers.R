# Numbers as tick text: one number of decimals for the axis, a true minus sign,
# thousands apart by a thin space from five figures on.

number_text <- function(numbers) {
  if (!length(numbers)) return(character())
  text <- number_text_short(numbers)
  if (!anyDuplicated(text[!duplicated(numbers)])) return(text)
  # Numbers that would print alike are written out as far as they differ.
  for (decimals in 0:15) {
    text <- number_text_at(numbers, decimals)
    if (!anyDuplicated(text[!duplicated(numbers)])) break
  }
  text
}

number_text_short <- function(numbers) {
  size <- max(abs(numbers))
  if (size != 0 && (size >= 1e6 || size < 1e-4)) return(power_text(numbers))
  text <- formatC(
    abs(numbers),
    digits = decimals_needed(numbers),
    format = "f",
    big.mark = if (size >= 1e4) "\u2009" else ""
  )
  paste0(ifelse(numbers < 0, "\u2212", ""), text)
}

# Numbers with a given number of decimals.
number_text_at <- function(numbers, decimals) {
  fixed_text(numbers, decimals)
}

decimals_needed <- function(numbers) {
  for (decimals in 0:12) {
    if (all(abs(round(numbers, decimals) - numbers) <= 1e-9 * max(abs(numbers)))) return(decimals)
  }
  12
}

# Large and small numbers: 2 x 10^6^, in the package's inline markup.
power_text <- function(numbers) {
  exponent <- floor(log10(max(abs(numbers))) + 1e-9)
  factor <- numbers / 10^exponent
  text <- paste0(number_text(factor), "\u00d710^", sub("-", "\u2212", exponent), "^")
  ifelse(numbers == 0, "0", text)
}

# A share of one that is all but one, and not one, is not written as one.
share_text <- function(share) {
  ifelse(share < 1 - 1e-12 & share >= 0.995, "> 0.99", formatC(share, digits = 2, format = "f"))
}

# " = 0.87" or " > 0.99", behind the name of the share.
share_words <- function(share) sub("^([0-9])", "= \\1", share_text(share))
