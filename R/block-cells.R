# A block as a matrix of panels: which panel stands where, what it shows, which
# rows of the data it has.

# Returns list(panels, rows, heads_measure). `panels`: panel, row, column, measure
# (which y), level (of `across`), heading. `rows`: for each panel, rows of the data.
block_cells <- function(block) {
  measures <- block$panel$variables$y
  n_measures <- panel_measures(block$panel)
  levels <- if (is.null(block$across)) NA_integer_ else seq_along(block$across$kind$levels)
  grid <- expand.grid(level = levels, measure = seq_len(n_measures))
  n <- nrow(grid)
  crossed <- n_measures > 1 && length(levels) > 1
  per_row <- if (crossed) length(levels) else block$wrap %||% n
  panels <- new_table(
    panel = seq_len(n), row = (seq_len(n) - 1L) %/% as.integer(per_row) + 1L,
    column = (seq_len(n) - 1L) %% as.integer(per_row) + 1L,
    measure = grid$measure, level = grid$level, heading = cell_headings(block, grid, crossed), .rows = n
  )
  list(panels = panels, rows = cell_rows(block, panels), heads_measure = n_measures > 1 && !crossed)
}

# A panel is headed by what it differs in: its level where levels go across, else
# its measure.
cell_headings <- function(block, grid, crossed) {
  if (!is.null(block$across)) {
    shown <- level_titles(block$across$kind)[grid$level]
    return(if (crossed) ifelse(grid$measure == 1, shown, NA) else shown)
  }
  if (panel_measures(block$panel) < 2) return(rep(NA_character_, nrow(grid)))
  vapply(block$panel$variables$y, function(y) kind_title(y$kind), "")[grid$measure]
}

# Levels that are bare numbers say their unit.
level_titles <- function(kind) {
  if (is.null(kind$unit)) kind$level_names else paste0(kind$level_names, if (kind$unit != "%") " ", kind$unit)
}

cell_rows <- function(block, panels) {
  all_rows <- seq_len(block$panel$n)
  if (is.null(block$across)) return(rep(list(all_rows), nrow(panels)))
  of_level <- split(all_rows, factor(block$across$values, seq_along(block$across$kind$levels)))
  unname(of_level[panels$level])
}

# A layer for each ink (see ink-ink.R).
block_layers <- function(block, cells) {
  variables <- block$panel$variables
  table <- if (is.null(variables$shared_y)) cell_table(variables, cells) else series_table(variables, cells)
  y <- variables$shared_y %||% variables$y[[1]]
  of <- function(variable) if (!is.null(variable)) variable[c("id", "kind", "transform", "policy", "supplied")]
  lapply(block$panel$inks, function(ink) {
    own <- ink$variables
    if (length(own)) {
      row <- attr(table, "row")
      for (channel in names(own)) table[[channel]] <- own[[channel]]$values[row]
    }
    channels <- lapply(stats::setNames(nm = mark_channels), function(channel) of(own[[channel]] %||% variables[[channel]]))
    # A setting for the whole ink takes the place of the panel's own column.
    for (channel in names(ink$settings)) {
      table[[channel]] <- NULL
      channels[channel] <- list(NULL)
    }
    attr(table, "ramp") <- !is.null(channels$colour) && !has_levels(channels$colour$kind)
    c(list(ink = ink, table = table, x = of(variables$x), y = of(y)), channels)
  })
}

mark_channels <- c("colour", "shape", "dash", "size", "group")

# Each panel's rows, with the measure it shows as y.
cell_table <- function(variables, cells) {
  row <- unlist(cells$rows)
  columns <- list(panel = rep(cells$panels$panel, lengths(cells$rows)), x = variables$x$values[row])
  columns$y <- unlist(Map(function(rows, measure) variables$y[[measure]]$values[rows], cells$rows, cells$panels$measure))
  for (channel in mark_channels) columns[[channel]] <- variables[[channel]]$values[row]
  table <- do.call(new_table, c(columns, list(.rows = length(row))))
  structure(table, row = row)
}

# Each panel's rows once for each measure, the measures as levels of a channel.
series_table <- function(variables, cells) {
  row <- unlist(cells$rows)
  stacked <- stack_tables(lapply(seq_along(variables$y), function(measure) {
    one <- variables
    one$y <- variables$y[measure]
    for (channel in c("x", mark_channels)) {
      if (identical(one[[channel]]$id, "measure")) one[[channel]]$values <- rep(measure, length(one$y[[1]]$values))
    }
    cells$panels$measure <- rep(1L, nrow(cells$panels))
    cell_table(one, cells)
  }))
  structure(stacked, row = rep(row, length(variables$y)))
}

# What was left out or filled, by column: column, what, n.
block_notes <- function(block) {
  variables <- block$panel$variables
  used <- c(list(variables$x), variables$y, variables[mark_channels], list(block$across), unlist(lapply(block$panel$inks, `[[`, "variables"), recursive = FALSE))
  notes <- lapply(Filter(Negate(is.null), used), function(variable) {
    left <- variable$n_missing %||% 0L
    rbind(
      if (!is.null(variable$note)) data.frame(column = variable$id, what = variable$note$what, n = variable$note$n)
      else if (left > 0) data.frame(column = variable$id, what = "missing values left out", n = left),
      if (!is.null(variable$outside)) data.frame(column = variable$id, what = variable$outside$what, n = variable$outside$n)
    )
  })
  unique(do.call(rbind, c(list(block$panel$book$notes), notes)))
}
