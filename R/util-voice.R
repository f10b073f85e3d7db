# The words of who asks. Code in messages stands in backticks and is R: `quantity(unit = "g")`. Of
# one who writes figure files it is said as keys of the file. The code is parsed and said anew when
# the message is made; no message is taken apart later.

# Evaluates `code` with its messages in the words of files.
# options: arguments that are options of the command that is running.
in_words_of_files <- function(code, options = getOption("nelvat_options")) {
  rlang::local_options(nelvat_words = "files", nelvat_options = options)
  code
}
is_asked_by_file <- function() identical(getOption("nelvat_words"), "files")

# R's constants in the words of who asks, outside of code.
said_true_or_false <- function() if (is_asked_by_file()) "true or false" else "TRUE or FALSE"
said_null <- function() if (is_asked_by_file()) "null" else "NULL"

# Text with its code in the words of who asks. Names and bullets of the text stay.
in_their_words <- function(text) {
  if (!is_asked_by_file() || !is.character(text)) return(text)
  said <- vapply(text, said_in_file, "", USE.NAMES = FALSE)
  stats::setNames(said, names(text))
}

said_in_file <- function(text) {
  if (is.na(text)) return(text)
  pieces <- gregexpr("`[^`]+`", text)
  code <- regmatches(text, pieces)
  regmatches(text, pieces) <- lapply(code, function(one) {
    vapply(one, function(piece) code_in_file(substr(piece, 2, nchar(piece) - 1)), "")
  })
  text
}

# One piece of R code as a file has it, in backticks.
code_in_file <- function(code) {
  # A bare argument, such as `width =`.
  if (grepl("^[A-Za-z_.]+ ?=$", code)) return(paste0("`", sub(" ?=$", "", code), "`"))
  # An argument with its value, such as `range_per = "block"`.
  parsed <- tryCatch(
    str2lang(sub("^([A-Za-z_.]+) ?= ?(?!=)", "\\1 <- ", code, perl = TRUE)),
    error = identity
  )
  if (inherits(parsed, "error")) {
    # What only hints at a call, such as `plate(<block>, width = )`, is its word.
    return(paste0("`", sub("\\(.*[<.].*\\)$", "", code), "`"))
  }
  if (rlang::is_call(parsed, "<-", 2)) {
    key <- rlang::as_string(parsed[[2]])
    if (key %in% getOption("nelvat_options")) {
      return(paste0("`--", key, " ", value_in_file(parsed[[3]]), "`"))
    }
    return(paste0("`", pair_in_file(key, parsed[[3]]), "`"))
  }
  form <- if (rlang::is_call(parsed) && is.symbol(parsed[[1]])) {
    kind_in_file(parsed) %||% call_in_file(parsed)
  }
  paste0("`", form %||% value_in_file(parsed), "`")
}

pair_in_file <- function(key, value) {
  # A key that a form brings itself is not said twice.
  if (rlang::is_call(value, "share_axis")) return(call_in_file(value))
  paste0(key, ": ", value_in_file(value))
}

# Kinds in a codebook are keys of a field, or of a column where one is named.
kind_in_file <- function(call) {
  name <- rlang::call_name(call)
  if (!name %in% c("quantity", "category", "ordinal", "moment")) return(NULL)
  arguments <- rlang::call_args(call)
  if (!length(arguments)) return(name)
  given <- rlang::names2(arguments)
  first <- which(given == "")[1]
  if (is.na(first)) return(paste(pairs_in_file(arguments), collapse = "` and `"))
  if (is.symbol(arguments[[first]])) {
    return(paste0("{column: ", rlang::as_string(arguments[[first]]), ", kind: ", name, "}"))
  }
  names(arguments)[first] <- "title"
  paste(pairs_in_file(arguments), collapse = "` and `")
}

# Words that are mappings, and what stands first in them.
first_keys <- list(
  fill_with = "fill_with",
  by_statistic = c("by_statistic", "statistic"),
  axis_of = NULL,
  list = NULL,
  scale_bar = c("length", "unit")
)

# What a command says in place of a function.
said_by_command <- list(
  legend_text = "nelvat legend",
  alt_text = "nelvat alt",
  methods_text = "nelvat methods",
  submit_figures = "nelvat submit",
  save_source_data = "nelvat source",
  source_data = "nelvat source",
  proof = "nelvat proof",
  mend = "nelvat mend",
  save_plate = "nelvat draw"
)

call_in_file <- function(call) {
  name <- rlang::call_name(call)
  arguments <- rlang::call_args(call)
  if (name %in% c("character", "numeric") && !length(arguments)) return("[]")
  if (name %in% names(said_by_command)) return(said_by_command[[name]])
  if (!length(arguments)) return(sub("^ink_", "", name))
  if (name == "natural") return("natural")
  if (name == "mm") return(paste(value_in_file(arguments[[1]]), "mm"))
  if (name == "share_axis") return(paste0("share: [", values_in_file(arguments), "]"))
  if (name == "house") {
    arguments <- arguments[rlang::names2(arguments) != ""]
    return(paste0("house: {", paste(pairs_in_file(arguments), collapse = ", "), "}"))
  }
  if (startsWith(name, "ink_")) {
    inner <- paste(pairs_in_file(arguments), collapse = ", ")
    return(paste0("{", sub("^ink_", "", name), ": {", inner, "}}"))
  }
  bare <- which(rlang::names2(arguments) == "")
  if (name %in% c("c", "list") && length(bare)) {
    return(paste0("[", values_in_file(arguments), "]"))
  }
  if (name %in% c("c", "list", names(first_keys)) && length(bare) <= length(first_keys[[name]])) {
    names(arguments)[bare] <- first_keys[[name]][seq_along(bare)]
    return(paste0("{", paste(pairs_in_file(arguments), collapse = ", "), "}"))
  }
  # Other calls are expressions, which files have too.
  NULL
}

pairs_in_file <- function(arguments) {
  vapply(
    names(arguments),
    function(key) {
      if (rlang::is_missing(arguments[[key]])) return(key)
      pair_in_file(key, arguments[[key]])
    },
    ""
  )
}
values_in_file <- function(arguments) {
  paste(vapply(arguments, value_in_file, ""), collapse = ", ")
}

value_in_file <- function(value) {
  if (is.null(value)) return("null")
  if (is.logical(value)) return(if (is.na(value)) "null" else tolower(as.character(value)))
  # A text that YAML could take for something else keeps its quotes.
  if (is.character(value)) {
    return(if (grepl("^[A-Za-z_][A-Za-z0-9_ ]*$", value)) value else paste0("\"", value, "\""))
  }
  if (rlang::is_call(value) && is.symbol(value[[1]])) {
    said <- kind_in_file(value)
    if (is.null(said) || !startsWith(said, "{")) said <- call_in_file(value)
    if (!is.null(said)) return(said)
  }
  paste(deparse(value, 500L), collapse = " ")
}
