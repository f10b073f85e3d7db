#' Text or an image in the place of a panel
#'
#' @eval argument_lines("text_panel", "image_panel")
#' @return A block, for [plate()].
#' @section Errors: `nelvat_error_space` (when the plate is resolved) for text that does not
#'   fit its place; `nelvat_error_file` for an image that cannot be read.
#' @examples
#' bars <- panel(study("loaves"), x = flour, y = rise, ink_bars())
#' words <- text_panel("Loaves of **four flours**, twelve of each.")
#' plate(beside(bars, words, widths = c(2, 1)), width = 120, height = 60)
#' @export
text_panel <- function(text, heading = NULL, ...) {
  said <- said_arguments("text_panel", ...)
  new_block(
    "words",
    panel = list(book = NULL, variables = list()),
    text = said$text,
    title_over = heading,
    said = list(word = text_panel, arguments = said)
  )
}

#' @export
word_rows.text_panel <- function(word) {
  list(
    text = a_text(says = "Text with inline markup; line feeds begin new lines."),
    heading = a_title(says = "A title over it, or `NULL`.")
  )
}

#' @export
block_cells.nelvat_words <- function(block) lone_cell("words")
#' @export
block_layers.nelvat_words <- function(block, cells) {
  ink <- new_ink(
    "names",
    strings = block$text,
    x = 0,
    y = 1,
    across = 0,
    down = 0,
    role = "note",
    most_lines = 200L
  )
  table <- new_table(panel = cells$areas$id, x = 0, y = 0, .rows = 1L)
  list(new_layer(ink, table, plain_axis(TRUE), plain_axis(TRUE)))
}
#' @export
panel_variables.nelvat_words <- function(block, areas, direction) {
  list(new_variable("text", hidden_axis()))
}
#' @export
block_variables.nelvat_words <- function(block) list()
#' @export
block_label.nelvat_words <- function(block) "a text panel"

#' @rdname text_panel
#' @export
image_panel <- function(path, scale = NULL, heading = NULL, brightness = NULL, ...) {
  check_rest(...)
  call <- rlang::current_env()
  image <- ink_image(path, brightness = brightness)
  check_scale_bar(scale, call)
  inks <- c(
    list(image),
    if (!is.null(scale)) {
      list(new_ink("scale_bar", bar = scale, pixels = image$pixels, wide = image$wide))
    }
  )
  # Positions are pixels; the image fills its plot area.
  pixels <- axis_of(padding = 0, range = c(0, image$wide))
  lines <- axis_of(padding = 0, range = c(0, image$tall))
  none <- rlang::quo(NULL)
  design <- new_panel(
    as_codebook(
      data.frame(image = basename(path)),
      paste0("the image \"", basename(path), "\""),
      call
    ),
    list(x = none, y = none),
    inks,
    axes = list(x = pixels, y = lines),
    call = call
  )
  block <- new_facets(design, none, none, list(), call)
  block <- changed(
    block,
    aspect = image$tall / image$wide,
    role = "picture",
    said = list(
      word = image_panel,
      arguments = list(path = path, scale = scale, heading = heading, brightness = brightness)
    )
  )
  with_heading(block, heading, call)
}

#' @export
word_rows.image_panel <- function(word) {
  list(
    path = a_path(says = "Path of a PNG, JPEG or TIFF file."),
    scale = scale_bar_type(),
    heading = a_title(says = "A title over it, or `NULL`."),
    brightness = brightness_type()
  )
}
