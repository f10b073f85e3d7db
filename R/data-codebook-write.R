#' Write a codebook to a file
#'
#' Writes what columns mean as a Frictionless Table Schema document. What a codebook
#' file held that Nelvat does not know is kept.
#'
#' @param codebook A [codebook()].
#' @param path Path ending in `.yaml`, `.yml` or `.json`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return `path`, invisibly.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_file` where the
#' file cannot be written whole: the old one is as it was.
#' @examples
#' path <- tempfile(fileext = ".yaml")
#' write_codebook(study("loaves"), path)
#' head(readLines(path))
#' @export
write_codebook <- function(codebook, path, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  if (!inherits(codebook, "nelvat_codebook")) {
    abort_nelvat(
      "argument",
      c("`codebook` must be a codebook.", x = paste0("Found ", describe_value(codebook), ".")),
      call
    )
  }
  check_string(path, "path")
  ending <- check_choice(
    tolower(tools::file_ext(path)),
    c("yaml", "yml", "json"),
    "the ending of path",
    call
  )
  document <- codebook_document(codebook)
  json <- ending == "json"
  text <- if (json) {
    jsonlite::toJSON(document, auto_unbox = TRUE, pretty = TRUE, null = "null")
  } else {
    document_yaml(document)
  }
  write_whole(path, text_bytes(text), call)
}

document_yaml <- function(document) {
  yaml::as.yaml(
    document,
    indent.mapping.sequence = TRUE,
    handlers = list(logical = yaml_logical)
  )
}

# The codebook as a document: its own fields over those of the file it came from.
codebook_document <- function(book) {
  document <- book$document %||% list(name = book$label)
  if (!is.null(book$rows)) document$rows <- as.list(unname(book$rows))
  known <- stats::setNames(
    document$fields %||% list(),
    vapply(document$fields %||% list(), `[[`, "", "name")
  )
  document$fields <- unname(
    lapply(names(book$columns), function(column) {
      field <- kind_field(column, book$columns[[column]], book$data[[column]])
      before <- known[[column]] %||% list()
      ours <- c(
        "name", "type", "title", "unit", "show", "count", "categories", "categoriesOrdered",
        "order", "colours",
        "missingLabel", "format", "zone"
      )
      kept <- before[setdiff(names(before), ours)]
      # A level list and an order rule say the same; the rule is kept.
      if (!is.null(before$order)) field$order <- before$order
      if (!is.null(before$order) && is.null(before$categories)) field$categories <- NULL
      c(field, kept)
    })
  )
  document
}

kind_field <- function(column, kind, values) {
  field <- list(
    name = column,
    type = field_type(kind, values),
    title = kind$name,
    unit = kind$unit,
    show = kind$show
  )
  if (isTRUE(kind$count)) field$count <- TRUE
  # Levels that nothing was said of need no listing, unless numbers would then be
  # taken for quantities.
  if (
    has_levels(kind) && (
      is.numeric(values) || kind$kind == "ordinal" || !is.null(kind$order) || !is.null(kind$names)
    )
  ) {
    codes <- if (is.numeric(values)) {
      lapply(kind$levels, function(level) utils::type.convert(level, as.is = TRUE))
    } else {
      as.list(kind$levels)
    }
    field$categories <- if (identical(verbatim(kind$levels), kind$level_names)) {
      codes
    } else {
      unname(
        Map(function(value, label) list(value = value, label = label), codes, kind$level_names)
      )
    }
    if (kind$kind == "ordinal") field$categoriesOrdered <- TRUE
  }
  if (!is.null(kind$colours)) {
    field$colours <- as.list(stats::setNames(level_colours_given(kind), kind$levels))
  }
  if (has_levels(kind) && !identical(kind$missing, "not recorded")) {
    field$missingLabel <- kind$missing
  }
  if (kind$kind == "moment") {
    field$format <- kind$format
    if (!identical(kind$zone, "UTC")) field$zone <- kind$zone
  }
  Filter(Negate(is.null), field)
}

field_type <- function(kind, values) {
  if (isTRUE(kind$of_day)) return("time")
  if (kind$kind == "moment") return(if (isTRUE(kind$has_time)) "datetime" else "date")
  if (is.numeric(values)) {
    present <- values[!is.na(values)]
    return(if (all(present == round(present))) "integer" else "number")
  }
  if (is.logical(values)) "boolean" else "string"
}

# As YAML 1.2 writes them, true and false.
yaml_logical <- function(values) structure(ifelse(values, "true", "false"), class = "verbatim")
