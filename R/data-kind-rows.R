# What the kinds take: their rows of the table of words.

shown_name <- function() {
  a_text(
    or_null = TRUE,
    says = c(
      "Shown name, with inline markup (`*italic*`, `^super^`, `~sub~`). Without one the column's",
      'name is tidied: `starter_age` becomes "Starter age".'
    )
  )
}
unit_beside_name <- function() {
  a_text(
    or_null = TRUE,
    says = c(
      'Unit, shown in parentheses after the name, with the same markup: `"mm^2^"`,',
      '`"umol m^-2^ s^-1^"`.'
    )
  )
}

#' @export
word_rows.quantity <- function(word) {
  list(
    name = shown_name(),
    unit = unit_beside_name(),
    show = a_text(
      or_null = TRUE,
      says = c(
        "Unit to show in place of `unit`; values are converted. SI prefixes and common units,",
        "alone or compound, are known."
      )
    ),
    count = a_flag(says = "Is it a count? Its axis then breaks at whole numbers only.")
  )
}

#' @export
word_rows.category <- function(word) {
  list(
    name = shown_name(),
    order = own_type(
      check_order,
      ref_to("order"),
      "levels, or a rule such as `by_number()`",
      says = c(
        "Levels in the order to show them, or a rule: [by_appearance()], [by_number()],",
        "[by_statistic()], [by_likeness()]. Without one: the order of `names`, of a factor's",
        "levels, increasing numbers, else first appearance."
      )
    ),
    names = own_type(
      check_level_names,
      list(type = "object", additionalProperties = list(type = "string")),
      "names of levels by code",
      says = c(
        'Shown names of levels, as `c(code = "Shown name")`. Every value in the data must then',
        "have one."
      )
    ),
    colours = own_type(
      check_level_colours,
      list(anyOf = list(open_map(text_schema), array_of(text_schema))),
      "colours",
      says = "Colours of levels, named by level or in level order."
    ),
    unit = unit_beside_name(),
    missing = a_text(says = "Name of the level for missing values, where they are shown as one.")
  )
}

#' @export
word_rows.ordinal <- word_rows.category

#' @export
word_rows.moment <- function(word) {
  list(
    name = shown_name(),
    format = a_text(
      or_null = TRUE,
      says = "Format of dates and times in the data, as in [strptime()]. ISO 8601 needs none."
    ),
    zone = own_type(
      function(value, argument, call) check_zone(value, call),
      list(type = "string"),
      'a time zone such as "Europe/Oslo"',
      says = c(
        "Time zone of times that bear no offset, such as `\"Europe/Oslo\"`, and that the axis",
        "shows. `NULL`: UTC."
      )
    )
  )
}

# What they are of is seen when the column is.
check_level_colours <- function(value, argument, call) {
  given <- unlist(value)
  bad <- which(
    !grepl("^#([0-9A-Fa-f]{6}|[0-9A-Fa-f]{8})$", given) & !given %in% grDevices::colors()
  )
  if (is.character(given) && !length(bad)) return(value)
  abort_nelvat(
    "level",
    c(
      paste0("`", argument, "` must be colours."),
      x = paste0("Found ", describe_value(if (length(bad)) given[bad[1]] else given), "."),
      i = "Colours are such as \"#AA3333\" or \"grey40\"."
    ),
    call
  )
}

check_level_names <- function(value, argument, call) {
  if (is.atomic(value) && all(rlang::have_name(value))) return(value)
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be such as `c(code = \"Shown name\")`."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call
  )
}
