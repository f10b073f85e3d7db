# Figures and readers shared by tests.

responses <- function(width = "double", height = 120) {
  plate(
    facets(
      panel(
        study("loaves"),
        x = flour,
        y = c(rise, volume, ph, acidity, firmness, moisture),
        colour = hydration,
        ink_bars(centre = "mean", error = "sd")
      ),
      per_row = 3
    ),
    width = width,
    height = height
  )
}

# Tests that drive another program run where all tests are wanted: CI=true or ALL=1.
needs_program <- function(program, debian) {
  everything <- at_length()
  skip_if(!everything, paste("ALL=1 runs what needs", program))
  skip_if(!nzchar(Sys.which(program)), paste0(program, " is not installed (Debian: ", debian, ")"))
}

needs_poppler <- function() {
  skip_if(!nzchar(Sys.which("pdftotext")), "pdftotext is not installed (Debian: poppler-utils)")
}

# Words of a PDF with their boxes in mm from the page's top left corner, and the
# page's size in mm.
read_pdf_words <- function(path) {
  lines <- system2("pdftotext", c("-bbox", shQuote(path), "-"), stdout = TRUE)
  number <- function(name, of) {
    as.numeric(sub(paste0('.*\\b', name, '="([-0-9.]+)".*'), "\\1", of)) * 25.4 / 72
  }
  words <- grep("<word", lines, value = TRUE)
  page <- grep("<page", lines, value = TRUE)
  list(
    words = data.frame(
      word = sub(".*>(.*)</word>", "\\1", words),
      x0 = number("xMin", words),
      y0 = number("yMin", words),
      x1 = number("xMax", words),
      y1 = number("yMax", words)
    ),
    width_mm = number("width", page),
    height_mm = number("height", page)
  )
}

# Pairs of boxes that share more than `slack` mm in both directions.
overlapping_boxes <- function(boxes, slack = 0.01) {
  over <- function(from, to) outer(boxes[[from]], boxes[[to]], function(a, b) a < b - slack)
  both <- over("x0", "x1") & t(over("x0", "x1")) & over("y0", "y1") & t(over("y0", "y1"))
  which(both & upper.tri(both), arr.ind = TRUE)
}

# Writes `lines` as files in a folder of their own and gives the folder.
folder_with <- function(files, envir = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = envir)
  for (name in names(files)) writeLines(files[[name]], file.path(folder, name))
  folder
}

# Runs the command in this process: its exit status, and what it wrote.
run_nelvat <- function(...) {
  complaints <- textConnection("nelvat_complaints", "w", local = TRUE)
  sink(complaints, type = "message")
  on.exit({
    sink(type = "message")
    close(complaints)
  })
  said <- utils::capture.output(status <- nelvat:::run_command(c(...)))
  sink(type = "message")
  list(status = status, said = said, complained = textConnectionValue(complaints))
}

# The marks of one primitive of a figure of one block, in data units; the panel's size in mm and its
# ranges stand beside them.
drawn_marks <- function(block, primitive, ink = NULL, which = 1, width = 90, height = 70) {
  scene <- suppressWarnings(as_scene(plate(block, width = width, height = height)))
  layers <- Filter(
    function(layer) layer$primitive == primitive && (is.null(ink) || layer$ink == ink),
    scene$marks
  )
  marks <- layers[[which]]$table
  for (direction in c("x", "y")) {
    range <- Filter(function(axis) axis$direction == direction, scene$axes)[[1]]$range
    for (column in intersect(paste0(direction, c("", "0", "1", "end")), names(marks))) {
      marks[[column]] <- range[1] + marks[[column]] * diff(range)
    }
  }
  attr(marks, "range") <- lapply(stats::setNames(nm = c("x", "y")), function(direction) {
    Filter(function(axis) axis$direction == direction, scene$axes)[[1]]$range
  })
  attr(marks, "mm") <- c(x = scene$panels$w[1], y = scene$panels$h[1])
  attr(marks, "scene") <- scene
  marks
}

# A house whose pages are no higher than this.
low_house <- function(mm) house(page = list(height_most_mm = mm))
