# The words that set what is pointed at, from the table of words, with what they do.

words_of_marks <- function() {
  of <- function(word, arguments) {
    rows <- word_arguments(word)[arguments]
    first <- vapply(rows, function(row) sub("[.;:?] .*$", "", sub("[.?]$", "", row$says)), "")
    paste0("`", names(rows), "` of `", word, "`: ", plain_text(gsub("[][`]|\\(\\)", "", first)))
  }
  axis <- setdiff(names(word_arguments("axis_of")), "...")
  list(
    axis = of("axis_of", axis),
    key = of("plate", intersect(c("key", "key_titles"), names(word_arguments("plate")))),
    heading = of("panel", "heading"),
    letter = of("plate", "letters"),
    title = of("plate", "title"),
    note = of("plate", "note")
  )
}
