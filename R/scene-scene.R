#' Everything a plate will draw, computed
#'
#' Trains the statistics, settles ranges and breaks, lays out the page with
#' measured text and places every mark. No device is opened.
#'
#' @param plate A [plate()]; where it goes over pages, as one without a height can, all of it on one
#'   page that is high enough.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A list of class `nelvat_scene`, of plain tables and lists. Lengths are
#'   in mm with the origin at the page's top left corner, y downwards; marks are in
#'   unit-panel coordinates, 0 to 1, y upwards.
#'   * `page`: width_mm, height_mm. `font`: family, wanted, ascent, descent.
#'   * `panels`: id, block, row, column, x, y, w, h (the plot area), x_axis,
#'     y_axis, heading.
#'   * `axes`: a list; each has id, direction, variable, transform, range, breaks,
#'     text, treatment, angle, size_pt, title, panels (that it serves) and drawn_at
#'     (panels with its tick text).
#'   * `marks`: a list of layers: block, ink, primitive and a table.
#'   * `rules`: every straight line that is no mark: role, ends, weight_pt, colour.
#'   * `texts`: a row a piece of text: id, role, panel, string, lines, size_pt,
#'     angle and its box x0, y0, x1, y1. `runs`: a row for each stretch drawn at
#'     once: text, string, family, bold, italic, size_pt, x, y (start of the baseline).
#'   * `keys`: a row an entry: key, label, colour, glyph, shape, and the glyph's box.
#'   * `facts`: a row a panel and layer: n used, rows dropped, what is shown.
#'   * `groups`: rows of each level of colour, by panel. `fits`: see [fits()].
#'   * `columns`: what was left out, filled or changed, by column, and how many.
#' @section Errors:
#' `nelvat_error_space` where the page is too small, `nelvat_error_labels` where
#' tick text has no room in any treatment.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' as_scene(fig)$axes[[1]]$text
#' @export
as_scene <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  resolved <- resolve_plate(plate)
  # A page that was given a height is held to it.
  if (is.null(plate$pages) && !plate$grows) {
    lone_page(resolved, plate, call)
  } else {
    whole_scene(resolved, plate, call)
  }
}

# The scene of a plate that stands on one page, and its layout, worked out once.
lone_page <- function(resolved, plate, call) {
  scene <- worked_out(plate, "page", {
    settled_page(resolved, plate, call, page_layout(resolved, plate, call))
  })
  tell_scene(scene)
}
page_layout <- function(resolved, plate, call) {
  worked_out(
    plate,
    "layout",
    lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
  )
}

# A scene, once what a reader must know was said.
tell_scene <- function(scene) {
  tell_notes(scene$told)
  tell_scales(scene$notes)
  scene
}

# The scene of a resolved plate on a page of the plate's size.
settle_page <- function(resolved, plate, call, laid = NULL) {
  tell_scene(settled_page(resolved, plate, call, laid))
}

settled_page <- function(resolved, plate, call, laid = NULL) {
  laid <- laid %||% lay_out(resolved$blocks, resolved$keys, plate, resolved$font, call)
  without <- blocks_full(with_inside_keys(resolved, plate), laid, plate, resolved$font)
  repeat {
    inside <- with_inside_keys(resolved, plate, without)
    if (!holds_keys(inside)) break
    page <- settled_layout(inside, plate, call)
    lacking <- blocks_without_corner(page$laid, plate$house, resolved$font)
    if (!length(lacking)) break
    without <- c(without, lacking)
  }
  if (!holds_keys(inside)) page <- settled_layout(resolved, plate, call, laid)
  assemble_scene(page$laid, inside$keys, page$plate, resolved$font)
}

# Where all stands: list(laid, plate), the plate as high as it then is. laid: its layout, where that
# is known already.
settled_layout <- function(resolved, plate, call, laid = NULL) {
  font <- resolved$font
  entries <- resolved$keys
  laid <- laid %||% lay_out(resolved$blocks, entries, plate, font, call)
  if (plate$grows) {
    plate <- grown(plate, laid)
    if (plate$height_mm != laid$page_mm) {
      laid <- lay_out(resolved$blocks, entries, plate, font, call, laid$frames)
    }
  }
  check_lengths(laid, plate, call)
  laid <- with_head_room(laid, entries, plate, font, call)
  laid <- with_aligned_bins(laid, entries, plate, font, call)
  laid <- with_settled_insets(laid, entries, plate, font, call)
  check_lengths(laid, plate, call)
  list(laid = laid, plate = plate)
}

