# Checks of what a figure file holds. A place is the keys that lead to a value.

abort_figure <- function(at, message, found, choices = NULL, hint = NULL) {
  abort_nelvat(
    "figure",
    c(
      paste0("At ", place_text_of(at), ": ", message),
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

# The line of a figure file that an error is about: that of the last key on the way to its
# place, or below it that of the word the error found wrong. NULL where it has no place.
error_line <- function(lines, error) {
  place <- error$at %||% sub(
    "^(At|In) ",
    "",
    regmatches(error$message, regexpr("^(At|In) [^:]+(?=:)", error$message, perl = TRUE))
  )
  steps <- unlist(strsplit(as.character(place), " > ", fixed = TRUE))
  entries <- Filter(function(key) !grepl("^[0-9]+$", key) && key != "the top of the file", steps)
  if (!length(entries)) return(NULL)
  bare <- sub("(^|\\s)#.*$", "", lines)
  line <- 0
  for (key in entries) {
    candidates <- grep(
      paste0("(^|[{,\\[\\s-])[\"']?", escaped(key), "[\"']?\\s*:"),
      bare,
      perl = TRUE
    )
    # Within one line several keys may follow each other.
    candidates <- candidates[candidates >= max(line, 1)]
    if (!length(candidates)) break
    line <- candidates[1]
  }
  said <- c(error$body[names(error$body) == "x"], error$message)
  wrong <- if (rlang::is_string(error$found)) {
    error$found
  } else {
    gsub('"', "", unlist(regmatches(said, regexpr('"[^"]+"', said)))[1])
  }
  if (!is.na(wrong) && nzchar(wrong)) {
    below <- grep(
      paste0("(^|[^A-Za-z0-9_])", escaped(wrong), "($|[^A-Za-z0-9_])"),
      bare,
      perl = TRUE
    )
    below <- below[below >= max(line, 1)]
    if (length(below)) line <- below[1]
  }
  if (line > 0) line
}

escaped <- function(text) gsub("([][{}()+*^$|\\\\?.])", "\\\\\\1", text)

check_keys <- function(mapping, known, needs = character(), at) {
  where <- if (is.null(at)) "the top of the file" else place_text_of(at)
  if (!is.list(mapping) || (length(mapping) && is.null(names(mapping)))) {
    if (length(mapping) || length(needs)) {
      abort_figure(where, paste0("Expected keys (", quoted(known), ")."), mapping)
    }
    return(invisible())
  }
  for (key in setdiff(names(mapping), known)) {
    now <- current_name(key, known)
    abort_figure(
      where,
      "There is no key of that name.",
      key,
      known,
      hint = if (!is.null(now)) paste0("It is called \"", now, "\" now.")
    )
  }
  for (key in setdiff(needs, names(mapping))) {
    abort_nelvat(
      "figure",
      c(
        paste0("At ", where, ": The key \"", key, "\" is missing."),
        x = paste0("Found ", if (length(mapping)) quoted(names(mapping)) else "no keys", ".")
      ),
      call = NULL
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

