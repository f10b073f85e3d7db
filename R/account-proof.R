#' Prove a figure against its house's rules
#'
#' Measures the resolved plate, and its written file where one is given, against the limits
#' of the house and the rules of reading.
#'
#' @param plate A [plate()].
#' @param file Paths of files written from it, or `NULL`: the pages and fonts of PDFs, the pages of
#'   EPS files and the resolution of PNGs are measured, and all are judged by format and size.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with class `nelvat_proof`, a row a finding: `rule`, `measured`, `limit`,
#'   `verdict` (`"good"`, `"look"` or `"bad"`), `where` (panel or text) and `mend` (how). `boxes`,
#'   an attribute, has the places on the page in mm.
#' @details Contrast is the ratio of WCAG 2; colours are told apart by the least CIEDE2000
#'   under normal, protan, deutan and tritan vision (Machado, Oliveira and Fernandes 2009), and
#'   by lightness in grey.
#' @section Errors: `nelvat_error_argument` for what is no plate; `nelvat_error_file` for a file
#' that is not there; the errors of [as_scene()].
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_bars()),
#'   width = "single",
#'   height = 60
#' )
#' proof(fig)
#' @export
proof <- function(plate, file = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  scene <- described_scene(plate)
  of_files <- unlist(lapply(file, proof_file, scene, plate, call), recursive = FALSE)
  as_proof(c(proof_findings(scene, plate, file), of_files))
}

# saved: paths of the files that it is or will be saved as, where that is known.
proof_findings <- function(scene, plate, saved = NULL) {
  findings <- unlist(lapply(proof_rules(), function(rule) rule(scene, plate)), recursive = FALSE)
  c(findings, prove_transparency(scene, plate, saved))
}

# One finding. boxes: data frame of x0, y0, x1, y1 in mm, or NULL; variables: those it is of, for
# whoever mends it.
finding <- function(rule, measured, limit, verdict, where = "plate", mend = "", boxes = NULL) {
  list(
    rule = rule,
    measured = as.character(measured),
    limit = as.character(limit),
    verdict = verdict,
    where = where,
    mend = if (verdict == "good") "" else in_their_words(mend),
    boxes = boxes,
    variables = character()
  )
}

as_proof <- function(findings) {
  column <- function(name) vapply(findings, `[[`, "", name)
  table <- data.frame(
    rule = column("rule"),
    measured = column("measured"),
    limit = column("limit"),
    verdict = column("verdict"),
    where = column("where"),
    mend = column("mend")
  )
  structure(table, class = c("nelvat_proof", "data.frame"), boxes = lapply(findings, `[[`, "boxes"))
}

# The rules in the order they are told; each takes a scene and its plate and returns
# findings.
proof_rules <- function() {
  list(
    prove_width,
    prove_height,
    prove_empty,
    prove_type,
    prove_font,
    prove_glyphs,
    prove_lines,
    prove_overlap,
    prove_clipped,
    prove_over_data,
    prove_covered,
    prove_crowded,
    prove_colours,
    prove_grey,
    prove_colour_alone,
    prove_one_meaning,
    prove_key_titles,
    prove_contrast,
    prove_titles,
    prove_units,
    prove_one_unit,
    prove_ranges,
    prove_ticks,
    prove_zero,
    prove_errors,
    prove_intervals,
    prove_brackets,
    prove_stars,
    prove_counts,
    prove_dropped,
    prove_letters,
    prove_images
  )
}

# A finding that is good where nothing offends. measured: the words for good and for bad.
offending <- function(rule, bad, limit, measured, verdict, where, mend, boxes = NULL) {
  if (!any(bad)) return(list(finding(rule, measured[1], limit, "good")))
  list(
    finding(
      rule,
      measured[2],
      limit,
      verdict,
      some_of(where[bad]),
      mend,
      if (!is.null(boxes)) boxes[bad, c("x0", "y0", "x1", "y1")]
    )
  )
}

some_of <- function(where) {
  where <- unique(where)
  paste0(
    paste(utils::head(where, 3), collapse = "; "),
    if (length(where) > 3) paste0("; and ", length(where) - 3, " more")
  )
}

panel_boxes <- function(panels) {
  data.frame(x0 = panels$x, y0 = panels$y, x1 = panels$x + panels$w, y1 = panels$y + panels$h)
}

# What a panel is called: its levels, or its block and place.
panel_names <- function(scene, panels = scene$panels) {
  heading <- ifelse(
    is.na(panels$called),
    paste0("panel ", panels$row, ", ", panels$column),
    panels$called
  )
  blocks <- unique(scene$panels$block)
  if (length(blocks) > 1) paste0(sub("block", "block ", panels$block), ", ", heading) else heading
}

quote_text <- function(strings) paste0("\"", gsub("\n", " ", strings), "\"")

# Page ------------------------------------------------------------------------------

