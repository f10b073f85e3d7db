# Positions that are said: bare numbers are in the unit that the axis shows; text with a unit, such
# as "200 g", dates, times and levels are found once the axis is known.

# One each: `values` of numbers, `seconds` of times, else missing; text: as it was said, which on an
# axis of levels is a level's name, on one of times ISO 8601 in its zone.
new_places <- function(values, seconds, text) {
  structure(list(values = values, seconds = seconds, text = text), class = "nelvat_places")
}
is_places <- function(x) inherits(x, "nelvat_places")

# Numbers, dates, times and texts, or a list of them, as places; NULL for anything else.
as_places <- function(values) {
  if (is.list(values)) {
    parts <- lapply(values, as_places)
    if (!length(parts) || any(vapply(parts, is.null, NA))) return(NULL)
    return(do.call(new_places, do.call(Map, c(list(c), parts))))
  }
  none <- rep(NA_real_, length(values))
  if (inherits(values, "Date")) return(new_places(none, none, format(values)))
  if (inherits(values, "POSIXct")) {
    kind <- list(zone = moment_zone(values), has_time = TRUE)
    return(new_places(none, as.numeric(values), moment_text(as.numeric(values), kind)))
  }
  if (is.factor(values) || is.character(values)) {
    return(new_places(none, none, as.character(values)))
  }
  # Of one end that is missing.
  if (is.numeric(values) && !is.object(values) || is.logical(values) && all(is.na(values))) {
    text <- as.character(values)
    text[is.na(values)] <- NA
    if (length(values)) return(new_places(as.numeric(values), none, text))
  }
}

# Levels as positions: codes or shown names, found once the axis is known.
new_level_places <- function(levels) structure(list(levels = levels), class = "nelvat_level_places")
is_level_places <- function(x) inherits(x, "nelvat_level_places")

# Places on the axis of a variable, as numbers: codes of levels, seconds, numbers in its unit.
# whole: are two levels the ends of what covers both?
on_axis <- function(places, variable, argument, call, whole = FALSE) {
  if (is.null(places)) return(NULL)
  if (is.numeric(places)) {
    if (is.null(variable)) return(places)
    places <- as_places(places)
  }
  kind <- variable$kind
  if (!is.null(kind) && has_levels(kind)) {
    return(at_levels(places, variable, argument, call, whole))
  }
  if (identical(kind$kind, "moment")) return(at_times(places, variable, argument, call))
  at_numbers(places, variable, argument, call)
}

# of: the direction of an axis_of() that says so.
abort_place <- function(argument, wanted, found, variable, call, of = NULL) {
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`",
        argument,
        "`",
        if (!is.null(of)) paste(" of the", of, "axis"),
        " must be ",
        wanted,
        "."
      ),
      x = paste0(
        "Found ",
        found,
        if (is.null(variable)) {
          "; the axis shows no column"
        } else {
          paste0("; column \"", variable$id, "\" is ", kind_phrase(variable$kind))
        },
        "."
      )
    ),
    call
  )
}

