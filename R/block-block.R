# What a block is: panel designs made into a matrix of panels. A design is a list with
# class c("nelvat_<name>", "nelvat_block") and these methods:
#
#   block_cells(block)              the matrix: panels, rows of the data, headings;
#   block_layers(block, cells)      layers, one ink over panels of the block;
#   panel_variables(block, panels, direction)  the variable on an axis, for each panel;
#   block_variables(block)          all variables used, for notes of missing values;
#   block_label(block)              what the block shows, for messages;
#   wished_shape(block)             height over width that its panels look best at.
#
# Every design has range_per, show_axes, room, empty, behind, aspect, marginals and axes.

block_cells <- function(block) UseMethod("block_cells")
block_layers <- function(block, cells) UseMethod("block_layers")
panel_variables <- function(block, panels, direction) UseMethod("panel_variables")
block_variables <- function(block) UseMethod("block_variables")
block_label <- function(block) UseMethod("block_label")
wished_shape <- function(block) UseMethod("wished_shape")

#' @export
wished_shape.default <- function(block) block$aspect %||% 0.75

new_block <- function(
  design, ..., range_per = list(x = "block", y = "block"), show_axes = "edge", room = "even", empty = "draw",
  behind = FALSE, aspect = NULL,
  marginals = NULL, axes = NULL) {
  structure(
    list(
      ..., range_per = range_per, show_axes = show_axes, room = room, empty = empty, behind = behind, aspect = aspect,
      marginals = marginals, axes = axes
    ),
    class = c(paste0("nelvat_", design), "nelvat_block"))
}

# A block from what may be one: a block, a panel alone, or what other rooms know to draw.
as_block <- function(x, call) UseMethod("as_block")
#' @export
as_block.nelvat_block <- function(x, call) x
#' @export
as_block.nelvat_panel <- function(x, call) new_facets(x, rlang::quo(NULL), rlang::quo(NULL), list(), call)
#' @export
as_block.default <- function(x, call) {
  abort_nelvat("argument", c(
    "A plate takes blocks, such as `facets()`, or panels.", x = paste0("Found ", describe_value(x), ".")
  ), call)
}

# What was left out or filled, by column: column, what, n.
block_notes <- function(block) {
  notes <- lapply(Filter(Negate(is.null), block_variables(block)), function(variable) {
    left <- variable$n_missing %||% 0L
    rbind(
      if (!is.null(variable$note)) data.frame(column = variable$id, what = variable$note$what, n = variable$note$n)
      else if (left > 0) data.frame(column = variable$id, what = "missing values left out", n = left),
      if (!is.null(variable$outside)) {
        data.frame(column = variable$id, what = variable$outside$what, n = variable$outside$n)
      }
    )
  })
  unique(
    do.call(rbind, c(list(block$panel$book$notes), unname(notes), list(block$notes), list(hidden_by_range(block))))
  )
}

# Values beyond the range that an axis_of() asks for.
hidden_by_range <- function(block) {
  of <- function(direction, variables) {
    ends <- block$axes[[direction]]$range
    if (is.null(ends)) return(NULL)
    do.call(rbind, lapply(variables, function(variable) {
      beyond <- sum(variable$values < ends[1] | variable$values > ends[2], na.rm = TRUE)
      if (beyond > 0) {
        data.frame(column = variable$id, what = paste("values beyond the range of the", direction, "axis"), n = beyond)
      }
    }))
  }
  rbind(of("x", list(block$panel$variables$x)), of("y", block$panel$variables$y))
}

#' @export
print.nelvat_block <- function(x, ...) {
  n <- nrow(block_cells(x)$panels)
  cat("Block of ", counted(n, "panel"), " (", sub("^nelvat_", "", class(x)[1]), "): ", block_label(x), "\n", sep = "")
  if (inherits(x, "nelvat_facets") && !is.null(x$marginals)) {
    cat("Marginals: ", paste(names(x$marginals$inks), collapse = ", "), "\n", sep = "")
  }
  invisible(x)
}
