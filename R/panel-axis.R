#' What one axis shall be
#'
#' Where the codebook and the data do not say it. Given to `x_axis` and `y_axis` of
#' [panel()].
#'
#' @eval argument_lines("axis_of")
#' @return A description of an axis.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits.
#' @examples
#' panel(study("probe"), x = time, y = core, x_axis = axis_of(every = "12 hours"), y_axis =
#' axis_of(range = c(20, 40)), ink_line())
#' @export
axis_of <- function(
  range = NULL,
  every = NULL,
  minor = NULL,
  breaks = NULL,
  format = NULL,
  title = NULL,
  reverse = FALSE,
  padding = NULL,
  grid = FALSE,
  labels = NULL,
  counts = FALSE,
  heads = NULL,
  also = NULL,
  ...
) {
  structure(said_arguments("axis_of", ...), class = "nelvat_axis")
}

#' @export
word_rows.axis_of <- function(word) {
  list(
    range = ends_type(
      says = c(
        'Two ends in the unit that the axis shows, or with one of their own, such as `"200',
        'g"` (dates and times too); `NA` leaves an end to the data. Values beyond are',
        "counted in the facts."
      )
    ),
    every = a_step(
      says = c(
        'Step between breaks: a number, or for times such as `"6 hours"`, `"2 days"`, `"1',
        'month"`; of levels, every how many have their name.'
      )
    ),
    minor = a_step(says = "Step between minor ticks, likewise."),
    breaks = breaks_type(
      says = c(
        "Positions of breaks, in place of steps, said as `range` is; or the levels that have",
        "their name, by code or shown name. `character()`: none."
      )
    ),
    format = format_type(
      says = "For times a pattern as in [strptime()]; for numbers the number of decimals."
    ),
    title = a_text(or_null = TRUE, says = 'Title, with inline markup; `""` for none.'),
    reverse = a_flag(says = "Run the other way?"),
    padding = a_number(
      0,
      2,
      or_null = TRUE,
      says = "Room beyond the data at each end, as a share of the range."
    ),
    grid = either(
      a_flag(),
      a_choice("minor"),
      says = c(
        'Faint lines at the breaks? `"minor"`: between them too, at the minor ticks or half',
        "way."
      )
    ),
    labels = a_choice(
      names(label_treatments),
      or_null = TRUE,
      says = c(
        'What tick text shall do: `"as is"`, `"wrap"`, `"tilt"`, `"upright"` or, for names, stand',
        'apart with `"leaders"` to their ticks; `NULL`: what costs least of all that fit.'
      )
    ),
    counts = a_flag(
      says = c(
        "Write under each level how many rows stand behind its marks, as `n = 12`; where",
        "panels that share the axis differ, from the least to the most."
      )
    ),
    heads = texts(
      or_null = TRUE,
      says = c(
        "Levels on y that head those after them, as in the rows of a forest: their names are",
        "bold, those headed are set in, and all begin on one line."
      )
    ),
    also = a_text(
      or_null = TRUE,
      says = c(
        'A second scale of the same axis on the other side of the panel: a unit, such as',
        '`"\u00b0F"`, or what it is called and how it follows from the column, as in',
        '`"Energy (eV) = 1240 / wavelength"`. The expression takes the values that the axis',
        "shows, and gives each another value."
      )
    )
  )
}

sorted_places <- function(breaks, call) {
  # None at all are asked for.
  if (!length(breaks)) return(numeric())
  positions <- check_places(breaks, "breaks", call = call)
  if (is.numeric(positions)) sort(positions) else positions
}

check_ends <- function(range, call = rlang::caller_env()) {
  if (is.null(range)) return(NULL)
  if (is.list(range)) range[vapply(range, is.null, NA)] <- NA
  places <- as_places(range)
  if (length(range) != 2 || is.null(places) || all(is.na(places$text))) {
    abort_nelvat(
      "argument",
      c(
        "`range` must be two ends, of which one can be NA.",
        x = paste0("Found ", describe_value(range), ".")
      ),
      call
    )
  }
  check_places(as.list(range)[!is.na(places$text)], "range", call = call)
  if (any(is.na(places$values) & !is.na(places$text))) return(places)
  rising_ends(places$values, call)
}

check_axis_format <- function(format, call) {
  if (
    (rlang::is_string(format) && grepl("%", format, fixed = TRUE)) || (
      is.numeric(format) && length(format) == 1 && format >= 0 && format <= 12
    )
  ) return(format)
  abort_nelvat(
    "argument",
    c(
      "`format` must be a pattern of time such as \"%H:%M\", or a number of decimals.",
      x = paste0("Found ", describe_value(format), ".")
    ),
    call
  )
}

# An axis as it was asked for. What an axis_of() says of steps and text waits for the
# breaks.
apply_axis_of <- function(axis, asked) {
  if (is.null(asked)) return(axis)
  range <- sort(axis$range)
  turned <- xor(axis$turned, asked$reverse)
  transform <- axis_transform(axis$transform)
  if (!axis$slots && (!is.null(asked$range) || !is.null(asked$padding))) {
    ends <- transform$forward(asked$range %||% c(NA, NA))
    ends <- if (isTRUE(ends[1] > ends[2])) rev(ends) else ends
    fresh <- if (is.null(asked$padding)) range else repadded(range, asked$padding, axis$grounded)
    range <- ifelse(is.na(ends), fresh, ends)
  }
  changed(
    axis,
    title = asked$title %||% axis$title,
    name = if (is.null(asked$title) || !nzchar(trimws(asked$title))) axis$name else asked$title,
    range = if (turned) rev(range) else range,
    turned = turned,
    asked = asked[
      c("every", "minor", "breaks", "format", "grid", "labels", "counts", "heads", "also")
    ]
  )
}

# A range with other room at its ends; an end that stands on zero keeps it.
repadded <- function(range, padding, grounded) {
  inner <- diff(range) / (1 + value_padding * if (grounded) 1 else 2)
  low <- if (grounded) range[1] else range[1] + inner * value_padding
  c(if (grounded) range[1] else low - inner * padding, low + inner * (1 + padding))
}

breaks_type <- function(says) {
  one <- list(anyOf = list(list(type = "number"), list(type = "string")))
  own_type(
    function(value, argument, call) sorted_places(value, call),
    one_or_more(one),
    "numbers, dates, times, texts with a unit, or levels",
    says = says
  )
}

format_type <- function(says) {
  own_type(
    function(value, argument, call) check_axis_format(value, call),
    text_or_number,
    "a pattern of time such as \"%H:%M\", or a number of decimals",
    says = says
  )
}
