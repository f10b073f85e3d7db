# Numbers in sentences, as the house of a figure writes them; names that hold numbers keep theirs,
# as they stand on the page.

house_words <- function(text, scene) {
  numbers <- scene$numbers
  if (is.null(numbers) || !length(text)) return(text)
  # The longest first, as names may hold others; never within a longer number.
  apart <- as.character(unlist(scene$names))
  apart <- apart[order(-nchar(apart))]
  masks <- intToUtf8(0xe100 + seq_along(apart) - 1, multiple = TRUE)
  for (k in seq_along(apart)) {
    literal <- paste0("\\Q", gsub("\\E", "\\E\\\\E\\Q", apart[k], fixed = TRUE), "\\E")
    text <- gsub(paste0("(?<![0-9.,])", literal, "(?![0-9])"), masks[k], text, perl = TRUE)
  }
  if (numbers$decimal_mark != ".") {
    text <- gsub("(?<=[0-9]),(?=[0-9]{3}(?![0-9]))", "\u2009", text, perl = TRUE)
  }
  text <- house_numbers(text, numbers)
  for (k in rev(seq_along(apart))) text <- gsub(masks[k], apart[k], text, fixed = TRUE)
  text
}
