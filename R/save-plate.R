#' Write a plate to files
#'
#' The page is exactly the plate's size. A file that exists is replaced only once
#' the new one is whole. Where a block has more rows of panels than the page holds, it
#' goes on over several pages, `figure-1.pdf`, `figure-2.pdf` and so on, headings
#' repeated and axes shared over all of them; a message says so.
#'
#' @param plate A [plate()].
#' @param paths One or more paths ending in `.pdf`, `.svg` (text as text; needs the package
#'   svglite), `.eps`, `.tiff` (LZW) or `.png`; all are drawn from one layout.
#' @param dpi Dots per inch of TIFF and PNG, and of what is drawn as an image in EPS.
#' @param dense Panels of more than 20,000 marks in vector files: `"vector"`, or `"image"` to
#'   draw their inside as an image of `dpi`, axes and text staying vector. Points that are wholly
#'   hidden and points of traces between the least and greatest of a printed column (600 dpi) are
#'   left out in any case.
#' @return The paths written, invisibly.
#' @section Errors:
#' `nelvat_error_file` for a folder that is not there or an ending that is not
#' known; the errors of [as_scene()]. No file is written or changed then.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' save_plate(fig, tempfile(fileext = ".pdf"))
#' @export
save_plate <- function(plate, paths, dpi = 600, dense = "vector") {
  check_number(dpi, "dpi", 30, 2400)
  check_choice(dense, c("vector", "image"), "dense")
  if (dense == "image") need_package("png", "Drawing panels as images", rlang::current_env())
  call <- rlang::current_env()
  check_is_plate(plate, call)
  writers <- lapply(paths, plate_writer, call = call)
  scenes <- lapply(page_scenes(plate, call), with_dense, dense, dpi)
  written <- character()
  for (i in seq_along(paths)) {
    targets <- page_paths(paths[i], length(scenes))
    for (k in seq_along(scenes)) write_whole(targets[k], function(temporary) writers[[i]](scenes[[k]], temporary, dpi), call)
    written <- c(written, targets)
  }
  if (length(scenes) > 1) rlang::inform(c(i = paste0("The panels take ", length(scenes), " pages: ", listed(basename(written)), ".")))
  invisible(written)
}

# How the drawing room shall draw panels of very many marks.
with_dense <- function(scene, dense, dpi) {
  if (dense == "image") attr(scene, "dense_dpi") <- dpi
  scene
}

# figure.pdf; over several pages figure-1.pdf, figure-2.pdf ...
page_paths <- function(path, n) {
  if (n == 1) return(path)
  ending <- tools::file_ext(path)
  paste0(substr(path, 1, nchar(path) - nchar(ending) - 1), "-", seq_len(n), ".", ending)
}

plate_writers <- function() list(pdf = save_pdf, svg = save_svg, eps = save_eps, tiff = save_tiff, tif = save_tiff, png = save_png)

plate_writer <- function(path, call) {
  check_string(path, "paths", call = call)
  format <- tolower(tools::file_ext(path))
  known <- plate_writers()
  if (!format %in% names(known)) {
    abort_nelvat("file", c(
      paste0("\"", path, "\" must end in ", sub(" and ", " or ", listed(paste0(".", names(known)))), "."),
      x = if (nzchar(format)) paste0("Found \".", format, "\".") else "It has no ending."
    ), call)
  }
  if (!dir.exists(dirname(path))) {
    abort_nelvat("file", c(paste0("The folder of \"", path, "\" does not exist."), x = paste0("Not found: \"", dirname(path), "\".")), call)
  }
  known[[format]]
}

# Draws each grob on a page of the open device and closes it.
draw_and_close <- function(grobs) {
  device <- grDevices::dev.cur()
  on.exit(grDevices::dev.off(device))
  for (grob in grobs) {
    grid::grid.newpage()
    grid::grid.draw(grob)
  }
}

# In a knitr document a plate is shown at its own size.
#' @exportS3Method knitr::knit_print
knit_print.nelvat_plate <- function(x, options, ...) {
  ending <- if (isTRUE(knitr::pandoc_to("latex"))) ".pdf" else ".png"
  path <- knitr::fig_path(ending, options)
  dir.create(dirname(path), recursive = TRUE, showWarnings = FALSE)
  save_plate(x, path, dpi = 300)
  options$out.width <- paste0(format(x$width_mm), "mm")
  knitr::asis_output(paste0("![](", path, "){width=", format(x$width_mm), "mm}\n"))
}
