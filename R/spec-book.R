#' Figures in a book
#'
#' Many figures in one PDF, each at its size with its legend beneath, numbered, with a list of
#' figures and bookmarks: a supplement, or the figures of a thesis. Or all on one HTML page.
#'
#' @param plates A named list of plates.
#' @param path Path ending in `.pdf` or `.html`.
#' @param prefix What stands before a figure's number, such as `"Figure S"`.
#' @param legends `TRUE`: each figure's [legend_text()]; `FALSE`: its number and title alone; or
#'   texts by name, for some of the figures, in place of theirs.
#' @param title Title of the book, on its first page, or `NULL`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The path, invisibly.
#' @details In titles, notes and legends `{figure:name}` is the number of the figure of that name:
#'   "see {figure:pairs}" becomes "see Figure 2". Legends are set ragged in the house's type. A page
#'   is 210 by 297 mm, or as much larger as a figure needs; a figure that goes over pages says so.
#' @section Errors: `nelvat_error_argument` for what is no list of plates with names, or a reference
#'   to a figure that is not there; `nelvat_error_file` for a path of another ending, or a folder
#'   that is not there. Nothing is written then.
#' @examples
#' loaves <- study("loaves")
#' figures <- list(
#'   rise = plate(panel(loaves, x = flour, y = rise, ink_bars()), width = 86, height = 60),
#'   volume = plate(panel(loaves, x = rise, y = volume, ink_points()), width = 86, height = 60)
#' )
#' save_book(figures, tempfile(fileext = ".pdf"), title = "Loaves")
#' @export
save_book <- function(plates, path, prefix = "Figure ", legends = TRUE, title = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_book_plates(plates, call)
  check_string(path, "path")
  check_string(prefix, "prefix", call = call)
  check_string(title, "title", or_null = TRUE, call = call)
  check_book_legends(legends, names(plates), call)
  check_ending(path, c(pdf = "", html = ""), call)
  format <- tolower(tools::file_ext(path))
  check_folder(path, call)
  numbers <- stats::setNames(paste0(prefix, seq_along(plates)), names(plates))
  check_references(c(title, if (is.character(legends)) legends), numbers, call)
  make <- if (format == "pdf") book_pdf else book_html
  write_whole(path, make(plates, numbers, legends, title, call), call)
}

check_book_plates <- function(plates, call) {
  right <- is.list(plates) && length(plates) && all(rlang::have_name(plates)) &&
    !anyDuplicated(names(plates)) && all(vapply(plates, inherits, NA, "nelvat_plate"))
  if (right) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`plates` must be a list of plates, each with a name of its own.",
      x = paste0("Found ", describe_value(plates), "."),
      i = "Such as `list(responses = plate(...), pairs = plate(...))`."
    ),
    call
  )
}

check_book_legends <- function(legends, names, call) {
  if (rlang::is_bool(legends)) return(invisible())
  legends_named <- is.character(legends) && !anyNA(legends) && all(rlang::have_name(legends))
  unknown <- if (legends_named) setdiff(base::names(legends), names)
  if (legends_named && !length(unknown)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`legends` must be true, false, or texts by the name of their figure.",
      x = if (length(unknown)) {
        paste0("There is no figure \"", unknown[1], "\".")
      } else {
        paste0("Found ", describe_value(legends), ".")
      },
      if (length(unknown)) offer(unknown[1], names, "figure")
    ),
    call
  )
}

reference_pattern <- "[{]figure:([^}]+)[}]"

check_references <- function(texts, numbers, call) {
  found <- unlist(regmatches(texts, gregexpr(reference_pattern, texts)))
  unknown <- setdiff(sub(reference_pattern, "\\1", found), names(numbers))
  if (!length(unknown)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("There is no figure \"", unknown[1], "\" to refer to."),
      offer(unknown[1], names(numbers), "figure")
    ),
    call
  )
}

with_references <- function(text, numbers) {
  for (name in names(numbers)) {
    text <- gsub(paste0("{figure:", name, "}"), numbers[[name]], text, fixed = TRUE)
  }
  text
}

# One figure as it stands in a book: list(scenes, name, number, title, legend).
book_figure <- function(plate, name, numbers, legends, call) {
  # What is drawn says the numbers, too.
  for (said in c("title", "note")) {
    check_references(plate[[said]], numbers, call)
    if (!is.null(plate[[said]])) plate[[said]] <- with_references(plate[[said]], numbers)
  }
  resolved <- resolve_plate(plate)
  scenes <- page_scenes(plate, call, resolved)
  whole <- whole_scene(resolved, plate)
  legend <- if (is.character(legends) && name %in% names(legends)) {
    legends[[name]]
  } else if (!isFALSE(legends)) {
    legend_text(whole)
  }
  title <- whole$title
  check_references(c(legend, title), numbers, call)
  list(
    drawings = lapply(scenes, as_drawing, plate, NULL),
    name = name,
    number = numbers[[name]],
    title = with_references(title %||% "", numbers),
    legend = with_references(paste(legend, collapse = " "), numbers),
    alt = alt_text(whole),
    pages = length(scenes)
  )
}

# What the list of figures calls one.
book_entry <- function(figure) {
  title <- if (nzchar(figure$title)) figure$title else gsub("[_-]", " ", figure$name)
  paste0(figure$number, "  ", title)
}

book_html <- function(plates, numbers, legends, title, call) {
  figures <- Map(
    function(plate, name) {
      figure <- suppressWarnings(book_figure(plate, name, numbers, legends, call))
      images <- vapply(
        figure$drawings,
        function(scene) {
          paste0(
            "<img src=\"data:image/svg+xml;base64,",
            base64(svg_bytes(scene, 300)),
            "\" alt=\"",
            html(figure$alt),
            "\" style=\"width:",
            format(scene$page$width_mm),
            "mm\">"
          )
        },
        ""
      )
      list(
        entry = paste0("<li><a href=\"#", html(name), "\">", html(book_entry(figure)), "</a></li>"),
        figure = c(
          paste0("<figure id=\"", html(name), "\">"),
          images,
          paste0(
            "<figcaption><strong>",
            html(figure$number),
            ".</strong> ",
            if (nzchar(figure$title)) paste0("<strong>", html(figure$title), ".</strong> "),
            html(figure$legend),
            "</figcaption>"
          ),
          "</figure>"
        )
      )
    },
    plates,
    names(plates)
  )
  text_bytes(
    c(
      "<!DOCTYPE html>",
      "<html lang=\"en\">",
      "<head>",
      "<meta charset=\"utf-8\">",
      paste0("<title>", html(title %||% "Figures"), "</title>"),
      "<style>",
      report_style(),
      "</style>",
      "</head>",
      "<body>",
      paste0("<header><h1>", html(title %||% "Figures"), "</h1>"),
      "<nav aria-label=\"Figures\"><ol>",
      vapply(figures, `[[`, "", "entry"),
      "</ol></nav></header>",
      "<main>",
      unlist(lapply(figures, `[[`, "figure")),
      "</main>",
      "</body>",
      "</html>"
    )
  )
}
