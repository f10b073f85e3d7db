# What marks that stand for no data say, in words, for the legend: where a line stands, what is
# shaded. An ink gives it as `says` of what it trained.

# "loaf rise 20 mm", "loaf rise 18 to 22 mm"; NULL on an axis of levels.
said_place <- function(variable, values, between = FALSE) {
  if (is.null(variable) || is.null(values) || variable$supplied) return(NULL)
  kind <- variable$kind
  if (has_levels(kind)) {
    # Of what covers levels whole, the first and the last.
    if (between && all(values %% 1 == 0.5)) values <- unique(values + c(0.5, -0.5))
    # Beside and between levels there is no name.
    if (!all(values %in% seq_along(kind$levels))) return(NULL)
    text <- plain_text(kind$level_names[values])
  } else {
    text <- vapply(values, function(value) said_value_text(kind, value), "")
  }
  unit <- kind$show %||% kind$unit
  # In a matrix an axis is of one variable after the other, and has no name of its own.
  paste0(
    if (variable$id != "value") paste0(said_name(variable), " "),
    if (between) paste(text, collapse = " to ") else listed(text),
    if (!is.null(unit) && nzchar(unit)) paste0("\u00a0", plain_text(unit))
  )
}

# Are two ends on an axis of levels those of one slot?
covers_one_level <- function(variable, ends) {
  length(ends) == 2 && has_levels(variable$kind) && diff(ends) == 1 && ends[1] %% 1 == 0.5
}

said_value_text <- function(kind, value) {
  if (kind$kind != "moment") return(number_text_each(value, 4))
  time_said(value, kind)
}

# Phrases that are there, as one, with the panels that an ink is for; NULL for none.
said_phrases <- function(ink, ...) {
  phrases <- c(...)
  if (!length(phrases)) return(NULL)
  paste0(
    paste(phrases, collapse = ", "),
    if (!is.null(ink$said_where)) paste(" where", ink$said_where)
  )
}
