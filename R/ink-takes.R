# Types of arguments that only inks have.

# Positions on an axis: numbers, dates, times, levels, texts with a unit. n: how many; NULL for any
# number; whole: do two levels cover their slots?
places <- function(n = NULL, whole = FALSE, says = "") {
  one <- list(anyOf = list(list(type = "number"), list(type = "string")))
  several <- c(
    list(type = "array", items = one),
    if (!is.null(n)) list(minItems = n, maxItems = n)
  )
  type <- own_type(
    function(value, argument, call) check_places(value, argument, n, call),
    if (identical(n, 2)) {
      several
    } else if (identical(n, 1)) {
      one
    } else {
      list(anyOf = list(one, several))
    },
    paste0(
      if (is.null(n)) "numbers" else counted(n, "number"),
      ", dates, times, levels or texts with a unit"
    ),
    says = says
  )
  changed(type, whole = whole)
}

# A length along an axis: a number, or a step of time.
a_step <- function(says = "") {
  own_type(
    function(value, argument, call) check_step(value, argument, call),
    list(anyOf = list(list(type = "number"), list(type = "string"))),
    "a number above 0, or a step of time such as \"6 hours\"",
    says = says
  )
}

gap_type <- function(says) {
  own_type(
    function(value, argument, call) {
      if (isFALSE(value)) FALSE else check_step(value, argument, call)
    },
    list(anyOf = list(list(type = "number"), list(type = "string"), list(const = FALSE))),
    "a number above 0, a step of time, or false",
    says = says
  )
}

a_colour <- function(says = "") {
  own_type(
    function(value, argument, call) check_colour(value, call),
    list(type = "string"),
    "a colour",
    says = says
  )
}

# here: where it is not given, a figure file means its own folder.
a_path <- function(or_null = FALSE, here = FALSE, says = "") {
  new_type("path", says, or_null = or_null, here = here)
}

bandwidth_type <- function(says) {
  either(a_number(1e-300), a_choice(names(bandwidth_rules)), says = says)
}

# What fits take: a model's word or a formula, and where its parameters begin.
model_type <- function(says) {
  own_type(
    function(value, argument, call) {
      if (inherits(value, "formula")) return(value)
      if (rlang::is_string(value) && grepl("~", value, fixed = TRUE)) return(value)
      check_choice(value, fit_models, argument, call)
    },
    list(anyOf = list(list(enum = as.list(fit_models)), list(type = "string", pattern = "~"))),
    "a model's word, or a formula such as `y ~ a + b * x`",
    FALSE,
    says = says
  )
}
start_type <- function(says) {
  new_type(
    "mapping",
    says,
    or_null = TRUE,
    schema = list(
      type = "object",
      additionalProperties = list(type = "number")
    ),
    words = "a number for each parameter"
  )
}

formula_type <- function(says) {
  own_type(
    function(value, argument, call) right_side(value, argument, character(), call),
    list(type = "string"),
    "a formula such as `y ~ 2 * x`",
    FALSE,
    says = says
  )
}

all_errors <- function() union(errors_of("mean"), errors_of("median"))

# What marks that are said by their positions have in common.
mark_rows <- function(n = NULL) {
  position <- places(
    n,
    identical(n, 2),
    says = c(
      'Positions in the unit that the axis shows, or with one of their own, such as `"200',
      'g"`; dates and times, which as text are in the zone of the axis; levels, by code or',
      "name. For a rule one or more, for a note one, for a shade or a region two ends, of",
      'which levels are covered whole. For a note at `"panel"`, shares of the panel, 0 to 1',
      "from the lower left."
    )
  )
  list(
    x = position,
    y = position,
    colour = a_colour(says = "A colour; `NULL` for the house's."),
    weight = pt_weight(FALSE, says = "Line weight in points."),
    where = a_condition(
      says = c(
        "A condition: the mark is drawn only in panels that hold a row for which it is true,",
        'such as `flour == "rye"`; `NULL`: in all.'
      )
    )
  )
}
