#' A tree along an axis
#'
#' Draws the tree that put the categories of an axis in order ([by_likeness()]): each joint as far
#' out as what it joins is unlike. In [marginals()] of a heat map.
#'
#' @eval argument_lines("ink_tree")
#' @return An ink, for [marginals()], or for a [panel()] with `x` or `y` alone.
#' @section Errors: `nelvat_error_argument` where the axis is in no order by likeness.
#' @examples
#' strains <- study("strains")
#' heat <- panel(
#'   strains,
#'   x = medium,
#'   y = strain,
#'   colour = growth,
#'   order = list(strain = by_likeness(growth, medium)),
#'   ink_tiles(values = FALSE)
#' )
#' plate(marginals(heat, y = ink_tree()), width = 120, height = 110)
#' @export
ink_tree <- function(depth = 10, weight = NULL, colour = NULL, ...) said_ink("tree", ...)

#' @export
word_rows.ink_tree <- function(word) {
  list(
    depth = a_number(2, 80, unit = "mm", says = "How deep the tree is, in mm."),
    weight = pt_weight(says = "Line weight in points; `NULL` for the house's axes."),
    colour = a_colour(says = "A colour; `NULL` for the house's.")
  )
}

#' @export
check_ink.ink_tree <- function(ink, panel, call) {
  check_one_axis_given(panel, "A tree", call)
  variable <- panel$variables$x %||% panel$variables$y[[1]]
  tree <- variable$kind$tree
  if (!is.null(tree) && identical(tree$levels, variable$kind$levels)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("There is no tree of \"", variable$id, "\"."),
      x = if (is.null(tree)) {
        "Its levels are in no order by likeness."
      } else {
        "The tree was made of other levels than are kept."
      },
      i = paste0("Say `order = list(", variable$id, " = by_likeness(VALUE, OVER))` in the panel.")
    ),
    call
  )
}

#' @export
supplied_axis.ink_tree <- function(ink, direction, variables) hidden_axis()

#' @export
train_ink.ink_tree <- function(ink, layer) {
  along <- along_axis(layer)
  kind <- layer[[along]]$kind
  used <- !is.na(layer$table[[along]])
  for (panel in unique(layer$table$panel)) {
    there <- unique(layer$table[[along]][used & layer$table$panel == panel])
    check_whole_tree(kind, layer[[along]], there)
  }
  panels <- panels_in(layer$table$panel[used])
  joints <- tree_joints(kind$tree)
  k <- nrow(joints)
  lines <- stack_tables(lapply(panels, function(panel) changed(joints, panel = rep(panel, k))))
  most <- max(joints$height, 0)
  list(
    table = lines,
    along = along,
    extent = exchange_axes(
      extent_by_panel(panels, x0 = NA, y0 = 0, y1 = if (most > 0) most else 1),
      along == "y"
    ),
    zero = if (along == "x") "y" else "x",
    used = if (k) used else rep(FALSE, length(used)),
    findings = if (k) {
      new_findings(
        lines["panel"],
        "joint",
        lines$n * sum(used & layer$table$panel == panels[1]) / length(kind$levels),
        estimate = lines$height,
        value = NA_character_
      )
    },
    shows = "joints as far out as what they join is unlike"
  )
}

# A tree is of all its levels: of some of them it would be another one.
check_whole_tree <- function(kind, variable, there) {
  n <- length(kind$levels)
  if (length(unique(there)) == n) return(invisible())
  abort_nelvat(
    "data",
    c(
      "A tree stands beside all levels that it is of.",
      x = paste0(
        "The tree of \"",
        variable$id,
        "\" is of ",
        n,
        " levels, a panel has ",
        length(unique(there)),
        "."
      ),
      i = "Keep the rows that the panel shall show before the order is taken."
    ),
    call = NULL
  )
}

#' @export
place_ink.ink_tree <- function(ink, trained, site) {
  joints <- trained$table
  if (is.null(joints)) return(list())
  other <- setdiff(c("x", "y"), trained$along)
  along <- function(values) site$unit(values, joints$panel, trained$along)
  out <- function(values) site$unit(values, joints$panel, other)
  # A little is left of the depth, or the last joint would lie on the edge.
  stroke <- function(from, to, low, high) {
    new_table(
      panel = joints$panel,
      x0 = along(from),
      x1 = along(to),
      y0 = out(low),
      y1 = out(high),
      colour = ink$colour %||% site$house$colour$axis,
      weight_pt = ink$weight %||% site$house$weight_pt$axis,
      .rows = nrow(joints)
    )
  }
  list(
    new_marks(
      "segments",
      exchange_axes(
        stack_tables(
          list(
            stroke(joints$left, joints$left, joints$left_height, joints$height),
            stroke(joints$right, joints$right, joints$right_height, joints$height),
            stroke(joints$left, joints$right, joints$height, joints$height)
          )
        ),
        trained$along == "y"
      )
    )
  )
}

#' @export
ink_traits.ink_tree <- function(ink) {
  new_traits(
    computed = TRUE,
    behind = FALSE,
    parts_rows = FALSE,
    read_off = FALSE,
    called = "",
    own_strip = TRUE
  )
}

#' @export
marks_named.ink_tree <- function(ink) "tree"
