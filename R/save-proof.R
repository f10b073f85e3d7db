#' The figure with what its proof found outlined
#'
#' @param plate A [plate()].
#' @param path Path of a PNG.
#' @param dpi Dots per inch.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The path, invisibly. Places that are bad are outlined in red, those to look at in
#'   amber; a list of findings stands under the figure.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_file` where the
#' picture cannot be written; the errors of [as_scene()].
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_bars()),
#'   width = "single",
#'   height = 60
#' )
#' proof_picture(fig, tempfile(fileext = ".png"))
#' @export
proof_picture <- function(plate, path, dpi = 200, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_is_plate(plate, call)
  check_string(path, "path")
  scene <- described_scene(plate)
  findings <- as_proof(proof_findings(scene, plate))
  listed <- which(findings$verdict != "good")
  lines <- unlist(
    lapply(
      seq_along(listed),
      function(k) {
        strwrap(
          paste0(
            k,
            "  ",
            findings$rule[listed[k]],
            ": ",
            findings$measured[listed[k]],
            " (",
            findings$limit[listed[k]],
            "), ",
            findings$where[listed[k]]
          ),
          width = max(30, scene$page$width_mm * 0.62),
          exdent = 4
        )
      }
    )
  )
  list_mm <- (length(lines) + 2) * 3.9
  high <- scene$page$height_mm + list_mm
  grob <- findings_grob(as_drawing(scene, plate), findings, listed, lines, list_mm)
  write_whole(path, drawn_png(grob, scene$page$width_mm, high, dpi), call)
  invisible(path)
}

findings_grob <- function(scene, findings, listed, lines, list_mm) {
  page <- grid::viewport(
    y = 1,
    just = c(0.5, 1),
    height = grid::unit(scene$page$height_mm, "mm"),
    xscale = c(0, scene$page$width_mm),
    yscale = c(scene$page$height_mm, 0)
  )
  outlines <- finding_outlines(findings, listed, scene$font$family)
  outlined <- grid::gTree(
    children = grid::gList(scene_grob(scene), outlines),
    vp = page
  )
  list_below <- grid::textGrob(
    paste(if (length(lines)) lines else "Nothing was found.", collapse = "\n"),
    x = grid::unit(2, "mm"),
    y = grid::unit(list_mm - 3, "mm"),
    just = c(0, 1),
    gp = grid::gpar(fontsize = 7, lineheight = 1.3, fontfamily = scene$font$family)
  )
  grid::gTree(children = grid::gList(outlined, list_below))
}

# A frame round each box that a finding is of, with its number; of one box all its numbers.
finding_outlines <- function(findings, listed, family) {
  boxes <- do.call(
    rbind,
    lapply(seq_along(listed), function(k) {
      found <- attr(findings, "boxes")[[listed[k]]]
      if (NROW(found)) cbind(found[c("x0", "y0", "x1", "y1")], number = k, row = listed[k])
    })
  )
  if (is.null(boxes)) return(grid::nullGrob())
  place <- do.call(paste, round(boxes[1:4], 3))
  label <- tapply(boxes$number, place, function(k) paste(unique(k), collapse = ", "))
  bad <- tapply(findings$verdict[boxes$row] == "bad", place, any)
  boxes <- boxes[!duplicated(place), ]
  place <- unique(place)
  colour <- ifelse(bad[place], "#C3001E", "#B87400")
  frame <- grid::rectGrob(
    native(boxes$x0 - 0.4),
    native(boxes$y0 - 0.4),
    native(boxes$x1 - boxes$x0 + 0.8),
    native(boxes$y1 - boxes$y0 + 0.8),
    just = c(0, 0),
    gp = grid::gpar(col = colour, fill = NA, lwd = 1.4)
  )
  # Beside a large box, such as a plot area, stand its tick texts: the number goes inside.
  inside <- boxes$x1 - boxes$x0 > 15
  mark <- grid::textGrob(
    label[place],
    native(ifelse(inside, boxes$x0 + 0.4, boxes$x0 - 0.8)),
    native(boxes$y0 + ifelse(inside, 0.4, -0.2)),
    hjust = ifelse(inside, 0, 1),
    vjust = 1,
    gp = grid::gpar(col = colour, fontsize = 6, fontface = "bold", fontfamily = family)
  )
  grid::gTree(children = grid::gList(frame, mark))
}
