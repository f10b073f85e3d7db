# Headings: what stands over panels, over columns of outer levels, beside rows and over a block.
# They are made once the layers are trained, as they can tell how many rows are drawn.

# cells: of the block; drawn: for each of its areas, rows that are drawn. Returns the cells with
# headings of areas, `spans` and `sides`.
block_headings <- function(block, cells, drawn) UseMethod("block_headings")
#' @export
block_headings.default <- function(block, cells, drawn) cells

#' @export
block_headings.nelvat_facets <- function(block, cells, drawn) {
  if (!is.null(block$only)) return(cells)
  areas <- cells$areas
  count <- function(held) {
    list(n = sum(drawn[held]), missing = sum(areas$n[held]) - sum(drawn[held]))
  }
  standing <- which(areas$role != "marginal")
  sequence <- is_sequence(cells, panel_measures(block$panel))
  headed <- table_rows(areas, standing)
  heading <- panel_headings(block, headed, cells$sets, sequence, function(i) {
    count(if (sequence) standing[i] else in_set(areas, "across", headed$across[i]))
  })
  changed(
    cells,
    areas = changed(areas, heading = replace(areas$heading, standing, heading)),
    spans = span_headings(
      block,
      cells,
      sequence,
      function(sets) count(in_set(areas, "across", sets))
    ),
    sides = side_headings(
      block,
      headed,
      cells$sets$down,
      function(set) count(in_set(areas, "down", set))
    )
  )
}

#' @export
area_names.nelvat_facets <- function(block, cells) {
  areas <- cells$areas
  measures <- if (panel_measures(block$panel) > 1) {
    vapply(block$panel$variables$y, said_name, "")
  }
  joined_names(
    c(
      lapply(c("across", "down"), function(direction) {
        variables <- block[[direction]]
        if (length(variables)) set_names(variables, cells$sets[[direction]])[areas[[direction]]]
      }),
      list(measures[areas$measure])
    ),
    nrow(areas)
  )
}

# The names of the levels of each set of codes.
set_names <- function(variables, sets) {
  vapply(
    sets,
    function(codes) {
      names <- Map(function(one, code) level_titles(one$kind)[code], variables, codes)
      paste(plain_text(unlist(names)), collapse = ", ")
    },
    ""
  )
}

# parts: of names for each of n areas, NULL for none.
joined_names <- function(parts, n) {
  parts <- do.call(cbind, Filter(length, parts))
  if (is.null(parts)) return(rep(NA_character_, n))
  apply(parts, 1, function(of) {
    of <- of[!is.na(of)]
    if (length(of)) paste(of, collapse = ", ") else NA_character_
  })
}

# The areas of some levels across or down: of one measure, so that a row counts once.
in_set <- function(areas, direction, sets) {
  which(areas$role != "marginal" & areas$measure == 1 & areas[[direction]] %in% sets)
}

# Do the panels follow each other, rather than stand in columns of one level each?
is_sequence <- function(cells, n_measures) {
  length(cells$sets$down) == 1 && (n_measures == 1 || length(cells$sets$across) == 1)
}

# The title of a block stands over all its columns, above the headings of outer levels.
with_block_title <- function(cells, title) {
  if (is.null(title)) return(cells)
  spans <- cells$spans
  if (!is.null(spans)) spans <- changed(spans, tier = spans$tier + 1L)
  over <- new_table(
    text = title,
    from = 1L,
    to = max(cells$areas$column),
    tier = 1L,
    row = 1L,
    .rows = 1L
  )
  changed(cells, spans = stack_tables(list(over, spans)))
}

# "{level}" and its like, for a level of each of some variables. count: list(n, missing) of what it
# heads.
heading_text <- function(pattern, variables, codes, count) {
  words_of <- function(f) paste(mapply(f, lapply(variables, `[[`, "kind"), codes), collapse = ", ")
  if (is.null(pattern)) return(words_of(function(kind, code) level_titles(kind)[code]))
  # Of several levels each bears its unit itself.
  alone <- length(variables) == 1
  unit <- variables[[1]]$kind$show %||% variables[[1]]$kind$unit
  filled_pattern(
    pattern,
    list(
      name = words_of(function(kind, code) kind$name),
      level = words_of(
        function(kind, code) if (alone) kind$level_names[code] else level_titles(kind)[code]
      ),
      unit = if (!alone || is.null(unit)) "" else if (unit == "%") unit else paste0(" ", unit),
      n = count$n,
      missing = count$missing
    )
  )
}

