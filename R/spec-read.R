# Values of a figure file as the arguments of a word, by the types that its rows state.

# The arguments that a mapping gives a word, by name. context: list(columns, tables, folder), what
# names in the file stand for.
file_values <- function(word, mapping, context, at) {
  rows <- rows_of(word)
  settings <- as.list(mapping)
  check_keys(settings, names(rows), at = at)
  for (name in names(settings)) {
    settings[name] <- list(file_value(rows[[name]], settings[[name]], context, c(at, name)))
  }
  settings
}

file_value <- function(type, value, context, at) {
  if (is.null(value)) return(NULL)
  switch(
    type$kind,
    path = beside_file(string_at(value, at), context$folder),
    column = if (value %in% setdiff(type$choices, context$columns)) {
      value
    } else {
      one_quo(string_at(value, at), context$columns, at)
    },
    channel = file_channel(value, utils::tail(at, 1), context$columns, at),
    condition = file_expression(value, context$columns, at),
    mapping = value,
    plain_value(value, at)
  )
}

# A setting such as a colour, or a column.
file_channel <- function(value, channel, columns, at) {
  if (!is.character(value) || !value %in% columns && is_setting(value, channel)) return(value)
  one_quo(string_at(value, at), columns, at)
}

# A value, or a list of values as a vector; an end that is null is missing.
plain_value <- function(value, at) {
  if (!is.list(value)) return(value)
  if (!is.null(names(value))) abort_figure(at, "Expected a value or a list of values.", value)
  if (any(lengths(value) > 1)) return(value)
  unlist(lapply(value, function(one) if (is.null(one)) NA else one))
}
