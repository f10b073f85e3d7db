# Rules of proof on letters, glyphs, images and opacity.

prove_letters <- function(scene, plate) {
  letters <- scene$texts$string[scene$texts$role == "letter"]
  # Columns of text, words and insets belong to what stands beside or about them.
  inset <- unique(scene$panels$block[scene$panels$role == "inset"])
  blocks <- length(setdiff(read_blocks(scene), inset))
  if (blocks < 2 && !length(letters)) return(list())
  are_given <- !is.null(plate$letters) && !plate$letters[1] %in% c("block", "panel")
  expected <- letter_style(letter_sequence(length(letters)), plate$house)
  complete <- length(letters) > 0 && (are_given || identical(sort(letters), sort(expected))) &&
    !anyDuplicated(letters)
  list(
    finding(
      "letters",
      if (length(letters)) paste(letters, collapse = ", ") else "none",
      "complete, in order",
      if (complete) "good" else "bad",
      mend = "Set `letters = \"block\"`."
    )
  )
}

prove_glyphs <- function(scene, plate) {
  strings <- unique(scene$runs$string)
  lacking <- lacking_in_runs(scene$runs)
  bad <- vapply(strings, function(string) any(vapply(lacking, grepl, NA, string, fixed = TRUE)), NA)
  offending(
    "characters in the font",
    bad,
    scene$font$family,
    c("all", paste("none has", paste(lacking, collapse = " "))),
    "bad",
    quote_text(strings),
    paste0(
      "Install a font that has them, such as ",
      if (length(lacking)) font_for(lacking),
      ", or write them otherwise."
    )
  )
}

prove_images <- function(scene, plate) {
  images <- Filter(function(layer) layer$primitive == "image", scene$marks)
  if (!length(images)) return(list())
  least <- plate$house$limits$image_dpi
  unlist(
    lapply(
      images,
      function(layer) {
        lapply(seq_len(nrow(layer$table)), function(i) {
          one_panel <- scene$panels[match(layer$table$panel[i], scene$panels$id), ]
          dpi <- ncol(layer$pixels) / (abs(layer$table$x1[i] - layer$table$x0[i]) * one_panel$w) *
            25.4
          finding(
            "image resolution",
            paste(round(dpi), "dpi"),
            paste("at least", least, "dpi"),
            if (dpi >= least) "good" else "bad",
            panel_names(scene, one_panel),
            "Use an image of more pixels, or print it smaller.",
            panel_boxes(one_panel)
          )
        })
      }
    ),
    recursive = FALSE
  )
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
    "transparency",
    layers & (eps || forbidden),
    limit,
    c(if (any(layers)) "some, where it may be" else "none", counted(sum(layers), "layer")),
    verdict,
    vapply(scene$marks, `[[`, "", "ink"),
    "Set `opacity = 1`, or send PDF or TIFF where the house takes it."
  )
}

has_see_through <- function(layer) {
  !is.null(layer$table$opacity) && any(layer$table$opacity > 0 & layer$table$opacity < 1)
}
