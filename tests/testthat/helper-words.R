# The words that have rows in the table of words.
words_with_rows <- function() {
  namespace <- asNamespace("nelvat")
  methods <- ls(namespace, pattern = "^word_rows[.]")
  setdiff(sub("^word_rows[.]", "", methods), "")
}
