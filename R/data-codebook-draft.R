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
  guesses <- draft_guesses(data, asked)
  look <- c(
    unlist(
      Map(
        function(guess, column) {
          if (length(guess$look)) paste0("#   ", column, ": ", guess$look)
        },
        guesses,
        names(data)
      )
    ),
    draft_totals(data)
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

draft_totals <- function(data) {
  row <- totals_row(data)
  column <- totals_column(data)
  c(
    if (!is.null(row)) {
      paste0(
        "#   row ",
        row$row,
        ": ",
        quoted(row$value),
        " in \"",
        row$column,
        "\" is the sum or mean of the others; leave it out in figures: keep: ",
        totals_kept(row)
      )
    },
    if (!is.null(column)) paste0("#   ", column, ": is the sum of the other quantities")
  )
}

# The condition that leaves a row of totals out.
totals_kept <- function(row) {
  name <- if (make.names(row$column) == row$column) row$column else paste0("`", row$column, "`")
  paste0(name, " != '", gsub("'", "\\\\'", row$value), "'")
}

yaml_line <- function(key, value) sub("\n$", "", yaml::as.yaml(stats::setNames(list(value), key)))

# By column, list(role, kind, type, why, unit, look, more): what it is taken for, the reason, what
# to look at, and lines of its field besides.
draft_guesses <- function(data, asked = character()) {
  roles <- column_roles(data)
  Map(
    function(values, column, one, hints) {
      draft_guess(values, column, one, hints, column %in% asked)
    },
    data,
    names(data),
    roles,
    table_hints(data)
  )
}

# What is said of a role before it is drawn.
role_looks <- c(
  empty = "is empty",
  constant = "holds one value only",
  identifier = "looks like an identifier",
  code = paste(
    "few whole numbers: codes? Then give them labels; else delete its",
    "categories"
  )
)

draft_guess <- function(values, column, one, hints, asked) {
  texts <- hint_texts(hints)
  # Text that is numbers but for what is pointed at.
  is_numbers <- is.character(values) && any(grepl("^(likely missing|numbers with|[0-9])", texts)) &&
    mostly_numbers(values)
  # 0 and 1 say by themselves which of them happened.
  coded_event <- one$role == "event" && !all(values %in% c(0:1, NA))
  has_levels <- (one$role %in% roles_with_levels || coded_event) && !is_numbers
  levels_of_number <- one$role %in% c("subject", "identifier") && is.numeric(values)
  look <- c(
    if (one$role == "repeated") paste0("holds ", one$why),
    if (!is_numbers) role_looks[one$role],
    texts,
    if (asked) "dates with day or month first? Say `format`"
  )
  look <- look[!is.na(look)]
  list(
    role = if (is_numbers) "measured" else one$role,
    kind = if (inherits(values, c("Date", "POSIXct"))) {
      "moment"
    } else if (has_levels || !is.numeric(values) && !is_numbers) {
      "category"
    } else {
      "quantity"
    },
    type = if (levels_of_number) "string" else if (is_numbers) "number" else values_type(values),
    why = if (is_numbers) "most values are numbers" else one$why,
    fact = one$fact,
    unit = if (is_numbers) header_meaning(column)$unit else one$unit,
    hints = hints,
    look = if (length(look)) paste(look, collapse = "; "),
    more = c(
      if (asked) c("# type: date", "# format: \"%d/%m/%Y\"  # or \"%m/%d/%Y\""),
      # Without them the column would be no numbers; of others a person decides.
      if (length(hints)) {
        lines <- sub("^type: number, ", "", unlist(lapply(hints, `[[`, "line")))
        if (is_numbers) lines else paste0("# ", lines)
      }
    )
  )
}

mostly_numbers <- function(values) {
  present <- values[!is.na(values)]
  numbers <- !is.na(suppressWarnings(as.numeric(gsub("[, ']", "", present))))
  mean(numbers) >= 0.5
}

values_type <- function(values) {
  if (inherits(values, "Date")) return("date")
  if (inherits(values, "POSIXct")) return(if (is_of_day(values)) "time" else "datetime")
  if (is.logical(values)) return(if (all(is.na(values))) "string" else "boolean")
  if (!is.numeric(values)) return("string")
  present <- values[is.finite(values)]
  if (all(present == round(present))) "integer" else "number"
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
    indent(yaml_line("title", header_title(column))),
    if (guess$kind == "quantity") {
      indent(if (is.null(guess$unit)) "# unit:" else yaml_line("unit", guess$unit))
    },
    if (length(guess$more)) indent(guess$more),
    if (lists_levels(guess)) draft_categories(values)
  )
}

# Subjects and identifiers are told by their values; their levels need no listing.
lists_levels <- function(guess) {
  guess$kind == "category" && guess$type != "boolean" &&
    !(guess$role %in% c("subject", "identifier"))
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
