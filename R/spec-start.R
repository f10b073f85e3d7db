#' Draft a figure file for a table
#'
#' Writes a commented figure file that draws at once on the table. The figure follows from what each
#' column is for, told by its name, its values and how they go with the others: subjects, times,
#' doses, groups, replicates, answers, coordinates, what was measured. Why it was chosen stands in
#' the comments, with what is to be looked at in the table.
#'
#' @param data Path of a data file.
#' @param path Path of the figure file to write, or `NULL` to return its text.
#' @param codebook Path of its codebook, or `NULL`.
#' @param sheet,encoding,skip How the data file is read: see [read_data()].
#' @param kind Which figure: `"traces"` (a line a subject), `"survival"`, `"map"`, `"answers"`,
#'   `"heat"` (tiles), `"series"` (a line in time), `"doses"`, `"grid"` (groups compared, small
#'   multiples), `"pairs"` (each pair of quantities), `"joint"` (a pair with its marginals), or
#'   `"plate"` (several of them on a page); `NULL`: what suits the table.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The text, a string a line; or `path`, invisibly.
#' @section Errors: `nelvat_error_data` for a table without a column that can be drawn, or without
#'   those that the kind needs.
#' @examples
#' cat(
#'   start_figure(study_file("loaves.csv"), codebook = study_file("loaves.codebook.yaml")),
#'   sep = "\n"
#' )
#' @export
start_figure <- function(
  data,
  path = NULL,
  codebook = NULL,
  sheet = NULL,
  encoding = "UTF-8",
  skip = NULL,
  kind = NULL,
  ...
) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_string(data, "data")
  if (!is.null(kind)) check_choice(kind, names(kind_needs), "kind", call)
  book <- suppress_warning(
    read_data(data, codebook, sheet, encoding = encoding, skip = skip),
    "nelvat_warning"
  )
  said <- c(
    if (!is.null(sheet)) paste0("sheet: ", yaml_word(as.character(sheet))),
    if (encoding != "UTF-8") paste0("encoding: ", yaml_word(encoding)),
    if (!is.null(skip)) paste0("skip: ", skip)
  )
  letters <- stringi::stri_trans_general(sub("[.].*", "", basename(data)), "Latin-ASCII")
  name <- gsub("[^A-Za-z0-9_]", "_", letters)
  folder <- if (is.null(path)) dirname(data) else dirname(path)
  entry <- c(
    paste0("file: ", yaml_word(started_path(data, folder))),
    if (!is.null(codebook)) paste0("codebook: ", yaml_word(started_path(codebook, folder))),
    said
  )
  lines <- started_lines(started_table(book, !is.null(codebook)), name, entry, kind, call)
  if (is.null(path)) return(lines)
  check_string(path, "path")
  if (file.exists(path)) {
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" is there already."),
        i = "Name another file, so that nothing is lost."
      ),
      call
    )
  }
  write_whole(path, text_bytes(lines), call)
}

# A path as it is written in a file of a folder.
started_path <- function(path, folder) {
  if (
    normalizePath(dirname(path), mustWork = FALSE) == normalizePath(folder, mustWork = FALSE)
  ) basename(path) else normalizePath(path)
}

yaml_word <- function(text) {
  plain <- grepl("^[A-Za-z_./-][A-Za-z0-9_./-]*$", text) && !tolower(text) %in% yaml_own_words
  if (plain) text else paste0("\"", gsub("([\"\\\\])", "\\\\\\1", text), "\"")
}
yaml_own_words <- c("y", "n", "yes", "no", "on", "off", "true", "false", "null", "na", "-", ".", "")

# What a draft knows of a table: its columns by what they are for.
#   n: rows; guesses: by column, as a codebook's draft has them; by role: columns in order;
#   described: whether a codebook says what they mean, which then goes before.
started_table <- function(book, described) {
  data <- book$data
  guesses <- draft_guesses(data)
  if (described || length(book$kinds)) guesses <- Map(told_by_codebook, guesses, book$columns)
  roles <- vapply(guesses, `[[`, "", "role")
  list(
    data = data,
    n = nrow(data),
    guesses = guesses,
    described = described,
    of = function(...) names(roles)[roles %in% c(...)],
    labels = book$label,
    n_columns = length(book$columns)
  )
}

