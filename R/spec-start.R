#' Draft a figure file for a table
#'
#' Writes a commented figure file that draws at once on the table, chosen from its kinds of
#' columns.
#'
#' @param data Path of a data file.
#' @param path Path of the figure file to write, or `NULL` to return its text.
#' @param codebook Path of its codebook, or `NULL`.
#' @param sheet,encoding,skip How the data file is read: see [read_data()].
#' @param kind Which figure: `"grid"` (small multiples), `"pairs"` (each pair of quantities),
#'   `"joint"` (a pair with its marginals), `"series"` (a line in time), or `"plate"` (several of
#'   them on a page); `NULL`: what suits the table.
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
  book <- suppress_warning(
    read_data(data, codebook, sheet, encoding = encoding, skip = skip),
    "nelvat_warning"
  )
  said <- c(
    if (!is.null(sheet)) paste0(", sheet: ", yaml_word(as.character(sheet))),
    if (encoding != "UTF-8") paste0(", encoding: ", yaml_word(encoding)),
    if (!is.null(skip)) paste0(", skip: ", skip)
  )
  name <- gsub("[^A-Za-z0-9_]", "_", sub("[.].*", "", basename(data)))
  folder <- if (is.null(path)) dirname(data) else dirname(path)
  lines <- started_lines(
    book,
    name,
    started_path(data, folder),
    if (!is.null(codebook)) started_path(codebook, folder),
    paste(said, collapse = ""),
    if (!is.null(kind)) check_choice(kind, names(started_kinds), "kind", call),
    call
  )
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

most_started_levels <- 12

# said: how the file is read, as keys of its entry.
started_lines <- function(book, name, file, codebook, said, kind, call) {
  columns <- started_columns(book)
  kind <- kind %||% suiting_kind(columns)
  lines <- if (!is.null(kind)) started_kinds[[kind]](columns, name, nrow(book$data))
  if (is.null(lines)) abort_not_started(book, columns, kind, call)
  listing <- function(names) if (length(names)) paste(names, collapse = ", ") else "none"
  c(
    paste0("# A figure of ", name, ". Draw it with: nelvat draw THIS-FILE"),
    "nelvat: 1",
    "data:",
    paste0(
      "  ",
      name,
      ": {file: ",
      yaml_word(file),
      if (!is.null(codebook)) paste0(", codebook: ", yaml_word(codebook)),
      said,
      "}"
    ),
    if (is.null(codebook)) {
      paste0(
        "  # Names, units and the order of levels belong in a codebook: nelvat codebook ",
        file
      )
    },
    paste0(
      "# Quantities: ",
      listing(columns$quantities),
      ". Categories: ",
      listing(columns$categories),
      if (length(columns$moments)) paste0(". Times: ", listing(columns$moments)),
      "."
    ),
    "blocks:",
    lines$blocks,
    "plate:",
    "  width: double        # single, middle, double or millimetres",
    if (is.null(lines$place)) "  height: 80",
    paste0("  place: ", lines$place %||% "main"),
    paste0("save: [", yaml_word(paste0(name, ".pdf")), ", ", yaml_word(paste0(name, ".png")), "]"),
    "# Next: nelvat draw THIS-FILE; nelvat proof THIS-FILE tells what the journal will ask."
  )
}

# Columns by what they can do: names of quantities, times that follow each other, categories of few
# levels.
started_columns <- function(book) {
  kinds <- vapply(book$columns, `[[`, "", "kind")
  few <- vapply(
    book$columns,
    function(kind) length(kind$levels) >= 2 && length(kind$levels) <= most_started_levels,
    NA
  )
  list(
    quantities = names(kinds)[kinds == "quantity"],
    # Times that come again and again are no sequence to draw a line along.
    moments = Filter(
      function(name) !anyDuplicated(book$data[[name]]),
      names(kinds)[kinds == "moment"]
    ),
    categories = names(kinds)[kinds %in% c("category", "ordinal") & few]
  )
}

suiting_kind <- function(columns) {
  if (length(columns$moments) && length(columns$quantities)) return("series")
  if (length(columns$categories)) return("grid")
  if (length(columns$quantities) >= 2) return("joint")
  if (length(columns$quantities)) "grid"
}

