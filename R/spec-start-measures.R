# Drafts of figures of measures: over each other, on a map, as tiles, as shares of answers.

start_map <- function(table, name) {
  places <- table$of("place")
  is_x <- grepl("lon|east", tolower(places))
  if (sum(is_x) < 1 || sum(!is_x) < 1) return(NULL)
  colour <- utils::head(c(grouping_columns(table), table$of("measured")), 1)
  list(
    why = "Coordinates: a map of points",
    columns = c(places, colour),
    blocks = started_block(
      "main",
      "panel",
      name,
      c(
        paste0("x: ", yaml_word(places[is_x][1])),
        paste0("y: ", yaml_word(places[!is_x][1])),
        coloured(colour),
        "ink: points"
      )
    )
  )
}

start_answers <- function(table, name) {
  answers <- table$of("answer")
  if (length(answers) < 3) return(NULL)
  levels <- sort(unique(unlist(table$data[answers])))
  list(
    why = paste0("Answers of a scale in ", counted(length(answers), "column"), ": their shares"),
    columns = character(),
    long = c(
      "long:                # the answers below each other",
      paste0("  columns: [", paste(vapply(answers, yaml_word, ""), collapse = ", "), "]"),
      paste0(
        "  into: {question: {title: Question}, answer: {title: Answer, type: integer, categories: ",
        yaml_list(as.integer(levels)),
        ", categoriesOrdered: true}}"
      )
    ),
    blocks = started_block("main", "panel", name, "y: question", "colour: answer", "ink: answers")
  )
}

start_heat <- function(table, name) {
  wide <- table$of("measured")
  label <- utils::head(c(table$of("identifier", "name"), grouping_columns(table)), 1)
  if (length(wide) >= 20 && table$n <= 300 && length(label)) {
    return(
      list(
        why = paste0(
          counted(length(wide), "quantity", "quantities"),
          " of ",
          counted(table$n, "row"),
          ": a map of tiles"
        ),
        columns = label,
        long = c(
          "long:                # the quantities below each other",
          paste0(
            "  columns: {from: ",
            yaml_word(wide[1]),
            ", to: ",
            yaml_word(utils::tail(wide, 1)),
            "}"
          ),
          "  into: {measure: {title: Measure}, value: {title: Value}}"
        ),
        blocks = started_block(
          "main",
          "panel",
          name,
          "x: measure",
          paste0("y: ", yaml_word(label)),
          "colour: value",
          "ink: {tiles: {values: false}}",
          if (length(wide) > 40) "x_axis: {breaks: []}     # too many to name",
          if (table$n > 40) "y_axis: {breaks: []}"
        )
      )
    )
  }
  tiled_pairs(table, name)
}

# One value of each pair of two categories: tiles.
tiled_pairs <- function(table, name) {
  labels <- table$of("group", "name", "code", "subject")
  y <- table$of("measured")
  if (length(labels) < 2 || length(y) != 1) return(NULL)
  pair <- labels[1:2]
  n_levels <- vapply(pair, function(column) length(unique(table$data[[column]])), 0L)
  if (min(n_levels) < 3 || max(n_levels) < 5 || anyDuplicated(table$data[pair])) return(NULL)
  wider <- pair[which.min(n_levels)]
  list(
    why = paste0("One value of each \"", pair[1], "\" and \"", pair[2], "\": a map of tiles"),
    columns = c(pair, y),
    blocks = started_block(
      "main",
      "panel",
      name,
      paste0("x: ", yaml_word(wider)),
      paste0("y: ", yaml_word(setdiff(pair, wider))),
      paste0("colour: ", yaml_word(y)),
      "ink: tiles"
    )
  )
}

start_pairs <- function(table, name) {
  y <- utils::head(table$of("measured", "time", "dose", "place", "answer"), 5)
  if (length(y) < 3) return(NULL)
  groups <- grouping_columns(table)
  list(
    why = paste0("Each pair of ", counted(length(y), "quantity", "quantities")),
    columns = c(y, groups[1]),
    blocks = started_block(
      "main",
      "every_pair",
      name,
      paste0("columns: [", paste(vapply(y, yaml_word, ""), collapse = ", "), "]"),
      coloured(groups),
      "above: value            # correlations; delete it for an empty half"
    ),
    place = "main"
  )
}

start_joint <- function(table, name) {
  y <- table$of("measured", "time", "dose", "place", "answer")
  if (length(y) < 2) return(NULL)
  list(
    why = "Two quantities: one over the other, with the distribution of each",
    columns = y[1:2],
    blocks = started_block(
      "main",
      "joint",
      name,
      paste0("x: ", yaml_word(y[1])),
      paste0("y: ", yaml_word(y[2])),
      if (table$n > 50000) {
        "ink: hexagons"
      } else {
        "ink: [points, fit]     # hexagons and contours suit many points"
      },
      "# colour: a category tells groups apart"
    ),
    place = "main"
  )
}

start_plate <- function(table, name) {
  y <- table$of("measured", "time", "dose")
  groups <- grouping_columns(table)
  if (length(y) < 2 || !length(groups)) return(NULL)
  x_word <- yaml_word(y[1])
  y_word <- yaml_word(y[2])
  group_word <- yaml_word(groups[1])
  list(
    why = "Two quantities and groups, in three ways on a page",
    columns = c(y[1:2], groups[1]),
    blocks = c(
      started_block(
        "scatter",
        "panel",
        name,
        paste0("x: ", x_word),
        paste0("y: ", y_word),
        paste0("colour: ", group_word),
        "ink: points"
      ),
      started_block(
        "boxes",
        "panel",
        name,
        paste0("x: ", group_word),
        paste0("y: ", y_word),
        "ink: box"
      ),
      started_block("spread", "panel", name, paste0("x: ", x_word), "ink: histogram")
    ),
    place = "{beside: [scatter, {stacked: [boxes, spread]}], widths: [3, 2]}"
  )
}