prove_width <- function(scene, plate) {
  columns <- plate$house$page$width_mm
  fits_page <- any(abs(columns - scene$page$width_mm) < 0.05)
  nearest <- columns[which.min(abs(columns - scene$page$width_mm))]
  list(
    finding(
      "page width",
      paste(format(scene$page$width_mm), "mm"),
      paste0(listed(paste0(columns, " mm")), " (columns)"),
      if (fits_page) "good" else "look",
      mend = paste0("Set `width = \"", names(nearest), "\"`.")
    )
  )
}

prove_height <- function(scene, plate) {
  most <- plate$house$page$height_most_mm
  # What goes over several pages is described on one that is high enough; each of its pages is as
  # the plate says.
  high <- scene$page$height_mm
  parted <- plate$grows && high > most + 0.05
  if (parted) high <- plate$height_mm
  list(
    finding(
      "page height",
      paste0(format(high), " mm", if (parted) " a page"),
      paste("at most", most, "mm"),
      if (high <= most + 0.05) "good" else "bad",
      mend = paste0(
        "Set `height` to ",
        most,
        " mm or less, or leave it out: what does not fit goes over pages."
      )
    )
  )
}

# Type and lines ----------------------------------------------------------------------

prove_type <- function(scene, plate) {
  least <- plate$house$type_pt$least
  # Exponents and indices are as small as their line makes them.
  sizes <- scene$texts$size_pt
  if (!length(sizes)) return(list())
  offending(
    "type size",
    sizes < least - 0.01,
    paste("at least", least, "pt"),
    c(
      paste0(format(min(sizes)), " to ", format(max(sizes)), " pt"),
      paste0(format(min(sizes)), " pt")
    ),
    "bad",
    quote_text(scene$texts$string),
    "Raise the size, or leave it to the house.",
    scene$texts
  )
}

prove_lines <- function(scene, plate) {
  least <- plate$house$limits$line_pt
  weights <- unlist(
    c(
      list(scene$rules$weight_pt),
      lapply(
        scene$marks,
        function(layer) if (layer$primitive %in% c("lines", "segments")) layer$table$weight_pt
      )
    )
  )
  if (!length(weights)) return(list())
  list(
    finding(
      "line weight",
      paste0(format(min(weights)), " to ", format(max(weights)), " pt"),
      paste("at least", least, "pt"),
      if (min(weights) >= least - 1e-6) "good" else "bad",
      mend = "Raise `weight` of the ink, or the house's `weight_pt`."
    )
  )
}

# Text --------------------------------------------------------------------------------

prove_overlap <- function(scene, plate) {
  touching <- touching_texts(scene, 0.05)
  texts <- scene$texts
  pair <- paste(
    quote_text(texts$string[match(touching$a, texts$id)]),
    "and",
    quote_text(texts$string[match(touching$b, texts$id)])
  )
  offending(
    "texts apart",
    rep(TRUE, nrow(touching)),
    "none touch",
    c("none touch", counted(nrow(touching), "pair")),
    "bad",
    pair,
    "Make the plate larger, or shorten the texts.",
    texts[match(touching$a, texts$id), ]
  )
}

prove_clipped <- function(scene, plate) {
  texts <- scene$texts
  out <- texts$x0 < -0.05 | texts$y0 < -0.05 | texts$x1 > scene$page$width_mm + 0.05 |
    texts$y1 > scene$page$height_mm + 0.05
  offending(
    "texts on the page",
    out,
    "all",
    c("all", counted(sum(out), "text")),
    "bad",
    quote_text(texts$string),
    "Make the plate larger, or shorten the texts.",
    texts
  )
}

# Texts that stand in a panel and have marks under them.
prove_over_data <- function(scene, plate) {
  texts <- scene$texts[
    scene$texts$role %in% c("equation", "key", "key title", "note", "point label"),
    
  ]
  over <- vapply(seq_len(nrow(texts)), function(i) marks_under(scene, texts[i, ]) > 0, NA)
  offending(
    "texts over data",
    over,
    "none",
    c("none", counted(sum(over), "text")),
    "look",
    quote_text(texts$string),
    "Move the text or the key outside, or widen the axis with `axis_of(padding = )`.",
    texts
  )
}

marks_under <- function(scene, text) {
  panels <- scene$panels
  panels_below <- which(
    text$x0 < panels$x + panels$w & text$x1 > panels$x & text$y0 < panels$y + panels$h &
      text$y1 > panels$y
  )
  marks <- Filter(
    function(layer) layer$primitive %in% c("points", "lines", "rects"),
    layer_marks(scene$marks)
  )
  sum(
    vapply(
      panels$id[panels_below],
      function(id) marks_within(scene, text, id, ink_points_of(marks, id)),
      0
    )
  )
}

# How many places of a panel's marks lie in a box on the page. ink: list(x, y) in the unit panel.
marks_within <- function(scene, box, id, ink) {
  one_panel <- scene$panels[match(id, scene$panels$id), ]
  x <- one_panel$x + ink$x * one_panel$w
  y <- one_panel$y + (1 - ink$y) * one_panel$h
  sum(x > box$x0 & x < box$x1 & y > box$y0 & y < box$y1, na.rm = TRUE)
}
