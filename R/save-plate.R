#' Write a plate to files
#'
#' The page is exactly the plate's size. Files change together: one that exists is replaced
#' only once all new ones are whole, and a symbolic link has the file it leads to replaced.
#' PNG and TIFF are drawn by ragg, state their resolution, and PDF, EPS and SVG keep text as
#' text. A plate that was given no height, and has more panels than the greatest height of its house
#' holds, goes on over several pages, `figure-1.pdf`, `figure-2.pdf` and so on, headings
#' repeated and axes shared over all of them; a message says so.
#'
#' @param plate A [plate()], or its scene, as [as_scene()] or [read_scene()] gives it.
#' @param paths One or more paths ending in `.pdf`, `.svg` (text as text; needs the package
#'   svglite), `.eps`, `.tiff` (LZW) or `.png`; all are drawn from one layout.
#' @param dpi Dots per inch of TIFF and PNG, and of what is drawn as an image in EPS.
#' @param dense Panels of more than 20,000 marks in vector files: `"vector"`, or `"image"` to
#'   draw their inside as an image of `dpi`, axes and text staying vector. Points that are wholly
#'   hidden and points of traces between the least and greatest of a printed column (600 dpi) are
#'   left out in any case.
#' @param archive Put the scene, the data that the marks show and what their columns mean inside the
#'   PDFs, from which [recover_figure()] takes them? It publishes these data; a message lists them.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The paths written, invisibly.
#' @section Errors:
#' `nelvat_error_file` for a folder that is not there, an ending that is not known, or a file
#' that could not be written whole; `nelvat_error_device` where R's device wrote no whole file;
#' the errors of [as_scene()]. No file is written or changed then. A warning of the class
#' `nelvat_warning_device` tells where a PDF's page could not be brought to its exact size.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' save_plate(fig, tempfile(fileext = ".pdf"))
#' @export
save_plate <- function(plate, paths, dpi = 600, dense = "vector", archive = FALSE, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_flag(archive, "archive")
  files <- if (inherits(plate, "nelvat_scene")) {
    scene_files(plate, paths, dpi, dense, archive, call)
  } else {
    plate_files(plate, paths, dpi, dense, call, archive = archive)
  }
  write_together(names(files), files, call)
  invisible(names(files))
}

# The files of a plate before they are written: their bytes, by path.
plate_files <- function(
  plate,
  paths,
  dpi = 600,
  dense = "vector",
  call = rlang::caller_env(),
  resolved = resolve_plate(plate),
  archive = FALSE
) {
  check_number(dpi, "dpi", 30, 2400, call = call)
  check_choice(dense, c("vector", "image"), "dense", call)
  check_is_plate(plate, call)
  writers <- lapply(paths, plate_writer, call = call)
  dense_dpi <- if (dense == "image") dpi
  pages <- page_scenes(plate, call, resolved)
  scenes <- lapply(pages, as_drawing, plate, dense_dpi)
  files <- list()
  for (i in seq_along(paths)) {
    targets <- page_paths(paths[i], length(scenes))
    for (k in seq_along(scenes)) files[[targets[k]]] <- writers[[i]](scenes[[k]], dpi)
  }
  if (archive) {
    inside <- plate_archive(plate, resolved, pages, call)
    is_pdf <- grepl("[.]pdf$", names(files), ignore.case = TRUE)
    if (!any(is_pdf)) {
      abort_nelvat(
        "argument",
        c("`archive = TRUE` is for PDFs.", x = paste0("Found ", quoted(basename(paths)), ".")),
        call
      )
    }
    tell_archived(inside)
    files[is_pdf] <- lapply(files[is_pdf], pdf_with_files, inside)
  }
  if (length(scenes) > 1) {
    rlang::inform(
      c(
        i = paste0(
          "The panels take ",
          length(scenes),
          " pages: ",
          listed(basename(names(files))),
          "."
        )
      )
    )
  }
  files
}

# The files of a scene, such as one that was read back.
scene_files <- function(scene, paths, dpi, dense, archive, call) {
  check_number(dpi, "dpi", 30, 2400, call = call)
  check_choice(dense, c("vector", "image"), "dense", call)
  wrong <- if (archive) {
    "`archive = TRUE` needs the plate."
  } else if (NROW(scene$pictures)) {
    "A scene does not hold the plots of other packages that stand in it."
  }
  if (!is.null(wrong)) {
    abort_nelvat("argument", c("The scene cannot be saved so.", x = wrong), call)
  }
  writers <- lapply(paths, plate_writer, call = call)
  drawing <- as_drawing(scene, dense_dpi = if (dense == "image") dpi)
  stats::setNames(lapply(writers, function(write) write(drawing, dpi)), paths)
}

# figure.pdf; over several pages figure-1.pdf, figure-2.pdf ...
page_paths <- function(path, n) {
  if (n == 1) return(path)
  ending <- tools::file_ext(path)
  paste0(substr(path, 1, nchar(path) - nchar(ending) - 1), "-", seq_len(n), ".", ending)
}

plate_writers <- function() {
  list(
    pdf = pdf_bytes,
    svg = svg_bytes,
    eps = eps_bytes,
    tiff = tiff_bytes,
    tif = tiff_bytes,
    png = png_bytes
  )
}

plate_writer <- function(path, call) {
  check_string(path, "paths", call = call)
  known <- plate_writers()
  check_ending(path, known, call)
  check_folder(path, call)
  known[[tolower(tools::file_ext(path))]]
}

check_ending <- function(path, known, call) {
  format <- tolower(tools::file_ext(path))
  if (!format %in% names(known)) {
    abort_nelvat(
      "file",
      c(
        paste0(
          "\"",
          path,
          "\" must end in ",
          sub(" and ", " or ", listed(paste0(".", names(known)))),
          "."
        ),
        x = if (nzchar(format)) paste0("Found \".", format, "\".") else "It has no ending."
      ),
      call,
      at = "save",
      found = basename(path)
    )
  }
}
