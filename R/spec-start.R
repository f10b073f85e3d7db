#' Draft a figure file for a table
#'
#' Writes a commented figure file that draws at once on the table, chosen from its kinds of
#' columns.
#'
#' @param data Path of a data file.
#' @param path Path of the figure file to write, or `NULL` to return its text.
#' @param codebook Path of its codebook, or `NULL`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The text, a string a line; or `path`, invisibly.
#' @section Errors: `nelvat_error_data` for a table without a column that can be drawn.
#' @examples
#' cat(start_figure(study_file("loaves.csv"), codebook = study_file("loaves.codebook.yaml")), sep = "\n")
#' @export
start_figure <- function(data, path = NULL, codebook = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_string(data, "data")
  book <- suppress_warning(read_data(data, codebook), "nelvat_warning")
  name <- gsub("[^A-Za-z0-9_]", "_", sub("[.].*", "", basename(data)))
  folder <- if (is.null(path)) dirname(data) else dirname(path)
  lines <- started_lines(
    book, name, started_path(data, folder), if (!is.null(codebook)) started_path(codebook, folder), call
  )
  if (is.null(path)) return(lines)
  check_string(path, "path")
  if (file.exists(path)) {
    abort_nelvat(
      "file", c(paste0("\"", path, "\" is there already."), i = "Name another file, so that nothing is lost."), call
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

started_lines <- function(book, name, file, codebook, call) {
  kinds <- vapply(book$columns, `[[`, "", "kind")
  few <- vapply(book$columns, function(kind) length(kind$levels) >= 2 && length(kind$levels) <= most_started_levels, NA)
  quantities <- names(kinds)[kinds == "quantity"]
  # Times that come again and again are no sequence to draw a line along.
  moments <- Filter(function(name) !anyDuplicated(book$data[[name]]), names(kinds)[kinds == "moment"])
  categories <- names(kinds)[kinds %in% c("category", "ordinal") & few]
  design <- started_design(quantities, moments, categories, nrow(book$data))
  if (is.null(design)) {
    abort_nelvat(
      "data",
      c(
        paste0("There is nothing to draw in ", book$label, "."),
        x = paste0(
          "It has ", counted(length(kinds), "column"), ", none a quantity or a category of 2 to ",
          most_started_levels, " levels."
        )
      ),
      call
    )
  }
  c(
    paste0("# A figure of ", name, ". Draw it with: nelvat draw THIS-FILE"), "nelvat: 1", "data:",
    paste0(
      "  ", name, ": {file: ", yaml_word(file), if (!is.null(codebook)) paste0(", codebook: ", yaml_word(codebook)),
      "}"
    ),
    if (is.null(codebook)) paste0(
      "  # Names, units and the order of levels belong in a codebook: nelvat codebook ", file
    ),
    paste0(
      "# Quantities: ", if (length(quantities)) paste(quantities, collapse = ", ") else "none", ". Categories: ",
      if (length(categories)) paste(categories, collapse = ", ") else "none",
      if (length(moments)) paste0(". Times: ", paste(moments, collapse = ", ")), "."),
    "blocks:", "  main:", design(name),
    "plate:", "  width: double        # single, middle, double or millimetres", "  height: 80", "  place: main",
    paste0("save: [", yaml_word(paste0(name, ".pdf")), ", ", yaml_word(paste0(name, ".png")), "]")
  )
}

yaml_word <- function(text) {
  if (grepl("^[A-Za-z0-9_./-]+$", text)) text else paste0("\"", gsub("\"", "\\\\\"", text), "\"")
}

# What suits the kinds of columns there are: a function of the table's name that gives the
# block's lines.
started_design <- function(quantities, moments, categories, n) {
  word <- function(name) yaml_word(name)
  one_panel <- function(...) function(name) c("    panel:", paste0("      data: ", name), paste0("      ", c(...)))
  other <- function(chosen, what) {
    if (length(chosen)) paste0("      # Or ", what, ": ", paste(utils::head(chosen, 5), collapse = ", "))
  }
  colour <- if (length(categories)) paste0("colour: ", word(categories[length(categories)]), "   # tells groups apart")
  if (length(moments) && length(quantities)) {
    return(
      one_panel(
        paste0("x: ", word(moments[1])), paste0("y: ", word(quantities[1])),
        "ink: line               # points and step suit, too"
      )
    )
  }
  if (length(categories) && length(quantities)) {
    measures <- utils::head(quantities, 3)
    return(function(name) c(
      "    facets:             # one panel for each y", "      panel:", paste0("        data: ", name),
      paste0("        x: ", word(categories[1])),
      paste0("        y: [", paste(vapply(measures, word, ""), collapse = ", "), "]"),
      if (length(categories) > 1) paste0(
        "        colour: ", word(categories[2]), "   # tells groups apart; delete it for none"
      ),
      "        ink: box           # bars, dots, violin and swarm suit, too", "      per_row: 3",
      "      range_per: {y: panel}"
    ))
  }
  if (length(quantities) >= 2) {
    return(
      one_panel(
        paste0("x: ", word(quantities[1])), paste0("y: ", word(quantities[2])),
        if (n > 50000) "ink: hexagons" else "ink: [points, fit]     # hexagons and contours suit many points"
      )
    )
  }
  if (length(quantities)) {
    return(one_panel(paste0("x: ", word(quantities[1])), "ink: histogram          # density suits, too"))
  }
  if (length(categories)) return(one_panel(paste0("x: ", word(categories[1])), "ink: bars              # their counts"))
  NULL
}
