# Blocks in a figure file: one word that says what the block is, with its keys.

block_words <- c("panel", "facets", "every_pair", "joint", "zoom", "text_panel", "image_panel")

build_block <- function(block, tables, at) {
  check_keys(block, c(block_words, "margins"), at = at)
  word <- intersect(names(block), block_words)
  if (length(word) != 1) abort_figure(at, paste0("A block is one of ", quoted(block_words), "."), names(block))
  build <- switch(word, panel = build_panel, facets = build_facets, every_pair = build_pairs, joint = build_joint,
                  zoom = build_zoom, text_panel = build_text, image_panel = build_image)
  built <- build(block[[word]], tables, c(at, word))
  if (is.null(block$margins)) return(built)
  if (!word %in% c("panel", "facets")) abort_figure(c(at, "margins"), "Only \"panel\" and \"facets\" take margins.", word)
  build_margins(built, block$margins, tables, c(at, "margins"))
}

build_facets <- function(facets, tables, at) {
  check_keys(facets, c("panel", "across", "down", names(facets_settings)), needs = "panel", at = at)
  panel <- build_panel(facets$panel, tables, c(at, "panel"))
  columns <- names(panel$book$data)
  settings <- facets[intersect(names(facets), names(facets_settings))]
  settings$order <- at_key(c(at, "order"), field_order(facets$order))
  if (is.list(settings$share)) settings$share <- unlist(settings$share)
  at_key(at, new_facets(panel, channel_quo(facets$across, columns, c(at, "across")), channel_quo(facets$down, columns, c(at, "down")), settings, rlang::current_env()))
}

# zoom: {of: slice, x: [40, 60], y: [20, 40]}
build_zoom <- function(settings, tables, at) {
  check_keys(settings, names(formals(zoom)), needs = "of", at = at)
  at_key(at, do.call(zoom, lapply(settings, function(value) if (is.list(value)) unlist(value) else value)))
}

build_text <- function(text, tables, at) at_key(at, text_panel(string_at(text, at)))

# image_panel: {path: crumb.png, scale: {length: 5, unit: mm, per_pixel: 0.02}}
build_image <- function(image, tables, at) {
  if (rlang::is_string(image)) image <- list(path = image)
  check_keys(image, c("path", "scale"), needs = "path", at = at)
  if (!is.null(image$scale)) check_keys(image$scale, names(formals(scale_bar)), needs = c("length", "unit", "per_pixel"), at = c(at, "scale"))
  scale <- if (!is.null(image$scale)) at_key(c(at, "scale"), do.call(scale_bar, image$scale))
  at_key(at, image_panel(beside_file(string_at(image$path, c(at, "path")), attr(tables, "folder")), scale))
}

build_margins <- function(block, margins, tables, at) {
  check_keys(margins, c("x", "y", "size", "gap", "axis"), at = at)
  columns <- names((if (inherits(block, "nelvat_panel")) block else block$panel)$book$data)
  ink <- function(side) build_inks(margins[[side]], columns, tables, c(at, side))
  at_key(at, new_margins(block, ink("x"), ink("y"), margins[c("size", "gap", "axis")], rlang::current_env()))
}

build_joint <- function(joint, tables, at) {
  check_keys(joint, c("data", panel_channels, "ink", "derive", "keep", "order", "missing", "x_axis", "y_axis", joint_settings), needs = c("data", "x", "y"), at = at)
  parts <- panel_parts(joint, tables, at)
  margin <- joint[["margin"]]
  apart <- is.list(margin) && length(margin) && all(names(margin) %in% c("x", "y")) && !is.null(names(margin))
  margin <- if (apart) lapply(stats::setNames(nm = names(margin)), function(side) build_inks(margin[[side]], parts$columns, tables, c(at, "margin", side)))
  else build_inks(margin, parts$columns, tables, c(at, "margin"))
  at_key(at, new_joint(parts$table, parts$channels, parts$inks, parts[c("derive", "keep", "order", "missing", "x_axis", "y_axis")],
                       list(margin = margin, size = joint$margin_size, gap = joint$gap, axis = joint$margin_axis, aspect = joint$aspect), rlang::current_env()))
}

# An empty `above:` or `below:` is an empty half.
build_pairs <- function(pairs, tables, at) {
  check_keys(pairs, c("data", "columns", "rows", "within", "colour", "shape", "keep", "above", "diagonal", "below", pairs_settings), needs = "data", at = at)
  parts <- panel_parts(pairs, tables, at)
  quo <- function(key) channel_quo(pairs[[key]], parts$columns, c(at, key))
  inks <- list()
  for (part in intersect(c("above", "diagonal", "below"), names(pairs))) {
    inks[part] <- list(if (identical(pairs[[part]], "names")) "names" else build_inks(pairs[[part]], parts$columns, tables, c(at, part)))
  }
  settings <- pairs[intersect(names(pairs), c("wrap", "names", "missing", "aspect"))]
  if (!is.null(pairs$mixed)) settings$mixed <- build_inks(pairs$mixed, parts$columns, tables, c(at, "mixed"))[[1]]
  settings <- c(settings, parts[c("derive", "order")])
  at_key(at, new_pairs(parts$table, list(columns = quo("columns"), rows = quo("rows"), within = quo("within"), colour = quo("colour"), shape = quo("shape"), keep = parts$keep),
                       inks, settings, rlang::current_env()))
}
