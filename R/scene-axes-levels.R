# Levels of axes: how many slots they have, what is counted at each.

# Category axes of one direction get as many slots as that of most levels, so that slots
# are as wide in all panels.
even_slots <- function(axes) {
  most <- function(direction) {
    max(
      0,
      vapply(
        axes,
        function(axis) if (axis$direction == direction) length(axis$slot_texts) else 0L,
        0L
      )
    )
  }
  slots <- c(x = most("x"), y = most("y"))
  lapply(axes, function(axis) {
    if (!axis$slots) return(axis)
    ends <- sort(axis_transform(axis$transform)$forward(slot_range(slots[[axis$direction]])))
    changed(axis, range = if (axis$turned) rev(ends) else ends)
  })
}

# Tick text of levels with the rows behind each, where axis_of(counts = TRUE) asks for them.
with_counted_levels <- function(axes, areas, accounts, font) {
  lapply(seq_along(axes), function(k) {
    axis <- axes[[k]]
    if (!axis$slots || !isTRUE(axis$asked$counts)) return(axis)
    column <- paste0(axis$direction, "_axis")
    ids <- areas$id[areas[[column]] %in% k & areas$role != "marginal"]
    n <- level_counts(accounts, ids, axis)
    changed(axis, slot_texts = headed_texts(axis, font, paste0("\n", n)))
  })
}

# Tick text of levels of which some head others, where axis_of(heads = ) says so.
with_heads <- function(axis, font) {
  if (is.null(axis$asked$heads) || !axis$slots) return(axis)
  changed(axis, slot_texts = headed_texts(axis, font))
}

# more: what is written after each name. Before the first head nothing is set in.
headed_texts <- function(axis, font, more = "") {
  heads <- axis$slot_names %in% axis$asked$heads
  names <- ifelse(heads, paste0("**", axis$slot_names, "**"), axis$slot_names)
  measured <- measure_texts(paste0(names, more), font)
  headed <- !heads & cumsum(heads) > 0
  measured[headed] <- lapply(measured[headed], set_in, head_indent_em)
  measured
}
head_indent_em <- 1.2

# "n = 12" for each level of an axis; "n = 10\u201312" where the areas it serves differ.
level_counts <- function(accounts, ids, axis) {
  accounts_of_axis <- accounts[accounts$area %in% ids & accounts$role != "marginal", ]
  level <- accounts_of_axis[[paste0(axis$direction, "_level")]]
  vapply(
    plain_text(axis$slot_names),
    function(name) {
      of_level <- accounts_of_axis[level %in% name, ]
      each <- vapply(
        ids,
        function(id) {
          of_area <- of_level$area == id
          max(0L, as.integer(tapply(of_level$used[of_area], of_level$layer[of_area], sum)))
        },
        0L
      )
      paste0("n = ", paste(unique(range(each)), collapse = "\u2013"))
    },
    ""
  )
}

# Codes of the levels that the rows of some panels have.
levels_shown <- function(layers, ids, direction) {
  table <- Filter(function(layer) layer$role == "panel", layers)
  table <- table[[length(table)]]$table
  shown <- sort(unique(table[[direction]][table$panel %in% ids]))
  if (length(shown)) shown
}

# A variable with only some of its levels.
with_levels <- function(variable, codes) {
  if (is.null(codes) || length(codes) == length(variable$kind$levels)) return(variable)
  changed(
    variable,
    kind = changed(
      variable$kind,
      level_names = variable$kind$level_names[codes],
      levels = variable$kind$levels[codes]
    )
  )
}
