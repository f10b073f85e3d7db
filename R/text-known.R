# What a font keeps of what was worked out with it: widths, lines, and how names of axes fit.

# Values that `keys` stand for in what the font knows already; those of new ones from make(which are
# new).
known_of <- function(font, keys, make) {
  if (is.null(font$known)) return(make(seq_along(keys)))
  # Names of what is known are of ASCII, as not every locale has others.
  odd <- grepl("[^ -~]", keys)
  keys[odd] <- vapply(keys[odd], function(key) paste(charToRaw(enc2utf8(key)), collapse = ""), "")
  # A name has at most 10,000 bytes.
  long <- nchar(keys, "bytes") > 9000
  keys[long] <- vapply(keys[long], rlang::hash, "")
  found <- mget(keys, font$known, ifnotfound = list(NULL))
  new <- which(!duplicated(keys) & vapply(found, is.null, NA))
  if (length(new)) {
    found[new] <- make(new)
    for (i in new) assign(keys[i], found[[i]], font$known)
    found <- found[match(keys, keys)]
  }
  unname(found)
}

# Fits in a font: axes of the same names and length, such as those of many like panels, are fitted
# once. Of very many those of before are forgotten.
fits_known <- function(font) {
  if (is.null(font$known)) return(new.env(parent = emptyenv()))
  known <- font$known[["tick fits"]]
  if (is.null(known) || length(known) >= most_fits) {
    known <- new.env(parent = emptyenv())
    assign("tick fits", known, font$known)
  }
  known
}
most_fits <- 1000
