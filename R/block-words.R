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
    heading = a_text(or_null = TRUE, says = "A title over it, or `NULL`.")
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
    heading = a_text(or_null = TRUE, says = "A title over it, or `NULL`."),
    brightness = brightness_type()
  )
}

#' A scale bar for an image
#'
#' @eval argument_lines("scale_bar")
#' @return A description, for [image_panel()].
#' @examples
#' scale_bar(length = 5, unit = "mm", per_pixel = 0.02)
#' @export
scale_bar <- function(length, unit, per_pixel, colour = NULL, ...) {
  structure(said_arguments("scale_bar", ...), class = "nelvat_scale_bar")
}

#' @export
word_rows.scale_bar <- function(word) {
  list(
    length = a_number(1e-12, says = "Length it stands for, in `unit`."),
    unit = a_text(says = 'Unit of length, such as `"mm"` or `"\\u00b5m"`.'),
    per_pixel = a_number(1e-15, says = "Length of one pixel of the image, in `unit`."),
    colour = a_text(
      or_null = TRUE,
      says = "Colour of the bar and its text; `NULL`: black or white, whichever stands out."
    )
  )
}

#' @export
check_ink.ink_scale_bar <- function(ink, panel, call) check_bar_width(ink$bar, ink$wide, call)

check_bar_width <- function(bar, image_wide, call) {
  wide <- bar$length / bar$per_pixel
  if (wide <= image_wide) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "A scale bar must be shorter than its image.",
      x = paste0("It is ", format(wide), " pixels long, the image ", image_wide, ".")
    ),
    call
  )
}

#' @export
train_ink.ink_scale_bar <- function(ink, layer) {
  list(table = layer$table, zero = character(), says = bar_words(ink$bar))
}

#' @export
place_ink.ink_scale_bar <- function(ink, trained, place) {
  scale_bar_marks(ink$bar, trained$table$panel[1], ink$wide, ink$pixels, place)
}

# The bar in a panel of which so many pixels are seen across: as it was asked for, and in an
# enlargement that it would cross the longest of 1, 2 or 5 times a power of ten that leaves room.
bar_within <- function(bar, seen) {
  share <- bar$length / bar$per_pixel / seen
  if (share <= 0.5) return(bar)
  most <- 0.4 * seen * bar$per_pixel
  steps <- 10^floor(log10(most)) * c(1, 2, 5)
  changed(bar, length = max(steps[steps <= most * (1 + 1e-9)]))
}

#' @export
enlarged_says.ink_scale_bar <- function(ink, seen) bar_words(bar_within(ink$bar, diff(seen)))

# image_wide: pixels across the whole image, of which an enlargement shows a part.
scale_bar_marks <- function(bar, id, image_wide, pixels, place) {
  ends <- place$unit(c(0, image_wide), c(id, id), "x")
  seen <- (c(0, 1) - ends[1]) / diff(ends)
  enlarged <- diff(seen) < 1 - 1e-9
  if (enlarged) bar <- bar_within(bar, diff(seen) * image_wide)
  inset <- c(x = 2 / place$panel_w(id), y = 2 / place$panel_h(id))
  wide <- bar$length / bar$per_pixel / image_wide * diff(ends)
  string <- paste0(format(bar$length), "\u00a0", bar$unit)
  # A text longer than its bar ends with it, so that it stays inside the image.
  text_wide <- place$text_mm(string, place$house$type_pt$base)$width / place$panel_w(id)
  long <- text_wide > wide
  thick <- 0.7 / place$panel_h(id)
  right <- 1 - inset[["x"]]
  ground <- under_bar(
    pixels,
    seen[1] + diff(seen) * max(0, right - max(wide, text_wide)),
    seen[1] + diff(seen) * right,
    place$unit(c(0, nrow(pixels)), c(id, id), "y")
  )
  colour <- bar$colour %||% place$contrast(ground)
  # What lies under bar and text is made even.
  patch <- list(
    x = 0.8 / place$panel_w(id),
    y = (0.6 + place$house$type_pt$base * mm_per_pt * leading) / place$panel_h(id)
  )
  list(
    new_marks(
      "rects",
      new_table(
        panel = id,
        x0 = right - max(wide, text_wide) - patch$x,
        x1 = right + patch$x,
        y0 = inset[["y"]] - patch$x,
        y1 = inset[["y"]] + thick + patch$y,
        fill = if (colour == "#FFFFFF") "#000000" else "#FFFFFF",
        opacity = 0.6,
        .rows = 1L
      )
    ),
    new_marks(
      "rects",
      new_table(
        panel = id,
        x0 = right - wide,
        x1 = right,
        y0 = inset[["y"]],
        y1 = inset[["y"]] + thick,
        fill = colour,
        opacity = 1,
        .rows = 1L
      )
    ),
    c(
      new_marks(
        "words",
        new_table(
          panel = id,
          x = if (long) right else right - wide / 2,
          y = inset[["y"]] + thick,
          string = string,
          size_pt = place$house$type_pt$base,
          across = if (long) 1 else 0.5,
          down = 1,
          colour = colour,
          dy_mm = 0.3,
          .rows = 1L
        )
      ),
      list(role = "value")
    )
  )
}

# The mean colour of an image where the bar and its text stand: in the lowest 15 % of what is seen.
# from, to: shares of the image across; ends: where its lower and upper edges stand in the panel.
under_bar <- function(pixels, from, to, ends) {
  within <- function(ends, n) seq(max(1, ceiling(ends[1] * n)), min(n, max(1, floor(ends[2] * n))))
  up <- (c(0, 0.15) - ends[1]) / diff(ends)
  rows <- within(pmin(1, pmax(0, rev(1 - up))), nrow(pixels))
  columns <- within(pmin(1, pmax(0, c(from, to))), ncol(pixels))
  mean_rgb <- rowMeans(grDevices::col2rgb(pixels[rows, columns]))
  grDevices::rgb(mean_rgb[1], mean_rgb[2], mean_rgb[3], maxColorValue = 255)
}

#' @export
ink_traits.ink_scale_bar <- function(ink) note_traits()
