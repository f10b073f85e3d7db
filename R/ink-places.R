# Positions that are said: bare numbers are in the unit that the axis shows; text with a unit, such
# as "200 g", is converted to it once the axis is known.

# text: as it was said, which on an axis of levels is a level's name.
new_places <- function(values, units, text = paste(values, units)) {
  structure(list(values = values, units = units, text = text), class = "nelvat_places")
}
is_places <- function(x) inherits(x, "nelvat_places")

# Levels as positions: codes or shown names, found once the axis is known.
new_level_places <- function(levels) structure(list(levels = levels), class = "nelvat_level_places")
is_level_places <- function(x) inherits(x, "nelvat_level_places")

# The codes of levels that are said as positions; anything else as it is.
in_axis_levels <- function(places, variable, argument, call) {
  if (!is_level_places(places)) return(places)
  kind <- variable$kind
  if (is.null(variable) || !has_levels(kind)) {
    abort_nelvat(
      "argument",
      c(
        paste0("`", argument, "` must be a number, a date or a time."),
        x = paste0("Found \"", places$levels[1], "\", and the axis shows no levels.")
      ),
      call
    )
  }
  names <- plain_text(kind$level_names)
  codes <- match(places$levels, kind$levels)
  codes <- ifelse(is.na(codes), match(places$levels, names), codes)
  if (!anyNA(codes)) return(as.numeric(codes))
  lacking <- places$levels[is.na(codes)][1]
  abort_nelvat(
    "level",
    c(
      paste0("`", argument, "` names a level that does not exist."),
      x = paste0("Found \"", lacking, "\"."),
      offer(lacking, unique(c(kind$levels, names)), "level")
    ),
    call
  )
}

# Text of numbers with units as places; NULL where it is none. NA and bare numbers among them have
# no unit.
places_with_units <- function(text) {
  parts <- regmatches(
    text,
    regexec(
      "^\\s*([-+\u2212]?[0-9.]+(?:[eE][-+]?[0-9]+)?)\\s*([^0-9\\s].*?)?\\s*$",
      text,
      perl = TRUE
    )
  )
  ok <- lengths(parts) == 3 | is.na(text)
  if (!all(ok)) return(NULL)
  piece <- function(i) {
    vapply(parts, function(one) if (length(one) == 3) one[i] else NA_character_, "")
  }
  values <- suppressWarnings(as.numeric(sub("\u2212", "-", piece(2))))
  units <- piece(3)
  if (anyNA(values[!is.na(text)]) || !any(nzchar(stats::na.omit(units)))) return(NULL)
  new_places(values, ifelse(is.na(units), "", units), text)
}

# Places in the unit of a variable's axis, as numbers; anything else as it is.
in_axis_unit <- function(places, variable, argument, call) {
  if (!is_places(places)) return(places)
  said <- places$units[nzchar(places$units)]
  unit <- unit_of_variable(variable)
  if (is.null(unit)) {
    abort_nelvat(
      "unit",
      c(
        paste0("`", argument, "` is said in \"", said[1], "\", and its axis has no unit."),
        i = "Say it as a bare number, or give the quantity its unit in the codebook."
      ),
      call
    )
  }
  values <- places$values
  for (k in which(nzchar(places$units) & !is.na(values))) {
    conversion <- unit_conversion(places$units[k], unit, call)
    values[k] <- values[k] * conversion$factor + conversion$offset
  }
  values
}

# The places that an ink says, in the units of its panel's axes.
ink_in_axis_units <- function(ink, variables, call) {
  ends <- list(x = variables$x, y = variables$y[[1]])
  for (direction in c("x", "y")) {
    places <- ink[[direction]]
    variable <- ends[[direction]]
    # "2 h" can be a level's name.
    if (is_places(places) && !is.null(variable) && has_levels(variable$kind)) {
      places <- new_level_places(places$text)
    }
    if (is_level_places(places)) {
      ink[[direction]] <- in_axis_levels(places, variable, direction, call)
    } else if (is_places(places)) {
      ink[[direction]] <- in_axis_unit(places, variable, direction, call)
    }
  }
  for (end in intersect(c("from", "to"), names(ink))) {
    if (!is_places(ink[[end]])) next
    both <- lapply(1:2, function(k) new_places(ink[[end]]$values[k], ink[[end]]$units[k]))
    ink[[end]] <- unlist(
      Map(
        function(one, variable) {
          if (nzchar(one$units)) in_axis_unit(one, variable, end, call) else one$values
        },
        both,
        unname(ends)
      )
    )
  }
  ink
}

