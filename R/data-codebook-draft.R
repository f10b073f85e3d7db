#' Draft a codebook from a table
#'
#' Guesses the kind of each column, says why as a comment, lists levels with their
#' counts, and points out columns that need a look: numbers stored as text, whole
#' numbers of few values that may be codes, columns of one value, and identifiers.
#'
#' @param data A data frame, or the path of a data file (see [read_data()]).
#' @param path Path of the YAML file to write, or `NULL` to return its text.
#' @param sheet,encoding,skip How a data file is read: see [read_data()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The text of the draft, a string a line; or `path`, invisibly.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   the errors of [read_data()];
#' `nelvat_error_file` where the draft cannot be written.
#' @examples
#' cat(draft_codebook(study_file("loaves.csv"))[1:12], sep = "\n")
#' @export
draft_codebook <- function(data, path = NULL, sheet = NULL, encoding = "UTF-8", skip = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  name <- if (rlang::is_string(data)) {
    sub("[.].*", "", basename(data))
  } else {
    deparsed_label(substitute(data))
  }
  asked <- character()
  if (rlang::is_string(data)) {
    # Numbers as text are pointed out in the draft itself.
    data <- withCallingHandlers(
      suppress_warning(
        read_data(data, sheet = sheet, encoding = encoding, skip = skip),
        "nelvat_warning_text"
      )$data,
      nelvat_warning_date = function(warning) {
        asked <<- warning$columns
        rlang::cnd_muffle(warning)
      }
    )
  } else if (inherits(data, "nelvat_codebook")) {
    data <- data$data
  }
  data <- check_table(data, "data", call)
  lines <- draft_lines(data, name, asked)
  if (is.null(path)) return(lines)
  check_string(path, "path")
  write_whole(path, text_bytes(lines), call)
}

suppress_warning <- function(code, class) {
  withCallingHandlers(
    code,
    warning = function(warning) if (inherits(warning, class)) invokeRestart("muffleWarning")
  )
}

# asked: columns whose dates can be read either way.
draft_lines <- function(data, name, asked = character()) {
  guesses <- Map(
    function(values, asked) with_draft_hints(draft_guess(values), values, asked),
    data,
    names(data) %in% asked
  )
  look <- unlist(
    Map(
      function(guess, column) {
        if (length(guess$look)) paste0("#   ", column, ": ", guess$look)
      },
      guesses,
      names(data)
    )
  )
  unname(
    c(
      paste0(
        "# A draft: ",
        counted(nrow(data), "row"),
        ", ",
        counted(ncol(data), "column"),
        ". Set titles, units and the order of levels,"
      ),
      "# and delete comments as they are settled.",
      if (length(look)) c("# To look at:", look),
      yaml_line("name", name),
      "missingValues: [\"\", \"NA\"]",
      "fields:",
      unlist(Map(draft_field, names(data), data, guesses), use.names = FALSE),
      paste0(
        "# Next: save it beside the table, and name it in the figure file: {file: TABLE, ",
        "codebook: THIS-FILE}."
      )
    )
  )
}

yaml_line <- function(key, value) sub("\n$", "", yaml::as.yaml(stats::setNames(list(value), key)))

# list(kind, type, why, look): the guess, its reason, and what to look at.
draft_guess <- function(values) {
  present <- values[!is.na(values)]
  n <- length(present)
  distinct <- length(unique(present))
  guess <- function(kind, type, why, look = NULL) {
    list(kind = kind, type = type, why = why, look = look)
  }
  lone <- if (n > 0 && distinct == 1) "holds one value only"
  if (!n) return(guess("category", "string", "no value is there", "is empty"))
  if (inherits(present, "Date")) return(guess("moment", "date", "dates in ISO 8601", lone))
  if (inherits(present, "POSIXct") && is_of_day(present)) {
    return(guess("moment", "time", "times of day", lone))
  }
  if (inherits(present, "POSIXct")) return(guess("moment", "datetime", "times in ISO 8601", lone))
  if (is.numeric(present)) return(draft_number(present, distinct, lone, guess))
  if (is.logical(present)) return(guess("category", "boolean", "true or false", lone))
  as_number <- numbers_as_text(as.character(values))
  if (!is.null(as_number) && !is.na(as_number$row)) {
    return(
      guess(
        "quantity",
        "number",
        "most values are numbers",
        paste0(
          as_number$n_text,
          " of ",
          as_number$n,
          " values are no numbers, the first \"",
          as_number$first,
          "\" in row ",
          as_number$row,
          "; name it under missingValues, or mend it"
        )
      )
    )
  }
  if (distinct == n && n > 10) {
    return(guess("category", "string", "each value is there once", "looks like an identifier"))
  }
  guess("category", "string", paste0("text of ", counted(distinct, "value")), lone)
}

