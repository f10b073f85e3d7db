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
#' @section Errors: `nelvat_error_argument` for what is no plate; `nelvat_error_file` for a file that is not
#' there; the errors of [as_scene()].
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = "single", height = 60)
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

# One finding. boxes: data frame of x0, y0, x1, y1 in mm, or NULL.
finding <- function(rule, measured, limit, verdict, where = "plate", mend = "", boxes = NULL) {
  list(rule = rule, measured = as.character(measured), limit = as.character(limit), verdict = verdict, where = where, mend = if (verdict == "good") "" else mend, boxes = boxes)
}

as_proof <- function(findings) {
  column <- function(name) vapply(findings, `[[`, "", name)
  table <- data.frame(rule = column("rule"), measured = column("measured"), limit = column("limit"), verdict = column("verdict"), where = column("where"), mend = column("mend"))
  structure(table, class = c("nelvat_proof", "data.frame"), boxes = lapply(findings, `[[`, "boxes"))
}

# The rules in the order they are told; each takes a scene and its plate and returns
# findings.
proof_rules <- function() {
  list(
    prove_width, prove_height, prove_type, prove_lines, prove_overlap, prove_clipped, prove_over_data, prove_colours, prove_grey, prove_colour_alone, prove_contrast, prove_titles,
    prove_units, prove_ranges, prove_zero, prove_errors, prove_counts, prove_dropped, prove_letters, prove_glyphs, prove_images
  )
}

# A finding that is good where nothing offends.
offending <- function(rule, bad, limit, measured_good, measured_bad, verdict, where, mend, boxes = NULL) {
  if (!any(bad)) return(list(finding(rule, measured_good, limit, "good")))
  list(finding(rule, measured_bad, limit, verdict, some_of(where[bad]), mend, if (!is.null(boxes)) boxes[bad, c("x0", "y0", "x1", "y1")]))
}

some_of <- function(where) {
  where <- unique(where)
  paste0(paste(utils::head(where, 3), collapse = "; "), if (length(where) > 3) paste0("; and ", length(where) - 3, " more"))
}

panel_boxes <- function(panels) data.frame(x0 = panels$x, y0 = panels$y, x1 = panels$x + panels$w, y1 = panels$y + panels$h)

# What a panel is called: its letter, heading, or its block and place.
panel_names <- function(scene, panels = scene$panels) {
  heading <- ifelse(is.na(panels$heading), paste0("panel ", panels$row, ", ", panels$column), panels$heading)
  blocks <- unique(scene$panels$block)
  if (length(blocks) > 1) paste0(sub("block", "block ", panels$block), ", ", heading) else heading
}

quote_text <- function(strings) paste0("\"", gsub("\n", " ", strings), "\"")

# Page ------------------------------------------------------------------------------

prove_width <- function(scene, plate) {
  columns <- plate$house$page$width_mm
  fits <- any(abs(columns - scene$page$width_mm) < 0.05)
  nearest <- columns[which.min(abs(columns - scene$page$width_mm))]
  list(finding("page width", paste(format(scene$page$width_mm), "mm"), paste0(listed(paste0(columns, " mm")), " (columns)"), if (fits) "good" else "look",
               mend = paste0("Set `width = \"", names(nearest), "\"`.")))
}

prove_height <- function(scene, plate) {
  most <- plate$house$page$height_most_mm
  list(finding("page height", paste(format(scene$page$height_mm), "mm"), paste("at most", most, "mm"), if (scene$page$height_mm <= most + 0.05) "good" else "bad",
               mend = paste0("Set `height` to ", most, " mm or less, or save over several pages.")))
}

# Type and lines ----------------------------------------------------------------------

prove_type <- function(scene, plate) {
  least <- plate$house$type_pt$least
  # Exponents and indices are as small as their line makes them.
  sizes <- scene$texts$size_pt
  if (!length(sizes)) return(list())
  offending("type size", sizes < least - 0.01, paste("at least", least, "pt"), paste0(format(min(sizes)), " to ", format(max(sizes)), " pt"), paste0(format(min(sizes)), " pt"), "bad",
            quote_text(scene$texts$string), "Raise the size, or leave it to the house.", scene$texts)
}

prove_lines <- function(scene, plate) {
  least <- plate$house$limits$line_pt
  weights <- unlist(c(list(scene$rules$weight_pt), lapply(scene$marks, function(layer) if (layer$primitive %in% c("lines", "segments")) layer$table$weight_pt)))
  if (!length(weights)) return(list())
  list(finding("line weight", paste0(format(min(weights)), " to ", format(max(weights)), " pt"), paste("at least", least, "pt"), if (min(weights) >= least - 1e-6) "good" else "bad",
               mend = "Raise `weight` of the ink, or the house's `weight_pt`."))
}