# An axis_of() in the unit of its variable. all: the variables of its direction, which must have one
# unit where positions have.
axis_in_its_unit <- function(axis, variable, argument, call, all = list(variable)) {
  if (is.null(axis)) return(NULL)
  units <- unique(lapply(all, unit_of_variable))
  if (length(units) > 1 && (is_places(axis$range) || is_places(axis$breaks))) {
    abort_nelvat(
      "unit",
      c(
        paste0("Positions with a unit are said for columns of several units."),
        x = paste0("`", argument, "` is for ", quoted(vapply(all, `[[`, "", "id")), "."),
        i = "Make a panel of each, or say bare numbers."
      ),
      call
    )
  }
  if (!is.null(variable)) {
    axis$breaks <- breaks_at_levels(axis$breaks, variable, call)
    if (!is.null(axis$heads) && has_levels(variable$kind)) {
      heads <- in_axis_levels(new_level_places(axis$heads), variable, "heads", call)
      axis$heads <- variable$kind$level_names[heads]
    }
  }
  for (field in c("range", "breaks")) {
    if (!is_places(axis[[field]])) next
    values <- in_axis_unit(axis[[field]], variable, field, call)
    axis[[field]] <- if (field == "breaks") sort(values) else rising_ends(values, call)
  }
  axis
}

# Breaks of an axis of levels are levels, by code or name; they become names, as panels of their own
# levels have only some of them.
breaks_at_levels <- function(breaks, variable, call) {
  if (has_levels(variable$kind) && length(breaks)) {
    if (is_places(breaks)) breaks <- new_level_places(breaks$text)
    if (is.numeric(breaks)) breaks <- new_level_places(as.character(breaks))
  }
  if (!is_level_places(breaks)) return(breaks)
  codes <- in_axis_levels(breaks, variable, "breaks", call)
  new_level_places(variable$kind$level_names[codes])
}

# What an ink says in the unit of an axis, as bare numbers: positions, and lengths such as the width
# of bins, by argument. Each ink whose arguments are such has its method.
said_on_axis <- function(ink, direction) UseMethod("said_on_axis")
#' @export
said_on_axis.default <- function(ink, direction) {
  k <- match(direction, c("x", "y"))
  places <- ink[intersect(direction, names(ink))]
  ends <- Filter(is.numeric, ink[intersect(c("from", "to"), names(ink))])
  c(places, lapply(ends, `[`, k))
}

# The columns of an ink's own that stand on the axes of its panel, as ends of intervals do.
axis_columns <- function(ink) UseMethod("axis_columns")
#' @export
axis_columns.default <- function(ink) character()

# All that is said of one axis as bare numbers, or by a formula of them.
bare_places <- function(axes, inks, direction) {
  said <- c(
    list(unclass(axes[[direction]])[c("range", "breaks", "every", "minor")]),
    lapply(inks, said_on_axis, direction)
  )
  Filter(
    function(one) is.numeric(one) || is.call(one) || is.name(one),
    unlist(said, recursive = FALSE)
  )
}

place_arguments <- c("range", "breaks", "x", "y", "from", "to")

# How what is said bare can be said: with its unit, or anew.
saying_bare <- function(bare, old, anew) {
  name <- names(bare)[1]
  said <- bare[[1]]
  numbers <- if (is.numeric(said)) format(said[!is.na(said)], trim = TRUE) else deparse(said)[1]
  c(
    x = paste0("`", name, "` is said as bare numbers: ", listed(numbers), "."),
    i = if (name %in% place_arguments && is.numeric(said)) {
      paste0("Say it with its unit: ", listed(paste0("\"", numbers, " ", old, "\"")), ".")
    } else {
      anew
    }
  )
}

# A change of the unit that an axis shows leaves bare numbers that were said on it without a
# meaning. Those that are said anew with it are meant so. margins: inks by side, of a panel that has
# some.
check_same_unit <- function(before, now, call, margins = NULL) {
  for (direction in c("x", "y")) {
    first <- function(panel) {
      if (direction == "x") panel$variables$x else panel$variables$y[[1]]
    }
    old <- unit_of_variable(first(before))
    new <- unit_of_variable(first(now))
    same_column <- identical(first(before)$id, first(now)$id)
    if (is.null(old) || is.null(new) || identical(old, new) || !same_column) next
    left <- function(ink) any(vapply(before$made$inks, identical, NA, ink))
    axis <- now$made$axes[direction]
    bare <- bare_places(
      if (identical(axis, before$made$axes[direction])) axis,
      c(Filter(left, now$made$inks), margins[[direction]]),
      direction
    )
    if (!length(bare)) next
    abort_nelvat(
      "unit",
      c(
        paste0("The ", direction, " axis would show \"", new, "\" in place of \"", old, "\"."),
        saying_bare(bare, old, paste0("Say it anew in the same change, in \"", new, "\"."))
      ),
      call
    )
  }
}

rising_ends <- function(ends, call) {
  if (!anyNA(ends) && ends[1] >= ends[2]) {
    abort_nelvat(
      "argument",
      c(
        "`range` must rise.",
        x = paste0("Found ", ends[1], " to ", ends[2], "."),
        i = "`reverse = TRUE` turns an axis round."
      ),
      call
    )
  }
  ends
}
