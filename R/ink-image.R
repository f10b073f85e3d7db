#' An image
#'
#' A PNG, JPEG or TIFF file in a panel, with equal lengths across and upwards, so that other inks
#' can be drawn over it in its units.
#'
#' @eval argument_lines("ink_image")
#' @return An ink, for [panel()]. The panel can leave out `x` and `y`; it then has no axes.
#' @details Of an image of more than 3,000 pixels to a side means of neighbours are drawn, 3,000 to
#'   its longer side: over 400 to the inch of a page 178 mm wide. Places stay in its own pixels.
#' @section Errors: `nelvat_error_file`, `nelvat_error_package` where the package for the format
#'   (png, jpeg or tiff) is not installed.
#' @examples
#' if (requireNamespace("png", quietly = TRUE)) {
#'   file <- tempfile(fileext = ".png")
#'   png::writePNG(matrix(seq(0, 1, length.out = 600), 20), file)
#'   plate(
#'     panel(data.frame(x = c(0, 30), y = c(0, 20)), x = x, y = y, ink_image(file)),
#'     width = 80,
#'     height = 60
#'   )
#' }
#' @export
ink_image <- function(path, x = NULL, y = NULL, brightness = NULL, ...) {
  ink <- said_ink("image", ...)
  call <- rlang::current_env()
  check_file(path, "image", call)
  check_brightness(ink$brightness, call)
  read <- read_image(path, call, ink$brightness)
  ink$path <- NULL
  ink$pixels <- read$pixels
  ink$wide <- read$wide
  ink$tall <- read$tall
  ink$x <- ink$x %||% c(0, read$wide)
  ink$y <- ink$y %||% c(0, read$tall)
  ink$equal <- TRUE
  ink
}

#' @export
word_rows.ink_image <- function(word) {
  list(
    path = a_path(
      says = c(
        "Path of a PNG, JPEG or TIFF file; what it holds counts, not its ending. Of a TIFF",
        "of several pages the first is drawn, and it is said."
      )
    ),
    x = places(
      2,
      says = c(
        "The ends it spans, two numbers each in data units; `NULL`: its pixels, with 0 at",
        "the lower left."
      )
    ),
    y = places(
      2,
      says = c(
        "The ends it spans, two numbers each in data units; `NULL`: its pixels, with 0 at",
        "the lower left."
      )
    ),
    brightness = brightness_type()
  )
}

# The first bytes of each format that is read.
image_marks <- list(
  png = list(as.raw(c(0x89, 0x50, 0x4e, 0x47))),
  jpeg = list(as.raw(c(0xff, 0xd8, 0xff))),
  tiff = list(as.raw(c(0x49, 0x49, 0x2a, 0x00)), as.raw(c(0x4d, 0x4d, 0x00, 0x2a)))
)

image_format <- function(path) {
  head <- readBin(path, "raw", 4)
  is_of <- function(marks) {
    any(vapply(marks, function(mark) identical(head[seq_along(mark)], mark), NA))
  }
  names(Filter(is_of, image_marks))
}

# The pixels of an image as colours, and how many it has: list(pixels, wide, tall).
# brightness: see brightness_type().
read_image <- function(path, call, brightness = NULL) {
  format <- image_format(path)
  if (!length(format)) {
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" cannot be read as an image."),
        x = "Its first bytes are those of no PNG, JPEG or TIFF file."
      ),
      call
    )
  }
  check_image_whole(path, format, call)
  need_package(format, paste("Reading", toupper(format), "images"), call)
  pixels <- tryCatch(
    switch(
      format,
      png = png::readPNG(path, native = TRUE),
      jpeg = jpeg::readJPEG(path, native = TRUE),
      tiff = suppressWarnings(tiff::readTIFF(path, all = TRUE, native = TRUE))
    ),
    error = function(error) {
      abort_nelvat(
        "file",
        c(
          paste0("\"", path, "\" cannot be read as ", toupper(format), "."),
          x = conditionMessage(error)
        ),
        call
      )
    }
  )
  if (is.list(pixels)) {
    if (length(pixels) > 1) {
      inform_once(
        c(
          i = paste0("\"", basename(path), "\" has ", length(pixels), " pages; the first is drawn.")
        )
      )
    }
    pixels <- pixels[[1]]
  }
  list(pixels = pixel_colours(pixels, brightness), wide = dim(pixels)[2], tall = dim(pixels)[1])
}

most_side <- 3000 # pixels to a side, that are drawn

# Of a native raster a matrix of colours, the top row first: of many pixels means of neighbours.
pixel_colours <- function(native, brightness = NULL) {
  sides <- dim(native)
  shown <- pmax(1L, as.integer(round(sides * min(1, most_side / max(sides)))))
  image_squares_cpp(native, sides[2], sides[1], shown[2], shown[1], level_table(brightness))
}

# What each level of 0 to 255 is drawn as.
level_table <- function(brightness) {
  if (is.null(brightness)) return(0:255)
  ends <- brightness / 100 * 255
  as.integer(round(255 * pmin(1, pmax(0, (0:255 - ends[1]) / diff(ends)))))
}

#' @export
check_ink.ink_image <- function(ink, panel, call) invisible()

#' @export
supplied_axis.ink_image <- function(ink, direction, variables) hidden_axis()

#' @export
train_ink.ink_image <- function(ink, layer) {
  c(train_places(layer, ink$x, ink$y), list(says = brightness_words(ink$brightness)))
}

#' @export
place_ink.ink_image <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(value, direction) site$unit(rep(value, length(panels)), panels, direction)
  list(
    c(
      new_marks(
        "image",
        new_table(
          panel = panels,
          x0 = unit(ink$x[1], "x"),
          x1 = unit(ink$x[2], "x"),
          y0 = unit(ink$y[1], "y"),
          y1 = unit(ink$y[2], "y"),
          .rows = length(panels)
        )
      ),
      list(pixels = ink$pixels)
    )
  )
}

#' @export
ink_traits.ink_image <- function(ink) note_traits()

most_pixels <- 1e8 # of an image that is read

# A JPEG that is cut short is drawn grey from there by its readers, without a word; an image of few
# bytes can claim more pixels than memory holds.
check_image_whole <- function(path, format, call) {
  size <- file.size(path)
  connection <- file(path, "rb")
  on.exit(close(connection))
  if (format == "jpeg") {
    seek(connection, max(0, size - 65536))
    tail <- readBin(connection, "raw", 65536)
    n <- length(tail)
    if (any(tail[-n] == as.raw(0xff) & tail[-1] == as.raw(0xd9))) return(invisible())
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" is not whole."),
        x = "It is cut short: the mark that ends a JPEG image is not in it.",
        i = "Copy or download it again."
      ),
      call
    )
  }
  if (format != "png") return(invisible())
  head <- readBin(connection, "raw", 24)
  if (length(head) < 24) return(invisible())
  sides <- vapply(list(17:20, 21:24), function(at) sum(as.integer(head[at]) * 256^(3:0)), 0)
  if (prod(sides) <= most_pixels) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("\"", path, "\" has too many pixels."),
      x = paste0(
        "It is ",
        count_text(sides[1]),
        " by ",
        count_text(sides[2]),
        " pixels; at most ",
        count_text(most_pixels),
        " are read."
      ),
      i = "Save it at the resolution that it is printed at."
    ),
    call
  )
}
