#' A house style for an artwork page
#'
#' Writes a house file from what a journal's page on artwork asks for: twelve answers, with a
#' comment a line. What nobody can measure in a figure, such as what a legend must say, stays as a
#' comment, and is listed.
#'
#' @param path The YAML file to write, such as `"nelvat.yaml"` beside the figure files.
#' @param name What the style is called.
#' @param single,middle,double Widths of columns in mm; `NULL` for one that there is none of.
#' @param height Greatest height of a figure in mm.
#' @param type,least Size of type in points, and the least that is allowed.
#' @param fonts Fonts, the first that is installed is used.
#' @param line The least line weight in points.
#' @param colour Are figures printed in colour? If not, the palette is of greys.
#' @param formats Endings that are taken, such as `c("pdf", "tiff")`.
#' @param dpi,file_mb Resolution of images, and the greatest size of a file in MB.
#' @param letters How panels are lettered, as the first of them is: `"a"`, `"A"`, `"(a)"`, `"a)"`,
#'   `"(A)"` or `"A)"`.
#' @param bold Are the letters bold?
#' @param decimal The decimal mark, `"."` or `","`.
#' @param legend What a legend must define, as a text: kept as a comment.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The path, invisibly. A message lists what proof cannot measure.
#' @section Errors: `nelvat_error_argument` for an answer of another sort or out of its limits;
#'   `nelvat_error_file` where the file is there already.
#' @examples
#' path <- tempfile(fileext = ".yaml")
#' draft_house(path, "Annals of Crumb", single = 84, double = 174, type = 8, least = 6)
#' house(path)$page$width_mm
#' @export
draft_house <- function(
  path,
  name = "journal",
  single = 86,
  middle = NULL,
  double = 178,
  height = 225,
  type = 7,
  least = 5.5,
  fonts = c("Arial", "Helvetica", "Liberation Sans"),
  line = 0.25,
  colour = TRUE,
  formats = c("pdf", "tiff", "png"),
  dpi = 300,
  file_mb = 10,
  letters = "a",
  bold = TRUE,
  decimal = ".",
  legend = NULL,
  ...
) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(draft_house, "draft_house", call)
  check_string(path, "path", call = call)
  answers <- list(
    name = name,
    widths = c(single = single, middle = middle, double = double),
    height = height,
    type = type,
    least = least,
    fonts = fonts,
    line = line,
    colour = colour,
    formats = formats,
    dpi = dpi,
    file_mb = file_mb,
    letters = letters,
    bold = bold,
    decimal = decimal,
    legend = legend
  )
  check_answers(answers, call)
  if (!grepl("[.]ya?ml$", path)) {
    abort_nelvat(
      "file",
      c("A house file ends in .yaml.", x = paste0("Found \"", basename(path), "\".")),
      call
    )
  }
  if (file.exists(path)) {
    abort_nelvat(
      "file",
      c(paste0("\"", path, "\" is there already."), i = "Move it away first, or say another path."),
      call
    )
  }
  write_whole(path, text_bytes(house_lines(answers)), call)
  rlang::inform(
    c(
      "What proof cannot measure, and stays to be looked at:",
      stats::setNames(not_measured(answers), rep("*", length(not_measured(answers))))
    )
  )
  invisible(path)
}

# Of each column its width, or that of the one before it, or of the first there is.
all_widths <- function(widths) {
  columns <- c("single", "middle", "double")
  before <- vapply(
    seq_along(columns),
    function(k) max(0, match(columns[1:k], names(widths)), na.rm = TRUE),
    0
  )
  unname(widths[pmax(1, before)])
}

letter_forms <- c("a", "A", "(a)", "(A)", "a)", "A)")

