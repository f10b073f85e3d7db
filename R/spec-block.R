# Blocks in a figure file: one word that says what the block is, with its keys.

block_words <- c(
  "panel", "facets", "every_pair", "joint", "zoom", "text_panel", "image_panel", "table_panel"
)

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
    image_panel = build_image,
    table_panel = build_table_panel
  )
  built <- build(block[[word]], tables, c(at, word))
  if (is.null(block$marginals)) return(built)
  if (!word %in% c("panel", "facets", "every_pair")) {
    abort_figure(
      c(at, "marginals"),
      "Only \"panel\", \"facets\" and \"every_pair\" take marginals.",
      word
    )
  }
  build_marginals(built, block$marginals, tables, c(at, "marginals"))
}

build_facets <- function(facets, tables, at) {
  # A panel of a table that stays in its database is asked for once, with what parts it.
  values <- asked_later(file_values("facets", facets, file_context(tables), at, "panel"))
  values <- with_no_columns("facets", values)
  at_key(
    at,
    new_facets(
      values[["panel"]],
      values[["across"]],
      values[["down"]],
      values[intersect(names(values), facets_settings())],
      rlang::current_env()
    )
  )
}

# zoom: {of: slice, x: [40, 60], y: [20, 40]}
build_zoom <- function(settings, tables, at) {
  at_key(at, do.call(zoom, file_values("zoom", settings, file_context(tables), at, "of")))
}

# text_panel: words, or {text: words, heading: Methods}
build_text <- function(text, tables, at) {
  if (rlang::is_string(text)) text <- list(text = text)
  at_key(at, do.call(text_panel, file_values("text_panel", text, file_context(tables), at, "text")))
}

# image_panel: {path: crumb.png, scale: {length: 5, unit: mm, per_pixel: 0.02}}
build_image <- function(image, tables, at) {
  if (rlang::is_string(image)) image <- list(path = image)
  values <- file_values("image_panel", image, file_context(tables), at, "path")
  at_key(at, do.call(image_panel, values))
}

# table_panel: {data: trials, columns: [bakery, ratio]}
build_table_panel <- function(table, tables, at) {
  values <- file_values("table_panel", table, file_context(tables), at, "data")
  values <- with_no_columns("table_panel", values)
  at_key(at, rlang::inject(table_panel(!!!values)))
}

build_marginals <- function(block, marginals, tables, at) {
  book <- (if (inherits(block, "nelvat_panel")) block else block$panel)$book
  context <- file_context(tables, book)
  values <- file_values("marginals", marginals, context, at)
  layout <- values[intersect(c("depth", "gap", "axis", "outside"), names(values))]
  at_key(at, new_marginals(block, values[["x"]], values[["y"]], layout, rlang::current_env()))
}

build_joint <- function(joint, tables, at) {
  values <- file_values("joint", joint, file_context(tables), at, c("data", "x", "y"))
  values <- with_no_columns("joint", values)
  at_key(
    at,
    new_joint(
      values[["data"]],
      values[panel_channels],
      values[["ink"]],
      values[c("derive", "keep", "order", "missing", "x_axis", "y_axis")],
      list(
        marginal = values[["marginal"]],
        depth = values[["depth"]],
        gap = values[["gap"]],
        axis = values[["marginal_axis"]],
        aspect = values[["aspect"]],
        heading = values[["heading"]]
      ),
      rlang::current_env()
    )
  )
}

# An empty `above:` or `below:` is an empty half.
build_pairs <- function(pairs, tables, at) {
  values <- file_values("every_pair", pairs, file_context(tables), at, "data")
  values <- with_no_columns("every_pair", values)
  at_key(
    at,
    new_pairs(
      values[["data"]],
      values[pairs_quosures],
      values[intersect(names(values), pairs_parts)],
      values[intersect(names(values), pairs_settings())],
      rlang::current_env()
    )
  )
}
