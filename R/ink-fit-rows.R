# What `ink_fit()` takes: its rows of the table of words.

#' @export
word_rows.ink_fit <- function(word) {
  list(
    model = model_type(
      says = c(
        'A straight `"line"`; one through the origin, `"proportional"`; a `"polynomial"` of',
        '`degree`; `"robust"`, a line that single values far off do not pull; `"loess"`, a',
        'local regression over `span`; `"exponential"`, a e^(rate x); `"power"`, a',
        'x^exponent; `"logistic"`, top / (1 + e^(-rate (x - middle))); `"dose-response"`,',
        "from bottom to top with the dose of half the effect, EC50, and slope;",
        '`"michaelis-menten"`, Vmax x / (Km + x); `"binomial"`, logistic regression of y',
        "from 0 to 1; or a formula such as `y ~ a + b * exp(-x / c)` (or the same as text),",
        "fitted from `start`."
      )
    ),
    degree = a_number(1, 9, whole = TRUE, says = "Degree of a polynomial."),
    band = a_number(
      0.5,
      0.9999,
      or_null = TRUE,
      says = "Level of the band and of the coefficients' intervals, or `NULL` for no band."
    ),
    equation = a_flag(says = "Write the equation or the coefficients, R^2 and p?"),
    weight = pt_weight(says = "Line weight in points."),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    group = a_column(
      or_null = TRUE,
      says = "A column: a fit for each of its values. The `group` of the panel parts no fits."
    ),
    interval = a_choice(
      c("confidence", "prediction"),
      says = c(
        'What the band holds: the mean, as a `"confidence"` interval; or a further value, as',
        'a `"prediction"` interval.'
      )
    ),
    span = a_number(
      0.2,
      1,
      says = "Share of the values that a local regression looks at, 0.2 to 1."
    ),
    parameters = a_number(
      3,
      4,
      whole = TRUE,
      or_null = TRUE,
      says = c(
        "Of a logistic or a dose-response curve: 3, or 4 with a bottom that is not zero.",
        "`NULL`: 3 for logistic, 4 for dose-response."
      )
    ),
    start = start_type(
      says = "Where a formula's parameters begin: such as `list(a = 1, b = 2, c = 10)`."
    ),
    weigh_by = a_column(
      or_null = TRUE,
      says = c(
        "A column: the weight of each row, such as 1 / variance; for a binomial fit the",
        "number of trials."
      )
    )
  )
}

#' @export
word_rows.ink_residuals <- function(word) {
  word_arguments("ink_fit")[
    c("model", "degree", "colour", "span", "parameters", "start", "weigh_by")
  ]
}
