# Areas: every region of a plate that something is drawn in, as rows of one table.
#
#   id, block    numbered through over the whole plate; the block it belongs to;
#   role         panel, marginal, diagonal (of a matrix), inset, zoom, picture (an image, or a plot
#                of another package), words;
#   row, column  in the matrix of its block; those of its host for a marginal;
#   host, side   the area that it is attached to, and where: "x" at the top, "y" at the right; of a
#                zoom or an inset the area that it shows part of;
#   tier         of a marginal: 1 beside its host, 2 beyond that ...;
#   measure      which of several y it shows;
#   n, heading   rows of the data it is given; the text over it;
#   called       what tells it apart in a sentence: the levels that it stands for, and what is on
#                its axes where its block shows several things; NA of a block of one;
#   x_variable, y_variable   what stands on its axes;
#   x_axis, y_axis           which of its block's axes are its own;
#   x_shown, y_shown         which axes are drawn at it, NA for none.
# Designs of blocks may keep more columns of their own.

area_roles <- c("panel", "marginal", "diagonal", "inset", "zoom", "picture", "words")

new_areas <- function(
  row,
  column,
  role = "panel",
  heading = NA_character_,
  n = 0L,
  measure = 1L,
  host = NA_integer_,
  side = NA_character_,
  tier = NA_integer_,
  ...
) {
  k <- length(row)
  areas <- new_table(
    id = seq_len(k),
    block = NA_character_,
    role = role,
    row = as.integer(row),
    column = as.integer(column),
    host = host,
    side = side,
    tier = tier,
    measure = measure,
    n = as.integer(n),
    heading = heading,
    called = NA_character_,
    ...,
    x_variable = NA_character_,
    y_variable = NA_character_,
    x_axis = NA_integer_,
    y_axis = NA_integer_,
    x_shown = NA_integer_,
    y_shown = NA_integer_,
    .rows = k
  )
  check_areas(areas)
}

check_areas <- function(areas) {
  wrong <- c(
    if (!is.data.frame(areas) || !nrow(areas)) {
      "There is none."
    } else {
      c(
        if (anyNA(areas$id) || anyDuplicated(areas$id)) "Two have one id.",
        if (!all(areas$role %in% area_roles)) {
          paste0("There is no role \"", setdiff(areas$role, area_roles)[1], "\".")
        },
        if (anyNA(areas$row) || anyNA(areas$column) || min(areas$row, areas$column) < 1) {
          "One has no place."
        },
        if (any((areas$role == "marginal") != (!is.na(areas$side) & !is.na(areas$host)))) {
          "A marginal has a host and a side, others have no side."
        },
        if (any((areas$role == "marginal") != !is.na(areas$tier))) {
          "A marginal stands in a tier, others in none."
        },
        if (any(areas$role == "marginal" & !areas$host %in% areas$id)) {
          "A marginal's host is not there."
        },
        if (
          any(!is.na(areas$x_shown) & is.na(areas$x_axis)) || any(
            !is.na(areas$y_shown) & is.na(areas$y_axis)
          )
        ) {
          "An axis is drawn at an area that has none."
        }
      )
    }
  )
  if (!length(wrong)) return(areas)
  abort_nelvat("record", c("A table of areas is not right.", x = wrong[1]), call = NULL)
}

# The areas that stand in the matrix of a block, rather than at another.
standing_areas <- function(areas) table_rows(areas, areas$role != "marginal")

# Cells with their areas numbered from `first` on, as those of block `id`.
numbered_cells <- function(cells, id, first) {
  by <- first - 1L
  areas <- cells$areas
  changed(
    cells,
    areas = check_areas(
      changed(areas, id = areas$id + by, host = areas$host + by, block = rep(id, nrow(areas)))
    )
  )
}

# Cells with an area more for each marginal: a row of data of its host's each. places: side and tier
# of what stands beside each of them; outside: one for all panels of a column (of a row), of all
# their rows.
with_marginal_areas <- function(cells, places, outside = FALSE) {
  if (!NROW(places)) return(cells)
  all_areas <- list(cells$areas)
  all_rows <- cells$rows
  for (place in each_row(places)) {
    of <- margin_groups(cells$areas, place$side, outside)
    # The first panel of a column, the last of a row.
    host <- vapply(of, function(panels) if (place$side == "x") panels[1] else rev(panels)[1], 0L)
    k <- length(host)
    bare <- intersect(
      if (outside) if (place$side == "x") c("down", "i") else c("across", "j"),
      names(cells$areas)
    )
    hosts <- table_rows(cells$areas, host)
    rows <- lapply(unname(of), function(panels) {
      if (length(panels) == 1) cells$rows[[panels]] else sort(unique(unlist(cells$rows[panels])))
    })
    all_areas <- c(
      all_areas,
      list(
        do.call(
          changed,
          c(
            list(
              hosts,
              id = length(all_rows) + seq_len(k),
              role = rep("marginal", k),
              host = hosts$id,
              side = rep(place$side, k),
              tier = rep(place$tier, k),
              n = lengths(rows),
              heading = rep(NA_character_, k)
            ),
            stats::setNames(rep(list(rep(NA_integer_, k)), length(bare)), bare)
          )
        )
      )
    )
    all_rows <- c(all_rows, rows)
  }
  changed(cells, areas = check_areas(stack_tables(all_areas)), rows = all_rows)
}

# The panels that each marginal of a side is of, by their rows in the table of areas, which goes
# row by row: its host alone; outside a grid, all that show one set of levels across, or one measure
# and set of levels down.
margin_groups <- function(areas, side, outside) {
  by_place <- order(areas$row, areas$column)
  if (!outside) return(as.list(seq_along(by_place)))
  key <- if (!is.null(areas$part)) {
    paste(areas$level, if (side == "x") areas$j else areas$i)
  } else if (side == "x") areas$across else paste(areas$measure, areas$down)
  split(by_place, factor(key[by_place], unique(key[by_place])))
}

# Cells of one area without rows of data.
lone_cell <- function(role) {
  list(
    areas = new_areas(row = 1, column = 1, role = role),
    rows = list(integer()),
    heads_measure = FALSE
  )
}

# Insets, words and pictures may be smaller than panels that values are read off.
least_of_role <- function(role) {
  switch(
    role,
    inset = list(width = 5, height = 5),
    words =,
    picture = list(width = 5, height = 4),
    NULL
  )
}
