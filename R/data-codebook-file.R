# Codebook files are Frictionless Table Schema documents
# (https://specs.frictionlessdata.io/table-schema/) in YAML or JSON, with `unit`,
# `order` and `colours` added.

read_codebook <- function(path, call = rlang::caller_env()) {
  document <- read_document(path, "codebook", call)
  fields <- if (is.list(document)) document$fields
  named <- is.list(fields) && all(vapply(fields, function(field) rlang::is_string(field[["name"]]), NA))
  if (!named || !length(fields)) {
    abort_nelvat("codebook", c(
      paste0("\"", path, "\" is not a Table Schema document."),
      x = "It has no `fields`, or one of them has no `name`."
    ), call)
  }
  columns <- vapply(fields, `[[`, "", "name")
  kinds <- lapply(fields, function(field) {
    with_place(paste0(path, ", field \"", field$name, "\""), field_kind(field), call)
  })
  list(
    kinds = stats::setNames(kinds, columns), title = document$title,
    missing_values = as.character(unlist(document$missingValues %||% ""))
  )
}

# Reads YAML, of which JSON is a part. As in YAML 1.2, only true and false are
# truth values: `y` and `no` are words, and may name an axis or a level.
read_document <- function(path, what, call) {
  check_file(path, what, call)
  word_or <- function(truth) function(text) if (tolower(text) == tolower(as.character(truth))) truth else text
  handlers <- list(`bool#yes` = word_or(TRUE), `bool#no` = word_or(FALSE))
  tryCatch(yaml::read_yaml(path, handlers = handlers), error = function(error) {
    abort_nelvat(what, c(
      paste0("\"", path, "\" cannot be read as YAML."), x = conditionMessage(error)
    ), call)
  })
}

check_file <- function(path, what, call) {
  if (file.exists(path) && !dir.exists(path)) return(invisible(path))
  folder <- dirname(path)
  near <- if (dir.exists(folder)) nearest_name(basename(path), list.files(folder))
  abort_nelvat("file", c(
    paste0("The ", what, " file \"", path, "\" does not exist."),
    i = if (!dir.exists(folder)) paste0("Nor does its folder, \"", folder, "\"."),
    i = if (!is.null(near)) paste0("Did you mean \"", file.path(folder, near), "\"?")
  ), call)
}

field_types <- c("number", "integer", "string", "boolean", "date", "datetime", "time", "year")

field_kind <- function(field) {
  type <- check_choice(field$type %||% "string", field_types, "type")
  if (type %in% c("date", "datetime", "time")) return(moment(field$title, format = field$format))
  if (type %in% c("number", "integer", "year") && is.null(field$categories)) {
    return(quantity(field$title, field$unit))
  }
  make <- if (isTRUE(field$categoriesOrdered)) ordinal else category
  levels <- field_levels(field$categories)
  make(field$title, order = levels$values, names = levels$names, colours = unlist(field$colours), unit = field$unit)
}

# `categories` lists values, or objects with a `value` and a `label`.
field_levels <- function(categories) {
  if (is.null(categories)) return(list())
  value_of <- function(entry) as.character(if (is.list(entry)) entry$value else entry)
  values <- vapply(categories, value_of, "")
  labelled <- vapply(categories, is.list, NA)
  if (!any(labelled)) return(list(values = values))
  labels <- vapply(categories, function(entry) {
    if (is.list(entry)) as.character(entry$label %||% entry$value) else as.character(entry)
  }, "")
  list(values = values, names = stats::setNames(labels, values))
}
