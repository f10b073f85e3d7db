#' A whole figure on a page of a given size
#'
#' @eval argument_lines("plate")
#' @return A plate. Printing it draws it at true size on the open device;
#'   [save_plate()] writes it, [as_scene()] gives all that was computed.
#' @section Errors:
#' `nelvat_error_space` (when it is resolved) where the page is too small for its
#' panels; the message says how many millimetres are missing.
#' @examples
#' plate(
#'   facets(
#'     panel(study("loaves"), x = flour, y = c(rise, volume, ph), colour = hydration, ink_bars()),
#'     per_row = 3
#'   ),
#'   width = "double", height = 70
#' )
#' @export
plate <- function(
  ...,
  width = "double",
  height = NULL,
  widths = NULL,
  heights = NULL,
  per_row = NULL,
  key = NULL,
  key_titles = NULL,
  letters = NULL,
  title = NULL,
  note = NULL,
  share = TRUE,
  align = "auto",
  house = NULL
) {
  call <- rlang::current_env()
  check_named_blocks(...names(), function(i) ...elt(i), plate_settings(), "plate", call)
  new_plate(
    list(...),
    list(
      width = width,
      height = height,
      widths = widths,
      heights = heights,
      per_row = per_row,
      key = key,
      key_titles = key_titles,
      letters = letters,
      title = title,
      note = note,
      share = share,
      align = align,
      house = house
    ),
    call
  )
}

# Names in the dots are names of blocks; one on anything else is a misspelt argument.
check_named_blocks <- function(names, value, arguments, of, call) {
  for (i in which(!names %in% c("", NA))) {
    evaluated <- tryCatch(value(i), error = function(error) {
      if (inherits(error, "nelvat_error") || is.null(nearest_name(names[i], arguments))) stop(error)
      NULL
    })
    if (!is.list(evaluated)) check_stray(names[i], arguments, of, call)
  }
}

plate_settings <- function() setdiff(names(word_arguments("plate")), "place")

# What is worked out of a plate, such as its scene: once, and kept in the cell that it carries. A
# plate with something changed has a new cell.
worked_out <- function(plate, what, code) {
  if (is.null(plate$cell[[what]])) assign(what, code, plate$cell)
  plate$cell[[what]]
}

new_plate <- function(blocks, settings, call) {
  settings <- with_defaults("plate", settings, call)
  style <- settled_house(settings$house, call)
  width_mm <- page_width(settings$width, style, call)
  children <- placed_children(blocks, call)
  if (!length(children)) {
    abort_nelvat("argument", c("A plate needs a block.", x = "Found none."), call)
  }
  is_inset <- vapply(
    children,
    function(child) {
      identical(child$how, "block") && inherits(child$block, "nelvat_zoom") &&
        !isFALSE(child$block$inset)
    },
    NA
  )
  sizes <- changed(settings, page_mm = c(width_mm, settings$height %||% NA), house = style)
  grid <- with_insets(
    plate_grid(children[!is_inset], sizes, settings$per_row, call),
    children[is_inset]
  )
  settled <- if (any(vapply(grid$blocks, inherits, NA, "nelvat_zoom"))) {
    settle_zooms(grid$blocks, grid$names, call)
  } else {
    unname(grid$blocks)
  }
  settled <- in_one_unit(lapply(settled, in_house, style), call)
  settled <- Map(
    function(block, i) settle_wrap(block, i, grid, width_mm, settings$height, style),
    settled,
    seq_along(settled)
  )
  grid <- changed(grid, blocks = lapply(settled, with_cells))
  natural_mm <- natural_height(grid, width_mm, style)
  height_mm <- settings$height %||% min(style$page$height_most_mm, natural_mm)
  structure(
    list(
      blocks = grid$blocks,
      names = grid$names,
      grid = grid[c("columns", "rows", "places", "key")],
      width_mm = as.numeric(width_mm),
      height_mm = as.numeric(height_mm),
      grows = is.null(settings$height),
      pages = if (is.null(settings$height)) pages_of_rows(grid, width_mm, natural_mm, style),
      house = style,
      key = settings[["key"]] %||% house_key(style),
      key_titles = check_key_titles(settings$key_titles, call),
      letters = check_letters(settings$letters, sum(!is.na(grid$places$x0)), call),
      title = settings$title,
      note = settings$note,
      share = check_shared(settings$share, call),
      align = settings$align,
      # Its house stays its own, whatever the session's is when it is changed.
      made = list(blocks = blocks, settings = changed(settings, house = style)),
      # What is worked out of it, once for all that is asked (see worked_out()).
      cell = new.env(parent = emptyenv())
    ),
    class = "nelvat_plate"
  )
}