# Text --------------------------------------------------------------------------------

prove_overlap <- function(scene, plate) {
  touching <- touching_texts(scene, 0.05)
  texts <- scene$texts
  pair <- paste(quote_text(texts$string[match(touching$a, texts$id)]), "and", quote_text(texts$string[match(touching$b, texts$id)]))
  offending("texts apart", rep(TRUE, nrow(touching)), "none touch", "none touch", counted(nrow(touching), "pair"), "bad", pair, "Make the plate larger, or shorten the texts.",
            texts[match(touching$a, texts$id), ])
}

prove_clipped <- function(scene, plate) {
  texts <- scene$texts
  out <- texts$x0 < -0.05 | texts$y0 < -0.05 | texts$x1 > scene$page$width_mm + 0.05 | texts$y1 > scene$page$height_mm + 0.05
  offending("texts on the page", out, "all", "all", counted(sum(out), "text"), "bad", quote_text(texts$string), "Make the plate larger, or shorten the texts.", texts)
}

# Texts that stand in a panel and have marks under them.
prove_over_data <- function(scene, plate) {
  texts <- scene$texts[scene$texts$role %in% c("equation", "key", "key title", "note", "point label"), ]
  over <- vapply(seq_len(nrow(texts)), function(i) marks_under(scene, texts[i, ]) > 0, NA)
  offending("texts over data", over, "none", "none", counted(sum(over), "text"), "look", quote_text(texts$string), "Move the text or the key outside, or widen the axis with `axis_of(padding = )`.", texts)
}

marks_under <- function(scene, text) {
  panels <- scene$panels
  held <- which(text$x0 < panels$x + panels$w & text$x1 > panels$x & text$y0 < panels$y + panels$h & text$y1 > panels$y)
  sum(vapply(held, function(i) {
    panel <- panels[i, ]
    ink <- ink_points_of(Filter(function(layer) layer$primitive %in% c("points", "lines", "rects"), scene$marks), panel$id)
    x <- panel$x + ink$x * panel$w
    y <- panel$y + (1 - ink$y) * panel$h
    sum(x > text$x0 & x < text$x1 & y > text$y0 & y < text$y1, na.rm = TRUE)
  }, 0))
}

# Colours -----------------------------------------------------------------------------

# The keys of levels told apart by colour.
colour_keys <- function(scene) {
  keys <- scene$keys[!is.na(scene$keys$label), ]
  keys <- keys[keys$glyph != "ramp", ]
  if (is.null(keys) || !nrow(keys)) return(list())
  Filter(function(key) length(unique(key$colour)) > 1, split(keys, factor(keys$key, unique(keys$key))))
}

prove_colours <- function(scene, plate) {
  least <- plate$house$limits$colour_difference
  lapply(colour_keys(scene), function(key) {
    apart <- vision_distances(key$colour)
    closest <- min(apart[upper.tri(apart)])
    pair <- which(apart == closest & upper.tri(apart), arr.ind = TRUE)[1, ]
    finding("colours told apart", paste("CIEDE2000", format(round(closest, 1))), paste("at least", least, "in all visions"), if (closest >= least) "good" else "bad",
            paste0(key$key[1], ": ", key$label[pair[1]], ", ", key$label[pair[2]]), "Use the house's colours, or show the variable by shape too.", key_boxes(key))
  })
}

key_boxes <- function(key) data.frame(x0 = key$x, y0 = key$y, x1 = key$x + key$w, y1 = key$y + key$h)

grey_limit <- 4 # difference in CIE lightness

prove_grey <- function(scene, plate) {
  lapply(colour_keys(scene), function(key) {
    lightness <- sort(farver::decode_colour(key$colour, to = "lab")[, 1])
    closest <- min(diff(lightness))
    shaped <- length(unique(key$shape)) == nrow(key) || length(unique(key$dash)) == nrow(key)
    finding("colours in grey", paste("lightness", format(round(closest, 1))), paste("at least", grey_limit), if (closest >= grey_limit || shaped) "good" else "look", key$key[1],
            "Show the variable by shape or dash too, where it will be printed in grey.", key_boxes(key))
  })
}

prove_colour_alone <- function(scene, plate) {
  lapply(Filter(function(key) any(grepl("symbol|line", key$glyph)), colour_keys(scene)), function(key) {
    # Labels at the ends of lines tell them apart without colour.
    alone <- length(unique(key$shape)) == 1 && length(unique(key$dash)) == 1
    finding("groups by more than colour", if (alone) "by colour alone" else "by shape or dash too", "more than colour", if (alone) "look" else "good", key$key[1],
            "Give the variable to `shape` or `dash` too.", key_boxes(key))
  })
}

