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