# Numbers are codes where all levels are numbers, but for those between levels; else they count the
# levels.
at_levels <- function(places, variable, argument, call, whole = FALSE) {
  kind <- variable$kind
  names <- plain_text(kind$level_names)
  found <- places$values
  coded <- !anyNA(suppressWarnings(as.numeric(kind$levels)))
  said <- is.na(found) | coded & found %% 1 == 0
  found[said] <- NA
  found[said] <- match(places$text[said], kind$levels)
  unknown <- is.na(found)
  found[unknown] <- match(places$text[unknown], names)
  if (anyNA(found)) {
    lacking <- places$text[is.na(found)][1]
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
  beyond <- found < 0 | found > length(kind$levels) + 1
  if (any(beyond)) {
    wanted <- paste0("a level, or a number of one, 1 to ", length(kind$levels))
    abort_place(argument, wanted, format(found[beyond][1]), variable, call)
  }
  if (whole && all(said)) range(found) + c(-0.5, 0.5) else found
}

at_times <- function(places, variable, argument, call) {
  kind <- variable$kind
  found <- places$seconds
  if (isTRUE(kind$of_day)) places$text <- on_first_day(places$text)
  said <- is.na(found) & is.na(places$values)
  text <- places$text[said]
  if (!all(is_iso_moment(text) | is.na(text)) || any(!is.na(places$values))) {
    strange <- text[!is_iso_moment(text)]
    strange <- c(places$text[!is.na(places$values)], paste0("\"", strange, "\"", recycle0 = TRUE))
    wanted <- "a date or a time, such as \"2026-03-02\""
    abort_place(argument, wanted, strange[1], variable, call)
  }
  zone <- if (isTRUE(kind$has_time)) kind$zone %||% "UTC" else "UTC"
  found[said] <- as.numeric(time_in_zone(text, zone))
  found
}

# Numbers, and numbers with a unit, which become numbers in the unit of the axis.
at_numbers <- function(places, variable, argument, call) {
  said <- is.na(places$values) & !is.na(places$text)
  numbers <- numbers_with_units(places$text[said])
  if (any(!is.na(places$seconds)) || anyNA(numbers$values)) {
    strange <- c(places$text[!is.na(places$seconds)], places$text[said][is.na(numbers$values)])[1]
    abort_place(argument, "a number", paste0("\"", strange, "\""), variable, call)
  }
  found <- places$values
  found[said] <- in_axis_unit(numbers$values, numbers$units, variable, argument, call)
  found
}

# Texts of numbers, with a unit or none: list(values, units); values are missing where they are no
# such texts.
numbers_with_units <- function(text) {
  parts <- regmatches(
    text,
    regexec(
      "^\\s*([-+\u2212]?[0-9.]+(?:[eE][-+]?[0-9]+)?)\\s*([^0-9\\s].*?)?\\s*$",
      text,
      perl = TRUE
    )
  )
  piece <- function(i) {
    vapply(parts, function(one) if (length(one) == 3) one[i] else NA_character_, "")
  }
  iso <- is_iso_moment(text)
  values <- suppressWarnings(as.numeric(sub("\u2212", "-", piece(2))))
  list(values = ifelse(iso, NA_real_, values), units = ifelse(iso, "", piece(3)))
}

# Values in units as numbers in the unit of a variable's axis; what has no unit as it is.
in_axis_unit <- function(values, units, variable, argument, call) {
  said <- units[nzchar(units)]
  if (!length(said)) return(values)
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
  for (k in which(nzchar(units) & !is.na(values))) {
    conversion <- unit_conversion(units[k], unit, call)
    values[k] <- values[k] * conversion$factor + conversion$offset
  }
  values
}

# An ink with its places on the axes of its panel.
ink_on_axes <- function(ink, variables, call) {
  # Shares of the panel.
  if (identical(ink$at, "panel")) return(ink)
  ends <- list(x = variables$x, y = variables$y[[1]])
  for (direction in c("x", "y")) {
    places <- ink[[direction]]
    if (is_places(places) || is.numeric(places)) {
      whole <- isTRUE(word_arguments(paste0("ink_", ink$ink))[[direction]]$whole)
      ink[[direction]] <- on_axis(places, ends[[direction]], direction, call, whole)
    }
  }
  for (end in intersect(c("from", "to"), names(ink))) {
    places <- ink[[end]]
    if (is.numeric(places)) places <- as_places(places)
    if (!is_places(places)) next
    each <- lapply(1:2, function(k) {
      new_places(places$values[k], places$seconds[k], places$text[k])
    })
    ink[[end]] <- unlist(
      Map(
        function(one, variable) {
          on_axis(one, variable, end, call)
        },
        each,
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
      heads <- as_places(axis$heads)
      axis$heads <- variable$kind$level_names[at_levels(heads, variable, "heads", call)]
    }
    # Of levels it is refused.
    if (has_levels(variable$kind)) return(axis)
  }
  for (field in c("range", "breaks")) {
    if (is.null(axis[[field]]) || !length(axis[[field]])) next
    values <- on_axis(axis[[field]], variable, field, call)
    axis[[field]] <- if (field == "breaks") sort(values) else rising_ends(values, call)
  }
  axis
}

# Breaks of an axis of levels are levels, by code or name; they become names, as panels of their own
# levels have only some of them.
breaks_at_levels <- function(breaks, variable, call) {
  if (!has_levels(variable$kind) || !length(breaks)) return(breaks)
  if (is.numeric(breaks)) breaks <- as_places(as.character(breaks))
  new_level_places(variable$kind$level_names[at_levels(breaks, variable, "breaks", call)])
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