# What a codebook says of a column goes before what it looks like.
told_by_codebook <- function(guess, kind) {
  levels <- has_levels(kind)
  if (kind$kind == "moment") guess$role <- "moment"
  if (levels && !guess$role %in% roles_with_levels) {
    guess$role <- if (length(kind$levels) <= most_group_levels) "group" else "name"
  }
  if (kind$kind == "quantity" && guess$role %in% setdiff(roles_with_levels, "empty")) {
    guess$role <- "measured"
  }
  guess$kind <- if (levels) "category" else kind$kind
  guess$unit <- kind$unit
  guess
}

# entry: keys of the table's entry, as lines.
started_lines <- function(table, name, entry, kind, call) {
  proposal <- if (is.null(kind)) {
    suiting_proposal(table, name)
  } else {
    start_proposal(kind, table, name)
  }
  if (is.null(proposal)) abort_not_started(table, kind, call)
  fields <- if (!table$described) started_fields(table, proposal$columns)
  total <- totals_row(table$data)
  c(
    paste0("# A figure of ", name, ". Draw it with: nelvat draw THIS-FILE"),
    strwrap(paste0(proposal$why, "."), 98, prefix = "# "),
    "nelvat: 1",
    "data:",
    paste0("  ", name, ":"),
    paste0("    ", entry),
    fields,
    if (!is.null(total)) paste0("    keep: ", yaml_scalar(totals_kept(total)), "  # no totals"),
    if (length(proposal$long)) paste0("    ", proposal$long),
    started_looks(table),
    "blocks:",
    proposal$blocks,
    "plate:",
    "  width: double        # single, middle, double or millimetres",
    if (is.null(proposal$place)) "  height: 80",
    paste0("  place: ", proposal$place %||% "main"),
    paste0("save: [", yaml_word(paste0(name, ".pdf")), ", ", yaml_word(paste0(name, ".png")), "]"),
    "# Next: nelvat draw THIS-FILE; nelvat proof THIS-FILE tells what the journal will ask."
  )
}

# What the columns of a figure mean, a line each, as far as it is more than their values say.
started_fields <- function(table, columns) {
  lines <- unlist(
    lapply(intersect(names(table$data), columns), function(column) {
      said <- started_field(table$guesses[[column]], column, table$data[[column]])
      if (length(said)) {
        paste0("      ", yaml_key(column), ": {", paste(said, collapse = ", "), "}")
      }
    })
  )
  if (length(lines)) {
    c(
      "    fields:              # what columns mean; in a codebook, it holds for every figure",
      lines
    )
  }
}

yaml_key <- function(text) sub(": 1\n$", "", yaml::as.yaml(stats::setNames(list(1L), text)))

started_field <- function(guess, column, values) {
  title <- header_title(column)
  numbers_as_levels <- guess$kind == "category" && is.numeric(values)
  c(
    if (numbers_as_levels && guess$role %in% c("subject", "identifier")) "type: string",
    if (numbers_as_levels && !guess$role %in% c("subject", "identifier")) {
      paste0("type: integer, categories: ", yaml_list(as.integer(levels_present(values))))
    },
    if (guess$type == "number" && is.character(values)) "type: number",
    if (!identical(title, tidy_name(column))) paste0("title: ", yaml_word(title)),
    if (!is.null(guess$unit)) paste0("unit: ", yaml_scalar(guess$unit)),
    if (is.character(values) && guess$type == "number") {
      sub("^type: number, ", "", unlist(lapply(guess$hints, `[[`, "line")))
    }
  )
}

# What is to be looked at in the table, with what settles it.
started_looks <- function(table) {
  told <- unlist(
    Map(
      function(guess, column) {
        texts <- hint_texts(guess$hints)
        if (length(texts)) paste0("\"", column, "\": ", texts)
      },
      table$guesses,
      names(table$guesses)
    )
  )
  if (!length(told)) return(NULL)
  more <- length(told) - 6
  c(
    "# To look at, with the key under `fields` that settles it:",
    paste0("#   ", utils::head(told, 6)),
    if (more > 0) paste0("#   and ", more, " more")
  )
}

abort_not_started <- function(table, kind, call) {
  count <- function(...) length(table$of(...))
  abort_nelvat(
    "data",
    c(
      paste0("There is nothing to draw in ", table$labels, "."),
      x = paste0(
        "It has ",
        counted(table$n_columns, "column"),
        ", of which ",
        count("measured", "dose", "answer", "place", "time"),
        " are quantities, ",
        count("moment"),
        " times, ",
        count("group", "code"),
        " categories of 2 to ",
        most_group_levels,
        " levels."
      ),
      i = if (!is.null(kind)) {
        paste0("A figure of kind \"", kind, "\" needs ", kind_needs[[kind]], ".")
      }
    ),
    call
  )
}
