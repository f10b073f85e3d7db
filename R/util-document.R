# Reading YAML (and JSON, which is YAML) documents.

# Reads YAML, of which JSON is a part. As in YAML 1.2, only true and false are
# truth values: `y` and `no` are words, and may name an axis or a level. `010` is not eight but a
# word, such as a level's name; whole numbers that no integer of R holds are numbers all the same.
read_document <- function(path, what, call) {
  check_file(path, what, call)
  word_or <- function(truth) function(text) {
    if (tolower(text) == tolower(as.character(truth))) truth else text
  }
  handlers <- list(
    `bool#yes` = word_or(TRUE),
    `bool#no` = word_or(FALSE),
    `int#oct` = identity,
    int = whole_number
  )
  text <- read_utf8(path, what, call)
  check_measure(text, path, what, call)
  refuse <- function(condition) {
    abort_nelvat(
      what,
      c(paste0("\"", path, "\" cannot be read as YAML."), x = conditionMessage(condition)),
      call,
      in_file = path
    )
  }
  # What the parser only warns of, such as an anchor that is not there, it reads as something else.
  tryCatch(yaml::yaml.load(text, handlers = handlers), error = refuse, warning = refuse)
}

# More digits than a double holds are kept as written.
whole_number <- function(text) {
  value <- suppressWarnings(as.numeric(text))
  if (is.na(value) || abs(value) > 2^53) {
    text
  } else if (abs(value) <= .Machine$integer.max) {
    as.integer(value)
  } else {
    value
  }
}

check_file <- function(path, what, call) {
  kind <- file_kind_cpp(enc2native(path))
  if (kind == "file") {
    tell_read(path)
    return(invisible(path))
  }
  if (kind != "none") {
    abort_nelvat(
      "file",
      c(
        paste0("The ", what, " file \"", path, "\" cannot be read."),
        x = paste0("It is a ", kind, ", not a file.")
      ),
      call
    )
  }
  folder <- dirname(path)
  near <- if (dir.exists(folder)) nearest_name(basename(path), list.files(folder))
  abort_nelvat(
    "file",
    c(
      paste0("The ", what, " file \"", path, "\" does not exist."),
      i = if (!dir.exists(folder)) paste0("Nor does its folder, \"", folder, "\"."),
      i = if (!is.null(near)) paste0("Did you mean \"", file.path(folder, near), "\"?")
    ),
    call
  )
}
