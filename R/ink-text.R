#' @rdname marks
#' @export
ink_text <- function(
  label,
  x,
  y,
  at = "data",
  anchor = "right",
  size = NULL,
  colour = NULL,
  where = NULL,
  ...
) {
  said_ink("text", ...)
}

#' @export
word_rows.ink_text <- function(word) {
  of_marks <- mark_rows(1)
  c(
    list(
      label = a_text(
        says = c(
          "The note, with inline markup; `{n}` and `{missing}` in it are the rows that its",
          "panel draws, and those that it was given and does not draw."
        )
      )
    ),
    of_marks[c("x", "y")],
    list(
      at = a_choice(c("data", "panel"), says = '`"data"` or `"panel"`.'),
      anchor = a_choice(
        names(anchors),
        says = c(
          'Where the note stands from its position: `"right"`, `"left"`, `"above"`, `"below"`',
          'or `"middle"`.'
        )
      ),
      size = pt_size(says = "Type size in points; `NULL` for the house's base.")
    ),
    of_marks[c("colour", "where")]
  )
}

anchors <- list(
  right = c(0, 0.5),
  left = c(1, 0.5),
  above = c(0.5, 1),
  below = c(0.5, 0),
  middle = c(0.5, 0.5)
)

#' @export
check_ink.ink_text <- function(ink, panel, call) {
  check_places_axes(panel, call)
  if (ink$at == "data") return(invisible())
  for (direction in c("x", "y")) {
    place <- ink[[direction]]
    if (is.numeric(place) && place >= 0 && place <= 1) next
    abort_nelvat(
      "argument",
      c(
        paste0("`", direction, "` of a note at \"panel\" must be a share of the panel, 0 to 1."),
        x = paste0("Found ", if (is_places(place)) quoted(place$text) else format(place), "."),
        i = "`at = \"data\"` places it by the values of the axes."
      ),
      call
    )
  }
}

# A note in a corner of the panel stands on no axis.
#' @export
said_on_axis.ink_text <- function(ink, direction) if (ink$at == "data") ink[direction]

#' @export
train_ink.ink_text <- function(ink, layer) {
  if (ink$at == "panel") train_places(layer) else train_places(layer, ink$x, ink$y)
}

note_gap_mm <- 1

#' @export
place_ink.ink_text <- function(ink, trained, site) {
  panels <- trained$table$panel
  unit <- function(value, direction) {
    if (ink$at == "panel") {
      rep(value, length(panels))
    } else {
      site$unit(rep(value, length(panels)), panels, direction)
    }
  }
  anchor <- anchors[[ink$anchor]]
  list(
    c(
      new_marks(
        "words",
        new_table(
          panel = panels,
          x = unit(ink$x, "x"),
          y = unit(ink$y, "y"),
          string = ink$label,
          size_pt = ink$size %||% site$house$type_pt$base,
          across = anchor[1],
          down = anchor[2],
          colour = ink$colour %||% site$house$colour$text,
          dx_mm = note_gap_mm * (1 - 2 * anchor[1]),
          dy_mm = note_gap_mm * (2 * anchor[2] - 1),
          .rows = length(panels)
        )
      ),
      list(role = "note")
    )
  )
}

#' @export
ink_traits.ink_text <- function(ink) note_traits()