check_answers <- function(answers, call) {
  check_string(answers$name, "name", call = call)
  widths <- answers$widths
  if (is.null(widths)) {
    abort_nelvat("argument", c("A house needs a width.", x = "All of them are `NULL`."), call)
  }
  for (column in names(widths)) {
    check_number(widths[[column]], column, 20, 600, unit = "mm", call = call)
  }
  if (is.unsorted(widths, strictly = TRUE)) {
    abort_nelvat(
      "argument",
      c(
        "Columns must get wider: `single`, `middle`, `double`.",
        x = paste0("Found ", listed(number_of_mm(widths)), ".")
      ),
      call
    )
  }
  check_number(answers$height, "height", 30, 900, unit = "mm", call = call)
  check_number(answers$type, "type", 4, 30, unit = "pt", call = call)
  check_number(answers$least, "least", 3, answers$type, unit = "pt", call = call)
  check_number(answers$line, "line", 0.05, 3, unit = "pt", call = call)
  check_number(answers$dpi, "dpi", 72, 2400, call = call)
  check_number(answers$file_mb, "file_mb", 0.1, 2000, call = call)
  check_flag(answers$colour, "colour")
  check_flag(answers$bold, "bold")
  for (text in c("fonts", "formats")) {
    value <- answers[[text]]
    if (is.character(value) && length(value) && !anyNA(value) && all(nzchar(value))) next
    abort_nelvat(
      "argument",
      c(paste0("`", text, "` must be texts."), x = paste0("Found ", describe_value(value), ".")),
      call
    )
  }
  for (one in answers$formats) {
    check_choice(one, c("pdf", "eps", "svg", "tiff", "png"), "formats", call)
  }
  check_choice(answers$letters, letter_forms, "letters", call)
  check_choice(answers$decimal, c(".", ","), "decimal", call)
  check_string(answers$legend, "legend", or_null = TRUE, call = call)
}

number_of_mm <- function(values) paste(format(values, trim = TRUE), "mm")

# The file, a comment a line that says what is asked for.
house_lines <- function(answers) {
  number <- function(value) format(value, trim = TRUE, digits = 6)
  list_of <- function(values) paste0("[", paste(values, collapse = ", "), "]")
  text <- function(value) {
    as.character(jsonlite::toJSON(value, auto_unbox = TRUE))
  }
  size <- answers$type
  letter <- answers$letters
  bracket <- if (startsWith(letter, "(")) {
    "round"
  } else if (endsWith(letter, ")")) {
    "right"
  } else {
    "none"
  }
  c(
    paste0("# ", gsub("[\r\n]+", " ", answers$name), ": drafted from its page on artwork."),
    "from: plain",
    paste0("name: ", text(answers$name)),
    "page:",
    "  # Widths of columns, and the greatest height of a figure, in mm. A column that is not there",
    "  # is as wide as the one before it.",
    paste0(
      "  width_mm: {",
      paste0(
        c("single", "middle", "double"),
        ": ",
        number(all_widths(answers$widths)),
        collapse = ", "
      ),
      "}"
    ),
    paste0("  height_most_mm: ", number(answers$height)),
    "# The first of these that is installed is used.",
    paste0("families: ", list_of(vapply(answers$fonts, text, ""))),
    "# Sizes of type in points; none is smaller than the least.",
    paste0(
      "type_pt: {base: ",
      number(size),
      ", heading: ",
      number(size),
      ", title: ",
      number(size),
      ", key: ",
      number(size),
      ", letter: ",
      number(size + 1),
      ", note: ",
      number(max(answers$least, size - 0.5)),
      ", least: ",
      number(answers$least),
      "}"
    ),
    if (!answers$colour) {
      c(
        "# Printed in black: greys that keep their distance; shapes and dashes tell more apart.",
        "palette: [\"#20242B\", \"#5B6B7F\", \"#8A9099\"]"
      )
    },
    "# Letters of panels, as in the text that calls them.",
    paste0(
      "letters: {case: ",
      if (grepl("A", letter)) "upper" else "lower",
      ", weight: ",
      if (answers$bold) "bold" else "plain",
      ", bracket: ",
      bracket,
      "}"
    ),
    "# The decimal mark of all numbers.",
    paste0("numbers: {decimal_mark: ", text(answers$decimal), "}"),
    "limits:",
    "  # The least line weight in points.",
    paste0("  line_pt: ", number(answers$line)),
    "  # Dots per inch of images, and the greatest size of a file in MB.",
    paste0("  image_dpi: ", number(answers$dpi)),
    paste0("  file_mb: ", number(answers$file_mb)),
    "  # File formats that are taken.",
    paste0("  formats: ", list_of(answers$formats)),
    if (!is.null(answers$legend)) {
      c(
        "# A legend must define (proof cannot measure it; see the checklist of `nelvat legend`):",
        paste0("#   ", strwrap(answers$legend, 90))
      )
    }
  )
}

not_measured <- function(answers) {
  c(
    if (!is.null(answers$legend)) paste0("what the legend must define: ", answers$legend),
    if (!answers$colour) "whether greys stay apart on the journal's own paper",
    "whether a font of that name is the one that is meant"
  )
}
