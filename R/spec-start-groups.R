# Drafts of figures that compare groups, doses and times.

start_series <- function(table, name) {
  time <- time_column(table)
  y <- measured_columns(table)
  if (!length(time) || !length(y)) return(NULL)
  # Times that come again and again within a group are summed up, not joined.
  colour <- utils::head(grouping_columns(table), 1)
  parted <- lapply(c(time, colour), function(column) as.character(table$data[[column]]))
  again <- anyDuplicated(as.data.frame(parted, col.names = seq_along(parted))) > 0
  if (again && length(unique(table$data[[time]])) > table$n / 1.2) return(NULL)
  list(
    why = if (again) {
      paste0("Several values at each \"", time, "\": their means with standard errors, joined")
    } else {
      paste0("One value at each \"", time, "\"", if (length(colour)) " and group", ": a line")
    },
    columns = c(time, y, colour),
    blocks = started_panels(
      table,
      c(
        paste0("x: ", yaml_word(time)),
        coloured(colour),
        if (again) {
          "ink: {line: {centre: mean, band: se, markers: true}}"
        } else {
          "ink: line               # points and step suit, too"
        }
      ),
      y,
      name
    )
  )
}

start_doses <- function(table, name) {
  dose <- utils::head(table$of("dose"), 1)
  y <- measured_columns(table)
  if (!length(dose) || !length(y)) return(NULL)
  colour <- utils::head(grouping_columns(table), 1)
  n_doses <- length(unique(table$data[[dose]]))
  a_dose <- table$n / n_doses / (if (length(colour)) length(unique(table$data[[colour]])) else 1)
  list(
    why = paste0(
      "\"",
      dose,
      "\" was set at ",
      counted(n_doses, "value"),
      ": ",
      if (a_dose < few_raw) "every value, with the means joined" else "means with their errors"
    ),
    columns = c(dose, y, colour),
    blocks = started_panels(
      table,
      c(
        paste0("x: ", yaml_word(dose)),
        coloured(colour),
        paste0(
          "ink: [",
          if (a_dose < few_raw) "points, ",
          "{line: {centre: mean}}",
          if (a_dose >= few_raw) ", {centre: {error: se}}",
          "]"
        )
      ),
      y,
      name
    )
  )
}

start_grid <- function(table, name) {
  groups <- grouping_columns(table)
  y <- measured_columns(table)
  if (!length(groups) && !length(y)) return(NULL)
  one <- function(why, column, ...) {
    list(why = why, columns = column, blocks = started_block("main", "panel", name, ...))
  }
  if (!length(y)) {
    return(
      one(
        "Categories only: their counts",
        groups[1],
        paste0("x: ", yaml_word(groups[1])),
        "ink: bars"
      )
    )
  }
  if (!length(groups)) {
    if (length(y) > 1) return(NULL)
    return(
      one(
        "One quantity: its distribution",
        y,
        paste0("x: ", yaml_word(y)),
        "ink: histogram          # density suits, too"
      )
    )
  }
  cells <- table$data[utils::head(groups, 2)]
  n_cell <- table$n / max(1, nrow(unique(cells)))
  list(
    why = paste0(
      listed_columns(y),
      " compared between groups, about ",
      counted(round(n_cell), "value"),
      " in each: ",
      if (n_cell < 2) "bars" else if (n_cell < few_raw) "every value, with the means" else "boxes"
    ),
    columns = c(groups[seq_len(min(2, length(groups)))], y),
    blocks = started_panels(
      table,
      c(
        paste0("x: ", yaml_word(groups[1])),
        coloured(groups[-1]),
        if (n_cell < 2) {
          "ink: bars"
        } else if (n_cell < few_raw) {
          "ink: [dots, {centre: {error: ci}}]   # with 95 % intervals"
        } else {
          "ink: box           # bars, dots, violin and swarm suit, too"
        },
        if (length(groups) > 2) {
          paste0("# Or, with one y, a panel a level: across: ", yaml_word(groups[3]))
        }
      ),
      y,
      name
    )
  )
}

# Replicates, or times, in columns beside each other.
start_wide <- function(table, name) {
  runs <- wide_runs(table$guesses)
  other <- setdiff(table$of("measured"), unlist(lapply(runs, `[[`, "columns")))
  if (length(runs) != 1 || length(other) > 2) return(NULL)
  run <- runs[[1]]
  if (length(run$columns) > 12) return(NULL)
  groups <- intersect(grouping_columns(table), table$of("group"))
  label <- utils::head(c(groups, table$of("identifier", "name", "dose", "time")), 1)
  if (!length(label)) return(NULL)
  replicate <- grepl("^(r|rep|repl|replicate|run|repeat)$", tolower(trimws(run$stem)))
  value <- if (replicate) "value" else column_phrase(run$stem)
  list(
    why = paste0(
      listed_columns(run$columns),
      " hold the same thing",
      if (replicate) " of replicates",
      ": put below each other, every value with the means of \"",
      label,
      "\""
    ),
    columns = label,
    long = c(
      "long:                # the columns below each other",
      paste0("  columns: [", paste(vapply(run$columns, yaml_word, ""), collapse = ", "), "]"),
      paste0(
        "  into: {",
        if (replicate) "replicate: {title: Replicate}" else "number: {title: Number}",
        ", value: {title: ",
        yaml_word(first_upper(value)),
        "}}"
      )
    ),
    blocks = started_block(
      "main",
      "panel",
      name,
      paste0("x: ", yaml_word(label)),
      "y: value",
      if (label %in% table$of("dose", "time")) {
        "ink: [points, {line: {centre: mean}}]"
      } else {
        "ink: [dots, {centre: {error: ci}}]   # with 95 % intervals"
      }
    )
  )
}
