# What was left out, taken for something else or not shown, as sentences: of whom it is said, and
# what. Notes hold it as "values not above zero, which a logarithmic scale cannot show".

# What follows the counted noun, and what is said of it. Words in braces go by the number; a form
# with {it} has the noun there.
note_forms <- c(
  "(left out|removed|cut there|changed by .+|filled with .+|shown as .+)" = "{are} \\1",
  "left out, (.+)" = "{are} left out, \\1",
  "without (a value of .+) left out" = "without \\1 {are} left out",
  ", over which lines go on" = "lines go on over {it}",
  ", which no axis can show" = "{are} left out, as no axis can show {them}",
  "(.+), which (.+) cannot show" = "\\1 {are} left out, as \\2 cannot show {them}",
  "beyond the (range of .+)" = "{lie} beyond the \\1",
  "beyond the bins that .+" = "{lie} beyond the bins, in which {they} {are} not counted",
  "that (the range of .+) cuts" = "{are} cut by \\1",
  "(that others have there), taken to be 0" = "\\1 {are} taken to be 0",
  "(of .+), which (?:has|have) (no .+)" = "\\1 {have} \\2",
  "without (?:an )?(interval|limits)" = "{have} no \\1",
  "without a partner in (.+)" = "{have} no partner in \\1",
  "that reach (below .+), cut there" = "{reach} \\1 and {are} cut there",
  "that reach (beyond .+)" = "{reach} \\1 and {are} cut there",
  "(of an error .+), not drawn" = "\\1 {are} not drawn",
  "too few for (.+)" = "{are} too few for \\1",
  "in a regular series, where no line is drawn" = "in a regular series {have} no line",
  "that found no place" = "found no place",
  "that the sample does not hold" = "{are} not in the sample",
  "(.+), in which (values|rows) were counted first" = "\\2 were counted first in {it} \\1"
)
note_nouns <- paste0(
  "^(?:(?:missing|infinite) )?",
  "(?:values|gaps|rows|spikes|labels|bars|areas|bands|classes)"
)

# "3 values of Colonies are left out, as a logarithmic scale cannot show them". n, of: one or
# several, such as 5 of acidity and 4 of firmness, of which the same is said; of: "" for rows whole.
note_said <- function(what, n, of) {
  noun <- regmatches(what, regexpr(note_nouns, what, perl = TRUE))
  rest <- trimws(sub(note_nouns, "", what, perl = TRUE))
  known <- which(vapply(paste0("^", names(note_forms), "$"), grepl, NA, rest, perl = TRUE))
  if (!length(known) || !length(noun)) {
    return(listed(paste0(ifelse(nzchar(of), paste0(of, ": "), ""), counted_phrase(n, what))))
  }
  each <- mapply(counted_phrase, n, noun)
  each[-1] <- sub(" .*", "", each[-1])
  it <- listed(paste0(each, ifelse(nzchar(of), paste(" of", of), "")))
  pattern <- paste0("^", names(note_forms)[known[1]], "$")
  said <- sub(pattern, note_forms[[known[1]]], rest, perl = TRUE)
  one <- sum(n) == 1
  for (word in names(note_verbs)) {
    said <- gsub(word, note_verbs[[word]][1 + !one], said, fixed = TRUE)
  }
  if (grepl("{it}", said, fixed = TRUE)) return(sub("{it}", it, said, fixed = TRUE))
  paste(it, said)
}
note_verbs <- list(
  `{are}` = c("is", "are"),
  `{have}` = c("has", "have"),
  `{lie}` = c("lies", "lie"),
  `{reach}` = c("reaches", "reach"),
  `{they}` = c("it", "they"),
  `{them}` = c("it", "them")
)
