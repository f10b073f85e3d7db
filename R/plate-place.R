#' Where blocks stand on a plate
#'
#' `beside()` sets blocks next to each other, `stacked()` under each other, nested
#' freely. `at()` gives a block the cells of a table, merged; `blank()` keeps a place
#' empty, `key_place()` for the keys. Plot areas on the same line share their edges, whatever stands
#' around them.
#'
#' @param ... Blocks, [panel()]s, or placements; also lists of them. Names are what
#'   [zoom()] and messages call them.
#' @param widths,heights A size for each: a weight, [mm()] or [natural()]. `NULL`: all the
#'   same.
#' @param block A block or [panel()].
#' @param rows,columns Whole numbers, the first and the last, such as `1:4` or `c(1, 4)`.
#' @return A placement, for [plate()].
#' @section Errors:
#' `nelvat_error_argument` for sizes that are not one for each, cells that overlap or are
#' left without a block.
#' @examples
#' loaves <- study("loaves")
#' bars <- panel(loaves, x = flour, y = rise, ink_bars())
#' boxes <- panel(loaves, x = flour, y = volume, ink_box())
#' dots <- panel(loaves, x = flour, y = ph, ink_dots())
#' plate(beside(bars, stacked(boxes, dots), widths = c(2, 1)), width = "double", height = 90)
#' plate(
#'   at(bars, rows = 1:2, columns = 1),
#'   at(boxes, rows = 1, columns = 2),
#'   at(dots, rows = 2, columns = 2),
#'   width = "double",
#'   height = 90
#' )
#' @export
beside <- function(..., widths = NULL) {
  new_placement("beside", list(...), widths, "widths", rlang::current_env())
}

#' @rdname beside
#' @export
stacked <- function(..., heights = NULL) {
  new_placement("stacked", list(...), heights, "heights", rlang::current_env())
}

#' @rdname beside
#' @export
at <- function(block, rows, columns, ...) {
  check_rest(...)
  call <- rlang::current_env()
  cells <- function(value, argument) {
    if (is.list(value)) value <- unlist(value)
    right <- is.numeric(value) && length(value) && !anyNA(value) && all(
      value >= 1 & value == round(value) & value <= 100
    )
    if (right) return(range(value))
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`",
          argument,
          "` must be whole numbers from 1 up, the first and the last, such as `1:2`."
        ),
        x = paste0("Found ", describe_value(value), ".")
      ),
      call
    )
  }
  child <- as_placed(block, call)
  if (identical(child$how, "at")) {
    abort_nelvat("argument", c("A block has one place.", x = "Found `at()` in `at()`."), call)
  }
  structure(
    list(
      how = "at",
      rows = cells(rows, "rows"),
      columns = cells(columns, "columns"),
      child = child
    ),
    class = "nelvat_placement"
  )
}

#' @rdname beside
#' @export
key_place <- function() structure(list(how = "key"), class = "nelvat_placement")

#' @rdname beside
#' @export
blank <- function() structure(list(how = "blank"), class = "nelvat_placement")

#' Sizes of places
#'
#' @param length A length in millimetres, of the plot areas and what stands between them;
#'   tick text and titles come beside it.
#' @return A size, for `widths` and `heights` of [beside()], [stacked()] and [plate()]:
#'   `c(mm(40), 1)`. `natural()` is as long as what it holds needs: so many millimetres for
#'   each level of a heat map, each panel of a matrix.
#' @examples
#' loaves <- study("loaves")
#' heat <- panel(correlations(loaves), x = first, y = second, colour = r, ink_tiles())
#' bars <- panel(loaves, x = flour, y = rise, ink_bars())
#' plate(beside(bars, heat, widths = c(1, natural())), width = "double", height = 80)
#' @export
mm <- function(length) {
  check_needed(mm, "mm", rlang::current_env())
  list(list(mm = as.numeric(check_number(length, "length", 1, 2000, unit = "mm"))))
}

#' @rdname mm
#' @export
natural <- function() list(list(natural = TRUE))

new_placement <- function(how, children, sizes, argument, call) {
  children <- placed_children(children, call)
  if (!length(children)) {
    abort_nelvat("argument", c(paste0("`", how, "()` needs blocks."), x = "Found none."), call)
  }
  for (child in children) {
    if (identical(child$how, "at")) {
      abort_nelvat(
        "argument",
        c(
          "`at()` gives cells of the plate's own table, so it stands in `plate()` only.",
          x = paste0("Found it in `", how, "()`.")
        ),
        call
      )
    }
  }
  structure(
    list(how = how, children = children, sizes = as_sizes(sizes, length(children), argument, call)),
    class = "nelvat_placement"
  )
}

# Blocks and placements, out of lists that hold them, with their names.
placed_children <- function(children, call) {
  flat <- list()
  for (i in seq_along(children)) {
    child <- children[[i]]
    name <- rlang::names2(children)[i]
    if (is_bare_group(child)) {
      flat <- c(flat, placed_children(child, call))
    } else {
      flat <- c(flat, stats::setNames(list(named_place(as_placed(child, call, name), name)), name))
    }
  }
  flat
}

