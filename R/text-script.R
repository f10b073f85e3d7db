# Fonts by script: a house may name families for scripts, by their names in Unicode ("Han",
# "Arabic"). A text is cut where its script changes (Unicode Standard Annex 24): what is common to
# all scripts, such as digits, goes with the character before it, at the start of a text with the
# one after it.

# The font of each of `strings` (of one script each): 0 the font itself, else which of its scripts'.
script_fonts <- function(strings, font) {
  which_font <- integer(length(strings))
  for (i in rev(seq_along(font$scripts))) {
    which_font[
      grepl(paste0("(*UTF)", script_class(font$scripts[[i]]$script)), strings, perl = TRUE)
    ] <- i
  }
  which_font
}

font_of_script <- function(font, i) if (i == 0) font else font$scripts[[i]]

# The family that each of `strings` is drawn in.
script_families <- function(strings, font) {
  families <- c(font$family %||% "", vapply(font$scripts, `[[`, "", "family", USE.NAMES = FALSE))
  families[script_fonts(strings, font) + 1L]
}

# Words (see measure_words) cut where the font changes; the pieces of a word stay together.
part_scripts <- function(words, font) {
  odd <- which(grepl("[^ -~]", words$string))
  if (!length(odd)) return(words)
  pieces <- as.list(words$string)
  pieces[odd] <- lapply(words$string[odd], script_pieces, font)
  if (all(lengths(pieces) == 1)) return(words)
  row <- rep(seq_along(pieces), lengths(pieces))
  parted <- table_rows(words, row)
  parted$string <- unlist(pieces)
  parted$space <- parted$space & !duplicated(row, fromLast = TRUE)
  parted
}

script_pieces <- function(string, font) {
  letters <- strsplit(string, "")[[1]]
  script_of <- script_fonts(letters, font)
  common <- script_of == 0 & grepl("(*UTF)[\\p{Common}\\p{Inherited}]", letters, perl = TRUE)
  if (!all(common)) {
    with_script <- which(!common)
    script_of[common] <- script_of[with_script[pmax(1L, findInterval(which(common), with_script))]]
  }
  stretch <- cumsum(c(TRUE, diff(script_of) != 0))
  unname(vapply(split(letters, stretch), paste, "", collapse = ""))
}
