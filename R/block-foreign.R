# A finished picture of another package in the place of a panel: its plot area is aligned
# with those of other blocks. The drawing room measures it and makes the block.

# reach: list(left, right, top, bottom), mm around its plot area; picture: what the
# drawing room draws; label: what it is, for messages.
# aspect: height over width of its plot area where that is fixed.
new_foreign <- function(picture, reach, label, aspect = NULL) {
  new_block(
    "foreign",
    panel = list(book = NULL, variables = list()),
    picture = picture,
    reach = reach,
    label = label,
    aspect = aspect
  )
}

#' @export
block_cells.nelvat_foreign <- function(block) lone_cell("picture")
#' @export
block_layers.nelvat_foreign <- function(block, cells) list()
#' @export
panel_variables.nelvat_foreign <- function(block, areas, direction) {
  list(new_variable("picture", hidden_axis()))
}
#' @export
block_variables.nelvat_foreign <- function(block) list()
#' @export
block_label.nelvat_foreign <- function(block) block$label