prove_contrast <- function(scene, plate) {
  least <- plate$house$limits$contrast
  runs <- scene$runs
  # Words in a panel may stand on a dark ground, which chose their colour.
  role <- scene$texts$role[match(runs$text, scene$texts$id)]
  judged <- !role %in% "value"
  if (!any(judged)) return(list())
  ratio <- white_contrast(runs$colour)
  bad <- judged & ratio < least - 0.01
  offending("contrast of text", bad, paste0("at least ", least, " : 1"), paste0(format(round(min(ratio[judged], Inf), 1)), " : 1"), paste0(format(round(min(ratio[judged]), 1)), " : 1"), "bad",
            quote_text(runs$string), "Choose a darker colour for the text.", scene$texts[match(runs$text, scene$texts$id), ])
}

# Axes --------------------------------------------------------------------------------

shown_axes <- function(scene) {
  Filter(function(axis) !axis$hidden && any(axis$id %in% c(scene$panels$x_shown, scene$panels$y_shown)), scene$axes)
}

axis_place <- function(axis) paste0(axis$direction, " axis of ", axis$variable)

prove_titles <- function(scene, plate) {
  axes <- Filter(function(axis) length(axis$drawn_at) > 0, shown_axes(scene))
  if (!length(axes)) return(list())
  # A heading over the panel, or a name on the diagonal, names the axis as well.
  nameless <- vapply(axes, function(axis) {
    headed <- any(!is.na(scene$panels$heading[scene$panels$id %in% axis$panels]))
    isTRUE(axis$quantity) && !nzchar(axis$title) && !headed && !isTRUE(axis$zoomed) && !isTRUE(axis$named)
  }, NA)
  offending("axes named", nameless, "all", "all", counted(sum(nameless), "axis", "axes"), "bad", vapply(axes, axis_place, ""), "Name the variable in the codebook, or with `axis_of(title = )`.")
}

prove_units <- function(scene, plate) {
  axes <- Filter(function(axis) length(axis$drawn_at) > 0 && isTRUE(axis$quantity) && nzchar(axis$title), shown_axes(scene))
  unitless <- vapply(axes, function(axis) !grepl("\\(.+\\)|%", axis$title), NA)
  if (!length(axes)) return(list())
  offending("units given", unitless, "for each quantity", "all", counted(sum(unitless), "axis", "axes"), "look", vapply(axes, axis_place, ""),
            "Give the unit in the codebook: `quantity(\"Mass\", unit = \"g\")`; a number without one needs none.")
}

prove_ranges <- function(scene, plate) {
  axes <- Filter(function(axis) isTRUE(axis$quantity) && !isTRUE(axis$zoomed), shown_axes(scene))
  key <- vapply(axes, function(axis) paste(axis$direction, axis$variable, axis$transform), "")
  unlike <- vapply(unique(key), function(one) {
    ranges <- lapply(axes[key == one], `[[`, "range")
    length(ranges) > 1 && max(vapply(ranges, function(range) max(abs(range - ranges[[1]])), 0)) > 1e-9 * max(abs(ranges[[1]]))
  }, NA)
  if (!length(axes)) return(list())
  offending("same variable, same range", unlike, "one range", "one range", counted(sum(unlike), "variable"), "look", vapply(axes[match(unique(key), key)], axis_place, ""),
            "Share the axis: `range_per = \"block\"` in `facets()`, `share_axis()` on the plate.")
}

prove_zero <- function(scene, plate) {
  bars <- Filter(function(layer) isTRUE(layer$on_zero) && layer$primitive == "rects", scene$marks)
  panels <- unique(unlist(lapply(bars, function(layer) layer$table$panel)))
  if (!length(panels)) return(list())
  at <- match(panels, scene$panels$id)
  cut <- vapply(at, function(i) {
    axes <- scene$axes[c(scene$panels$x_axis[i], scene$panels$y_axis[i])]
    grounded <- Filter(function(axis) isTRUE(axis$grounded), axes)
    any(vapply(grounded, function(axis) axis$transform == "identity" && (min(axis$range) > 1e-9 || max(axis$range) < -1e-9), NA))
  }, NA)
  offending("bars from zero", cut, "all", "all", counted(sum(cut), "panel"), "bad", panel_names(scene, scene$panels[at, ]), "Leave the range of the axis to the bars.", panel_boxes(scene$panels[at, ]))
}

# Statistics --------------------------------------------------------------------------

