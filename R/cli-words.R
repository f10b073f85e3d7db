# nelvat words TERM: finds a word by what the trade calls it.

cli_words <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat words [TERM]",
    paste(
      "Finds words of figure files by what the trade calls them, such as roc, \"error bar\" or",
      "\"small multiples\", and prints what they take, with an example. Without a term: all words."
    ),
    least = 0
  )
  if (is.null(parsed)) return(0L)
  term <- if (length(parsed$args)) paste(parsed$args, collapse = " ")
  writeLines(word_lines(words(term)))
  0L
}
