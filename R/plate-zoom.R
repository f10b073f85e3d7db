#' Part of a panel, enlarged
#'
#' A panel that shows part of another panel of the same plate with the same inks and
#' colours. The part is outlined on the other panel, with the letter of the zoom.
#'
#' @eval argument_lines("zoom")
#' @return A block, for [plate()].
#' @details Where the panel keeps lengths equal across and upwards, so does the zoom: its
#'   plot area is made narrower or lower than its place. Equations and other words that may stand
#'   anywhere in the panel are not written again in the zoom.
#' @section Errors: `nelvat_error_argument` where the plate has no such block or panel;
#'   `nelvat_error_space`, when the plate is resolved, for an inset that finds no place free of
#'   data and text.
#' @examples
#' slice <- panel(
#'   study("slice"),
#'   x = x,
#'   y = y,
#'   group = triangle,
#'   colour = moisture,
#'   ink_mesh(edges = FALSE)
#' )
#' plate(
#'   beside(slice = slice, zoom(of = "slice", x = c(40, 60), y = c(20, 40))),
#'   width = "double",
#'   height = 70
#' )
#' @export
zoom <- function(
  of,
  x = NULL,
  y = NULL,
  panel = 1,
  leaders = FALSE,
  inset = FALSE,
  size = NULL,
  heading = NULL,
  ...
) {
  call <- rlang::current_env()
  said <- said_arguments("zoom", ...)
  if (is.null(x) && is.null(y)) {
    abort_nelvat(
      "argument",
      c("A zoom needs `x` or `y`, the part it shows.", x = "Neither is given."),
      call
    )
  }
  for (ends in said[c("x", "y")]) {
    if (anyNA(if (is_places(ends)) ends$text else ends)) {
      abort_nelvat(
        "argument",
        c("Both ends of a zoom's part must be given.", x = "One of them is missing."),
        call
      )
    }
  }
  new_block(
    "zoom",
    of = of,
    x = said$x,
    y = said$y,
    of_panel = panel,
    leaders = leaders,
    inset = inset,
    size = size,
    title_over = heading,
    said = list(
      word = zoom,
      arguments = list(
        of = of,
        x = x,
        y = y,
        panel = panel,
        leaders = leaders,
        inset = inset,
        size = size,
        heading = heading
      )
    )
  )
}

#' @export
word_rows.zoom <- function(word) {
  list(
    of = either(
      a_text(),
      a_number(1, whole = TRUE),
      says = c(
        "The panel's block: its name on the plate (`plate(slice = <block>, ...)`) or its",
        "number in reading order. A zoom can be of another zoom."
      )
    ),
    x = ends_type(
      FALSE,
      says = c(
        "The part: two ends each, in the unit that the axis shows or with one of their own,",
        'such as `"200 g"`; `NULL` for all.'
      )
    ),
    y = ends_type(
      FALSE,
      says = c(
        "The part: two ends each, in the unit that the axis shows or with one of their own,",
        'such as `"200 g"`; `NULL` for all.'
      )
    ),
    panel = a_number(
      1,
      10000,
      whole = TRUE,
      says = "Which panel of the block, counted in reading order."
    ),
    leaders = a_flag(says = "Draw thin lines from the outlined part to the zoom?"),
    inset = either(
      a_flag(),
      a_choice(c("top left", "top right", "bottom left", "bottom right")),
      says = c(
        "`FALSE` to stand where the plate places it; `TRUE` to stand inside its panel, where",
        "it covers neither data nor text: in a corner, if one is free; or the corner, whatever",
        'lies there: `"top left"`, `"top right"`, `"bottom left"` or `"bottom right"`.'
      )
    ),
    size = a_number(
      0.1,
      0.9,
      or_null = TRUE,
      says = c(
        "Of an inset, share of the panel's width and height; `NULL`: 0.4, or as much of it,",
        "down to 0.25, as is free."
      )
    ),
    heading = a_title(says = "A title over it.")
  )
}

