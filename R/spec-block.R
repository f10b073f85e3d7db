# Blocks in a figure file: one word that says what the block is, with its keys.

block_words <- c("panel", "facets", "every_pair", "joint", "zoom", "text_panel", "image_panel")

build_block <- function(block, tables, at) {
  check_keys(block, c(block_words, "marginals"), at = at)
  word <- intersect(names(block), block_words)
  if (length(word) != 1) {
    abort_figure(at, paste0("A block is one of ", quoted(block_words), "."), names(block))
  }
  build <- switch(
    word,
    panel = build_panel,
    facets = build_facets,
    every_pair = build_pairs,
    joint = build_joint,
    zoom = build_zoom,
    text_panel = build_text,
    image_panel = build_image
  )
  built <- build(block[[word]], tables, c(at, word))
  if (is.null(block$marginals)) return(built)
  if (!word %in% c("panel", "facets")) {
    abort_figure(c(at, "marginals"), "Only \"panel\" and \"facets\" take marginals.", word)
  }
  build_marginals(built, block$marginals, tables, c(at, "marginals"))
}

build_facets <- function(facets, tables, at) {
  check_keys(facets, c("panel", "across", "down", names(facets_settings)), needs = "panel", at = at)
  one_panel <- build_panel(facets[["panel"]], tables, c(at, "panel"))
  columns <- names(one_panel$book$data)
  settings <- facets[intersect(names(facets), names(facets_settings))]
  settings$order <- at_key(c(at, "order"), field_order(facets[["order"]]))
  if (is.list(settings$range_per)) settings$range_per <- unlist(settings$range_per)
  at_key(
    at,
    new_facets(
      one_panel,
      channel_quo(facets[["across"]], columns, c(at, "across")),
      channel_quo(facets[["down"]], columns, c(at, "down")),
      settings,
      rlang::current_env()
    )
  )
}

# zoom: {of: slice, x: [40, 60], y: [20, 40]}
build_zoom <- function(settings, tables, at) {
  check_keys(settings, argument_names(zoom), needs = "of", at = at)
  at_key(
    at,
    do.call(zoom, lapply(settings, function(value) if (is.list(value)) unlist(value) else value))
  )
}

# text_panel: words, or {text: words, heading: Methods}
build_text <- function(text, tables, at) {
  if (rlang::is_string(text)) text <- list(text = text)
  check_keys(text, c("text", "heading"), needs = "text", at = at)
  at_key(at, text_panel(string_at(text[["text"]], c(at, "text")), text[["heading"]]))
}

# image_panel: {path: crumb.png, scale: {length: 5, unit: mm, per_pixel: 0.02}}
build_image <- function(image, tables, at) {
  if (rlang::is_string(image)) image <- list(path = image)
  check_keys(image, c("path", "scale", "heading"), needs = "path", at = at)
  if (!is.null(image[["scale"]])) {
    check_keys(
      image[["scale"]],
      argument_names(scale_bar),
      needs = c("length", "unit", "per_pixel"),
      at = c(at, "scale")
    )
  }
  scale <- if (!is.null(image[["scale"]])) {
    at_key(c(at, "scale"), do.call(scale_bar, image[["scale"]]))
  }
  at_key(
    at,
    image_panel(
      beside_file(string_at(image[["path"]], c(at, "path")), attr(tables, "folder")),
      scale,
      image[["heading"]]
    )
  )
}

build_marginals <- function(block, marginals, tables, at) {
  check_keys(marginals, c("x", "y", "depth", "gap", "axis"), at = at)
  columns <- names((if (inherits(block, "nelvat_panel")) block else block$panel)$book$data)
  ink <- function(side) build_inks(marginals[[side]], columns, tables, c(at, side))
  at_key(
    at,
    new_marginals(
      block,
      ink("x"),
      ink("y"),
      marginals[c("depth", "gap", "axis")],
      rlang::current_env()
    )
  )
}

build_joint <- function(joint, tables, at) {
  check_keys(
    joint,
    c(
      "data",
      panel_channels,
      "ink",
      "derive",
      "keep",
      "order",
      "missing",
      "x_axis",
      "y_axis",
      joint_settings
    ),
    needs = c("data", "x", "y"),
    at = at
  )
  parts <- panel_parts(joint, tables, at)
  marginal <- joint[["marginal"]]
  apart <- is.list(marginal) && length(marginal) && all(names(marginal) %in% c("x", "y")) &&
    !is.null(names(marginal))
  of_side <- function(side) {
    build_inks(marginal[[side]], parts$columns, tables, c(at, "marginal", side))
  }
  marginal <- if (apart) {
    lapply(stats::setNames(nm = names(marginal)), of_side)
  } else {
    build_inks(marginal, parts$columns, tables, c(at, "marginal"))
  }
  at_key(
    at,
    new_joint(
      parts$table,
      parts$channels,
      parts$inks,
      parts[c("derive", "keep", "order", "missing", "x_axis", "y_axis")],
      list(
        marginal = marginal,
        depth = joint[["depth"]],
        gap = joint[["gap"]],
        axis = joint[["marginal_axis"]],
        aspect = joint[["aspect"]],
        heading = joint[["heading"]]
      ),
      rlang::current_env()
    )
  )
}

# An empty `above:` or `below:` is an empty half.
build_pairs <- function(pairs, tables, at) {
  check_keys(
    pairs,
    c(
      "data",
      "columns",
      "rows",
      "within",
      "colour",
      "shape",
      "keep",
      "above",
      "diagonal",
      "below",
      pairs_settings
    ),
    needs = "data",
    at = at
  )
  parts <- panel_parts(pairs, tables, at)
  quo <- function(key) channel_quo(pairs[[key]], parts$columns, c(at, key))
  # Columns that are meant by what their names have in common.
  for (key in c("columns", "rows")) {
    by_pattern <- is.list(pairs[[key]]) && !is.null(names(pairs[[key]])) &&
      !any(c("column", "measure") %in% names(pairs[[key]]))
    if (by_pattern) pairs[[key]] <- as.list(chosen_columns(pairs[[key]], parts$table, c(at, key)))
  }
  inks <- list()
  for (part in intersect(c("above", "diagonal", "below"), names(pairs))) {
    inks[part] <- list(
      if (identical(pairs[[part]], "names")) {
        "names"
      } else {
        build_inks(pairs[[part]], parts$columns, tables, c(at, part))
      }
    )
  }
  settings <- pairs[intersect(names(pairs), c("per_row", "names", "missing", "aspect", "heading"))]
  if (!is.null(pairs[["mixed"]])) {
    settings$mixed <- build_inks(pairs[["mixed"]], parts$columns, tables, c(at, "mixed"))[[1]]
  }
  settings <- c(settings, parts[c("derive", "order")])
  at_key(
    at,
    new_pairs(
      parts$table,
      list(
        columns = quo("columns"),
        rows = quo("rows"),
        within = quo("within"),
        colour = quo("colour"),
        shape = quo("shape"),
        keep = parts$keep
      ),
      inks,
      settings,
      rlang::current_env()
    )
  )
}
