# Numbers in sentences, as the house of a figure writes them; names that hold numbers keep theirs,
# as they stand on the page.

house_words <- function(text, scene) {
  numbers <- scene$numbers
  if (is.null(numbers) || !length(text)) return(text)
  apart <- names_with_numbers(scene)
  masks <- intToUtf8(0xe100 + seq_along(apart) - 1, multiple = TRUE)
  for (k in seq_along(apart)) text <- gsub(apart[k], masks[k], text, fixed = TRUE)
  if (numbers$decimal_mark != ".") {
    text <- gsub("(?<=[0-9]),(?=[0-9]{3}(?![0-9]))", "\u2009", text, perl = TRUE)
  }
  text <- house_numbers(text, numbers)
  for (k in rev(seq_along(apart))) text <- gsub(masks[k], apart[k], text, fixed = TRUE)
  text
}

# Names of levels, variables and titles with a number that a house could write otherwise, the
# longest first.
names_with_numbers <- function(scene) {
  axes <- lapply(scene$axes, function(axis) c(axis$name, axis$title))
  levels <- lapply(
    scene$accounts[grep("_level$|^colour$|^shape$|^dash$|^group$", names(scene$accounts))],
    as.character
  )
  names <- unique(
    as.character(
      c(
        scene$title,
        scene$panels$called,
        unlist(axes),
        scene$splits$level,
        scene$splits$name,
        scene$keys$label,
        unlist(levels),
        scene$contrasts$first,
        scene$contrasts$second,
        scene$contrasts$within
      )
    )
  )
  names <- names[!is.na(names) & grepl("[0-9][.,][0-9]|(^|[^0-9])[.][0-9]|\u2212", names)]
  utils::head(names[order(-nchar(names))], 1000)
}