# Where the house has keys; NULL leaves it to the plate.
house_key <- function(house) if (house$key != "auto") house$key

check_key_titles <- function(titles, call) {
  if (is.list(titles)) titles <- unlist(titles)
  if (is.null(titles) || is.character(titles) && !anyNA(titles) && all(rlang::have_name(titles))) {
    return(titles)
  }
  abort_nelvat(
    "argument",
    c(
      "`key_titles` must be titles by variable, such as `c(flour = \"Grain\")`.",
      x = paste0("Found ", describe_value(titles), ".")
    ),
    call
  )
}

key_places <- c("top", "bottom", "left", "right", "inside", "block", "direct", "none")

# Insets after the blocks that have places.
with_insets <- function(grid, insets) {
  if (!length(insets)) return(grid)
  numbers <- length(grid$blocks) + seq_along(insets)
  changed(
    grid,
    blocks = c(grid$blocks, lapply(unname(insets), `[[`, "block")),
    names = c(grid$names, vapply(unname(insets), function(one) one$name %||% "", "")),
    places = rbind(
      grid$places,
      data.frame(block = numbers, x0 = NA, x1 = NA, y0 = NA, y1 = NA)
    )
  )
}

# Letters of a plate: "block", "panel", their own, or NULL for none; where nothing is said,
# of the blocks, if there are several.
check_letters <- function(letters, n_blocks, call) {
  if (is.null(letters)) return(if (n_blocks > 1) "block")
  if (isFALSE(letters) || identical(letters, "none")) return(NULL)
  if (is.list(letters)) letters <- unlist(letters)
  # A word is a misspelt setting, not a letter.
  are_letters <- is.character(letters) && !anyNA(letters) && all(nchar(letters) <= 3)
  if (are_letters || (rlang::is_string(letters) && letters %in% c("block", "panel"))) {
    return(letters)
  }
  abort_nelvat(
    "argument",
    c(
      "`letters` must be \"block\", \"panel\", \"none\" or the letters themselves.",
      x = paste0("Found ", describe_value(letters), "."),
      if (rlang::is_string(letters)) offer(letters, c("block", "panel", "none")),
      i = "Their case and weight are the house's: `house(letters = list(case = \"upper\"))`."
    ),
    call
  )
}

check_shared <- function(share, call) {
  if (rlang::is_bool(share) || inherits(share, "nelvat_share")) return(share)
  if (is.character(share)) return(share_axis_of(share))
  abort_nelvat(
    "argument",
    c(
      paste0("`share` must be ", said_true_or_false(), ", or such as `share_axis(\"time\")`."),
      x = paste0("Found ", describe_value(share), ".")
    ),
    call
  )
}

#' The same figure at another size
#'
#' Lays a plate out again: labels fitted anew, keys in other rows, sizes of type
#' unchanged.
#'
#' @param plate A [plate()].
#' @param width,height As in [plate()]; `NULL` for a height leaves it to the panels.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A plate.
#' @section Errors: `nelvat_error_space`, which says which panels need how many more
#'   millimetres.
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_bars()),
#'   width = "double",
#'   height = 70
#' )
#' resize(fig, width = "single")
#' @export
resize <- function(plate, width = NULL, height = NULL, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_is_plate(plate, call)
  settings <- plate$made$settings
  settings <- changed(settings, width = width %||% settings$width, height = height)
  new_plate(plate$made$blocks, settings, call)
}
