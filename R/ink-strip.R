#' Strips of colour along an axis
#'
#' A cell for each category, or each place on an axis, in the colour of what it is of: the group of
#' a sample, its age. In [marginals()] beside a heat map, one strip an ink.
#'
#' @eval argument_lines("ink_strip")
#' @return An ink, for [marginals()], or for a [panel()] with `x` or `y` alone.
#' @section Errors: `nelvat_error_argument` where both axes or none are given; `nelvat_error_data`
#' where a category has several colours.
#' @examples
#' strains <- study("strains")
#' heat <- panel(strains, x = medium, y = strain, colour = growth, ink_tiles(values = FALSE))
#' plate(marginals(heat, y = ink_strip(colour = origin)), width = 120, height = 110)
#' @export
ink_strip <- function(colour = NULL, name = NULL, depth = 2.5, gap = NULL, ...) {
  said_ink("strip", ...)
}

#' @export
word_rows.ink_strip <- function(word) {
  list(
    colour = a_channel(says = "A category or a quantity that has one value for each cell."),
    name = a_text(
      or_null = TRUE,
      says = paste(
        "What stands at the strip's end; `NULL`: the name of its column, `\"\"`: nothing."
      )
    ),
    depth = a_number(0.5, 50, unit = "mm", says = "How deep the strip is, in mm."),
    gap = a_number(
      0,
      0.9,
      or_null = TRUE,
      says = paste(
        "Share of a cell left white between cells; `NULL`: 0.03 on up to 60 categories, else none."
      )
    )
  )
}

#' @export
check_ink.ink_strip <- function(ink, panel, call) {
  check_one_axis_given(panel, "A strip of colour", call)
  if (!is.null(panel$variables$colour) || !is.null(ink$variables$colour)) return(invisible())
  abort_nelvat(
    "argument",
    c("A strip of colour needs `colour`, a column.", x = "None is given."),
    call
  )
}

# For inks along an edge: they stand on one axis, and have no other.
check_one_axis_given <- function(panel, what, call) {
  given <- c("x", "y")[c(!is.null(panel$variables$x), !is.null(panel$variables$y))]
  if (length(given) == 1) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(what, " stands along one axis."),
      x = if (length(given)) "`x` and `y` are both given." else "Neither `x` nor `y` is given.",
      i = "In `marginals()` it stands at the edge of a panel, such as `marginals(fig, x = ...)`."
    ),
    call
  )
}

# The axis that such an ink stands on: it has a variable of the panel.
along_axis <- function(layer) if (isTRUE(layer$y$supplied)) "x" else "y"

#' @export
supplied_axis.ink_strip <- function(ink, direction, variables) hidden_axis()

#' @export
train_ink.ink_strip <- function(ink, layer) {
  along <- along_axis(layer)
  complete <- complete_rows(layer$table, c(along, "colour"))
  table <- table_rows(layer$table, complete)
  cell <- match_rows(
    new_table(panel = table$panel, at = table[[along]], .rows = nrow(table)),
    rep(TRUE, nrow(table))
  )
  first <- match(seq_len(nrow(cell$rows)), cell$at)
  check_one_colour(layer, along, table, table$colour[first][cell$at], cell$rows$at)
  cells <- table_rows(table, first)
  kind <- layer[[along]]$kind
  ends <- if (has_levels(kind)) {
    list(cells[[along]] - 0.5, cells[[along]] + 0.5)
  } else {
    tile_ends(cells[[along]], cells$panel, axis_transform(layer[[along]]$transform))
  }
  few <- has_levels(kind) && max(0L, tabulate(match(cells$panel, unique(cells$panel)))) <= 60
  gap <- ink$gap %||% if (few) 0.03 else 0
  list(
    table = new_table(
      panel = cells$panel,
      from = ends[[1]],
      to = ends[[2]],
      colour = cells$colour,
      first = ends_of_groups(kind, cells[[along]])[[1]],
      last = ends_of_groups(kind, cells[[along]])[[2]],
      .rows = nrow(cells)
    ),
    along = along,
    gap = gap,
    name = ink$name %||% plain_text(kind_title(layer$colour$kind)),
    extent = exchange_axes(
      extent_by_panel(cells$panel, x0 = ends[[1]], x1 = ends[[2]], y0 = 0, y1 = 1),
      along == "y"
    ),
    zero = character(),
    fills = c("x", "y"),
    used = complete,
    findings = new_findings(
      cells[intersect(names(cells), c("panel", along, "colour"))],
      "cell",
      tabulate(cell$at, nrow(cell$rows)),
      value = NA_character_
    ),
    shows = paste0(plain_name(layer$colour), " by colour")
  )
}

plain_name <- function(variable) {
  plain_text(name_in_sentence(variable$kind$name, variable$id))
}

check_one_colour <- function(layer, along, table, colour, at) {
  unlike <- which(table$colour != colour)
  if (!length(unlike)) return(invisible())
  where <- table[[along]][unlike[1]]
  kind <- layer[[along]]$kind
  abort_nelvat(
    "data",
    c(
      "A cell of a strip has one colour.",
      x = paste0(
        "\"",
        if (has_levels(kind)) kind$level_names[where] else number_text_each(where),
        "\" has several values of \"",
        layer$colour$id,
        "\"."
      ),
      i = "Take a column that tells something of each as a whole."
    ),
    call = NULL
  )
}

#' @export
place_ink.ink_strip <- function(ink, trained, site) {
  cells <- trained$table
  from <- site$unit(cells$from, cells$panel, trained$along)
  to <- site$unit(cells$to, cells$panel, trained$along)
  reach <- (to - from) * if (trained$gap > 0) -trained$gap / 2 else seam_share
  ends <- apart_groups(
    list(from - reach, to + reach),
    cells$first,
    cells$last,
    if (trained$along == "x") site$panel_w(cells$panel) else site$panel_h(cells$panel)
  )
  list(
    new_marks(
      "rects",
      exchange_axes(
        new_table(
          panel = cells$panel,
          x0 = ends[[1]],
          x1 = ends[[2]],
          y0 = 0,
          y1 = 1,
          fill = site$colour_of(cells$colour, nrow(cells)),
          opacity = 1,
          .rows = nrow(cells)
        ),
        trained$along == "y"
      )
    )
  )
}

#' @export
margin_name.ink_strip <- function(ink, layer) layer$trained$name

#' @export
ink_traits.ink_strip <- function(ink) {
  new_traits(
    "swatch",
    c("colour", "ramp"),
    cells = TRUE,
    behind = FALSE,
    computed = TRUE,
    parts_rows = TRUE,
    read_off = FALSE,
    called = "",
    own_strip = TRUE
  )
}

#' @export
marks_named.ink_strip <- function(ink) "strips"
