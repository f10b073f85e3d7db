# Which panels of a block share an axis.
#
# panels: row, column and the variable shown in this direction, a row a panel.
# range_per: "block", "column", "row" or "panel". Panels that show unlike variables never
# share, whatever is asked, and those that stand `alone` have an axis of their own.
# Returns a whole number for each panel: panels with the same number share.
share_axes <- function(panels, range_per) {
  line <- switch(
    range_per,
    block = 1L,
    column = panels$column,
    row = panels$row,
    panel = seq_len(nrow(panels))
  )
  unshared <- which(panels$alone %||% FALSE)
  key <- paste(panels$variable, line, sep = "\r")
  key[unshared] <- paste("own", unshared)
  match(key, unique(key))
}

# Which panels draw the tick text of their axis: those with no panel of the same
# axis beyond them on the side the text stands (below for x, left for y).
draws_tick_text <- function(panels, axis, direction) {
  vapply(
    seq_len(nrow(panels)),
    function(i) {
      beyond <- if (direction == "x") {
        which(panels$column == panels$column[i] & panels$row > panels$row[i])
      } else {
        which(panels$row == panels$row[i] & panels$column < panels$column[i])
      }
      if (!length(beyond)) return(TRUE)
      next_one <- beyond[
        if (direction == "x") which.min(panels$row[beyond]) else which.max(panels$column[beyond])
      ]
      axis[next_one] != axis[i]
    },
    NA
  )
}
