# The table of words: what each word takes. Rows stand with the word, in its own file, and are
# gathered here when first asked for.

word_rows <- function(word) UseMethod("word_rows")

known_words <- new.env(parent = emptyenv())

# The rows of a word by its name: a type an argument, in the order of its call.
rows_of <- function(name) {
  if (is.null(known_words[[name]])) {
    known_words[[name]] <- word_rows(structure(list(), class = name))
  }
  known_words[[name]]
}

is_word <- function(name) {
  !is.null(utils::getS3method("word_rows", name, optional = TRUE, envir = topenv()))
}

# What a call of a word gives: list(values, columns), values by argument, each checked; columns as
# quosures. frame: the environment of the call; given: the names in its dots.
taken_arguments <- function(name, frame, given = NULL) {
  rows <- rows_of(name)
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
          paste0("`", name, "()` needs `", argument, "`: ", type_words(type), "."),
          x = "It is not given."
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
