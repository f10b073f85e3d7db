# The words that set what is pointed at, from the table of words: what each does, and its value now.

# values: what arguments are now, as texts by name; of others their default is told.
words_now <- function(word, arguments, values) {
  rows <- word_arguments(word)[arguments]
  first <- vapply(rows, function(row) sub("[.;:?] .*$", "", sub("[.?]$", "", row$says)), "")
  defaults <- vapply(as.list(formals(get(word)))[arguments], default_text, "")
  now <- vapply(
    arguments,
    function(argument) values[[argument]] %||% defaults[[argument]],
    ""
  )
  paste0(
    "`",
    names(rows),
    "` of `",
    word,
    "`, now ",
    now,
    ": ",
    plain_text(gsub("[][`]|\\(\\)", "", first))
  )
}

default_text <- function(default) {
  if (is.null(default)) return("left to Nelvat")
  text <- paste(deparse(default), collapse = " ")
  if (text == "") "not given" else now_text(tryCatch(eval(default, baseenv()), error = identity))
}

# A value as it is said of an argument.
now_text <- function(value) {
  if (is.null(value) || inherits(value, "error")) return("left to Nelvat")
  if (is_places(value)) return(listed(value$text))
  if (is_level_places(value)) return(listed(value$levels))
  if (isTRUE(value)) return("yes")
  if (isFALSE(value)) return("no")
  if (is.numeric(value)) return(if (length(value)) listed(number_text_each(value, 5)) else "none")
  if (is.character(value)) return(listed(quoted_each(utils::head(value, 6))))
  "as said"
}
quoted_each <- function(texts) paste0("\"", texts, "\"")

# What an axis shows now, by argument of axis_of().
axis_now <- function(axis) {
  if (is.null(axis)) return(list())
  asked <- Filter(Negate(is.null), axis$asked)
  transform <- axis_transform(axis$transform)
  ends <- if (axis$quantity && all(is.finite(axis$range))) transform$backward(axis$range)
  c(
    lapply(asked, now_text),
    list(
      title = if (is.null(asked$title)) paste0("\"", plain_text(axis$title), "\""),
      range = if (!is.null(ends)) paste(number_text_each(sort(ends), 4), collapse = " to "),
      reverse = if (isTRUE(axis$turned)) "yes" else "no"
    )
  )
}

# What a plate says now, by argument of plate().
plate_now <- function(plate) {
  arguments <- intersect(c("key", "key_titles", "letters", "title", "note"), names(plate))
  lapply(stats::setNames(nm = arguments), function(argument) now_text(plate[[argument]]))
}

axis_words <- function(axis) {
  words_now("axis_of", setdiff(names(word_arguments("axis_of")), "..."), axis_now(axis))
}

# The lines of keys, headings, letters, titles and notes.
plate_words <- function(plate) {
  now <- plate_now(plate)
  of <- function(...) {
    words_now("plate", intersect(c(...), names(word_arguments("plate"))), now)
  }
  list(
    key = of("key", "key_titles"),
    heading = words_now("panel", "heading", list()),
    letter = of("letters"),
    title = of("title"),
    note = of("note")
  )
}
