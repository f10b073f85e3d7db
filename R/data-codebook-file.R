# Codebook files are Frictionless Table Schema documents
# (https://specs.frictionlessdata.io/table-schema/) in YAML or JSON, with `unit`,
# `show`, `order`, `colours`, `zone` and `missingLabel` added to fields.

# Returns list(kinds, fields, missing_values, document): fields by column; the document as read, so
# that what is not known here is kept when it is written again.
read_codebook <- function(path, call = rlang::caller_env()) {
  check_string(path, "codebook", call = call)
  document <- read_document(path, "codebook", call)
  fields <- if (is.list(document)) document$fields
  named <- is.list(fields) && all(
    vapply(fields, function(field) is.list(field) && rlang::is_string(field[["name"]]), NA)
  )
  if (!named || !length(fields)) {
    abort_nelvat(
      "codebook",
      c(
        paste0("\"", path, "\" is not a Table Schema document."),
        x = "It has no `fields`, or one of them has no `name`."
      ),
      call
    )
  }
  columns <- vapply(fields, `[[`, "", "name")
  if (anyDuplicated(columns)) {
    abort_nelvat(
      "codebook",
      c(
        paste0("\"", path, "\" describes a column twice."),
        x = paste0("Twice: ", quoted(columns[duplicated(columns)]), ".")
      ),
      call
    )
  }
  with_place(paste0("\"", path, "\""), check_misspelt(document, codebook_keys, "a codebook"), call)
  fields <- with_shared_levels(fields, document[["levels"]], path, call)
  kinds <- lapply(fields, function(field) {
    with_place(paste0("\"", path, "\", field \"", field[["name"]], "\""), field_kind(field), call)
  })
  list(
    kinds = stats::setNames(kinds, columns),
    fields = stats::setNames(fields, columns),
    document = document,
    missing_values = as.character(unlist(document$missingValues %||% ""))
  )
}

# Fields with what a file says that several codebooks share, such as levels, their order and
#   colours: flour: {title: Flour, categories: [wheat, rye], colours: {rye: "#7A4A1E"}}
# What a codebook says itself goes before.
with_shared_levels <- function(fields, shared, path, call) {
  if (is.null(shared)) return(fields)
  where <- paste0("\"", path, "\"")
  if (!rlang::is_string(shared)) {
    with_place(where, check_string(shared, "levels", call = call), call)
  }
  shared_path <- beside_file(shared, dirname(path))
  by_name <- read_document(shared_path, "codebook", call)
  right <- is.list(by_name) && length(by_name) && all(rlang::have_name(by_name)) &&
    all(vapply(by_name, is.list, NA))
  if (!right) {
    abort_nelvat(
      "codebook",
      c(
        paste0("\"", shared_path, "\" must have keys of a field by name."),
        i = "Such as `flour: {categories: [wheat, rye], colours: {rye: \"#7A4A1E\"}}`."
      ),
      call
    )
  }
  lapply(fields, function(field) {
    other <- by_name[[field[["name"]]]]
    c(field, other[setdiff(names(other), names(field))])
  })
}

# Columns that are text whatever their cells look like: those that are called so, and dates of a
# form that is declared.
stays_text <- function(fields) {
  vapply(
    fields,
    function(field) {
      dated <- isTRUE(field[["type"]] %in% c("date", "datetime", "time")) &&
        !is.null(field_format(field$format))
      identical(field[["type"]], "string") || dated
    },
    NA
  )
}

# Keys of a document; it may have others, but none that is one of these misspelt.
codebook_keys <- c(
  "name", "title", "description", "fields", "missingValues", "primaryKey", "foreignKeys",
  "uniqueKeys", "levels", "rows"
)
check_misspelt <- function(mapping, known, what) {
  for (key in setdiff(names(mapping), c(known, ""))) {
    near <- nearest_name(key, setdiff(known, names(mapping)))
    if (!is.null(near) && is_slip(tolower(key), tolower(near))) {
      abort_nelvat(
        "codebook",
        c(
          paste0("The key \"", key, "\" is not one of ", what, "."),
          i = paste0("Did you mean \"", near, "\"?")
        ),
        call = NULL
      )
    }
  }
}

# One letter too many, lacking or another; for long words two; or two letters exchanged.
is_slip <- function(word, right) {
  sorted <- function(text) paste(sort(strsplit(text, "")[[1]]), collapse = "")
  utils::adist(word, right) <= max(1, nchar(right) %/% 4) || sorted(word) == sorted(right)
}

