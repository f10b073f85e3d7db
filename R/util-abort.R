# Errors are classed `nelvat_error_<kind>` and carry the user's call.

abort_nelvat <- function(kind, message, call = rlang::caller_env(), ...) {
  message <- in_their_words(message)
  rlang::abort(message, class = c(paste0("nelvat_error_", kind), "nelvat_error"), call = call, ...)
}

warn_nelvat <- function(kind, message, ...) {
  message <- in_their_words(message)
  rlang::warn(message, class = c(paste0("nelvat_warning_", kind), "nelvat_warning"), ...)
}

# Runs `code`, giving any Nelvat error raised inside the place it happened in,
# for example a key path in a figure file.
with_place <- function(where, code, call = rlang::caller_env()) {
  if (is.null(where)) return(code)
  tryCatch(code, nelvat_error = function(error) {
    error$message <- paste0("In ", where, ": ", error$message)
    error$call <- NULL
    stop(error)
  })
}

# Words for messages -----------------------------------------------------------

quoted <- function(words, most = 12) {
  shown <- paste0("\"", utils::head(words, most), "\"")
  left <- length(words) - most
  paste0(paste(shown, collapse = ", "), if (left > 0) paste0(" and ", left, " more"))
}

counted <- function(n, one, many = paste0(one, "s")) {
  paste(format(n, big.mark = ",", scientific = FALSE), if (n == 1) one else many)
}

# The name in `candidates` nearest to `name` by generalised Levenshtein distance
# (utils::adist), or NULL where none is near enough to be a likely slip.
nearest_name <- function(name, candidates) {
  if (!length(candidates) || is.na(name)) return(NULL)
  distance <- utils::adist(tolower(name), tolower(candidates))[1, ]
  begins <- startsWith(tolower(candidates), tolower(name)) & nchar(name) > 1
  distance[begins] <- pmin(distance[begins], 1)
  best <- which.min(distance)
  if (distance[best] <= max(1, ceiling(nchar(name) / 3))) candidates[best]
}

# The bullet that offers the nearest right name, or lists what there is.
offer <- function(name, candidates, what = "name") {
  near <- nearest_name(name, candidates)
  if (!is.null(near)) return(c(i = paste0("Did you mean \"", near, "\"?")))
  if (!length(candidates)) return(c(i = paste0("There is no ", what, " to choose from.")))
  # Of arguments all are said.
  most <- if (what == "argument") 40 else 12
  said <- quoted(candidates, most)
  c(i = paste0("There ", if (length(candidates) == 1) "is " else "are ", said, "."))
}

# "1 value left out", of a phrase that says many.
counted_phrase <- function(n, phrase) {
  one <- sub(
    "^((?:[a-z]+ )?)(value|gap|row|spike|label|bar|area|band|class)(?:es|s)\\b",
    "\\1\\2",
    phrase,
    perl = TRUE
  )
  paste(format(n, big.mark = ",", trim = TRUE, scientific = FALSE), ifelse(n == 1, one, phrase))
}

# What was noted of columns, or of rows whole, which have none: "\"firmness\": 4 missing values left
# out".
noted_phrases <- function(notes, sign = "\"") {
  of <- ifelse(nzchar(notes$column), paste0(sign, notes$column, sign, ": "), "")
  paste0(of, mapply(counted_phrase, notes$n, notes$what))
}

# A sentence begins large, but for a word that is written with capitals or digits of its own.
begun <- function(text) {
  ifelse(grepl("^[a-z\u00df-\u00ff]+(?![^ ,.;:()-])", text, perl = TRUE), first_upper(text), text)
}

first_upper <- function(text) paste0(toupper(substr(text, 1, 1)), substring(text, 2))

# Names begin small in a sentence, abbreviations do not.
lower_first <- function(text) {
  ifelse(grepl("^[A-Z][a-z]", text), paste0(tolower(substr(text, 1, 1)), substring(text, 2)), text)
}

# "a, b and c".
listed <- function(words) {
  n <- length(words)
  if (n < 2) words else paste0(paste(words[-n], collapse = ", "), " and ", words[n])
}

# A place in a file: "blocks > a > panel".
place_text_of <- function(at) paste(at, collapse = " > ")
