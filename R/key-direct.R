# Names at the ends of lines in place of a key: right of the last panel of each row, in the
# line's colour, pushed apart where they would touch.

direct_gap_mm <- 1.2

# The keys that lines can say themselves: levels by colour, shown by lines.
is_direct <- function(key) {
  !isTRUE(key$ramp) && "line" %in% key$glyph && length(unique(key$colour)) == length(key$colour)
}

lay_direct <- function(keys, house, font) {
  unlist(
    lapply(keys, function(key) lapply(key$labels, set_text, house$type_pt$key, font, 40, 2L)),
    recursive = FALSE
  )
}

# Room right of the last column, in mm.
direct_room <- function(keys, house, font) {
  laid <- lay_direct(keys, house, font)
  if (length(laid)) max(widest_mm(laid)) + direct_gap_mm else 0
}

place_direct <- function(own, marks, panels, house, font) {
  entries <- own$block$direct
  if (!length(entries)) return(NULL)
  laid <- lay_direct(entries, house, font)
  colours <- unlist(lapply(entries, `[[`, "colour"))
  own_panels <- panels[panels$role != "marginal", ]
  last <- own_panels[own_panels$column == max(own_panels$column), ]
  unlist(
    lapply(seq_len(nrow(last)), function(i) {
      one_panel <- last[i, ]
      ends <- line_ends(marks, one_panel$id, colours)
      named_lines <- which(!is.na(ends))
      if (!length(named_lines)) return(NULL)
      high <- vapply(
        laid[named_lines],
        function(one) text_height_mm(one$n_lines, one$size_pt, font),
        0
      )
      middle <- pushed_apart(one_panel$y + (1 - ends[named_lines]) * one_panel$h, high)
      Map(
        function(k, y) {
          place_text(
            "direct label",
            laid[[k]],
            one_panel$x + one_panel$w + direct_gap_mm,
            y,
            font,
            down = 0.5,
            panel = one_panel$id,
            colour = legible(colours[k])
          )
        },
        named_lines,
        middle
      )
    }),
    recursive = FALSE
  )
}

# Where the last point of each colour's line stands, 0 to 1 upwards; NA without one.
line_ends <- function(marks, id, colours) {
  lines <- stack_tables(
    lapply(Filter(function(layer) layer$primitive == "lines", marks), function(layer) {
      table_rows(layer$table[c("panel", "x", "y", "colour")], layer$table$panel == id)
    })
  )
  vapply(
    colours,
    function(colour) {
      line_points <- if (!is.null(lines)) lines[lines$colour == colour & !is.na(lines$y), ]
      if (is.null(line_points) || !nrow(line_points)) {
        NA_real_
      } else {
        min(max(line_points$y[which.max(line_points$x)], 0), 1)
      }
    },
    0,
    USE.NAMES = FALSE
  )
}
