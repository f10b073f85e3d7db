#' A plate as a grob
#'
#' @param plate A [plate()] or a scene from [as_scene()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A grid grob of the plate's own size.
#' @section Errors: The errors of [as_scene()].
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' as_grob(fig)
#' @export
as_grob <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  if (inherits(plate, "nelvat_scene")) return(scene_grob(as_drawing(plate)))
  scene_grob(as_drawing(as_scene(plate), plate))
}

# What the drawing room takes: a scene, with what no table holds: the pictures of other packages,
# by block, and from which resolution on panels of very many marks are an image.
as_drawing <- function(scene, plate = NULL, dense_dpi = NULL) {
  grobs <- lapply(scene$pictures$block, function(id) {
    plate$blocks[[as.integer(sub("^block", "", id))]]$picture
  })
  structure(
    c(unclass(scene), list(picture_grobs = grobs, dense_dpi = dense_dpi)),
    class = "nelvat_drawing"
  )
}

# scale: times true size; parts: "all", "texts", or "marks" without texts and plots of other
# packages; corner: does the plate stand in the device's top left corner, or in the middle?
scene_grob <- function(scene, scale = 1, parts = "all", corner = FALSE) {
  children <- c(
    if (parts != "texts") {
      c(list(draw_paper(), draw_rules(scene, leaders = TRUE)), draw_panels(scene))
    },
    if (parts == "all") draw_foreign(scene),
    if (parts != "texts") list(draw_rules(scene), draw_keys(scene)),
    if (parts != "marks") list(draw_texts(scene))
  )
  page_grob(scene, children, scale, corner)
}

# Each plot of another package on a page of its own, in its place.
picture_grobs <- function(scene) {
  lapply(draw_foreign(scene), function(one) page_grob(scene, list(one), 1, corner = TRUE))
}

page_grob <- function(scene, children, scale, corner) {
  page <- scene$page
  # Millimetres of the page are this viewport's native units, y downwards.
  viewport <- grid::viewport(
    x = if (corner) 0 else 0.5,
    y = if (corner) 1 else 0.5,
    just = if (corner) c(0, 1) else c(0.5, 0.5),
    width = grid::unit(page$width_mm * scale, "mm"),
    height = grid::unit(page$height_mm * scale, "mm"),
    xscale = c(0, page$width_mm),
    yscale = c(page$height_mm, 0),
    gp = grid::gpar(cex = scale, lex = scale)
  )
  grid::gTree(
    children = do.call(grid::gList, children),
    vp = viewport,
    family = unique(c(scene$font$family, scene$runs$family)),
    cl = "nelvat_grob"
  )
}

draw_paper <- function() grid::rectGrob(gp = grid::gpar(fill = "#FFFFFF", col = NA))

# R's plain pdf() and postscript() devices know fonts only by a table of their own;
# a family that is not in it is entered there as their Helvetica. Their hyphen is drawn as a minus,
# and their encoding has no other.
#' @noRd
#' @rawNamespace S3method(grid::makeContent, nelvat_grob)
makeContent.nelvat_grob <- function(x) {
  tables <- list(pdf = grDevices::pdfFonts, postscript = grDevices::postscriptFonts)
  table <- tables[[names(grDevices::dev.cur())]]
  if (is.null(table)) return(x)
  for (family in setdiff(x$family, names(table()))) {
    do.call(table, stats::setNames(list(table()$Helvetica), family))
  }
  with_plain_minus(x)
}

with_plain_minus <- function(grob) {
  if (is.character(grob$label)) grob$label <- gsub("\u2212", "-", grob$label, fixed = TRUE)
  if (inherits(grob, "gTree")) grob$children[] <- lapply(grob$children, with_plain_minus)
  grob
}

# On the device that is open.
draw_here <- function(plate) {
  grid::grid.newpage()
  grid::grid.draw(as_grob(plate))
}

# Runs code on a device of its own; the device that was open before goes on.
on_device <- function(open, code) {
  before <- grDevices::dev.cur()
  open()
  device <- grDevices::dev.cur()
  on.exit({
    grDevices::dev.off(device)
    if (before > 1) grDevices::dev.set(before)
  })
  force(code)
}

