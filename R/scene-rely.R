# Blocks whose axis another block draws for them: its ticks can be read off only where plot areas of
# both stand on one line, which the layout finds.

on_line_mm <- 0.01

# `block`, which leaves its axis `k` to the block `on` (an id). own: the block as it draws it
# itself.
relying <- function(block, own, k, on) {
  direction <- own$axes[[k]]$direction
  shown <- paste0(direction, "_shown")
  leaves <- list(
    axis = k,
    direction = direction,
    on = on,
    own = own$axes[[k]],
    shown = list(areas = own$areas[[shown]], panels = own$panels[[shown]])
  )
  changed(block, relies = c(block$relies, list(leaves)))
}

# The blocks of a layout, those that do not stand on one line with the block that they rely on with
# an axis of their own; NULL where all do.
with_own_axes <- function(blocks, frames) {
  ids <- vapply(blocks, `[[`, "", "id")
  stands <- function(i, leaves) {
    off_mm <- off_line(frames[[i]], frames[[match(leaves$on, ids)]], leaves$direction)
    off_mm <= on_line_mm
  }
  apart <- lapply(seq_along(blocks), function(i) {
    !vapply(blocks[[i]]$relies, function(leaves) stands(i, leaves), NA)
  })
  if (any(unlist(apart))) Map(drawing_own, blocks, apart)
}

off_line <- function(frame, other, direction) {
  ends <- function(frame) c(frame[[direction]]$start_mm, frame[[direction]]$length_mm)
  max(abs(ends(frame) - ends(other)))
}

drawing_own <- function(block, apart) {
  for (leaves in block$relies[apart]) {
    shown <- function(table, of) {
      replace(table, paste0(leaves$direction, "_shown"), list(leaves$shown[[of]]))
    }
    block <- changed(
      block,
      axes = replace(block$axes, leaves$axis, list(leaves$own)),
      areas = shown(block$areas, "areas"),
      panels = shown(block$panels, "panels")
    )
  }
  changed(block, relies = block$relies[!apart])
}
