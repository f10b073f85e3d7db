# Checks of what a figure file holds. A place is the keys that lead to a value.

abort_figure <- function(at, message, found, choices = NULL, hint = NULL) {
  abort_nelvat(
    "figure",
    c(
      paste0("At ", if (length(at)) place_text_of(at) else "the top of the file", ": ", message),
      x = paste0("Found ", describe_found(found), "."),
      if (!is.null(hint)) {
        c(i = hint)
      } else if (!is.null(choices) && rlang::is_string(found)) offer(found, choices)
    ),
    call = NULL,
    at = at,
    found = found
  )
}

describe_found <- function(found) {
  if (is.list(found)) return("a mapping or list")
  if (is.character(found) && length(found) > 1) return(quoted(found))
  describe_value(found)
}

# Gives errors of a function called for a place in the file that place.
at_key <- function(at, code) {
  with_place(
    place_text_of(at),
    tryCatch(code, nelvat_error = function(error) {
      if (is.null(error$at)) error$at <- at
      stop(error)
    })
  )
}

# The line of a file that an error is about: that of its place, of the argument or key that it
# found wrong there, or of the value. NULL where it has no place.
error_line <- function(lines, error) error_place(lines, error)$line

# list(line, depth): depth is how many steps of the place the file has.
error_place <- function(lines, error) {
  steps <- error$at %||% if (!is.null(error$block)) c("blocks", error$block)
  if (is.null(steps)) return(list(line = NULL, depth = 0))
  places <- yaml_places(lines)
  named <- vapply(places$place, paste, "", collapse = "\r")
  line_of <- function(place) places$line[match(paste(place, collapse = "\r"), named)]
  wrong <- Filter(rlang::is_string, list(error$argument, error$found))
  for (word in wrong) {
    if (is.na(line_of(c(steps, word)))) next
    steps <- c(steps, word)
    wrong <- setdiff(wrong, word)
  }
  while (length(steps) && is.na(line_of(steps))) steps <- steps[-length(steps)]
  depth <- length(steps)
  # What is wrong with the file as a whole is wrong at its top.
  if (!depth) return(list(line = 1L, depth = 0))
  if (!length(wrong)) return(list(line = line_of(steps), depth = depth))
  # A value stands somewhere below its place, before the next one that is not below.
  below <- startsWith(named, paste(c(steps, ""), collapse = "\r"))
  here <- match(paste(steps, collapse = "\r"), named)
  after <- which(!below & seq_along(named) > here)[1]
  end <- if (is.na(after)) length(lines) else max(places$line[here], places$line[after] - 1L)
  range <- seq(places$line[here], max(end, places$line[below]))
  word <- utils::tail(wrong, 1)[[1]]
  pattern <- paste0("(^|[^A-Za-z0-9_])", escaped(word), "($|[^A-Za-z0-9_])")
  met <- if (nzchar(word)) grep(pattern, lines[range], perl = TRUE)
  list(line = range[c(met, 1)[1]], depth = depth)
}

escaped <- function(text) gsub("([][{}()+*^$|\\\\?.])", "\\\\\\1", text)

check_keys <- function(mapping, known, needs = character(), at) {
  where <- if (is.null(at)) "the top of the file" else place_text_of(at)
  if (!is.list(mapping) || (length(mapping) && is.null(names(mapping)))) {
    if (length(mapping) || length(needs)) {
      abort_figure(at %||% character(), paste0("Expected keys (", quoted(known), ")."), mapping)
    }
    return(invisible())
  }
  for (key in setdiff(names(mapping), known)) {
    hint <- hint_of_name(key, known)
    abort_figure(
      at %||% character(),
      "There is no key of that name.",
      key,
      known,
      hint = unname(hint)
    )
  }
  for (key in setdiff(needs, names(mapping))) {
    abort_nelvat(
      "figure",
      c(
        paste0("At ", where, ": The key \"", key, "\" is missing."),
        x = paste0("Found ", if (length(mapping)) quoted(names(mapping)) else "no keys", ".")
      ),
      call = NULL,
      at = at %||% character()
    )
  }
}

named_list <- function(value, at) {
  if (is.list(value) && length(value) && all(rlang::have_name(value))) return(value)
  abort_figure(at, "Expected names, each with its own keys.", value)
}

string_at <- function(value, at) {
  if (rlang::is_string(value)) return(value)
  abort_figure(at, "Expected one word or text.", value)
}