# For ggplot2::ggsave() and others that draw what they are given.
#' @noRd
#' @rawNamespace S3method(grid::grid.draw, nelvat_plate)
grid.draw.nelvat_plate <- function(x, recording = TRUE) {
  grid::grid.draw(as_grob(x), recording = recording)
}

#' @export
plot.nelvat_plate <- function(x, ...) print(x, ...)

# Line width of R for a weight in points: R's unit is 1/96 inch.
line_width <- function(weight_pt) weight_pt * 96 / 72

# Lengths of strokes and gaps as R's devices take them: a hexadecimal digit each.
line_type <- function(dash) {
  patterns <- unique(dash)
  codes <- vapply(
    strsplit(patterns, " ", fixed = TRUE),
    function(words) {
      if (length(words) < 2) words else paste(sprintf("%X", as.integer(words)), collapse = "")
    },
    ""
  )
  codes[match(dash, patterns)]
}

native <- function(mm) grid::unit(mm, "native")

# leaders: those of zooms, which run behind the panels, or all others?
draw_rules <- function(scene, leaders = FALSE) {
  rules <- scene$rules[(scene$rules$role == "leader") == leaders, ]
  name <- if (leaders) "leaders" else "rules"
  if (!nrow(rules)) return(grid::nullGrob(name = name))
  grid::segmentsGrob(
    native(rules$x0),
    native(rules$y0),
    native(rules$x1),
    native(rules$y1),
    gp = grid::gpar(col = rules$colour, lwd = line_width(rules$weight_pt), lineend = "butt"),
    name = name
  )
}

draw_texts <- function(scene) {
  runs <- scene$runs
  if (is.null(runs)) return(grid::nullGrob(name = "texts"))
  face <- 1L + runs$bold + 2L * runs$italic
  # One grob for each angle, face and family: the rest of grid's parameters go by element.
  groups <- split(seq_len(nrow(runs)), list(face, runs$angle, runs$family), drop = TRUE)
  grobs <- lapply(groups, function(rows) {
    run <- runs[rows, ]
    grid::textGrob(
      run$string,
      native(run$x),
      native(run$y),
      just = c(0, 0),
      rot = run$angle[1],
      gp = grid::gpar(
        fontfamily = run$family[1],
        fontface = face[rows[1]],
        fontsize = run$size_pt,
        col = run$colour
      )
    )
  })
  grid::gTree(children = do.call(grid::gList, unname(grobs)), name = "texts")
}

draw_keys <- function(scene) {
  entries <- scene$keys
  if (is.null(entries)) return(grid::nullGrob(name = "keys"))
  items_of <- function(glyph) entries[grepl(glyph, entries$glyph, fixed = TRUE), ]
  grobs <- list(
    key_swatches(items_of("swatch")),
    key_lines(items_of("line")),
    key_symbols(items_of("symbol"))
  )
  grid::gTree(children = do.call(grid::gList, Filter(Negate(is.null), grobs)), name = "keys")
}

key_swatches <- function(keys) {
  if (!nrow(keys)) return(NULL)
  grid::rectGrob(
    native(keys$x),
    native(keys$y),
    native(keys$w),
    native(keys$h),
    just = c(0, 0),
    gp = grid::gpar(fill = keys$colour, col = NA)
  )
}

key_lines <- function(keys) {
  if (!nrow(keys)) return(NULL)
  grid::segmentsGrob(
    native(keys$x),
    native(keys$y + keys$h / 2),
    native(keys$x + keys$w),
    native(keys$y + keys$h / 2),
    gp = grid::gpar(
      col = keys$colour,
      lty = line_type(keys$dash),
      lwd = line_width(keys$weight_pt),
      lineend = "butt"
    )
  )
}

key_symbols <- function(keys) {
  if (!nrow(keys)) return(NULL)
  looks <- symbol_looks(keys$shape, keys$colour, 1)
  grid::pointsGrob(
    native(keys$x + keys$w / 2),
    native(keys$y + keys$h / 2),
    pch = looks$pch,
    gp = grid::gpar(
      col = looks$colour,
      fill = looks$fill,
      fontsize = symbol_font_pt(keys$size_mm),
      lwd = line_width(0.6)
    )
  )
}