#' @export
block_cells.nelvat_zoom <- function(block) lone_cell(if (isFALSE(block$inset)) "zoom" else "inset")
#' @export
panel_variables.nelvat_zoom <- function(block, areas, direction) {
  list(new_variable("zoom", hidden_axis()))
}
#' @export
block_label.nelvat_zoom <- function(block) paste("the zoom of", block$of)

# The blocks of a plate with its zooms made of the blocks they show part of.
settle_zooms <- function(blocks, names, call) {
  settle <- function(i, seen) {
    block <- blocks[[i]]
    if (!inherits(block, "nelvat_zoom")) return(block)
    parent <- zoomed_block(block, names, length(blocks), call)
    if (parent %in% c(seen, i)) {
      abort_nelvat(
        "argument",
        c("A zoom cannot be of itself.", x = paste0("Found that of \"", block$of, "\".")),
        call
      )
    }
    host <- settle(parent, c(seen, i))
    block <- changed(
      block,
      x = zoomed_ends(block$x, host$panel$variables$x, "x", call),
      y = zoomed_ends(block$y, host$panel$variables$y[[1]], "y", call)
    )
    as_zoom(host, block, parent, call)
  }
  lapply(seq_along(blocks), settle, integer())
}

zoomed_ends <- function(ends, variable, argument, call) {
  if (is.null(ends)) return(NULL)
  if (!is.null(variable) && has_levels(variable$kind)) {
    abort_nelvat(
      "argument",
      c(
        paste0("A zoom is of numbers or times; the ", argument, " axis shows levels."),
        x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), "."),
        i = "A panel with `keep =` shows some levels only."
      ),
      call
    )
  }
  rising_ends(on_axis(ends, variable, argument, call), call)
}

zoomed_block <- function(zoom, names, n, call) {
  if (is.numeric(zoom$of)) {
    if (zoom$of %in% seq_len(n)) return(as.integer(zoom$of))
    abort_nelvat(
      "argument",
      c(
        paste0("`of` must be the number of one of ", counted(n, "block"), "."),
        x = paste0("Found ", zoom$of, ".")
      ),
      call
    )
  }
  block_row <- which(names == zoom$of)
  if (length(block_row)) return(block_row[1])
  abort_nelvat(
    "argument",
    c(
      "A zoom needs the name of a block of its plate.",
      x = paste0("Found \"", zoom$of, "\"."),
      if (any(nzchar(names))) {
        offer(zoom$of, names[nzchar(names)], "block")
      } else {
        c(i = "Name blocks where they are placed: `plate(a = <block>, ...)`.")
      }
    ),
    call
  )
}

# The design of one panel of a block over part of its range.
as_zoom <- function(design, zoom, parent, call) {
  if (is.null(design$panel$book)) {
    abort_nelvat(
      "argument",
      c(
        "Only panels drawn from data can be zoomed.",
        x = paste0("Block \"", zoom$of, "\" is ", block_label(design), ".")
      ),
      call
    )
  }
  panels <- standing_areas(cells_of(design)$areas)
  if (zoom$of_panel > nrow(panels)) {
    abort_nelvat(
      "argument",
      c(
        paste0("`panel` must be one of ", counted(nrow(panels), "panel"), "."),
        x = paste0("Found ", zoom$of_panel, ".")
      ),
      call
    )
  }
  zoomed <- Filter(function(direction) !is.null(zoom[[direction]]), c("x", "y"))
  axes <- lapply(zoomed, function(direction) {
    changed(
      design$axes[[direction]] %||% axis_of(),
      range = zoom[[direction]],
      breaks = NULL,
      every = NULL,
      minor = NULL
    )
  })
  changed(
    design,
    only = zoom$of_panel,
    marginals = NULL,
    behind = FALSE,
    zoom = list(
      of = parent,
      panel = zoom$of_panel,
      x = zoom$x %||% design$zoom$x,
      y = zoom$y %||% design$zoom$y,
      leaders = zoom$leaders,
      inset = zoom$inset,
      size = zoom$size
    ),
    axes = replace(design$axes, zoomed, axes),
    aspect = NULL,
    title_over = zoom$title_over
  )
}
