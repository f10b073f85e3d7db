# A block as a matrix of panels: which panel stands where, what it shows, which
# rows of the data it has.

# Returns list(areas, rows, sets, heads_measure, spans, sides). `areas`: see block-area.R, with
# across and down (numbers of their combinations of levels, whose codes `sets` holds). `rows`: for
# each area, rows of the data. `spans`: headings of outer tiers, over several columns: text, from,
# to, tier. `sides`: headings of rows: text, row; both are made later, see block-headings.R.
#' @export
block_cells.nelvat_facets <- function(block) {
  across <- level_sets(block$across, block$panel$n, block$empty)
  down <- level_sets(block$down, block$panel$n, block$empty)
  n_measures <- panel_measures(block$panel)
  grid <- expand.grid(
    across = seq_along(across$codes),
    measure = seq_len(n_measures),
    down = seq_along(down$codes)
  )
  sequence <- length(down$codes) == 1 && (n_measures == 1 || length(across$codes) == 1)
  place <- if (sequence) {
    row_places(
      outer_levels(block, across$codes) %||% seq_len(nrow(grid)),
      # Before a page's width is known, all are in one row.
      if (is.numeric(block$per_row)) as.integer(block$per_row) else nrow(grid)
    )
  } else {
    column_places(block, grid, across$codes)
  }
  all_rows <- seq_len(block$panel$n)
  rows <- Map(
    function(a, d) intersect_rows(across$rows[[a]], down$rows[[d]]) %||% all_rows,
    grid$across,
    grid$down
  )
  areas <- new_areas(
    row = place$row,
    column = place$column,
    role = block$role %||% "panel",
    measure = grid$measure,
    n = rows_in(block$panel, rows, grid$measure),
    across = grid$across,
    down = grid$down
  )
  areas <- with_alone(areas, block, across$codes, down$codes)
  cells <- list(
    areas = areas,
    rows = rows,
    sets = list(across = across$codes, down = down$codes),
    heads_measure = n_measures > 1 && length(across$codes) == 1 && is.null(block$across),
    spans = NULL,
    sides = NULL
  )
  cells <- only_panel(if (identical(block$empty, "drop")) without_empty(cells) else cells, block)
  with_marginal_areas(
    cells,
    margin_places(block$marginals$inks),
    isTRUE(block$marginals$outside)
  )
}

# How many rows each cell has; where each stands for many, of the table that they are of.
rows_in <- function(panel, rows, measure) {
  times <- panel$book$times
  if (is.null(times)) return(lengths(rows))
  mapply(
    function(of, some) sum(times[own_rows(panel$variables$y[[of]], list(some))[[1]]]),
    measure,
    rows
  )
}

# Of nested levels, which outermost one each column stands for; NULL where they are not nested.
outer_levels <- function(block, codes) if (length(block$across) > 1) vapply(codes, `[`, 0L, 1L)

# Columns of levels across, rows of measures and of levels down; columns that the page has no room
# for, in further lines of such rows, begun by an outer level (`line_columns`, see plate-deal.R).
column_places <- function(block, grid, codes) {
  columns <- seq_along(codes)
  line <- row_places(
    outer_levels(block, codes) %||% columns,
    as.integer(block$line_columns %||% length(codes))
  )
  row <- match(paste(grid$measure, grid$down), unique(paste(grid$measure, grid$down)))
  list(row = (line$row[grid$across] - 1L) * max(row, 0L) + row, column = line$column[grid$across])
}

# Rows of at most `per_row` panels: a row begins with an outer level, whose panels stay in it, where
# rows are as long as that.
row_places <- function(outer, per_row) {
  size <- tabulate(match(outer, unique(outer)))
  if (max(size) > per_row) size <- rep(1L, length(outer))
  row <- column <- integer()
  for (n in size) {
    now <- max(row, 1L)
    used <- sum(row == now)
    if (used + n > per_row) {
      now <- now + 1L
      used <- 0L
    }
    row <- c(row, rep(now, n))
    column <- c(column, used + seq_len(n))
  }
  list(row = row, column = column)
}

# Areas with a column more for each direction: has it an axis of its own?
with_alone <- function(areas, block, across, down) {
  if (is.null(block$alone)) return(areas)
  levels_of <- function(variables, codes) {
    unlist(
      Map(
        function(variable, code) {
          c(variable$kind$levels[code], variable$kind$level_names[code])
        },
        variables,
        codes
      )
    )
  }
  known <- lapply(
    seq_len(nrow(areas)),
    function(i) {
      c(
        levels_of(block$across, across[[areas$across[i]]]),
        levels_of(block$down, down[[areas$down[i]]]),
        block$panel$variables$y[[areas$measure[i]]]$id
      )
    }
  )
  is_alone <- function(direction) {
    said <- block$alone[[direction]]
    if (is.numeric(said)) {
      seq_len(nrow(areas)) %in% said
    } else {
      vapply(known, function(levels) any(levels %in% said), NA)
    }
  }
  changed(areas, alone_x = is_alone("x"), alone_y = is_alone("y"))
}

# Combinations of levels of nested variables, the first changing slowest, with their
# rows. `codes`: for each combination, a code a variable; NULL variables make one of all.
level_sets <- function(variables, n, empty) {
  if (is.null(variables)) return(list(codes = list(integer()), rows = list(NULL)))
  grid <- expand.grid(rev(lapply(variables, function(variable) seq_along(variable$kind$levels))))
  grid <- grid[rev(seq_along(grid))]
  key <- function(codes) do.call(paste, c(unname(codes), sep = "\r"))
  of_row <- split(seq_len(n), factor(key(lapply(variables, `[[`, "values")), key(as.list(grid))))
  has_rows <- if (identical(empty, "drop")) lengths(of_row) > 0 else rep(TRUE, nrow(grid))
  list(
    codes = lapply(which(has_rows), function(i) unlist(grid[i, ], use.names = FALSE)),
    rows = unname(of_row)[has_rows]
  )
}

intersect_rows <- function(a, b) if (is.null(a)) b else if (is.null(b)) a else intersect(a, b)

# Panels without rows leave the matrix; what stood under them moves nowhere.
without_empty <- function(cells) {
  with_rows <- which(cells$areas$n > 0)
  changed(
    cells,
    areas = changed(table_rows(cells$areas, with_rows), id = seq_along(with_rows)),
    rows = cells$rows[with_rows]
  )
}

# The cells of one panel of a block, alone: what a zoom shows.
only_panel <- function(cells, block) {
  if (is.null(block$only)) return(cells)
  one_area <- changed(
    table_rows(cells$areas, block$only),
    id = 1L,
    row = 1L,
    column = 1L,
    heading = NA_character_,
    role = if (isFALSE(block$zoom$inset)) "zoom" else "inset"
  )
  changed(
    cells,
    areas = one_area,
    rows = cells$rows[block$only],
    spans = NULL,
    sides = NULL,
    heads_measure = FALSE,
    free_half = NULL,
    more_gap = NULL
  )
}
