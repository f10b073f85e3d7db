# A key of sizes stands in the one panel that shows them, where a corner of it is free of marks and
# words. Whether one is free only a layout without the key at the edge can say: what finds no room
# goes back, and the page is laid out again.

# A resolved plate whose keys of sizes stand in their panels, but for those of blocks `without`.
with_inside_keys <- function(resolved, plate, without = integer()) {
  if (!is.null(plate$key) || !is.null(plate$grid$key)) return(resolved)
  hosts <- which(vapply(resolved$blocks, may_hold_key, NA, resolved$blocks))
  goes_into <- function(key, block) {
    isTRUE(key$sizes) && all(startsWith(key$of_layers, paste0(block$id, " ")))
  }
  goes <- function(key) {
    any(vapply(resolved$blocks[setdiff(hosts, without)], function(b) goes_into(key, b), NA))
  }
  blocks <- lapply(resolved$blocks, function(block) {
    inside <- Filter(
      function(key) goes(key) && goes_into(key, block),
      c(resolved$keys, block$keys)
    )
    changed(block, keys = Filter(Negate(goes), block$keys), inside = inside)
  })
  changed(resolved, blocks = blocks, keys = Filter(Negate(goes), resolved$keys))
}

# Has a block one panel, with nothing else that wants its corners?
may_hold_key <- function(block, blocks) {
  hosts <- unlist(
    lapply(blocks, function(other) {
      if (isTRUE(other$panels$role[1] == "inset")) other$panels$host
    })
  )
  nrow(block$panels) == 1 && block$panels$role == "panel" && is.null(block$design$zoom) &&
    !has_free_room(block) && !block$panels$id %in% hosts
}

holds_keys <- function(resolved) {
  any(vapply(resolved$blocks, function(block) length(block$inside) > 0, NA))
}

# The blocks whose marks alone leave no corner free in a layout with the keys at the edge, which
# need not be tried.
blocks_full <- function(resolved, laid, plate, font) {
  is_full <- vapply(
    seq_along(resolved$blocks),
    function(i) {
      block <- resolved$blocks[[i]]
      if (!length(block$inside)) return(FALSE)
      panels <- scene_areas(block, laid$frames[[i]])
      axes <- scene_axes(block, laid$fits[[i]])
      marks <- place_marks(block, axes, panels, plate$house, font)
      !isTRUE(place_inside(block, panels, marks, list(), plate$house, font)$free)
    },
    NA
  )
  which(is_full)
}

# The blocks of a layout whose keys found no free corner.
blocks_without_corner <- function(laid, house, font) {
  lacks <- vapply(
    seq_along(laid$blocks),
    function(i) {
      length(laid$blocks[[i]]$inside) > 0 && !isTRUE(block_scene(laid, i, house, font)$inside$free)
    },
    NA
  )
  which(lacks)
}

# The keys that stand in a block's panel: list(texts, keys, rules, free). texts: those that stand
# in the block already.
place_inside <- function(block, panels, marks, texts, house, font) {
  if (!length(block$inside)) return(NULL)
  entries <- late_keys(block$inside, marks)
  set <- stack_keys(entries, house, font)
  one_panel <- panels[panels$id == block$panels$id, ]
  corner <- if (!any(vapply(marks, function(layer) layer$primitive == "image", NA))) {
    spot_in_panel(set, one_panel, marks, texts)
  }
  placed <- list(
    items = set$items,
    x_mm = corner$x_mm %||% one_panel$x,
    y_mm = corner$y_mm %||% one_panel$y,
    panel = one_panel$id,
    frame = corner$frame
  )
  list(
    texts = place_key_texts(placed, font),
    keys = scene_keys(entries, placed, house),
    rules = key_frame(placed, house),
    free = !is.null(corner) && corner$covered == 0
  )
}
