# JSON Schema (draft 2020-12) of words, from their rows.

type_schema <- function(type) {
  schema <- switch(
    type$kind,
    number = c(
      list(type = if (type$whole) "integer" else "number"),
      if (is.finite(type$least)) list(minimum = type$least),
      if (is.finite(type$most)) list(maximum = type$most)
    ),
    choice = list(enum = as.list(type$choices)),
    flag = list(type = "boolean"),
    numbers = numbers_schema(type),
    texts = one_or_more(text_or_number),
    either = list(anyOf = lapply(type$types, type_schema)),
    channel = text_or_number,
    type$schema %||% list(type = "string")
  )
  if (type$or_null) schema <- list(anyOf = list(schema, list(type = "null")))
  if (nzchar(type$says)) {
    c(list(description = in_words_of_files(in_their_words(plain_says(type)))), schema)
  } else {
    schema
  }
}

# Without the links of help pages.
plain_says <- function(type) gsub("\\[([^]]+\\(\\))\\]", "`\\1`", type$says)

numbers_schema <- function(type) {
  one <- type_schema(
    a_number(if (is.null(type$least)) -Inf else type$least, type$most %||% Inf)
  )
  several <- c(
    list(type = "array", items = one, minItems = type$n[1]),
    if (is.finite(type$n[2])) list(maxItems = type$n[2])
  )
  if (type$n[1] == 1) list(anyOf = list(one, several)) else several
}

# What the keys of a word take. needs: those that must be there.
word_schema <- function(word, needs = NULL) {
  keys_schema(lapply(file_arguments(word), type_schema), needs)
}

keys_schema <- function(properties, needs = NULL) {
  c(
    list(type = "object", properties = properties, additionalProperties = FALSE),
    if (length(needs)) list(required = as.list(needs))
  )
}

# Schemas that types are made of.
one_or_more <- function(one) list(anyOf = list(one, list(type = "array", items = one)))
ref_to <- function(name) list(`$ref` = paste0("#/$defs/", name))
open_map <- function(values = TRUE) list(type = "object", additionalProperties = values)
text_schema <- list(type = "string")
array_of <- function(items) list(type = "array", items = items)
text_or_number <- list(anyOf = list(list(type = "string"), list(type = "number")))
simple_values <- list(anyOf = c(text_or_number$anyOf, list(list(type = "boolean"))))