# A block at cells has the name that its place is given.
named_place <- function(place, name) {
  if (!identical(place$how, "at") || !nzchar(name)) return(place)
  changed(place, child = changed(place$child, name = name))
}

is_bare_group <- function(x) is.list(x) && !is.object(x)

as_placed <- function(x, call, name = "") {
  if (inherits(x, "nelvat_placement")) return(x)
  structure(
    list(how = "block", block = with_cells(as_block(x, call)), name = if (nzchar(name)) name),
    class = "nelvat_placement"
  )
}

# Sizes as a table of mm, weight and natural, a row each.
as_sizes <- function(sizes, n, argument, call) {
  if (is.null(sizes)) return(data.frame(mm = rep(0, n), weight = 1, said = FALSE))
  wrong <- function(found) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`",
          argument,
          "` must be weights, `mm()` or `natural()`, one for each of ",
          counted(n, "place"),
          "."
        ),
        x = paste0("Found ", found, ".")
      ),
      call
    )
  }
  if (!is.numeric(sizes) && !is.list(sizes)) wrong(describe_value(sizes))
  if (length(sizes) != n) wrong(counted(length(sizes), "size"))
  one <- function(size) {
    # mm() in a list stands in a list of its own.
    if (is.list(size) && length(size) == 1 && is.null(names(size))) size <- size[[1]]
    if (is.list(size) && identical(size$natural, TRUE)) return(c(mm = NA, weight = 0))
    if (is.list(size) && is.numeric(size$mm)) return(c(mm = size$mm, weight = 0))
    if (is.numeric(size) && length(size) == 1 && is.finite(size) && size > 0) {
      return(c(mm = 0, weight = size))
    }
    wrong(describe_value(size))
  }
  cbind(as.data.frame(do.call(rbind, lapply(as.list(sizes), one))), said = TRUE)
}

# Natural sizes as millimetres. Where nothing is said, columns of text beside panels are as wide as
# their text.
settled_sizes <- function(sizes, children, across, house) {
  inside <- lapply(children, function(child) if (is_bare_group(child)) child else list(child))
  if (across && !all(sizes$said)) {
    of_text <- vapply(
      inside,
      function(nodes) length(nodes) > 0 && all(vapply(nodes, is_text_node, NA)),
      NA
    )
    if (!all(of_text)) {
      sizes <- changed(
        sizes,
        mm = replace(sizes$mm, of_text, NA),
        weight = replace(sizes$weight, of_text, 0)
      )
    }
  }
  unsettled <- which(is.na(sizes$mm))
  needed_mm <- vapply(
    inside[unsettled],
    function(nodes) {
      least <- if (all(vapply(nodes, is_text_node, NA))) least_of_role("words")$width else 10
      max(least, vapply(nodes, natural_mm, 0, across = across, house = house))
    },
    0
  )
  changed(sizes, mm = replace(sizes$mm, unsettled, needed_mm))
}

# Does a place hold columns of text only?
is_text_node <- function(node) {
  if (node$how != "block") {
    return(length(node$children) > 0 && all(vapply(node$children, is_text_node, NA)))
  }
  inks <- node$block$panel$inks
  length(inks) > 0 && !any(vapply(inks, function(ink) is.null(ink_traits(ink)$text_at), NA))
}

# What a placement needs in one direction: the sum along it, the most across it.
natural_mm <- function(node, across, house) {
  if (node$how == "block") return(natural_length(node$block, across, house))
  if (node$how %in% c("blank", "key")) return(if (node$how == "key") 30 else 0)
  each <- vapply(node$children, natural_mm, 0, across = across, house = house)
  if ((node$how == "beside") == across) sum(each) else max(each)
}

cell_mm <- 5 # of one level of a heat map
matrix_mm <- 24 # of one panel of a matrix

natural_length <- function(block, across, house) {
  panels <- standing_areas(cells_of(block)$areas)
  n <- max(panels[[if (across) "column" else "row"]])
  if (across) {
    texts <- lapply(block$panel$inks, natural_width, block$title_over, house)
    if (length(texts) && !any(vapply(texts, is.null, NA))) return(n * max(unlist(texts)))
  }
  direction <- if (across) "x" else "y"
  levels <- vapply(
    panel_variables(block, panels, direction),
    function(variable) length(variable$kind$levels),
    0L
  )
  is_heat <- inherits(block, "nelvat_facets") && any(
    vapply(block$panel$inks, function(ink) ink_traits(ink)$cells, NA)
  )
  n * if (is_heat && any(levels > 0)) max(levels) * cell_mm else matrix_mm
}

#' @export
print.nelvat_placement <- function(x, ...) {
  describe <- function(node) {
    switch(
      node$how,
      block = if (is.null(node$name)) block_label(node$block) else node$name,
      at = paste0(
        describe(node$child),
        " at rows ",
        paste(unique(node$rows), collapse = "-"),
        ", columns ",
        paste(unique(node$columns), collapse = "-")
      ),
      blank =,
      key = node$how,
      paste0(node$how, "(", paste(vapply(node$children, describe, ""), collapse = ", "), ")")
    )
  }
  cat("Placement: ", describe(x), "\n", sep = "")
  invisible(x)
}
