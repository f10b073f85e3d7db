# What a block is: panel designs made into a matrix of panels. A design is a list with
# class c("nelvat_<name>", "nelvat_block") and these methods:
#
#   block_cells(block)              the matrix: areas, rows of the data, headings;
#   block_layers(block, cells)      layers, one ink over panels of the block;
#   panel_variables(block, areas, direction)  the variable on an axis, for each standing area;
#   block_variables(block)          all variables used, for notes of missing values;
#   block_headings(block, cells, drawn)  what stands over and beside its areas (block-headings.R);
#   area_names(block, cells)        what tells each area apart in a sentence;
#   block_label(block)              what the block shows, for messages;
#   wished_shape(block)             height over width that its panels look best at;
#   in_house(block, house)          what waits for the house of its plate, settled.
#
# Every design has range_per, show_axes, room, empty, behind, aspect, marginals, axes, and
# title_over, the heading over the whole block.

block_cells <- function(block) UseMethod("block_cells")
block_layers <- function(block, cells) UseMethod("block_layers")
panel_variables <- function(block, areas, direction) UseMethod("panel_variables")
block_variables <- function(block) UseMethod("block_variables")
area_names <- function(block, cells) UseMethod("area_names")
block_label <- function(block) UseMethod("block_label")
wished_shape <- function(block) UseMethod("wished_shape")

# A block that is dealt out carries its cells, and what they are of: they are worked out anew where
# anything of it is another.
with_cells <- function(block) {
  cells <- cells_of(block)
  block <- without_cells(block)
  block$cells <- list(of = block, cells = cells)
  block
}
without_cells <- function(block) {
  block$cells <- NULL
  block
}
cells_of <- function(block) {
  carried <- block$cells
  block <- without_cells(block)
  if (!is.null(carried) && identical(carried$of, block)) carried$cells else block_cells(block)
}

in_house <- function(block, house) UseMethod("in_house")

#' @export
in_house.default <- function(block, house) block

#' @export
area_names.default <- function(block, cells) rep(NA_character_, nrow(cells$areas))

#' @export
wished_shape.default <- function(block) block$aspect %||% 0.75

new_block <- function(
  design,
  ...,
  range_per = list(x = "block", y = "block"),
  show_axes = "edge",
  room = "even",
  empty = "draw",
  behind = FALSE,
  aspect = NULL,
  marginals = NULL,
  axes = NULL,
  title_over = NULL
) {
  structure(
    list(
      ...,
      range_per = range_per,
      show_axes = show_axes,
      room = room,
      empty = empty,
      behind = behind,
      aspect = aspect,
      marginals = marginals,
      axes = axes,
      title_over = title_over
    ),
    class = c(paste0("nelvat_", design), "nelvat_block")
  )
}

# A block from what may be one: a block, a panel alone, or what other rooms know to draw.
as_block <- function(x, call) UseMethod("as_block")
#' @export
as_block.nelvat_block <- function(x, call) x
#' @export
as_block.nelvat_panel <- function(x, call) {
  new_facets(x, rlang::quo(NULL), rlang::quo(NULL), list(), call)
}
#' @export
as_block.default <- function(x, call) {
  abort_nelvat(
    "argument",
    c(
      "A plate takes blocks, such as `facets()`, or panels.",
      x = paste0("Found ", describe_value(x), ".")
    ),
    call
  )
}

# What was left out or filled, by column: column, what, n.
block_notes <- function(block) {
  notes <- lapply(Filter(Negate(is.null), block_variables(block)), function(variable) {
    left <- variable$n_missing %||% 0L
    stack_notes(
      list(
        if (!is.null(variable$note)) {
          # What was filled, or has a level of its own, is drawn.
          data.frame(
            column = variable$id,
            what = variable$note$what,
            n = variable$note$n,
            out = FALSE
          )
        } else if (left > 0) {
          data.frame(column = variable$id, what = missing_words(variable$policy), n = left)
        },
        if (!is.null(variable$outside)) {
          data.frame(column = variable$id, what = variable$outside$what, n = variable$outside$n)
        }
      )
    )
  })
  unique(stack_notes(c(list(told_notes(block)), unname(notes), list(block$notes))))
}

missing_words <- function(policy) {
  if (identical(policy, "bridge")) {
    "missing values, over which lines go on"
  } else {
    "missing values left out"
  }
}

# Of the notes of a table those on columns that the block shows, or that these are derived from.
told_notes <- function(block) {
  noted <- block$panel$book$notes
  if (is.null(noted)) return(NULL)
  used <- vapply(Filter(Negate(is.null), block_variables(block)), `[[`, "", "id")
  derive <- block$panel$made$derive
  for (round in seq_along(derive)) {
    within <- intersect(names(derive), used)
    used <- union(
      used,
      unlist(lapply(derive[within], function(one) named_columns_of(rlang::quo_get_expr(one$quo))))
    )
  }
  untold <- noted$column %in% setdiff(names(derive), used)
  if (all(untold)) NULL else noted[!untold, ]
}

#' @export
print.nelvat_block <- function(x, ...) {
  n <- nrow(standing_areas(block_cells(x)$areas))
  cat(
    "Block of ",
    counted(n, "panel"),
    " (",
    sub("^nelvat_", "", class(x)[1]),
    "): ",
    block_label(x),
    "\n",
    sep = ""
  )
  if (!is.null(x$marginals)) {
    cat("Marginals: ", paste(names(x$marginals$inks), collapse = ", "), "\n", sep = "")
  }
  invisible(x)
}
