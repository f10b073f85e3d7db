# The figures that a draft proposes. Each takes a table as started_table() has it and the name of
# its entry, and gives list(why, columns, blocks, place, long), or NULL where the columns do not
# suit: why, a sentence; columns, those that it uses; long, lines of the entry besides.

kind_needs <- c(
  traces = "subjects, a time and a quantity",
  survival = "a time and whether something happened",
  map = "longitude and latitude, or easting and northing",
  answers = "three columns of answers on a scale",
  heat = "many quantities, or two categories and one value of each pair",
  series = "a time and a quantity",
  doses = "a dose and a quantity",
  grid = "a quantity or a category",
  pairs = "three quantities",
  joint = "two quantities",
  plate = "two quantities and a category"
)

# The proposal of a kind; "wide" and "paired" are forms that tables have by themselves.
start_proposal <- function(kind, table, name) {
  draft <- switch(
    kind,
    traces = start_traces,
    survival = start_survival,
    map = start_map,
    answers = start_answers,
    heat = start_heat,
    series = start_series,
    doses = start_doses,
    grid = start_grid,
    pairs = start_pairs,
    joint = start_joint,
    plate = start_plate,
    wide = start_wide,
    paired = start_paired
  )
  draft(table, name)
}

# In the order that they are tried.
suiting_kinds <- c(
  "survival", "map", "answers", "wide", "paired", "traces", "heat", "doses", "series", "grid",
  "pairs", "joint"
)
suiting_proposal <- function(table, name) {
  for (kind in suiting_kinds) {
    proposal <- start_proposal(kind, table, name)
    if (!is.null(proposal)) return(c(list(kind = kind), proposal))
  }
  NULL
}

few_raw <- 10 # of fewer, every value is shown
most_measures <- 6 # quantities a figure shows at once

listed_columns <- function(columns) listed(paste0("\"", columns, "\""))

# A block of one word: its lines under its name.
started_block <- function(block, word, table, ...) {
  c(
    paste0("  ", block, ":"),
    paste0("    ", word, ":"),
    paste0("      data: ", table),
    paste0("      ", c(...))
  )
}

# Small multiples, one for each of several measures, or one panel.
started_panels <- function(table, lines, y, name) {
  if (length(y) == 1) {
    return(started_block("main", "panel", name, append(lines, paste0("y: ", yaml_word(y)), 1)))
  }
  c(
    "  main:",
    "    facets:              # one panel for each y",
    "      panel:",
    paste0("        data: ", name),
    paste0(
      "        ",
      append(lines, paste0("y: [", paste(vapply(y, yaml_word, ""), collapse = ", "), "]"), 1)
    ),
    "      per_row: 3",
    "      range_per: {y: panel}"
  )
}

measured_columns <- function(table) {
  utils::head(setdiff(table$of("measured"), totals_column(table$data)), most_measures)
}
grouping_columns <- function(table) {
  groups <- table$of("group", "code")
  n_levels <- vapply(groups, function(column) length(unique(table$data[[column]])), 0L)
  groups[n_levels >= 2 & n_levels <= most_group_levels]
}
coloured <- function(column) {
  if (length(column)) {
    paste0("colour: ", yaml_word(column[1]), "   # tells groups apart; delete it for none")
  }
}

time_column <- function(table) {
  moments <- table$of("moment")
  utils::head(c(table$of("time"), moments), 1)
}
