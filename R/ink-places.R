# Positions that are said: bare numbers are in the unit that the axis shows; text with a unit, such
# as "200 g", is converted to it once the axis is known.

new_places <- function(values, units) {
  structure(list(values = values, units = units), class = "nelvat_places")
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
  new_places(values, ifelse(is.na(units), "", units))
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
    if (is_level_places(ink[[direction]])) {
      ink[[direction]] <- in_axis_levels(ink[[direction]], ends[[direction]], direction, call)
    }
    if (is_places(ink[[direction]])) {
      ink[[direction]] <- in_axis_unit(ink[[direction]], ends[[direction]], direction, call)
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

# An axis_of() in the unit of its variable.
axis_in_its_unit <- function(axis, variable, argument, call) {
  if (is.null(axis)) return(NULL)
  for (field in c("range", "breaks")) {
    if (!is_places(axis[[field]])) next
    values <- in_axis_unit(axis[[field]], variable, field, call)
    axis[[field]] <- if (field == "breaks") sort(values) else rising_ends(values, call)
  }
  axis
}

# Positions without a unit, by argument, that a panel's axes and inks say in one direction.
bare_places <- function(axes, inks, direction) {
  of_axis <- axes[[direction]][c("range", "breaks")]
  of_inks <- lapply(
    Filter(function(ink) ink_traits(ink)$summarises == "nothing", inks),
    function(ink) {
      k <- match(direction, c("x", "y"))
      ends <- Filter(is.numeric, ink[c("from", "to")])
      c(list(ink[[direction]]), lapply(ends, `[`, k))
    }
  )
  Filter(is.numeric, c(of_axis, unlist(of_inks, recursive = FALSE)))
}

# A change of the unit that an axis shows leaves bare positions without a meaning.
check_same_unit <- function(before, now, axes, inks, call) {
  for (direction in c("x", "y")) {
    first <- function(variables) if (direction == "x") variables$x else variables$y[[1]]
    old <- unit_of_variable(first(before))
    new <- unit_of_variable(first(now))
    bare <- bare_places(axes, inks, direction)
    same_column <- identical(first(before)$id, first(now)$id)
    if (is.null(old) || is.null(new) || identical(old, new) || !length(bare) || !same_column) next
    said <- paste0("\"", format(bare[[1]][!is.na(bare[[1]])], trim = TRUE), " ", old, "\"")
    abort_nelvat(
      "unit",
      c(
        paste0("The ", direction, " axis would show \"", new, "\" in place of \"", old, "\"."),
        x = paste0(
          "Positions on it are said as bare numbers: ",
          listed(format(bare[[1]], trim = TRUE)),
          "."
        ),
        i = paste0("Say them with their unit: ", listed(said), ".")
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
