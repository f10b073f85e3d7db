# A block as a matrix of panels: which panel stands where, what it shows, which
# rows of the data it has.

# Returns list(panels, rows, heads_measure, wrapped, spans, sides). `panels`: panel, row,
# column, measure (which y), across and down (numbers of their combinations of levels),
# heading, n. `rows`: for each panel, rows of the data. `spans`: headings of outer tiers,
# over several columns: text, from, to, tier. `sides`: headings of rows: text, row.
#' @export
block_cells.nelvat_facets <- function(block) {
  across <- level_sets(block$across, block$panel$n, block$empty)
  down <- level_sets(block$down, block$panel$n, block$empty)
  n_measures <- panel_measures(block$panel)
  grid <- expand.grid(across = seq_along(across$codes), measure = seq_len(n_measures), down = seq_along(down$codes))
  sequence <- length(down$codes) == 1 && (n_measures == 1 || length(across$codes) == 1)
  per_row <- if (sequence) block$per_row %||% nrow(grid) else length(across$codes)
  place <- seq_len(nrow(grid)) - 1L
  panels <- new_table(
    panel = place + 1L, row = place %/% as.integer(per_row) + 1L, column = place %% as.integer(per_row) + 1L,
    measure = grid$measure, across = grid$across, down = grid$down, .rows = nrow(grid)
  )
  all_rows <- seq_len(block$panel$n)
  rows <- Map(function(a, d) intersect_rows(across$rows[[a]], down$rows[[d]]) %||% all_rows, grid$across, grid$down)
  panels$n <- lengths(rows)
  wrapped <- sequence && max(panels$row) > 1
  panels$heading <- panel_headings(block, panels, across, n_measures, sequence)
  cells <- list(
    panels = panels, rows = rows,
    heads_measure = n_measures > 1 && length(across$codes) == 1 && is.null(block$across), wrapped = wrapped,
    spans = span_headings(block, across, wrapped), sides = side_headings(block, panels, down))
  only_panel(if (identical(block$empty, "drop")) without_empty(cells) else cells, block$only)
}

# Combinations of levels of nested variables, the first changing slowest, with their
# rows. `codes`: for each combination, a code a variable; NULL variables make one of all.
level_sets <- function(variables, n, empty) {
  if (is.null(variables)) return(list(codes = list(integer()), rows = list(NULL)))
  grid <- expand.grid(rev(lapply(variables, function(variable) seq_along(variable$kind$levels))))
  grid <- grid[rev(seq_along(grid))]
  key <- function(codes) do.call(paste, c(unname(codes), sep = "\r"))
  of_row <- split(seq_len(n), factor(key(lapply(variables, `[[`, "values")), key(as.list(grid))))
  held <- if (identical(empty, "drop")) lengths(of_row) > 0 else rep(TRUE, nrow(grid))
  list(codes = lapply(which(held), function(i) unlist(grid[i, ], use.names = FALSE)), rows = unname(of_row)[held])
}

intersect_rows <- function(a, b) if (is.null(a)) b else if (is.null(b)) a else intersect(a, b)

# Panels without rows leave the matrix; what stood under them moves nowhere.
without_empty <- function(cells) {
  held <- which(cells$panels$n > 0)
  cells$panels <- table_rows(cells$panels, held)
  cells$panels$panel <- seq_along(held)
  cells$rows <- cells$rows[held]
  cells
}

# Headings ------------------------------------------------------------------------

# "{level}" and its like, for one level of a variable. n is that of the rows it heads.
heading_text <- function(pattern, variable, code, n) {
  kind <- variable$kind
  if (is.null(pattern)) return(level_titles(kind)[code])
  unit <- kind$show %||% kind$unit
  text <- pattern
  for (
    piece in list(
      c("{name}", kind$name), c("{level}", kind$level_names[code]),
      c("{unit}", if (is.null(unit)) "" else if (unit == "%") unit else paste0(" ", unit)),
      c("{n}", format(n, big.mark = "\u2009", trim = TRUE)))) {
    text <- gsub(piece[1], piece[2], text, fixed = TRUE)
  }
  text
}

# Levels that are bare numbers say their unit.
level_titles <- function(kind) {
  if (is.null(kind$unit)) kind$level_names else paste0(kind$level_names, if (kind$unit != "%") " ", kind$unit)
}

# A panel is headed by the innermost level of its column (in the first row only, where rows
# repeat the columns), else by its measure.
panel_headings <- function(block, panels, across, n_measures, sequence) {
  if (is.null(block$across)) {
    if (n_measures < 2 || !is.null(block$down)) return(rep(NA_character_, nrow(panels)))
    return(vapply(block$panel$variables$y, function(y) kind_title(y$kind), "")[panels$measure])
  }
  k <- length(block$across)
  vapply(seq_len(nrow(panels)), function(i) {
    if (!sequence && panels$row[i] > 1) return(NA_character_)
    set <- panels$across[i]
    n <- if (sequence) panels$n[i] else length(across$rows[[set]])
    tiers <- if (sequence && max(panels$row) > 1) seq_len(k) else k
    # Wrapped panels have no column of their own, so each says all its tiers.
    paste(
      vapply(
        tiers, function(tier) heading_text(block$heading$across, block$across[[tier]], across$codes[[set]][tier], n),
        ""
      ),
      collapse = ", "
    )
  }, "")
}

# Headings of the outer tiers, each over the columns of its level.
span_headings <- function(block, across, wrapped) {
  k <- length(block$across)
  if (k < 2 || wrapped) return(NULL)
  codes <- do.call(rbind, across$codes)
  stack_tables(lapply(seq_len(k - 1), function(tier) {
    key <- do.call(paste, as.data.frame(codes[, seq_len(tier), drop = FALSE]))
    first <- which(!duplicated(key))
    last <- rev(which(!duplicated(rev(key))))
    last <- length(key) + 1 - rev(last)
    n <- vapply(first, function(i) sum(lengths(across$rows)[key == key[i]]), 0)
    new_table(
      text = vapply(
        seq_along(first),
        function(i) heading_text(block$heading$across, block$across[[tier]], codes[first[i], tier], n[i]), ""
      ),
      from = first, to = sort(last), tier = tier, row = 1L, .rows = length(first))
  }))
}

# Headings of rows, from the levels of `down`; nested levels in one text.
side_headings <- function(block, panels, down) {
  if (is.null(block$down)) return(NULL)
  first <- which(!duplicated(panels$row))
  set <- panels$down[first]
  new_table(text = vapply(set, function(s) {
    paste(
      vapply(
        seq_along(block$down),
        function(tier) heading_text(
          block$heading$down, block$down[[tier]], down$codes[[s]][tier], length(down$rows[[s]])
        ),
        ""
      ),
      collapse = ", "
    )
  }, ""), row = panels$row[first], .rows = length(first))
}

# The cells of one panel of a block, alone.
only_panel <- function(cells, only) {
  if (is.null(only)) return(cells)
  one_panel <- table_rows(cells$panels, only)
  one_panel$panel <- one_panel$row <- one_panel$column <- 1L
  one_panel$heading <- NA_character_
  changed(
    cells, panels = one_panel, rows = cells$rows[only], spans = NULL, sides = NULL, wrapped = FALSE,
    heads_measure = FALSE, free_half = NULL, more_gap = NULL
  )
}
