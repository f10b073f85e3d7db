# A small validator of the JSON Schema words that ours use, as an oracle that knows nothing
# of the reader of files. Gives what is wrong, NULL where nothing is.
schema_faults <- function(value, schema, root = schema, at = "") {
  if (!is.null(schema$`$ref`)) {
    return(
      schema_faults(
        value,
        root$`$defs`[[sub("#/$defs/", "", schema$`$ref`, fixed = TRUE)]],
        root,
        at
      )
    )
  }
  if (!is.null(schema$anyOf)) {
    each <- lapply(schema$anyOf, function(one) schema_faults(value, one, root, at))
    if (!any(vapply(each, is.null, NA))) return(each[[which.min(lengths(each))]])
    schema$anyOf <- NULL
  }
  if (!is.null(schema$const) && !identical(as.character(value), as.character(schema$const))) {
    return(paste(at, "is not", schema$const))
  }
  if (
    !is.null(schema$enum) && !(
      is.atomic(value) && length(value) == 1 && as.character(value) %in% unlist(schema$enum)
    )
  ) {
    return(paste(at, "is not among", paste(unlist(schema$enum), collapse = ", ")))
  }
  is_mapping <- is.list(value) && (!is.null(names(value)) || !length(value))
  fits <- switch(
    schema$type %||% "any",
    string = is.character(value) && length(value) == 1,
    number = is.numeric(value) && length(value) == 1,
    integer = is.numeric(value) && length(value) == 1 && isTRUE(value == round(value)),
    boolean = is.logical(value) && length(value) == 1,
    object = is_mapping,
    array = (is.list(value) && is.null(names(value))) || (is.atomic(value) && length(value) > 1),
    null = is.null(value) || (is.list(value) && !length(value)),
    TRUE
  )
  if (!fits) return(paste0(at, " is not of type ", schema$type))
  if (!is.null(schema$pattern) && !all(grepl(schema$pattern, value, perl = TRUE))) {
    return(paste(at, "does not match", schema$pattern))
  }
  if (!is.null(schema$minimum) && value < schema$minimum) {
    return(paste(at, "is under", schema$minimum))
  }
  if (!is.null(schema$maximum) && value > schema$maximum) {
    return(paste(at, "is over", schema$maximum))
  }
  if (!is.null(schema$maxLength) && nchar(value) > schema$maxLength) {
    return(paste(at, "is too long"))
  }
  if (
    !is.null(schema$minItems) && length(value) < schema$minItems ||
      !is.null(schema$maxItems) && length(value) > schema$maxItems
  ) {
    return(paste(at, "has", length(value), "items"))
  }
  if (
    !is.null(schema$minProperties) && length(value) < schema$minProperties ||
      !is.null(schema$maxProperties) && length(value) > schema$maxProperties
  ) {
    return(paste(at, "has", length(value), "keys"))
  }
  if (identical(schema$type, "array")) {
    return(
      unlist(
        lapply(
          seq_along(value),
          function(i) {
            if (is.list(schema$items)) {
              schema_faults(value[[i]], schema$items, root, paste0(at, "/", i))
            }
          }
        )
      )
    )
  }
  if (!identical(schema$type, "object") && is.null(schema$required)) return(NULL)
  missing <- setdiff(unlist(schema$required), names(value))
  faults <- if (length(missing)) paste(at, "lacks", missing)
  for (name in names(value)) {
    inner <- schema$properties[[name]] %||% if (isFALSE(schema$additionalProperties)) {
      list(never = TRUE)
    } else if (is.list(schema$additionalProperties)) schema$additionalProperties
    faults <- c(
      faults,
      if (isTRUE(inner$never)) {
        paste0(at, " has no key ", name)
      } else if (length(inner)) schema_faults(value[[name]], inner, root, paste0(at, "/", name))
    )
  }
  faults
}

`%||%` <- function(a, b) if (is.null(a)) b else a

shipped_schema <- function(name) {
  jsonlite::fromJSON(
    system.file("schema", paste0(name, ".schema.json"), package = "nelvat"),
    simplifyVector = FALSE
  )
}

# As YAML 1.2 has it, y and n are letters.
read_yaml_list <- function(path) {
  word_or <- function(truth) function(text) {
    if (tolower(text) == tolower(truth)) truth == "TRUE" else text
  }
  yaml::read_yaml(
    path,
    handlers = list(
      seq = function(x) as.list(x),
      `bool#yes` = word_or("TRUE"),
      `bool#no` = word_or("FALSE")
    )
  )
}
