# Plates in documents: each at its own size, with its alternative text, and its legend where asked.

# Chunk options: `fig.alt` and `fig.cap` in place of the alternative text and of no caption;
# `plate.legend = TRUE` (or "short") makes the legend the caption; `dev`, one or several of png,
# svg, pdf and tiff, is what is written, of which the document shows what it can.
#' @exportS3Method knitr::knit_print
knit_print.nelvat_plate <- function(x, options = list(), ...) {
  latex <- isTRUE(knitr::pandoc_to("latex")) ||
    identical(knitr::opts_knit$get("out.format"), "latex")
  endings <- chunk_endings(options$dev, latex)
  # Several plates of one chunk have a picture each.
  label <- options$label %||% "plate"
  count <- knitr::opts_knit$get("nelvat.plates")
  n <- 1L + if (is.null(count[[label]])) 0L else count[[label]]
  count[[label]] <- n
  knitr::opts_knit$set(nelvat.plates = count)
  paths <- knitr::fig_path(endings, options, n)
  dir.create(dirname(paths[1]), recursive = TRUE, showWarnings = FALSE)
  save_plate(x, paths, dpi = chunk_dpi(options$dpi))
  knitr::asis_output(
    placed_picture(
      paths[1],
      x,
      said_each(options$fig.alt, n) %||% suppressWarnings(alt_text(x)),
      said_each(options$fig.cap, n) %||% caption_of(x, options[["plate.legend"]]),
      if (nzchar(label)) paste0("fig:", label, if (n > 1) paste0("-", n)),
      latex
    )
  )
}

# Pictures are fine enough for print unless the chunk says more.
chunk_dpi <- function(dpi) if (is.numeric(dpi) && length(dpi) == 1 && dpi > 300) dpi else 300

chunk_endings <- function(dev, latex) {
  known <- c(
    png = ".png", ragg_png = ".png", svg = ".svg", svglite = ".svg", pdf = ".pdf",
    cairo_pdf = ".pdf", tiff = ".tiff", postscript = ".eps"
  )
  found <- unname(stats::na.omit(known[dev]))
  first <- if (latex) ".pdf" else ".png"
  # What the document can show stands first.
  shown <- if (latex) c(".pdf", ".png") else c(".svg", ".png")
  best <- intersect(shown, found)
  unique(c(if (length(best)) best[1] else first, found))
}

# Of texts for each plate of a chunk, the one of this.
said_each <- function(texts, n) {
  texts <- unlist(texts)
  if (length(texts)) as.character(texts[min(n, length(texts))])
}

caption_of <- function(plate, asked) {
  if (is.null(asked) || isFALSE(asked)) return(NULL)
  length <- if (identical(asked, "short")) "short" else "full"
  suppressWarnings(legend_text(plate, "markdown", length))
}

# A picture in Markdown, or in LaTeX, at the plate's width.
placed_picture <- function(path, plate, alt, caption, label, latex) {
  width <- paste0(dot_number(plate$width_mm), "mm")
  if (latex) {
    picture <- paste0(
      "\\includegraphics[width=",
      width,
      ",alt={",
      latex_text(alt),
      "}]{",
      path,
      "}"
    )
    if (is.null(caption)) return(paste0(picture, "\n"))
    return(
      paste0(
        "\\begin{figure}\n",
        picture,
        "\n\\caption{",
        caption,
        "}",
        if (!is.null(label)) paste0("\\label{", label, "}"),
        "\n\\end{figure}\n"
      )
    )
  }
  attributes <- c(
    if (!is.null(label) && !is.null(caption)) paste0("#", gsub("[^A-Za-z0-9:_-]", "-", label)),
    paste0("width=", width),
    paste0("alt=\"", html(alt), "\"")
  )
  paste0("![", caption, "](", path, "){", paste(attributes, collapse = " "), "}\n")
}

latex_text <- function(text) gsub("([%&#_{}$])", "\\\\\\1", text)

# In an editor that has a viewer a plate is shown there, at its size; elsewhere on the device, with
# what it shows in words.
#' @export
print.nelvat_plate <- function(x, ...) {
  viewer <- getOption("viewer")
  if (is.function(viewer) && rlang::is_interactive()) {
    scene <- as_scene(x)
    # A viewer shows what lies in the session's own folder.
    path <- tempfile("plate", fileext = ".html")
    write_whole(path, text_bytes(viewed_page(x, scene)))
    viewer(path)
    return(invisible(x))
  }
  if (!isTRUE(getOption("knitr.in.progress"))) cat(plate_lines(x), sep = "\n")
  draw_here(x)
  invisible(x)
}

viewed_page <- function(plate, scene) {
  paste0(
    "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>",
    html(scene$title %||% "Plate"),
    "</title><style>body{margin:3mm;background:#fff}img{display:block}</style></head><body>\n",
    unclass(record_print.nelvat_plate(plate)),
    "\n</body></html>\n"
  )
}

# litedown and whatever records what is printed by package xfun: the picture stands in the text.
#' @exportS3Method xfun::record_print
record_print.nelvat_plate <- function(x, ...) {
  scene <- suppressWarnings(as_scene(x))
  image <- paste0("data:image/png;base64,", base64(png_bytes(scene, 300)))
  text <- paste0(
    "<img src=\"",
    image,
    "\" alt=\"",
    html(alt_text(scene)),
    "\" style=\"width:",
    dot_number(x$width_mm),
    "mm\">"
  )
  structure(text, class = "record_asis")
}

# Notebooks: what package repr asks for.
#' @exportS3Method repr::repr_png
repr_png.nelvat_plate <- function(obj, ...) png_bytes(suppressWarnings(as_scene(obj)), 150)
#' @exportS3Method repr::repr_svg
repr_svg.nelvat_plate <- function(obj, ...) {
  path <- tempfile(fileext = ".svg")
  on.exit(unlink(path))
  suppressWarnings(save_plate(obj, path))
  paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
}
#' @exportS3Method repr::repr_html
repr_html.nelvat_plate <- function(obj, ...) unclass(record_print.nelvat_plate(obj))
#' @exportS3Method repr::repr_text
repr_text.nelvat_plate <- function(obj, ...) {
  paste(plate_lines(obj), collapse = "\n")
}
