# Text in panels: at unit-panel positions, with an anchor within its own box.

# counts: what the pieces {n} and {missing} of notes stand for. Notes stay inside their panel and
# off each other; what may stand anywhere, as equations, goes where it covers neither marks nor
# notes, nor stands under insets.
place_words <- function(marks, panels, house, font, counts, insets = list()) {
  word_layers <- Filter(function(layer) layer$primitive == "words", marks)
  anywhere <- vapply(word_layers, function(layer) isTRUE(layer$corner), NA)
  placed <- list()
  for (layer in word_layers[!anywhere]) {
    placed <- c(placed, place_layer(layer, placed, panels, house, font, counts))
  }
  for (layer in word_layers[anywhere]) {
    taken <- c(lapply(placed, `[[`, "text"), insets)
    layer <- in_corners(layer, marks, panels, house, font, taken)
    placed <- c(placed, place_layer(layer, list(), panels, house, font, counts))
  }
  placed
}

# A zoom does not write again what stands on the panel that it shows part of.
zoom_words <- function(marks, block) {
  if (is.null(block$design$zoom)) return(marks)
  Filter(function(layer) layer$primitive != "words" || !isTRUE(layer$corner), marks)
}

place_layer <- function(layer, placed, panels, house, font, counts) {
  # What stands beyond the panel, as in a zoom, is not written.
  table <- layer$table
  if (!is.null(table$x)) {
    table <- table_rows(
      table,
      table$x >= -1e-6 & table$x <= 1 + 1e-6 & table$y >= -1e-6 & table$y <= 1 + 1e-6
    )
  }
  role <- layer$role %||% "note"
  these_placed <- list()
  for (i in seq_len(nrow(table))) {
    one_panel <- panels[panels$id == table$panel[i], ]
    laid <- set_text(
      word_string(layer, table$string[i], one_panel$id, counts, house),
      table$size_pt[i],
      font,
      if (is.null(table$most_mm)) one_panel$w else table$most_mm[i],
      layer$most_lines %||% most_note_lines
    )
    if (!is.null(layer$most_lines)) check_text_fits(laid, one_panel, font)
    put <- function(dx, dy) {
      place_text(
        role,
        laid,
        one_panel$x + table$x[i] * one_panel$w + (table$dx_mm %||% rep(0, nrow(table)))[i] + dx,
        one_panel$y + (1 - table$y[i]) * one_panel$h - (table$dy_mm %||% rep(0, nrow(table)))[i] +
          dy,
        font,
        across = table$across[i],
        down = table$down[i],
        angle = (table$angle %||% rep(0, nrow(table)))[i],
        panel = one_panel$id,
        colour = table$colour[i]
      )
    }
    is_note <- role == "note" && is.null(layer$most_lines)
    one_placed <- if (is_note) {
      note_inside(put, c(placed, these_placed), one_panel)
    } else {
      put(0, 0)
    }
    these_placed <- c(these_placed, list(one_placed))
  }
  these_placed
}

# A note moved into its panel, and under or over the notes before it that it would touch.
# put(dx, dy): places it, moved by millimetres.
note_inside <- function(put, placed, panel) {
  box <- put(0, 0)$text
  wide <- box$x1 - box$x0
  high <- box$y1 - box$y0
  if (wide > panel$w + 0.01 || high > panel$h + 0.01) abort_note(box, panel)
  dx <- max(0, panel$x - box$x0) - max(0, box$x1 - panel$x - panel$w)
  dy <- max(0, panel$y - box$y0) - max(0, box$y1 - panel$y - panel$h)
  others <- Filter(function(one) identical(one$panel, panel$id), lapply(placed, `[[`, "text"))
  top <- box$y0 + dy
  is_free <- function(top) {
    top >= panel$y - 0.01 && top + high <= panel$y + panel$h + 0.01 &&
      !any(
        vapply(
          others,
          function(one) {
            box$x0 + dx < one$x1 && box$x1 + dx > one$x0 && top < one$y1 && top + high > one$y0
          },
          NA
        )
      )
  }
  tops <- c(top, unlist(lapply(others, function(one) c(one$y1, one$y0 - high))))
  free <- tops[vapply(tops, is_free, NA)]
  if (!length(free)) abort_notes_meet(box)
  put(dx, dy + free[which.min(abs(free - top))] - top)
}

abort_note <- function(text, panel) {
  abort_nelvat(
    "labels",
    c(
      paste0("The note \"", shortened(text$string), "\" has no room in its panel."),
      x = paste0(
        "It takes ",
        format(round(text$x1 - text$x0, 1)),
        " by ",
        format(round(text$y1 - text$y0, 1)),
        " mm; the panel is ",
        format(round(panel$w, 1)),
        " by ",
        format(round(panel$h, 1)),
        " mm."
      ),
      i = "Shorten it, or give it a smaller `size`."
    ),
    call = NULL
  )
}

abort_notes_meet <- function(text) {
  abort_nelvat(
    "labels",
    c(
      paste0(
        "The note \"",
        shortened(text$string),
        "\" would stand over another text of its panel."
      ),
      i = "Move it, or leave one of them out."
    ),
    call = NULL
  )
}

shortened <- function(string, most = 40) {
  if (nchar(string) > most) paste0(substr(string, 1, most - 3), "...") else string
}
