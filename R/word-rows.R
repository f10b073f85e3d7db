# The table of words: what each word takes. Rows stand with the word, in its own file, and are
# gathered here when first asked for.

word_rows <- function(word) UseMethod("word_rows")

# A word of another package, see made_ink(), has its arguments by this.
#' @rdname made_ink
#' @export
takes_of <- function(ink) UseMethod("takes_of")

known_words <- new.env(parent = emptyenv())

kept_rows <- function(name, make) {
  if (is.null(known_words[[name]])) known_words[[name]] <- make()
  known_words[[name]]
}

# The rows of a word by its name: a type an argument, in the order of its call.
word_arguments <- function(name) {
  if (is.null(known_words[[name]]) && !is_word(name)) {
    return(takes_of(structure(list(), class = name)))
  }
  kept_rows(name, function() word_rows(structure(list(), class = name)))
}

# Those that are keys in figure files.
file_arguments <- function(name) {
  Filter(function(type) !isTRUE(type$in_calls), word_arguments(name))
}

is_word <- function(name) {
  !is.null(utils::getS3method("word_rows", name, optional = TRUE, envir = topenv()))
}

# What a call of a word gives: list(values, columns), values by argument, each checked; columns as
# quosures. frame: the environment of the call; given: the names in its dots.
taken_arguments <- function(name, frame, given = NULL) {
  rows <- word_arguments(name)
  check_stray(given, names(rows), name, frame)
  if (length(given)) {
    abort_nelvat(
      "argument",
      c(
        paste0("`", name, "()` takes ", counted(length(rows), "argument"), "."),
        x = paste0("Found ", length(given), " more."),
        i = paste0("They are ", quoted(names(rows), 30), ".")
      ),
      frame
    )
  }
  values <- columns <- list()
  for (argument in names(rows)) {
    type <- rows[[argument]]
    symbol <- as.symbol(argument)
    is_default <- eval(call("missing", symbol), frame)
    if (is_default && identical(frame[[argument]], quote(expr = ))) {
      abort_nelvat(
        "argument",
        c(
          paste0("`", name, "()` needs ", needed_words(name, frame), "."),
          x = paste0("`", argument, "` is not given: ", type_words(type), ".")
        ),
        frame
      )
    }
    if (type$kind %in% naming_kinds) {
      columns[[argument]] <- eval(as.call(list(rlang::enquo, symbol)), frame)
    } else {
      values[argument] <- list(check_type(type, frame[[argument]], argument, frame))
    }
  }
  list(values = values, columns = columns)
}

# What a call must give, in words.
needed_words <- function(name, frame) {
  given <- formals(get(name, envir = frame))
  listed(paste0("`", setdiff(names(given), c(names(given_defaults(given)), "...")), "`"))
}

given_defaults <- function(formals) formals[!vapply(formals, identical, NA, quote(expr = ))]

# The checked arguments of a word that names no columns: to be called by its function, with its
# dots.
said_arguments <- function(name, ..., call = rlang::caller_env()) {
  taken_arguments(name, call, if (...length()) ...names() %||% rep("", ...length()))$values
}

checked_argument <- function(name, argument, value, call) {
  check_type(word_arguments(name)[[argument]], value, argument, call)
}

# Settings of a word, checked; what is not given is as its function has it.
with_defaults <- function(name, settings, call) {
  defaults <- given_defaults(formals(get(name, envir = topenv())))
  for (argument in setdiff(
    intersect(names(word_arguments(name)), names(defaults)),
    names(settings)
  )) {
    settings[argument] <- list(eval(defaults[[argument]], topenv()))
  }
  for (argument in intersect(names(word_arguments(name)), names(settings))) {
    settings[argument] <- list(checked_argument(name, argument, settings[[argument]], call))
  }
  settings
}
