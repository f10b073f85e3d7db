# Lines of help pages from the table of words.

rest_line <- "@param ... Nothing; a misspelt argument is told with the nearest right name."

# For `@eval` in the help of one or several words: a line an argument; of words that share one the
# first says it.
argument_lines <- function(...) {
  rows <- unlist(lapply(c(...), word_arguments), recursive = FALSE)
  rows <- rows[!duplicated(names(rows))]
  says <- vapply(rows, `[[`, "", "says")
  called <- ifelse(vapply(rows, function(row) isTRUE(row$dots), NA), "...", names(rows))
  # Arguments of one sentence stand together.
  lines <- vapply(
    unique(says),
    function(one) paste("@param", paste(called[says == one], collapse = ","), one),
    "",
    USE.NAMES = FALSE
  )
  if (any(startsWith(lines, "@param ... "))) lines else c(lines, rest_line)
}
