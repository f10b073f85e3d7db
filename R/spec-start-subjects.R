# Drafts of figures of subjects: followed over time, until something happens, before and after.

start_traces <- function(table, name) {
  time <- time_column(table)
  subject <- utils::head(table$of("subject"), 1)
  y <- setdiff(measured_columns(table), constant_within(table, measured_columns(table), subject))
  if (!length(time)) time <- utils::head(table$of("dose"), 1)
  if (!length(subject) || !length(time) || !length(y)) return(NULL)
  colour <- constant_within(table, grouping_columns(table), subject)
  list(
    why = paste0(
      "Each \"",
      subject,
      "\" was measured over \"",
      time,
      "\": a line each",
      if (length(colour)) paste0(", coloured by \"", colour[1], "\"")
    ),
    columns = c(subject, time, y, colour[1]),
    blocks = started_panels(
      table,
      c(
        paste0("x: ", yaml_word(time)),
        paste0("group: ", yaml_word(subject)),
        coloured(colour),
        "ink: {line: {weight: 0.5, markers: true}}   # points suit, too"
      ),
      y,
      name
    )
  )
}

# Groups that do not change within a subject.
constant_within <- function(table, groups, subject) {
  if (!length(subject)) return(character())
  Filter(
    function(column) {
      nrow(unique(table$data[c(subject, column)])) == length(unique(table$data[[subject]]))
    },
    groups
  )
}

start_survival <- function(table, name) {
  event <- utils::head(table$of("event"), 1)
  measured <- table$of("time", "measured")
  timed <- vapply(measured, function(one) is_called(table$guesses[[one]]$fact, "time"), NA)
  time <- utils::head(c(measured[timed], setdiff(measured, event)), 1)
  if (!length(event) || !length(time)) return(NULL)
  colour <- utils::head(grouping_columns(table), 1)
  happened <- happened_when(table$data[[event]])
  list(
    why = paste0(
      "\"",
      event,
      "\" says whether something happened, \"",
      time,
      "\" when: the share without it"
    ),
    columns = c(time, event, colour),
    blocks = started_block(
      "main",
      "panel",
      name,
      c(
        paste0("x: ", yaml_word(time)),
        coloured(colour),
        paste0(
          "ink: {survival: {status: ",
          yaml_word(event),
          if (!is.null(happened)) paste0(", event: ", happened),
          "}}"
        )
      )
    )
  )
}

# The level that means that it happened; NULL for 0 and 1, true and false.
happened_when <- function(values) {
  present <- unique(values[!is.na(values)])
  if (is.logical(present) || is.numeric(present) && all(present %in% 0:1)) return(NULL)
  if (is.numeric(present)) return(paste0("\"", max(present), "\""))
  likely <- grepl("dead|death|died|event|fail|yes|relapse|stale", tolower(present))
  yaml_word(as.character(present)[which.max(likely)])
}

# The same things before and after: lines between.
start_paired <- function(table, name) {
  pair <- paired_columns(table$guesses)
  subject <- utils::head(table$of("identifier", "subject"), 1)
  if (!is.null(pair) && length(subject)) {
    colour <- utils::head(grouping_columns(table), 1)
    return(
      list(
        why = paste0(
          listed_columns(pair$columns),
          " are of the same \"",
          subject,
          "\": a line between each pair"
        ),
        columns = c(subject, colour),
        long = c(
          "long:                # the pair below each other",
          paste0(
            "  columns: [",
            paste(vapply(pair$columns, yaml_word, ""), collapse = ", "),
            "]"
          ),
          "  into: {when: {title: \"\"}, value: {title: Value}}"
        ),
        blocks = started_block(
          "main",
          "panel",
          name,
          "x: when",
          "y: value",
          coloured(colour),
          paste0("ink: [{line: {group: ", yaml_word(subject), ", weight: 0.4}}, points]")
        )
      )
    )
  }
  paired_rows(table, name)
}

# Two rows a subject, of two groups.
paired_rows <- function(table, name) {
  subject <- utils::head(table$of("subject"), 1)
  y <- measured_columns(table)
  if (!length(subject) || !length(y) || length(time_column(table))) return(NULL)
  for (column in grouping_columns(table)) {
    cells <- table$data[c(subject, column)]
    paired <- length(unique(cells[[column]])) == 2 && !anyDuplicated(cells) &&
      all(table(as.character(cells[[1]])) == 2)
    if (!paired) next
    return(
      list(
        why = paste0(
          "Each \"",
          subject,
          "\" once in both of \"",
          column,
          "\": a line between each pair"
        ),
        columns = c(subject, column, y),
        blocks = started_panels(
          table,
          c(
            paste0("x: ", yaml_word(column)),
            paste0("ink: [{line: {group: ", yaml_word(subject), ", weight: 0.4}}, points]")
          ),
          y,
          name
        )
      )
    )
  }
  NULL
}