# A page whose height was left to the figure: as high as gives its panels the shape they look best
# at, now that what stands around them is known. Small differences are let be.
grown <- function(plate, laid) {
  short <- vapply(
    which(!is.na(plate$grid$places$x0)),
    function(i) {
      block <- laid$blocks[[i]]
      frame <- laid$frames[[i]]
      share <- sum(plate$grid$rows$share[plate$grid$places$y0[i]:plate$grid$places$y1[i]])
      shape <- block$aspect %||% wished_shape(block$design)
      least <- least_lengths(block, plate)$height
      wanted <- length(frame$y$length_mm) * max(mean(frame$x$length_mm) * shape, least)
      if (share > 0) (wanted - sum(frame$y$length_mm)) / share else -Inf
    },
    0
  )
  if (all(is.finite(short)) && abs(max(short)) > 0.1 * plate$height_mm) {
    most <- plate$house$page$height_most_mm
    return(changed(plate, height_mm = round(min(most, max(30, plate$height_mm + max(short))))))
  }
  plate
}

# Insets that may choose their place take one where they cover no data.
with_settled_insets <- function(laid, keys, plate, font, call) {
  free <- which(vapply(laid$blocks, function(block) isTRUE(block$design$zoom$inset), NA))
  if (!length(free)) return(laid)
  settled <- lapply(free, function(i) {
    zoom_part <- laid$blocks[[i]]$design$zoom
    parent <- laid$blocks[[zoom_part$of]]
    panels <- scene_areas(parent, laid$frames[[zoom_part$of]])
    axes <- scene_axes(parent, laid$fits[[zoom_part$of]])
    marks <- place_marks(parent, axes, panels, plate$house, font)
    one_panel <- panels[panels$id == laid$blocks[[i]]$panels$host[1], ]
    inset <- laid$blocks[[i]]
    part <- zoomed_part(
      inset$axes[c(inset$panels$x_axis[1], inset$panels$y_axis[1])],
      axes[c(one_panel$x_axis, one_panel$y_axis)]
    )
    placed <- place_words(marks, panels, plate$house, font, area_counts(parent))
    ink <- with_texts(
      covered_places(marks, one_panel$id),
      lapply(placed, `[[`, "text"),
      one_panel
    )
    place <- free_inset(ink, one_panel, zoom_part, part)
    changed(inset, design = changed(inset$design, zoom = changed(zoom_part, settled = place)))
  })
  lay_out(replace(laid$blocks, free, settled), keys, plate, font, call)
}

tell_scales <- function(notes) {
  if (length(notes)) {
    warn_once(
      "scale",
      c("Values of unlike size share an axis:", stats::setNames(notes, rep("*", length(notes))))
    )
  }
}

# Bins of marginals line up with ticks, which only the layout knows; where their own axes
# are drawn, the layout is done again for those.
with_aligned_bins <- function(laid, keys, plate, font, call) {
  striped <- vapply(laid$blocks, has_marginals, NA)
  if (!any(striped)) return(laid)
  aligned <- Map(
    align_bins,
    laid$blocks[striped],
    laid$fits[striped],
    laid$frames[striped],
    MoreArgs = list(font = font)
  )
  blocks <- replace(laid$blocks, striped, aligned)
  if (any(vapply(aligned, function(block) isTRUE(block$design$marginals$axis), NA))) {
    return(lay_out(blocks, keys, plate, font, call))
  }
  # Ranges of axes that are not drawn can change without the layout.
  fitted <- Map(
    function(fits, block) {
      Map(
        function(fit, axis) {
          if (axis$role == "marginal") changed(fit, range = axis$range) else fit
        },
        fits,
        block$axes
      )
    },
    laid$fits,
    blocks
  )
  changed(laid, blocks = blocks, fits = fitted)
}

# What was left out is said once for the same figure: of which column, in which blocks.
tell_notes <- function(notes) {
  if (is.null(notes)) return(invisible())
  same <- unique(notes[c("column", "what", "n")])
  text <- vapply(
    seq_len(nrow(same)),
    function(i) {
      alike <- notes$column == same$column[i] & notes$what == same$what[i] & notes$n == same$n[i]
      blocks <- setdiff(unique(notes$block[alike]), "")
      note_sentence(same[i, ], notes$given[which(alike)[1]], blocks)
    },
    ""
  )
  warn_once(
    "rows",
    c(
      "Not every value is drawn as it is in the data:",
      stats::setNames(text, rep("*", length(text)))
    )
  )
}

# "4 of 144 values of \"firmness\" are missing and not drawn in block 2".
note_sentence <- function(note, given, blocks) {
  named <- listed(blocks)
  if (note$what == "missing values left out" && isTRUE(given >= note$n)) {
    return(
      paste0(
        count_text(note$n),
        " of ",
        counted(given, "value"),
        " of \"",
        note$column,
        "\" ",
        if (note$n == 1) "is" else "are",
        " missing and not drawn",
        if (length(blocks)) paste0(" in ", named)
      )
    )
  }
  of <- if (nzchar(note$column)) paste0("\"", note$column, "\"") else ""
  paste0(
    plain_text(note_said(note$what, note$n, of)),
    if (length(blocks)) paste0(" (in ", named, ")")
  )
}
