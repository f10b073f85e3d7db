# Room for the plate's title and note.

# Room for the plate's title and note, laid out to its width.
page_edges <- function(plate, font) {
  style <- plate$house
  wide <- plate$width_mm - 2 * style$space_mm$margin
  lay <- function(text, size, bold = FALSE) {
    if (!is.null(text)) {
      set_within(measure_words(text, font, bold), size, font, wide, most_note_lines)
    }
  }
  title <- lay(plate$title, style$type_pt$plate_title, TRUE)
  note <- lay(plate$note, style$type_pt$note)
  high <- function(laid) {
    if (is.null(laid)) {
      0
    } else {
      text_height_mm(laid$n_lines, laid$size_pt, font) + style$space_mm$key_gap
    }
  }
  list(title = title, note = note, top_mm = high(title), bottom_mm = high(note))
}

place_edges <- function(edges, plate, font) {
  margin <- plate$house$space_mm$margin
  list(
    if (!is.null(edges$title)) place_text("plate title", edges$title, margin, margin, font),
    if (!is.null(edges$note)) {
      place_text("plate note", edges$note, margin, plate$height_mm - margin, font, down = 1)
    }
  )
}