abort_not_started <- function(book, columns, kind, call) {
  needs <- c(
    grid = "a quantity or a category", pairs = "two quantities", joint = "two quantities",
    series = "a time and a quantity",
    plate = "two quantities and a category"
  )
  abort_nelvat(
    "data",
    c(
      paste0("There is nothing to draw in ", book$label, "."),
      x = paste0(
        "It has ",
        counted(length(book$columns), "column"),
        ", of which ",
        length(columns$quantities),
        " are quantities, ",
        length(columns$moments),
        " times, ",
        length(columns$categories),
        " categories of 2 to ",
        most_started_levels,
        " levels."
      ),
      i = if (!is.null(kind)) paste0("A figure of kind \"", kind, "\" needs ", needs[[kind]], ".")
    ),
    call
  )
}

yaml_word <- function(text) {
  if (grepl("^[A-Za-z0-9_./-]+$", text)) text else paste0("\"", gsub("\"", "\\\\\"", text), "\"")
}

# A block of one word: its lines under its name.
started_block <- function(block, word, table, ...) {
  c(
    paste0("  ", block, ":"),
    paste0("    ", word, ":"),
    paste0("      data: ", table),
    paste0("      ", c(...))
  )
}

# Each kind of figure: list(blocks, place), NULL where the columns do not suit.
started_kinds <- list(
  grid = function(columns, table, n) {
    one <- function(...) list(blocks = started_block("main", "panel", table, ...))
    categories <- vapply(columns$categories, yaml_word, "")
    quantities <- vapply(utils::head(columns$quantities, 3), yaml_word, "")
    if (!length(categories) && !length(quantities)) return(NULL)
    if (!length(categories)) {
      return(one(paste0("x: ", quantities[1]), "ink: histogram          # density suits, too"))
    }
    if (!length(quantities)) {
      return(one(paste0("x: ", categories[1]), "ink: bars              # their counts"))
    }
    list(
      blocks = c(
        "  main:",
        "    facets:             # one panel for each y",
        "      panel:",
        paste0("        data: ", table),
        paste0("        x: ", categories[1]),
        paste0("        y: [", paste(quantities, collapse = ", "), "]"),
        if (length(categories) > 1) {
          paste0("        colour: ", categories[2], "   # tells groups apart; delete it for none")
        },
        "        ink: box           # bars, dots, violin and swarm suit, too",
        "      per_row: 3",
        "      range_per: {y: panel}",
        if (length(categories) > 2) {
          paste0("      # Or, with one y, a panel a level: across: ", categories[3])
        }
      )
    )
  },
  pairs = function(columns, table, n) {
    if (length(columns$quantities) < 2) return(NULL)
    quantities <- vapply(utils::head(columns$quantities, 5), yaml_word, "")
    list(
      blocks = started_block(
        "main",
        "every_pair",
        table,
        paste0("columns: [", paste(quantities, collapse = ", "), "]"),
        if (length(columns$categories)) {
          paste0("colour: ", yaml_word(columns$categories[1]), "   # delete it for none")
        },
        "above: value            # correlations; delete it for an empty half"
      ),
      place = "main"
    )
  },
  joint = function(columns, table, n) {
    if (length(columns$quantities) < 2) return(NULL)
    list(
      blocks = started_block(
        "main",
        "joint",
        table,
        paste0("x: ", yaml_word(columns$quantities[1])),
        paste0("y: ", yaml_word(columns$quantities[2])),
        if (n > 50000) {
          "ink: hexagons"
        } else {
          "ink: [points, fit]     # hexagons and contours suit many points"
        },
        "# colour: a category tells groups apart"
      ),
      place = "main"
    )
  },
  series = function(columns, table, n) {
    if (!length(columns$moments) || !length(columns$quantities)) return(NULL)
    list(
      blocks = started_block(
        "main",
        "panel",
        table,
        paste0("x: ", yaml_word(columns$moments[1])),
        paste0("y: ", yaml_word(columns$quantities[1])),
        "ink: line               # points and step suit, too",
        "# x_axis: {every: 6 hours}"
      )
    )
  },
  plate = function(columns, table, n) {
    if (length(columns$quantities) < 2 || !length(columns$categories)) return(NULL)
    x <- yaml_word(columns$quantities[1])
    y <- yaml_word(columns$quantities[2])
    category_column <- yaml_word(columns$categories[1])
    list(
      blocks = c(
        started_block(
          "scatter",
          "panel",
          table,
          paste0("x: ", x),
          paste0("y: ", y),
          paste0("colour: ", category_column),
          "ink: points"
        ),
        started_block(
          "boxes",
          "panel",
          table,
          paste0("x: ", category_column),
          paste0("y: ", y),
          "ink: box"
        ),
        started_block("spread", "panel", table, paste0("x: ", x), "ink: histogram")
      ),
      place = "{beside: [scatter, {stacked: [boxes, spread]}], widths: [3, 2]}"
    )
  }
)
