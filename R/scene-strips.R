# Names of strips in margins, such as those of colour: left of one over a panel, upright below one
# at its right, in the type of tick text.

# Measured: list(names: a row a strip with area, side, laid; left_mm before the first column,
# bottom_mm below the last row).
fit_strips <- function(block, house, font) {
  none <- list(left_mm = 0, bottom_mm = 0)
  if (!has_marginals(block)) return(none)
  named <- unlist(
    lapply(block$layers, function(layer) {
      name <- if (layer$role == "marginal") margin_name(layer$ink, layer)
      if (is.null(name) || !nzchar(name)) return(NULL)
      list(list(areas = unique(layer$table$panel), side = layer$side, name = name))
    }),
    recursive = FALSE
  )
  if (!length(named)) return(none)
  laid <- lapply(named, function(one) set_text(one$name, house$type_pt$base, font))
  side <- vapply(named, `[[`, "", "side")
  room <- function(of) {
    if (any(side == of)) {
      max(widest_mm(laid[side == of])) + tick_out_mm(house) + house$space_mm$tick_gap
    } else {
      0
    }
  }
  list(named = named, laid = laid, left_mm = room("x"), bottom_mm = room("y"))
}

place_strip_names <- function(own, panels, house, font) {
  strips <- own$parts$strips
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  last_row <- max(panels$row)
  unlist(
    Map(
      function(one, laid) {
        edge <- panels$id %in% one$areas &
          (if (one$side == "x") panels$column == 1 else panels$row == last_row)
        lapply(which(edge), function(i) {
          box <- panels[i, ]
          if (one$side == "x") {
            place_text(
              "strip name",
              laid,
              box$x - beyond,
              box$y + box$h / 2,
              font,
              across = 1,
              down = 0.5,
              panel = box$id
            )
          } else {
            place_text(
              "strip name",
              laid,
              box$x + box$w / 2,
              box$y + box$h + beyond,
              font,
              across = 1,
              down = 0.5,
              angle = 90,
              panel = box$id
            )
          }
        })
      },
      strips$named,
      strips$laid
    ),
    recursive = FALSE
  )
}