# A guess with what is to be looked at besides: likely missing values, dates that can be read either
# way.
with_draft_hints <- function(guess, values, asked) {
  codes <- likely_missing(values[!is.na(values)])
  if (length(codes)) {
    guess$look <- paste(
      c(
        guess$look,
        paste0("likely missing values: ", quoted(codes), "; add them to missingValues")
      ),
      collapse = "; "
    )
  }
  if (asked) {
    guess$look <- paste(
      c(guess$look, "dates with day or month first? Say `format`"),
      collapse = "; "
    )
    guess$more <- c("# type: date", "# format: \"%d/%m/%Y\"  # or \"%m/%d/%Y\"")
  }
  guess
}

draft_number <- function(present, distinct, lone, guess) {
  whole <- all(present == round(present))
  n <- length(present)
  if (is.null(lone) && whole && distinct <= 5 && distinct <= n / 3 && all(abs(present) < 100)) {
    return(
      guess(
        "category",
        "integer",
        paste0("whole numbers of only ", counted(distinct, "value")),
        "few whole numbers: codes? Then give them labels; else delete its categories"
      )
    )
  }
  identifier <- whole && distinct == n && n > 10 && all(diff(sort(present)) == 1)
  guess(
    "quantity",
    if (whole) "integer" else "number",
    if (whole) "whole numbers" else "numbers",
    if (identifier) "counts up by one: an identifier?" else lone
  )
}

draft_field <- function(column, values, guess) {
  indent <- function(lines) paste0("    ", lines)
  missing <- sum(is.na(values))
  c(
    paste0(
      "  # ",
      guess$why,
      if (missing) paste0("; ", missing, " missing"),
      draft_range(values, guess)
    ),
    sub("^", "  - ", yaml_line("name", column)),
    indent(paste0("type: ", guess$type)),
    indent(draft_title(column)),
    if (guess$kind == "quantity") indent(draft_unit(column)),
    if (length(guess$more)) indent(guess$more),
    if (guess$kind == "category" && guess$type != "boolean") draft_categories(values)
  )
}

# "Weight (lb)" is a title with a unit.
header_pattern <- "^(.*[^ ]) *[(\\[]([^()\\[\\]]{1,20})[])]$"

draft_title <- function(column) {
  yaml_line("title", tidy_name(sub(header_pattern, "\\1", column, perl = TRUE)))
}

draft_unit <- function(column) {
  if (!grepl(header_pattern, column, perl = TRUE)) return("# unit:")
  yaml_line("unit", sub(header_pattern, "\\2", column, perl = TRUE))
}

words_for_missing <- c(
  "n.d.", "nd", "n/a", "na", "n.a.", "-", "--", ".", "?", "missing", "none", "null", "nan", "#n/a",
  "not measured"
)
numbers_for_missing <- c(-1, -9, -99, -999, -9999, 99, 999, 9999)

# Values that are likely to mean that there is none: codes that stand apart from all others, and
# words.
likely_missing <- function(present) {
  if (is.character(present)) {
    said_missing <- unique(present[tolower(trimws(present)) %in% words_for_missing])
    if (length(said_missing) && !all(present %in% said_missing)) return(said_missing)
    return(NULL)
  }
  if (!is.numeric(present)) return(NULL)
  for (code in numbers_for_missing) {
    others <- present[present != code]
    if (length(others) < 3 || length(others) == length(present)) next
    apart <- if (code < 0) min(others) - code else code - max(others)
    if (apart > 0 && (code < 0 && min(others) >= 0 || apart > diff(range(others)))) return(code)
  }
  NULL
}

draft_range <- function(values, guess) {
  if (
    guess$kind == "category" || guess$type == "time" || is.character(values) || all(is.na(values))
  ) {
    return("")
  }
  paste0("; ", paste(format_ends(range(values, na.rm = TRUE)), collapse = " to "))
}

draft_categories <- function(values, most = 24) {
  levels <- levels_present(values)
  if (!length(levels)) return(NULL)
  n <- tabulate(match(as.character(values), levels), length(levels))
  if (length(levels) > most) {
    return(paste0("    # ", length(levels), " levels, too many to list: ", quoted(levels, 4)))
  }
  codes <- if (is.numeric(values)) as.integer(levels) else levels
  c("    categories:", paste0("      - ", vapply(codes, yaml_scalar, ""), "  # ", n))
}

yaml_scalar <- function(value) sub("\n$", "", yaml::as.yaml(value))
