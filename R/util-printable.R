# Characters that no page has a form for: controls, and what Unicode says is no character (U+FDD0 to
# U+FDEF, U+FFFE, U+FFFF). Files of SVG, HTML and spreadsheets that hold them cannot be opened;
# U+FFFD stands in their place, as Unicode advises.
unprintable <- paste0(
  "[\\x{1}-\\x{8}\\x{b}\\x{c}\\x{e}-\\x{1f}\\x{7f}-\\x{84}\\x{86}-\\x{9f}",
  "\\x{fdd0}-\\x{fdef}\\x{fffe}\\x{ffff}]"
)

has_unprintable <- function(text) {
  odd <- grepl("[^ -~]", text) & !is.na(text)
  odd[odd] <- grepl(paste0("(*UTF)", unprintable), enc2utf8(text[odd]), perl = TRUE)
  odd
}

printable <- function(text) {
  odd <- has_unprintable(text)
  if (!any(odd)) return(text)
  text[odd] <- gsub(paste0("(*UTF)", unprintable), "\ufffd", enc2utf8(text[odd]), perl = TRUE)
  text
}

# Text from data, which says what it says: marks of inline markup in it stand for themselves.
verbatim <- function(text) gsub("([*^~\\\\])", "\\\\\\1", text)

# Where a word may be parted; it is not written.
soft_hyphen <- "\u00ad"
without_soft <- function(strings) gsub(soft_hyphen, "", strings, fixed = TRUE)
