# A plate in words, for a console: its panels, axes and n, in at most ten lines.

plate_lines <- function(plate, width = getOption("width", 80)) {
  scene <- described_scene(plate)
  blocks <- read_blocks(scene)
  high <- scene$page$height_mm
  parted <- plate$grows && high > plate$house$page$height_most_mm + 0.05
  head <- paste0(
    "Plate of ",
    counted_panels(scene),
    ", ",
    dot_number(scene$page$width_mm),
    if (!parted) paste(" x", dot_number(high)),
    " mm",
    if (parted) " wide, over several pages"
  )
  most <- if (length(blocks) > 9) 8 else 9
  each <- vapply(utils::head(blocks, most), function(block) shown_line(scene, block, width), "")
  left <- length(blocks) - length(each)
  c(head, each, if (left) paste("and", counted(left, "more block")))
}

# What a console is too narrow for ends at a word, before n.
shown_line <- function(scene, block, width) {
  said <- block_in_short(scene, block)
  n <- said$n
  text <- said$text
  room <- max(20, width - nchar(n, "width"))
  if (nchar(text, "width") > room) {
    text <- paste0(sub(" [^ ]*$", "", strtrim(text, room - 4)), " ...")
  }
  paste0(text, n)
}
