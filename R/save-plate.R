#' Write a plate to files
#'
#' The page is exactly the plate's size. A file that exists is replaced only once
#' the new one is whole.
#'
#' @param plate A [plate()].
#' @param paths One or more paths ending in `.pdf` or `.png`.
#' @param dpi Dots per inch of the PNG.
#' @return The paths, invisibly.
#' @section Errors:
#' `nelvat_error_file` for a folder that is not there or an ending that is not
#' known; the errors of [as_scene()]. No file is written or changed then.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' save_plate(fig, tempfile(fileext = ".pdf"))
#' @export
save_plate <- function(plate, paths, dpi = 600) {
  check_number(dpi, "dpi", 30, 2400)
  call <- rlang::current_env()
  check_is_plate(plate, call)
  writers <- lapply(paths, plate_writer, call = call)
  scene <- as_scene(plate)
  for (i in seq_along(paths)) write_whole(paths[i], function(temporary) writers[[i]](scene, temporary, dpi), call)
  invisible(paths)
}

plate_writers <- function() list(pdf = save_pdf, png = save_png)

plate_writer <- function(path, call) {
  check_string(path, "paths", call = call)
  format <- tolower(tools::file_ext(path))
  known <- plate_writers()
  if (!format %in% names(known)) {
    abort_nelvat("file", c(
      paste0("\"", path, "\" must end in ", paste0(".", names(known), collapse = " or "), "."),
      x = if (nzchar(format)) paste0("Found \".", format, "\".") else "It has no ending."
    ), call)
  }
  if (!dir.exists(dirname(path))) {
    abort_nelvat("file", c(paste0("The folder of \"", path, "\" does not exist."), x = paste0("Not found: \"", dirname(path), "\".")), call)
  }
  known[[format]]
}

save_png <- function(scene, path, dpi) {
  grDevices::png(path, width = scene$page$width_mm, height = scene$page$height_mm, units = "mm", res = dpi,
                 type = "cairo", antialias = "subpixel", bg = "white")
  draw_and_close(list(scene_grob(scene)))
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