# A pattern with its pieces filled in; numbers with thin spaces between thousands.
filled_pattern <- function(pattern, pieces) {
  for (piece in names(pieces)) {
    value <- pieces[[piece]]
    if (is.numeric(value)) value <- format(value, big.mark = "\u2009", trim = TRUE)
    pattern <- gsub(paste0("{", piece, "}"), value, pattern, fixed = TRUE)
  }
  pattern
}

# Levels that are bare numbers say their unit.
level_titles <- function(kind) {
  if (is.null(kind$unit)) {
    kind$level_names
  } else {
    paste0(kind$level_names, if (kind$unit != "%") " ", kind$unit)
  }
}

# A panel is headed by the innermost level of its column (in the first of its rows only, where rows
# repeat the columns), else by its measure. Wrapped panels have no column of their own, so each
# says all its tiers. count_of: of the i-th panel.
panel_headings <- function(block, panels, sets, sequence, count_of) {
  if (is.null(block$across)) {
    if (panel_measures(block$panel) < 2 || !is.null(block$down)) {
      return(rep(NA_character_, nrow(panels)))
    }
    return(vapply(block$panel$variables$y, function(y) kind_title(y$kind), "")[panels$measure])
  }
  k <- length(block$across)
  tiers <- if (k > 1 && !keeps_levels(column_lines(block, panels, sets, sequence), sets$across)) {
    seq_len(k)
  } else {
    k
  }
  vapply(
    seq_len(nrow(panels)),
    function(i) {
      if (!sequence && panels$row[i] > min(panels$row[panels$across == panels$across[i]])) {
        return(NA_character_)
      }
      codes <- sets$across[[panels$across[i]]]
      heading_text(block$heading$across, block$across[tiers], codes[tiers], count_of(i))
    },
    ""
  )
}

# The row that the line of each set of levels across begins with; NA of a set without a panel.
column_lines <- function(block, panels, sets, sequence) {
  rows <- if (sequence) 1L else length(sets$down) * panel_measures(block$panel)
  row <- panels$row[match(seq_along(sets$across), panels$across)]
  (row - 1L) %/% rows * rows + 1L
}

# Do the columns of each outermost level stand in one line? Else no heading can stand over them all.
keeps_levels <- function(line, codes) {
  outer <- vapply(codes, `[`, 0L, 1L)
  all(tapply(line, outer, function(of) length(unique(of[!is.na(of)])) <= 1))
}

# Headings of the outer tiers, each over the columns of its level. count_of: of some sets of levels.
span_headings <- function(block, cells, sequence, count_of) {
  k <- length(block$across)
  panels <- standing_areas(cells$areas)
  if (k < 2) return(NULL)
  line <- column_lines(block, panels, cells$sets, sequence)
  if (!keeps_levels(line, cells$sets$across)) return(NULL)
  codes <- do.call(rbind, cells$sets$across)
  column <- panels$column[match(seq_len(nrow(codes)), panels$across)]
  stack_tables(
    lapply(seq_len(k - 1), function(tier) {
      key <- do.call(paste, as.data.frame(codes[, seq_len(tier), drop = FALSE]))
      first <- which(!duplicated(key))
      last <- which(!duplicated(key, fromLast = TRUE))
      new_table(
        text = vapply(
          first,
          function(i) {
            heading_text(
              block$heading$across,
              block$across[tier],
              codes[i, tier],
              count_of(which(key == key[i]))
            )
          },
          ""
        ),
        from = column[first],
        to = column[sort(last)],
        tier = tier,
        row = line[first],
        .rows = length(first)
      )
    })
  )
}

# Headings of rows, from the levels of `down`; nested levels in one text.
side_headings <- function(block, panels, down, count_of) {
  if (is.null(block$down)) return(NULL)
  first <- which(!duplicated(panels$row))
  text <- vapply(
    panels$down[first],
    function(set) {
      heading_text(block$heading$down, block$down, down[[set]], count_of(set))
    },
    ""
  )
  new_table(text = text, row = panels$row[first], .rows = length(first))
}