prove_errors <- function(scene, plate) {
  facts <- scene$facts[scene$facts$summarises == "groups", ]
  if (is.null(facts) || !nrow(facts)) return(list())
  drawn <- vapply(scene$marks, function(layer) identical(layer$summarises, "groups") && layer$primitive %in% c("segments", "areas"), NA)
  if (!any(drawn)) return(list())
  bare <- !grepl("sd|se|standard|interval|ci|quartile|range|error", facts$shows)
  offending("error bars defined", bare, "in the legend text", "defined", counted(sum(bare), "layer"), "bad", facts$shows, "Name them: `ink_bars(error = \"sd\")`.")
}

prove_counts <- function(scene, plate) {
  facts <- scene$facts
  if (is.null(facts) || !nrow(facts)) return(list())
  few <- facts$n < 3 & facts$summarises == "spread"
  n <- range(facts$n)
  offending("n given", few, "3 or more behind a statistic", if (n[1] == n[2]) paste("n =", n[1]) else paste("n =", n[1], "to", n[2]), paste("n =", min(facts$n[few], Inf)), "look",
            paste0(facts$ink, if (all(is.na(facts$heading))) "" else paste0(", ", facts$heading)), "Show the single values with `ink_dots()` where there are so few.")
}

prove_dropped <- function(scene, plate) {
  left <- scene$columns
  if (is.null(left) || !nrow(left)) return(list(finding("rows left out", "none", "none unsaid", "good")))
  list(finding("rows left out", paste(format(sum(left$n), big.mark = ","), "values"), "none unsaid", "look", some_of(paste0(left$column, ": ", left$n, " ", left$what)), "Say so in the legend: `legend_text()` does."))
}

prove_letters <- function(scene, plate) {
  letters <- scene$texts$string[scene$texts$role == "letter"]
  blocks <- length(unique(scene$panels$block))
  if (blocks < 2 && !length(letters)) return(list())
  own <- !is.null(plate$letters) && !plate$letters[1] %in% c("block", "panel")
  expected <- letter_style(letter_sequence(length(letters)), plate$house)
  complete <- length(letters) > 0 && (own || identical(sort(letters), sort(expected))) && !anyDuplicated(letters)
  list(finding("letters", if (length(letters)) paste(letters, collapse = ", ") else "none", "complete, in order", if (complete) "good" else "bad", mend = "Set `letters = \"block\"`."))
}

prove_glyphs <- function(scene, plate) {
  strings <- unique(scene$runs$string)
  lacking <- vapply(strings, function(string) {
    shown <- strsplit(gsub("[\\s\u00a0\u2009\u202f]", "", string, perl = TRUE), "")[[1]]
    shown <- shown[nzchar(shown)]
    if (!length(shown)) return("")
    info <- systemfonts::glyph_info(shown, family = scene$font$family)
    paste(shown[info$index == 0], collapse = "")
  }, "")
  offending("characters in the font", nzchar(lacking), scene$font$family, "all", paste(unique(lacking[nzchar(lacking)]), collapse = " "), "look", quote_text(strings),
            "Name a family that has them in the house's `families`.")
}

prove_images <- function(scene, plate) {
  images <- Filter(function(layer) layer$primitive == "image", scene$marks)
  if (!length(images)) return(list())
  least <- plate$house$limits$image_dpi
  unlist(lapply(images, function(layer) lapply(seq_len(nrow(layer$table)), function(i) {
    panel <- scene$panels[match(layer$table$panel[i], scene$panels$id), ]
    dpi <- ncol(layer$pixels) / (abs(layer$table$x1[i] - layer$table$x0[i]) * panel$w) * 25.4
    finding("image resolution", paste(round(dpi), "dpi"), paste("at least", least, "dpi"), if (dpi >= least) "good" else "bad", panel_names(scene, panel), "Use an image of more pixels, or print it smaller.", panel_boxes(panel))
  })), recursive = FALSE)
}

# See-through marks, where the house forbids them or a format asked for knows none.
prove_transparency <- function(scene, plate, saved = NULL) {
  limits <- plate$house$limits
  layers <- vapply(scene$marks, has_see_through, NA)
  eps <- "eps" %in% c(limits$formats, tolower(tools::file_ext(saved)))
  forbidden <- !limits$transparency
  limit <- if (forbidden) "none" else if (eps) "none in EPS, which makes an image of it" else "any"
  verdict <- if (forbidden && (eps || is.null(saved))) "bad" else "look"
  offending(
    "transparency", layers & (eps || forbidden), limit, if (any(layers)) "some, where it may be" else "none", counted(sum(layers), "layer"),
    verdict, vapply(scene$marks, `[[`, "", "ink"), "Set `opacity = 1`, or send PDF or TIFF where the house takes it."
  )
}

has_see_through <- function(layer) !is.null(layer$table$opacity) && any(layer$table$opacity > 0 & layer$table$opacity < 1)
