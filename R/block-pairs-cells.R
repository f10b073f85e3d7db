# Cells of a matrix of pairs, its headings and variables.

matrix_gap_mm <- 5 # more, between matrices

#' @export
block_cells.nelvat_pairs <- function(block) {
  columns <- length(block$variables)
  rows <- length(block$row_variables)
  levels <- max(1L, length(block$within$kind$levels))
  per_row <- min(levels, block$per_row %||% levels)
  one <- expand.grid(i = seq_len(rows), j = seq_len(columns))
  one <- one[order(one$i, one$j), ]
  same <- outer(
    seq_len(rows),
    seq_len(columns),
    Vectorize(function(i, j) is_same_variable(block$row_variables[[i]], block$variables[[j]]))
  )
  one$part <- ifelse(
    same[cbind(one$i, one$j)],
    "diagonal",
    if (block$square) ifelse(one$j > one$i, "above", "below") else "below"
  )
  one <- one[vapply(one$part, function(part) !is.null(block$parts[[part]]), NA), ]
  all_rows <- pair_rows(block)
  places <- do.call(
    rbind,
    lapply(seq_len(levels), function(level) {
      data.frame(
        row = ((level - 1L) %/% per_row) * rows + one$i,
        column = ((level - 1L) %% per_row) * columns + one$j,
        i = one$i,
        j = one$j,
        part = one$part,
        level = level
      )
    })
  )
  places <- places[order(places$row, places$column), ]
  rows_shown <- rows_of_pairs(block, all_rows[places$level], places)
  areas <- new_areas(
    row = places$row,
    column = places$column,
    role = ifelse(places$part == "diagonal", "diagonal", "panel"),
    n = counted_rows(block, rows_shown),
    i = places$i,
    j = places$j,
    part = places$part,
    level = places$level
  )
  lines <- (seq_len(levels) - 1L) %/% per_row
  gaps <- function(n, size) if (n > size) matrix_gap_mm * (seq_len(n - 1) %% size == 0)
  cells <- only_panel(
    list(
      areas = areas,
      rows = rows_shown,
      heads_measure = FALSE,
      n_variables = columns,
      free_half = if (block$square && is.null(block$parts$above)) {
        "upper"
      } else if (block$square && is.null(block$parts$below)) "lower",
      spans = NULL,
      sides = NULL,
      per_row = per_row,
      more_gap = list(x = gaps(per_row * columns, columns), y = gaps((max(lines) + 1) * rows, rows))
    ),
    block
  )
  with_pair_margins(cells, block)
}

is_same_variable <- function(a, b) {
  same_axis <- a$transform == b$transform && a$reversed == b$reversed
  a$id == b$id && (same_axis || has_levels(a$kind))
}

# Rows of the data of each level of `within`.
pair_rows <- function(block) {
  rows_used <- seq_len(block$n)
  if (block$complete) {
    known <- lapply(
      c(block$variables, block$row_variables),
      function(variable) !is.na(variable$values)
    )
    rows_used <- which(Reduce(`&`, known))
  }
  if (is.null(block$within)) return(list(rows_used))
  lapply(
    seq_along(block$within$kind$levels),
    function(level) rows_used[which(block$within$values[rows_used] == level)]
  )
}

# Names on the diagonal, and a heading over each matrix of a level.
#' @export
block_headings.nelvat_pairs <- function(block, cells, drawn) {
  if (!is.null(block$only)) return(cells)
  areas <- cells$areas
  names <- vapply(block$variables, function(variable) kind_title(variable$kind), "")[areas$j]
  areas <- changed(
    areas,
    heading = ifelse(areas$role == "diagonal" & block$names == "diagonal", names, NA_character_)
  )
  levels <- max(areas$level)
  if (levels < 2) return(changed(cells, areas = areas))
  columns <- cells$n_variables
  matrix_column <- (seq_len(levels) - 1L) %% cells$per_row
  spans <- new_table(
    text = vapply(
      seq_len(levels),
      function(level) heading_text(NULL, list(block$within), level),
      ""
    ),
    from = matrix_column * columns + 1L,
    to = (matrix_column + 1L) * columns,
    tier = 1L,
    row = ((seq_len(levels) - 1L) %/% cells$per_row) * length(block$row_variables) + 1L,
    .rows = levels
  )
  changed(cells, areas = areas, spans = spans)
}

#' @export
area_names.nelvat_pairs <- function(block, cells) {
  areas <- cells$areas
  x <- vapply(block$variables, said_name, "")[areas$j]
  y <- vapply(block$row_variables, said_name, "")[areas$i]
  lone <- areas$role == "diagonal" | areas$side %in% "x"
  within <- if (!is.null(block$within)) {
    set_names(list(block$within), seq_along(block$within$kind$levels))[areas$level]
  }
  pair <- ifelse(lone, x, ifelse(areas$side %in% "y", y, paste(y, "against", x)))
  joined_names(list(within, pair), nrow(areas))
}

#' @export
panel_variables.nelvat_pairs <- function(block, areas, direction) {
  named <- if (direction == "x") block$variables[areas$j] else block$row_variables[areas$i]
  # Names on the diagonal are not said again at the edge.
  if (block$names == "edge" && !identical(block$parts$diagonal, "names")) return(named)
  lapply(
    named,
    function(variable) changed(variable, kind = changed(variable$kind, no_title = TRUE))
  )
}

#' @export
block_variables.nelvat_pairs <- function(block) {
  used <- c(
    block$variables,
    block$row_variables,
    block$channels,
    list(block$within),
    unlist(
      lapply(
        unlist(block$parts[vapply(block$parts, is.list, NA)], recursive = FALSE),
        `[[`,
        "variables"
      ),
      recursive = FALSE
    )
  )
  used[!duplicated(lapply(used, `[[`, "id"))]
}

#' @export
block_label.nelvat_pairs <- function(block) paste("every pair of", block$panel$book$label)

#' @export
wished_shape.nelvat_pairs <- function(block) block$aspect %||% 0.85
