# What an argument of a word takes: its type, with limits, and a sentence. A word's own file has a
# row for each of its arguments, in `word_rows()`; from these rows come the checks of calls, the
# reader of figure files, the JSON Schema, the lists of keys and the argument lines of help pages.

# kind: what it is; says: one sentence or more; or_null: may be NULL; schema: what JSON Schema says
# of it, where its kind does not.
new_type <- function(kind, says, ..., or_null = FALSE) {
  structure(
    list(kind = kind, says = paste(says, collapse = " "), or_null = or_null, ...),
    class = "nelvat_type"
  )
}

a_number <- function(
  least = -Inf,
  most = Inf,
  whole = FALSE,
  unit = NULL,
  or_null = FALSE,
  says = ""
) {
  new_type(
    "number",
    says,
    least = least,
    most = most,
    whole = whole,
    unit = unit,
    or_null = or_null
  )
}
# Sizes that many words have.
mm_size <- function(or_null = TRUE, says = "") {
  a_number(0.05, 20, unit = "mm", or_null = or_null, says = says)
}
pt_size <- function(says = "") a_number(3, 40, unit = "pt", or_null = TRUE, says = says)
pt_weight <- function(or_null = TRUE, says = "") {
  a_number(0.1, 10, unit = "pt", or_null = or_null, says = says)
}

a_choice <- function(choices, or_null = FALSE, says = "") {
  new_type("choice", says, choices = choices, or_null = or_null)
}
a_flag <- function(or_null = FALSE, says = "") new_type("flag", says, or_null = or_null)
a_text <- function(or_null = FALSE, says = "") new_type("text", says, or_null = or_null)
# What is shown, or nothing: a text of blanks is none.
a_title <- function(says = "") new_type("text", says, or_null = TRUE, shown = TRUE)

# Several numbers: n, how many there may be (least and most).
numbers <- function(n, least = -Inf, most = Inf, words = NULL, or_null = FALSE, says = "") {
  new_type("numbers", says, n = n, least = least, most = most, words = words, or_null = or_null)
}
# Several texts, such as levels.
texts <- function(or_null = FALSE, says = "") new_type("texts", says, or_null = or_null)

# One of several types: the first that looks like the value checks it.
either <- function(..., or_null = FALSE, says = "") {
  new_type("either", says, types = list(...), or_null = or_null)
}

# What only a function of its own can check: check(value, argument, call), schema as a list, words
# for what it takes.
own_type <- function(check, schema, words, or_null = TRUE, says = "") {
  new_type("own", says, check = check, schema = schema, words = words, or_null = or_null)
}

# What is not a value but names columns: one (`column`), a setting or a column (`channel`), or a
# condition over columns. mapped: what the column is called in the ink; choices: words that can
# stand in place of a column.
a_column <- function(or_null = FALSE, mapped = NULL, choices = NULL, says = "") {
  new_type("column", says, mapped = mapped, choices = choices, or_null = or_null)
}
a_channel <- function(says = "") new_type("channel", says, or_null = TRUE)
a_condition <- function(says = "") new_type("condition", says, or_null = TRUE)
naming_kinds <- c("column", "channel", "condition")

# What stands in other words: see spec-read.R for how each is read from a file.
a_part <- function(kind, schema, words, or_null = TRUE, says = "") {
  new_type(kind, says, schema = schema, words = words, or_null = or_null)
}

# Columns by their names, or by what these have in common.
some_columns <- function(says = "") {
  a_part("columns", ref_to("columns"), "columns", says = says)
}

# What only calls say: figure files say it otherwise.
in_calls <- function(type) changed(type, in_calls = TRUE)

a_table <- function(says = "") {
  a_part("table", list(type = "string"), "a table", FALSE, says)
}

# A value as its type has it, or an error in the user's terms.
check_type <- function(type, value, argument, call) {
  if (type$or_null && is.null(value)) return(NULL)
  switch(
    type$kind,
    number = check_number(
      value,
      argument,
      type$least,
      type$most,
      type$whole,
      type$unit,
      call = call
    ),
    choice = check_choice(value, type$choices, argument, call),
    flag = check_flag(value, argument, call),
    text = {
      text <- check_string(value, argument, call = call)
      if (isTRUE(type$shown) && !nzchar(trimws(text))) NULL else text
    },
    numbers = check_numbers(type, value, argument, call),
    texts = check_texts(value, argument, call),
    either = check_either(type, value, argument, call),
    own = of_argument(argument, type$check(value, argument, call)),
    value
  )
}

# An error of a check says which argument it is about.
of_argument <- function(argument, code) {
  tryCatch(code, nelvat_error = function(error) {
    error$argument <- error$argument %||% argument
    stop(error)
  })
}

check_numbers <- function(type, value, argument, call) {
  right <- is.numeric(value) && length(value) >= type$n[1] && length(value) <= type$n[2] &&
    all(is.finite(value)) && all(value >= type$least & value <= type$most)
  if (right) return(value)
  abort_type(type, value, argument, call)
}

check_texts <- function(value, argument, call) {
  if ((is.character(value) || is.numeric(value)) && length(value) && !anyNA(value)) return(value)
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be levels."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call,
    argument = argument,
    found = value
  )
}

# Whether a value could be meant as one of a type.
looks_like <- function(type, value) {
  switch(
    type$kind,
    number = is.numeric(value) && length(value) == 1,
    numbers = is.numeric(value) && length(value) >= type$n[1] && length(value) <= type$n[2],
    choice = ,
    text = is.character(value) && length(value) == 1,
    texts = is.character(value),
    flag = is.logical(value) && length(value) == 1,
    TRUE
  )
}

check_either <- function(type, value, argument, call) {
  for (one in type$types) {
    is_other_word <- one$kind == "choice" && !any(value %in% one$choices)
    if (looks_like(one, value) && !is_other_word) return(check_type(one, value, argument, call))
  }
  abort_type(type, value, argument, call)
}

abort_type <- function(type, value, argument, call) {
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be ", type_words(type), "."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call,
    argument = argument,
    found = value
  )
}

# What a type takes, in words: "a number from 0 to 1", "\"mean\" or \"median\"".
type_words <- function(type) {
  limits <- function() {
    said <- c(
      if (is.finite(type$least)) paste("from", type$least),
      if (is.finite(type$most)) paste("to", type$most)
    )
    paste(c("", said), collapse = " ")
  }
  switch(
    type$kind,
    number = paste0(
      if (type$whole) "a whole number" else "a number",
      if (!is.null(type$unit)) paste0(" (", type$unit, ")"),
      limits()
    ),
    choice = sub(", (?=[^,]*$)", " or ", quoted(type$choices, 50), perl = TRUE),
    flag = "true or false",
    text = "text",
    numbers = type$words %||% paste0(
      if (type$n[1] == type$n[2]) {
        counted(type$n[1], "number")
      } else if (is.finite(type$n[2])) {
        paste(type$n[1], "to", counted(type$n[2], "number"))
      } else {
        paste("at least", counted(type$n[1], "number"))
      },
      limits()
    ),
    texts = "levels",
    either = paste(vapply(type$types, type_words, ""), collapse = ", or "),
    column = if (is.null(type$choices)) {
      "a column"
    } else {
      paste0(quoted(type$choices), " or a column")
    },
    channel = "a setting or a column",
    condition = "a condition over columns",
    type$words %||% "as in R"
  )
}
