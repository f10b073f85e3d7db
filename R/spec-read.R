# Values of a figure file as the arguments of a word, by the types that its rows state.

# What names in a file stand for: its tables by name, the columns of the one that is drawn, the
# file's folder.
file_context <- function(tables, book = NULL, columns = names(book$data)) {
  list(tables = tables, book = book, columns = columns, folder = attr(tables, "folder"))
}

# The arguments that a mapping gives a word, by name; of those that name columns also those that it
# does not give.
file_values <- function(word, mapping, context, at, needs = character()) {
  rows <- file_arguments(word)
  mapping <- as.list(mapping)
  check_keys(mapping, names(rows), needs, at)
  values <- list()
  # What is read first says which columns there are.
  for (name in intersect(c("data", "panel", "derive"), names(rows))) {
    type <- rows[[name]]
    if (!type$kind %in% c("table", "panel", "derived") || is.null(mapping[[name]])) next
    values[[name]] <- file_value(type, mapping[[name]], context, c(at, name))
    context <- switch(
      name,
      data = file_context(context$tables, values$data),
      panel = file_context(context$tables, values$panel$book),
      derive = changed(context, columns = c(context$columns, names(values$derive)))
    )
  }
  here <- vapply(rows, function(type) isTRUE(type$here), NA)
  values[setdiff(names(rows)[here], names(mapping))] <- context$folder
  for (name in setdiff(intersect(names(mapping), names(rows)), names(values))) {
    values[name] <- list(file_value(rows[[name]], mapping[[name]], context, c(at, name)))
  }
  values
}

# Of arguments that name columns, those that were not given.
with_no_columns <- function(word, values) {
  kinds <- vapply(word_arguments(word), `[[`, "", "kind")
  for (name in names(kinds)[kinds %in% c("variable", "columns", "condition")]) {
    if (is.null(values[[name]])) values[[name]] <- rlang::quo(NULL)
  }
  values
}

file_value <- function(type, value, context, at) {
  if (is.null(value)) return(NULL)
  columns <- context$columns
  switch(
    type$kind,
    path = beside_file(string_at(value, at), context$folder),
    column = if (rlang::is_string(value) && value %in% setdiff(type$choices, columns)) {
      value
    } else {
      one_quo(string_at(value, at), columns, at)
    },
    channel = file_channel(value, utils::tail(at, 1), columns, at),
    condition = file_expression(value, columns, at),
    table = named_table(value, context$tables, at),
    panel = build_panel(value, context$tables, at),
    variable = channel_quo(value, columns, at, context$book),
    chosen = chosen_columns(value, context$book, at),
    kinds = file_kinds(value, at),
    columns = channel_quo(columns_by_pattern(value, context$book, at), columns, at),
    inks = file_inks(type, value, context, at),
    ink = build_inks(value, columns, context$tables, at)[[1]],
    derived = build_derive(value, columns, at),
    orders = at_key(at, lapply(named_list(value, at), field_order)),
    order = at_key(at, field_order(value)),
    policies = build_missing(value, at),
    axis = at_key(at, do.call(axis_of, file_values("axis_of", value, context, at))),
    scale_bar = file_scale_bar(value, context, at),
    house = file_house(value, context$folder),
    sizes = build_sizes(value, at),
    values = unlist(value),
    both = ,
    names = ,
    width = ,
    mapping = value,
    plain_value(value, at)
  )
}

# A setting such as a colour, or a column.
file_channel <- function(value, channel, columns, at) {
  if (!is.character(value) || !value %in% columns && is_setting(value, channel)) return(value)
  one_quo(string_at(value, at), columns, at)
}

# Inks, or those of each side.
file_inks <- function(type, value, context, at) {
  if (!is.null(type$also) && identical(value, type$also)) return(value)
  by_side <- is.list(value) && length(value) && !is.null(names(value)) &&
    all(names(value) %in% c("x", "y"))
  if (!by_side) return(build_inks(value, context$columns, context$tables, at))
  Map(
    function(inks, side) build_inks(inks, context$columns, context$tables, c(at, side)),
    value,
    names(value)
  )
}

file_scale_bar <- function(value, context, at) {
  needs <- c("length", "unit", "per_pixel")
  at_key(at, do.call(scale_bar, file_values("scale_bar", value, context, at, needs)))
}

# Columns that are meant by what their names have in common.
columns_by_pattern <- function(value, book, at) {
  by_pattern <- is.list(value) && !is.null(names(value)) &&
    !any(c("column", "measure") %in% names(value))
  if (by_pattern) as.list(chosen_columns(value, book, at)) else value
}

# A value, or a list of values as a vector; an end that is null is missing.
plain_value <- function(value, at) {
  if (!is.list(value)) return(value)
  if (!length(value)) return(character())
  if (!is.null(names(value))) abort_figure(at, "Expected a value or a list of values.", value)
  if (any(lengths(value) > 1)) return(value)
  unlist(lapply(value, function(one) if (is.null(one)) NA else one))
}
