# What is said of a block beside its accounts: the levels its panels stand for, what shades mean,
# which rows were asked for.

# The levels of the variables that part a block: block, name, level, in order.
block_splits <- function(block) {
  design <- block$design
  if (!is.null(design$only)) return(NULL)
  variables <- c(design$across, design$down, if (!is.null(design$within)) list(design$within))
  # A variable alone in its direction has a panel for each level, also for those without rows.
  alone <- c(
    if (length(design$across) == 1) list(across = design$across[[1]]$id),
    if (length(design$down) == 1) list(down = design$down[[1]]$id)
  )
  codes_of <- function(variable) {
    direction <- names(alone)[match(variable$id, unlist(alone))]
    if (length(direction) != 1 || is.na(direction) || !identical(design$empty, "draw")) {
      return(shown_levels(block, variable))
    }
    standing <- block$areas[block$areas$role != "marginal", ]
    sort(union(shown_levels(block, variable), standing[[direction]]))
  }
  stack_tables(
    lapply(variables, function(variable) {
      shown_levels_of <- codes_of(variable)
      new_table(
        block = block$id,
        name = said_name(variable),
        level = plain_text(level_titles(variable$kind)[shown_levels_of]),
        .rows = length(shown_levels_of)
      )
    })
  )
}

# Of a variable that parts a block, the levels that have rows in its areas, in order.
shown_levels <- function(block, variable) {
  intersect(seq_along(variable$kind$levels), variable$values[unlist(block$rows)])
}

# Where colour is all that a block's marks show of a quantity, as in a heat map.
block_shades <- function(block) {
  shaded <- Find(function(layer) ink_traits(layer$ink)$cells && is_ramp(layer$colour), block$layers)
  if (!is.null(shaded)) {
    name <- said_name(shaded$colour, with_unit = TRUE)
    scale <- scale_phrase(shaded$colour$transform, "scale")
    new_table(block = block$id, name = paste0(name, scale), .rows = 1L)
  }
}

# What a row of a block's table is called, where its codebook says so: block, one, many.
block_nouns <- function(block) {
  noun <- block$design$panel$book$rows
  if (!is.null(noun)) {
    new_table(block = block$id, one = noun[["one"]], many = noun[["many"]], .rows = 1L)
  }
}

# The condition of `keep`, and how many rows it leaves: block, condition, kept, given.
block_kept <- function(block) {
  kept <- block$design$panel$book$kept
  if (is.null(kept) || !is.null(block$design$zoom)) return(NULL)
  new_table(
    block = block$id,
    condition = plain_text(kept$condition),
    kept = kept$kept,
    given = kept$given,
    .rows = 1L
  )
}

# Names of a plate that hold a number which a house could write otherwise: of variables and levels,
# drawn or not, as conditions name them too; titles and headings.
names_with_numbers <- function(blocks, title) {
  named <- lapply(blocks, function(block) {
    # Levels of which no row is kept are gone from what is drawn, not from what is said.
    kinds <- c(
      block$design$made$book$columns,
      block$design$panel$made$book$columns,
      block$design$panel$book$columns,
      lapply(block_variables(block$design), function(variable) variable$kind)
    )
    c(
      block$design$title_over,
      lapply(kinds, function(kind) c(kind$name, kind$levels, kind$level_names))
    )
  })
  names <- unique(plain_text(as.character(c(title, unlist(named)))))
  # As many as there are signs to stand for them.
  utils::head(names[grepl("[0-9][.,][0-9]|(^|[^0-9])[.][0-9]|\u2212", names)], most_masked)
}
most_masked <- 6000

# What a table says of itself, such as what its correlations are of, and what marks say that stand
# for no data, such as where a line stands.
block_about <- function(block) {
  if (!is.null(block$design$zoom)) return(about_enlarged(block))
  standing <- Filter(function(layer) !layer$behind && NROW(layer$trained$table), block$layers)
  says <- unique(
    c(
      block$design$panel$book$about,
      unlist(lapply(standing, function(layer) layer$trained$says)),
      likeness_orders(block)
    )
  )
  if (length(says)) new_table(block = block$id, says = says, .rows = length(says))
}

about_enlarged <- function(block) {
  seen <- block$axes[[block$areas$x_axis[1]]]$range
  says <- unlist(lapply(block$layers, function(layer) enlarged_says(layer$ink, seen)))
  if (length(says)) new_table(block = block$id, says = says, .rows = length(says))
}

# Axes whose levels are in an order by likeness: how that was found.
likeness_orders <- function(block) {
  variables <- c(list(block$design$panel$variables$x), block$design$panel$variables$y)
  ordered <- Filter(
    function(variable) {
      tree <- variable$kind$tree
      length(tree$levels) > 1 && identical(tree$levels, variable$kind$levels)
    },
    variables
  )
  how <- vapply(ordered, function(variable) tree_words(variable$kind$tree), "")
  name <- vapply(
    ordered,
    function(variable) {
      k <- max(0, variable$kind$tree$groups)
      paste0(said_name(variable), if (k > 1) paste0(" in ", k, " groups"))
    },
    ""
  )
  vapply(
    unique(how),
    function(words) paste0(listed(name[how == words]), " ordered by likeness (", words, ")"),
    "",
    USE.NAMES = FALSE
  )
}
