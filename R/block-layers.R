# The layers of a block: one ink over all its panels (see ink-ink.R).

mark_channels <- c("colour", "shape", "dash", "size", "group")

#' @export
block_layers.nelvat_facets <- function(block, cells) {
  c(if (isTRUE(block$behind)) ink_layers(block, behind_cells(block, cells), behind = TRUE), ink_layers(block, cells))
}

behind_colour <- "#D3D7DC"

# Cells whose rows are those of all other panels of the same measure; `origin` says which
# panel each row is of.
behind_cells <- function(block, cells) {
  cells$origin <- rep(NA_integer_, block$panel$n)
  for (i in which(cells$panels$measure == 1)) cells$origin[cells$rows[[i]]] <- i
  all_rows <- lapply(split(cells$rows, cells$panels$measure), function(rows) sort(unique(unlist(rows))))
  cells$rows <- Map(
    function(own, measure) setdiff(all_rows[[as.character(measure)]], own), cells$rows, cells$panels$measure
  )
  cells
}

ink_layers <- function(block, cells, behind = FALSE) {
  variables <- block$panel$variables
  table <- if (is.null(variables$shared_y)) cell_table(variables, cells) else series_table(variables, cells)
  y <- variables$shared_y %||% variables$y[[1]]
  of <- function(variable) if (!is.null(variable)) variable[c("id", "kind", "transform", "policy", "supplied")]
  inks <- Filter(function(ink) !behind || ink_traits(ink)$behind, block$panel$inks)
  lapply(inks, function(ink) {
    own <- ink$variables
    if (length(own)) {
      row <- attr(table, "row")
      for (channel in names(own)) table[[channel]] <- own[[channel]]$values[row]
    }
    if (behind) ink <- faint_ink(ink)
    channels <- lapply(
      stats::setNames(nm = mark_channels), function(channel) of(own[[channel]] %||% variables[[channel]])
    )
    if (behind) {
      # Each panel's rows stay a series of their own, and so does what colour parted.
      parts <- list(
        cells$origin[attr(table, "row")], table$group,
        if (!is.null(channels$colour) && has_levels(channels$colour$kind)) table$colour
      )
      table$group <- match_codes(Filter(Negate(is.null), parts))
    }
    # A setting for the whole ink takes the place of the panel's own column.
    for (channel in names(ink$settings)) {
      table[[channel]] <- NULL
      channels[channel] <- list(NULL)
    }
    attr(table, "ramp") <- !is.null(channels$colour) && !has_levels(channels$colour$kind)
    c(list(ink = ink, table = table, x = of(variables$x), y = of(y), behind = behind), channels)
  })
}

# Whole numbers that tell apart the combinations of several codes.
match_codes <- function(parts) {
  key <- do.call(paste, parts)
  ifelse(Reduce(`|`, lapply(parts, is.na)), NA_integer_, match(key, unique(key)))
}

# An ink as it is drawn behind others: faint, without words.
faint_ink <- function(ink) {
  ink$settings$colour <- behind_colour
  # Each panel's rows stay a series of their own.
  ink$told_apart <- TRUE
  ink$equation <- FALSE
  if (!is.null(ink$values)) ink$values <- FALSE
  ink
}

# Each panel's rows, with the measure it shows as y.
cell_table <- function(variables, cells) {
  row <- unlist(cells$rows)
  columns <- list(panel = rep(cells$panels$panel, lengths(cells$rows)), x = variables$x$values[row])
  columns$y <- unlist(
    Map(function(rows, measure) variables$y[[measure]]$values[rows], cells$rows, cells$panels$measure)
  )
  for (channel in mark_channels) columns[[channel]] <- variables[[channel]]$values[row]
  table <- do.call(new_table, c(columns, list(.rows = length(row))))
  structure(table, row = row)
}

# Each panel's rows once for each measure, the measures as levels of a channel.
series_table <- function(variables, cells) {
  row <- unlist(cells$rows)
  is_stacked <- stack_tables(lapply(seq_along(variables$y), function(measure) {
    one <- variables
    one$y <- variables$y[measure]
    for (channel in c("x", mark_channels)) {
      if (identical(one[[channel]]$id, "measure")) one[[channel]]$values <- rep(measure, length(one$y[[1]]$values))
    }
    cells$panels$measure <- rep(1L, nrow(cells$panels))
    cell_table(one, cells)
  }))
  structure(is_stacked, row = rep(row, length(variables$y)))
}