field_kind <- function(field) {
  check_misspelt(field, field_keys(), "a field")
  for (flag in intersect(c("categoriesOrdered", "count"), names(field))) {
    check_flag(field[[flag]], flag, NULL)
  }
  type <- check_choice(field[["type"]] %||% "string", field_types(), "type")
  if (type %in% c("date", "datetime", "time")) {
    return(
      moment(field[["title"]], format = field_format(field[["format"]]), zone = field[["zone"]])
    )
  }
  if (type %in% c("number", "integer", "year") && is.null(field[["categories"]])) {
    return(
      quantity(
        field[["title"]],
        field[["unit"]],
        show = field[["show"]],
        count = isTRUE(field[["count"]])
      )
    )
  }
  make <- if (isTRUE(field[["categoriesOrdered"]])) ordinal else category
  levels <- field_levels(field[["categories"]])
  order <- field_order(field[["order"]]) %||% levels$values
  make(
    field[["title"]],
    order = order,
    names = levels$names,
    colours = unlist(field[["colours"]]),
    unit = field[["unit"]],
    missing = field[["missingLabel"]] %||% "not recorded"
  )
}

# Table Schema writes "default" and "any" for formats that need no declaring.
field_format <- function(format) {
  if (is.null(format) || format %in% c("default", "any")) NULL else format
}

# `categories` lists values, or objects with a `value` and a `label`.
field_levels <- function(categories) {
  if (is.null(categories) || !length(categories)) return(list())
  check_categories(categories)
  for (entry in Filter(is.list, categories)) {
    check_misspelt(entry, c("value", "label"), "a category")
  }
  value_of <- function(entry) as.character(if (is.list(entry)) entry[["value"]] else entry)
  values <- vapply(categories, value_of, "")
  labelled <- vapply(categories, is.list, NA)
  if (!any(labelled)) return(list(values = values))
  labels <- vapply(
    categories,
    function(entry) {
      if (is.list(entry)) {
        as.character(entry[["label"]] %||% entry[["value"]])
      } else {
        as.character(entry)
      }
    },
    ""
  )
  list(values = values, names = stats::setNames(labels, values))
}

check_categories <- function(categories) {
  one <- function(entry) {
    is_value <- function(value) is.atomic(value) && length(value) == 1 && !is.na(value)
    if (!is.list(entry)) return(is_value(entry))
    is_value(entry[["value"]]) && (is.null(entry[["label"]]) || is_value(entry[["label"]]))
  }
  wrong <- if (is.null(names(categories))) which(!vapply(categories, one, NA)) else 1L
  if (!length(wrong)) return(invisible())
  abort_nelvat(
    "codebook",
    c(
      "`categories` must list values, or a `value` with its `label` each.",
      x = paste0("Found ", describe_value(categories[[wrong[1]]]), " at place ", wrong[1], ".")
    ),
    call = NULL
  )
}

# An order in a file: a rule's word, a list of levels, or a rule with its settings:
# {by_statistic: rise, statistic: median, descending: true}, {by_likeness: rise, over: flour}.
field_order <- function(order) {
  if (is.null(order)) return(NULL)
  if (rlang::is_string(order) && order %in% c("by_appearance", "by_number")) {
    return(new_order(sub("by_", "", order)))
  }
  if (!is.list(order) || is.null(names(order))) return(as.character(unlist(order)))
  rule <- intersect(c("by_statistic", "by_likeness"), names(order))
  settings <- list(
    by_statistic = c("statistic", "descending"),
    by_likeness = c("over", "distance", "linkage", "groups")
  )
  named <- length(rule) == 1 && rlang::is_string(order[[rule]])
  if (
    !named || length(setdiff(names(order), c(rule, settings[[rule]]))) ||
      rule == "by_likeness" && !rlang::is_string(order$over)
  ) {
    abort_nelvat(
      "codebook",
      c(
        paste(
          "An order is \"by_appearance\", \"by_number\", a list of levels,",
          "{by_statistic: COLUMN, statistic: median, descending: true}, or",
          "{by_likeness: COLUMN, over: COLUMN, distance: euclidean, linkage: average, groups: 3}."
        ),
        x = paste0("Found ", quoted(names(order)), ".")
      ),
      call = NULL
    )
  }
  said <- order[setdiff(names(order), c(rule, "over"))]
  word <- list(by_statistic = by_statistic, by_likeness = by_likeness)[[rule]]
  columns <- c(
    list(column_quo(order[[rule]])),
    if (rule == "by_likeness") list(column_quo(order$over))
  )
  rlang::inject(word(!!!columns, !!!said))
}

# A column's name as the quosure a call would have.
column_quo <- function(column) rlang::new_quosure(call("[[", quote(.data), column), baseenv())
